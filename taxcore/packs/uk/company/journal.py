"""The tax of a return as a journal for the company's books: the charge, what is owed, tax on loans apart from that on profits."""

from taxcore.engine.outgoing import Drawn, DrawnTable
from taxcore.packs.uk.company.papers import HEADINGS


def lines(run):
    """(account, heading of the trial balance, debit, credit) rows that balance; none where there is no tax."""
    form = run.form("uk.ct600")
    made = [
        ("Corporation tax of the period", "tax", form.chargeable, None),
        ("Tax on loans to participators", "debtors", form.loans_tax, None),
        ("Income tax taken off", "debtors", None, min(form.deducted, form.charged)),
        ("Corporation tax owed", "creditors", None, form.charged - min(form.deducted, form.charged)),
    ]
    return [row for row in made if row[2] or row[3]]


def statements(result):
    """The journal, where there is something to enter."""
    rows = lines(result.run)
    if not rows:
        return ()
    shown = tuple(
        (account, HEADINGS[heading], "" if debit is None else debit, "" if credit is None else credit)
        for account, heading, debit, credit in rows
    )
    sums = ("Together", "", *(sum((row[place] or 0 for row in rows), start=rows[0][2] * 0) for place in (2, 3)))
    table = DrawnTable(
        "Journal",
        ("Account", "Heading", "Debit", "Credit"),
        shown,
        sums,
    )
    return (Drawn("tax-journal", "Tax journal for the books", (table,)),)
