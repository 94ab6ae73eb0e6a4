"""The picture of a return as plain values: wells that money stands in, streams that lead from one to the next."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import Decimal


@dataclass(frozen=True, slots=True)
class Well:
    """Money in one place: where in the picture (`column` from the left), its name, its amount, the line that says so.

    `kind` is source, middle, away (what is taken off) or end (a bottom line).
    """

    key: str
    column: int
    name: str
    amount: Decimal
    address: str
    kind: str = "middle"


@dataclass(frozen=True, slots=True)
class Stream:
    """Money on its way from one well to another; never negative. `again` is for what is taken out of money that has gone on
    already: a second tax on the same income."""

    source: str
    target: str
    amount: Decimal
    again: bool = False


@dataclass(frozen=True, slots=True)
class Flow:
    wells: tuple[Well, ...]
    streams: tuple[Stream, ...]
