"""Papers of a corporation's return: what it is and paid, dividends received, what waits. Form 1120; IRC 11."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.base import STATES
from taxcore.packs.us.entity.balances import CORPORATE_CAPITAL, CORPORATE_CREDITED, CORPORATE_GIFTS, CORPORATE_LOSS
from taxcore.packs.us.entity.base import EntityPaper
from taxcore.packs.us.entity.more_time import paid_with_extension

METHODS = {"cash": "Cash", "accrual": "Accrual", "other": "Other"}
_SAYS = "A ZIP code has five digits, or nine as 00000-0000."


class About(EntityPaper):
    """What page 1 and Schedule K ask of a corporation, and what it paid. IRC 6012(a)(2), 6655."""

    kind, name, official, group = "about", "About the corporation", "Form 1120, Schedule K", "about"
    single, always = True, True

    street = Text(None, "Street address", longest=60, needed="Page 1 asks for it.", kept=True)
    city = Text(None, "City", longest=40, needed="Page 1 asks for it.", kept=True)
    state = Choice(None, "State", STATES, needed="Page 1 asks for it.", kept=True)
    zip = Text(
        None, "ZIP code", pattern=r"\d{5}(-\d{4})?", pattern_says=_SAYS, longest=10, needed="Page 1 asks for it.", kept=True
    )
    incorporated = Day("C", "Date incorporated", needed="Page 1 asks for it.", kept=True)
    initial = Flag("E1", "Initial return")
    final = Flag("E2", "Final return")
    fiscal = Flag(None, "Fiscal year, not the calendar year", cites="IRC 441(b), (e)", kept=True)
    ended = Day(None, "Ended on", only=lambda paper: bool(paper.final), needed="When the return is due turns on it.",
                cites="IRC 443(a)(2), 6072")  # fmt: skip
    method = Choice("K1", "Accounting method", METHODS, needed="Schedule K, line 1.", kept=True, begins="Schedule K")
    code = Text("K2a", "Business code", pattern=r"\d{6}", pattern_says="A business code has six digits.", longest=6,
                needed="Schedule K, line 2.", kept=True)  # fmt: skip
    activity = Text("K2b", "Business activity", longest=60, needed="Schedule K, line 2.", kept=True)
    product = Text("K2c", "Product or service", longest=60, needed="Schedule K, line 2.", kept=True)
    consolidated = Flag("A1", "Consolidated return", cites="IRC 1501", needed="Page 1, box A.", kept=True)
    holding = Flag("A2", "Personal holding company", cites="IRC 542", needed="Page 1, box A.", kept=True)
    personal_service = Flag(
        "A3", "Personal service corporation", cites="IRC 269A(b)(1), 441(i)", needed="Page 1, box A.", kept=True
    )
    closely_held = Flag(None, "Closely held, with passive activities", cites="IRC 469(a)(2)(B)", kept=True,
                        needed="Its losses would be limited.")  # fmt: skip
    foreign_owner = Flag("K7", "A foreign person owns 25% or more", cites="IRC 6038A", kept=True)
    payments_1099 = Flag("K15a", "Payments that need Form 1099", needed="Schedule K, line 15a.", kept=True)
    filed_1099 = Flag("K15b", "They were or will be filed", only=lambda paper: bool(paper.payments_1099))

    credited_before = Amount("J13", "Overpayment of last year credited", opens=CORPORATE_CREDITED, begins="Payments")
    estimates = Amount("J14", "Estimated tax payments", cites="IRC 6655", help="Together; day by day on the paper Estimated tax.")
    with_extension = Amount("J17", "Paid with Form 7004", help="If empty, what the Extension paper says.")
    withheld = Amount("J18", "Tax withheld")
    credits = Amount("J5e", "Credits", cites="IRC 38", help="General business credit within its limit, as Form 3800 has it.")
    penalty = Amount("34", "Estimated tax penalty", cites="IRC 6655", help="If empty, by Form 2220.")
    credited = Amount("37", "Credited to next year's estimated tax")

    @with_extension.when_empty
    def _with_extension(self):
        return paid_with_extension(self.run)


class DividendRow(Row):
    payer = Text(None, "Payer", longest=60, needed="Schedule C divides by payers.")
    owned = Count(None, "Stock owned, %", most=100, needed="The deduction goes by it.", kept=True)
    amount = Amount("a", "Dividends")
    short = Flag(
        None, "Held too short, or bought with debt", cites="IRC 246(c), 246A", help="Then there is no deduction for it here."
    )


class Dividends(EntityPaper):
    """Dividends from domestic corporations by payers. Schedule C; IRC 243."""

    kind, name, official, group = "dividends", "Dividends received", "Schedule C", "books"
    single = True

    rows = Rows(None, "Payers", DividendRow)


class YearRow(Row):
    from_year = Count(None, "Year", most=2199, needed="It ends after some years, or not.")
    amount = Amount(None, "Not used yet")


class Carryovers(EntityPaper):
    """What earlier years left: operating losses, contributions, capital losses. IRC 170(d)(2), 172(b), 1212(a)."""

    kind, name, official, group = "carryovers", "Carryovers", "Form 1120", "books"
    single = True

    losses = Rows(None, "Net operating losses", YearRow, opens=CORPORATE_LOSS, cites="IRC 172(b)")
    gifts = Rows(None, "Contributions", YearRow, opens=CORPORATE_GIFTS, cites="IRC 170(d)(2)")
    capital = Rows(None, "Capital losses", YearRow, opens=CORPORATE_CAPITAL, cites="IRC 1212(a)(1)(B)")
    capital_back = Amount(
        None, "Capital loss of a later year, carried back to this one", cites="IRC 1212(a)(1)(A)", begins="Carried back",
        help="Of one of the next three years; entered on an amended return.",
    )  # fmt: skip
    capital_taken = Amount(None, "Of this year's capital loss, used in earlier years", cites="IRC 1212(a)(1)(A)")


PAPERS = (About, Dividends, Carryovers)
