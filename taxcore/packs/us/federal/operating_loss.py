"""Net operating losses: what earlier years' take off, what this year's leaves. IRC 172."""

from decimal import Decimal

from taxcore.engine import ZERO, Loop, excess, fact, least, line, linked, nothing_because, share, total
from taxcore.packs.us.balances import OPERATING_LOSS
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.carried import as_rows, by_year, left_over

_OLD_UNTIL, _OLD_YEARS = 2017, 20  # losses of years until then wait twenty years and take all income: IRC 172(b)(1)(A)(ii)


class OperatingLoss(FederalForm):
    """Net operating loss deduction, and the net operating loss of the year. IRC 172(a) to (d)."""

    number, name, worksheet = "Net operating loss", "Net operating losses", True
    income, adjusting = linked("us.1040"), linked("us.sch-1")

    def required(self):
        return self.deduction > 0 or self.of_year > 0

    def _rows(self):
        """(year, amount) that still counts, the oldest first."""
        rows = by_year(self.paper("operating-losses").rows, since=0, until=self.year)
        return [one for one in rows if one[0] > _OLD_UNTIL or one[0] >= self.year - _OLD_YEARS]

    @line("1", "NOLs from before 2018")
    def older(self):
        return total([amount for year, amount in self._rows() if year <= _OLD_UNTIL])

    @line("2", "NOLs from 2018 and later")
    def newer(self):
        return total([amount for year, amount in self._rows() if year > _OLD_UNTIL])

    @line("3", "Taxable income before the deduction", cites="IRC 172(a)(2)(B)(ii)")
    def before(self):
        """Without the deduction for qualified business income. What depends on income is as it is with this deduction."""
        if not self._rows():
            return nothing_because("there is no loss of earlier years")
        income = total(self.income.adjusted_gross_income, self.deduction)
        return excess(income, over=self.income.deductions_before_business)

    @line("4", "80% limit")
    def limit(self):
        left = excess(self.before, over=self.older)
        return share(self.law.operating_loss.most, of=left)

    @line("5", "Net operating loss deduction", weight="total", loop=Loop(Decimal(1)))
    def deduction(self):
        if not self._rows():
            return nothing_because("there is no loss of earlier years")
        return total(least(self.older, self.before), least(self.newer, self.limit))

    @line("6", "Income less deductions", cites="IRC 172(d)")
    def result(self):
        """Of this year alone, without the deduction for qualified business income; negative where there is a loss."""
        income = total(self.income.adjusted_gross_income, self.deduction)
        return total(income, less=self.income.deductions_before_business)

    @line("7", "Nonbusiness deductions", cites="IRC 172(d)(4)")
    def personal_deductions(self):
        """The standard deduction or itemized ones, and adjustments that come from no business."""
        one = self.adjusting
        others = (one.early_withdrawal, one.alimony_paid, one.ira, one.student_loans, one.health_savings_deduction, one.plans)
        return total(self.income.deductions_before_business, others)

    @line("8", "Nonbusiness income")
    def personal_income(self):
        one = self.income
        gains = excess(total(one.capital_gain), over=excess(self.brought("us.4797", "long_gain"), over=ZERO))
        return total(one.taxable_interest, one.dividends, one.ira_taxable, one.pension_taxable, one.taxable_benefits,
                     self.adjusting.alimony, gains)  # fmt: skip

    @line("9", "Nonbusiness deductions above nonbusiness income")
    def personal_excess(self):
        return excess(self.personal_deductions, over=self.personal_income)

    @line("10", "Capital loss deducted", cites="IRC 172(d)(2)(A)")
    def capital_loss(self):
        return excess(ZERO, over=self.income.capital_gain)

    @line("11", "Net operating loss of this year", weight="total", cites="IRC 172(c)")
    def of_year(self):
        """With what the limit of business losses leaves for later: IRC 461(l)(2)."""
        own = excess(ZERO, over=total(self.result, self.personal_excess, self.capital_loss))
        return total(own, self.adjusting.excess_loss)

    @fact("Net operating losses carried over", closes=OPERATING_LOSS, by_origin="left_by_year", used="deduction", expired="ended")
    def left(self):
        return total([Decimal(row["amount"]) for row in self.left_by_year()])

    def _left(self):
        """The older are used first, and among them the oldest."""
        return [*left_over(self._rows(), Decimal(self.deduction)), (self.year, Decimal(self.of_year))]

    def _waits(self, year):
        return year > _OLD_UNTIL or year > self.year - _OLD_YEARS

    @fact("Net operating losses that end with this year")
    def ended(self):
        return total([amount for year, amount in self._left() if not self._waits(year)])

    def left_by_year(self):
        return as_rows(one for one in self._left() if self._waits(one[0]))
