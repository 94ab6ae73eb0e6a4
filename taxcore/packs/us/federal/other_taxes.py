"""Schedule 2 with Forms 8959 and 8960: taxes besides the income tax."""

from taxcore.engine import excess, greatest, least, line, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.federal.passive_trades import is_passive
from taxcore.packs.us.federal.trades import TRADES, trade_of
from taxcore.packs.us.property.rents import OWN_BUSINESS

_INVESTMENT_CODES = frozenset("D")  # an annuity of no qualified plan, box 7 of Form 1099-R


class OtherTaxes(FederalForm):
    """Minimum tax and repaid premium credit (part I), other taxes (part II). IRC 55, 36B(f), 72(t), 223(f)(4), 1401."""

    number, name = "Schedule 2", "Additional taxes"
    wages_tax = linked("us.8959")
    investment_tax = linked("us.8960")
    minimum = linked("us.6251")

    def required(self):
        return self.other_taxes > 0 or self.before_credits > 0

    @line({2022: "2", 2024: "1a"}, "Excess advance premium tax credit repayment")
    def premium_repaid(self):
        return self.brought("us.8962", "to_repay")

    @line({2022: None, 2024: "1b"}, "Repayment of transferred credits, new clean vehicles")
    def new_vehicles(self):
        return self.brought("us.8936", "repaid_new")

    @line({2022: None, 2024: "1c"}, "Repayment of transferred credits, used clean vehicles")
    def used_vehicles(self):
        return self.brought("us.8936", "repaid_used")

    @line({2022: None, 2024: "1z"}, "Total repayments")
    def repayments(self):
        return total(self.premium_repaid, self.new_vehicles, self.used_vehicles)

    @line({2022: "1", 2024: "2"}, "Alternative minimum tax")
    def minimum_tax(self):
        return total(self.minimum.tax)

    @line("3", "Total additions to tax", weight="total")
    def before_credits(self):
        return total(self.minimum_tax, self.repayments)

    @line("4", "Self-employment tax")
    def self_employment(self):
        return total([one.tax for one in self.every("us.sch-se")])

    @line("5", "Social Security and Medicare tax on unreported tips")
    def tips(self):
        return total([one.tax for one in self.every("us.4137")])

    @line("7", "Total additional Social Security and Medicare tax")
    def on_pay(self):
        return total(self.tips)

    @line("8", "Additional tax on IRAs and other tax-favored accounts")
    def retirement(self):
        return total([one.tax for one in self.every("us.5329")])

    @line("9", "Household employment taxes, Schedule H")
    def household(self):
        return self.brought("us.sch-h", "tax")

    @line("11", "Additional Medicare tax, Form 8959")
    def medicare(self):
        return self.wages_tax.tax

    @line("12", "Net investment income tax, Form 8960")
    def investment(self):
        return self.investment_tax.tax

    @line("13", "Uncollected Social Security and Medicare tax, W-2 box 12", cites="IRC 3102(c)(4), (d)")
    def uncollected(self):
        return total([wage.coded({"A", "B", "M", "N"}) for wage in self.papers("w2")])

    @line("17c", "Additional tax on HSA distributions")
    def health_savings(self):
        return total([one.additional_tax for one in self.every("us.8889")])

    @line("17d", "Additional tax on an HSA: no longer an eligible individual")
    def health_savings_testing(self):
        return total([one.failed_tax for one in self.every("us.8889")])

    @line("17h", "Tax on a failed 409A plan", cites="IRC 409A(a)(1)(B)")
    def failed_plans(self):
        """A fifth of the income, and premium interest."""
        papers = self.papers("w2")
        income = total([wage.coded({"Z"}) for wage in papers])
        return total(share(self.law.failed_plans.rate, of=income), [wage.failed_plan_interest for wage in papers])

    @line("17k", "Golden parachute payments", cites="IRC 4999")
    def parachutes(self):
        return total([wage.coded({"K"}) for wage in self.papers("w2")])

    @line("18", "Total other additional taxes")
    def others(self):
        return total(self.health_savings, self.health_savings_testing, self.failed_plans, self.parachutes)

    @line("21", "Total other taxes", weight="total")
    def other_taxes(self):
        return total(
            self.self_employment, self.on_pay, self.retirement, self.household, self.medicare, self.investment, self.uncollected,
            self.others,
        )  # fmt: skip


