"""What credits are made of: care, education, energy, health cover, foreign tax. IRC 21, 25A, 25C, 25D, 36B, 901."""

from taxcore.engine import Amount, Choice, Count, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.base import FederalPaper
from taxcore.packs.us.papers.statements import PayersStatement


class CareRow(Row):
    person = Refer("2a", "For", ("person",), needed="Choose who was cared for.")
    amount = Amount("2d", "Paid this year for this person")


class CareProvider(FederalPaper):
    """Who cared for whom, and what it cost. IRC 21(e)(9)."""

    kind, name, official, group = "care", "Care provider", "2441", "credits"
    short, heading, owned = "Care", "provider", False

    provider = Text("1a", "Provider", needed="Form 2441 asks for it.", wide=True, longest=60)
    provider_address = Text("1b", "Address", needed="Form 2441 asks for it.", wide=True, longest=80)
    number = Text("1c", "Provider's number", secret=True, longest=11, needed="The credit needs it.", cites="IRC 21(e)(9)",
                  pattern=r"\d{2,3}-?\d{2}-?\d{4,7}|\d{9}|TAXEXEMPT", pattern_says="Nine digits, or TAXEXEMPT.")  # fmt: skip
    household_employee = Flag("1d", "Household employee", help="Then Schedule H may be due.")
    costs = Rows("2", "Who was cared for", CareRow)


class CareQuestions(FederalPaper):
    """What Form 2441 asks of the family as a whole."""

    kind, name, official, group = "care-questions", "Care, more questions", "2441", "credits"
    single, owned = True, False

    student_months = Count(None, "Months the taxpayer studied or could not care for himself", most=12, cites="IRC 21(d)(2)")
    spouse_student_months = Count(None, "Months the spouse studied or could not care for himself", most=12, cites="IRC 21(d)(2)")
    carried_in = Amount("13", "Employer's benefits carried in")
    forfeited = Amount("14", "Employer's benefits forfeited or carried on")
    prior_year_expenses = Amount("9b", "Credit for last year's costs paid this year")
    lived_apart = Flag(None, "Apart, and the spouse did not live here in the last six months", cites="IRC 21(e)(4)")


CREDITS = {"better": "Whichever is larger", "american": "First four years", "lifetime": "Lifetime learning", "none": "None"}


class TuitionStatement(PayersStatement):
    """One school, one student. IRC 25A, 6050S."""

    kind, name, official, group = "1098-t", "Tuition", "1098-T", "credits"
    short, main, owned = "Tuition", "paid", False

    student = Refer(None, "Student", ("person",), needed="Choose the student.")
    paid = Amount("1", "Payments received for tuition")
    earlier_adjustment = Amount("4", "Adjustment of an earlier year")
    scholarships = Amount("5", "Scholarships and grants")
    scholarship_adjustment = Amount("6", "Adjustment of earlier scholarships")
    next_term = Flag("7", "Includes a term that begins by March")
    half_time = Flag("8", "At least half-time", cites="IRC 25A(b)(3)")
    graduate = Flag("9", "Graduate student")
    books = Amount(
        None,
        "Books and materials bought",
        help="Counts for the first four years; for lifetime learning only what the school requires to be bought from it.",
        begins="Student",
    )
    books_from_school = Amount(None, "Of the books, bought from the school as required")
    other_aid = Amount(None, "Other tax-free help", help="Employer's help, section 529 money, veterans' help.")
    taxed_scholarship = Amount(None, "Scholarship treated as income", cites="26 CFR 1.25A-5(c)(3)")
    credit = Choice(None, "Credit", CREDITS, help="Empty: whichever is larger.")
    years_claimed = Count("23", "Years the first credit was claimed before", most=99, cites="IRC 25A(b)(2)(A)")
    degree = Flag(None, "Works for a degree or certificate", help="Empty: yes.")
    four_years_done = Flag("25", "First four years finished before this year", cites="IRC 25A(b)(2)(C)")
    convicted = Flag("26", "Convicted of a drug felony", cites="IRC 25A(b)(2)(D)")


