"""The books of a farm, Schedule F. IRC 61, 162, 175, 451(f), 77; 26 CFR 1.61-4."""

from taxcore.engine import Amount, Choice, Flag, Row, Rows, Text
from taxcore.packs.us.balances import CONSERVATION, CROP_INSURANCE, PASSIVE_TRADE, RISK_TRADE, SECTION_179
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.business import METHODS
from taxcore.packs.us.papers.statements import StateIncomeRow

_METHODS = {one: METHODS[one] for one in ("cash", "accrual")}


def _is_passive(books):
    return books.participates is False


class FarmExpense(Row):
    description = Text(None, "Description", longest=60, needed="Line 32 asks for a description of each.")
    amount = Amount(None, "Amount")


class FarmBooks(FederalPaper):
    """One farm's year, by the cash method. Depreciation follows from its assets."""

    placed = Placed("raised", rows="income")
    kind, name, official, group = "farm", "Farm", "Schedule F", "income"
    again = True
    short, heading, main = "Farm", "product", "raised"
    service_trade, not_qualified = False, False  # a farm is a trade of its own, and no service: IRC 199A(d)

    product = Text("A", "Principal crop or activity", longest=60, wide=True, needed="Line A asks for it.", kept=True)
    code = Text("B", "Agricultural activity code", pattern=r"\d{6}", longest=6, pattern_says="The code has six digits.",
                needed="Line B asks for the six-digit code.", kept=True)  # fmt: skip
    method = Choice("C", "Accounting method", _METHODS, needed="Line C asks for it.", kept=True)
    number = Text("D", "EIN", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                  pattern_says="An employer number has nine digits, 00-0000000.", kept=True)  # fmt: skip
    participates = Flag("E", "Materially participated", cites="IRC 469(h)", needed="A loss depends on it.", kept=True)
    must_report = Flag("F", "Made payments requiring Forms 1099")
    did_report = Flag("G", "Filed the required Forms 1099")

    resale = Amount("1a", "Sales of livestock and other resale items", begins="Income")
    resale_cost = Amount("1b", "Cost or basis of resale items")
    raised = Amount("2", "Sales of livestock, produce and grain raised")
    cooperatives = Amount("3a", "Cooperative distributions", help="Forms 1099-PATR.")
    cooperatives_taxable = Amount("3b", "Cooperative distributions, taxable amount")
    patron = Flag(
        None,
        "Cooperative passed through a section 199A(g) deduction",
        cites="IRC 199A(b)(7), (g)",
        help="Form 1099-PATR, box 6.",
    )
    programs = Amount("4a", "Agricultural program payments not on a 1099-G")
    programs_untaxed = Amount(None, "Nontaxable program payments", cites="IRC 126")
    reserve = Amount(None, "Conservation Reserve Program payments", cites="IRC 1402(a)(1)")
    loans_elected = Amount("5a", "CCC loans reported under election", cites="IRC 77")
    loans_forfeited = Amount("5b", "CCC loans forfeited")
    loans_taxable = Amount("5c", "CCC loans forfeited, taxable amount")
    crop_insurance = Amount("6a", "Crop insurance and disaster payments not on a 1099-MISC", cites="IRC 451(f)")
    crop_untaxed = Amount(None, "Nontaxable crop insurance and disaster payments")
    crop_deferred = Flag("6c", "Elected to defer to next year", cites="IRC 451(f)",
                         help="Where the crop would have been sold after the year of the loss.")  # fmt: skip
    crop_deferred_before = Amount("6d", "Deferred from last year", opens=CROP_INSURANCE)
    custom_hire_income = Amount("7", "Custom hire income")
    other_income = Amount("8", "Other income", negative=True)

    car = Amount("10", "Car and truck expenses", begins="Expenses")
    chemicals = Amount("11", "Chemicals")
    conservation = Amount("12", "Conservation expenses", cites="IRC 175")
    conservation_before = Amount(None, "Conservation expenses of earlier years", cites="IRC 175(b)", opens=CONSERVATION)
    custom_hire = Amount("13", "Custom hire")
    section_179_before = Amount(None, "Section 179 carryover", cites="IRC 179(b)(3)(B)", opens=SECTION_179)
    employee_benefits = Amount("15", "Employee benefit programs")
    feed = Amount("16", "Feed")
    fertilizer = Amount("17", "Fertilizers and lime")
    freight = Amount("18", "Freight and trucking")
    fuel = Amount("19", "Gasoline, fuel and oil")
    insurance = Amount("20", "Insurance (other than health)")
    mortgage_interest = Amount("21a", "Mortgage interest")
    other_interest = Amount("21b", "Other interest")
    wages = Amount("22", "Labor hired", help="Less employment credits.")
    employee_pensions = Amount("23", "Pension and profit-sharing plans")
    rent_equipment = Amount("24a", "Rent or lease: vehicles, machinery, equipment")
    rent_land = Amount("24b", "Rent or lease: land, animals, other")
    repairs = Amount("25", "Repairs and maintenance")
    seeds = Amount("26", "Seeds and plants")
    storage = Amount("27", "Storage and warehousing")
    supplies = Amount("28", "Supplies")
    taxes = Amount("29", "Taxes")
    utilities = Amount("30", "Utilities")
    veterinary = Amount("31", "Veterinary, breeding and medicine")
    others = Rows("32", "Other expenses", FarmExpense)

    not_at_risk = Flag("36b", "Some investment is not at risk", cites="IRC 465", begins="Owner")
    at_risk = Amount(None, "Amount at risk (Form 6198, line 20)", cites="IRC 465(b)", help="Asked only where there is a loss.")
    passive_before = Amount(None, "Passive loss not allowed in earlier years", cites="IRC 469(b)", opens=PASSIVE_TRADE)
    disposed = Flag(None, "Disposed of entirely this year", cites="IRC 469(g)", only=_is_passive)
    risk_before = Amount(None, "Loss of earlier years not allowed at risk", cites="IRC 465(a)(2)", opens=RISK_TRADE)
    averaging = Flag(None, "Income averaging wanted", cites="IRC 1301")
    optional_method = Flag(None, "Farm optional method of self-employment tax", cites="IRC 1402(a)")
    health_insurance = Amount(None, "Self-employed health insurance", cites="IRC 162(l)")
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
    loss_before = Amount(None, "QBI loss carryover", cites="IRC 199A(c)(2)")
    states = Rows(None, "Income by state", StateIncomeRow)


PAPERS = (FarmBooks,)
