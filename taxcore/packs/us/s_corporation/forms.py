"""Form 1120-S, page 1, Schedule K, officers. IRC 1363(b), 1366(a)."""

from taxcore.engine import fact, line, linked, nothing_because, total
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import credit_of, debit_of
from taxcore.packs.us.entity.page import PageOne, QualifiedBusiness, spent
from taxcore.packs.us.entity.received import BUSINESS, received, with_received

_NO_TAX = "shareholders pay the tax: IRC 1363(a)"


class CorporationReturn(PageOne):
    """Form 1120-S, page 1. IRC 1363, 1366(a)(1)(B)."""

    number, name = "1120-S", "U.S. income tax return for an S corporation"
    passed_on = linked("us.sch-k")

    @line("4", "Net gain (loss), Form 4797", cites="IRC 1231, 1245")
    def gains(self):
        return self.brought("us.4797", "ordinary_of_trade")

    @fact("Ordinary income (loss) from partnerships", cites="IRC 702(b)")
    def from_entities(self):
        return total(received(self.run, *BUSINESS))

    @line("5", "Other income (loss)")
    def other_income(self):
        return with_received(self.run, credit_of(self.run, "other_income"), *BUSINESS)

    @line("6", "Total income (loss)", weight="total")
    def income(self):
        return total(self.gross_profit, self.gains, self.other_income)

    officers = spent("7", "Compensation of officers", "officers", cites="IRC 162(a)(1)")
    salaries = spent("8", "Salaries and wages", "salaries")
    repairs = spent("9", "Repairs and maintenance", "repairs")
    bad_debts = spent("10", "Bad debts", "bad_debts", cites="IRC 166")
    rent = spent("11", "Rents", "rent")
    taxes = spent("12", "Taxes and licenses", "taxes")
    interest = spent("13", "Interest", "interest", cites="IRC 163")

    @line("14", "Depreciation, Form 4562")
    def depreciation(self):
        return total(self.depreciation_now)

    depletion = spent("15", "Depletion", "depletion")
    advertising = spent("16", "Advertising", "advertising")
    retirement = spent("17", "Pension, profit-sharing plans", "retirement", cites="IRC 404")
    benefits = spent("18", "Employee benefit programs", "benefits")

    @line({2022: None, 2023: "19"}, "Energy efficient commercial buildings deduction", cites="IRC 179D")
    def efficient_buildings(self):
        return nothing_because("Form 7205 is not made here")

    @line({2022: "19", 2023: "20"}, "Other deductions")
    def others(self):
        return total(debit_of(self.run, "other_deductions", "guaranteed"), self.meals, self.amortization)

    @line({2022: "20", 2023: "21"}, "Total deductions", weight="total")
    def deductions(self):
        return total(
            self.officers, self.salaries, self.repairs, self.bad_debts, self.rent, self.taxes, self.interest, self.depreciation,
            self.depletion, self.advertising, self.retirement, self.benefits, self.efficient_buildings, self.others,
        )  # fmt: skip

    @line({2022: "21", 2023: "22"}, "Ordinary business income (loss)", weight="total", cites="IRC 1366(a)(1)(B)")
    def ordinary(self):
        return total(self.income, less=self.deductions)

    @fact("Income of the business for the limit of section 179", cites="26 CFR 1.179-2(c)(3)")
    def active_income(self):
        """Without what its shareholders are paid."""
        return total(self.ordinary, self.officers)

    @fact("Tax")
    def tax(self):
        return nothing_because(_NO_TAX)

    @line({2022: "26", 2023: "27"}, "Amount owed")
    def owed(self):
        return nothing_because(_NO_TAX)

    @line({2022: "27", 2023: "28"}, "Overpayment")
    def overpaid(self):
        return nothing_because(_NO_TAX)


class Officers(EntityForm):
    """Form 1125-E: compensation of officers. IRC 162(a)(1)."""

    number, name = "1125-E", "Compensation of officers"
    needs = ("officer",)

    def required(self):
        """Where total receipts are 500,000 or more. Instructions of Forms 1120 and 1120-S."""
        return self.run.form(self.run.pack.authorities[0].form.code()).receipts >= 500_000

    @line("2", "Total compensation of officers")
    def together(self):
        return total([one.pay for one in self.papers("officer")])

    @line("4", "Deducted on page 1", weight="total")
    def deducted(self):
        return total(self.together)


