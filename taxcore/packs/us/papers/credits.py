"""What credits are made of: care, education, energy, health coverage, foreign tax. IRC 21, 25A, 25C, 25D, 36B, 901."""

from taxcore.engine import Amount, Choice, Count, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.balances import AMERICAN_YEARS, CLEAN_ENERGY, FOREIGN_CATEGORY, FOREIGN_TAX, MINIMUM_CREDIT
from taxcore.packs.us.base import FederalPaper
from taxcore.packs.us.papers.statements import PayersStatement


class CareRow(Row):
    person = Refer("2a", "Qualifying person", ("person",), needed="Choose the person.")
    amount = Amount("2d", "Expenses paid this year")


class CareProvider(FederalPaper):
    """Who cared for whom, and what it cost. IRC 21(e)(9)."""

    kind, name, official, group = "care", "Dependent care provider", "2441", "credits"
    again = True
    short, heading, owned = "Care", "provider", False

    provider = Text("1a", "Provider", needed="Form 2441 asks for it.", wide=True, longest=60)
    provider_address = Text("1b", "Address", needed="Form 2441 asks for it.", wide=True, longest=80, kept=True)
    number = Text("1c", "Provider's TIN", secret=True, longest=11, needed="The credit requires it.", cites="IRC 21(e)(9)",
                  pattern=r"\d{2,3}-?\d{2}-?\d{4,7}|\d{9}|TAXEXEMPT", pattern_says="Nine digits, or TAXEXEMPT.",
                  kept=True)  # fmt: skip
    household_employee = Flag("1d", "Household employee", help="Schedule H may be required.", kept=True)
    costs = Rows("2", "Qualifying persons", CareRow)


class CareQuestions(FederalPaper):
    """What Form 2441 asks of the family as a whole."""

    kind, name, official, group = "care-questions", "Dependent care, more questions", "2441", "credits"
    goes_on = True
    single, owned = True, False

    student_months = Count(None, "Months taxpayer was a student or incapable of self-care", most=12, cites="IRC 21(d)(2)")
    spouse_student_months = Count(None, "Months spouse was a student or incapable of self-care", most=12, cites="IRC 21(d)(2)")
    carried_in = Amount("13", "Benefits carried over from last year")
    forfeited = Amount("14", "Benefits forfeited or carried forward")
    prior_year_expenses = Amount("9b", "Credit for prior year expenses paid this year")
    lived_apart = Flag(None, "Separate, and spouse not in the home the last 6 months", cites="IRC 21(e)(4)")


CREDITS = {
    "better": "Whichever is larger",
    "american": "American opportunity credit",
    "lifetime": "Lifetime learning credit",
    "none": "None",
}


class TuitionStatement(PayersStatement):
    """One school, one student. IRC 25A, 6050S."""

    kind, name, official, group = "1098-t", "Tuition", "1098-T", "credits"
    again, whose = True, "student"
    short, main, owned = "Tuition", "paid", False

    student = Refer(None, "Student", ("person",), needed="Choose the student.", kept=True)
    paid = Amount("1", "Payments received for qualified tuition")
    earlier_adjustment = Amount("4", "Adjustments made for a prior year")
    scholarships = Amount("5", "Scholarships and grants")
    scholarship_adjustment = Amount("6", "Adjustments to scholarships for a prior year")
    next_term = Flag("7", "Includes amounts for January to March")
    half_time = Flag("8", "At least half-time student", cites="IRC 25A(b)(3)")
    graduate = Flag("9", "Graduate student")
    books = Amount(
        None,
        "Books and course materials",
        help="Counts for the American opportunity credit; for lifetime learning only what must be bought from the school.",
        begins="Student",
    )
    books_from_school = Amount(None, "Of them, required to be bought from the school")
    other_aid = Amount(None, "Other tax-free assistance", help="Employer assistance, 529 distributions, veterans' benefits.")
    taxed_scholarship = Amount(None, "Scholarship included in income", cites="26 CFR 1.25A-5(c)(3)")
    credit = Choice(None, "Credit", CREDITS, help="If empty, whichever is larger.")
    years_claimed = Count(
        "23", "Years American opportunity credit claimed before", most=99, cites="IRC 25A(b)(2)(A)", opens=AMERICAN_YEARS
    )
    degree = Flag(None, "Pursuing a degree or credential", help="If empty, yes.")
    four_years_done = Flag("25", "First 4 years completed before this year", cites="IRC 25A(b)(2)(C)")
    convicted = Flag("26", "Felony drug conviction", cites="IRC 25A(b)(2)(D)")

    def comes_again(self):
        return self.four_years_done is not True and self.graduate is not True


