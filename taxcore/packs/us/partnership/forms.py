"""Form 1065, page 1, with Schedule K: what the partnership's business brings, and what is passed on apart. IRC 702, 703."""

from taxcore.engine import excess, fact, line, linked, nothing_because, total
from taxcore.packs.us.entity.books import credit_of, debit_of
from taxcore.packs.us.entity.page import PageOne, QualifiedBusiness, spent
from taxcore.packs.us.entity.received import BUSINESS, received, with_received


class PartnershipReturn(PageOne):
    """Form 1065, page 1. IRC 701, 702(a)(8), 703(a)."""

    number, name = "1065", "U.S. return of partnership income"
    passed_on = linked("us.sch-k")

    @line("4", "Ordinary income (loss) from other partnerships, estates, trusts", cites="IRC 702(b)")
    def from_entities(self):
        return total(received(self.run, *BUSINESS))

    @line("6", "Net gain or (loss), Form 4797", cites="IRC 1231, 1245")
    def gains(self):
        return self.brought("us.4797", "ordinary_of_trade")

    @line("7", "Other income or (loss)")
    def other_income(self):
        return credit_of(self.run, "other_income")

    @line("8", "Total income or (loss)", weight="total")
    def income(self):
        return total(self.gross_profit, self.from_entities, self.gains, self.other_income)

    salaries = spent("9", "Salaries and wages, other than to partners", "salaries", "officers")

    @line("10", "Guaranteed payments to partners", cites="IRC 707(c)")
    def guaranteed(self):
        return total(self.passed_on.guaranteed)

    repairs = spent("11", "Repairs and maintenance", "repairs")
    bad_debts = spent("12", "Bad debts", "bad_debts", cites="IRC 166")
    rent = spent("13", "Rent", "rent")
    taxes = spent("14", "Taxes and licenses", "taxes")
    interest = spent("15", "Interest", "interest", cites="IRC 163")

    @line("16a", "Depreciation, Form 4562")
    def depreciation(self):
        return total(self.depreciation_now)

    @line("16c", "Depreciation not claimed elsewhere")
    def depreciation_left(self):
        return total(self.depreciation)

    depletion = spent("17", "Depletion", "depletion")
    retirement = spent("18", "Retirement plans", "retirement", cites="IRC 404")
    benefits = spent("19", "Employee benefit programs", "benefits")

    @line({2022: None, 2023: "20"}, "Energy efficient commercial buildings deduction", cites="IRC 179D")
    def efficient_buildings(self):
        return nothing_because("Form 7205 is not made here")

    @line({2022: "20", 2023: "21"}, "Other deductions")
    def others(self):
        return total(debit_of(self.run, "other_deductions", "advertising"), self.meals, self.amortization)

    @line({2022: "21", 2023: "22"}, "Total deductions", weight="total")
    def deductions(self):
        return total(
            self.salaries, self.guaranteed, self.repairs, self.bad_debts, self.rent, self.taxes, self.interest,
            self.depreciation_left,
            self.depletion, self.retirement, self.benefits, self.efficient_buildings, self.others,
        )  # fmt: skip

    @line({2022: "22", 2023: "23"}, "Ordinary business income (loss)", weight="total", cites="IRC 702(a)(8)")
    def ordinary(self):
        return total(self.income, less=self.deductions)

    @fact("Income of the business for the limit of section 179", cites="26 CFR 1.179-2(c)(2)")
    def active_income(self):
        """Without what is guaranteed to partners."""
        return total(self.ordinary, self.guaranteed)

    @fact("Tax")
    def tax(self):
        return nothing_because("partners pay it, the partnership does not: IRC 701")

    @line({2022: "29", 2023: "30"}, "Amount owed")
    def owed(self):
        return nothing_because("partners pay the tax: IRC 701")

    @line({2022: "30", 2023: "31"}, "Overpayment")
    def overpaid(self):
        return nothing_because("partners pay the tax: IRC 701")


# Column of analysis line 2, caption, sorts of partners, whether an individual takes part
_ANALYSED = (
    ("i", "corporate", ("corporation", "s-corporation"), None), ("ii", "individual, active", ("individual",), True),
    ("iii", "individual, passive", ("individual",), False), ("iv", "partnership", ("partnership",), None),
    ("v", "exempt organization", ("exempt", "ira"), None), ("vi", "nominee or other", ("trust",), None),
)  # fmt: skip


def _analysis(letter, called, *, general):
    """The lines of analysis line 2 for general or other partners, by what they are."""

    def of(column, label, sorts, active):
        @line(f"Analysis 2{letter}-{column}", f"{called}, {label}")
        def read(form):
            return total([one.analysed for one in form.every("us.sch-k-1") if counts(one.partner)])

        def counts(partner):
            taking_part = active is None or bool(partner.active) is active
            return bool(partner.general) is general and partner.sort in sorts and taking_part

        return read

    return {f"analysis_{letter}_{one[0]}": of(*one) for one in _ANALYSED}


