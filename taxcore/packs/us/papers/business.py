"""Self-employed work: the books of a business and the statements of its customers. IRC 162, 183, 274, 280A, 1402."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.balances import HOME_DEPRECIATION, HOME_OFFICE, INVENTORY, PASSIVE_TRADE, RISK_TRADE, SECTION_179
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.statements import PayersStatement, StateIncomeRow, state_rows

METHODS = {"cash": "Cash", "accrual": "Accrual", "other": "Other"}
CAR_METHODS = {"miles": "Standard mileage rate", "actual": "Actual expenses"}
HOME_METHODS = {"simplified": "Simplified method", "regular": "Regular method, Form 8829"}


class OtherExpense(Row):
    description = Text(None, "Description", longest=60, needed="Part V asks for a description of each.")
    amount = Amount(None, "Amount")


def _is_passive(books):
    return books.participates is False


class BusinessBooks(FederalPaper):
    """One sole proprietor's year. Depreciation follows from its assets; an amount that is kept elsewhere stops filing."""

    placed = Placed("receipts", rows="income")
    kind, name, official, group = "business", "Schedule C business", "Schedule C", "income"
    again = True
    short, heading, main = "Business", "business_name", "receipts"

    business_name = Text("c", "Name of the business", longest=60, wide=True, kept=True)
    activity = Text(
        "a",
        "Principal business or profession",
        longest=60,
        needed="Line A asks for the principal product or service.",
        kept=True,
    )
    code = Text("b", "Business code", pattern=r"\d{6}", longest=6, pattern_says="The code has six digits.",
                needed="Line B asks for the six-digit code.", kept=True)  # fmt: skip
    number = Text("d", "EIN", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                  pattern_says="An employer number has nine digits, 00-0000000.", kept=True)  # fmt: skip
    method = Choice("f", "Accounting method", METHODS, alike=True, kept=True)
    participates = Flag("g", "Materially participated", cites="IRC 469(h)", needed="A loss depends on it.", kept=True)
    started = Flag("h", "Started or acquired this year")
    must_report = Flag("i", "Made payments requiring Forms 1099")
    did_report = Flag("j", "Filed the required Forms 1099")
    service_trade = Flag(None, "Specified service trade or business (SSTB)", cites="IRC 199A(d)(2)",
                         help="Health, law, accounting, consulting, performing, athletics, finance.", kept=True)  # fmt: skip
    not_qualified = Flag(
        None,
        "Not a qualified trade or business",
        cites="IRC 199A(d)",
        help="Outside the U.S., or services as an employee.",
        kept=True,
    )

    receipts = Amount(
        "1",
        "Gross receipts not on a 1099",
        help="Forms 1099-NEC, MISC and K of this business are added.",
        begins="Income",
    )
    returns = Amount("2", "Returns and allowances")
    other_income = Amount("6", "Other income", negative=True)
    advertising = Amount("8", "Advertising", begins="Expenses")
    commissions = Amount("10", "Commissions and fees")
    contract_labour = Amount("11", "Contract labor")
    depletion = Amount("12", "Depletion")
    depreciation = Amount(
        "13",
        "Depreciation kept elsewhere",
        cites="IRC 167, 168, 179",
        help="Enter each asset: its depreciation is added by itself.",
    )
    section_179_before = Amount(None, "Section 179 carryover", cites="IRC 179(b)(3)(B)", opens=SECTION_179)
    employee_benefits = Amount("14", "Employee benefit programs")
    insurance = Amount("15", "Insurance (other than health)")
    mortgage_interest = Amount("16a", "Mortgage interest")
    other_interest = Amount("16b", "Other interest")
    professional = Amount("17", "Legal and professional services")
    office = Amount("18", "Office expense")
    employee_pensions = Amount("19", "Pension and profit-sharing plans")
    rent_equipment = Amount("20a", "Rent or lease: vehicles, machinery, equipment")
    rent_property = Amount("20b", "Rent or lease: other business property")
    repairs = Amount("21", "Repairs and maintenance")
    supplies = Amount("22", "Supplies")
    taxes = Amount("23", "Taxes and licenses")
    travel = Amount("24a", "Travel")
    meals = Amount("24b", "Meals, full cost", cites="IRC 274(n)", help="Half of it is deductible.")
    restaurant_meals = Amount(None, "Of the meals, from restaurants", help="Deductible in full in 2022 only.")
    utilities = Amount("25", "Utilities")
    wages = Amount("26", "Wages")
    others = Rows("48", "Other expenses", OtherExpense)

    inventory_start = Amount("35", "Inventory at beginning of year", begins="Cost of goods sold", opens=INVENTORY)
    purchases = Amount("36", "Purchases less personal use")
    labour = Amount("37", "Cost of labor")
    materials = Amount("38", "Materials and supplies")
    other_costs = Amount("39", "Other costs")
    inventory_end = Amount("41", "Inventory at end of year")

    car_method = Choice(None, "Vehicle expense method", CAR_METHODS, cites="IRC 274(d), 280F", begins="Vehicle", kept=True)
    car_placed = Day("43", "Vehicle placed in service", kept=True)
    miles = Count("44a", "Business miles", most=999999)
    miles_from_july = Count(
        None, "Of them, July through December", most=999999, help="The rate changed in July 2022; asked for 2022 only."
    )
    commuting_miles = Count("44b", "Commuting miles", most=999999)
    other_miles = Count("44c", "Other miles", most=999999)
    car_actual = Amount(None, "Actual vehicle expenses, business part")
    parking = Amount(None, "Parking and tolls")
    car_evidence = Flag("47a", "Evidence to support the deduction", cites="IRC 274(d)")

    home_method = Choice(None, "Home office method", HOME_METHODS, cites="IRC 280A(c)", begins="Home office", kept=True)
    home_area = Count(None, "Square feet used for business", most=99999, kept=True)
    home_total = Count(None, "Total square feet of the home", most=99999, kept=True)
    home_months = Count(None, "Months used", most=12, help="If empty, 12.")
    home_direct = Amount(None, "Direct expenses")
    home_interest = Amount(None, "Mortgage interest, home")
    home_taxes = Amount(None, "Real estate taxes, home")
    home_itemised = Flag(None, "Home interest and taxes are itemized", help="They are then deducted before the income limit.")
    home_insurance = Amount(None, "Insurance, home")
    home_rent = Amount(None, "Rent, home")
    home_repairs = Amount(None, "Repairs and maintenance, home")
    home_utilities = Amount(None, "Utilities, home")
    home_other = Amount(None, "Other expenses, home")
    home_carried = Amount(None, "Carryover of home office expenses", opens=HOME_OFFICE)
    home_basis = Amount(None, "Home: smaller of basis and value when first used", cites="IRC 168(c), 280A", kept=True)
    home_land = Amount(None, "Of it, land", kept=True)
    home_since = Day(None, "Used for business since", kept=True)
    home_depreciation_before = Amount(None, "Carryover of home office depreciation", opens=HOME_DEPRECIATION)
    home_depreciation = Amount(None, "Depreciation of the home, kept elsewhere")

    not_at_risk = Flag("32b", "Some investment is not at risk", cites="IRC 465")
    at_risk = Amount(None, "Amount at risk (Form 6198, line 20)", cites="IRC 465(b)", help="Asked only where there is a loss.")
    passive_before = Amount(None, "Passive loss not allowed in earlier years", cites="IRC 469(b)", opens=PASSIVE_TRADE)
    disposed = Flag(None, "Disposed of entirely this year", cites="IRC 469(g)", only=_is_passive)
    risk_before = Amount(None, "Loss of earlier years not allowed at risk", cites="IRC 465(a)(2)", opens=RISK_TRADE)
    optional_method = Flag(None, "Nonfarm optional method of self-employment tax", cites="IRC 1402(a)",
                           help="At most five years; earnings of 400 in two of the last three.")  # fmt: skip
    health_insurance = Amount(
        None,
        "Self-employed health insurance",
        cites="IRC 162(l)",
        help="Premiums paid by the business or the owner.",
        begins="Owner",
    )
    care_insurance = Amount(None, "Self-employed long-term care insurance", cites="IRC 162(l)(2)(C)")
    sep = Amount(None, "SEP contributions, owner", cites="IRC 404(h)")
    simple = Amount(None, "SIMPLE contributions, owner", cites="IRC 408(p)")
    deferral = Amount(None, "Solo 401(k): elective deferral", cites="IRC 402(g)")
    profit_sharing = Amount(None, "Solo 401(k): profit sharing", cites="IRC 404(a)(3)")
    property_basis = Amount(
        None, "UBIA of qualified property", cites="IRC 199A(b)(6)", begins="Qualified business income", kept=True
    )
    group_of = Text(None, "Aggregation group", longest=20, cites="26 CFR 1.199A-4",
                    help="Enter the same word on each business of the group.", kept=True)  # fmt: skip
    loss_before = Amount(
        None, "QBI loss carryover", cites="IRC 199A(c)(2)", help="From last year's Form 8995, as a positive amount."
    )
    tips = Amount(None, "Qualified tips included in receipts", cites="IRC 224")
    states = Rows(None, "Receipts by state", StateIncomeRow)


