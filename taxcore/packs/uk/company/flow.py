"""A company's return as a picture: profits by kind, what comes off them, what is charged, and what is owed or repaid."""

from taxcore.engine import Picture, Stream

_PROFITS = (
    ("net_trading", "Trading profit"), ("interest", "Interest"), ("property", "Lettings"), ("other", "Other income"),
    ("net_gains", "Gains"),
)  # fmt: skip


def flow(result):
    """Wells and streams of a computed return. Tax on loans comes from no profit: it is a source of its own."""
    run, picture = result.run, Picture()
    form = run.form("uk.ct600")
    for name, label in _PROFITS:
        picture.income_of(name, label, getattr(form, name), form.address(name))
    picture.well("income", 1, "All profits", form.profits, form.address("profits"))
    off = form.profits - form.taxable
    picture.off("income", "deductions", 2, "Losses, donations, group relief", off, form.address("deductions"))
    picture.on("income", "taxable", 2, "Chargeable", form.taxable, form.address("taxable"))
    if form.chargeable > 0:
        picture.well("tax", 3, "Corporation tax", form.chargeable, form.address("chargeable"))
        picture.streams += [Stream("taxable", "tax", form.chargeable), Stream("tax", "charged", form.chargeable)]
    if form.loans_tax > 0:
        picture.well("loans", 3, "Tax on loans", form.loans_tax, form.address("loans_tax"), "source")
        picture.streams.append(Stream("loans", "charged", form.loans_tax))
    picture.well("charged", 4, "All that is charged", form.charged, form.address("charged"))
    paid = form.charged - form.owed
    picture.off("charged", "paid", 5, "Taken off and paid already", paid, form.address("deducted"))
    word, end = ("to pay", "owed") if form.owed > 0 or not form.repaid else ("repayment", "repaid")
    amount = getattr(form, end)
    picture.well("end", 5, f"HMRC, {word}", amount, form.address(end), "end")
    if end == "owed" and amount > 0:
        picture.streams.append(Stream("charged", "end", amount))
    if end == "repaid" and amount > 0:
        picture.well("beyond", 4, "Paid beyond it", amount, form.address("repaid"), "source")
        picture.streams.append(Stream("beyond", "end", amount))
    return picture.made()
