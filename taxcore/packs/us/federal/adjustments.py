"""Schedule 1, part II: adjustments to income, and Schedule 1-A, the deductions that began in 2025."""

from taxcore.engine import excess, line, linked, nothing_because, share, times, total
from taxcore.packs.us.base import FederalForm


class Adjustments(FederalForm):
    """Adjustments to income. IRC 62(a). Only the penalty on early withdrawal has a paper so far."""

    number, name = "Schedule 1", "Adjustments to income"

    def required(self):
        return self.adjustments > 0

    @line("18", "Penalty on early withdrawal of savings", cites="IRC 62(a)(9)")
    def early_withdrawal(self):
        return total([paper.early_withdrawal for paper in self.papers("1099-int")])

    @line("26", "Adjustments to income", weight="total")
    def adjustments(self):
        return total(self.early_withdrawal)


class AdditionalDeductions(FederalForm):
    """Deductions for 2025 to 2028. Part V, seniors: IRC 151(d)(5)(C). Tips, overtime and car loans stop filing."""

    number, name = "Schedule 1-A", "Additional deductions"
    income = linked("us.1040")

    def required(self):
        return self.deductions > 0

    @line({2025: "3"}, "Modified adjusted gross income")
    def modified_agi(self):
        return self.income.adjusted_gross_income

    @line({2025: "31"}, "Modified adjusted gross income, seniors")
    def senior_income(self):
        return self.modified_agi

    @line({2025: "32"}, "Threshold")
    def senior_threshold(self):
        return self.law.senior_deduction.threshold[self.income.status]

    @line({2025: "33"}, "Income above the threshold")
    def above_threshold(self):
        return excess(self.senior_income, over=self.senior_threshold)

    @line({2025: "34"}, "6% of that")
    def reduction(self):
        return share(self.law.senior_deduction.rate, of=self.above_threshold)

    @line({2025: "35"}, "Left of 6,000")
    def each(self):
        return excess(self.law.senior_deduction.each, over=self.reduction)

    @line({2025: "36a"}, "Taxpayer")
    def for_taxpayer(self):
        return self._for(self.person("taxpayer"))

    @line({2025: "36b"}, "Spouse")
    def for_spouse(self):
        if self.income.status != "joint":
            return nothing_because("this is not a joint return")
        return self._for(self.person("spouse"))

    @line({2025: "37"}, "Seniors")
    def seniors(self):
        return total(self.for_taxpayer, self.for_spouse)

    @line({2025: "38"}, "Additional deductions", weight="total")
    def deductions(self):
        return total(self.seniors) if "senior_deduction" in self.law else nothing_because("the law begins in 2025")

    def _for(self, person):
        if person is None or not person.is_aged():
            return nothing_because("not 65 by the end of the year")
        if self.income.status == "separate":
            return nothing_because("a married person must file jointly")
        if not person.number:
            return nothing_because("there is no social security number")
        return times(1, self.each, of="person")