class EnergyCosts(FederalPaper):
    """Energy of the home. IRC 25C (2023 to 2025), 25D (to 2025)."""

    kind, name, official, group = "energy", "Residential energy credits", "5695", "credits"
    single, owned = True, False
    until = 2025

    solar_electric = Amount("1", "Solar electric", begins="Clean energy")
    solar_water = Amount("2", "Solar water heating")
    wind = Amount("3", "Small wind energy")
    geothermal = Amount("4", "Geothermal heat pump")
    battery = Amount("5b", "Battery storage, 3 kWh or more", help="From 2023.")
    fuel_cell = Amount("8", "Fuel cell", help="Main home only.")
    fuel_cell_kilowatts = Count("10", "Fuel cell capacity, tenths of a kilowatt", most=9999)
    carried_in = Amount("12", "Credit carryforward", opens=CLEAN_ENERGY)
    insulation = Amount("18a", "Insulation and air sealing", cites="IRC 25C(c)(3)(A)", begins="Home improvements")
    door_most = Amount("19a", "Most expensive exterior door")
    other_doors = Amount("19d", "Other exterior doors")
    windows = Amount("20a", "Windows and skylights")
    air_conditioner = Amount("22a", "Central air conditioner")
    water_heater = Amount("23a", "Gas or oil water heater")
    furnace = Amount("24a", "Furnace or hot water boiler")
    panels = Amount("25c", "Panelboards and wiring")
    audit = Amount("26a", "Home energy audit")
    heat_pump = Amount("29a", "Heat pump")
    heat_pump_water = Amount("29b", "Heat pump water heater")
    biomass = Amount("29c", "Biomass stove or boiler")
    older_improvements = Amount(None, "2022 improvements, prior law", help="The prior-law credit is not computed here.")


class CoverRow(Row):
    """One month, or several alike."""

    first = Count(None, "From month", most=12, needed="1 is January.")
    last = Count(None, "To month", most=12, needed="12 is December.")
    premium = Amount("A", "Monthly premium")
    benchmark = Amount("B", "Monthly SLCSP premium")
    advance = Amount("C", "Monthly advance payment of PTC")


class MarketplaceStatement(FederalPaper):
    """Cover bought through a marketplace. IRC 36B(f)(3)."""

    kind, name, official, group = "1095-a", "Marketplace coverage", "1095-A", "credits"
    again = True
    short, heading, owned = "Marketplace", "marketplace", False

    marketplace = Text("1", "Marketplace", wide=True, longest=60)
    policy = Text("2", "Policy number", longest=30)
    months = Rows("21", "Months, lines 21 to 32", CoverRow)
    business = Refer(None, "Self-employed in", ("business", "farm", "k1-1065", "k1-1120s"),
                     help="Premiums not credited are deductible there.", optional=True, kept=True)  # fmt: skip
    shared = Flag(None, "Shared policy allocation", cites="26 CFR 1.36B-4(a)(1)(ii)")


class PremiumCreditQuestions(FederalPaper):
    kind, name, official, group = "premium-questions", "Premium tax credit, more questions", "8962", "credits"
    goes_on = True
    single, owned = True, False

    dependants_income = Amount("2b", "Dependents' modified AGI", cites="IRC 36B(d)(2)", negative=True,
                               help="Only of those required to file.")  # fmt: skip
    poverty = Choice(
        "4", "Federal poverty line table", {"elsewhere": "48 states and DC", "alaska": "Alaska", "hawaii": "Hawaii"}, kept=True
    )
    abused_or_abandoned = Flag(None, "Separate because of abuse or abandonment", cites="26 CFR 1.36B-2(b)(2)")


