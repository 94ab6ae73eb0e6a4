"""What every American form and paper shares: jurisdiction, whole dollars, the list of states."""

import re
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from typing import ClassVar

from taxcore.engine import Form, Line, Paper, line, total, whole

_NO_DIGIT = re.compile(r"\D")


def digits(text):
    """The digits of a number, however it is written."""
    plain = (text or "").replace("-", "")
    return plain if plain.isdigit() else _NO_DIGIT.sub("", plain)


def places(value, number):
    """A ratio as forms ask for it: so many decimal places, halves up."""
    return value.quantize(Decimal(1).scaleb(-number), ROUND_HALF_UP)


@dataclass(frozen=True)
class Placed:
    """Where the income of a paper belongs. `amount` names its field, empty where it is the gain of sales; `also` more of it.

    `rows` names the income field of the paper's state rows, which then say where; without it the income belongs where its owner
    lives.
    """

    amount: str = ""
    rows: str = ""
    also: tuple[str, ...] = ()


class FederalPaper(Paper):
    jurisdiction = "us"
    placed: ClassVar[Placed | None] = None


class FederalForm(Form):
    jurisdiction = "us"
    rounding = staticmethod(whole)


def from_paper(number, name, label, of="paper", **options):
    """A line that is one amount of the form's own paper; `of` names the property that finds it."""

    @line(number, label, **options)
    def read(form):
        return total(getattr(getattr(form, of), name))

    return read


def columns_of(number, label, filed, correct, **options):
    """The three columns of a line of a correction: as filed, change, correct. `filed` and `correct` work out A and C."""
    a = Line(f"{number}-A", f"{label}, as filed", filed)
    c = Line(f"{number}-C", f"{label}, correct", correct, **options)
    b = Line(f"{number}-B", f"{label}, change", lambda form: total(getattr(form, c.name), less=getattr(form, a.name)))
    return a, b, c


STATES = {
    "AL": "Alabama", "AK": "Alaska", "AZ": "Arizona", "AR": "Arkansas", "CA": "California", "CO": "Colorado",
    "CT": "Connecticut", "DE": "Delaware", "DC": "District of Columbia", "FL": "Florida", "GA": "Georgia",
    "HI": "Hawaii", "ID": "Idaho", "IL": "Illinois", "IN": "Indiana", "IA": "Iowa", "KS": "Kansas", "KY": "Kentucky",
    "LA": "Louisiana", "ME": "Maine", "MD": "Maryland", "MA": "Massachusetts", "MI": "Michigan", "MN": "Minnesota",
    "MS": "Mississippi", "MO": "Missouri", "MT": "Montana", "NE": "Nebraska", "NV": "Nevada", "NH": "New Hampshire",
    "NJ": "New Jersey", "NM": "New Mexico", "NY": "New York", "NC": "North Carolina", "ND": "North Dakota",
    "OH": "Ohio", "OK": "Oklahoma", "OR": "Oregon", "PA": "Pennsylvania", "RI": "Rhode Island",
    "SC": "South Carolina", "SD": "South Dakota", "TN": "Tennessee", "TX": "Texas", "UT": "Utah", "VT": "Vermont",
    "VA": "Virginia", "WA": "Washington", "WV": "West Virginia", "WI": "Wisconsin", "WY": "Wyoming",
}  # fmt: skip

# No tax on wages or interest in the years supported
UNTAXED = frozenset({"AK", "FL", "NV", "NH", "SD", "TN", "TX", "WA", "WY"})

STATUSES = {
    "single": "Single",
    "joint": "Married filing jointly",
    "separate": "Married filing separately",
    "head_of_household": "Head of household",
    "surviving_spouse": "Qualifying surviving spouse",
}
