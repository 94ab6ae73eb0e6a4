"""Schedule K-1 of each partner as a document, for whoever is not a client here too. IRC 6031(b)."""

from taxcore.engine.outgoing import Drawn, DrawnTable


def statements(result):
    """One for each partner: items with their numbers, liabilities (K), capital (L)."""
    run = result.run
    filer = next(iter(run.people()), None)
    called = str(filer.company) if filer is not None else ""
    return tuple(_statement(form, called) for form in run.every("us.sch-k-1"))


def _statement(form, called):
    partner = form.partner
    items, owed, capital = [], [], []
    for cell in form.lines():
        number = cell.number
        if number.startswith("L"):
            capital.append((number[1:], cell.label, cell.value))
        elif cell.value:
            (owed if number[0] == "K" else items).append(
                (number.removeprefix("K") if number[0] == "K" else number, cell.label, cell.value)
            )
    shares = tuple(
        (which.title(), f"{partner.at(which, end=False).normalize():f}%", f"{partner.at(which, end=True).normalize():f}%")
        for which in ("profit", "loss", "capital")
    )
    tables = [
        DrawnTable("Item J, shares", ("", "Beginning", "End"), shares),
        DrawnTable("Items", ("Box", "Item", "Amount"), tuple(items)),
        DrawnTable("Item K, liabilities", ("", "Kind", "End of year"), tuple(owed)),
        DrawnTable("Item L, capital", ("", "Tax basis", "Amount"), tuple(capital)),
    ]
    made = tuple(one for one in tables if one.rows)
    remarks = (f"Of {called}, {form.year}.", "Keep it with your records, and give it to whoever prepares your return.")
    return Drawn(f"k-1-{partner.key}", f"Schedule K-1, {partner.called}", made, remarks)
