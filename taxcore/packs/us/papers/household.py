"""People employed in the home. IRC 3121(x), 3306(c)(2)."""

from taxcore.engine import Amount, Flag, Row, Rows, Text
from taxcore.packs.us.base import FederalPaper


class EmployeeRow(Row):
    name = Text(None, "Employee", longest=60, needed="The records name each.")
    wages = Amount(None, "Cash wages paid")


class HouseholdEmployees(FederalPaper):
    """Whom somebody employed in the home, and what was paid. Spouse, parents and children under 21 do not count."""

    kind, name, official, group = "household", "Household employees", "Schedule H", "credits"
    single, owned = True, False

    number = Text("A", "Employer identification number", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000", kept=True,
                  pattern_says="An employer number has nine digits, 00-0000000.", needed="Schedule H asks for it.")  # fmt: skip
    employees = Rows(None, "Employees", EmployeeRow, kept=True)
    withheld = Amount("7", "Federal income tax withheld from them")
    thousand = Flag(
        "9", "1,000 or more paid in a quarter, this year or last", cites="IRC 3306(a)(3)", needed="Line 9 asks for it."
    )
    one_state = Flag(
        "10", "Unemployment contributions in one state alone, paid in time, on all those wages", cites="IRC 3302",
        help="Not in a credit reduction state. If not, section B is asked for.",
    )  # fmt: skip
