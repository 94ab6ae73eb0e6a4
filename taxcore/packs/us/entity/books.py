"""The books: a trial balance whose accounts go to lines of the return, and the entries between the books and the tax."""

from dataclasses import dataclass, field
from decimal import Decimal

from taxcore.engine import Amount, Choice, Day, Row, Rows, Text, total
from taxcore.packs.us.entity.balances import BOOKS
from taxcore.packs.us.entity.base import EntityPaper

ZERO = Decimal(0)

# Lines of the income statement: what comes in, and what it costs
INCOME = {
    "sales": "Gross receipts", "returns": "Returns, allowances", "other_income": "Other income",
    "rental_income": "Rental income", "interest_income": "Interest income", "exempt_interest": "Exempt interest",
    "dividends": "Dividends", "royalties": "Royalties", "short_gain": "Short-term gain",
    "long_gain": "Long-term gain", "asset_gain": "Gain on assets", "share_income": "Partnerships (K-1)",
}  # fmt: skip
COSTS = {
    "purchases": "Purchases", "cogs": "Cost of goods", "labor": "Labor in cost",
    "costs_263a": "Section 263A",
    "other_costs": "Other cost",
    "officers": "Officers' pay", "salaries": "Salaries, wages", "guaranteed": "Guaranteed pay",
    "repairs": "Repairs", "bad_debts": "Bad debts", "rent": "Rent", "taxes": "Taxes, licenses",
    "interest": "Interest", "depreciation": "Depreciation", "depletion": "Depletion", "advertising": "Advertising",
    "retirement": "Retirement", "benefits": "Benefits", "amortization": "Amortization",
    "other_deductions": "Other expenses", "meals": "Meals, 50%", "nondeductible": "Nondeductible",
    "contributions": "Contributions", "investment_interest": "Invest. interest",
    "portfolio_costs": "Portfolio costs", "foreign_tax": "Foreign taxes",
    "rental_costs": "Rental costs", "rental_depreciation": "Rental deprec.",
    "income_tax": "Income tax",
}  # fmt: skip
ASSETS = {
    "cash": "Cash", "receivables": "Receivables", "allowance": "Allowance",
    "inventory": "Inventories", "obligations": "U.S. obligations", "exempt_securities": "Exempt bonds",
    "other_current": "Other current", "loans_to_owners": "Loans to owners",
    "mortgage_loans": "Mortgages held",
    "investments": "Investments", "buildings": "Depreciable",
    "accumulated": "Accum. deprec.", "depletable": "Depletable assets", "depleted": "Accum. depletion",
    "land": "Land",
    "intangible": "Intangibles", "amortized": "Accum. amort.", "other_assets": "Other assets",
}  # fmt: skip
LIABILITIES = {
    "payables": "Payables", "short_notes": "Notes, short",
    "other_current_owed": "Other current due", "nonrecourse": "Nonrecourse",
    "loans_from_owners": "Loans from owners",
    "long_notes": "Notes, long", "other_owed": "Other owed",
}  # fmt: skip
EQUITY = {
    "capital": "Capital", "contributed": "Contributed",
    "draws": "Distributions", "stock": "Capital stock", "paid_in": "Paid-in capital",
    "retained": "Retained earnings",
}  # fmt: skip
TAX_LINES = INCOME | COSTS | ASSETS | LIABILITIES | EQUITY
RESULT = (*INCOME, *COSTS)
CONTRA = ("allowance", "accumulated", "depleted", "amortized")  # assets that stand on the credit side

# Words in an account's name, and the line it usually goes to: somebody confirms it. The first that fits.
USUAL = (
    ("accumulated dep", "accumulated"), ("accumulated amort", "amortized"), ("allowance for", "allowance"),
    ("prepaid", "other_current"), ("receivable", "receivables"), ("change in inventor", "cogs"), ("inventor", "inventory"),
    ("checking", "cash"), ("savings", "cash"),
    ("petty cash", "cash"), ("bank", "cash"), ("cash", "cash"), ("payable", "payables"), ("credit card", "payables"),
    ("loan from", "loans_from_owners"), ("loan to", "loans_to_owners"), ("mortgage", "long_notes"), ("note", "long_notes"),
    ("accrued", "other_current_owed"), ("line of credit", "short_notes"),
    ("draw", "draws"), ("distribution", "draws"), ("contribution of capital", "contributed"),
    ("capital contributed", "contributed"),
    ("capital stock", "stock"), ("paid-in", "paid_in"), ("retained", "retained"), ("capital", "capital"),
    ("from partnership", "share_income"), ("k-1", "share_income"),
    ("returns and allow", "returns"), ("refunds to", "returns"), ("municipal", "exempt_interest"),
    ("interest income", "interest_income"),
    ("dividend", "dividends"), ("royalt", "royalties"), ("gain on", "asset_gain"), ("loss on", "asset_gain"),
    ("rent income", "rental_income"), ("rental income", "rental_income"), ("sales tax", "taxes"), ("sales", "sales"),
    ("service income", "sales"), ("fees earned", "sales"), ("revenue", "sales"), ("other income", "other_income"),
    ("cost of goods", "cogs"), ("cost of sales", "cogs"), ("change in inventor", "cogs"), ("purchases", "purchases"),
    ("materials", "purchases"), ("cost of labor", "labor"), ("freight in", "other_costs"),
    ("officer", "officers"), ("guaranteed", "guaranteed"), ("payroll tax", "taxes"), ("wage", "salaries"), ("salar", "salaries"),
    ("repair", "repairs"), ("maintenance", "repairs"), ("bad debt", "bad_debts"), ("rent", "rent"), ("license", "taxes"),
    ("tax", "taxes"),
    ("interest", "interest"), ("depreciation", "depreciation"), ("amortization", "amortization"), ("advertis", "advertising"),
    ("401", "retirement"), ("pension", "retirement"), ("retirement", "retirement"), ("health insurance", "benefits"),
    ("benefit", "benefits"), ("meal", "meals"), ("entertain", "nondeductible"), ("penalt", "nondeductible"),
    ("fine", "nondeductible"),
    ("charit", "contributions"), ("donation", "contributions"), ("land", "land"), ("building", "buildings"),
    ("equipment", "buildings"),
    ("vehicle", "buildings"), ("furniture", "buildings"), ("goodwill", "intangible"),
)  # fmt: skip
ENTRIES = {"adjusting": "Adjusting", "reclassifying": "Reclassifying", "tax": "Tax only"}


