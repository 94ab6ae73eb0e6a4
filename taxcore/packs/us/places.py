"""Where people lived and where income belongs: which states' returns there must be, and why. No state's law is in here.

State amounts never change a federal one. Pay for work belongs where the papers' own state rows put it; interest, dividends, gains
and pensions belong where their owner lives. 4 USC 114 (pensions); agreements between states: states/reciprocity.toml.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from dataclasses import dataclass, field
from datetime import date, timedelta
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine import ZERO
from taxcore.packs.us import couples
from taxcore.packs.us.base import STATES, UNTAXED, Placed

_AGREEMENTS = Path(__file__).parent / "states" / "reciprocity.toml"
_DAY = timedelta(days=1)
WHOLE, PART, NONE = "full-year", "part-year", "nonresident"


@dataclass(frozen=True)
class Stay:
    """One person in one state, both days included."""

    role: str
    state: str
    first: date
    last: date
    address: str

    @property
    def days(self) -> int:
        return (self.last - self.first).days + 1


@cache
def _pairs(name: str) -> frozenset[frozenset[str]]:
    with _AGREEMENTS.open("rb") as opened:
        return frozenset(frozenset(pair.split()) for pair in tomllib.load(opened)[name]["pairs"])


def reciprocal_pairs() -> frozenset[frozenset[str]]:
    return _pairs("wages")


def are_reciprocal(one: str, other: str) -> bool:
    """Whether neither of two states taxes wages of the other's residents."""
    return frozenset((one, other)) in reciprocal_pairs()


def are_reverse(one: str, other: str) -> bool:
    """Whether each of two states credits the other's residents on its own nonresident return, and not at home."""
    return frozenset((one, other)) in _pairs("reverse_credit")


def stays(run: Any) -> tuple[Stay, ...]:
    """Everybody's stays within the year, in order of days; from the state of the whole year where no stay is entered."""
    return run.once(_stays)


def _stays(run: Any) -> tuple[Stay, ...]:
    begin, end = date(run.year, 1, 1), date(run.year, 12, 31)
    filers = [person.role for person in run.form("us.1040").filers]
    rows = run.single("residency").rows if run.single("residency").values.get("rows") else ()
    found = []
    for row in rows:
        for role in filers if row.person == "both" else [row.person]:
            first, last = max(row.first or begin, begin), min(row.last or end, end)
            if role in filers and row.state and first <= last:
                found.append(Stay(role, row.state, first, last, row.address("state")))
    filing = run.single("filing")
    if not rows and filing.residence:
        found = [Stay(role, filing.residence, begin, end, filing.address("residence")) for role in filers]
    return tuple(sorted(found, key=lambda stay: (stay.role != "taxpayer", stay.first, stay.state)))


def days_without(run: Any, role: str) -> list[tuple[date, date]]:
    """Spans of the year in which a person is said to live nowhere."""
    here, gaps = date(run.year, 1, 1), []
    for stay in stays(run):
        if stay.role == role:
            if stay.first > here:
                gaps.append((here, stay.first - _DAY))
            here = max(here, stay.last + _DAY)
    if here <= date(run.year, 12, 31):
        gaps.append((here, date(run.year, 12, 31)))
    return gaps


def days_in(run: Any, role: str) -> dict[str, int]:
    """{state: days} of one person."""
    found: dict[str, int] = {}
    for stay in stays(run):
        if stay.role == role:
            found[stay.state] = found.get(stay.state, 0) + stay.days
    return found


def lived(run: Any, state: str) -> str:
    """full-year where everybody who files lived there all year or counts as if, part-year where anybody lived there at all, else
    empty."""
    kinds = _kinds(run, state)
    if (kinds and set(kinds) == {WHOLE}) or count_as_residents(run, state):
        return WHOLE
    return PART if set(kinds) - {NONE} else ""


def _kinds(run: Any, state: str) -> list[str]:
    return [lived_by(run, person.role, state) for person in run.form("us.1040").filers]


def lived_by(run: Any, role: str, state: str) -> str:
    """What one person was in a state: full-year, part-year or nonresident."""
    days = days_in(run, role).get(state, 0)
    if days >= (date(run.year, 12, 31) - date(run.year, 1, 1)).days + 1:
        return WHOLE
    return PART if days else NONE


def count_as_residents(run: Any, state: str) -> bool:
    """Whether a couple is on one return of residents of the whole year though one of them was not."""
    return couples.rule(state).makes_residents(WHOLE, _kinds(run, state))


