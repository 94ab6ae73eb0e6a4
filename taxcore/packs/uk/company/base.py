"""What papers and pages of a company's return share: its law by financial years, whole pounds, periods of its own."""

from datetime import date, timedelta
from decimal import Decimal
from pathlib import Path

from taxcore.engine import Paper
from taxcore.engine.periods import Period

YEARS = Path(__file__).parent / "years"
FILED = (2022, 2023, 2024, 2025)  # financial years in which a period may end; that of 2021 is there for periods that begin in it
_ONE = timedelta(days=1)


class CompanyPaper(Paper):
    jurisdiction = "uk"
    owned = False


def financial_year(day: date) -> int:
    """1 April to 31 March, by the year it begins in: CTA 2010 s. 1119."""
    return day.year if day.month >= 4 else day.year - 1


def usual_period(year: int) -> Period:
    return Period(date(year, 4, 1), date(year + 1, 3, 31))


def shown(year: int) -> str:
    return f"financial year {year}"


def shown_period(period: Period) -> str:
    return f"period to {period.end:%-d %b %Y}"


def months_after(day: date, months: int) -> date:
    """The same day of a later month, or its last one; after a last day of a month the last day."""
    last = (day + _ONE).day == 1
    year, month = divmod(day.year * 12 + day.month - 1 + months, 12)
    end = (date(year + (month == 11), (month + 1) % 12 + 1, 1) - _ONE).day
    return date(year, month + 1, end if last else min(day.day, end))


def period_after(period: Period) -> Period:
    """Twelve months from the day after: CTA 2009 s. 9."""
    return Period(period.end + _ONE, months_after(period.end, 12))


def twelve_months_of(period: Period) -> int:
    """The days of the twelve months that begin with a period: what limits are apportioned by."""
    return (months_after(period.start - _ONE, 12) - period.start).days + 1


def refuses_period(period: Period) -> str:
    """An accounting period is no longer than twelve months: CTA 2009 s. 10(1)(a)."""
    if period.days > twelve_months_of(period):
        return (
            "A period has no more than twelve months. Accounts of more give two returns: the first twelve months, then the rest."
        )
    return ""


def months_of(period: Period) -> Decimal:
    """Whole months and thirtieths of another, to two places: SI 1998/3175 reg. 5(5)."""
    whole = 0
    while months_after(period.start - _ONE, whole + 1) <= period.end:
        whole += 1
    rest = (period.end - months_after(period.start - _ONE, whole)).days
    return (whole + Decimal(rest) / 30).quantize(Decimal("0.01"))


def days_shared(period: Period, other: tuple[date, date]) -> int:
    """How many days two periods have in common."""
    return max((min(period.end, other[1]) - max(period.start, other[0])).days + 1, 0)