class _ForBusiness(PayersStatement):
    """A statement whose amount belongs to a business."""


class NonemployeeStatement(_ForBusiness):
    """Pay for work of somebody who is no employee. IRC 6041A."""

    placed = Placed("pay", rows="income")
    kind, name, official, group = "1099-nec", "Nonemployee compensation", "1099-NEC", "income"
    again = True
    short, main = "1099-NEC", "pay"

    pay = Amount("1", "Nonemployee compensation")
    withheld = Amount("4", "Federal income tax withheld")
    business = Refer(None, "Reported on", ("business",), help="With several businesses or none, choose one.", kept=True)
    not_business = Flag(None, "Not a business: other income", help="Line 8j, activity not for profit.", kept=True)
    states = state_rows("5 to 7")


class MiscellaneousStatement(_ForBusiness):
    """Rents, prizes and the rest. IRC 6041, 6045(f)."""

    placed = Placed("other_income", rows="income")
    kind, name, official, group = "1099-misc", "Miscellaneous income", "1099-MISC", "income"
    again = True
    short, main = "Miscellaneous", "other_income"

    rents = Amount("1", "Rents")
    royalties = Amount("2", "Royalties")
    other_income = Amount("3", "Other income")
    withheld = Amount("4", "Federal income tax withheld")
    fishing = Amount("5", "Fishing boat proceeds")
    medical = Amount("6", "Medical and health care payments")
    substitute = Amount("8", "Substitute payments in lieu of dividends")
    crop_insurance = Amount("9", "Crop insurance proceeds")
    farm = Refer(None, "Box 9 reported on", ("farm",), kept=True)
    attorney = Amount("10", "Gross proceeds to an attorney")
    deferred = Amount({2022: "14", 2024: "15"}, "Nonqualified deferred compensation", cites="IRC 409A")
    business = Refer(None, "Reported on", ("business",), kept=True)
    rental = Refer(None, "Boxes 1 and 2 reported on", ("rental",), kept=True)
    is_business = Flag(None, "Boxes 3, 5, 6 and 10 are business income", kept=True)
    is_prize = Flag(None, "Box 3 is a prize or award")
    states = state_rows("16 to 18")


class PaymentCardStatement(_ForBusiness):
    """Card and network payments. IRC 6050W."""

    placed = Placed("gross", rows="income")
    kind, name, official, group = "1099-k", "Payment card and third-party network transactions", "1099-K", "income"
    again = True
    short, main = "Payment cards", "gross"

    gross = Amount("1a", "Gross amount")
    without_card = Amount("1b", "Card not present transactions")
    withheld = Amount("4", "Federal income tax withheld")
    business = Refer(None, "Reported on", ("business",), kept=True)
    on_other_statement = Amount(None, "Also reported on another form")
    personal = Amount(None, "Personal items sold at a loss, or reported in error", help="Left out of receipts.")
    states = state_rows("6 to 8")
