"""What an amount is while it is computed: a Decimal that remembers where it stands, how it came about or which law set it."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from types import GeneratorType
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from taxcore.engine.cells import Cell

ZERO = Decimal(0)
_CENT = Decimal("0.01")
_WHOLE = Decimal(1)
_PLAIN = (tuple, list, GeneratorType, set, frozenset)


def whole(value: Decimal) -> Decimal:
    """Nearest whole unit, halves away from zero: the rule of official forms that drop cents."""
    return value.quantize(_WHOLE, ROUND_HALF_UP)


def cents(value: Decimal) -> Decimal:
    """Nearest hundredth, halves away from zero."""
    return value.quantize(_CENT, ROUND_HALF_UP)


def is_mapping(value: Any) -> bool:
    """Whether amounts come with names. Plain kinds are told at once: asking an abstract class takes ten times as long."""
    return type(value) is dict or (type(value) not in _PLAIN and isinstance(value, Mapping))


class Figure(Decimal):
    """The settled amount of one cell. Arithmetic on it gives plain Decimals; `cell` leads back to its place."""

    __slots__ = ("cell",)
    cell: Cell


class LawFigure(Decimal):
    """An amount or rate that a law sets: `path` in the year's file, `source` where it was read."""

    __slots__ = ("path", "source")
    path: str
    source: str

    @classmethod
    def of(cls, value: Any, path: str, source: str) -> LawFigure:
        made = cls(value)
        made.path, made.source = path, source
        return made


# Not frozen, though never changed: hundreds are made for each computation, and making a frozen one takes three times as long
@dataclass(slots=True)
class Operand:
    """One amount that went into another. `name` is None where the amount's own cell names it."""

    value: Decimal
    name: str | None = None
    minus: bool = False


class Because:
    """How an amount came about. `redo` computes it again from what `again` gives, which tests do for every line.

    `given` is what a helper was given, (added, taken away); `operands` are made from it when somebody looks at them.
    """

    __slots__ = ("_operands", "given", "kind", "note", "redo", "table", "winner")

    def __init__(
        self,
        kind: str,
        given: tuple[Any, Any],
        redo: Callable[..., Decimal],
        winner: int | None = None,
        note: str = "",
        table: tuple[tuple[Decimal, Decimal, Decimal], ...] = (),
        known: tuple[Operand, ...] | None = None,
    ):
        self.kind = kind
        self.given = given
        self.redo = redo
        self.winner = winner
        self.note = note
        self.table = table
        self._operands = known

    @property
    def operands(self) -> tuple[Operand, ...]:
        if self._operands is None:
            added, taken_away = self.given
            self._operands = (*_operands(added, False), *_operands(taken_away, True))
        return self._operands

    def again(self) -> Decimal:
        """The amount, worked out once more from its operands."""
        return self.redo(*(-operand.value if operand.minus else operand.value for operand in self.operands))


def _operands(values: Any, minus: bool) -> Iterator[Operand]:
    for value in values:
        if isinstance(value, Decimal):
            yield Operand(value, None, minus)
        elif isinstance(value, int):
            yield Operand(Decimal(value), None, minus)
        elif is_mapping(value):
            for name, named in value.items():
                yield Operand(named if isinstance(named, Decimal) else Decimal(named), name, minus)
        else:
            yield from _operands(value, minus)


class Explained(Decimal):
    """An amount fresh from an explanation helper; the line that returns it keeps it in its cell.

    `told` is what `Because` is made from when somebody looks: hundreds of amounts are worked out for each that is looked at.
    """

    __slots__ = ("told",)
    told: tuple[Any, ...]

    @property
    def because(self) -> Because:
        return Because(*self.told)
