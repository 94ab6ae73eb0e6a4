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


class Picture:
    """A flow in the making: wells from the left, and the streams between them."""

    def __init__(self) -> None:
        self.wells: list[Well] = []
        self.streams: list[Stream] = []

    def made(self) -> Flow:
        return Flow(tuple(self.wells), tuple(self.streams))

    def well(self, key: str, column: int, name: str, amount: Decimal, address: str, kind: str = "middle") -> None:
        self.wells.append(Well(key, column, name, Decimal(amount), address, kind))

    def income_of(self, key: str, label: str, amount: Decimal, address: str) -> None:
        """A source at the left, or a loss that is taken off the income together."""
        if amount > 0:
            self.well(key, 0, label, amount, address, "source")
            self.streams.append(Stream(key, "income", amount))
        elif amount < 0:
            self.off("income", key, 2, f"{label}, a loss", -amount, address)

    def off(self, source: str, key: str, column: int, name: str, amount: Decimal, address: str) -> None:
        if amount > 0:
            self.well(key, column, name, amount, address, "away")
            self.streams.append(Stream(source, key, Decimal(amount)))

    def on(self, source: str, key: str, column: int, name: str, amount: Decimal, address: str) -> None:
        self.well(key, column, name, amount, address)
        if amount > 0:
            self.streams.append(Stream(source, key, Decimal(amount)))
