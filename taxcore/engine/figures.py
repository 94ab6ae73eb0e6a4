"""What an amount is while it is computed: a Decimal that remembers where it stands, how it came about or which law set it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from taxcore.engine.cells import Cell

ZERO = Decimal(0)
_CENT = Decimal("0.01")
_WHOLE = Decimal(1)


def whole(value: Decimal) -> Decimal:
    """Nearest whole unit, halves away from zero: the rule of official forms that drop cents."""
    return value.quantize(_WHOLE, ROUND_HALF_UP)


def cents(value: Decimal) -> Decimal:
    """Nearest hundredth, halves away from zero."""
    return value.quantize(_CENT, ROUND_HALF_UP)


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


@dataclass(slots=True)
class Because:
    """How an amount came about. `redo` computes it again from the operands' amounts, which tests do for every line."""

    kind: str
    operands: tuple[Operand, ...]
    redo: Callable[..., Decimal]
    winner: int | None = None
    note: str = ""
    table: tuple[tuple[Decimal, Decimal, Decimal], ...] = ()


class Explained(Decimal):
    """An amount fresh from an explanation helper. The line that returns it keeps `because` in its cell."""

    __slots__ = ("because",)
    because: Because

    @classmethod
    def by(cls, value: Decimal | int, because: Because) -> Explained:
        made = cls(value)
        made.because = because
        return made
