"""Which states' returns there must be, and why; what a preparer decided about one."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from taxcore.engine import ZERO
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.places.agreements import are_reciprocal
from taxcore.packs.us.places.allocation import Belongs, belongs, role_of
from taxcore.packs.us.places.residence import (
    NONE,
    PART,
    WHOLE,
    Stay,
    count_as_residents,
    days_in,
    lived,
    stays,
)


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


def made(run: Any) -> list[Wanted]:
    """Of them those that are made here and that nobody leaves out."""
    return [one for one in wanted(run) if one.made and not one.left_out]


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


def _spared(run: Any, one: Belongs, state: str) -> bool:
    return is_spared(run, run.by_key((one.kind,), one.key), state)


def is_spared(run: Any, paper: Any, state: str) -> bool:
    """Whether an agreement leaves wages to the state where their owner lived all year."""
    homes = days_in(run, role_of(paper))
    return len(homes) == 1 and are_reciprocal(state, next(iter(homes)))


def calls(run: Any, state: str) -> str:
    """full-year, part-year or nonresident where the facts or a preparer call for that state's return; else empty."""
    return run.once(_called).get(state, "")


def _called(run: Any) -> dict[str, str]:
    return {one.state: one.kind for one in wanted(run) if not one.left_out}
