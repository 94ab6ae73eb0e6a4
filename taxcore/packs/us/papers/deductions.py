"""What can be itemised, and the deductions that began in 2025. IRC 163, 164, 165, 170, 213, 224, 225."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.base import FederalPaper

CHOICES = {"better": "Whichever is larger", "itemise": "Itemise, though it is less", "standard": "Standard, though it is less"}


class Itemizing(FederalPaper):
    """Medical costs, taxes and interest without a statement, and the choice itself."""

    kind, name, official, group = "itemized", "Itemised costs", "Schedule A", "deductions"
    single, owned = True, False

    choice = Choice("18", "Standard or itemised", CHOICES, cites="IRC 63(e)", help="Empty: whichever is larger.")
    medical = Amount(
        "1", "Doctors, hospitals, medicines", cites="IRC 213", help="After what insurance paid back.", begins="Medical"
    )
    health_premiums = Amount(
        None, "Health insurance premiums", help="Not through an employer's plan before tax. Medicare from the SSA-1099 is added."
    )
    care_premiums = Amount(None, "Long-term care insurance, taxpayer", cites="IRC 213(d)(10)")
    spouse_care_premiums = Amount(None, "Long-term care insurance, spouse", cites="IRC 213(d)(10)")
    medical_miles = Count(None, "Medical miles", most=99999)
    medical_miles_from_july = Count(None, "Of them, from July on", most=99999, help="Only 2022 asks.")
    state_income_tax = Amount(
        "5a", "State income tax paid, earlier years", help="Withholding and this year's estimates are added.", begins="Taxes"
    )
    state_tax_in_all = Amount(
        None, "State and local income tax paid, as one total", cites="IRC 164(a)(3)",
        help="Where only the total is known: it then stands for withholding, estimates and earlier years together.",
    )  # fmt: skip
    sales_tax = Amount(
        None,
        "General sales tax instead",
        cites="IRC 164(b)(5)",
        help="Receipts, or the official table with large purchases. Used when it is more.",
    )
    property_tax = Amount("5b", "Real estate tax", help="Without what a mortgage statement reports.")
    vehicle_tax = Amount("5c", "Tax on personal property by value")
    other_taxes = Amount("6", "Other taxes", help="Foreign income tax that is not credited; generation-skipping tax.")
    unreported_mortgage = Amount("8b", "Mortgage interest without a statement", begins="Interest")
    points = Amount("8c", "Points without a statement", cites="IRC 461(g)(2)")
    investment_interest = Amount("9", "Investment interest", cites="IRC 163(d)")
    investment_interest_before = Amount(None, "Investment interest carried in", cites="IRC 163(d)(2)")
    gains_as_income = Amount(None, "Gains and dividends to treat as investment income", cites="IRC 163(d)(4)(B)")
    casualty = Amount("15", "Loss of a declared disaster, Form 4684", cites="IRC 165(h)", begins="Other")
    gambling_losses = Amount("16", "Gambling losses", cites="IRC 165(d)")
    other = Amount(
        None, "Other deductions without a floor", cites="IRC 67(b)", help="Estate tax, repaid income, impairment costs."
    )


USES = {"main": "Main home", "second": "Second home", "other": "Neither"}


class MortgageStatement(FederalPaper):
    """Mortgage interest. IRC 163(h)(3), 6050H."""

    kind, name, official, group = "1098", "Mortgage interest", "1098", "deductions"
    short, heading, main, joint_owner = "Mortgage", "lender", "interest", True

    lender = Text(None, "Lender", needed="Copy the name from the paper.", wide=True, longest=60)
    interest = Amount("1", "Interest")
    principal = Amount("2", "Outstanding principal", help="On 1 January, or when it began.")
    origin = Day("3", "Loan made", help="Before 16 December 2017 the higher limit holds.", cites="IRC 163(h)(3)(F)")
    refund = Amount("4", "Refund of overpaid interest")
    insurance = Amount("5", "Mortgage insurance premiums", cites="IRC 163(h)(3)(E)", help="Deductible again from 2026.")
    points = Amount("6", "Points")
    property_tax = Amount(None, "Real estate tax paid from escrow")
    average = Amount(None, "Average balance of the year", help="Empty: box 2.")
    use = Choice(None, "The home is", USES)
    not_for_home = Amount(None, "Part of the interest on money not spent on the home", cites="IRC 163(h)(3)(F)(i)")


GIFTS = {
    "cash": "Money, public charity",
    "cash-private": "Money, private foundation",
    "property": "Things, public charity",
    "gain": "Appreciated property at value, public charity",
    "gain-private": "Appreciated shares, private foundation",
}


class Gift(FederalPaper):
    """Gifts to one charity. IRC 170; things above 500: Form 8283, section A."""

    kind, name, official, group = "gift", "Gifts to charity", "Schedule A, 8283", "deductions"
    short, heading, main, joint_owner = "Gift", "charity", "amount", True

    charity = Text("a", "Charity", needed="Form 8283 and the records ask for it.", wide=True, longest=60)
    gift_kind = Choice(None, "What was given", GIFTS, needed="The limit depends on it.")
    amount = Amount("h", "Amount or fair value")
    description = Text("c", "Things given", longest=60)
    given = Day("d", "Date given")
    acquired = Text("e", "Acquired", longest=12)
    how_acquired = Text("f", "How acquired", longest=30)
    cost = Amount("g", "Cost or basis")
    method = Text("i", "How it was valued", longest=40)
    miles = Count(None, "Miles driven for the charity", most=99999, cites="IRC 170(i)")
    acknowledged = Flag(None, "Written acknowledgement kept", cites="IRC 170(f)(8)")
    vehicle = Flag(None, "A car, boat or plane above 500", cites="IRC 170(f)(12)")
    one_thing_above_5000 = Flag(None, "One thing or group above 5,000, not listed shares", cites="IRC 170(f)(11)(C)")


class GiftRow(Row):
    from_year = Count(None, "Year it was given", most=2199, needed="It ends after five years.")
    gift_kind = Choice(None, "Kind", GIFTS, needed="Its limit stays that of its kind.")
    amount = Amount(None, "Left over")


class GiftCarryover(FederalPaper):
    """Gifts above earlier years' limits. IRC 170(d)(1)."""

    kind, name, official, group = "gift-carryover", "Gifts carried in", "Schedule A, line 13", "deductions"
    single, owned = True, False
    rows = Rows("13", "Left over from earlier years", GiftRow)


class CarLoan(FederalPaper):
    """Interest on the loan of a new car made in the US. IRC 163(h)(4), 2025 to 2028."""

    kind, name, official, group = "car-loan", "Car loan interest", "Schedule 1-A, part IV", "deductions"
    short, heading, main, joint_owner = "Car loan", "lender", "interest", True
    since, until = 2025, 2028

    lender = Text(None, "Lender", needed="The records ask for it.", wide=True, longest=60)
    vin = Text("i", "Vehicle number", pattern=r"[A-HJ-NPR-Z0-9]{17}", longest=17, needed="Part IV asks for it.",
               pattern_says="A vehicle number has 17 letters and digits, without I, O and Q.")  # fmt: skip
    interest = Amount("iii", "Interest paid")
    on_business = Amount("ii", "Of it, deducted by a business")
    loan_date = Day(None, "Loan made", needed="Only a loan made after 2024 counts.")
    new_for_owner = Flag(None, "New, first used by the owner")
    assembled_here = Flag(None, "Final assembly in the US")
    personal = Flag(None, "For personal use")
