"""Papers of a company's return: what it is, its accounts, its plant, other income, gains, losses, loans and reliefs."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Count, Day, Flag, Grid, Person, Prose, Row, Rows, Text, total
from taxcore.packs.uk.company.balances import ASSETS, CAPITAL_LOSS, MAIN_POOL, RESERVES, SPECIAL_POOL
from taxcore.packs.uk.company.base import CompanyPaper
from taxcore.packs.uk.company.claims import Group, Loans, Losses, Reliefs, Supplementary
from taxcore.packs.uk.individual.papers import Amendment

HEADINGS = {
    "turnover": "Turnover", "income": "Other income", "cost": "Cost of sales", "expense": "Expenses", "tax": "Tax on profit",
    "dividend": "Dividends paid", "fixed": "Fixed assets", "stock": "Stock", "debtors": "Debtors", "cash": "Cash at bank",
    "creditors": "Creditors within a year", "later": "Creditors after a year", "provisions": "Provisions",
    "capital": "Share capital", "reserves": "Reserves",
}  # fmt: skip
PROFIT_AND_LOSS = ("turnover", "income", "cost", "expense")
TREATMENTS = {
    "trade": "Trading", "disallowed": "Disallowable", "interest": "Interest", "property": "Lettings",
    "dividend": "Exempt dividend", "other": "Other income", "donation": "Donation",
}  # fmt: skip
# Words in an account's name, and what it usually becomes: a person confirms it
USUAL = (
    ("depreciation", "disallowed"), ("amortis", "disallowed"), ("entertain", "disallowed"), ("penalt", "disallowed"),
    ("fines", "disallowed"), ("profit on disposal", "disallowed"), ("loss on disposal", "disallowed"),
    ("impairment", "disallowed"), ("donation", "donation"), ("gift aid", "donation"), ("interest received", "interest"),
    ("bank interest", "interest"), ("rent received", "property"), ("dividends received", "dividend"),
    ("dividend income", "dividend"),
)  # fmt: skip
PLANT = {
    "main": "Plant, main rate", "special": "Plant, special rate", "zero": "New zero-emission car", "car": "Car up to 50 g/km",
    "high": "Car above 50 g/km",
}  # fmt: skip
CLAIMS = {"investment": "AIA", "first": "First-year", "none": "Pool only"}
SIZES = {"micro": "Micro-entity", "small": "Small company"}
BY = {"add": "Added", "deduct": "Deducted"}


class Company(Person):
    """The company whose return it is. It stands where people stand on other returns."""

    jurisdiction, heading = "uk", "company"
    role_names = {"taxpayer": "company"}

    company = Text(None, "Company", needed="The return carries its name.", longest=120, kept=True)
    number = Text(
        "3", "Unique Taxpayer Reference", secret=True, pattern=r"\d{10}", longest=10, kept=True, pattern_says="Ten digits.",
        needed="HMRC knows the company by it.",
    )  # fmt: skip
    registration = Text(
        "2", "Company registration number", pattern=r"[A-Z0-9]{2}\d{6}", longest=8, kept=True,
        pattern_says="Eight characters, as 01234567 or SC123456.", needed="The return carries it.",
    )  # fmt: skip

    @property
    def full_name(self):
        return str(self.company)

    short_name = whole_name = full_name


class About(CompanyPaper):
    """What a return asks of a company besides money. CT600, boxes 4 to 55, 326 to 329."""

    kind, name, official, group = "about", "About the company", "CT600", "company"
    single, always = True, True

    associates = Count(
        "326", "Associated companies", most=9_999, needed="The limits are shared with them.", cites="CTA 2010 s. 18E", kept=True
    )
    close = Flag(None, "Close company", cites="CTA 2010 s. 439", kept=True)
    investment_holding = Flag(None, "Close investment-holding company", cites="CTA 2010 s. 18N", kept=True)
    large_before = Flag(None, "It was large in the twelve months before too", cites="SI 1998/3175 reg. 3(2)", kept=True)
    ceased = Day(None, "Trade ceased on", cites="CTA 2009 s. 41")
    paid = Amount(None, "Corporation tax paid already", begins="Payments")
    tax_deducted = Amount("515", "Income tax taken off what was received", cites="CTA 2010 s. 967")
    director = Text(None, "Director who signs", longest=60, kept=True, needed="Somebody declares the return.", begins="Signature")


class AccountRow(Row):
    same_by = "account"
    known_as = {
        "code": ("nominal code", "account code", "code"), "account": ("account", "account name", "nominal", "description"),
        "debit": ("debit", "dr"), "credit": ("credit", "cr"), "heading": ("heading", "type", "category"),
    }  # fmt: skip
    account = Text(None, "Account", longest=60, needed="It tells one line from another.")
    code = Text(None, "Code", longest=20)
    heading = Choice(None, "Heading", HEADINGS, needed="Profit and balance sheet are made by it.")
    debit = Amount(None, "Debit")
    credit = Amount(None, "Credit")
    treatment = Choice(None, "For tax", TREATMENTS, help="If empty, what its name usually means; to be confirmed.")

    @treatment.when_empty
    def _usual(self):
        """What an account of that name usually becomes; nothing of the balance sheet."""
        if self.heading not in PROFIT_AND_LOSS:
            return ""
        named = str(self.account).lower()
        return next((usual for words, usual in USUAL if words in named), "trade")

    @property
    def net(self):
        """Above nothing what costs, below it what comes in."""
        return self.debit - self.credit


class AdjustmentRow(Row):
    what = Text(None, "What it is", longest=80, needed="The computation names it.")
    by = Choice(None, "Added or deducted", BY, needed="Choose which.")
    amount = Amount(None, "Amount")
    rule = Text(None, "Rule", longest=60)
    note = Text(None, "Note", longest=120)


class FixedAssetRow(Row):
    """What becomes of fixed assets of one kind: cost and what is written off, from the first day to the last."""

    what = Text(None, "Kind", longest=60, needed="The note names it.")
    cost_before = Amount(None, "Cost when it began")
    bought = Amount(None, "Bought")
    sold = Amount(None, "Sold, at cost")
    written_before = Amount(None, "Written off before")
    charged = Amount(None, "Depreciation")
    released = Amount(None, "Of what was sold")

    @property
    def cost_after(self):
        return self.cost_before + self.bought - self.sold

    @property
    def written_after(self):
        return self.written_before + self.charged - self.released


class Accounts(CompanyPaper):
    """The company's accounts: a trial balance, or turnover and profit alone. CTA 2009 s. 46."""

    kind, name, official, group = "accounts", "Accounts", "Trial balance", "accounts"
    single, always, repeats = True, True, ("rows",)

    begun = Day(None, "Accounts begin on", help="If empty, with the period of the return.")
    ended = Day(None, "Accounts end on", help="Of more than twelve months: two returns, by days.")
    turnover = Amount("145", "Turnover", begins="Without a trial balance")
    profit = Amount(None, "Profit before tax", negative=True)
    rows = Rows(None, "Trial balance", AccountRow)
    notes = Prose(None, "Note to the computation", wide=True, longest=2000, help="It is printed and tagged with it.")
    posted = Flag(
        None,
        "Post the tax of this return into them",
        begins="Balance sheet",
        help="If the books have no charge of the period yet.",
    )
    size = Choice(
        None, "Accounts of a", SIZES, kept=True, begins="Accounts that are made here", help="FRS 105, or FRS 102 section 1A."
    )
    employees = Count(None, "Employees on average", most=99_999, cites="Companies Act 2006 s. 411")
    policies = Prose(None, "Accounting policies", wide=True, longest=2000, kept=True, only=lambda paper: paper.size == "small")
    fixed = Rows(None, "Fixed assets", FixedAssetRow, cites="SI 2008/409 Sch. 1 para. 51")
    reserves_before = Amount(None, "Reserves when the period began", negative=True, opens=RESERVES)
    adjustments = Rows(None, "Adjustments besides", AdjustmentRow, cites="CTA 2009 ss. 53 to 59")

    @turnover.when_empty
    def _turnover(self):
        return total([row.credit - row.debit for row in self.rows if row.heading == "turnover"])

    @size.when_empty
    def _size(self):
        return "micro"

    @profit.when_empty
    def _profit(self):
        """Of all lines of profit and loss, tax and dividends left out."""
        rows = [row for row in self.rows if row.heading in PROFIT_AND_LOSS]
        return total([row.credit for row in rows], less=[row.debit for row in rows])


