"""Where people lived and where income belongs: which states' returns there must be, and why. No state's law is in here.

State amounts never change a federal one. Pay for work belongs where the papers' own state rows put it; interest, dividends, gains
and pensions belong where their owner lives. 4 USC 114 (pensions); reciprocal agreements: states/reciprocity.toml.
"""

from __future__ import annotations

import tomllib
from dataclasses import dataclass, field
from datetime import date, timedelta
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine import ZERO
from taxcore.packs.us.base import STATES, UNTAXED

_RECIPROCITY = Path(__file__).parent / "states" / "reciprocity.toml"
_DAY = timedelta(days=1)
WHOLE, PART, NONE = "full-year", "part-year", "non-resident"

# Papers of pay for work: (kind, its amount, the state rows' income, their withholding)
_WORK = (
    ("w2", "wages", "wages"), ("1099-nec", "pay", "income"), ("1099-misc", "other_income", "income"),
    ("1099-k", "gross", "income"),
    ("k1-1065", "ordinary", "income"), ("k1-1120s", "ordinary", "income"), ("k1-1041", "ordinary", "income"),
    ("w2g", "winnings", "income"), ("1099-g", "unemployment", "income"),
)  # fmt: skip
# Papers of what belongs to where the owner lives
_OWN = (
    ("1099-int", "interest"), ("1099-oid", "discount"), ("1099-div", "dividends"), ("1099-r", "gross"), ("ssa-1099", "net"),
    ("1099-b", ""), ("1099-da", ""), ("business", "receipts"),
)  # fmt: skip


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
def reciprocal_pairs() -> frozenset[frozenset[str]]:
    with _RECIPROCITY.open("rb") as opened:
        return frozenset(frozenset(pair.split()) for pair in tomllib.load(opened)["pairs"])


def are_reciprocal(one: str, other: str) -> bool:
    """Whether neither of two states taxes wages of the other's residents."""
    return frozenset((one, other)) in reciprocal_pairs()


def stays(run: Any) -> tuple[Stay, ...]:
    """Everybody's stays within the year, in order of days; from the state of the whole year where no stay is keyed."""
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
    """full-year where everybody who files lived there all year, part-year where anybody lived there at all, else empty."""
    filers = [person.role for person in run.form("us.1040").filers]
    year = (date(run.year, 12, 31) - date(run.year, 1, 1)).days + 1
    days = [min(days_in(run, role).get(state, 0), year) for role in filers]
    if filers and all(number == year for number in days):
        return WHOLE
    return PART if any(days) else ""


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
    found = []
    for kind, name, income in _WORK:
        for paper in run.papers(kind):
            found.append(_by_rows(run, paper, name, income))
    for kind, name in _OWN:
        for paper in run.papers(kind):
            found.append(_by_living(run, paper, name))
    return tuple(one for one in found if one.amount or one.by_state)


def _by_rows(run: Any, paper: Any, name: str, income: str) -> Belongs:
    by_state: dict[str, tuple[Decimal, Decimal]] = {}
    for row in paper.states:
        if row.state:
            before = by_state.get(row.state, (ZERO, ZERO))
            by_state[row.state] = (before[0] + getattr(row, income), before[1] + row.withheld)
    amount = getattr(paper, name)
    if not by_state:
        return _by_living(run, paper, name)
    rest = amount - sum((one[0] for one in by_state.values()), ZERO)
    return Belongs(paper.key, paper.kind, paper.title, paper.short or paper.name, amount, paper.address(name), by_state, rest,
                   _name_of(run, paper, rest))  # fmt: skip


def _name_of(run: Any, paper: Any, rest: Decimal) -> str:
    if rest == 0:
        return ""
    if rest < 0:
        return "more than the federal amount"
    homes = days_in(run, _role(paper))
    return "belongs nowhere taxable" if homes and set(homes) <= UNTAXED | {"abroad"} else "not yet allocated"


def _role(paper: Any) -> str:
    return paper.owner if paper.owned and paper.owner in ("taxpayer", "spouse") else "taxpayer"


def _by_living(run: Any, paper: Any, name: str) -> Belongs:
    """By the days its owner lived in each state: the law's answer where nobody knows on which day it came."""
    amount = getattr(paper, name) if name else _sold(paper)
    homes = days_in(run, _role(paper))
    whole = sum(homes.values())
    by_state, left = {}, amount
    for place, (state, days) in enumerate(homes.items(), 1):
        part = left if place == len(homes) else (amount * days / whole).quantize(Decimal("0.01"))
        by_state[state], left = (part, ZERO), left - part
    for row in getattr(paper, "states", ()):
        if row.state and row.withheld:
            by_state[row.state] = (by_state.get(row.state, (ZERO, ZERO))[0], row.withheld)
    at = paper.address(name) if name else paper.address("sales")
    return Belongs(paper.key, paper.kind, paper.title, paper.short or paper.name, amount, at, by_state, left,
                   "no residence is keyed" if left else "")  # fmt: skip


