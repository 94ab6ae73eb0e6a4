"""One amount divided over two columns: for each total the division that costs least, such as to convert now and next year."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import ROUND_CEILING, Decimal
from itertools import pairwise

from taxcore.engine import ZERO, CannotRoll, Result
from taxcore.whatif.columns import RETURN, Column, Outcome, total_tax, worked_out
from taxcore.whatif.differences import Difference, Place

STEPS = 12
_ROUNDED = Decimal(4)  # what lines rounded to the dollar may come to, over two returns
_TABLE = Decimal(50)  # tax tables go by steps of fifty


@dataclass(frozen=True, slots=True)
class Side:
    """A field of a column, or of the return where `column` is its key."""

    column: str
    place: Place


@dataclass(frozen=True, slots=True)
class Division:
    """A total, how much of it stands on either side, and the tax of both columns with every authority."""

    first: Decimal
    second: Decimal
    tax: Decimal

    @property
    def total(self) -> Decimal:
        return self.first + self.second


@dataclass(frozen=True, slots=True)
class Frontier:
    """`best` (but for what rounding of lines comes to) for each total, from nothing upwards at even steps;
    `all_first` and `all_second` the same totals on one side alone."""

    best: tuple[Division, ...]
    all_first: tuple[Division, ...]
    all_second: tuple[Division, ...]

    def rates(self) -> list[Decimal]:
        """What a unit more costs on the best way, between each two totals."""
        return [(after.tax - before.tax) / (after.total - before.total) for before, after in pairwise(self.best)]


def frontier(result: Result, columns: Sequence[Column], first: Side, second: Side, most: Decimal, steps: int = STEPS) -> Frontier:
    """Totals up to `most`, which is rounded up to whole steps of fifty. ValueError where the two sides are one, or there is no
    range; CannotRoll where a column cannot be worked out."""
    if first == second:
        raise ValueError("Choose two columns, or two fields: the two sides are one.")
    step = (most / (steps * _TABLE)).to_integral_value(ROUND_CEILING) * _TABLE
    if step <= 0:
        raise ValueError("Enter how much there is to divide.")
    plane = dict(_plane(result, columns, first, second, step, steps))
    best, on_first, on_second = list[Division](), list[Division](), list[Division]()
    for total in range(steps + 1):
        ways = [Division(x * step, (total - x) * step, plane[x, total - x]) for x in range(total + 1)]
        best.append(_best(ways, best[-1] if best else None))
        on_second.append(ways[0])
        on_first.append(ways[-1])
    return Frontier(tuple(best), tuple(on_first), tuple(on_second))


def _best(ways: Sequence[Division], before: Division | None) -> Division:
    """The cheapest; of those that only rounding sets apart, the one nearest to the division of the total before."""
    least = min(one.tax for one in ways)
    alike = [one for one in ways if one.tax <= least + _ROUNDED]
    return min(alike, key=lambda one: (abs(one.first - before.first), one.tax)) if before is not None else alike[0]


def _plane(
    result: Result, columns: Sequence[Column], first: Side, second: Side, step: Decimal, steps: int
) -> Iterator[tuple[tuple[int, int], Decimal]]:
    """The tax of both columns with x steps on the first and y on the second, no more than so many together."""
    known: Mapping[str, Outcome] | None = None
    made, keys = _with_the_return(columns, first, second)
    for x in range(steps + 1):
        for y in range(steps + 1 - x):
            there = [_set(_set(one, keys[0], first.place, x * step), keys[1], second.place, y * step) for one in made]
            known = worked_out(result, there, known)
            yield (x, y), sum((_tax(known[key]) for key in dict.fromkeys(keys)), ZERO)


def _with_the_return(columns: Sequence[Column], first: Side, second: Side) -> tuple[list[Column], list[str]]:
    """The columns that matter, with one that stands for the return where a side is the return, and the key of either side."""
    made, keys = list(_that_matter(columns, (first.column, second.column))), []
    for side in (first, second):
        if side.column == RETURN and not any(one.key == _STANDS for one in made):
            made = [Column(_STANDS), *(replace(one, based_on=_STANDS) if one.based_on == RETURN else one for one in made)]
        keys.append(_STANDS if side.column == RETURN else side.column)
    return made, keys


_STANDS = "as it stands"


def _that_matter(columns: Sequence[Column], keys: Sequence[str]) -> Iterator[Column]:
    """These, and what they are based on."""
    by_key, wanted = {one.key: one for one in columns}, set[str]()
    for key in keys:
        while key in by_key and key not in wanted:
            wanted.add(key)
            key = by_key[key].based_on
    return (one for one in columns if one.key in wanted)


def _set(column: Column, key: str, place: Place, more: Decimal) -> Column:
    if column.key != key:
        return column
    rest = tuple(one for one in column.differences if one.place != place)
    return replace(column, differences=(*rest, Difference(place, f"{more:f}")))


def _tax(outcome: Outcome) -> Decimal:
    if outcome.result is None:
        raise CannotRoll(outcome.says)
    return total_tax(outcome.result)
