"""Schedule L of an S corporation, M-1, and the accounts of M-2 in the order in which distributions use them. IRC 1368."""

from taxcore.engine import excess, fact, least, line, linked, total
from taxcore.packs.us.entity.balances import ADJUSTMENTS, EARNINGS, OTHER_ADJUSTMENTS
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import INCOME, before_of, credit_of
from taxcore.packs.us.entity.reconciling import OWN, AccountsOn, BooksToReturn
from taxcore.packs.us.entity.statements import assets, both_ends, together

RETAINED = ("capital", "contributed", "draws", "retained")


class ScheduleL(AccountsOn):
    """Balance sheets per books. IRC 6037."""

    number, name = "Schedule L", "Balance sheets per books"
    columns = ("Beginning of year", "End of year")
    opens_with = "retained"

    vars().update(assets("shareholders", corporate=True))
    payables_begun, payables_ended = both_ends("16", "Accounts payable", "payables", owed=True)
    short_begun, short_ended = both_ends("17", "Mortgages, notes, bonds payable in less than 1 year", "short_notes", owed=True)
    owing_begun, owing_ended = both_ends("18", "Other current liabilities", "other_current_owed", owed=True)
    from_owners_begun, from_owners_ended = both_ends("19", "Loans from shareholders", "loans_from_owners", owed=True)
    long_begun, long_ended = both_ends(
        "20", "Mortgages, notes, bonds payable in 1 year or more", "long_notes", "nonrecourse", owed=True
    )
    rest_begun, rest_ended = both_ends("21", "Other liabilities", "other_owed", owed=True)
    stock_begun, stock_ended = both_ends("22", "Capital stock", "stock", owed=True)
    paid_in_begun, paid_in_ended = both_ends("23", "Additional paid-in capital", "paid_in", owed=True)

    @line("24-b", "Retained earnings, beginning of year")
    def retained_begun(self):
        return total(less=before_of(self.run, *RETAINED))

    @line("24-d", "Retained earnings, end of year")
    def retained_ended(self):
        """With the result of the year, which the accounts have not been closed into yet."""
        return total(credit_of(self.run, *RETAINED, tax=False), self.run.form("us.sch-m-1").books)

    all_begun, all_ended = together(
        "27", "Total liabilities and shareholders' equity",
        ("payables", "short", "owing", "from_owners", "long", "rest", "stock", "paid_in", "retained"), weight="total",
    )  # fmt: skip

    @fact("Shareholders' equity at the end of the year")
    def capital_ended(self):
        return total(credit_of(self.run, *OWN, tax=False), self.run.form("us.sch-m-1").books)


class CorporationBooks(BooksToReturn):
    """Schedule M-1: reconciliation of income per books with income per return."""

    number, name = "Schedule M-1", "Reconciliation of income (loss) per books"
    page, schedule = linked("us.1120-s"), linked("us.sch-k")

    @line("2", "Income included on Schedule K, not on books")
    def only_on_return(self):
        return total(self.entries(INCOME, +1), excess(self.gain_differs, over=0), excess(self.shares_differ, over=0))

    @line("3a", "Depreciation on books, not on Schedule K")
    def more_depreciation(self):
        return excess(0, over=self.depreciation_differs)

    @line("3b", "Travel and entertainment, meals")
    def meals(self):
        return total(self.schedule.meals_half)

    @line("3", "Expenses on books not included on Schedule K", weight="total")
    def only_on_books(self):
        return total(self.more_depreciation, self.meals, self.more_on_books)

    @line("4", "Lines 1 through 3")
    def added(self):
        return total(self.books, self.only_on_return, self.only_on_books)

    @line("5a", "Tax-exempt interest")
    def exempt(self):
        return total(self.schedule.exempt_interest)

    @line("5", "Income on books not included on Schedule K")
    def income_of_books(self):
        less = (excess(0, over=self.gain_differs), excess(0, over=self.shares_differ))
        return total(self.exempt, self.entries(INCOME, -1), less)

    @line("6a", "Depreciation on Schedule K, not on books")
    def less_depreciation(self):
        return excess(self.depreciation_differs, over=0)

    @line("6", "Deductions on Schedule K not charged against book income")
    def only_deducted(self):
        return total(self.less_depreciation, self.more_deducted, excess(self.amortization_differs, over=0))

    @line("7", "Lines 5 and 6")
    def taken_off(self):
        return total(self.income_of_books, self.only_deducted)

    @line("8", "Income (loss), Schedule K, line 18", weight="total")
    def net(self):
        return total(self.added, less=self.taken_off)


