"""How much of the gain on a home is relieved: the part of the ownership in which it was the only or main residence.

TCGA 1992 ss. 222, 223: the last nine months count wherever it ever was; nothing before 31 March 1982 counts at all.
"""

from datetime import date, timedelta
from decimal import Decimal

_SINCE = date(1982, 3, 31)
_LAST_MONTHS = 9


def relieved_part(bought: date, sold: date, lived_from: date, lived_until: date) -> Decimal:
    """The part from nothing to one, by days; all days but that of the sale count. Nothing where the days are none."""
    begun = max(bought, _SINCE)
    owned = (sold - begun).days
    first, last = max(lived_from, begun), min(lived_until + timedelta(days=1), sold)
    if owned <= 0 or last <= first:
        return Decimal(0)
    final = max(_months_before(sold, _LAST_MONTHS), begun)
    days = (last - first).days + max((sold - max(final, last)).days, 0)
    return Decimal(min(days, owned)) / Decimal(owned)


def _months_before(day: date, months: int) -> date:
    year, month = divmod(day.year * 12 + day.month - 1 - months, 12)
    length = (date(year + (month == 11), (month + 1) % 12 + 1, 1) - timedelta(days=1)).day
    return date(year, month + 1, min(day.day, length))
