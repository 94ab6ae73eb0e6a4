"""Where income belongs. State amounts never change a federal one.

Pay for work belongs where the papers' own state rows put it; interest, dividends, gains and pensions belong where their owner
lives. 4 USC 114 (pensions).
"""

from __future__ import annotations

from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from taxcore.engine import ZERO
from taxcore.packs.us.base import UNTAXED, Placed
from taxcore.packs.us.places.residence import (
    days_in,
    home_on,
    part_lived_by,
)


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
    found = [paper.once(_of_paper) for kind in placed for paper in run.papers(kind.kind)]
    return tuple(one for one in found if one.amount or one.by_state)


def _of_paper(paper: Any) -> Belongs:
    if lies_in(paper):
        at, label = paper.address(paper.placed.amount), paper.short or paper.name
        amount = getattr(paper, paper.placed.amount)
        return Belongs(paper.key, paper.kind, paper.title, label, amount, at, {lies_in(paper): (amount, ZERO)})
    by = _by_rows if paper.placed.rows else _by_living
    return by(paper.run, paper, paper.placed)


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
    homes = days_in(run, role_of(paper))
    if rest < 0:
        elsewhere = sum((found for state, (found, _) in by_state.items() if state not in homes), ZERO)
        return (
            "taxed by more than one state"
            if elsewhere <= amount and amount - elsewhere - rest <= amount
            else "exceeds the federal amount"
        )
    return "not taxed by any state" if homes and set(homes) <= UNTAXED | {"abroad"} else "not yet allocated"


def role_of(paper: Any) -> str:
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


def lies_in(paper: Any) -> str:
    """The state of a house or land that is let, which taxes its rents whoever gets them; empty for everything else."""
    return str(paper.state) if paper.kind == "rental" and paper.state and not paper.is_royalties else ""


def _gain(row: Any) -> Decimal:
    return row.proceeds - row.basis + sum((getattr(row, name) for name in row.adjusts), ZERO)


def owners(run: Any, paper: Any) -> list[str]:
    """The roles whose a paper is: both of a couple's where it belongs to both."""
    both = getattr(paper, "owner", "") == "joint"
    return [person.role for person in run.form("us.1040").filers] if both else [role_of(paper)]


def _homes(run: Any, paper: Any) -> list[str]:
    return list(dict.fromkeys(state for role in owners(run, paper) for state in days_in(run, role)))


def part_lived(run: Any, paper: Any, state: str) -> Decimal:
    """The share of the year that a paper's owner lived in a state; of what belongs to both of a couple, half of each share."""
    roles = owners(run, paper)
    return sum((part_lived_by(run, role, state) for role in roles), ZERO) / (len(roles) or 1)


def earned_in(run: Any, state: str, role: str) -> Decimal:
    """What of the papers' income that belongs to a state is one person's; half of what belongs to both."""
    found = ZERO
    for one in belongs(run):
        whose = owners(run, run.by_key((one.kind,), one.key))
        if role in whose:
            found += one.by_state.get(state, (ZERO, ZERO))[0] / len(whose)
    return found
