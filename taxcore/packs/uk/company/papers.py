"""Papers of a company's return: what it is, its accounts, its plant, other income, gains, losses, loans and reliefs."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Count, Day, Flag, Person, Prose, Row, Rows, Text, total
from taxcore.packs.uk.company.balances import (
    ASSETS,
    CAPITAL_LOSS,
    DEFICIT,
    MAIN_POOL,
    PROPERTY_LOSS,
    RESERVES,
    SPECIAL_POOL,
    TRADE_LOSS,
    TRADE_LOSS_2017,
)
from taxcore.packs.uk.company.base import CompanyPaper
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
    reserves_before = Amount(None, "Reserves when the period began", negative=True, opens=RESERVES)
    adjustments = Rows(None, "Adjustments besides", AdjustmentRow, cites="CTA 2009 ss. 53 to 59")

    @turnover.when_empty
    def _turnover(self):
        return total([row.credit - row.debit for row in self.rows if row.heading == "turnover"])

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
    used = Flag(None, "Second-hand", help="Then there is no first-year allowance.")
    claim = Choice(None, "Claimed", CLAIMS, help="If empty, the first-year allowance of new plant, else the annual one.")
    sold = Day(None, "Sold or scrapped")
    proceeds = Amount(None, "For how much")

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

    assets = Rows(None, "Plant and cars", PlantRow, kept=True, opens=ASSETS)
    buildings = Rows(None, "Structures and buildings", BuildingRow, kept=True, cites="CAA 2001 s. 270AA")
    main_before = Amount(None, "Main pool when the period began", opens=MAIN_POOL, begins="Pools")
    special_before = Amount(None, "Special rate pool when the period began", opens=SPECIAL_POOL)
    main_claim = Amount(None, "Written down of the main pool, if less", begins="Claims of less", cites="CAA 2001 s. 56(5)")
    special_claim = Amount(None, "Written down of the special rate pool, if less")
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


class EarlierRow(Row):
    begun = Day(None, "Period from", needed="Twelve months are counted.")
    ended = Day(None, "To", needed="Twelve months are counted.")
    profits = Amount(None, "Profits of it, before donations", help="After reliefs that come before.")
    tax_before = Amount(None, "Tax of it")
    tax_after = Amount(None, "The same with the loss set against it")


class Losses(CompanyPaper):
    """Losses of before, and what becomes of those of the period. CTA 2010 Part 4."""

    kind, name, official, group = "losses", "Losses", "CT600, boxes 160, 250 to 285", "losses"
    single = True

    this_year = Flag(
        "275", "Trading loss against all profits of the period", cites="CTA 2010 s. 37(3)(a)", begins="Loss of the period"
    )
    back = Flag(None, "And against profits of before", cites="CTA 2010 ss. 37(3)(b), 39",
                help="Twelve months; three years where the trade ceased.")  # fmt: skip
    earlier = Rows(None, "Earlier periods", EarlierRow)
    trade_before = Amount(
        "285", "Trading losses brought forward", opens=TRADE_LOSS, begins="Brought forward", cites="CTA 2010 s. 45A"
    )
    trade_claim = Amount(None, "No more of them than", cites="CTA 2010 s. 45A(4)")
    trade_before_2017 = Amount("160", "Trading losses of before April 2017", opens=TRADE_LOSS_2017, cites="CTA 2010 s. 45")
    property_before = Amount("250", "Losses of lettings", opens=PROPERTY_LOSS, cites="CTA 2010 s. 62(5)")
    deficit_before = Amount("263", "Non-trading deficits of loans", opens=DEFICIT, cites="CTA 2009 s. 463G")
    allowance = Amount(
        None, "The company's part of the deductions allowance", cites="CTA 2010 s. 269ZW", help="If empty, all of it."
    )


class LoanRow(Row):
    who = Text(None, "Participator", longest=60, needed="The page names who owes.")
    made = Day(None, "Lent on", needed="The rate depends on it.")
    amount = Amount(None, "Owed at the end of the period")
    repaid = Amount(None, "Of it, repaid within nine months", cites="CTA 2010 s. 458")


class Loans(CompanyPaper):
    """Loans to participators and their associates: CT600A. CTA 2010 s. 455."""

    kind, name, official, group = "loans", "Loans to participators", "CT600A", "reliefs"
    single = True

    loans = Rows(None, "Loans", LoanRow)


class Reliefs(CompanyPaper):
    """Donations and what other companies of the group gave up. CTA 2010 Parts 5 and 6."""

    kind, name, official, group = "reliefs", "Donations and group relief", "CT600, boxes 305, 310", "reliefs"
    single = True

    donations = Amount("305", "Qualifying donations", cites="CTA 2010 s. 189")
    group_relief = Amount("310", "Losses given up by other companies of the group", cites="CTA 2010 s. 130")
    group_from = Text(None, "By which companies, for which periods", longest=200, wide=True)
    surrendered = Amount(None, "Loss of the period that is given up to others", cites="CTA 2010 s. 99")


PAPERS = (About, Accounts, Plant, OtherIncome, Gains, Losses, Loans, Reliefs, Amendment)
GROUPS: dict[str, str] = {
    "people": "Company", "company": "About it", "accounts": "Accounts", "income": "Other income", "losses": "Losses",
    "reliefs": "Reliefs and loans", "correction": "Amendment",
}  # fmt: skip
