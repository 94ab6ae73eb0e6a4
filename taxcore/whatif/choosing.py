"""The best of the choices that the law leaves open: every way worked out, alone and together, by what all authorities come to."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from taxcore.engine import ZERO, Finding, Result
from taxcore.whatif.columns import lines, together, value_at
from taxcore.whatif.differences import Difference, place_of_mark, with_differences
from taxcore.whatif.trials import Trials

_EVERY_WAY = 64  # as many combinations are all tried; of more, one choice after another until none brings anything
_NAMED = 3
_ASKING = ("missing", "diligence")


@dataclass(frozen=True, slots=True)
class Way:
    """One option of an election: what it is called, and what stands otherwise then, by the mark of its place."""

    words: str
    differences: Mapping[str, str]


@dataclass(frozen=True, slots=True)
class Election:
    """What the law leaves to whoever files: `title` names it and what it is about, `cites` the rule."""

    title: str
    cites: str
    ways: tuple[Way, ...]


@dataclass(frozen=True, slots=True)
class Compared:
    """A way, with what it would bring or cost alone against the return as it stands, and the lines that make the difference:
    (label, amount now, amount then). `stops`: the law or this program does not let it, so it is not chosen. `asks` is what would
    have to be answered first; `here`: the return says so itself."""

    way: Way
    brings: Decimal
    because: tuple[tuple[str, Decimal, Decimal], ...]
    stops: bool
    asks: tuple[str, ...]
    here: bool
    best: bool


@dataclass(frozen=True, slots=True)
class Best:
    """Every election with its ways, the differences that are best together, and what they bring in all."""

    elections: tuple[tuple[Election, tuple[Compared, ...]], ...]
    differences: Mapping[str, str]
    brings: Decimal


def best_of(
    result: Result, trials: Trials, elections: Sequence[Election], told: Callable[[int, int], None] | None = None
) -> Best:
    """What of the elections is best together; the return as it stands, where nothing is better. `told` hears how far it is:
    (worked out, at most in all)."""
    return _Choosing(result, trials, elections, told or (lambda done, of: None)).done()


class _Choosing:
    def __init__(self, result: Result, trials: Trials, elections: Sequence[Election], told: Callable[[int, int], None]):
        self.result, self.trials, self.elections, self.told = result, trials, elections, told
        self.here, self.stops = together(result), _stops(result)
        self.asked = {one.says for one in result.findings}
        self.known: dict[tuple[int | None, ...], Decimal | None] = {}
        self.most = min(self._ways() + self._combined(), 400)

    def _ways(self) -> int:
        return sum(len(one.ways) for one in self.elections)

    def _combined(self) -> int:
        found = 1
        for one in self.elections:
            found *= len(one.ways) + 1
        return found

    def done(self) -> Best:
        nothing: tuple[int | None, ...] = (None,) * len(self.elections)
        self.known[nothing] = self.here
        alone = [[self._alone(number, way) for way in range(len(one.ways))] for number, one in enumerate(self.elections)]
        chosen = self._every_way() if self._combined() <= _EVERY_WAY else self._one_after_another(nothing)
        chosen = self._without_need(chosen)
        compared = tuple(
            (
                one,
                tuple(
                    Compared(way, *alone[number][place], self._is_here(way), chosen[number] == place)
                    for place, way in enumerate(one.ways)
                ),
            )
            for number, one in enumerate(self.elections)
        )
        return Best(compared, self._differences(chosen), (self._at(chosen) or ZERO) - self.here)

    def _alone(self, number: int, way: int) -> tuple[Decimal, tuple[tuple[str, Decimal, Decimal], ...], bool, tuple[str, ...]]:
        chosen = tuple(way if one == number else None for one in range(len(self.elections)))
        outcome = self._worked_out(chosen)
        asks = tuple(one.says for one in outcome.findings if _is_asked(one) and one.says not in self.asked)
        return together(outcome) - self.here, _because(self.result, outcome), _stops(outcome) > self.stops, asks

    def _is_here(self, way: Way) -> bool:
        data = self.result.run.everything
        return all(value_at(data, place_of_mark(mark)) == value for mark, value in way.differences.items())

    def _every_way(self) -> tuple[int | None, ...]:
        return max(itertools.product(*((None, *range(len(one.ways))) for one in self.elections)), key=self._rank)

    def _one_after_another(self, chosen: tuple[int | None, ...]) -> tuple[int | None, ...]:
        """Until no change of one choice brings anything: not always the best of all, never worse than the return."""
        while True:
            better = max(self._near(chosen), key=self._rank)
            if self._rank(better) <= self._rank(chosen):
                return chosen
            chosen = better

    def _near(self, chosen: tuple[int | None, ...]) -> list[tuple[int | None, ...]]:
        singles = [
            (*chosen[:number], way, *chosen[number + 1 :])
            for number, one in enumerate(self.elections)
            for way in (None, *range(len(one.ways)))
        ]
        return [chosen, *singles]

    def _without_need(self, chosen: tuple[int | None, ...]) -> tuple[int | None, ...]:
        """What brings nothing is left as it stands."""
        for number in range(len(chosen)):
            other = (*chosen[:number], None, *chosen[number + 1 :])
            if self._rank(other) >= self._rank(chosen):
                chosen = other
        return chosen

    def _rank(self, chosen: tuple[int | None, ...]) -> Decimal:
        found = self._at(chosen)
        return found if found is not None else Decimal("-Infinity")

    def _at(self, chosen: tuple[int | None, ...]) -> Decimal | None:
        """What all authorities come to; None where filing would stop that does not stop now."""
        if chosen not in self.known:
            outcome = self._worked_out(chosen)
            self.known[chosen] = together(outcome) if _stops(outcome) <= self.stops else None
        return self.known[chosen]

    def _worked_out(self, chosen: tuple[int | None, ...]) -> Result:
        said = [Difference(place_of_mark(mark), value) for mark, value in self._differences(chosen).items()]
        data = self.result.run.everything
        self.told(min(len(self.known), self.most), self.most)
        return self.trials.of(with_differences(self.result.run.pack, data, said))

    def _differences(self, chosen: tuple[int | None, ...]) -> dict[str, str]:
        found: dict[str, str] = {}
        for one, way in zip(self.elections, chosen, strict=True):
            found |= one.ways[way].differences if way is not None else {}
        return found


def _stops(result: Result) -> int:
    """How often filing stops for more than an answer that is missing."""
    return sum(1 for one in result.findings if one.weight == "stops" and one.kind not in _ASKING)


def _is_asked(finding: Finding) -> bool:
    return finding.weight == "stops" and finding.kind in _ASKING


def _because(before: Result, after: Result) -> tuple[tuple[str, Decimal, Decimal], ...]:
    """The lines of each authority's own form that differ most, totals aside: they say why."""
    heads = {line.authority.settled_on(one.run).title for one in (before, after) for line in one.bottom_lines}
    found = []
    for line in lines({"before": before, "after": after}, only_totals=False):
        now, then = (line.amounts.get(key) or ZERO for key in ("before", "after"))
        if now != then and line.form in heads and line.weight != "total":
            found.append((f"{line.label} ({line.form} {line.number})", now, then))
    return tuple(sorted(found, key=lambda one: -abs(one[2] - one[1]))[:_NAMED])