class AdditionalMedicareTax(FederalForm):
    """Additional Medicare tax on wages and self-employment. IRC 1401(b)(2), 3101(b)(2); withholding: 3102(f), 31(a)."""

    number, name = "8959", "Additional Medicare tax"
    income = linked("us.1040")

    def required(self):
        return self.tax > 0 or self.counted_as_withheld > 0

    @line("1", "Medicare wages and tips")
    def wages(self):
        return total([wage.medicare_wages for wage in self.papers("w2")])

    @line("2", "Unreported tips")
    def tips(self):
        return total([one.taxed for one in self.every("us.4137")])

    @line("4", "Total wages")
    def wages_together(self):
        return total(self.wages, self.tips)

    @line("5", "Threshold")
    def threshold(self):
        return self.law.additional_medicare.threshold[self.income.status]

    @line("6", "Wages above the threshold")
    def above(self):
        return excess(self.wages_together, over=self.threshold)

    @line("7", "0.9% of that")
    def on_wages(self):
        return share(self.law.additional_medicare.rate, of=self.above)

    @line("8", "Self-employment earnings")
    def self_employment(self):
        """One person's loss does not lower the other's earnings."""
        return total([greatest(one.net_earnings, 0) for one in self.every("us.sch-se")])

    @line("9", "Threshold")
    def second_threshold(self):
        return self.law.additional_medicare.threshold[self.income.status]

    @line("10", "Wages")
    def wages_again(self):
        return total(self.wages_together)

    @line("11", "Threshold less wages")
    def threshold_left(self):
        return excess(self.second_threshold, over=self.wages_again)

    @line("12", "Earnings above the threshold")
    def earnings_above(self):
        return excess(self.self_employment, over=self.threshold_left)

    @line("13", "0.9% of that")
    def on_self_employment(self):
        return share(self.law.additional_medicare.rate, of=self.earnings_above)

    @line("18", "Additional Medicare tax", weight="total")
    def tax(self):
        return total(self.on_wages, self.on_self_employment)

    @line("19", "Medicare tax withheld")
    def withheld(self):
        return total([wage.medicare_withheld for wage in self.papers("w2")])

    @line("20", "Wages")
    def wages_withheld_on(self):
        return total(self.wages)

    @line("21", "Regular Medicare tax, 1.45%")
    def regular(self):
        return share(self.law.payroll.medicare_rate, of=self.wages_withheld_on)

    @line("22", "Additional Medicare tax withheld")
    def withheld_above(self):
        return excess(self.withheld, over=self.regular)

    @line("24", "Total Additional Medicare tax withheld", weight="total")
    def counted_as_withheld(self):
        """A single dollar without tax is only what rounding left."""
        if self.tax == 0 and self.withheld_above <= 1:
            return nothing_because("no Additional Medicare tax was withheld", self.withheld_above)
        return total(self.withheld_above)


class NetInvestmentIncomeTax(FederalForm):
    """Tax on investment income or on income above a threshold, whichever is smaller. IRC 1411(a)(1)."""

    number, name = "8960", "Net investment income tax"
    income = linked("us.1040")

    def required(self):
        return self.tax > 0

    @line("1", "Taxable interest")
    def interest(self):
        return self.income.taxable_interest

    @line("2", "Ordinary dividends")
    def dividends(self):
        return total(self.income.dividends)

    @line("3", "Nonqualified annuities")
    def annuities(self):
        papers = [paper for paper in self.papers("1099-r") if _INVESTMENT_CODES & paper.codes()]
        return total([self.run.form("us.distribution", paper.key).income for paper in papers])

    @line("4a", "Rents, royalties, entities and passive trades")
    def entities(self):
        idle = [trade_of(books).profit for kind in TRADES for books in self.papers(kind) if is_passive(books)]
        return total(self.brought("us.sch-1", "entities"), idle)

    @line("4b", "Of them, nonpassive trade or business income", cites="IRC 1411(c)(2)(A)")
    def active(self):
        let = [one for one in self.every("us.sch-e-part-i") if one.paper.property_kind == OWN_BUSINESS]
        own = [excess(one.net, over=one.passive_counted) for one in let]  # 26 CFR 1.1411-4(g)(6)(i)
        return total(less=[*own, *(one.own for one in self.every("us.share") if one.paper.participates)])

    @line("4c", "Net rental, partnership and S corporation income")
    def passive(self):
        return total(self.entities, self.active)

    @line("5a", "Gain or loss")
    def gain(self):
        return total(self.income.capital_gain, self.brought("us.sch-1", "other_gains"))

    @line("5b", "Gain or loss of trades that are not passive", cites="IRC 1411(c)(2)(A)")
    def gain_of_trades(self):
        if self.run.is_idle("us.4797"):
            return nothing_because("nothing of a business was sold")
        sold = self.run.form("us.4797")
        shares = [of_share(p, "section_1231") for kind in ("k1-1065", "k1-1120s") for p in self.papers(kind) if p.participates]
        papers = (*self.every("us.6252"), *(one for one in self.every("us.8824") if one.paper.thing is None))
        parts = [one.gain for one in papers if one.paper.sort == "trade"]
        active = [books.key for kind in TRADES for books in self.papers(kind) if not is_passive(books)]
        return total(less=[*parts, *(sold.of_activity(key) for key in active), *shares])

    @line("5d", "Net gain from disposition of property")
    def net_gain(self):
        return total(self.gain, self.gain_of_trades)

    @line("8", "Total investment income", weight="total")
    def investment_income(self):
        return total(self.interest, self.dividends, self.annuities, self.passive, self.net_gain)

    @line("9a", "Investment interest expense")
    def interest_deducted(self):
        return self.brought("us.4952", "deduction") if self.income.is_itemised else nothing_because("deductions are not itemized")

    @line("9d", "Total deductions")
    def deductions(self):
        return total(self.interest_deducted)

    @line("11", "Deductions")
    def all_deductions(self):
        return total(self.deductions)

    @line("12", "Net investment income")
    def net_investment_income(self):
        return excess(self.investment_income, over=self.all_deductions)

    @line("13", "Modified adjusted gross income")
    def modified_agi(self):
        return total(self.income.adjusted_gross_income, self.income.left_out_abroad)

    @line("14", "Threshold")
    def threshold(self):
        return self.law.investment_tax.threshold[self.income.status]

    @line("15", "Income above the threshold")
    def above(self):
        return excess(self.modified_agi, over=self.threshold)

    @line("16", "Amount subject to tax")
    def taxed_amount(self):
        if self.above == 0:
            return nothing_because("income is not above the threshold", self.modified_agi)
        return least(of={"net investment income": self.net_investment_income, "income above the threshold": self.above})

    @line("17", "Tax", weight="total")
    def tax(self):
        return share(self.law.investment_tax.rate, of=self.taxed_amount)
