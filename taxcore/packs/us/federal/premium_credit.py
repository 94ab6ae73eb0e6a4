"""Form 8962: premium tax credit. IRC 36B; 26 CFR 1.36B-1 to -4."""

from decimal import ROUND_FLOOR, Decimal

from taxcore.engine import (
    ZERO,
    Operand,
    excess,
    explained,
    fact,
    least,
    line,
    linked,
    nothing_because,
    ratio,
    share,
    times,
    total,
)
from taxcore.packs.us.base import FederalForm, places
from taxcore.packs.us.places import home_at_end

_HUNDRED = Decimal(100)


class PremiumCredit(FederalForm):
    """Credit for marketplace coverage, against what was paid in advance. IRC 36B. Shared policies stop filing."""

    number, name = "8962", "Premium tax credit"
    needs = ("1095-a",)
    income = linked("us.1040")

    def required(self):
        return bool(self.papers("1095-a"))

    @property
    def questions(self):
        return self.paper("premium-questions")

    def _rows(self):
        return [row for paper in self.papers("1095-a") for row in paper.months if row.first and row.last]

    def _of_month(self, month, name):
        return sum((getattr(row, name) for row in self._rows() if row.first <= month <= row.last), ZERO)

    @line("1", "Tax family size")
    def family(self):
        claimed = sum(1 for one in self.every("us.dependent") if one.is_dependant)
        return total(len(self.income.filers) + claimed)

    @line("2a", "Modified adjusted gross income", cites="IRC 36B(d)(2)(B)")
    def modified_agi(self):
        untaxed = excess(self.income.benefits_received, over=self.income.taxable_benefits)
        return total(self.income.adjusted_gross_income, self.income.left_out_abroad, self.income.exempt_interest, untaxed)

    @line("2b", "Dependents' modified income")
    def dependants_income(self):
        return total(self.questions.dependants_income)

    @line("3", "Household income")
    def household(self):
        return total(self.modified_agi, self.dependants_income)

    @line("4", "Federal poverty line")
    def poverty(self):
        law = self.law.premium_credit.poverty[self.questions.poverty or self._where()]
        return (
            total(law.first, times(self.family - 1, law.each_more, of="more persons"))
            if self.family
            else nothing_because("nobody files")
        )

    def _where(self):
        return {"AK": "alaska", "HI": "hawaii"}.get(home_at_end(self.run), "elsewhere")

    @line("5", "Household income, percent of poverty line", rounding=None)
    def percent(self):
        """Whole percents, cut off; 401 for all above 400."""
        if self.poverty <= 0 or self.household <= 0:
            return nothing_because("there is no household income")
        found = (self.household * _HUNDRED / self.poverty).to_integral_value(ROUND_FLOOR)
        return total(min(found, Decimal(401)))

    @fact("Why there is no credit")
    def not_allowed(self):
        law = self.law.premium_credit
        advance = any(row.advance for row in self._rows())
        apart = self.income.status == "separate" and not self.questions.abused_or_abandoned
        reasons = [
            (not apart, "a married taxpayer must file jointly"),
            (not any(person.claimed_by_other for person in self.income.filers), "the taxpayer can be claimed as a dependent"),
            (self.percent >= 100 or advance, "income is below the poverty line"),
            ("most_share_of_poverty" not in law or self.percent <= 400, "income exceeds 400% of the poverty line"),
        ]
        return next((reason for holds, reason in reasons if not holds), "")

    @line("7", "Applicable figure", rounding=None, cites="IRC 36B(b)(3)(A)")
    def figure(self):
        """Straight between the ends of each band, to four places."""
        law = self.law.premium_credit

        def redo(percent):
            for low, high, start, end in law.bands:
                if percent < high:
                    return places(start + (end - start) * max(percent - low, ZERO) / (high - low), 4)
            return law.above_bands + ZERO

        return explained("Applicable figure", redo(self.percent), [Operand(self.percent)], redo)

    @line("8a", "Annual contribution amount")
    def contribution(self):
        return share(self.figure, of=self.household) if self.household > 0 else nothing_because("there is no household income")

    @line("8b", "Monthly contribution amount")
    def monthly_contribution(self):
        return ratio(self.contribution, over=12)

    @fact("Annual totals may be used")
    def whole_year(self):
        """Then lines 11 are filled from the year's sums instead of lines 12 to 23."""
        months = {(self._of_month(m, "premium"), self._of_month(m, "benchmark")) for m in range(1, 13)}
        return len(months) == 1 and next(iter(months))[0] > 0

    @line("11a", "Annual enrollment premiums")
    def premiums(self):
        return total([self._of_month(month, "premium") for month in range(1, 13)])

    @line("11b", "Annual SLCSP premium")
    def benchmark(self):
        return total([self._of_month(month, "benchmark") for month in range(1, 13)])

    @line("24", "Credit", weight="total")
    def credit(self):
        if not self._rows():
            return nothing_because("there is no marketplace coverage on this return")
        if self.not_allowed:
            return nothing_because(self.not_allowed)
        if self.whole_year:
            return least(
                of={"premiums": self.premiums, "benchmark less contribution": excess(self.benchmark, over=self.contribution)}
            )
        return total([self._credit_of(month) for month in range(1, 13)])

    def _credit_of(self, month):
        premium = self.rounding(self._of_month(month, "premium"))
        if premium == 0:
            return ZERO
        benchmark = self.rounding(self._of_month(month, "benchmark"))
        return least(premium, excess(benchmark, over=self.monthly_contribution))

    @line("25", "Advance payment of PTC")
    def advance(self):
        return total([self._of_month(month, "advance") for month in range(1, 13)])

    @line("26", "Net premium tax credit", weight="total")
    def net_credit(self):
        return excess(self.credit, over=self.advance)

    @line("27", "Excess advance payment of PTC")
    def excess_advance(self):
        return excess(self.advance, over=self.credit)

    @line("28", "Repayment limitation", cites="IRC 36B(f)(2)(B)")
    def repayment_limit(self):
        """No limit from four times the poverty line on, and none at all from 2026."""
        if "repayment" not in self.law.premium_credit:
            return total(self.excess_advance)
        law = self.law.premium_credit.repayment
        for below, name in ((200, "below_200"), (300, "below_300"), (400, "below_400")):
            if self.percent < below:
                return total(law[name] * (1 if self.income.status == "single" else 2))
        return total(self.excess_advance)

    @line("29", "Excess advance PTC repayment", weight="total")
    def to_repay(self):
        return least(of={"advance above the credit": self.excess_advance, "repayment limitation": self.repayment_limit})