class PlantRow(Row):
    what = Text(None, "What it is", longest=60, needed="It tells one from another.")
    sort = Choice(None, "Kind", PLANT, needed="The rate depends on it.")
    bought = Day(None, "Bought", needed="Allowances begin with it.")
    cost = Amount(None, "Cost")
    claim = Choice(None, "Claimed", CLAIMS, help="If empty, the first-year allowance of new plant, else the annual one.")
    sold = Day(None, "Sold or scrapped")
    proceeds = Amount(None, "For how much")
    used = Flag(None, "Second-hand", help="Then there is no first-year allowance.")
    short = Flag(None, "Own pool", cites="CAA 2001 s. 83", help="A short-life asset. Not for cars and special rate plant.")
    left = Amount(None, "Left in it", help="Of a pool of its own, when the period began.")

    @claim.when_empty
    def _claim(self):
        if self.sort in ("car", "high"):
            return "none"
        if self.sort == "zero":
            return "none" if self.used else "first"
        return "investment"


class BuildingRow(Row):
    what = Text(None, "What it is", longest=60, needed="It tells one from another.")
    since = Day(None, "In use since", needed="The allowance begins with it.")
    cost = Amount(None, "Qualifying cost")
    until = Day(None, "Sold on")


class Plant(CompanyPaper):
    """Plant, cars, buildings and the pools. CAA 2001 Parts 2 and 2A."""

    kind, name, official, group = "plant", "Capital allowances", "CT600, boxes 690 to 765", "accounts"
    single = True
    grid = Grid("uk.plant", "Pools", ("Opening", "Additions", "Disposals", "Charged", "Allowed", "Claim less", "Closing"), (
        ("AIA", ("", "investment_added", "", "", "investment", "investment_claim", "")),
        ("First-year", ("", "first_added", "", "first_charged", "first_allowed", "", "")),
        ("Main pool", ("main_before", "main_added", "main_out", "main_charged", "main_written", "main_claim", "main_after")),
        ("Special rate pool", ("special_before", "special_joined", "special_out", "special_charged", "special_written",
                               "special_claim", "special_after")),
        ("Single-asset pools", ("single_before", "single_added", "single_out", "single_charged", "single_written", "",
                                "single_after")),
        ("Buildings", ("", "", "", "", "buildings", "", "")),
        ("Together", ("", "", "", "charges", "allowances", "", "")),
    ))  # fmt: skip

    assets = Rows(None, "Plant and cars", PlantRow, kept=True, opens=ASSETS)
    buildings = Rows(None, "Structures and buildings", BuildingRow, kept=True, cites="CAA 2001 s. 270AA")
    main_before = Amount(None, "Main pool when the period began", opens=MAIN_POOL)
    special_before = Amount(None, "Special rate pool when the period began", opens=SPECIAL_POOL)
    main_claim = Amount(None, "Written down of the main pool, if less", cites="CAA 2001 s. 56(5)")
    special_claim = Amount(None, "Written down of the special rate pool, if less")
    investment_claim = Amount(None, "Annual Investment Allowance, if less", cites="CAA 2001 s. 51A(7)")
    investment_share = Amount(
        None, "The company's part of the Annual Investment Allowance", cites="CAA 2001 s. 51C",
        help="Where other companies of the group, or under the same control, use some of it.",
    )  # fmt: skip


