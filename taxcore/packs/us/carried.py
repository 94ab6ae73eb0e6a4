"""What waits from year to year by the year it comes from."""

from collections.abc import Iterable
from decimal import Decimal
from typing import Any

from taxcore.engine import whole


def by_year(rows: Iterable[Any], since: int, until: int) -> list[tuple[int, Decimal]]:
    """(year, amount) of rows from a year on and before another, the oldest first."""
    found = [(row.from_year, whole(row.amount)) for row in rows if row.from_year is not None and since <= row.from_year < until]
    return sorted(found)


def as_rows(parts: Iterable[tuple[int, Decimal]]) -> list[dict[str, str]]:
    """(year, amount) as the rows of next year's paper; what is used up is none."""
    return [{"from_year": str(year), "amount": f"{amount:f}"} for year, amount in parts if amount > 0]


def left_over(rows: Iterable[tuple[int, Decimal]], used: Decimal) -> list[tuple[int, Decimal]]:
    """What is left of each when so much is used, the first of them first."""
    found = []
    for year, amount in rows:
        taken = min(amount, used)
        used -= taken
        found.append((year, amount - taken))
    return found
