"""What a share means to states other than Illinois: income by receipts, what was withheld or paid there for an owner, and what
the state's law would have withheld. The rates are in withholding.toml. Owners' returns credit what is told here.
"""

import tomllib
from decimal import Decimal
from functools import cache
from pathlib import Path

from taxcore.engine import check, found, stops, whole
from taxcore.engine.outgoing import DrawnTable
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.entity.receipts import is_divided
from taxcore.packs.us.states.il.entities.base import files_here

_ZERO = Decimal(0)
_TOLD = {"withheld": "Tax withheld", "entity_tax": "Pass-through entity tax credited", "modified": "Additions less subtractions"}
_WITHHELD_FROM = ("individual", "trust", "estate")


@cache
def _law():
    return tomllib.loads(Path(__file__).with_suffix(".toml").read_text(), parse_float=Decimal)


def owner_of(form):
    """The paper of a Schedule K-1's owner."""
    return form.run.by_key(("partner", "shareholder"), form.key)


def _by_receipts(form):
    """{state: ordinary income of this owner} of every state with receipts; without a table all is the entity's own state's."""
    run = form.run
    if not is_divided(run):
        own = str(run.single("about").state or "")
        return {own: form.ordinary} if own and own not in UNTAXED else {}
    rows = [row for row in run.single("receipts").rows if row.amount]
    sales = sum((row.amount for row in rows), _ZERO)
    found = {}
    for row in rows:
        if row.state in STATES:
            found[row.state] = found.get(row.state, _ZERO) + form.ordinary * row.amount / sales
    return {state: whole(amount) for state, amount in found.items()}


def by_states(form):
    """{state: its amounts} without Illinois where its return is made here, which says them itself."""
    keyed = {str(row.state): row for row in owner_of(form).states if row.state}
    income = _by_receipts(form)
    found = {}
    for state in dict.fromkeys((*income, *keyed)):
        if state == "IL" and files_here(form.run):
            continue
        row = keyed.get(state)
        mine = row.income if row is not None and row.is_keyed("income") else income.get(state, _ZERO)
        found[state] = {"income": mine} | ({name: getattr(row, name) for name in _TOLD} if row is not None else {})
    return found


def table(form):
    """What was withheld or paid elsewhere, for the owner's document: each state by the name of its own statement."""
    rows = []
    for state, amounts in by_states(form).items():
        told = [(_TOLD[name], amounts[name]) for name in _TOLD if amounts.get(name)]
        if told:
            rows.append((_statement(form.run, state), "Income there", amounts["income"]))
            rows += [("", label, amount) for label, amount in told]
    return (DrawnTable("Other states", ("State", "Item", "Amount"), tuple(rows)),) if rows else ()


def _statement(run, state):
    law = _law().get(state)
    return f"{STATES[state]}, {law['statement'][run.pack.code != 'us-1065']}" if law else STATES[state]


def expected(form, state, income):
    """What the state would have withheld from an owner who does not live there; 0 without such a rule, or if it is too little."""
    owner, law = owner_of(form), _law().get(state, {})
    rate = law.get("rate", {}).get(str(form.year))
    if rate is None or owner.state == state or owner.sort not in _WITHHELD_FROM or income <= 0:
        return _ZERO
    base = income
    if law["of"] == "distributions":
        base = owner.distributed * income / form.ordinary if form.ordinary > 0 else _ZERO
    return whole(base * rate) if base >= law.get("least", 0) else _ZERO


@stops("us.states.twice", "The same state twice for one owner", "conflict")
@stops("us.states.computed", "Illinois entered for an owner, and computed", "conflict", "35 ILCS 5/709.5")
@check("us.states.withheld", "Nonresident owner without withholding", "missing", "state law")
@check("us.states.at-home", "Tax withheld from an owner who lives there", "unlikely", "state law")
def withheld(run):
    for form in run.every("us.sch-k-1"):
        owner, seen = owner_of(form), set()
        for row in owner.states:
            if row.state in seen:
                yield found(row.address("state"), "The last row counts. Remove one of them.", code="us.states.twice")
            if row.state == "IL" and files_here(run):
                says = "Its return is made here and says it. Remove the row."
                yield found(row.address("state"), says, code="us.states.computed")
            if row.withheld and row.state == owner.state:
                says = f"{owner.called} lives in {STATES[row.state]}. Correct the address or the amount."
                yield found(row.address("withheld"), says, code="us.states.at-home")
            seen.add(row.state)
        yield from _not_withheld(form, owner)


def _not_withheld(form, owner):
    for state, amounts in by_states(form).items():
        due = expected(form, state, amounts["income"])
        row = next((row for row in owner.states if row.state == state), None)
        if due and (row is None or not (row.is_keyed("withheld") or row.entity_tax)):
            says = (
                f"{STATES[state]} requires about {due:,.0f} to be withheld from {owner.called}. Enter the amount withheld, or 0."
            )
            yield found(owner.address("states"), says, code="us.states.withheld")