class EnergyCosts(FederalPaper):
    """Energy of the home. IRC 25C (2023 to 2025), 25D (to 2025)."""

    kind, name, official, group = "energy", "Home energy", "5695", "credits"
    single, owned = True, False
    until = 2025

    solar_electric = Amount("1", "Solar electricity", begins="Clean energy")
    solar_water = Amount("2", "Solar hot water")
    wind = Amount("3", "Wind")
    geothermal = Amount("4", "Geothermal heat pump")
    battery = Amount("5b", "Battery of 3 kWh or more", help="From 2023.")
    fuel_cell = Amount("8", "Fuel cell", help="Main home only.")
    fuel_cell_kilowatts = Count("10", "Tenths of a kilowatt of the fuel cell", most=9999)
    carried_in = Amount("12", "Credit carried in")
    insulation = Amount("18a", "Insulation and air sealing", cites="IRC 25C(c)(3)(A)", begins="Improvements")
    door_most = Amount("19a", "Most expensive outer door")
    other_doors = Amount("19d", "Other outer doors")
    windows = Amount("20a", "Windows and skylights")
    air_conditioner = Amount("22a", "Central air conditioner")
    water_heater = Amount("23a", "Gas or oil water heater")
    furnace = Amount("24a", "Gas or oil furnace or boiler")
    panels = Amount("25c", "Panel or wiring for such equipment")
    audit = Amount("26a", "Energy audit")
    heat_pump = Amount("29a", "Heat pump")
    heat_pump_water = Amount("29b", "Heat pump water heater")
    biomass = Amount("29c", "Biomass stove or boiler")
    older_improvements = Amount(None, "Improvements of 2022, before the new law", help="Old credit: it is not computed here.")


class CoverRow(Row):
    """One month, or several alike."""

    first = Count(None, "From month", most=12, needed="1 is January.")
    last = Count(None, "To month", most=12, needed="12 is December.")
    premium = Amount("A", "Premium a month")
    benchmark = Amount("B", "Second lowest silver plan a month")
    advance = Amount("C", "Paid in advance a month")


class MarketplaceStatement(FederalPaper):
    """Cover bought through a marketplace. IRC 36B(f)(3)."""

    kind, name, official, group = "1095-a", "Marketplace cover", "1095-A", "credits"
    short, heading, owned = "Marketplace", "marketplace", False

    marketplace = Text("1", "Marketplace", wide=True, longest=60)
    policy = Text("2", "Policy number", longest=30)
    months = Rows("21", "Months, lines 21 to 32", CoverRow)
    business = Refer(None, "Self-employed in", ("business", "k1-1065", "k1-1120s"),
                     help="The premiums left are then deductible there.", optional=True)  # fmt: skip
    shared = Flag(None, "Shared with another tax family", cites="26 CFR 1.36B-4(a)(1)(ii)")


class PremiumCreditQuestions(FederalPaper):
    kind, name, official, group = "premium-questions", "Marketplace, more questions", "8962", "credits"
    single, owned = True, False

    dependants_income = Amount("2b", "Dependants' modified income", cites="IRC 36B(d)(2)", negative=True,
                               help="Only of those who must file a return.")  # fmt: skip
    poverty = Choice("4", "Poverty table", {"elsewhere": "48 states and DC", "alaska": "Alaska", "hawaii": "Hawaii"})
    abused_or_abandoned = Flag(None, "Apart because of abuse or abandonment", cites="26 CFR 1.36B-2(b)(2)")


class ForeignTaxRow(Row):
    from_year = Count(None, "Year", most=2199, needed="It ends after ten years.")
    amount = Amount(None, "Left over")


class ForeignTaxQuestions(FederalPaper):
    """One category of foreign income, Form 1116. IRC 901, 904."""

    kind, name, official, group = "foreign-tax", "Foreign tax credit", "1116", "credits"
    single, owned = True, False

    category = Choice(None, "Category", {"passive": "Passive", "general": "General"}, cites="IRC 904(d)")
    country = Text("i", "Country", longest=40)
    gross_income = Amount("1a", "Gross income from there")
    direct_deductions = Amount("2", "Deductions for that income")
    other_tax = Amount("8", "Foreign tax on no statement")
    carried = Rows("10", "Left over from earlier years", ForeignTaxRow)
    deduct_instead = Flag(None, "Deduct it instead", cites="IRC 275(a)(4)")
    short_holding = Flag(None, "Some was paid on shares held too short", cites="IRC 901(k)")


class CarriedCredits(FederalPaper):
    kind, name, official, group = "credits-carried", "Other credits", "Schedule 3", "credits"
    single, owned = True, False

    adoption = Amount("6c", "Adoption credit carried in", cites="IRC 23(c)")
    minimum_tax = Amount("6b", "Minimum tax credit carried in", cites="IRC 53")
    mortgage_certificate = Amount("6g", "Mortgage interest credit", cites="IRC 25")
    general_business = Amount("6a", "General business credit", cites="IRC 38")
    vehicle = Amount("6f", "Clean vehicle credit", cites="IRC 30D")
    elderly = Flag("6d", "Credit for the elderly or disabled", cites="IRC 22")
