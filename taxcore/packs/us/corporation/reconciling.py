"""Schedules L, M-1 and M-2 of a corporation: books, the way to taxable income, retained earnings. Form 1120."""

from taxcore.engine import excess, line, linked, total
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import COSTS, INCOME, before_of, credit_of, debit_of
from taxcore.packs.us.entity.page import QualifiedBusiness
from taxcore.packs.us.entity.received import with_received
from taxcore.packs.us.entity.reconciling import BooksToReturn
from taxcore.packs.us.entity.statements import both_ends, together
from taxcore.packs.us.s_corporation.reconciling import RETAINED
from taxcore.packs.us.s_corporation.reconciling import ScheduleL as SharesSheet

_DEPRECIATION = ("depreciation", "rental_depreciation")


class ScheduleL(SharesSheet):
    """Balance sheets per books, with retained earnings on line 25. IRC 6012(a)(2)."""

    stock_begun, stock_ended = both_ends("22b", "Common stock", "stock", owed=True)

    @line("25-b", "Retained earnings, unappropriated, beginning of year")
    def retained_begun(self):
        return total(less=before_of(self.run, *RETAINED))

    @line("25-d", "Retained earnings, unappropriated, end of year")
    def retained_ended(self):
        """With the result of the year, which the accounts have not been closed into yet."""
        return total(credit_of(self.run, *RETAINED, tax=False), self.run.form("us.sch-m-1").books)

    all_begun, all_ended = together(
        "28", "Total liabilities and shareholders' equity",
        ("payables", "short", "owing", "from_owners", "long", "rest", "stock", "paid_in", "retained"), weight="total",
    )  # fmt: skip


class ToTaxableIncome(BooksToReturn):
    """Schedule M-1: reconciliation of income per books with income per return."""

    number, name = "Schedule M-1", "Reconciliation of income (loss) per books"
    page = linked("us.1120")
    schedule = linked("us.deducted-in-part")

    def differs(self):
        """Depreciation of the return less that of the books, section 179 with it."""
        return total(self.page.depreciation, less=debit_of(self.run, *_DEPRECIATION, tax=False))

    @line("2", "Federal income tax per books")
    def tax_of_books(self):
        return debit_of(self.run, "income_tax", tax=False)

    @line("3", "Excess of capital losses over capital gains")
    def capital_losses(self):
        return excess(0, over=self.page.capital)

    @line("4", "Income subject to tax not recorded on books")
    def only_on_return(self):
        return total(self.entries(INCOME, +1), excess(self.gain_differs, over=0), excess(self.shares_differ, over=0))

    @line("5a", "Depreciation on books, not on the return")
    def more_depreciation(self):
        return excess(0, over=self.differs())

    @line("5b", "Contributions on books, not deducted")
    def more_gifts(self):
        return excess(self.page.given, over=self.page.contributions)

    @line("5c", "Travel and entertainment, meals")
    def meals(self):
        return total(self.schedule.meals_half)

    @line("5", "Expenses recorded on books not deducted", weight="total")
    def only_on_books(self):
        nondeductible = debit_of(self.run, "nondeductible", tax=False)
        others = (self.entries(COSTS, +1), nondeductible, excess(0, over=self.amortization_differs))
        return total(self.more_depreciation, self.more_gifts, self.meals, others)

    @line("6", "Lines 1 through 5")
    def added(self):
        return total(self.books, self.tax_of_books, self.capital_losses, self.only_on_return, self.only_on_books)

    @line("7a", "Tax-exempt interest")
    def exempt(self):
        return with_received(self.run, credit_of(self.run, "exempt_interest", tax=False), "exempt_interest")

    @line("7", "Income on books not included on the return")
    def income_of_books(self):
        used = (self.page.waiting.capital_used, self.page.back_used)
        less = (excess(0, over=self.gain_differs), excess(0, over=self.shares_differ))
        return total(self.exempt, used, self.entries(INCOME, -1), less)

    @line("8a", "Depreciation on the return, not on books")
    def less_depreciation(self):
        return excess(self.differs(), over=0)

    @line("8b", "Contributions deducted, not on books")
    def carried_gifts(self):
        return excess(self.page.contributions, over=self.page.given)

    @line("8", "Deductions on the return not charged against book income")
    def only_deducted(self):
        return total(self.less_depreciation, self.carried_gifts, self.more_deducted, excess(self.amortization_differs, over=0))

    @line("9", "Lines 7 and 8")
    def taken_off(self):
        return total(self.income_of_books, self.only_deducted)

    @line("10", "Income, page 1, line 28", weight="total")
    def net(self):
        return total(self.added, less=self.taken_off)


class DeductedInPart(QualifiedBusiness):
    """Our own worksheet: what books deduct and the return only in part. IRC 274(n)."""

    number, name, worksheet = "Deducted in part", "Expenses deducted in part", True
    page = linked("us.1120")

    def required(self):
        return False

    @line("1", "Meals that are not deducted")
    def meals_shown(self):
        return total(self.meals_half)

    @line("2", "Taxable income before operating loss and special deductions")
    def net(self):
        return total(self.page.before_losses)

    @property
    def ordinary(self):
        return self.page.before_losses


class RetainedEarnings(EntityForm):
    """Schedule M-2: unappropriated retained earnings per books."""

    number, name = "Schedule M-2", "Analysis of unappropriated retained earnings"
    sheet = linked("us.sch-l")

    @line("1", "Balance at beginning of year")
    def begun(self):
        return total(self.sheet.retained_begun)

    @line("2", "Net income (loss) per books")
    def net(self):
        return total(self.run.form("us.sch-m-1").books)

    @line("4", "Lines 1 through 3")
    def together(self):
        return total(self.begun, self.net)

    @line("5a", "Distributions, cash", cites="IRC 301, 316")
    def distributed(self):
        return debit_of(self.run, "draws", tax=False)

    @line("7", "Lines 5 and 6")
    def taken_off(self):
        return total(self.distributed)

    @line("8", "Balance at end of year", weight="total")
    def ended(self):
        return total(self.together, less=self.taken_off)
