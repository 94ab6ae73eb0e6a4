"""Arithmetic that explains itself: each helper computes and leaves behind its operands, which one won, which condition failed.

A line returns what a helper gives it. Nesting is fine: `share(rate, of=excess(x, over=y))` keeps both steps. What was given is
kept as it is, and put into operands only when somebody asks for the explanation.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_UP, Decimal
from typing import Any

from taxcore.engine.figures import ZERO, Explained, Operand, is_mapping

Amounts = Any  # an amount, an iterable of amounts, or a mapping from names to amounts
_NOTHING: tuple[Amounts, ...] = ()


def _told(
    value: Decimal,
    kind: str,
    given: tuple[Any, Any],
    redo: Callable[..., Decimal],
    winner: int | None = None,
    note: str = "",
    table: tuple[Any, ...] = (),
    known: tuple[Operand, ...] | None = None,
) -> Explained:
    """An amount with what its `Because` is made from."""
    made = Explained(value)
    made.told = (kind, given, redo, winner, note, table, known)
    return made


def total(*values: Amounts, less: Amounts = _NOTHING) -> Explained:
    """Sum of everything given, less everything in `less`. May be negative."""
    value = _sum(values)
    if less is not _NOTHING:
        value -= _sum((less,))
    return _told(value, "total", (values, (less,)), _add_again)


def least(*values: Amounts, of: Mapping[str, Decimal] | None = None) -> Explained:
    """The smallest of the amounts; the explanation says which one."""
    return _chosen("least", min, (*values, of or ()))


def greatest(*values: Amounts, of: Mapping[str, Decimal] | None = None) -> Explained:
    """The largest of the amounts; `greatest(x, 0)` is x, but not below zero."""
    return _chosen("greatest", max, (*values, of or ()))


def excess(value: Amounts, *, over: Amounts) -> Explained:
    """What `value` has above `over`, never less than zero."""
    found = _one(value) - _one(over)
    value = _single(value)
    return _told(found if found > 0 else ZERO, "excess", ((value,), (over,)), _excess)


def share(rate: Decimal, *, of: Amounts) -> Explained:
    """`rate` (0.062 is 6.2%) times an amount, unrounded."""
    of = _single(of)
    return _told(rate * _one(of), "share", (({"rate": rate}, of), ()), _product)


def times(count: int | Decimal, value: Amounts, *, of: str = "count") -> Explained:
    """`count` times an amount; `of` names what is counted."""
    value = _single(value)
    return _told(count * _one(value), "times", (({of: count}, value), ()), _product)


def steps(value: Amounts, *, of: Decimal) -> Explained:
    """How many steps of size `of` it takes to reach `value`, part steps counting whole. Nothing below zero."""
    return _told(_steps(_one(value), of), "steps", ((value, {"step": of}), ()), _steps)


def full_steps(value: Amounts, *, of: Decimal) -> Explained:
    """How many whole steps of size `of` are in `value`; a part of a step does not count."""
    return _told(_full_steps(_one(value), of), "full steps", ((value, {"step": of}), ()), _full_steps)


def ratio(part: Amounts, *, over: Amounts, places: int | None = None) -> Explained:
    """`part` divided by `over`, to so many decimal places, halves up. Nothing over nothing is zero."""
    redo = _Ratio(places)
    part, over = _single(part), _single(over)
    return _told(redo(_one(part), _one(over)), "ratio", ((part, over), ()), redo)


def pro_rata(value: Amounts, part: Amounts, whole: Amounts) -> Explained:
    """As much of `value` as `part` is of `whole`."""
    value, part, whole = _single(value), _single(part), _single(whole)
    found = _pro_rata(_one(value), _one(part), _one(whole))
    return _told(found, "pro rata", ((value, part, whole), ()), _pro_rata)


def by_bands(value: Amounts, bands: Sequence[tuple[Decimal, Decimal]]) -> Explained:
    """Tax by bands. `bands` are (lower edge, rate) in rising order; the part above each edge bears that band's rate."""
    redo = _Bands(bands)
    amount = _one(value)
    return _told(redo(amount), "bands", ((value,), ()), redo, table=tuple(_band_parts(amount, bands)))


def nothing_because(condition: str, *read: Amounts) -> Explained:
    """Zero, and the condition that made it so. `read` are the amounts the condition turned on."""
    return _told(ZERO, "nothing", (read, ()), _nothing, note=condition)