@dataclass(frozen=True)
class Belongs:
    """One paper's income by state. `by_state` are (income, withheld) ; `rest` is what no state has, `rest_is` says why."""

    key: str
    kind: str
    title: str
    label: str
    amount: Decimal
    address: str
    by_state: dict[str, tuple[Decimal, Decimal]] = field(default_factory=dict)
    rest: Decimal = ZERO
    rest_is: str = ""


def belongs(run: Any) -> tuple[Belongs, ...]:
    """Every paper with income, and where it belongs."""
    return run.once(_belongs)


def _belongs(run: Any) -> tuple[Belongs, ...]:
    placed = [kind for kind in run.pack.papers if getattr(kind, "placed", None)]
    found = [_of_paper(run, paper, paper.placed) for kind in placed for paper in run.papers(kind.kind)]
    return tuple(one for one in found if one.amount or one.by_state)


def _of_paper(run: Any, paper: Any, placed: Any) -> Belongs:
    by = _by_rows if placed.rows else _by_living
    return by(run, paper, placed)


def _by_rows(run: Any, paper: Any, placed: Placed) -> Belongs:
    by_state: dict[str, tuple[Decimal, Decimal]] = {}
    for row in paper.states:
        if row.state:
            before = by_state.get(row.state, (ZERO, ZERO))
            by_state[row.state] = (before[0] + getattr(row, placed.rows), before[1] + row.withheld)
    amount = getattr(paper, placed.amount)
    if not by_state:
        return _by_living(run, paper, placed)
    rest = amount - sum((one[0] for one in by_state.values()), ZERO)
    at, label = paper.address(placed.amount), paper.short or paper.name
    named = _name_of(run, paper, rest, amount, by_state)
    return Belongs(paper.key, paper.kind, paper.title, label, amount, at, by_state, rest, named)


def _name_of(run: Any, paper: Any, rest: Decimal, amount: Decimal, by_state: dict[str, tuple[Decimal, Decimal]]) -> str:
    """What the rest is. A home state taxes what other states tax too: that alone is no excess."""
    if rest == 0:
        return ""
    homes = days_in(run, _role(paper))
    if rest < 0:
        elsewhere = sum((found for state, (found, _) in by_state.items() if state not in homes), ZERO)
        return (
            "taxed by more than one state"
            if elsewhere <= amount and amount - elsewhere - rest <= amount
            else "exceeds the federal amount"
        )
    return "not taxed by any state" if homes and set(homes) <= UNTAXED | {"abroad"} else "not yet allocated"


def _role(paper: Any) -> str:
    return paper.owner if paper.owned and paper.owner in ("taxpayer", "spouse") else "taxpayer"


def _by_living(run: Any, paper: Any, placed: Placed) -> Belongs:
    """By the days its owner lived in each state: the law's answer where nobody knows on which day it came. Sales by their day."""
    if placed.amount:
        amount = sum((getattr(paper, name) for name in (placed.amount, *placed.also)), ZERO)
        by_state, left, rest_is = _shared(run, paper, amount)
    else:
        amount = sum((_gain(row) for row in (*paper.sales, *paper.summaries)), ZERO)
        by_state, left, rest_is = _by_day(run, paper)
    for row in getattr(paper, "states", ()):
        if row.state and row.withheld:
            by_state[row.state] = (by_state.get(row.state, (ZERO, ZERO))[0], row.withheld)
    at, label = paper.address(placed.amount or "sales"), paper.short or paper.name
    return Belongs(paper.key, paper.kind, paper.title, label, amount, at, by_state, left, rest_is if left else "")


def _shared(run: Any, paper: Any, amount: Decimal) -> tuple[dict[str, tuple[Decimal, Decimal]], Decimal, str]:
    """An amount by days, to the cent; the last home has what rounding leaves."""
    homes = _homes(run, paper)
    by_state, left = {}, amount
    for place, state in enumerate(homes, 1):
        part = left if place == len(homes) else (amount * part_lived(run, paper, state)).quantize(Decimal("0.01"))
        by_state[state], left = (part, ZERO), left - part
    return by_state, left, "no residency is entered"