class AccountRow(Row):
    same_by = "account"
    known_as = {
        "code": ("account number", "account code", "number", "code"),
        "account": ("account", "account name", "description", "name"), "debit": ("debit", "dr", "ending debit"),
        "credit": ("credit", "cr", "ending credit"), "before": ("beginning balance", "opening balance", "prior year"),
        "tax_line": ("tax line", "line"),
    }  # fmt: skip
    account = Text(None, "Account", longest=60, needed="It tells one line from another.")
    code = Text(None, "Number", longest=20)
    tax_line = Choice(None, "Tax line", TAX_LINES, needed="Choose where it goes.", help="If empty, what its name usually means.")
    before = Amount(None, "Beginning", negative=True, help="Of the balance sheet: debit as it is, credit with a minus sign.")
    debit = Amount(None, "Debit")
    credit = Amount(None, "Credit")

    @property
    def title(self):
        """The account: in a line's lineage there are many of one trial balance."""
        return str(self.entered.get("account") or self.paper.title)

    @tax_line.when_empty
    def _usual(self):
        named = str(self.account).lower()
        return next((usual for words, usual in USUAL if words in named), "")


class TrialBalance(EntityPaper):
    """The books at the end of the year, account by account, with the balance sheet of its beginning. IRC 446(a), 6001."""

    kind, name, official, group = "books", "Trial balance", "Books", "books"
    single, always, repeats = True, True, ("rows",)

    rows = Rows(None, "Accounts", AccountRow, opens=BOOKS)


class EntryRow(Row):
    leaves = True  # all entries together are the journal
    account = Text(None, "Account", longest=60, needed="As the trial balance names it.")
    debit = Amount(None, "Debit")
    credit = Amount(None, "Credit")


class Entry(EntityPaper):
    """An entry between the books and the return. IRC 446; 26 CFR 1.446-1(a)(4)."""

    kind, name, official, group = "entry", "Journal entry", "Books", "books"
    again = True
    short, heading = "Entry", "explanation"

    entry_kind = Choice(None, "Kind", ENTRIES, needed="A tax entry leaves the books as they are.")
    made_on = Day(None, "Date")
    explanation = Text(None, "Explanation", longest=120, wide=True, needed="Say why.")
    rows = Rows(None, "Lines", EntryRow)

    def comes_again(self):
        return False


@dataclass
class Account:
    """One account: its row, the lines of entries that move it in the books, and those that only the return knows."""

    row: object
    book: list = field(default_factory=list)
    tax: list = field(default_factory=list)


def ledger(run):
    """{account's name in small letters: Account}, the first of equal names."""
    return run.once(_ledger)


def _ledger(run):
    found = {}
    for row in run.single("books").rows:
        found.setdefault(named(row.account), Account(row))
    for entry in run.papers("entry"):
        for line in entry.rows:
            account = found.get(named(line.account))
            if account is not None:
                (account.tax if entry.entry_kind == "tax" else account.book).append(line)
    return found


def named(text):
    return str(text or "").strip().lower()


def accounts_of(run, *keys):
    """The accounts of these tax lines, in the order of the trial balance."""
    by_line = run.once(_by_line)
    return [account for key in keys for account in by_line.get(key, ())]


def _by_line(run):
    found = {}
    for account in ledger(run).values():
        found.setdefault(str(account.row.tax_line), []).append(account)
    return found


def debit_of(run, *keys, tax=True):
    """Debits less credits of accounts, with their entries; `tax`: those of the return too."""
    debits, credits = [], []
    for account in accounts_of(run, *keys):
        for line in (account.row, *account.book, *(account.tax if tax else ())):
            debits.append(line.debit)
            credits.append(line.credit)
    return total(debits, less=credits)


def credit_of(run, *keys, tax=True):
    debits, credits = [], []
    for account in accounts_of(run, *keys):
        for line in (account.row, *account.book, *(account.tax if tax else ())):
            debits.append(line.debit)
            credits.append(line.credit)
    return total(credits, less=debits)


def before_of(run, *keys):
    """Balances when the year began, debits above nothing."""
    return total([account.row.before for account in accounts_of(run, *keys)])
