"""The tax of a return over a range of one amount in it: points, the rate between them, and what makes each bend and jump.

Tax as a function of one amount is made of straight pieces. Where two of them meet, some line begins to answer otherwise to the
lines that it reads, though those go on as before: that line is the rule that makes the bend, and gives it its name.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from decimal import ROUND_CEILING, Decimal
from itertools import pairwise
from typing import Any

from taxcore.engine import ZERO, Result
from taxcore.whatif.columns import total_tax
from taxcore.whatif.differences import Difference, Place, with_differences
from taxcore.whatif.trials import Trials

_TABLE = Decimal(50)  # tax tables go by steps of fifty: at the same place in each step they do not show
_NEAR = Decimal("0.005")  # rates that differ by less are the same, rounded
_ROUNDED = Decimal(6)  # what rounding of lines may come to between two points
_JUMP = Decimal(25)  # less is no cliff
_MOST_NAMES = 2
Measure = Callable[[Result], Decimal]
_Mark = tuple[str, str]
_Points = Sequence[tuple[Decimal, Decimal]]


@dataclass(frozen=True, slots=True)
class Bend:
    """Where the rate turns (within two steps), or the amount jumps (`jump`, else zero; to the unit). `rates` are those before
    and after; `names` the lines that make it, with their form, and `cites` their law. `times` how often in a row, the last time
    at `until`."""

    at: Decimal
    rates: tuple[Decimal, Decimal]
    jump: Decimal
    names: tuple[str, ...]
    cites: str
    times: int = 1
    until: Decimal = ZERO


@dataclass(frozen=True, slots=True)
class Curve:
    """Points (entered, amount) at even steps, and the bends between them in their order."""

    place: Place
    points: tuple[tuple[Decimal, Decimal], ...]
    bends: tuple[Bend, ...]

    @property
    def step(self) -> Decimal:
        return self.points[1][0] - self.points[0][0]

    def rates(self) -> list[Decimal]:
        """What one unit more costs, between each two points."""
        return [(after[1] - before[1]) / self.step for before, after in pairwise(self.points)]


def curve(
    result: Result, trials: Trials, place: Place, low: Decimal, high: Decimal, of: Measure = total_tax, most: int = 200
) -> Curve:
    """The amount `of` the return over that range of a field, with at most so many points (at least eight). ValueError where
    the range is none."""
    if high - low < 8 * _TABLE:
        raise ValueError(f"A curve takes a range of {8 * _TABLE} at least.")
    along = _Along(result, trials, place, of)
    steps = ((high - low) / (most * _TABLE)).to_integral_value(ROUND_CEILING) * _TABLE
    count = int((high - low) // steps)
    points = tuple((low + number * steps, along.at(low + number * steps)) for number in range(count + 1))
    drawn = Curve(place, points, ())
    return replace(drawn, bends=tuple(_gathered(list(_bends(drawn, along)))))


class _Along:
    """The return with one field at different amounts."""

    def __init__(self, result: Result, trials: Trials, place: Place, of: Measure):
        self.data, self.pack, self.trials, self.place, self.of = result.run.everything, result.run.pack, trials, place, of
        self.last: Result = result
        self.known: dict[Decimal, dict[_Mark, Decimal]] = {}

    def at(self, amount: Decimal) -> Decimal:
        data = with_differences(self.pack, self.data, [Difference(self.place, f"{amount:f}")])
        self.last = self.trials.of(data)
        return self.of(self.last)

    def lines(self, amount: Decimal) -> dict[_Mark, Decimal]:
        """Every amount of every form there."""
        if amount not in self.known:
            self.at(amount)
            self.known[amount] = {
                (form.address_prefix, name): cell.value
                for form in self.last.run.forms()
                for name, cell in form.cells.items()
                if cell.is_amount
            }
        return self.known[amount]


def _bends(drawn: Curve, along: _Along) -> Iterator[Bend]:
    """Between each two straight pieces of at least two steps."""
    step, points, pieces = drawn.step, drawn.points, list(_pieces(drawn))
    for (begun, end, before), (start, done, after) in pairwise(pieces):
        low, high = points[end][0], points[start][0]
        width = high - low
        rest = points[start][1] - points[end][1] - before * width
        turned = (after - before) * width
        if width and not min(turned, ZERO) - _JUMP <= rest <= max(turned, ZERO) + _JUMP:
            at = _where(along, low, high, points[end][1], before, rest)
            names, cites = _names(along, low, high, step, jump=True)
            yield Bend(at, (before, after), rest, names, cites)
        elif abs(after - before) > _near(step):
            at = _crossing(points[begun : end + 1], before, points[start : done + 1], after)
            names, cites = _names(along, low, high, step, jump=False)
            yield Bend(min(max(at, low - step), high + step).quantize(Decimal(1)), (before, after), ZERO, names, cites)


def _crossing(
    one: Sequence[tuple[Decimal, Decimal]], rate: Decimal, two: Sequence[tuple[Decimal, Decimal]], then: Decimal
) -> Decimal:
    """Where two straight pieces meet, each taken through the middle of its points, where rounding weighs least."""
    (x, y), (u, v) = (tuple(sum(side, ZERO) / len(piece) for side in zip(*piece, strict=True)) for piece in (one, two))
    return ((v - then * u) - (y - rate * x)) / (rate - then)


def _middle(points: _Points) -> tuple[Decimal, Decimal]:
    count = len(points)
    return sum((x for x, _ in points), ZERO) / count, sum((y for _, y in points), ZERO) / count


def _pieces(drawn: Curve) -> Iterator[tuple[int, int, Decimal]]:
    """(first point, last point, rate) of each run of steps with one rate; a step between two runs belongs to neither."""
    rates, near = drawn.rates(), _near(drawn.step)
    start = 0
    while start < len(rates) - 1:
        end = start
        while end + 1 < len(rates) and abs(rates[end + 1] - rates[start]) <= near:
            end += 1
        if end > start:
            yield start, end + 1, sum(rates[start : end + 1], ZERO) / (end + 1 - start)
            start = end + 1
        else:
            start += 1


def _near(step: Decimal) -> Decimal:
    return max(_NEAR, _ROUNDED / step)


def _where(along: _Along, low: Decimal, high: Decimal, amount: Decimal, rate: Decimal, jump: Decimal) -> Decimal:
    """The first unit at which it has jumped."""
    begun = low
    while high - low > 1:
        middle = (low + high) // 2
        moved = along.at(middle) - amount - rate * (middle - begun)
        low, high = (low, middle) if abs(moved) > abs(jump) / 2 else (middle, high)
    return high


def _names(along: _Along, low: Decimal, high: Decimal, step: Decimal, *, jump: bool) -> tuple[tuple[str, ...], str]:
    """The lines that turn or jump there though none that they read does."""
    near = _near(step)
    first, second, third, fourth = (along.lines(amount) for amount in (low - step, low, high, high + step))
    turned: dict[_Mark, Decimal] = {}
    for mark in fourth.keys() | second.keys():
        values = [found.get(mark, ZERO) for found in (first, second, third, fourth)]
        rate = (values[1] - values[0]) / step
        by = values[2] - values[1] - rate * (high - low) if jump else (values[3] - values[2]) / step - rate
        if abs(by) > (_JUMP / 2 if jump else near):
            turned[mark] = abs(by)
    forms = {form.address_prefix: form for form in along.last.run.forms()}
    cells = {mark: forms[mark[0]].cells[mark[1]] for mark in turned if mark[0] in forms and mark[1] in forms[mark[0]].cells}
    marks = {id(cell): mark for mark, cell in cells.items()}
    roots = [mark for mark, cell in cells.items() if cell.label and not _reads_any(cell, marks)]
    chosen = sorted(roots, key=lambda mark: (-turned[mark], mark))[:_MOST_NAMES]
    names = tuple(dict.fromkeys(_called(cells[mark]) for mark in chosen))
    return names, next((cells[mark].spec.cites for mark in chosen if cells[mark].spec.cites), "")


def _called(cell: Any) -> str:
    number = f", line {cell.number}" if cell.number else ""
    return f"{cell.label} ({cell.node.title}{number})"


def _reads_any(cell: Any, marks: dict[int, _Mark]) -> bool:
    """Whether it reads one of these, straight or through what is none of the forms' amounts."""
    seen, queue = {id(cell)}, list(cell.sources())
    while queue:
        here = queue.pop()
        if id(here) in marks:
            return True
        if id(here) not in seen:
            seen.add(id(here))
            queue += here.sources()
    return False


def _gathered(bends: list[Bend]) -> Iterator[Bend]:
    """Steps of one stair are said once."""
    for number, bend in enumerate(bends):
        if number and _is_stair(bends[number - 1], bend):
            continue
        last = number
        while last + 1 < len(bends) and _is_stair(bends[last], bends[last + 1]):
            last += 1
        yield replace(bend, times=last + 1 - number, until=bends[last].at)


def _is_stair(before: Bend, after: Bend) -> bool:
    return bool(before.jump and after.jump and before.names == after.names and abs(before.jump - after.jump) <= _JUMP)
