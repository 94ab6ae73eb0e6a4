"""What an owner's share means to states: rows of their Schedule K-1, by receipts. 35 ILCS 5/304, 709.5, 201(p)(4)."""

from taxcore.engine import whole
from taxcore.engine.outgoing import DrawnTable
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.receipts import is_divided
from taxcore.packs.us.states.il.entities.base import files_here


def in_states(form):
    """One row for each state with receipts, where there is a return of Illinois; others' own rules may give another part."""
    run = form.run
    if not files_here(run):
        return []
    here = run.form("us-il.sch-k-1-p", form.key)
    found = {
        "IL": {"income": here.ordinary_here, "withheld": here.withheld, "entity_tax": here.credit, "modified": here.modified_here}
    }
    if is_divided(run) and here.home.sales:
        for row in run.single("receipts").rows:
            if row.state in STATES and row.state != "IL" and row.amount:
                found[row.state] = {"income": whole(form.ordinary * row.amount / here.home.sales)}
    return [
        {"id": str(number), "state": state} | {name: f"{amount:f}" for name, amount in amounts.items() if amount}
        for number, (state, amounts) in enumerate(found.items(), 1)
    ]


_TOLD = ("distributable", "income_here", "modified_here", "credit", "withheld")


def tables(form):
    """Schedule K-1-P as a table of the owner's document."""
    if not files_here(form.run):
        return ()
    here = form.run.form("us-il.sch-k-1-p", form.key)
    cells = [here.cell(name) for name in _TOLD]
    rows = tuple((cell.number or "", cell.label, cell.value) for cell in cells if cell.value)
    return (DrawnTable("Illinois, Schedule K-1-P", ("Line", "Item", "Amount"), rows),) if rows else ()
