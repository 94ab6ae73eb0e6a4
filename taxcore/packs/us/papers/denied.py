"""Credits that were denied in an earlier year and are claimed again. Form 8862; IRC 24(g)(2), 25A(b)(4)(B), 32(k)(2)."""

from taxcore.engine import Count, Flag, Refer, Row, Rows
from taxcore.packs.us.base import FederalPaper


def _earned(paper):
    return bool(paper.earned_income)


class DaysRow(Row):
    child = Refer(None, "Child", ("person",), needed="Line 7 is for one child.")
    days = Count("7", "Days child lived with taxpayer in the U.S.", most=366, needed="More than half of the year.")


class DeniedBefore(FederalPaper):
    """What Form 8862 asks. 26 CFR 1.32-3(c), 1.24-1, 1.25A-1."""

    kind, name, official, group = "denied-before", "Credit denied in an earlier year", "8862", "credits"
    single, owned = True, False

    earned_income = Flag("2a", "Earned income credit")
    child = Flag("2b", "Child tax credit, additional child tax credit, credit for other dependents")
    education = Flag("2c", "American opportunity credit")
    banned_through = Count(
        None, "Not to be claimed through the year", most=2199, cites="IRC 32(k)(1)", help="Two years, or ten after fraud."
    )
    only_income = Flag(
        "3", "Denied only because earned or investment income was misreported", begins="Earned income credit", only=_earned,
        needed="Then the rest of part II is left empty.",
    )  # fmt: skip
    of_another = Flag("4", "Taxpayer could be a qualifying child of another", only=_earned, needed="Part II asks for it.")
    children = Rows("7", "Children", DaysRow)
    days_here = Count("9a", "Days of main home in the U.S., taxpayer", most=366, only=_earned, help="Without a qualifying child.")
    spouse_days_here = Count("9b", "The same, spouse", most=366, only=_earned)
