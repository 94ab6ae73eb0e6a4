"""What an owner's share means to states: rows of their Schedule K-1, by receipts. 35 ILCS 5/304, 709.5, 201(p)(4)."""

from taxcore.engine import whole
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
