"""Self-employed work: the books of a business and the statements of its customers. IRC 162, 183, 274, 280A, 1402."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.statements import PayersStatement, StateIncomeRow, state_rows

METHODS = {"cash": "Cash", "accrual": "Accrual", "other": "Other"}
CAR_METHODS = {"miles": "Standard mileage rate", "actual": "Actual costs"}
HOME_METHODS = {"simplified": "Simplified, by square feet", "regular": "Regular, by actual costs"}


class OtherExpense(Row):
    description = Text(None, "What for", longest=60, needed="Line 48 asks for a description of each.")
    amount = Amount(None, "Amount")


class BusinessBooks(FederalPaper):
    """One sole proprietor's year. Depreciation comes later: an amount of it stops filing."""

    placed = Placed("receipts", rows="income")
    kind, name, official, group = "business", "Business books", "Schedule C", "income"
    short, heading, main = "Business", "business_name", "receipts"

    business_name = Text("c", "Name of the business", longest=60, wide=True)
    activity = Text("a", "What it does", longest=60, needed="Line A asks for the main product or service.")
    code = Text("b", "Activity code", pattern=r"\d{6}", longest=6, pattern_says="The code has six digits.",
                needed="Line B asks for the six digits of the activity.")  # fmt: skip
    number = Text("d", "Employer number", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                  pattern_says="An employer number has nine digits, 00-0000000.")  # fmt: skip
    method = Choice("f", "Accounting", METHODS, alike=True)
    participates = Flag("g", "Took part materially", cites="IRC 469(h)", needed="A loss depends on it.")
    started = Flag("h", "Started this year")
    must_report = Flag("i", "Made payments that need a 1099")
    did_report = Flag("j", "Sent those 1099s")
    service_trade = Flag(None, "Specified service trade", cites="IRC 199A(d)(2)",
                         help="Health, law, accounting, consulting, performing, athletics, finance.")  # fmt: skip
    not_qualified = Flag(None, "No qualified business", cites="IRC 199A(d)", help="Abroad, or work done as an employee.")

    receipts = Amount(
        "1",
        "Receipts on no statement",
        help="Statements 1099-NEC, MISC and K given to this business are added to it.",
        begins="Income",
    )
    returns = Amount("2", "Returns and allowances")
    other_income = Amount("6", "Other income", negative=True)
    advertising = Amount("8", "Advertising", begins="Expenses")
    commissions = Amount("10", "Commissions and fees")
    contract_labour = Amount("11", "Contract labour")
    depletion = Amount("12", "Depletion")
    depreciation = Amount("13", "Depreciation and section 179", cites="IRC 167, 168, 179")
    employee_benefits = Amount("14", "Employees' benefits")
    insurance = Amount("15", "Insurance other than health")
    mortgage_interest = Amount("16a", "Interest on mortgages")
    other_interest = Amount("16b", "Other interest")
    professional = Amount("17", "Legal and professional services")
    office = Amount("18", "Office expense")
    employee_pensions = Amount("19", "Employees' pension plans")
    rent_equipment = Amount("20a", "Rent, vehicles and equipment")
    rent_property = Amount("20b", "Rent, other property")
    repairs = Amount("21", "Repairs and maintenance")
    supplies = Amount("22", "Supplies")
    taxes = Amount("23", "Taxes and licences")
    travel = Amount("24a", "Travel")
    meals = Amount("24b", "Meals, whole cost", cites="IRC 274(n)", help="Half of it is deductible.")
    restaurant_meals = Amount(None, "Of the meals, from restaurants", help="Deductible in full in 2022 only.")
    utilities = Amount("25", "Utilities")
    wages = Amount("26", "Wages paid")
    others = Rows("48", "Other expenses", OtherExpense)

    inventory_start = Amount("35", "Inventory at the start", begins="Goods sold")
    purchases = Amount("36", "Purchases, less personal use")
    labour = Amount("37", "Cost of labour")
    materials = Amount("38", "Materials and supplies")
    other_costs = Amount("39", "Other costs")
    inventory_end = Amount("41", "Inventory at the end")

    car_method = Choice(None, "Car costs by", CAR_METHODS, cites="IRC 274(d), 280F", begins="Car")
    car_placed = Day("43", "Car in service since")
    miles = Count("44a", "Business miles", most=999999)
    miles_from_july = Count(None, "Of them, from July on", most=999999, help="The rate changed in July 2022; no other year asks.")
    commuting_miles = Count("44b", "Miles to work and back", most=999999)
    other_miles = Count("44c", "Other miles", most=999999)
    car_actual = Amount(None, "Actual car costs, business part")
    parking = Amount(None, "Parking and tolls")
    car_evidence = Flag("47a", "Evidence for the miles", cites="IRC 274(d)")

    home_method = Choice(None, "Home office by", HOME_METHODS, cites="IRC 280A(c)", begins="Home office")
    home_area = Count(None, "Square feet of the office", most=99999)
    home_total = Count(None, "Square feet of the home", most=99999)
    home_months = Count(None, "Months used", most=12, help="Empty: twelve.")
    home_direct = Amount(None, "Costs of the office alone")
    home_interest = Amount(None, "Mortgage interest of the home")
    home_taxes = Amount(None, "Property tax of the home")
    home_itemised = Flag(None, "Home's interest and tax are itemised", help="They then come before the income limit.")
    home_insurance = Amount(None, "Insurance of the home")
    home_rent = Amount(None, "Rent of the home")
    home_repairs = Amount(None, "Repairs of the home")
    home_utilities = Amount(None, "Utilities of the home")
    home_other = Amount(None, "Other costs of the home")
    home_carried = Amount(None, "Home costs carried in")
    home_depreciation = Amount(None, "Depreciation of the home")

    not_at_risk = Flag("32b", "Some of it is not at risk", cites="IRC 465")
    health_insurance = Amount(
        None, "Owner's health insurance", cites="IRC 162(l)", help="Premiums the business or its owner paid.", begins="Owner"
    )
    care_insurance = Amount(None, "Owner's long-term care insurance", cites="IRC 162(l)(2)(C)")
    sep = Amount(None, "Paid into owner's SEP", cites="IRC 404(h)")
    simple = Amount(None, "Paid into owner's SIMPLE", cites="IRC 408(p)")
    deferral = Amount(None, "Owner's 401(k) deferral", cites="IRC 402(g)")
    profit_sharing = Amount(None, "Owner's 401(k), employer's part", cites="IRC 404(a)(3)")
    property_basis = Amount(
        None, "Unadjusted basis of qualified property", cites="IRC 199A(b)(6)", begins="Qualified business income"
    )
    group_of = Text(None, "Aggregated with", longest=20, cites="26 CFR 1.199A-4",
                    help="The same word on each business of one group.")  # fmt: skip
    loss_before = Amount(
        None, "Qualified loss carried in", cites="IRC 199A(c)(2)", help="From last year's computation, positive."
    )
    tips = Amount(None, "Qualified tips in the receipts", cites="IRC 224")
    states = Rows(None, "Receipts by state", StateIncomeRow)