def _sold(paper: Any) -> Decimal:
    rows = [*paper.sales, *paper.summaries]
    return sum((row.proceeds - row.basis for row in rows), ZERO)


@dataclass(frozen=True)
class Wanted:
    """A state's return that the facts call for. `made` says whether it is computed here; `reasons` why it is wanted."""

    state: str
    kind: str
    reasons: tuple[str, ...]
    made: bool
    address: str

    @property
    def name(self) -> str:
        return STATES[self.state]


def wanted(run: Any) -> tuple[Wanted, ...]:
    """Returns of states that tax income: first those where people lived, then those where they earned or tax was withheld."""
    return run.once(_wanted)


def _wanted(run: Any) -> tuple[Wanted, ...]:
    made = {authority.code for authority in run.pack.authorities if authority.applies(run)}
    homes = dict.fromkeys(stay.state for stay in stays(run))
    found = []
    for state in dict.fromkeys([*homes, *(state for one in belongs(run) for state in one.by_state)]):
        if state not in STATES or state in UNTAXED:
            continue
        kind = lived(run, state) or NONE
        reasons, address = _reasons(run, state, kind)
        if reasons:
            found.append(Wanted(state, kind, tuple(reasons), f"us-{state.lower()}" in made, address))
    return tuple(found)


def _reasons(run: Any, state: str, kind: str) -> tuple[list[str], str]:
    """Why a state's return is wanted, and where that is keyed. Wages that an agreement leaves to the home state are no reason."""
    reasons, address = [], ""
    for stay in stays(run):
        if stay.state == state and kind == PART:
            who = run.person(stay.role)
            reasons.append(f"{who.title if who else stay.role} lived there from {stay.first:%-d %B} to {stay.last:%-d %B}")
            address = address or stay.address
        elif stay.state == state and not reasons:
            reasons, address = ["lived there the whole year"], stay.address
    if kind == NONE:
        for one in belongs(run):
            income, withheld = one.by_state.get(state, (ZERO, ZERO))
            spared = one.kind == "w2" and _spared(run, one, state)
            if withheld:
                besides = ", though by agreement wages are taxed at home only" if spared else ""
                reasons.append(f"{one.title} withheld {withheld:,}{besides}")
            elif income > 0 and not spared:
                reasons.append(f"{income:,} of {one.title} belongs there")
            address = address or (one.address if withheld or (income > 0 and not spared) else "")
    return reasons, address


def calls(run: Any, state: str) -> str:
    """full-year, part-year or non-resident where the facts call for that state's return; else empty."""
    kind = lived(run, state) or NONE
    return kind if state not in UNTAXED and _reasons(run, state, kind)[0] else ""


@dataclass(frozen=True)
class TaxedElsewhere:
    """What a state where nobody lived taxes: for the credit at home. Amounts are the lines of that state's return."""

    state: str
    income: Any
    tax: Any


def taxed_elsewhere(run: Any, home: str) -> list[TaxedElsewhere]:
    """Non-resident returns that are made beside the one of `home`, whatever order they came in."""
    found = []
    for authority in run.pack.authorities:
        state = authority.code.partition("-")[2].upper()
        if state and state != home and authority.applies(run) and calls(run, state) == NONE:
            form = run.form(authority.form.code())
            found.append(_credited(state, form, authority))
    return found


def _credited(state: str, form: Any, authority: Any) -> TaxedElsewhere:
    income, tax = authority.credited_income or authority.income, authority.credited_tax or authority.tax
    return TaxedElsewhere(state, getattr(form, income), getattr(form, tax))


def _spared(run: Any, one: Belongs, state: str) -> bool:
    return is_spared(run, run.by_key((one.kind,), one.key), state)


def is_spared(run: Any, paper: Any, state: str) -> bool:
    """Whether an agreement leaves wages to the state where their owner lived all year."""
    homes = days_in(run, _role(paper))
    return len(homes) == 1 and are_reciprocal(state, next(iter(homes)))


def home_at_end(run: Any) -> str:
    """The state in which the taxpayer lived on the last day; empty where it is not keyed."""
    mine = [stay for stay in stays(run) if stay.role == "taxpayer"]
    return mine[-1].state if mine else ""
