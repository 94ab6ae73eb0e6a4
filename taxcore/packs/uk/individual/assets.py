"""Capital allowances of one trade: what is deducted, what is charged, and what each pool and each asset is worth a year on.

CAA 2001 ss. 51A (annual investment allowance), 45D (electric cars), 55, 56, 61, 62 (pools), 56A (small pools), 104D (special
rate), 205 to 208 (private use: a pool of its own, and only the part for business).
"""

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from typing import Any

from taxcore.engine.periods import Period

ZERO = Decimal(0)


@dataclass(frozen=True, slots=True)
class Asset:
    """`pool` is investment, electric, main or special; `private` the part of private use, from nothing to one. `before` is what
    one with private use was worth when the year began, if it was there."""

    key: str
    pool: str
    bought: date
    cost: Decimal
    private: Decimal = ZERO
    before: Decimal = ZERO
    sold: date | None = None
    proceeds: Decimal = ZERO


@dataclass(slots=True)
class Year:
    """What a year comes to. `after` is what each asset with private use is worth at its end, by key."""

    allowed: Decimal = ZERO
    charged: Decimal = ZERO
    main: Decimal = ZERO
    special: Decimal = ZERO
    after: dict[str, Decimal] = field(default_factory=dict)


def worked_out(assets: Iterable[Asset], main: Decimal, special: Decimal, period: Period, law: Any, ended: bool) -> Year:
    """A year's allowances. `main` and `special` are the pools when it begins; `law` that of plant; `ended`: the trade ended in
    the year, so that nothing is written down and all that is left is settled."""
    year = Year(main=main, special=special)
    left = ZERO if ended else Decimal(law.investment)
    for asset in assets:
        fresh = asset.bought in period
        at_once = fresh and not ended and asset.pool in ("investment", "electric")
        whole = min(asset.cost, left) if at_once and asset.pool == "investment" else asset.cost if at_once else ZERO
        left -= whole if asset.pool == "investment" else ZERO
        year.allowed += whole * (1 - asset.private)
        rest = replace(asset, cost=asset.cost - whole) if fresh else asset
        if asset.private:
            _alone(year, rest, asset.cost, period, law, ended=ended, fresh=fresh)
        else:
            _into_pool(year, rest, asset.cost, period, fresh=fresh)
    year.allowed, year.charged, year.main = _written_down(year, year.main, Decimal(law.main), law, ended=ended)
    year.allowed, year.charged, year.special = _written_down(year, year.special, Decimal(law.special), law, ended=ended)
    return year


def _into_pool(year: Year, asset: Asset, cost: Decimal, period: Period, *, fresh: bool) -> None:
    moved = asset.cost if fresh else ZERO
    if asset.sold is not None and asset.sold in period:
        moved -= min(asset.proceeds, cost)  # never more than it cost: CAA 2001 s. 62
    if asset.pool == "special":
        year.special += moved
    else:
        year.main += moved


def _alone(year: Year, asset: Asset, cost: Decimal, period: Period, law: Any, *, ended: bool, fresh: bool) -> None:
    """An asset with private use: written down by itself, and only the part for business counts."""
    value, business = (asset.cost if fresh else asset.before), 1 - asset.private
    if (asset.sold is not None and asset.sold in period) or ended:
        settled = value - min(asset.proceeds, cost)
        year.allowed += max(settled, ZERO) * business
        year.charged += max(-settled, ZERO) * business
        return
    written = value * Decimal(law.special if asset.pool == "special" else law.main)
    year.allowed += written * business
    year.after[asset.key] = value - written


def _written_down(year: Year, pool: Decimal, rate: Decimal, law: Any, *, ended: bool) -> tuple[Decimal, Decimal, Decimal]:
    """Allowed, charged, and what the pool is worth then."""
    if pool < 0:
        return year.allowed, year.charged - pool, ZERO
    written = pool if ended or pool <= law.small_pool else pool * rate
    return year.allowed + written, year.charged, pool - written
