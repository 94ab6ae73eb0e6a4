"""What an owner's share means to states: rows of their Schedule K-1, by receipts. 35 ILCS 5/304, 709.5, 201(p)(4)."""

from taxcore.engine.outgoing import DrawnTable
from taxcore.packs.us.entity.withholding import by_states, table
from taxcore.packs.us.states.il.entities.base import files_here


def in_states(form):
    """One row for each state that has something of it; others' own rules may give another part of the income."""
    found = {}
    if files_here(form.run):
        here = form.run.form("us-il.sch-k-1-p", form.key)
        found["IL"] = {
            "income": here.ordinary_here, "withheld": here.withheld, "entity_tax": here.credit, "modified": here.modified_here
        }  # fmt: skip
    return [
        {"id": str(number), "state": state} | {name: f"{amount:f}" for name, amount in amounts.items() if amount}
        for number, (state, amounts) in enumerate((found | by_states(form)).items(), 1)
    ]


_TOLD = ("distributable", "income_here", "modified_here", "credit", "withheld")


def tables(form):
    """Schedule K-1-P as a table of the owner's document, and what other states had withheld."""
    return (*_of_illinois(form), *table(form))


def _of_illinois(form):
    if not files_here(form.run):
        return ()
    here = form.run.form("us-il.sch-k-1-p", form.key)
    cells = [here.cell(name) for name in _TOLD]
    rows = tuple((cell.number or "", cell.label, cell.value) for cell in cells if cell.value)
    return (DrawnTable("Illinois, Schedule K-1-P", ("Line", "Item", "Amount"), rows),) if rows else ()
