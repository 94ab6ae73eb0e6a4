"""Depreciation of one thing over the years, by the published tables or by the formula behind them. IRC 168; Rev. Proc. 87-57.

Rates are percent of the basis for depreciation. Nothing here knows a return.
"""

from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from functools import lru_cache
from math import ceil
from pathlib import Path

from taxcore.engine.law import read_law

TABLES = read_law(Path(__file__).parent / "property.toml")
_HALF, _ONE, _ALL = Decimal("0.5"), Decimal(1), Decimal(100)
_QUARTERS = {1: Decimal("0.875"), 2: Decimal("0.625"), 3: Decimal("0.375"), 4: Decimal("0.125")}
BUILDINGS = ("residential", "nonresidential", "building")


@dataclass(frozen=True)
class Life:
    """A recovery period. `kind` is general, 150 or straight for things, residential, nonresidential or building (straight line by
    the month) for what is built. `quarter` is that of the mid-quarter convention, 0 for the half-year; `month` is used by
    buildings."""

    years: Decimal
    kind: str
    quarter: int = 0
    month: int = 1

    @property
    def first_part(self) -> Decimal:
        """Of the first year, what counts."""
        if self.kind in BUILDINGS:
            return (12 - self.month + _HALF) / 12
        return _QUARTERS.get(self.quarter, _HALF)

    @property
    def last(self) -> int:
        """The year of life in which the rest is deducted."""
        return 1 + ceil(self.years - self.first_part)

    def rate(self, year: int) -> Decimal:
        """Percent of a year of life, from 1; nothing after the last."""
        if not 1 <= year <= self.last:
            return Decimal(0)
        if self.kind in ("residential", "nonresidential"):
            return self._of_building(year)
        return self.rates()[year - 1]

    def _of_building(self, year: int) -> Decimal:
        table = TABLES[self.kind]
        if year == 1:
            return Decimal(table.first[self.month - 1])
        if "alternates_from" in table and year >= table.alternates_from:
            even_first = self.month <= 6
            return Decimal(table.alternate if (year % 2 == 0) == even_first else table.each)
        return Decimal(table.each)

    def rates(self) -> list[Decimal]:
        """All of them: as published, else by the formula."""
        name = f"{self.years:f}"
        if self.kind == "general" and not self.quarter and name in TABLES.half_year:
            return [Decimal(rate) for rate in TABLES.half_year[name]]
        if self.kind == "general" and self.quarter and name in TABLES.mid_quarter:
            return [Decimal(rate) for rate in TABLES.mid_quarter[name][self.quarter - 1]]
        return _by_formula(self.years, self.factor, self.first_part)

    @property
    def factor(self) -> Decimal:
        if self.kind == "general":
            return Decimal(TABLES.classes.factors[f"{self.years:f}"])
        return Decimal("1.5") if self.kind == "150" else _ONE

    def amount(self, basis: Decimal, year: int, taken: Decimal) -> Decimal:
        """Whole dollars of a year of life: what is left in the last one, never more than that."""
        left = max(basis - taken, Decimal(0))
        if year >= self.last:
            return left
        whole = (basis * self.rate(year) / 100).quantize(_ONE, ROUND_HALF_UP)
        return min(whole, left)

    def part_when_sold(self, month: int) -> Decimal:
        """Of a year's amount, when a thing leaves in that month of a later year than its first."""
        if self.kind in BUILDINGS:
            return (month - _HALF) / 12
        return ((month + 2) // 3 - _HALF) / 4 if self.quarter else _HALF


@lru_cache(maxsize=256)
def _by_formula(years: Decimal, factor: Decimal, first: Decimal) -> list[Decimal]:
    """Declining balance until the straight line over what is left of the period gives more. IRC 168(b)(1)."""
    found: list[Decimal] = []
    left, gone = _ALL, Decimal(0)
    while left > 0:
        rest = years - gone
        part = first if not found else min(_ONE, rest)
        amount = left * max(factor / years, 1 / rest) * part
        amount = left if gone + part >= years else min(amount, left)
        found.append(amount)
        left, gone = left - amount, gone + part
    return found


def quarter_of(month: int) -> int:
    return (month + 2) // 3
