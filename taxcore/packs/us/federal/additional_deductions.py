"""Schedule 1-A: the deductions that began in 2025. IRC 224, 225, 163(h)(4), 151(d)(5)(C)."""

from taxcore.engine import absent, excess, full_steps, least, line, linked, nothing_because, share, steps, times, total
from taxcore.packs.us.base import FederalForm


class AdditionalDeductions(FederalForm):
    """Deductions for 2025 to 2028: tips, overtime, car loans, seniors. IRC 224, 225, 163(h)(4), 151(d)(5)(C)."""

    number, name = "Schedule 1-A", "Total additional deductions"
    income = linked("us.1040")

    def required(self):
        return self.deductions > 0

    def _law_for(self, section, name):
        return self.law[section][name][self.income.status]

    def _begun(self):
        return "tips" in self.law

    @line({2025: "1"}, "Adjusted gross income")
    def adjusted_gross_income(self):
        return self.income.adjusted_gross_income

    @line({2025: "2b"}, "Form 2555, line 45")
    def earned_abroad(self):
        return total([one.excluded_net for one in self.every("us.2555")])

    @line({2025: "2c"}, "Form 2555, line 50")
    def housing_abroad(self):
        return total([one.housing_deduction for one in self.every("us.2555")])

    @line({2025: "2e"}, "Total additions")
    def added(self):
        return total(self.earned_abroad, self.housing_abroad)

    @line({2025: "3"}, "Modified adjusted gross income")
    def modified_agi(self):
        return total(self.adjusted_gross_income, self.added)

    def _typed(self, kind):
        keys = {person.role for person in self.income.filers if person.number}
        wages = [wage for wage in self.papers("w2") if (wage.owner or "taxpayer") in keys]
        return [row.amount for wage in wages for row in wage.others if row.kind == kind]

    @line({2025: "4c"}, "Qualified tips, employee")
    def employee_tips(self):
        return total(self._typed("tips"))

    @line({2025: "5"}, "Qualified tips, self-employed")
    def business_tips(self):
        """Never more than that business earns. IRC 224(d)(1)."""
        pairs = [(one.books.tips, one.profit) for one in self.every("us.sch-c")]
        return total([least(tips, excess(profit, over=0)) for tips, profit in pairs])

    @line({2025: "6"}, "Total qualified tips")
    def tips(self):
        return total(self.employee_tips, self.business_tips)

    @line({2025: "7"}, "Limited to the maximum")
    def tips_capped(self):
        return least(of={"tips": self.tips, "most": self.law.tips.most})

    @line({2025: "9"}, "Threshold")
    def tips_threshold(self):
        return self._law_for("tips", "threshold")

    @line({2025: "10"}, "Income above the threshold")
    def tips_above(self):
        return excess(self.modified_agi, over=self.tips_threshold)

    @line({2025: "11"}, "Divided by 1,000, rounded down")
    def tips_steps(self):
        return full_steps(self.tips_above, of=self.law.tips.step)

    @line({2025: "12"}, "Multiplied by 100")
    def tips_reduction(self):
        return times(self.tips_steps, self.law.tips.each_step, of="thousands")

    @line({2025: "13"}, "Qualified tips deduction", weight="total", cites="IRC 224")
    def tips_deduction(self):
        if self.tips == 0:
            return absent("no qualified tips were entered")
        return self._unless_apart(excess(self.tips_capped, over=self.tips_reduction))

    @line({2025: "14c"}, "Qualified overtime compensation")
    def overtime(self):
        return total(self._typed("overtime"))

    @line({2025: "15"}, "Limited to the maximum")
    def overtime_capped(self):
        return least(of={"overtime": self.overtime, "most": self._law_for("overtime", "most")})

    @line({2025: "17"}, "Threshold")
    def overtime_threshold(self):
        return self._law_for("overtime", "threshold")

    @line({2025: "18"}, "Income above the threshold")
    def overtime_above(self):
        return excess(self.modified_agi, over=self.overtime_threshold)

    @line({2025: "19"}, "Divided by 1,000, rounded down")
    def overtime_steps(self):
        return full_steps(self.overtime_above, of=self.law.overtime.step)

    @line({2025: "20"}, "Multiplied by 100")
    def overtime_reduction(self):
        return times(self.overtime_steps, self.law.overtime.each_step, of="thousands")

    @line({2025: "21"}, "Qualified overtime compensation deduction", weight="total", cites="IRC 225")
    def overtime_deduction(self):
        if self.overtime == 0:
            return absent("no qualified overtime was entered")
        return self._unless_apart(excess(self.overtime_capped, over=self.overtime_reduction))

    @line({2025: "23"}, "Qualified passenger vehicle loan interest")
    def car_interest(self):
        return total([excess(paper.interest, over=paper.on_business) for paper in self.papers("car-loan") if _qualifies(paper)])

    @line({2025: "24"}, "Limited to the maximum")
    def car_capped(self):
        return least(of={"interest": self.car_interest, "most": self.law.car_loan.most})

    @line({2025: "26"}, "Threshold")
    def car_threshold(self):
        return self._law_for("car_loan", "threshold")

    @line({2025: "27"}, "Income above the threshold")
    def car_above(self):
        return excess(self.modified_agi, over=self.car_threshold)

    @line({2025: "28"}, "Divided by 1,000, rounded up")
    def car_steps(self):
        return steps(self.car_above, of=self.law.car_loan.step)

    @line({2025: "29"}, "Multiplied by 200")
    def car_reduction(self):
        return times(self.car_steps, self.law.car_loan.each_step, of="thousands")

    @line({2025: "30"}, "Car loan interest deduction", weight="total", cites="IRC 163(h)(4)")
    def car_deduction(self):
        if self.car_interest == 0:
            none = "no qualifying vehicle loan was entered"
            return nothing_because(none) if self.papers("car-loan") else absent(none)
        return excess(self.car_capped, over=self.car_reduction)

    @line({2025: "31"}, "Modified adjusted gross income")
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

    @line({2025: "35"}, "6,000 less that")
    def each(self):
        return excess(self.law.senior_deduction.each, over=self.reduction)

    @line({2025: "36a"}, "Taxpayer")
    def for_taxpayer(self):
        return self._for(self.person("taxpayer"))

    @line({2025: "36b"}, "Spouse")
    def for_spouse(self):
        if self.income.status != "joint":
            return absent("this is not a joint return")
        return self._for(self.person("spouse"))

    @line({2025: "37"}, "Enhanced deduction for seniors")
    def seniors(self):
        return total(self.for_taxpayer, self.for_spouse)

    @line({2025: "38"}, "Total additional deductions", weight="total")
    def deductions(self):
        if not self._begun():
            return nothing_because("it begins in 2025")
        return total(self.tips_deduction, self.overtime_deduction, self.car_deduction, self.seniors)

    def _unless_apart(self, amount):
        return nothing_because("a married taxpayer must file jointly") if self.income.status == "separate" else amount

    def _for(self, person):
        if person is None or not person.is_aged():
            return nothing_because("not 65 by the end of the year")
        if self.income.status == "separate":
            return nothing_because("a married taxpayer must file jointly")
        if not person.number:
            return nothing_because("there is no SSN")
        return times(1, self.each, of="person")


def _qualifies(paper):
    """A new car assembled here, for personal use, on a loan made after 2024. IRC 163(h)(4)(B), (D)."""
    recent = paper.loan_date is not None and paper.loan_date.year >= 2025
    return recent and paper.new_for_owner and paper.assembled_here and paper.personal
