"""The register of assets: by activity, with totals that tie to Form 4562, and what is left of their cost over the years."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from taxcore.packs.us import places
from taxcore.packs.us.base import STATES
from taxcore.packs.us.property.assets import Depreciation, Form4562
from taxcore.packs.us.property.lives import first_and_left
from taxcore.packs.us.property.papers import ACTIVITIES, SORTS
from taxcore.packs.us.states.depreciation import differs

ZERO = Decimal(0)
_COLUMNS = (("cost", "Cost"), ("basis", "Basis"), ("expensed", "Section 179"), ("before", "Before"), ("now", "This year"),
           ("after", "To the end"), ("left", "Left"), ("minimum", "For AMT"))  # fmt: skip


@dataclass(frozen=True)
class RegisterRow:
    """One asset. Amounts by the names of `columns`; `at` are the addresses of those that a line gives."""

    key: str
    description: str
    sort: str
    in_service: Any
    method: str
    amounts: dict[str, Decimal]
    at: dict[str, str]


@dataclass(frozen=True)
class Activity:
    """Rows of one business or rental, their sums, and lines 22 and 44 of its Form 4562, which are what its assets give."""

    key: str
    title: str
    rows: tuple[RegisterRow, ...]
    sums: dict[str, Decimal]
    deducted: Decimal
    at: str


def columns(run: Any) -> list[tuple[str, str]]:
    """(name of an amount, what it is called): last what each state of this return gives this year, where one gives another."""
    return [*_COLUMNS, *((state, f"In {STATES[state]}") for state in _own_states(run))]


def _own_states(run: Any) -> list[str]:
    made = [one.state for one in places.made(run)]
    assets = [form.asset for form in run.every("us.depreciation") if form.is_there]
    return [state for state in made if any(differs(state, asset) for asset in assets)]


def _in_state(form: Depreciation, state: str) -> Depreciation:
    """The asset's depreciation in a state: its own, or the federal one."""
    if not form.is_there or not differs(state, form.asset):
        return form
    own: Depreciation = form.run.form(f"us-{state.lower()}.own-depreciation", form.key)
    return own


def _row(form: Depreciation, states: list[str]) -> RegisterRow:
    asset = form.asset
    names = {"cost": "cost", "basis": "basis", "expensed": "section_179", "before": "before", "now": "allowed",
             "after": "accumulated", "left": "left", "minimum": "minimum"}  # fmt: skip
    amounts = {name: Decimal(getattr(form, line)) for name, line in names.items()}
    amounts["now"] += form.special_now
    amounts["minimum"] += form.special_now
    at = {name: form.address(line) for name, line in names.items()}
    for state in states:
        own = _in_state(form, state)
        amounts[state], at[state] = Decimal(own.special_now) + own.allowed, own.address("allowed")
    life = f"{asset.period} years" if asset.period else ""
    return RegisterRow(asset.key, str(asset.description), SORTS.get(str(asset.sort), ""), asset.in_service, life, amounts, at)


def register(run: Any) -> list[Activity]:
    """Every activity that has assets, in the order of its papers; last what is used in none."""
    found = []
    forms = run.every("us.depreciation")
    for kind in ACTIVITIES:
        for paper in run.papers(kind):
            mine = [one for one in forms if one.asset.used_in == paper.key]
            if mine:
                of: Form4562 = run.form("us.4562", paper.key)
                found.append(_activity(paper.key, paper.title, mine, Decimal(of.together) + of.amortized, of.address("together")))
    known = {row.key for one in found for row in one.rows}
    if rest := [one for one in forms if one.asset.key not in known]:
        found.append(_activity("", "Used in no activity yet", rest, ZERO, ""))
    return found


def _activity(key: str, title: str, forms: list[Depreciation], deducted: Decimal, at: str) -> Activity:
    rows = tuple(_row(one, _own_states(one.run)) for one in forms)
    sums = {name: sum((row.amounts[name] for row in rows), ZERO) for name in (rows[0].amounts if rows else ())}
    return Activity(key, title, rows, sums, deducted, at)


def over_years(run: Any, ahead: int = 6) -> list[tuple[int, Decimal, Decimal]]:
    """(year, basis in service, what is left of it) from the first year to some ahead, as the law goes on without sales."""
    assets = [one for one in run.papers("asset") if one.in_service is not None and one.in_service.year <= run.year and one.sort]
    if not assets:
        return []
    first = min(one.in_service.year for one in assets)
    years = range(max(first, run.year - 9), run.year + ahead + 1)
    found = dict.fromkeys(years, (ZERO, ZERO))
    for one in assets:
        for year, basis, left in first_and_left(one, years[-1]):
            if year in found:
                found[year] = (found[year][0] + basis, found[year][1] + left)
    return [(year, *amounts) for year, amounts in found.items()]