def _by_day(run: Any, paper: Any) -> tuple[dict[str, tuple[Decimal, Decimal]], Decimal, str]:
    """Land and houses where they lie; other sales where their owner lived on the day, all at home where there is one home."""
    totals = sum(map(_gain, paper.summaries), ZERO)
    every = totals + sum(map(_gain, paper.sales), ZERO)
    if state := situated(paper):
        return {state: (every, ZERO)}, ZERO, ""
    if len(_homes(run, paper)) < 2:
        return _shared(run, paper, every)
    by_state: dict[str, tuple[Decimal, Decimal]] = {}
    left, roles = totals, owners(run, paper)
    for row in paper.sales:
        for role in roles:
            part, there = _gain(row) / len(roles), home_on(run, role, row.sold)
            if there:
                by_state[there] = (by_state.get(there, (ZERO, ZERO))[0] + part, ZERO)
            else:
                left += part
    return by_state, left, "no date of sale is entered"


def situated(paper: Any) -> str:
    """The state in which the land or house lies whose sale a statement reports; empty where it reports something else."""
    return str(getattr(paper, "situated", ""))


def home_on(run: Any, role: str, day: date | None) -> str:
    """The state in which somebody lived on a day; empty where it is not known."""
    return next((stay.state for stay in stays(run) if stay.role == role and day and stay.first <= day <= stay.last), "")


def _gain(row: Any) -> Decimal:
    return row.proceeds - row.basis + sum((getattr(row, name) for name in row.adjusts), ZERO)


def owners(run: Any, paper: Any) -> list[str]:
    """The roles whose a paper is: both of a couple's where it belongs to both."""
    both = getattr(paper, "owner", "") == "joint"
    return [person.role for person in run.form("us.1040").filers] if both else [_role(paper)]


def _homes(run: Any, paper: Any) -> list[str]:
    return list(dict.fromkeys(state for role in owners(run, paper) for state in days_in(run, role)))


@dataclass(frozen=True)
class Wanted:
    """A state's return that the facts or a preparer call for. `made`: computed here; `reasons`: why it is wanted.

    `left_out` is why a preparer leaves it out; `by_hand` says that nothing but a preparer calls for it.
    """

    state: str
    kind: str
    reasons: tuple[str, ...]
    made: bool
    address: str
    left_out: str = ""
    by_hand: bool = False

    @property
    def name(self) -> str:
        return STATES[self.state]


def wanted(run: Any) -> tuple[Wanted, ...]:
    """Returns of states that tax income: first those where people lived, then those where they earned or tax was withheld."""
    return run.once(_wanted)


def _wanted(run: Any) -> tuple[Wanted, ...]:
    codes = {authority.code for authority in run.pack.authorities if authority.has_law(run)}
    homes = dict.fromkeys(stay.state for stay in stays(run))
    earned = (state for one in belongs(run) for state in one.by_state)
    found: list[Wanted] = []
    for state in dict.fromkeys([*homes, *earned, *_decided(run)]):
        if state in STATES and state not in UNTAXED:
            found.extend(_want(run, state, f"us-{state.lower()}" in codes))
    return tuple(found)


def _want(run: Any, state: str, has_law: bool) -> Iterator[Wanted]:
    kind, decision = lived(run, state) or NONE, _decided(run).get(state)
    reasons, address = _reasons(run, state, kind)
    if decision is not None and decision.what == "make" and not reasons:
        why = f"added by hand: {decision.reason}" if decision.reason else "added manually"
        yield Wanted(state, kind, (why,), has_law, decision.address("state"), by_hand=True)
    elif reasons:
        left_out = ""
        if decision is not None and decision.what == "leave-out":
            left_out = decision.reason or "no reason is entered"
        yield Wanted(state, kind, tuple(reasons), has_law and not left_out, address, left_out)


def _decided(run: Any) -> dict[str, Any]:
    """What a preparer said of states' returns: the rows by state, the last one counting."""
    return run.once(_decisions)


def _decisions(run: Any) -> dict[str, Any]:
    paper = run.single("state-returns")
    return {row.state: row for row in paper.rows if row.state and row.what} if paper.values.get("rows") else {}


def _reasons(run: Any, state: str, kind: str) -> tuple[list[str], str]:
    """Why a state's return is wanted, and where that stands. Wages that an agreement leaves to the home state are no reason."""
    reasons, address = [], ""
    for stay in stays(run):
        if stay.state == state and kind == PART:
            who = run.person(stay.role)
            reasons.append(f"{who.title if who else stay.role} lived there from {stay.first:%B %-d} to {stay.last:%B %-d}")
            address = address or stay.address
        elif stay.state == state and not reasons:
            reasons, address = [f"{_alone(run, stay, kind)}lived there all year"], stay.address
    if kind == WHOLE and count_as_residents(run, state):
        reasons.append("both count as residents on a joint return")
    if kind == NONE:
        for one in belongs(run):
            income, withheld = one.by_state.get(state, (ZERO, ZERO))
            spared = one.kind == "w2" and _spared(run, one, state)
            if withheld:
                besides = ", though by agreement wages are taxed at home only" if spared else ""
                reasons.append(f"{one.title} withheld {withheld:,.0f}{besides}")
            elif income > 0 and not spared:
                reasons.append(f"{income:,.0f} of {one.title} belongs there")
            address = address or (one.address if withheld or (income > 0 and not spared) else "")
    return reasons, address