class _ForBusiness(PayersStatement):
    """A statement whose amount belongs to a business."""


class NonemployeeStatement(_ForBusiness):
    """Pay for work of somebody who is no employee. IRC 6041A."""

    placed = Placed("pay", rows="income")
    kind, name, official, group = "1099-nec", "Pay without employment", "1099-NEC", "income"
    short, main = "Contract work", "pay"

    pay = Amount("1", "Pay")
    withheld = Amount("4", "Federal tax withheld")
    business = Refer(None, "Belongs to", ("business",), help="Empty, with several businesses or none: it must be said.")
    not_business = Flag(None, "No business: other income", help="Line 8j, work not done for profit.")
    states = state_rows("5 to 7")


class MiscellaneousStatement(_ForBusiness):
    """Rents, prizes and the rest. IRC 6041, 6045(f)."""

    placed = Placed("other_income", rows="income")
    kind, name, official, group = "1099-misc", "Miscellaneous income", "1099-MISC", "income"
    short, main = "Miscellaneous", "other_income"

    rents = Amount("1", "Rents")
    royalties = Amount("2", "Royalties")
    other_income = Amount("3", "Other income")
    withheld = Amount("4", "Federal tax withheld")
    fishing = Amount("5", "Fishing boat proceeds")
    medical = Amount("6", "Medical and health care payments")
    substitute = Amount("8", "Substitute payments for dividends")
    crop_insurance = Amount("9", "Crop insurance")
    attorney = Amount("10", "Gross proceeds to an attorney")
    deferred = Amount({2022: "14", 2024: "15"}, "Nonqualified deferred pay", cites="IRC 409A")
    business = Refer(None, "Belongs to", ("business",))
    is_business = Flag(None, "Boxes 3, 5, 6 and 10 are business income")
    is_prize = Flag(None, "Box 3 is a prize or an award")
    states = state_rows("16 to 18")


class PaymentCardStatement(_ForBusiness):
    """Card and network payments. IRC 6050W."""

    placed = Placed("gross", rows="income")
    kind, name, official, group = "1099-k", "Card and network payments", "1099-K", "income"
    short, main = "Card payments", "gross"

    gross = Amount("1a", "Gross amount")
    without_card = Amount("1b", "Card not present")
    withheld = Amount("4", "Federal tax withheld")
    business = Refer(None, "Belongs to", ("business",))
    on_other_statement = Amount(None, "Also on another statement")
    personal = Amount(None, "Personal items sold at a loss, or sent by mistake", help="It is left out of the receipts.")
    states = state_rows("6 to 8")
