"""What the law writes off of a thing year by year, from the day it is placed in service. IRC 167, 168, 179, 195, 197, 280F.

Functions of an asset's paper alone; the lines of the register are in assets.py. A `Way` says whose law: one that has the special
allowance, one without it, or that of the alternative minimum tax.
"""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from taxcore.engine import whole
from taxcore.packs.us.property.macrs import TABLES, Life, quarter_of
from taxcore.packs.us.property.papers import AMORTIZED, BUILT, LISTED

ZERO, _PERCENT = Decimal(0), Decimal("0.01")
_FULL_SPECIAL_SINCE = date.fromisoformat(TABLES.special.full_since)


@dataclass(frozen=True)
class Way:
    """How an authority writes things off: with the special allowance or without; where `slower`, by 150% instead of 200%."""

    special: bool = True
    slower: bool = False


FEDERAL, WITHOUT_SPECIAL, MINIMUM = Way(), Way(special=False), Way(slower=True)


def is_held_longer(first, sold, years=1):
    """Whether a thing was held for more than so many years: from the day after it was acquired. IRC 1222."""
    return (sold.year - years, sold.month, sold.day) > (first.year, first.month, first.day)


def is_mostly_business(asset):
    """Of listed property only more than half in business has the general system: IRC 280F(b)."""
    return asset.sort not in LISTED or (asset.business_share or 0) > 50


def is_depreciated(asset):
    return asset.once(_is_depreciated)


def _is_depreciated(asset):
    return bool(asset.sort) and asset.sort != "land" and asset.in_service is not None


def life_of(asset, way=FEDERAL):
    """Its recovery period; None for land and what is amortized."""
    life = asset.once(_life_of)
    if way.slower and life is not None and life.kind == "general" and life.factor == 2 and not special_rate(asset):
        return Life(life.years, "150", quarter=life.quarter)
    return life


def _is_slow(asset):
    """Whether the alternative system holds: by election, or since it is not mostly used in business. IRC 168(g), 280F(b)."""
    return asset.method == "ads" or not is_mostly_business(asset) or asset.has_fallen


def _is_of_farm(asset):
    return asset.run.by_key(("farm",), str(asset.used_in)) is not None


def _life_of(asset):
    if not is_depreciated(asset) or asset.sort in AMORTIZED or not asset.period:
        return None
    month = asset.in_service.month
    ads = _is_slow(asset)
    if asset.period in ("27.5", "39"):
        kind = "residential" if asset.period == "27.5" else "nonresidential"
        if not ads:
            return Life(Decimal(asset.period), kind, month=month)
        older = kind == "residential" and asset.in_service.year < 2018
        return Life(Decimal(40) if older else Decimal(TABLES.classes[f"{kind}_ads"]), "building", month=month)
    if ads:
        years = Decimal(asset.ads_years or asset.period)
        return Life(years, "straight", quarter=asset.quarter or 0)
    kind = str(asset.method or "general")
    if kind == "general" and asset.in_service.year < 2018 and _is_of_farm(asset):
        kind = "150"  # IRC 168(b)(2)(B) as it was until 2017
    if asset.sort == "interior":
        kind = "straight"
    return Life(Decimal(asset.period), "150" if kind == "150" else kind, quarter=asset.quarter or 0)


def special_rate(asset, way=FEDERAL):
    """IRC 168(k): in full what is acquired after 19 January 2025; else by the year it is placed in service."""
    return asset.once(_special_rate) if way.special else ZERO


def _special_rate(asset):
    if not is_depreciated(asset) or asset.no_special or _is_slow(asset):
        return ZERO
    if asset.sort in ("intangible", "start-up") or (
        asset.sort not in AMORTIZED and Decimal(asset.period or 99) > TABLES.special.longest
    ):
        return ZERO
    if (asset.acquired or asset.in_service) >= _FULL_SPECIAL_SINCE:
        return Decimal(1)
    rates, year = TABLES.special.rates, str(asset.in_service.year)
    return Decimal(rates[year]) if year in rates else ZERO


def cap_of(asset, year, way=FEDERAL):
    """The limit of a passenger automobile in a year of its life, before its business share; None where there is none."""
    caps = TABLES.automobiles
    if asset.sort != "car" or str(asset.in_service.year) not in caps:
        return None
    with_special, first, second, third, later = caps[str(asset.in_service.year)]
    if year == 1:
        return Decimal(with_special if special_rate(asset, way) else first)
    return Decimal({2: second, 3: third}.get(year, later))


def _basis(asset):
    return asset.once(_basis_of)


def _basis_of(asset):
    return whole((asset.cost - asset.land) * (asset.business_share or 0) * _PERCENT) if asset.cost > asset.land else ZERO


def before_this_year(asset, way=FEDERAL):
    """What the law gives a thing from its first year to the last one, when nothing else was entered."""
    if not is_depreciated(asset):
        return ZERO
    taken = ZERO
    for year in range(asset.in_service.year, asset.run.year):
        taken += sum(_of_year(asset, year, taken, way))
    return taken


def straight_to_the_sale(asset):
    """What the straight line over the same life would have given to the sale, without a special allowance. IRC 1250(b)(1)."""
    life = Life(Decimal(asset.period), "straight", quarter=asset.quarter or 0)
    basis, taken, gone = _basis(asset), ZERO, asset.sold.year - asset.in_service.year
    for number in range(1, gone + 1):
        taken += life.amount(basis, number, taken)
    return taken + whole(min(life.amount(basis, gone + 1, taken), basis - taken) * life.part_when_sold(asset.sold.month))


