"""From the books to the return, and from one year's accounts to the next: what all kinds of entity have alike. Schedule M-1."""

from taxcore.engine import excess, fact, line, total
from taxcore.packs.us.entity.balances import BOOKS
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import COSTS, EQUITY, INCOME, RESULT, accounts_of, credit_of, debit_of, ledger
from taxcore.packs.us.entity.received import differs, received

OWN = ("capital", "contributed", "draws", "stock", "paid_in", "retained")
_DEPRECIATION = ("depreciation", "rental_depreciation")
# What M-1 says line by line; every other account differs by its tax entries alone
_SAID = (
    *_DEPRECIATION,
    "amortization",
    "guaranteed",
    "exempt_interest",
    "nondeductible",
    "income_tax",
    "asset_gain",
    "share_income",
)


class AccountsOn(EntityForm):
    """Schedule L's part in the years: the accounts that the next one begins with. `opens_with` is the equity account that takes
    the result of the year; the form has `capital_ended`, all of the owners' part."""

    opens_with = "capital"

    @fact("Assets less liabilities and capital, end of year")
    def difference(self):
        return total(self.assets_ended, less=self.all_ended)

    @fact("Assets less liabilities and capital, beginning of year")
    def difference_before(self):
        return total(self.assets_begun, less=self.all_begun)

    @fact("Accounts for next year", closes=BOOKS, by_origin="rows_next_year")
    def accounts(self):
        return total(len(ledger(self.run)))

    def rows_next_year(self):
        """Every account by name; those of the balance sheet with what they begin with, the year's result in one of equity."""
        taking = next(iter(accounts_of(self.run, self.opens_with)), None)
        return [self._row(account, account is taking) for account in ledger(self.run).values()]

    def _row(self, account, takes_result):
        row = {name: str(account.row.entered[name]) for name in ("account", "code", "tax_line") if account.row.is_keyed(name)}
        key, begins = str(account.row.tax_line), 0
        if key not in RESULT and key not in EQUITY:
            begins = _ends(account)
        elif takes_result:
            begins = total(less=[self.capital_ended, *self.kept_apart()])
        elif key in ("stock", "paid_in"):
            begins = _ends(account)
        return row | ({"before": f"{begins:f}"} if begins else {})

    def kept_apart(self):
        """Equity that stays in accounts of its own, with the sign of its debits."""
        return [_ends(one) for one in accounts_of(self.run, "stock", "paid_in") if self.opens_with not in ("stock", "paid_in")]


def _ends(account):
    lines = (account.row, *account.book)
    return total([one.debit for one in lines], less=[one.credit for one in lines])


def _moved(run, keys, sign):
    """What tax entries change on accounts, those that raise income or those that lower it; one amount for each account."""
    found = []
    for account in accounts_of(run, *keys):
        change = total([one.credit for one in account.tax], less=[one.debit for one in account.tax])
        if account.tax and (change > 0) == (sign > 0):
            found.append(excess(change if sign > 0 else total(less=change), over=0))
    return found


class BooksToReturn(EntityForm):
    """Schedule M-1 as far as its arithmetic goes; each kind of return numbers it. Has `page` (1) and `schedule` (K)."""

    @line("1", "Net income (loss) per books")
    def books(self):
        return total(credit_of(self.run, *INCOME, tax=False), less=debit_of(self.run, *COSTS, tax=False))

    def entries(self, keys, sign):
        """What tax entries make of accounts that no line of its own explains."""
        return _moved(self.run, [key for key in keys if key not in _SAID], sign)

    @fact("Gain of sold assets, return less books")
    def gain_differs(self):
        tax = total(self.brought("us.4797", "ordinary"), self.brought("us.4797", "net"))
        booked = credit_of(self.run, "asset_gain", tax=False)
        return total(tax, less=[booked, received(self.run, "section_1231", "adjusted_1231")])

    @fact("Shares of partnerships, return less books")
    def shares_differ(self):
        return differs(self.run)

    @fact("Depreciation, return less books")
    def depreciation_differs(self):
        """With section 179, and of properties that are let."""
        let = [one.depreciation for one in self.every("us.8825-property")]
        tax = total(self.page.depreciation, let, self.schedule.section_179)
        return total(tax, less=debit_of(self.run, *_DEPRECIATION, tax=False))

    @fact("Amortization, return less books")
    def amortization_differs(self):
        return total(self.rounding(self.page.amortization), less=debit_of(self.run, "amortization", tax=False))

    @fact("Other expenses on books not on the return")
    def more_on_books(self):
        nondeductible = debit_of(self.run, "nondeductible", "income_tax", tax=False)
        return total(self.entries(COSTS, +1), nondeductible, excess(0, over=self.amortization_differs))

    @fact("Other deductions of the return not on books")
    def more_deducted(self):
        return total(self.entries(COSTS, -1))

    @fact("What stays unreconciled")
    def unreconciled(self):
        return total(self.schedule.net, less=self.net)