def _alone(run: Any, stay: Stay, kind: str) -> str:
    """The name of the one who lived there, where the other of a couple did not; else nothing."""
    who = run.person(stay.role) if count_as_residents(run, stay.state) else None
    return f"{who.title} " if who else ""


def calls(run: Any, state: str) -> str:
    """full-year, part-year or nonresident where the facts or a preparer call for that state's return; else empty."""
    return run.once(_called).get(state, "")


def _called(run: Any) -> dict[str, str]:
    return {one.state: one.kind for one in wanted(run) if not one.left_out}


@dataclass(frozen=True)
class TaxedElsewhere:
    """What a state where nobody lived taxes: for the credit at home. Amounts are the lines of that state's return."""

    state: str
    income: Any
    tax: Any
    taxable: Any  # what the tax is worked out on


def taxed_elsewhere(run: Any, home: str) -> list[TaxedElsewhere]:
    """Nonresident returns that are made beside the one of `home`, whatever order they came in; no reverse credit's.

    A couple of whom one only counts as a resident is taxed by the state that one really lived in, too.
    """
    taxing = (NONE, PART) if count_as_residents(run, home) else (NONE,)
    return [
        _credited(state, run.form(authority.form.code()), authority)
        for state, authority in _made(run)
        if state != home and calls(run, state) in taxing and not are_reverse(state, home)
    ]


def taxed_at_home(run: Any, state: str) -> TaxedElsewhere | None:
    """What the state where people lived all year taxes, where the nonresident return of `state` credits it: reverse credit."""
    for home, authority in _made(run):
        if are_reverse(state, home) and calls(run, home) == WHOLE and calls(run, state) == NONE:
            return _credited(home, run.form(authority.form.code()), authority)
    return None


def _made(run: Any) -> list[tuple[str, Any]]:
    return [
        (authority.code.partition("-")[2].upper(), authority)
        for authority in run.pack.authorities
        if "-" in authority.code and authority.applies(run)
    ]


def _credited(state: str, form: Any, authority: Any) -> TaxedElsewhere:
    income, tax = authority.credited_income or authority.income, authority.credited_tax or authority.tax
    return TaxedElsewhere(state, getattr(form, income), getattr(form, tax), getattr(form, authority.credited_taxable or income))


def earned_in(run: Any, state: str, role: str) -> Decimal:
    """What of the papers' income that belongs to a state is one person's; half of what belongs to both."""
    found = ZERO
    for one in belongs(run):
        whose = owners(run, run.by_key((one.kind,), one.key))
        if role in whose:
            found += one.by_state.get(state, (ZERO, ZERO))[0] / len(whose)
    return found


def _spared(run: Any, one: Belongs, state: str) -> bool:
    return is_spared(run, run.by_key((one.kind,), one.key), state)


def part_lived(run: Any, paper: Any, state: str) -> Decimal:
    """The share of the year that a paper's owner lived in a state; of what belongs to both of a couple, half of each share."""
    roles = owners(run, paper)
    return sum((part_lived_by(run, role, state) for role in roles), ZERO) / (len(roles) or 1)


def part_lived_by(run: Any, role: str, state: str) -> Decimal:
    """The share of the year that one person lived in a state."""
    days = days_in(run, role)
    whole = sum(days.values())
    return Decimal(days.get(state, 0)) / whole if whole else ZERO


def is_spared(run: Any, paper: Any, state: str) -> bool:
    """Whether an agreement leaves wages to the state where their owner lived all year."""
    homes = days_in(run, _role(paper))
    return len(homes) == 1 and are_reciprocal(state, next(iter(homes)))


def home_at_end(run: Any) -> str:
    """The state in which the taxpayer lived on the last day; empty where it is not entered."""
    mine = [stay for stay in stays(run) if stay.role == "taxpayer"]
    return mine[-1].state if mine else ""
