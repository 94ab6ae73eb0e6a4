"""What can be itemized, and the deductions that began in 2025. IRC 163, 164, 165, 170, 213, 224, 225."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.balances import GIFT_CARRYOVER, INVESTMENT_INTEREST
from taxcore.packs.us.base import FederalPaper

CHOICES = {"better": "Whichever is larger", "itemise": "Itemize even if less", "standard": "Standard even if less"}


class Itemizing(FederalPaper):
    """Medical costs, taxes and interest without a statement, and the choice itself."""

    kind, name, official, group = "itemized", "Itemized deductions", "Schedule A", "deductions"
    goes_on = True
    single, owned = True, False

    choice = Choice("18", "Standard or itemized", CHOICES, cites="IRC 63(e)", help="If empty, whichever is larger.")
    medical = Amount(
        "1", "Medical and dental expenses", cites="IRC 213", help="Net of insurance reimbursement.", begins="Medical"
    )
    health_premiums = Amount(
        None,
        "Health insurance premiums",
        help="Not pre-tax through an employer. Added: Medicare premiums on the SSA-1099, and those a business leaves undeducted.",
    )
    care_premiums = Amount(None, "Long-term care insurance, taxpayer", cites="IRC 213(d)(10)")
    spouse_care_premiums = Amount(None, "Long-term care insurance, spouse", cites="IRC 213(d)(10)")
    medical_miles = Count(None, "Medical miles", most=99999)
    medical_miles_from_july = Count(None, "Of them, July through December", most=99999, help="Asked for 2022 only.")
    state_income_tax = Amount(
        "5a",
        "State and local income tax paid for prior years",
        help="Withholding and this year's estimated payments are added.",
        begins="Taxes",
    )
    state_tax_in_all = Amount(
        None, "State and local income tax paid, one total", cites="IRC 164(a)(3)",
        help="Where only the total is known: it replaces withholding, estimated payments and prior years.",
    )  # fmt: skip
    sales_tax = Amount(
        None,
        "General sales tax",
        cites="IRC 164(b)(5)",
        help="From receipts, or the IRS table plus major purchases. Used when it is more.",
    )
    property_tax = Amount("5b", "Real estate tax", help="Not what a Form 1098 reports.")
    vehicle_tax = Amount("5c", "Personal property taxes")
    other_taxes = Amount("6", "Other taxes", help="Foreign income tax not taken as a credit; generation-skipping tax.")
    unreported_mortgage = Amount("8b", "Mortgage interest not on Form 1098", begins="Interest")
    points = Amount("8c", "Points not on Form 1098", cites="IRC 461(g)(2)")
    investment_interest = Amount("9", "Investment interest", cites="IRC 163(d)")
    investment_interest_before = Amount(None, "Investment interest carryover", cites="IRC 163(d)(2)", opens=INVESTMENT_INTEREST)
    gains_as_income = Amount(None, "Gain and qualified dividends elected as investment income", cites="IRC 163(d)(4)(B)")
    casualty = Amount("15", "Casualty and theft losses, Form 4684", cites="IRC 165(h)", begins="Other")
    gambling_losses = Amount("16", "Gambling losses", cites="IRC 165(d)")
    other = Amount(
        None,
        "Other itemized deductions",
        cites="IRC 67(b)",
        help="Federal estate tax, repaid income, impairment-related expenses.",
    )


USES = {"main": "Main home", "second": "Second home", "other": "Neither"}


class MortgageStatement(FederalPaper):
    """Mortgage interest. IRC 163(h)(3), 6050H."""

    kind, name, official, group = "1098", "Mortgage interest", "1098", "deductions"
    again = True
    short, heading, main, joint_owner = "Mortgage", "lender", "interest", True

    lender = Text(None, "Lender", needed="Copy the name from the form.", wide=True, longest=60)
    interest = Amount("1", "Interest")
    principal = Amount("2", "Outstanding principal", help="On January 1, or at origination.")
    origin = Day(
        "3",
        "Mortgage origination date",
        help="Before December 16, 2017 the higher limit applies.",
        cites="IRC 163(h)(3)(F)",
        kept=True,
    )
    refund = Amount("4", "Refund of overpaid interest")
    insurance = Amount("5", "Mortgage insurance premiums", cites="IRC 163(h)(3)(E)", help="Deductible again from 2026.")
    points = Amount("6", "Points")
    property_tax = Amount(None, "Real estate tax paid from escrow")
    average = Amount(None, "Average balance", help="If empty, box 2.")
    use = Choice(None, "Use of the home", USES, kept=True)
    not_for_home = Amount(None, "Interest on debt not used to buy, build or improve", cites="IRC 163(h)(3)(F)(i)")


GIFTS = {
    "cash": "Cash, public charity",
    "cash-private": "Cash, private foundation",
    "property": "Property, public charity",
    "gain": "Capital gain property at FMV, public charity",
    "gain-private": "Appreciated stock, private foundation",
}


class Gift(FederalPaper):
    """Gifts to one charity. IRC 170; things above 500: Form 8283, section A."""

    kind, name, official, group = "gift", "Charitable contributions", "Schedule A, 8283", "deductions"
    again = True
    short, heading, main, joint_owner = "Contribution", "charity", "amount", True

    charity = Text("a", "Charity", needed="Form 8283 and the records ask for it.", wide=True, longest=60)
    gift_kind = Choice(None, "Kind of contribution", GIFTS, needed="The limit depends on it.", kept=True)
    amount = Amount("h", "Amount or fair market value")
    description = Text("c", "Description of property", longest=60)
    given = Day("d", "Date of contribution")
    acquired = Text("e", "Date acquired", longest=12)
    how_acquired = Text("f", "How acquired", longest=30)
    cost = Amount("g", "Cost or basis")
    method = Text("i", "Method of valuation", longest=40)
    miles = Count(None, "Charitable miles", most=99999, cites="IRC 170(i)")
    acknowledged = Flag(None, "Written acknowledgment obtained", cites="IRC 170(f)(8)")
    vehicle = Flag(None, "Vehicle, boat or airplane over $500", cites="IRC 170(f)(12)")
    one_thing_above_5000 = Flag(None, "Item or group over $5,000, not publicly traded", cites="IRC 170(f)(11)(C)")

    def comes_again(self):
        """Money, not things: a car is given once."""
        return self.gift_kind in ("", "cash", "cash-private")


class Casualty(FederalPaper):
    """One thing for personal use that was damaged, destroyed or stolen. IRC 165(h)."""

    kind, name, official, group = "casualty", "Casualty or theft", "Form 4684", "deductions"
    joint_owner = True
    short, heading, main = "Casualty", "description", "before"

    description = Text("1", "Property", longest=60, wide=True, needed="Line 1 asks for type, city and ZIP code.")
    event = Text(None, "Event", longest=60, help="Things that one event hit have the same word here.")
    disaster = Text(None, "FEMA declaration number", longest=12, pattern=r"(DR|EM)-?\d{4}-?[A-Z]{2}", cites="IRC 165(h)(5)",
                    pattern_says="A declaration is DR or EM, four digits, and a state: DR-1234-IL.")  # fmt: skip
    qualified = Flag(
        None, "Qualified disaster", cites="P.L. 118-148; P.L. 119-21, sec. 70436", help="500 instead of 100, no 10%."
    )
    happened = Day(None, "Date of the casualty, or discovery of the theft", needed="The year of the loss follows from it.")
    acquired = Day(None, "Date acquired", needed="How long it was held decides on a gain.")
    basis = Amount("2", "Cost or other basis", begins="Amounts")
    reimbursed = Amount("3", "Insurance or other reimbursement", help="Received, or expected.")
    before = Amount("5", "Fair market value before")
    after = Amount("6", "Fair market value after")


class GiftRow(Row):
    from_year = Count(None, "Year of contribution", most=2199, needed="It expires after 5 years.")
    gift_kind = Choice(None, "Type", GIFTS, needed="The limit stays that of its kind.")
    amount = Amount(None, "Amount carried over")


class GiftCarryover(FederalPaper):
    """Gifts above earlier years' limits. IRC 170(d)(1)."""

    kind, name, official, group = "gift-carryover", "Contribution carryover", "Schedule A, line 13", "deductions"
    single, owned = True, False
    rows = Rows("13", "Carryover from prior years", GiftRow, opens=GIFT_CARRYOVER)


class CarLoan(FederalPaper):
    """Interest on the loan of a new car made in the US. IRC 163(h)(4), 2025 to 2028."""

    kind, name, official, group = "car-loan", "Vehicle loan interest", "Schedule 1-A, part IV", "deductions"
    again = True
    short, heading, main, joint_owner = "Vehicle loan", "lender", "interest", True
    since, until = 2025, 2028

    lender = Text(None, "Lender", needed="The records ask for it.", wide=True, longest=60)
    vin = Text("i", "VIN", pattern=r"[A-HJ-NPR-Z0-9]{17}", longest=17, needed="Part IV asks for it.",
               pattern_says="A VIN has 17 letters and digits, without I, O and Q.", kept=True)  # fmt: skip
    interest = Amount("iii", "Interest paid")
    on_business = Amount("ii", "Deducted on a business schedule")
    loan_date = Day(None, "Loan date", needed="Only a loan made after 2024 counts.", kept=True)
    new_for_owner = Flag(None, "Original use began with the taxpayer", kept=True)
    assembled_here = Flag(None, "Final assembly in the U.S.", kept=True)
    personal = Flag(None, "Personal use vehicle", kept=True)
