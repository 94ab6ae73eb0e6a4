"""A business's costs in percent of its receipts against a table of what is usual. The table says itself where it comes from."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine import Result

_FILE = Path(__file__).parent / "peers.toml"
_LINES = {
    "cost_of_goods": ("cost_of_goods",),
    "wages": ("wages", "contract_labour"),
    "car": ("car", "travel"),
    "rent": ("rent_equipment", "rent_property"),
    "meals": ("meals",),
    "advertising": ("advertising",),
    "profit": ("profit",),
}


@dataclass(frozen=True, slots=True)
class Ratio:
    """One share of receipts in percent, and the range that is usual. `address` is the first line it is made of."""

    label: str
    percent: Decimal
    low: int
    high: int
    address: str

    @property
    def width(self) -> int:
        """Of the usual range, on a picture from 0 to 100."""
        return self.high - self.low

    @property
    def bar(self) -> Decimal:
        return max(min(self.percent, Decimal(100)), Decimal(0))

    @property
    def stands(self) -> str:
        if self.percent < self.low:
            return "below"
        return "above" if self.percent > self.high else "within"


@dataclass(frozen=True, slots=True)
class Comparison:
    """One business. `source` is to be shown with it; `made_up` says that the table is no statistics."""

    business: str
    address: str
    ratios: tuple[Ratio, ...]
    source: str
    made_up: bool


@cache
def table() -> dict[str, Any]:
    with _FILE.open("rb") as opened:
        return tomllib.load(opened)


def comparisons(result: Result) -> list[Comparison]:
    """Each business with receipts against its sector."""
    return [_of(form) for form in result.run.every("us.sch-c") if form.net_receipts > 0]


def _of(form: Any) -> Comparison:
    known = table()
    ranges = known["sectors"]["default"] | known["sectors"].get(form.books.code[:2], {})
    ratios = []
    for name, lines in _LINES.items():
        amount = sum((getattr(form, line) for line in lines), Decimal(0))
        percent = (amount * 100 / form.net_receipts).quantize(Decimal("0.1"))
        low, high = ranges[name]
        ratios.append(Ratio(known["labels"][name], percent, low, high, form.address(lines[0])))
    return Comparison(form.books.title, form.address_prefix, tuple(ratios), known["source"], known["made_up"])