class Adjustments(EntityForm):
    """Schedule M-2: accumulated adjustments account (a), earnings of C corporation years (c), other adjustments (d). IRC 1368."""

    number, name = "Schedule M-2", "Accumulated adjustments account and others"
    columns = ("Accumulated adjustments", "Earnings and profits", "Other adjustments")
    schedule = linked("us.sch-k")

    @property
    def about(self):
        return self.run.single("about")

    @line("1-a", "Balance at beginning of year, AAA", cites="IRC 1368(e)(1)")
    def begun(self):
        return total(self.about.adjustments_before)

    @line("2-a", "Ordinary income, AAA")
    def ordinary(self):
        return excess(self.schedule.ordinary, over=0)

    def _separately(self, sign):
        k = self.schedule
        items = (k.rental, k.interest, k.dividends, k.royalties, k.short_gain, k.long_gain, k.section_1231)
        return [excess(one, over=0) if sign > 0 else excess(0, over=one) for one in items]

    @line("3-a", "Other additions, AAA")
    def additions(self):
        return total(self._separately(+1))

    @line("4-a", "Loss, AAA")
    def loss(self):
        return excess(0, over=self.schedule.ordinary)

    @line("5-a", "Other reductions, AAA")
    def reductions(self):
        k = self.schedule
        deducted = (k.section_179, k.contributions, k.investment_interest, k.portfolio_costs, k.foreign_tax, k.nondeductible)
        return total(self._separately(-1), deducted)

    @line("6-a", "Lines 1 through 5, AAA")
    def together(self):
        return total(self.begun, self.ordinary, self.additions, less=[self.loss, self.reductions])

    @fact("AAA that distributions may use", cites="IRC 1368(e)(1)(C)")
    def available(self):
        """Without a net negative adjustment of the year."""
        return excess(total(self.begun, excess(self.together, over=self.begun)), over=0)

    @line("7-a", "Distributions, AAA")
    def distributed(self):
        return least(self.schedule.distributed_in_all, self.available)

    @line("8-a", "Balance at end of year, AAA", weight="total", closes=ADJUSTMENTS)
    def ended(self):
        return total(self.together, less=self.distributed)

    @line("1-c", "Balance at beginning of year, earnings and profits")
    def earnings_begun(self):
        return total(self.about.earnings_before)

    @line("7-c", "Distributions, earnings and profits", cites="IRC 1368(c)(2)")
    def earnings_distributed(self):
        return least(excess(self.schedule.distributed_in_all, over=self.distributed), self.earnings_begun)

    @line("8-c", "Balance at end of year, earnings and profits", closes=EARNINGS)
    def earnings_ended(self):
        return total(self.earnings_begun, less=self.earnings_distributed)

    @line("1-d", "Balance at beginning of year, other adjustments")
    def other_begun(self):
        return total(self.about.other_before)

    @line("3-d", "Other additions, other adjustments", cites="IRC 1368(e)(1)(A)")
    def other_additions(self):
        return total(self.schedule.exempt_interest)

    @line("7-d", "Distributions, other adjustments")
    def other_distributed(self):
        left = excess(self.schedule.distributed_in_all, over=[self.distributed, self.earnings_distributed])
        return least(left, excess(total(self.other_begun, self.other_additions), over=0))

    @line("8-d", "Balance at end of year, other adjustments", closes=OTHER_ADJUSTMENTS)
    def other_ended(self):
        return total(self.other_begun, self.other_additions, less=self.other_distributed)
