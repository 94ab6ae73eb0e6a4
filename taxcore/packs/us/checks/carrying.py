"""What several checks of carried amounts share: how long a year's amount may be carried."""

from collections.abc import Iterator
from typing import Any

from taxcore.engine import found


def by_year(run: Any, rows: Any, most: int, what: str, expired: str, expires: str) -> Iterator[Any]:
    """Of rows with `from_year` and `amount`: those that can be carried no more, under the code `expired`, and those whose last
    year this is, under `expires`. `what` begins the sentence: "A gift", "Foreign tax"."""
    for row in rows:
        if row.from_year is None or not row.amount:
            continue
        if row.from_year < run.year - most:
            says = f"{what} of {row.from_year} could be carried through {row.from_year + most}. Remove the row."
            yield found(row.address("from_year"), says, code=expired)
        elif row.from_year == run.year - most:
            says = f"{what} of {row.from_year}: the {row.amount:,} that is left ends with this return."
            yield found(row.address("from_year"), says, code=expires)
