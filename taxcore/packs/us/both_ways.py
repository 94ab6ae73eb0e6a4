"""A couple jointly and separately, both in full: what each way comes to, what is whose, and what is lost. IRC 1(a), (d), 6013(a).

Whoever files separately has own papers and a share of what belongs to both (dividing.py). In community property states half of
each spouse's income is the other's, whoever it was paid to: there this comparison stops by the state's name.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from taxcore.engine import ZERO, PaperValues, Result, compute
from taxcore.packs.us import apart, places
from taxcore.packs.us.base import STATES
from taxcore.packs.us.dividing import HALF, ROLES, WHOLE, Division, parts
from taxcore.whatif.columns import Line, lines, together

JOINT = "joint"
_OF_CREDITS = ("us.sch-1", "us.sch-3", "us.1040")  # forms on which what is lost shows


@dataclass(frozen=True)
class Divided:
    """A paper and whose it is then: a role; or nobody's alone, and the taxpayer has that percent of it."""

    title: str
    whose: str
    percent: Decimal


@dataclass(frozen=True)
class Row:
    """A line jointly, for each alone, and of the two together."""

    line: Line
    joint: Decimal
    each: tuple[Decimal, Decimal]

    @property
    def both(self) -> Decimal:
        return sum(self.each, ZERO)

    @property
    def more(self) -> Decimal:
        """What filing separately adds to it."""
        return self.both - self.joint


@dataclass(frozen=True)
class BothWays:
    """Results by role beside the joint one. `saves`: what filing separately brings in all; negative where it costs. `lost` are
    deductions and credits that neither has alone."""

    joint: Result
    each: Mapping[str, Result]
    totals: tuple[Row, ...]
    rows: tuple[Row, ...]
    divided: tuple[Divided, ...]
    lost: tuple[Row, ...]

    @property
    def saves(self) -> Decimal:
        return sum((together(one) for one in self.each.values()), ZERO) - together(self.joint)


def why_not(run: Any) -> str:
    """Why there is no comparison; empty where there is one."""
    if run.form("us.1040").status != "joint":
        return "Only the return of a couple who file jointly is compared: choose that filing status first."
    spouse = run.person("spouse")
    if spouse is None or any(one.death_date is not None for one in (spouse, run.person("taxpayer"))):
        return "Both spouses must be on the return, and living: who died during the year is on a joint return or on one alone."
    for role in ROLES:
        for state in places.days_in(run, role) or {run.single("filing").residence: 0}:
            if state in apart.COMMUNITY:
                return (
                    f"{STATES[state]} is a community property state: half of what each earned there may be the other's. That "
                    "division is not supported, so separate returns are not compared."
                )
    return ""


def both_ways(result: Result, division: Division) -> BothWays:
    """Both ways in full, what is of both divided so. ValueError where `why_not` has a reason."""
    run = result.run
    if says := why_not(run):
        raise ValueError(says)
    data = {role: apart.everywhere(run, role, division) for role in ROLES}
    each = {role: compute(run.pack, one) for role, one in data.items()}
    results = {JOINT: result, **each}
    rows = tuple(row for row in map(_row, lines(results, only_totals=False)) if row.more)
    lost = tuple(row for row in rows if row.joint > 0 and not any(row.each) and _is_of_credits(row.line))
    divided = tuple(_divided(run, {role: one.papers for role, one in data.items()}, division))
    return BothWays(result, each, tuple(map(_row, lines(results))), rows, divided, lost)


def _row(line: Line) -> Row:
    joint, first, second = (line.amounts.get(key) or ZERO for key in (JOINT, *ROLES))
    return Row(line, joint, (first, second))


def _is_of_credits(line: Line) -> bool:
    return line.weight != "total" and line.address.rpartition(".")[0] in _OF_CREDITS


def _divided(run: Any, papers: Mapping[str, tuple[PaperValues, ...]], division: Division) -> Iterator[Divided]:
    """Papers of the couple, in their order, those aside that say who files and how."""
    shares = {part.mark: part.percent for part in parts(run, division)}
    has = {role: {(one.kind, one.id): one for one in theirs} for role, theirs in papers.items()}
    whole = {(one.kind, one.id): one for one in run.everything.papers}
    for node in (*run.people("dependant"), *run.all_papers()):
        mark = (node.kind, node.key)
        mine = [role for role in ROLES if mark in has[role]]
        if node.kind in ("filing", "residency") or not mine:
            continue
        if len(mine) < len(ROLES):
            yield Divided(node.title, mine[0], WHOLE if mine[0] == "taxpayer" else ZERO)
        elif has["taxpayer"][mark].values != whole[mark].values:
            yield Divided(node.title, "", shares.get("/".join(mark), HALF))