class ScheduleK(QualifiedBusiness):
    """Schedule K: partners' distributive share items. IRC 702(a)."""

    number, name = "Schedule K", "Partners' distributive share items"
    page = linked("us.1065")

    def required(self):
        return True

    @property
    def more(self):
        return self.run.single("more-items")

    def _partners(self, name):
        return [getattr(paper, name) for paper in self.papers("partner")]

    @line("1", "Ordinary business income (loss)", weight="total")
    def ordinary(self):
        return total(self.page.ordinary)

    @line("2", "Net rental real estate income (loss)", cites="IRC 469(c)(7)")
    def rental(self):
        return self.brought("us.8825", "net")

    @line("4a", "Guaranteed payments, services", cites="IRC 707(c)")
    def services(self):
        return total(self._partners("services"))

    @line("4b", "Guaranteed payments, capital", cites="IRC 707(c)")
    def for_capital(self):
        return total(self._partners("for_capital"))

    @line("4c", "Guaranteed payments, total")
    def guaranteed(self):
        return total(self.services, self.for_capital)

    @line("5", "Interest income")
    def interest(self):
        return with_received(self.run, credit_of(self.run, "interest_income"), "interest")

    @line("6a", "Ordinary dividends")
    def dividends(self):
        return with_received(self.run, credit_of(self.run, "dividends"), "dividends")

    @line("6b", "Qualified dividends", cites="IRC 1(h)(11)")
    def qualified_dividends(self):
        return total(self.more.qualified_dividends, received(self.run, "qualified_dividends"))

    @line("7", "Royalties")
    def royalties(self):
        return with_received(self.run, credit_of(self.run, "royalties"), "royalties")

    @line("8", "Net short-term capital gain (loss)")
    def short_gain(self):
        return with_received(self.run, credit_of(self.run, "short_gain"), "short_gain")

    @line("9a", "Net long-term capital gain (loss)")
    def long_gain(self):
        return with_received(self.run, credit_of(self.run, "long_gain"), "long_gain", "adjusted_long_gain")

    @line("9b", "Collectibles (28%) gain (loss)")
    def collectibles(self):
        return total(self.more.collectibles, received(self.run, "collectibles"))

    @line("9c", "Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def unrecaptured(self):
        return with_received(self.run, self.brought("us.4797", "unrecaptured"), "unrecaptured")

    @line("10", "Net section 1231 gain (loss)", cites="IRC 1231")
    def section_1231(self):
        return self.brought("us.4797", "net")

    @line("11F", "Section 743(b) positive adjustments", cites="26 CFR 1.743-1(j)(2)")
    def adjusted_up(self):
        return total([one.adjusted_up for one in self.every("us.sch-k-1")])

    @line("12", "Section 179 deduction", cites="IRC 179(d)(8)")
    def section_179(self):
        return self.brought("us.section-179", "allowed")

    @line("13a", "Cash contributions", cites="IRC 170, 702(a)(4)")
    def contributions(self):
        return with_received(self.run, debit_of(self.run, "contributions"), "cash_gifts")

    @line({2023: "13b", 2024: "13c"}, "Investment interest expense", cites="IRC 163(d)")
    def investment_interest(self):
        return with_received(self.run, debit_of(self.run, "investment_interest"), "investment_interest")

    @line({2023: "13d", 2024: "13e"}, "Other deductions, portfolio income")
    def portfolio_costs(self):
        return with_received(self.run, debit_of(self.run, "portfolio_costs"), "portfolio_deductions")

    @line("13V", "Section 743(b) negative adjustments", cites="26 CFR 1.743-1(j)(2)")
    def adjusted_down(self):
        return total([one.adjusted_down for one in self.every("us.sch-k-1")])

    @line("14a", "Net earnings (loss) from self-employment", cites="IRC 1402(a), (a)(13)")
    def self_employment(self):
        return total([one.self_employment for one in self.every("us.sch-k-1")])

    @line("14c", "Gross nonfarm income")
    def gross_nonfarm(self):
        more = self.more
        return total(more.gross_nonfarm) if more.is_keyed("gross_nonfarm") else excess(self.page.gross_profit, over=0)

    @line("17a", "Post-1986 depreciation adjustment", cites="IRC 56(a)(1)")
    def minimum_tax(self):
        return total([one.minimum_difference for one in self.every("us.4562")], received(self.run, "minimum_tax"))

    @line("18a", "Tax-exempt interest income", cites="IRC 103")
    def exempt_interest(self):
        return with_received(self.run, credit_of(self.run, "exempt_interest", tax=False), "exempt_interest")

    @line("18c", "Nondeductible expenses", cites="IRC 705(a)(2)(B)")
    def nondeductible(self):
        return total(
            debit_of(self.run, "nondeductible", "income_tax", tax=False), self.meals_half, received(self.run, "nondeductible")
        )

    @line("19a", "Distributions of cash and marketable securities", cites="IRC 731")
    def distributed(self):
        return total(self._partners("distributed"))

    @line("19b", "Distributions of other property", cites="IRC 731, 732")
    def distributed_property(self):
        return total(self._partners("distributed_property"))

    @line("20a", "Investment income", cites="IRC 163(d)")
    def investment_income(self):
        return total(self.interest, self.dividends, self.royalties)

    @line("21", "Total foreign taxes paid or accrued", cites="IRC 901")
    def foreign_tax(self):
        return with_received(self.run, debit_of(self.run, "foreign_tax"), "foreign_tax")

    @line("Analysis 1", "Net income (loss)", weight="total")
    def net(self):
        """Lines 1 through 11, less lines 12 through 13e and 21."""
        gains = (self.short_gain, self.long_gain, self.section_1231, self.adjusted_up)
        plus = (self.ordinary, self.rental, self.guaranteed, self.interest, self.dividends, self.royalties, gains)
        less = (self.section_179, self.contributions, self.investment_interest, self.portfolio_costs, self.adjusted_down)
        return total(plus, less=[less, self.foreign_tax])

    vars().update(_analysis("a", "General partners", general=True) | _analysis("b", "Limited partners", general=False))
