"""The British return as a picture: income by kind and gains, what is taken off, charged and paid, the bottom line."""

from taxcore.engine import Picture, Stream

_INCOME = (
    ("employments", "Employments"), ("pensions", "Pensions"), ("trades", "Trades and partnerships"), ("property", "UK property"),
    ("foreign_earned", "From abroad"), ("savings", "Savings"), ("dividends", "Dividends"),
)  # fmt: skip
_CHARGED = (
    ("income_tax", "Income tax and charges"), ("class_4", "Class 4"), ("class_2", "Class 2"), ("student_loan", "Student loan"),
    ("postgraduate_loan", "Postgraduate loan"),
)  # fmt: skip


def flow(result):
    """Wells and streams of a computed return. Gains stand beside income: they are taxed apart from it."""
    run, picture = result.run, Picture()
    income, tax, summary = run.form("uk.income"), run.form("uk.income-tax"), run.form("uk.sa110")
    for name, label in _INCOME:
        picture.income_of(name, label, getattr(income, name), income.address(name))
    picture.income_of("transition", "Transition profits", income.transition, income.address("transition"))
    picture.well("income", 1, "Total income", income.total_income + income.transition, income.address("total_income"))
    taxable = tax.taxable + income.transition
    off = income.total_income - tax.taxable
    picture.off("income", "allowances", 2, "Reliefs and allowances", off, run.form("uk.allowances").address("set_against"))
    picture.on("income", "taxable", 2, "Taxable income", taxable, tax.address("taxable"))
    for name, label in _CHARGED:
        amount = getattr(summary, name)
        if amount > 0:
            picture.well(name, 3, label, amount, summary.address(name))
            picture.streams.append(Stream("taxable", name, amount, again=name != "income_tax"))
            picture.streams.append(Stream(name, "charged", amount))
    _gains(run, picture, summary)
    picture.well("charged", 4, "All that is charged", summary.charged, summary.address("charged"))
    _settled(picture, summary)
    return picture.made()


def _gains(run, picture, summary):
    if run.is_idle("uk.sa108"):
        return
    form, tax = run.form("uk.sa108"), run.form("uk.gains-tax")
    if form.gains > 0:
        picture.well("gains", 0, "Gains", form.gains, form.address("gains"), "source")
        picture.off("gains", "exempt", 2, "Losses and exempt amount", form.gains - tax.taxable, tax.address("exempt"))
        picture.on("gains", "taxable-gains", 2, "Taxable gains", tax.taxable, tax.address("taxable"))
    if summary.gains_tax > 0:
        picture.well("gains-tax", 3, "Capital gains tax", summary.gains_tax, summary.address("gains_tax"))
        picture.streams.append(Stream("taxable-gains", "gains-tax", summary.gains_tax))
        picture.streams.append(Stream("gains-tax", "charged", summary.gains_tax))


def _settled(picture, summary):
    """What was taken off or paid already, and the rest: owed, or repaid."""
    paid = min(summary.charged, max(summary.charged - summary.owed, summary.charged * 0))
    picture.off("charged", "paid", 5, "Taken off and paid already", paid, summary.address("deducted"))
    word, end = ("to pay", "owed") if summary.owed > 0 or not summary.repaid else ("repayment", "repaid")
    amount = getattr(summary, end)
    picture.well("end", 5, f"HMRC, {word}", amount, summary.address(end), "end")
    if end == "owed" and amount > 0 and summary.charged > 0:
        picture.streams.append(Stream("charged", "end", min(amount, summary.charged)))
    if end == "repaid" and amount > 0:
        picture.well("beyond", 4, "Paid beyond it", amount, summary.address("repaid"), "source")
        picture.streams.append(Stream("beyond", "end", amount))