class OtherIncome(CompanyPaper):
    """Income besides the trade that the accounts do not show by their lines. CTA 2009 Parts 4, 5, 10."""

    kind, name, official, group = "other-income", "Other income", "CT600, boxes 170 to 205", "income"
    single = True

    interest = Amount("170", "Interest received, not of the trade")
    interest_paid = Amount(None, "Interest paid, not of the trade", cites="CTA 2009 s. 300")
    rents = Amount("190", "Rents", begins="Lettings")
    property_costs = Amount(None, "Costs of lettings")
    other = Amount("205", "Other income", begins="Other")
    dividends = Amount("620", "Dividends received, exempt, not of the group", cites="CTA 2010 s. 32; CTA 2009 s. 931A")


class GainRow(Row):
    asset = Text(None, "Asset", longest=60, needed="The computation names it.")
    bought = Day(None, "Bought", needed="Indexation depends on it.")
    sold = Day(None, "Sold", needed="It falls into one period.")
    proceeds = Amount(None, "Proceeds")
    cost = Amount(None, "Cost with expenses")
    factor = Text(None, "Indexation factor", pattern=r"\d(\.\d{1,3})?", longest=5, help="To December 2017, from HMRC's table.",
                  pattern_says="A factor such as 0.391.")  # fmt: skip

    @property
    def indexation(self):
        """It makes no loss, and makes none larger: TCGA 1992 s. 53(2A)."""
        gain = max(self.proceeds - self.cost, Decimal(0))
        return min(Decimal(str(self.factor) or 0) * self.cost, gain)


class Gains(CompanyPaper):
    """Chargeable gains of the period. TCGA 1992."""

    kind, name, official, group = "gains", "Chargeable gains", "CT600, boxes 210 to 220", "income"
    single = True

    disposals = Rows(None, "Disposals", GainRow)
    losses_before = Amount("215", "Losses brought forward", opens=CAPITAL_LOSS)


PAPERS = (About, Accounts, Plant, OtherIncome, Gains, Losses, Loans, Group, Reliefs, Supplementary, Amendment)
GROUPS: dict[str, str] = {
    "people": "Company", "company": "About it", "accounts": "Accounts", "income": "Other income", "losses": "Losses",
    "reliefs": "Reliefs and loans", "correction": "Amendment",
}  # fmt: skip