def straight_before_fall(asset):
    """What the alternative system would have given before the year in which business use fell. IRC 280F(b)(2)(B)."""
    basis, taken = whole((asset.cost - asset.land) * (asset.share_before or 0) * _PERCENT), ZERO
    life = Life(Decimal(asset.ads_years or asset.period or 5), "straight", quarter=asset.quarter or 0)
    for number in range(1, asset.fell_in - asset.in_service.year + 1):
        amount, cap = life.amount(basis, number, taken), cap_of(asset, number)
        taken += amount if cap is None else min(amount, whole(cap * (asset.share_before or 0) * _PERCENT))
    return taken


def first_and_left(asset, until):
    """(year, basis, what is left at its end) from its first year to another one, as the law goes on without a sale."""
    if not is_depreciated(asset):
        return
    taken, basis = ZERO, _basis(asset)
    for year in range(asset.in_service.year, until + 1):
        taken += sum(_of_year(asset, year, taken, FEDERAL))
        yield year, basis, max(basis - min(asset.section_179, basis) - taken, ZERO)


def _of_year(asset, year, taken, way):
    """(special allowance, the rest) of one year, limits of automobiles kept."""
    number, basis = year - asset.in_service.year + 1, _basis(asset)
    at_once = min(asset.section_179, basis)
    special = whole(special_rate(asset, way) * (basis - at_once))
    if asset.sort in AMORTIZED:
        return (special if number == 1 else ZERO), amortized(asset, basis - at_once - special, year)
    life = life_of(asset, way)
    if life is None:
        return ZERO, ZERO
    left = basis - at_once - special
    cap = cap_of(asset, number, way)
    if cap is not None:
        within = whole(cap * (asset.business_share or 0) * _PERCENT)
        return _of_car(asset, life, number, special, taken, within, way)
    return (special if number == 1 else ZERO), life.amount(left, number, max(taken - special, ZERO) if number > 1 else ZERO)


def _of_car(asset, life, number, special, taken, cap, way):
    """The table's amount up to the limit; what the limits kept back comes after the recovery period. Where the special allowance
    was all of it, the tables go on with what the first year left: Rev. Proc. 2019-13."""
    basis = _basis(asset)
    at_once = min(asset.section_179, basis)
    if number == 1:
        first = min(special, max(cap - at_once, ZERO))
        return first, min(life.amount(basis - at_once - special, 1, ZERO), max(cap - at_once - first, ZERO))
    rest = max(basis - at_once - taken, ZERO)
    if number > life.last:
        return ZERO, min(rest, cap)
    all_special = special_rate(asset, way) == 1
    base = basis - at_once - (min(special, max(first_cap(asset, way) - at_once, ZERO)) if all_special else special)
    return ZERO, min(whole(base * life.rate(number) / 100), cap, rest)


def first_cap(asset, way=FEDERAL):
    return whole((cap_of(asset, 1, way) or ZERO) * (asset.business_share or 0) * _PERCENT)


def amortized(asset, basis, year):
    """By months, from that in which it begins. Of start-up costs up to 5,000 at once, less what they are above 50,000."""
    law = TABLES.amortization
    months = {"software": law.software_months, "intangible": law.intangible_months, "start-up": law.start_up_months}[
        str(asset.sort)
    ]
    first = asset.in_service.year * 12 + asset.in_service.month - 1
    passed, now = max(year * 12 - first, 0), min((year + 1) * 12 - first, int(months))
    at_once = ZERO
    if asset.sort == "start-up":
        at_once = min(basis, max(law.start_up_at_once - max(basis - law.start_up_reduced_above, ZERO), ZERO))
    count = max(now - passed, 0)
    by_month = whole((basis - at_once) * count / Decimal(months))
    return by_month + (at_once if passed == 0 and year == asset.in_service.year else ZERO)


def quarter_of_asset(asset):
    """The quarter in which it was placed in service where the mid-quarter convention holds for what that year brought, else 0."""
    if not is_depreciated(asset) or asset.sort in (*BUILT, *AMORTIZED):
        return 0
    return quarter_of(asset.in_service.month) if asset.in_service.year in asset.run.once(_mid_quarter_years) else 0


def _counted(assets, year):
    """(asset, basis) that decide over the convention: things placed in service in a year and still there, less section 179."""
    for one in assets:
        gone = one.sold is not None and one.in_service is not None and one.sold.year == one.in_service.year
        if is_depreciated(one) and one.in_service.year == year and one.sort not in (*BUILT, *AMORTIZED) and not gone:
            yield one, _basis(one) - min(one.section_179, _basis(one))


def _mid_quarter_years(run):
    """The years whose things have the mid-quarter convention."""
    assets = run.papers("asset")
    years = {one.in_service.year for one in assets if one.in_service is not None}
    return frozenset(year for year in years if _is_mid_quarter(assets, year))


def _is_mid_quarter(assets, year):
    found = list(_counted(assets, year))
    late = sum((basis for one, basis in found if one.in_service.month > 9), ZERO)
    return late > TABLES.classes.mid_quarter_above * sum((basis for _, basis in found), ZERO)