class ScheduleK(QualifiedBusiness):
    """Schedule K: shareholders' pro rata share items. IRC 1366(a)."""

    number, name = "Schedule K", "Shareholders' pro rata share items"
    page = linked("us.1120-s")
    accounts = linked("us.sch-m-2")

    def required(self):
        return True

    @property
    def more(self):
        return self.run.single("more-items")

    @line("1", "Ordinary business income (loss)", weight="total")
    def ordinary(self):
        return total(self.page.ordinary)

    @line("2", "Net rental real estate income (loss)", cites="IRC 469(c)(7)")
    def rental(self):
        return self.brought("us.8825", "net")

    @line("4", "Interest income")
    def interest(self):
        return with_received(self.run, credit_of(self.run, "interest_income"), "interest")

    @line("5a", "Ordinary dividends")
    def dividends(self):
        return with_received(self.run, credit_of(self.run, "dividends"), "dividends")

    @line("5b", "Qualified dividends", cites="IRC 1(h)(11)")
    def qualified_dividends(self):
        return total(self.more.qualified_dividends, received(self.run, "qualified_dividends"))

    @line("6", "Royalties")
    def royalties(self):
        return with_received(self.run, credit_of(self.run, "royalties"), "royalties")

    @line("7", "Net short-term capital gain (loss)")
    def short_gain(self):
        return with_received(self.run, credit_of(self.run, "short_gain"), "short_gain")

    @line("8a", "Net long-term capital gain (loss)")
    def long_gain(self):
        return with_received(self.run, credit_of(self.run, "long_gain"), "long_gain", "adjusted_long_gain")

    @line("8b", "Collectibles (28%) gain (loss)")
    def collectibles(self):
        return total(self.more.collectibles, received(self.run, "collectibles"))

    @line("8c", "Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def unrecaptured(self):
        return with_received(self.run, self.brought("us.4797", "unrecaptured"), "unrecaptured")

    @line("9", "Net section 1231 gain (loss)", cites="IRC 1231")
    def section_1231(self):
        return self.brought("us.4797", "net")

    @line("11", "Section 179 deduction", cites="IRC 179(d)(8)")
    def section_179(self):
        return self.brought("us.section-179", "allowed")

    @line("12a", "Cash contributions", cites="IRC 170, 1366(a)(1)")
    def contributions(self):
        return with_received(self.run, debit_of(self.run, "contributions"), "cash_gifts")

    @line({2023: "12b", 2024: "12c"}, "Investment interest expense", cites="IRC 163(d)")
    def investment_interest(self):
        return with_received(self.run, debit_of(self.run, "investment_interest"), "investment_interest")

    @line({2023: "12d", 2024: "12e"}, "Other deductions, portfolio income")
    def portfolio_costs(self):
        return with_received(self.run, debit_of(self.run, "portfolio_costs"), "portfolio_deductions")

    @line("15a", "Post-1986 depreciation adjustment", cites="IRC 56(a)(1)")
    def minimum_tax(self):
        return total([one.minimum_difference for one in self.every("us.4562")], received(self.run, "minimum_tax"))

    @line("16a", "Tax-exempt interest income", cites="IRC 103")
    def exempt_interest(self):
        return with_received(self.run, credit_of(self.run, "exempt_interest", tax=False), "exempt_interest")

    @line("16c", "Nondeductible expenses", cites="IRC 1367(a)(2)(D)")
    def nondeductible(self):
        return total(
            debit_of(self.run, "nondeductible", "income_tax", tax=False), self.meals_half, received(self.run, "nondeductible")
        )

    @fact("Distributions of shareholders, all of them")
    def distributed_in_all(self):
        return total([one.distributed for one in self.papers("shareholder")])

    @line("16d", "Distributions", cites="IRC 1368")
    def distributed(self):
        """Without what is a dividend out of earnings of other years."""
        return total(self.distributed_in_all, less=self.dividends_paid)

    @line("17a", "Investment income", cites="IRC 163(d)")
    def investment_income(self):
        return total(self.interest, self.dividends, self.royalties)

    @line("17c", "Dividend distributions paid from accumulated earnings and profits", cites="IRC 1368(c)(2)")
    def dividends_paid(self):
        return total(self.accounts.earnings_distributed)

    @fact("Foreign taxes paid or accrued", cites="IRC 901")
    def foreign_tax(self):
        return with_received(self.run, debit_of(self.run, "foreign_tax"), "foreign_tax")

    @line("18", "Income (loss) reconciliation", weight="total")
    def net(self):
        """Lines 1 through 10, less lines 11 through 12e and foreign taxes."""
        gains = (self.short_gain, self.long_gain, self.section_1231)
        less = (self.section_179, self.contributions, self.investment_interest, self.portfolio_costs, self.foreign_tax)
        return total(self.ordinary, self.rental, self.interest, self.dividends, self.royalties, gains, less=less)
