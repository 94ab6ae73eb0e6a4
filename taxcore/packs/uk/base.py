"""What British papers and pages share: the jurisdiction, pounds on pages, pence in calculations, the tax year."""

from datetime import date
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from pathlib import Path

from taxcore.engine import Form, Paper
from taxcore.engine.figures import cents
from taxcore.engine.periods import Period

YEARS = Path(__file__).parent / "years"
REGIONS = {"england": "England or Northern Ireland", "scotland": "Scotland", "wales": "Wales"}


class BritishPaper(Paper):
    jurisdiction = "uk"


class Page(Form):
    """A page of the return: whole pounds, of income what is less, so that rounding is never to the taxpayer's cost."""

    jurisdiction = "uk"

    @staticmethod
    def rounding(value: Decimal) -> Decimal:
        return value.quantize(Decimal(1), ROUND_FLOOR)


class Calculation(Form):
    """A step of the tax calculation: pounds and pence."""

    jurisdiction = "uk"
    rounding = staticmethod(cents)


def up(value: Decimal) -> Decimal:
    """Whole pounds for what is deducted: upwards."""
    return value.quantize(Decimal(1), ROUND_CEILING)


def tax_year(year: int) -> Period:
    """From 6 April of the year that names it to 5 April of the next: ITA 2007 s. 4."""
    return Period(date(year, 4, 6), date(year + 1, 4, 5))


def year_of(day: date) -> int:
    return day.year if (day.month, day.day) >= (4, 6) else day.year - 1


def shown_year(year: int) -> str:
    """As the trade writes it: 2025-26."""
    return f"{year}-{(year + 1) % 100:02d}"
