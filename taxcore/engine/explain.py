"""Arithmetic that explains itself: each helper computes and leaves behind its operands, which one won, which condition failed.

A line returns what a helper gives it. Nesting is fine: `share(rate, of=excess(x, over=y))` keeps both steps.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_UP, Decimal
from typing import Any

from taxcore.engine.figures import ZERO, Because, Explained, Operand

Amounts = Any  # an amount, an iterable of amounts, or a mapping from names to amounts


def total(*values: Amounts, less: Amounts = ()) -> Explained:
    """Sum of everything given, less everything in `less`. May be negative."""
    operands: list[Operand] = []
    _gather(values, False, operands.append)
    if less != ():
        _gather((less,), True, operands.append)
    value = ZERO
    for operand in operands:
        value = value - operand.value if operand.minus else value + operand.value
    return Explained.by(value, Because("total", tuple(operands), _Sum(operands)))


class _Sum:
    """Adds amounts again, with the signs of these operands."""

    __slots__ = ("operands",)

    def __init__(self, operands: list[Operand]):
        self.operands = operands

    def __call__(self, *amounts: Decimal) -> Decimal:
        signed = zip(amounts, self.operands, strict=True)
        return sum((-amount if operand.minus else amount for amount, operand in signed), ZERO)


def least(*values: Amounts, of: Mapping[str, Decimal] | None = None) -> Explained:
    """The smallest of the amounts; the explanation says which one."""
    return _chosen("least", min, tuple(_operands((*values, of or ()))))


def greatest(*values: Amounts, of: Mapping[str, Decimal] | None = None) -> Explained:
    """The largest of the amounts; `greatest(x, 0)` is x, but not below zero."""
    return _chosen("greatest", max, tuple(_operands((*values, of or ()))))


def excess(value: Amounts, *, over: Amounts) -> Explained:
    """What `value` has above `over`, never less than zero."""
    operands = (*_operands((value,)), *_operands((over,), minus=True))
    redo = _excess
    return Explained.by(redo(*(o.value for o in operands)), Because("excess", operands, redo))


def share(rate: Decimal, *, of: Amounts) -> Explained:
    """`rate` (0.062 is 6.2%) times an amount, unrounded."""
    operands = (Operand(rate, "rate"), *_operands((of,)))
    return Explained.by(operands[0].value * operands[1].value, Because("share", operands, _product))


def times(count: int | Decimal, value: Amounts, *, of: str = "count") -> Explained:
    """`count` times an amount; `of` names what is counted."""
    operands = (Operand(Decimal(count), of), *_operands((value,)))
    return Explained.by(operands[0].value * operands[1].value, Because("times", operands, _product))


def steps(value: Amounts, *, of: Decimal) -> Explained:
    """How many steps of size `of` it takes to reach `value`, part steps counting whole. Nothing below zero."""
    operands = (*_operands((value,)), Operand(of, "step"))
    return Explained.by(_steps(operands[0].value, of), Because("steps", operands, _steps))


def ratio(part: Amounts, *, over: Amounts, places: int | None = None) -> Explained:
    """`part` divided by `over`, to so many decimal places, halves up. Nothing over nothing is zero."""
    operands = (*_operands((part,)), *_operands((over,)))
    redo = _Ratio(places)
    return Explained.by(redo(operands[0].value, operands[1].value), Because("ratio", operands, redo))


def pro_rata(value: Amounts, part: Amounts, whole: Amounts) -> Explained:
    """As much of `value` as `part` is of `whole`."""
    operands = (*_operands((value,)), *_operands((part,)), *_operands((whole,)))
    return Explained.by(_pro_rata(*(o.value for o in operands)), Because("pro rata", operands, _pro_rata))


def full_steps(value: Amounts, *, of: Decimal) -> Explained:
    """How many whole steps of size `of` are in `value`; a part of a step does not count."""
    operands = (*_operands((value,)), Operand(of, "step"))
    return Explained.by(_full_steps(operands[0].value, of), Because("full steps", operands, _full_steps))


def by_bands(value: Amounts, bands: Sequence[tuple[Decimal, Decimal]]) -> Explained:
    """Tax by bands. `bands` are (lower edge, rate) in rising order; the part above each edge bears that band's rate."""
    operands = tuple(_operands((value,)))
    table = tuple(_band_parts(operands[0].value, bands))

    def redo(amount: Decimal) -> Decimal:
        return sum((part * rate for _, rate, part in _band_parts(amount, bands)), ZERO)

    return Explained.by(redo(operands[0].value), Because("bands", operands, redo, table=table))


def nothing_because(condition: str, *read: Amounts) -> Explained:
    """Zero, and the condition that made it so. `read` are the amounts the condition turned on."""
    operands = tuple(_operands(read))
    return Explained.by(ZERO, Because("nothing", operands, _nothing, note=condition))


def when(condition: bool, value: Amounts, otherwise: str) -> Explained:
    """`value` where the condition holds; else nothing, because `otherwise`."""
    return total(value) if condition else nothing_because(otherwise)


def explained(kind: str, value: Decimal, operands: Iterable[Operand], redo: Any, note: str = "") -> Explained:
    """For a pack's own arithmetic, such as an official table: the same record with a kind of its own."""
    return Explained.by(value, Because(kind, tuple(operands), redo, note=note))


def _operands(values: Iterable[Amounts], minus: bool = False) -> list[Operand]:
    found: list[Operand] = []
    _gather(values, minus, found.append)
    return found


def _gather(values: Iterable[Amounts], minus: bool, add: Any) -> None:
    for value in values:
        if isinstance(value, Decimal):
            add(Operand(value, None, minus))
        elif isinstance(value, int):
            add(Operand(Decimal(value), None, minus))
        elif isinstance(value, Mapping):
            for name, named in value.items():
                add(Operand(named if isinstance(named, Decimal) else Decimal(named), name, minus))
        else:
            _gather(value, minus, add)


def _chosen(kind: str, choose: Any, operands: tuple[Operand, ...]) -> Explained:
    amounts = [operand.value for operand in operands]
    value = choose(amounts)
    return Explained.by(value, Because(kind, operands, lambda *again: choose(again), winner=amounts.index(value)))


def _excess(value: Decimal, *over: Decimal) -> Decimal:
    return max(value - sum(over, ZERO), ZERO)


def _product(one: Decimal, other: Decimal) -> Decimal:
    return one * other


def _nothing(*amounts: Decimal) -> Decimal:
    return ZERO


def _steps(value: Decimal, step: Decimal) -> Decimal:
    return max((value / step).to_integral_value(ROUND_CEILING), ZERO)


class _Ratio:
    __slots__ = ("places",)

    def __init__(self, places: int | None):
        self.places = places

    def __call__(self, part: Decimal, over: Decimal) -> Decimal:
        if over == 0:
            return ZERO
        found = part / over
        return found if self.places is None else found.quantize(Decimal(1).scaleb(-self.places), ROUND_HALF_UP)


def _pro_rata(value: Decimal, part: Decimal, whole: Decimal) -> Decimal:
    return value * part / whole if whole else ZERO


def _full_steps(value: Decimal, step: Decimal) -> Decimal:
    return max((value / step).to_integral_value(ROUND_FLOOR), ZERO)


def _band_parts(amount: Decimal, bands: Sequence[tuple[Decimal, Decimal]]) -> Iterator[tuple[Decimal, Decimal, Decimal]]:
    for position, (edge, rate) in enumerate(bands):
        if amount <= edge:
            return
        upper = bands[position + 1][0] if position + 1 < len(bands) else amount
        yield edge, rate, min(amount, upper) - edge
