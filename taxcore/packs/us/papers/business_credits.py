"""Credits of a business, and what of them waits. IRC 38, 39."""

from taxcore.engine import Amount, Choice, Count, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.balances import BUSINESS_CREDIT
from taxcore.packs.us.base import FederalPaper

# By the limit: specified credits are not held back by the tentative minimum tax. IRC 38(c)(4)(B)
KINDS = {"specified": "Specified (work opportunity, employer tips, small employer health)", "other": "Other"}


class CreditRow(Row):
    form = Text(None, "Form, or box and code", longest=40, needed="Form 3800 names each.")
    kind = Choice(None, "Kind", KINDS, needed="The limit depends on it.")
    amount = Amount(None, "Credit")
    share = Refer(None, "From the Schedule K-1 of", ("k1-1065", "k1-1120s", "k1-1041"), optional=True)
    passive = Flag(None, "Of a passive activity", cites="IRC 469(d)(2)")


class CarriedRow(Row):
    from_year = Count(None, "Year of the credit", most=2199, needed="It expires after 20 years.")
    kind = Choice(None, "Kind", KINDS, needed="The limit depends on it.")
    amount = Amount(None, "Not used yet")


class BusinessCredits(FederalPaper):
    """What Form 3800 puts together."""

    kind, name, official, group = "business-credits", "General business credit", "Form 3800", "credits"
    single, owned = True, False

    wages_short = Amount("1a", "Qualified wages, 120 to 399 hours", cites="IRC 51(i)(3)", begins="Work opportunity (Form 5884)",
                         help="Up to 6,000 for each employee; other limits for some groups.")  # fmt: skip
    wages_long = Amount("1b", "Qualified wages, 400 hours or more", cites="IRC 51(a), (b)(3)")
    wages_second = Amount("1c", "Second-year wages of long-term assistance recipients", cites="IRC 51(e)")
    tips = Amount("1", "Tips on which social security tax was paid", cites="IRC 45B(b)", begins="Employer tips (Form 8846)")
    tips_to_minimum = Amount("2", "Tips counted toward the minimum wage", cites="IRC 45B(b)(1)(B)")
    access_costs = Amount(None, "Eligible access expenditures", cites="IRC 44(c)", begins="Disabled access (Form 8826)")
    plan_costs = Amount(None, "Startup costs of a plan", cites="IRC 45E(d)", begins="Pension plan startup (Form 8881)")
    plan_members = Count(None, "Eligible employees, not highly compensated", most=100, cites="IRC 45E(b)(1)(B)")
    employees = Count(None, "Employees paid 5,000 or more", most=9999, cites="IRC 408(p)(2)(C)(i)")
    joins_itself = Flag(None, "Automatic enrollment, first three years", cites="IRC 45T")
    rows = Rows(None, "Credits of other forms and of shares", CreditRow)
    carried = Rows("4", "Credits of earlier years", CarriedRow, opens=BUSINESS_CREDIT, cites="IRC 39(a)")
