"""Schedule L with partners' capital, M-1 from the books to the return, M-2 from capital to capital. IRC 6031; Form 1065."""

from taxcore.engine import excess, fact, line, linked, total
from taxcore.engine.forms import Line
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import COSTS, INCOME, before_of, credit_of, debit_of
from taxcore.packs.us.entity.reconciling import OWN, AccountsOn, BooksToReturn
from taxcore.packs.us.entity.statements import assets, both_ends, together


class ScheduleL(AccountsOn):
    """Balance sheets per books. Liabilities and capital on lines 15 to 22. IRC 6031(a)."""

    number, name = "Schedule L", "Balance sheets per books"
    columns = ("Beginning of year", "End of year")

    vars().update(assets("partners", corporate=False))
    payables_begun, payables_ended = both_ends("15", "Accounts payable", "payables", owed=True)
    short_begun, short_ended = both_ends("16", "Mortgages, notes, bonds payable in less than 1 year", "short_notes", owed=True)
    owing_begun, owing_ended = both_ends("17", "Other current liabilities", "other_current_owed", owed=True)
    nonrecourse_begun, nonrecourse_ended = both_ends("18", "All nonrecourse loans", "nonrecourse", owed=True)
    from_owners_begun, from_owners_ended = both_ends("19a", "Loans from partners", "loans_from_owners", owed=True)
    long_begun, long_ended = both_ends("19b", "Mortgages, notes, bonds payable in 1 year or more", "long_notes", owed=True)
    rest_begun, rest_ended = both_ends("20", "Other liabilities", "other_owed", owed=True)

    @line("21-b", "Partners' capital accounts, beginning of year")
    def capital_begun(self):
        return total(less=before_of(self.run, *OWN))

    @line("21-d", "Partners' capital accounts, end of year")
    def capital_ended(self):
        """With the result of the year, which the accounts have not been closed into yet."""
        return total(credit_of(self.run, *OWN, tax=False), self.run.form("us.sch-m-1").books)

    all_begun, all_ended = together(
        "22", "Total liabilities and capital",
        ("payables", "short", "owing", "nonrecourse", "from_owners", "long", "rest", "capital"), weight="total",
    )  # fmt: skip

    @fact("Liabilities at the end of the year")
    def owed(self):
        return total(self.payables_ended, self.short_ended, self.owing_ended, self.nonrecourse_ended, self.from_owners_ended,
                     self.long_ended, self.rest_ended)  # fmt: skip

    @fact("Of them, recourse", cites="26 CFR 1.752-1(a)(1)")
    def recourse_owed(self):
        """As entered; else all that is neither nonrecourse nor qualified nonrecourse."""
        about = self.run.single("about")
        if about.is_keyed("recourse"):
            return total(about.recourse)
        return excess(self.owed, over=[about.nonrecourse, about.qualified])


class PartnershipBooks(BooksToReturn):
    """Schedule M-1: reconciliation of income per books with the analysis of net income."""

    number, name = "Schedule M-1", "Reconciliation of income (loss) per books"
    page, schedule = linked("us.1065"), linked("us.sch-k")

    @fact("Guaranteed payments of the return less those of the books")
    def guaranteed_differs(self):
        return total(self.schedule.guaranteed, less=debit_of(self.run, "guaranteed", tax=False))

    @line("2", "Income included on Schedule K, not on books")
    def only_on_return(self):
        return total(self.entries(INCOME, +1), excess(self.gain_differs, over=0), self.schedule.adjusted_up,
                     excess(self.shares_differ, over=0))  # fmt: skip

    @line("3", "Guaranteed payments")
    def guaranteed(self):
        return total(self.schedule.guaranteed)

    @line("4a", "Depreciation on books, not on Schedule K")
    def more_depreciation(self):
        return excess(0, over=self.depreciation_differs)

    @line("4b", "Travel and entertainment, meals")
    def meals(self):
        return total(self.schedule.meals_half)

    @line("4", "Expenses on books not included on Schedule K", weight="total")
    def only_on_books(self):
        return total(self.more_depreciation, self.meals, self.more_on_books, excess(0, over=self.guaranteed_differs))

    @line("5", "Lines 1 through 4")
    def added(self):
        return total(self.books, self.only_on_return, self.guaranteed, self.only_on_books)

    @line("6a", "Tax-exempt interest")
    def exempt(self):
        return total(self.schedule.exempt_interest)

    @line("6", "Income on books not included on Schedule K")
    def income_of_books(self):
        less = (excess(0, over=self.gain_differs), excess(0, over=self.shares_differ))
        return total(self.exempt, self.entries(INCOME, -1), less)

    @line("7a", "Depreciation on Schedule K, not on books")
    def less_depreciation(self):
        return excess(self.depreciation_differs, over=0)

    @line("7", "Deductions on Schedule K not charged against book income")
    def only_deducted(self):
        return total(self.less_depreciation, self.entries(COSTS, -1), excess(self.amortization_differs, over=0),
                     excess(self.guaranteed_differs, over=0), self.schedule.adjusted_down)  # fmt: skip

    @line("8", "Lines 6 and 7")
    def taken_off(self):
        return total(self.income_of_books, self.only_deducted)

    @line("9", "Income (loss), analysis of net income, line 1", weight="total")
    def net(self):
        return total(self.added, less=self.taken_off)


def _of_shares(number, label, name, *, less=False, sign=0, **options):
    """A line of M-2 that is the partners' together; with a sign, only parts of that sign."""

    def read(form):
        amounts = [getattr(one, name) for one in form.every("us.sch-k-1")]
        if sign:
            amounts = [excess(one, over=0) if sign > 0 else excess(0, over=one) for one in amounts]
        return total(amounts)

    return Line(number, label, read, **options)


class PartnersCapital(EntityForm):
    """Schedule M-2: partners' capital accounts, on the tax basis of Schedules K-1, item L. 26 CFR 1.704-1(b)(2)(iv), 1.705-1."""

    number, name = "Schedule M-2", "Analysis of partners' capital accounts"

    begun = _of_shares("1", "Balance at beginning of year", "capital_before")

    @line("2a", "Capital contributed, cash")
    def contributed(self):
        return total([one.contributed for one in self.papers("partner")])

    @line("2b", "Capital contributed, property")
    def contributed_property(self):
        return total([one.contributed_property for one in self.papers("partner")])

    net = _of_shares("3", "Net income (loss)", "net")
    increased = _of_shares("4", "Other increases", "capital_other", sign=+1)

    @line("5", "Lines 1 through 4")
    def together(self):
        return total(self.begun, self.contributed, self.contributed_property, self.net, self.increased)

    distributed = _of_shares("6a", "Distributions, cash", "distributed")
    distributed_property = _of_shares("6b", "Distributions, property", "distributed_property")
    decreased = _of_shares("7", "Other decreases", "capital_other", sign=-1)

    @line("8", "Lines 6 and 7")
    def taken_off(self):
        return total(self.distributed, self.distributed_property, self.decreased)

    @line("9", "Balance at end of year", weight="total")
    def ended(self):
        return total(self.together, less=self.taken_off)