def absent(condition: str) -> Explained:
    """Zero, since nothing was entered that would make it more: a weaker reason than a condition of the law."""
    return _told(ZERO, "absent", ((), ()), _nothing, note=condition)


def when(condition: bool, value: Amounts, otherwise: str) -> Explained:
    """`value` where the condition holds; else nothing, because `otherwise`."""
    return total(value) if condition else nothing_because(otherwise)


def explained(kind: str, value: Decimal, operands: Iterable[Operand], redo: Any, note: str = "") -> Explained:
    """For a pack's own arithmetic, such as an official table: the same record with a kind of its own."""
    return _told(value, kind, ((), ()), redo, note=note, known=tuple(operands))


def _sum(values: Iterable[Amounts]) -> Decimal:
    found = ZERO
    for value in values:
        found += value if isinstance(value, Decimal) else _one(value)
    return found


def _one(value: Amounts) -> Decimal:
    if isinstance(value, Decimal):
        return value
    return _sum(value.values() if is_mapping(value) else value) if not isinstance(value, int) else Decimal(value)


def _single(value: Amounts) -> Amounts:
    """One operand: several amounts given for one place are their sum, and say so."""
    return total(value) if isinstance(value, (list, tuple)) else value


def _flat(values: Iterable[Amounts], add: Any) -> None:
    for value in values:
        if isinstance(value, Decimal):
            add(value)
        elif isinstance(value, int):
            add(Decimal(value))
        else:
            _flat(value.values() if is_mapping(value) else value, add)


def _chosen(kind: str, choose: Any, values: tuple[Amounts, ...]) -> Explained:
    amounts: list[Decimal] = []
    _flat(values, amounts.append)
    value = choose(amounts)
    redo = _least if choose is min else _greatest
    return _told(value, kind, (values, ()), redo, amounts.index(value))


def _least(*amounts: Decimal) -> Decimal:
    return min(amounts)


def _greatest(*amounts: Decimal) -> Decimal:
    return max(amounts)


def _add_again(*amounts: Decimal) -> Decimal:
    """Operands that are taken away come with their sign."""
    return sum(amounts, ZERO)


def _excess(value: Decimal, *over: Decimal) -> Decimal:
    return max(value + sum(over, ZERO), ZERO)


def _product(one: Decimal, other: Decimal) -> Decimal:
    return one * other


def _nothing(*amounts: Decimal) -> Decimal:
    return ZERO


def _steps(value: Decimal, step: Decimal) -> Decimal:
    return max((value / step).to_integral_value(ROUND_CEILING), ZERO)


def _full_steps(value: Decimal, step: Decimal) -> Decimal:
    return max((value / step).to_integral_value(ROUND_FLOOR), ZERO)


def _pro_rata(value: Decimal, part: Decimal, whole: Decimal) -> Decimal:
    return value * part / whole if whole else ZERO


class _Ratio:
    __slots__ = ("places",)

    def __init__(self, places: int | None):
        self.places = places

    def __call__(self, part: Decimal, over: Decimal) -> Decimal:
        if over == 0:
            return ZERO
        found = part / over
        return found if self.places is None else found.quantize(Decimal(1).scaleb(-self.places), ROUND_HALF_UP)


class _Bands:
    __slots__ = ("bands",)

    def __init__(self, bands: Sequence[tuple[Decimal, Decimal]]):
        self.bands = bands

    def __call__(self, amount: Decimal) -> Decimal:
        return sum((part * rate for _, rate, part in _band_parts(amount, self.bands)), ZERO)

    def formula(self, amount: str, named: Callable[[Decimal], str]) -> str:
        """The same for a spreadsheet."""
        return bands_formula(amount, self.bands, named)


def bands_formula(amount: str, bands: Sequence[tuple[Decimal, Decimal]], named: Callable[[Decimal], str]) -> str:
    """Tax by bands as a spreadsheet's formula; `named` gives the place of an amount of the law."""
    steps = []
    for place, (edge, rate) in enumerate(bands):
        upper = named(bands[place + 1][0]) if place + 1 < len(bands) else amount
        steps.append(f"MAX(0,MIN({amount},{upper})-{named(edge)})*{named(rate)}")
    return "+".join(steps)


def _band_parts(amount: Decimal, bands: Sequence[tuple[Decimal, Decimal]]) -> Iterator[tuple[Decimal, Decimal, Decimal]]:
    for position, (edge, rate) in enumerate(bands):
        if amount <= edge:
            return
        upper = bands[position + 1][0] if position + 1 < len(bands) else amount
        yield edge, rate, min(amount, upper) - edge
