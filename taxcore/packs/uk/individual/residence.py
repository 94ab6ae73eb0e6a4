"""On how many days a home counts as the only or main residence.

TCGA 1992 ss. 222, 223: the days lived in, absences that the law lets count, and the last nine months of whoever ever lived in it;
nothing before 31 March 1982 counts at all.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

SINCE = date(1982, 3, 31)
_LAST_MONTHS = 9
_ONE = timedelta(days=1)
LONGEST = {"any": 3, "elsewhere": 4}  # years of absence in all: s. 223(3)(a), (c); work abroad has none: (b)


@dataclass(frozen=True, slots=True)
class Period:
    """First and last day. `why` is lived, abroad (employed abroad throughout), elsewhere (work kept them away) or any."""

    why: str
    begun: date
    ended: date


def relieved_days(bought: date, sold: date, periods: Sequence[Period]) -> int:
    """How many days of ownership are relieved."""
    return len(relieved_on(bought, sold, periods))


def last_months(sold: date) -> set[int]:
    """The days, as ordinals, before a sale that count whether or not anybody lived there."""
    return _days([(_months_before(sold, _LAST_MONTHS), sold - _ONE)], SINCE, sold - _ONE)


def relieved_on(bought: date, sold: date, periods: Sequence[Period]) -> set[int]:
    """Days of ownership that are relieved, as ordinals; all days but that of the sale count, and none twice."""
    begun = max(bought, SINCE)
    lived = [one for one in periods if one.why == "lived" and one.begun < sold and one.ended >= bought]
    if not lived or sold <= begun:
        return set()
    spans = [(one.begun, one.ended) for one in lived]
    for why in ("any", "elsewhere", "abroad"):
        absent = [one for one in periods if one.why == why and _counts(one, lived)]
        spans += _at_most(absent, LONGEST.get(why))
    spans.append((_months_before(sold, _LAST_MONTHS), sold - _ONE))
    return _days(spans, begun, sold - _ONE)


def _counts(absence: Period, lived: list[Period]) -> bool:
    """It was the residence before; and afterwards too, unless work kept them from coming back: s. 223(3A), (3B)."""
    before = any(one.ended < absence.begun for one in lived)
    return before and (absence.why != "any" or any(one.begun > absence.ended for one in lived))


def _at_most(absences: list[Period], years: int | None) -> list[tuple[date, date]]:
    """The first days of these absences, as many as so many years from the first have."""
    spans: list[tuple[date, date]] = []
    for one in sorted(absences, key=lambda one: one.begun):
        last = one.ended
        if years is not None:
            first = spans[0][0] if spans else one.begun
            gone = sum(((end - start).days + 1 for start, end in spans), 0)
            allowed = (_months_before(first, -12 * years) - first).days - gone
            last = min(last, one.begun + timedelta(days=allowed - 1))
        if last >= one.begun:
            spans.append((one.begun, last))
    return spans


def _days(spans: Iterable[tuple[date, date]], first: date, last: date) -> set[int]:
    return {number for begun, ended in spans for number in range(max(begun, first).toordinal(), min(ended, last).toordinal() + 1)}


def _months_before(day: date, months: int) -> date:
    year, month = divmod(day.year * 12 + day.month - 1 - months, 12)
    length = (date(year + (month == 11), (month + 1) % 12 + 1, 1) - _ONE).day
    return date(year, month + 1, min(day.day, length))
