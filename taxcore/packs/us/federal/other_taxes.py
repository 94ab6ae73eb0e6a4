"""Schedule 2, part II, with Forms 8959 and 8960: the taxes on high wages and on investment income of high incomes."""

from taxcore.engine import excess, least, line, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm


class OtherTaxes(FederalForm):
    """Other taxes. IRC 3101(b)(2), 1411. The rest of the schedule stops filing where a paper calls for it."""

    number, name = "Schedule 2", "Additional taxes"
    wages_tax = linked("us.8959")
    investment_tax = linked("us.8960")

    def required(self):
        return self.other_taxes > 0

    @line("11", "Additional Medicare tax, Form 8959")
    def medicare(self):
        return self.wages_tax.tax

    @line("12", "Net investment income tax, Form 8960")
    def investment(self):
        return self.investment_tax.tax

    @line("21", "Other taxes", weight="total")
    def other_taxes(self):
        return total(self.medicare, self.investment)


class AdditionalMedicareTax(FederalForm):
    """Additional Medicare tax on wages. IRC 3101(b)(2); withholding: 3102(f), 31(a)."""

    number, name = "8959", "Additional Medicare tax"
    income = linked("us.1040")

    def required(self):
        return self.tax > 0 or self.counted_as_withheld > 0

    @line("1", "Medicare wages, box 5")
    def wages(self):
        return total([wage.medicare_wages for wage in self.papers("w2")])

    @line("4", "Wages together")
    def wages_together(self):
        return total(self.wages)

    @line("5", "Threshold")
    def threshold(self):
        return self.law.additional_medicare.threshold[self.income.status]

    @line("6", "Wages above it")
    def above(self):
        return excess(self.wages_together, over=self.threshold)

    @line("7", "0.9% of that")
    def on_wages(self):
        return share(self.law.additional_medicare.rate, of=self.above)

    @line("18", "Additional Medicare tax", weight="total")
    def tax(self):
        return total(self.on_wages)

    @line("19", "Medicare tax withheld, box 6")
    def withheld(self):
        return total([wage.medicare_withheld for wage in self.papers("w2")])

    @line("21", "Regular Medicare tax on wages")
    def regular(self):
        return share(self.law.payroll.medicare_rate, of=self.wages)

    @line("22", "Additional tax withheld")
    def withheld_above(self):
        return excess(self.withheld, over=self.regular)

    @line("24", "Counts as income tax withheld", weight="total")
    def counted_as_withheld(self):
        """A single dollar without tax is only what rounding left."""
        if self.tax == 0 and self.withheld_above <= 1:
            return nothing_because("no more than the regular tax was withheld", self.withheld_above)
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

    @line("12", "Net investment income")
    def net_investment_income(self):
        return total(self.interest)

    @line("13", "Modified adjusted gross income")
    def modified_agi(self):
        return self.income.adjusted_gross_income

    @line("14", "Threshold")
    def threshold(self):
        return self.law.investment_tax.threshold[self.income.status]

    @line("15", "Income above it")
    def above(self):
        return excess(self.modified_agi, over=self.threshold)

    @line("16", "Amount taxed")
    def taxed_amount(self):
        return least(of={"net investment income": self.net_investment_income, "income above the threshold": self.above})

    @line("17", "Tax", weight="total")
    def tax(self):
        return share(self.law.investment_tax.rate, of=self.taxed_amount)
