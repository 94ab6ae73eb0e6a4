"""Where people lived: stays by person and day, and what kind of resident that makes of them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta
from decimal import Decimal
from typing import Any

from taxcore.engine import ZERO
from taxcore.packs.us import couples

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


def home_on(run: Any, role: str, day: date | None) -> str:
    """The state in which somebody lived on a day; empty where it is not known."""
    return next((stay.state for stay in stays(run) if stay.role == role and day and stay.first <= day <= stay.last), "")


def home_at_end(run: Any) -> str:
    """The state in which the taxpayer lived on the last day; empty where it is not entered."""
    mine = [stay for stay in stays(run) if stay.role == "taxpayer"]
    return mine[-1].state if mine else ""


def part_lived_by(run: Any, role: str, state: str) -> Decimal:
    """The share of the year that one person lived in a state."""
    days = days_in(run, role)
    whole = sum(days.values())
    return Decimal(days.get(state, 0)) / whole if whole else ZERO
