"""Papers of what is owned: an asset over the years, a rental property in one. IRC 167, 168, 179, 469."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Refer, Row, Rows, Text
from taxcore.packs.us.balances import DEPRECIATION, HOME_LET_COSTS, HOME_LET_DEPRECIATION, PASSIVE_LOSS, QUARTER, SECTION_1231
from taxcore.packs.us.base import STATES, FederalPaper, Placed

# Kinds of assets, with what the general system makes of them: years of the recovery period, or a word
SORTS = {
    "machinery": "Machinery and equipment", "furniture": "Office furniture and fixtures", "computer": "Computers and peripherals",
    "car": "Passenger automobile", "truck": "Truck, van or SUV above 6,000 pounds",
    "appliance": "Appliances and furniture of a rental",
    "tools": "Special tools", "improvement": "Land improvements", "interior": "Qualified improvement property",
    "residential": "Residential rental building", "nonresidential": "Nonresidential building", "land": "Land",
    "farm-machine": "Farm machinery, new", "farm-used": "Farm machinery, used; fences, grain bins",
    "single-purpose": "Single-purpose livestock or greenhouse structure", "farm-building": "Farm building",
    "cattle": "Cattle or horses, draft, breeding or dairy", "sheep": "Sheep, goats or hogs for breeding",
    "software": "Software, off the shelf", "intangible": "Section 197 intangible", "start-up": "Start-up costs", "other": "Other",
}  # fmt: skip
PERIODS = {"machinery": "7", "furniture": "7", "computer": "5", "car": "5", "truck": "5", "appliance": "5", "tools": "3",
           "improvement": "15", "interior": "15", "farm-machine": "5", "farm-used": "7", "single-purpose": "10",
           "farm-building": "20", "cattle": "5", "sheep": "5", "residential": "27.5", "nonresidential": "39"}  # fmt: skip
YEARS = {one: f"{one} years" for one in ("3", "5", "7", "10", "15", "20", "27.5", "39")}
METHODS = {"general": "General (GDS)", "150": "150% declining balance", "straight": "Straight line", "ads": "Alternative (ADS)"}
LISTED, AMORTIZED, BUILT = ("car", "truck"), ("software", "intangible", "start-up"), ("residential", "nonresidential")
ANIMALS = ("cattle", "sheep")
# Never section 179 property: IRC 179(d)(1), 1245(a)(3)
NOT_EXPENSED = (
    *BUILT,
    "improvement",
    "farm-building",
    "land",
    "intangible",
    "start-up",
)
ACTIVITIES = ("business", "farm", "rental")


class Asset(FederalPaper):
    """One thing that is written off over years. It comes along from year to year until it is sold."""

    kind, name, official, group = "asset", "Asset", "Form 4562", "property"
    again, owned = True, False
    short, heading, main = "Asset", "description", "cost"

    description = Text(None, "Description", longest=60, wide=True, needed="The register names it.", kept=True)
    used_in = Refer(None, "Used in", ACTIVITIES, needed="Its depreciation belongs to one activity.", kept=True)
    sort = Choice(None, "Kind", SORTS, needed="The recovery period follows from it.", kept=True)
    in_service = Day(None, "Placed in service", needed="Depreciation begins with it.", kept=True)
    acquired = Day(None, "Acquired, or binding contract", cites="IRC 168(k)", help="If it was on another day.", kept=True)
    cost = Amount(None, "Cost or other basis", cites="IRC 1011, 1012", kept=True)
    land = Amount(None, "Of it, land", help="Land is not depreciated.", kept=True)
    business_share = Count(None, "Business use, percent", most=100, help="If empty, 100.", kept=True)

    period = Choice(None, "Recovery period", YEARS, cites="IRC 168(c), (e)", begins="How it is written off", kept=True)
    method = Choice(None, "Method", METHODS, cites="IRC 168(b), (g)", help="If empty, general.", kept=True)
    ads_years = Count(None, "Recovery period of ADS, years", most=50, cites="IRC 168(g)(2)(C)", kept=True)
    no_special = Flag(
        None, "No special allowance", cites="IRC 168(k)(7)", help="Elected out for its class, or not eligible.", kept=True
    )
    section_179 = Amount(None, "Section 179 elected", cites="IRC 179", kept=True)
    quarter = Count(
        None, "Mid-quarter convention: quarter", most=4, opens=QUARTER, help="0 is the half-year convention.", kept=True
    )
    prior = Amount(
        None, "Depreciation of earlier years", opens=DEPRECIATION, help="With the special allowance, without section 179."
    )

    fell_in = Count(None, "Year in which business use fell to 50% or less", most=2099, cites="IRC 280F(b)(2)", kept=True,
                    help="Of a vehicle that was used more before.")  # fmt: skip
    share_before = Count(None, "Business use before that, percent", most=100, kept=True)

    sold = Day(None, "Sold or retired on", begins="When it leaves")
    sold_for = Amount(None, "Sales price")
    costs = Amount(None, "Expenses of sale")

    @period.when_empty
    def _period(self):
        return PERIODS.get(str(self.sort), "")

    @business_share.when_empty
    def _business_share(self):
        return 100

    @prior.when_empty
    def _prior(self):
        """What the law would have given in the years before this one."""
        from taxcore.packs.us.property.lives import before_this_year

        return before_this_year(self)

    @quarter.when_empty
    def _quarter(self):
        """The quarter where too much was placed in service in the last three months of that year, else 0."""
        from taxcore.packs.us.property.lives import quarter_of_asset

        return quarter_of_asset(self)

    def comes_again(self):
        return self.sold is None

    @property
    def has_fallen(self):
        """Whether its business use fell to half or less, this year or before: from then on the straight line holds."""
        return self.sort in LISTED and bool(self.fell_in) and self.fell_in <= self.run.year


class RentalExpense(Row):
    description = Text(None, "Description", longest=60, needed="Line 19 asks for a description of each.")
    amount = Amount(None, "Amount")


ROYALTIES = "6"
KINDS = {"1": "Single family residence", "2": "Multi-family residence", "3": "Vacation or short-term rental", "4": "Commercial",
         "5": "Land", "6": "Royalties", "7": "Self-rental", "8": "Other"}  # fmt: skip


class Rental(FederalPaper):
    """One property that is let, or royalties of one source. Schedule E, part I. IRC 61(a)(5), 280A, 469(i)."""

    placed = Placed("rents")
    kind, name, official, group = "rental", "Rental property or royalties", "Schedule E, part I", "property"
    again = True
    joint_owner = True
    short, heading, main = "Rental", "address_line", "rents"

    address_line = Text("1a", "Street address", longest=60, wide=True, needed="Line 1a asks for it.", kept=True)
    property_kind = Choice("1b", "Type of property", KINDS, wide=True, needed="Line 1b asks for it.", kept=True)
    state = Choice(None, "State", STATES, needed="The state where it lies taxes its rents.", kept=True)
    rented_days = Count("2", "Fair rental days", most=366)
    personal_days = Count(None, "Personal use days", most=366)
    whole_costs = Flag(None, "Expenses below include personal use: allocate by days", cites="IRC 280A(e)",
                       help="Direct rental expenses (advertising, management) are not allocated.", kept=True)  # fmt: skip
    qualified_venture = Flag(None, "Qualified joint venture", cites="IRC 761(f)", kept=True)
    professional = Flag(None, "Real estate professional, materially participates", cites="IRC 469(c)(7)", kept=True)
    active = Flag(
        None, "Active participation", cites="IRC 469(i)(6)", needed="The allowance for losses depends on it.", kept=True
    )

    rents = Amount("3", "Rents received", begins="Income")
    royalties = Amount("4", "Royalties received")
    advertising = Amount("5", "Advertising", begins="Expenses")
    auto = Amount("6", "Auto and travel")
    cleaning = Amount("7", "Cleaning and maintenance")
    commissions = Amount("8", "Commissions")
    insurance = Amount("9", "Insurance")
    legal = Amount("10", "Legal and other professional fees")
    management = Amount("11", "Management fees")
    mortgage_interest = Amount("12", "Mortgage interest paid to banks")
    other_interest = Amount("13", "Other interest")
    repairs = Amount("14", "Repairs")
    supplies = Amount("15", "Supplies")
    taxes = Amount("16", "Taxes")
    utilities = Amount("17", "Utilities")
    others = Rows("19", "Other expenses", RentalExpense)
    passive_before = Amount(
        None, "Passive loss not allowed in earlier years", opens=PASSIVE_LOSS, begins="Losses", cites="IRC 469(b)"
    )
    operating_before = Amount(None, "Vacation home expenses carryover", cites="IRC 280A(c)(5)", opens=HOME_LET_COSTS)
    home_depreciation_before = Amount(
        None, "Vacation home depreciation carryover", cites="IRC 280A(c)(5)", opens=HOME_LET_DEPRECIATION
    )
    disposed = Flag(None, "Disposed of entirely this year", cites="IRC 469(g)", help="In a taxable sale to somebody unrelated.")
    qualified_trade = Flag(
        None, "Trade or business for the QBI deduction", cites="IRC 199A; Rev. Proc. 2019-38", kept=True,
        begins="Qualified business income",
    )  # fmt: skip
    property_basis = Amount(None, "UBIA of qualified property", cites="IRC 199A(b)(6)", kept=True)
    service_trade = Flag(None, "Specified service trade or business (SSTB)", cites="IRC 199A(d)(2)", kept=True)
    group_of = Text(None, "Aggregation group", longest=20, cites="26 CFR 1.199A-4", kept=True)
    loss_before = Amount(None, "QBI loss carryover", cites="IRC 199A(c)(2)")

    @property
    def is_royalties(self):
        return self.property_kind == ROYALTIES

    @property
    def is_divided(self):
        """Whether its costs are entered for all uses, and some are not the rental's."""
        return bool(self.whole_costs) and bool(self.personal_days) and bool(self.rented_days)

    @property
    def is_home(self):
        """Used by its owner for more than fourteen days, and more than a tenth of the days it is let. IRC 280A(d)(1)."""
        return (self.personal_days or 0) > max(14, (self.rented_days or 0) / 10) and not self.is_royalties

    @property
    def participates(self):
        """Material participation, as other activities say it: a professional's."""
        return self.professional


class LossRow(Row):
    from_year = Count(None, "Year of the loss", most=2099, needed="Five years are counted.")
    amount = Amount(None, "Not recaptured yet")


class EarlierLosses(FederalPaper):
    """Net section 1231 losses of the five years before that no gain has made good. IRC 1231(c)."""

    kind, name, official, group = "section-1231", "Section 1231 losses of earlier years", "Form 4797, line 8", "property"
    single, owned = True, False

    rows = Rows("8", "Losses", LossRow, opens=SECTION_1231)


PAPERS = (Asset, Rental, EarlierLosses)