class ForeignTaxRow(Row):
    from_year = Count(None, "Year", most=2199, needed="It expires after 10 years.")
    amount = Amount(None, "Amount carried over")


CATEGORIES = {
    "passive": "Passive",
    "general": "General",
    "branch": "Foreign branch",
    "treaty": "Certain income resourced by treaty",
}


class ForeignTaxQuestions(FederalPaper):
    """One category of foreign income, Form 1116. IRC 901, 904."""

    kind, name, official, group = "foreign-tax", "Foreign tax credit", "1116", "credits"
    goes_on = True
    single, owned = True, False

    category = Choice(None, "Category", CATEGORIES, cites="IRC 904(d)", kept=True)
    country = Text("i", "Country", longest=40, kept=True)
    gross_income = Amount("1a", "Foreign source gross income")
    qualified = Amount(None, "Of it, qualified dividends", cites="IRC 904(b)(2)", help="With those of Forms 1099-DIV.")
    long_gain = Amount(None, "Of it, net long-term capital gain", cites="IRC 904(b)(2)")
    direct_deductions = Amount("2", "Directly related deductions")
    other_tax = Amount("8", "Foreign tax not on a form")
    reduction = Amount(
        "12",
        "Reduction, tax on income left out",
        cites="IRC 911(d)(6)",
        help="What of the tax bears on income that Form 2555 leaves out.",
    )
    carried = Rows("10", "Carryover from prior years", ForeignTaxRow, opens=FOREIGN_TAX)
    simplified = Flag(
        None,
        "Simplified limitation elected for the minimum tax",
        cites="IRC 59(a)(3)",
        kept=True,
        help="In the first year in which the credit was claimed.",
    )
    carried_minimum = Amount(None, "Carryover for the minimum tax", help="Where it differs from the regular one.")
    deduct_instead = Flag(None, "Deduct instead of credit", cites="IRC 275(a)(4)")
    short_holding = Flag(None, "Some was paid on stock not held long enough", cites="IRC 901(k)")


class ForeignCategory(FederalPaper):
    """A second category of foreign income, and each further one: its own Form 1116. IRC 904(d)."""

    kind, name, official, group = "foreign-category", "Foreign tax, another category", "1116", "credits"
    again, owned = True, False
    short, heading, main = "Foreign tax", "country", "other_tax"

    category = Choice(None, "Category", CATEGORIES, cites="IRC 904(d)", kept=True, needed="Each category has its own limit.")
    country = Text("i", "Country", longest=40, kept=True)
    gross_income = Amount("1a", "Foreign source gross income")
    qualified = Amount(None, "Of it, qualified dividends", cites="IRC 904(b)(2)")
    long_gain = Amount(None, "Of it, net long-term capital gain", cites="IRC 904(b)(2)")
    direct_deductions = Amount("2", "Directly related deductions")
    other_tax = Amount("8", "Foreign tax")
    reduction = Amount("12", "Reduction, tax on income left out", cites="IRC 911(d)(6)")
    carried = Rows("10", "Carryover from prior years", ForeignTaxRow, opens=FOREIGN_CATEGORY)

    def comes_again(self):
        """What waits is in its rows."""
        return True


class CarriedCredits(FederalPaper):
    kind, name, official, group = "credits-carried", "Other credits", "Schedule 3", "credits"
    single, owned = True, False

    minimum_tax = Amount("6b", "Minimum tax credit available", cites="IRC 53", opens=MINIMUM_CREDIT,
                         help="Form 8801, line 21: last year's line 26, and what last year's minimum tax added.")  # fmt: skip
    general_business = Amount("6a", "General business credit", cites="IRC 38")
