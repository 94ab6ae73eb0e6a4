"""Legal holidays that move a due date. IRC 7503: the District of Columbia's, and those of the whole state where an office is.

The calendar is the kept library `holidays`. A day that is a holiday everywhere moves every authority's date; Patriots' Day moves
it for those who live in Maine or Massachusetts; a state's own holidays move that state's date.
"""

from collections.abc import Callable
from datetime import date
from functools import cache

import holidays as calendar

DISTRICT = "DC"


@cache
def legal_holidays(place: str, year: int) -> frozenset[date]:
    """Days on which nothing is due in a state or the District, the federal ones among them."""
    known = calendar.US.subdivisions
    return frozenset(calendar.US(subdiv=place if place in known else None, years=year))


def federal(year: int, home: str = "") -> frozenset[date]:
    """Days on which nothing is due to the IRS from somebody who lives in `home`."""
    return legal_holidays(DISTRICT, year) | (legal_holidays(home, year) if home in ("MA", "ME") else frozenset())


def of_state(code: str) -> Callable[[int, str], frozenset[date]]:
    """The same for one state's authority: its own, and the District's, since states follow the federal date of April."""

    def closed(year: int, home: str = "") -> frozenset[date]:
        return legal_holidays(code, year) | legal_holidays(DISTRICT, year)

    return closed
