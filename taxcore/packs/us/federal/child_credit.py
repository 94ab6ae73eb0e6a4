"""Schedule 8812: credits for children and other dependents, and the part that is paid out. IRC 24."""

from taxcore.engine import excess, fact, greatest, least, line, linked, nothing_because, share, steps, times, total
from taxcore.packs.us.base import FederalForm


class ChildCredit(FederalForm):
    """Child credit, credit for other dependents, additional child credit. IRC 24(a), (b), (d), (h)."""

    number, name = "Schedule 8812", "Credits for children and other dependents"
    income = linked("us.1040")
    more_credits = linked("us.sch-3")
    adjusting = linked("us.sch-1")

    def required(self):
        return bool(self.run.people("dependant"))

    @line("1", "Adjusted gross income")
    def adjusted_gross_income(self):
        return self.income.adjusted_gross_income

    @line("2b", "Form 2555, lines 45 and 50")
    def abroad(self):
        return total(self.income.left_out_abroad)

    @line("2d", "Total additions")
    def added(self):
        return total(self.abroad)

    @line("3", "Modified adjusted gross income")
    def modified_agi(self):
        return total(self.adjusted_gross_income, self.added)

    @line("4", "Qualifying children under 17")
    def children(self):
        return times(sum(1 for one in self.every("us.dependent") if one.child_credit > 0), 1, of="children")

    @line("5", "Child tax credit, all children")
    def for_children(self):
        return total([one.child_credit for one in self.every("us.dependent")])

    @line("6", "Other dependents")
    def others(self):
        return times(sum(1 for one in self.every("us.dependent") if one.other_credit > 0), 1, of="dependants")

    @line("7", "Credit for other dependents, all")
    def for_others(self):
        return total([one.other_credit for one in self.every("us.dependent")])

    @line("8", "Total child and other dependent credits")
    def together(self):
        return total(self.for_children, self.for_others)

    @line("9", "Threshold")
    def threshold(self):
        return self.law.child_credit.threshold[self.income.status]

    @line("10", "Excess income, next 1,000", cites="IRC 24(b)(1)")
    def above(self):
        step = self.law.child_credit.step
        return times(steps(excess(self.modified_agi, over=self.threshold), of=step), step, of="thousands begun")

    @line("11", "5% of that")
    def reduction(self):
        return share(self.law.child_credit.phase_out_rate, of=self.above)

    @line("12", "Credit before limit")
    def before_limit(self):
        return excess(self.together, over=self.reduction)

    @line("13", "Credit limit")
    def limit(self):
        """Credit limit worksheet A: after the credits of Schedule 3, those of worksheet B included."""
        return excess(self.income.tax_before_credits, over=self.more_credits.before_business)

    @fact("Part that is not refundable", cites="IRC 24(d)(1)")
    def not_payable(self):
        """Credit limit worksheet B: credits that end unused come before the part of this one that can be paid out."""
        if self.before_limit == 0:
            return nothing_because("there is no child tax credit")
        cap = times(self.children, self.law.child_credit.refundable_each, of="children")
        return excess(self.before_limit, over=least(cap, self.larger_route))

    @line("14", "Nonrefundable credit", weight="total")
    def credit(self):
        return least(of={"credit before limit": self.before_limit, "credit limit": self.limit})

    @line("16a", "Credit not used against tax")
    def unused(self):
        return excess(self.before_limit, over=self.credit)

    @line("16b", "Maximum refundable")
    def most(self):
        return times(self.children, self.law.child_credit.refundable_each, of="children")

    @line("17", "Smaller of the two")
    def refundable(self):
        return least(of={"not used against tax": self.unused, "maximum refundable": self.most})

    @line("18a", "Earned income")
    def earned(self):
        """Care benefits that are taxed are pay; combat pay counts here always. IRC 24(d)(1)(B)."""
        people = [self.run.form("us.earned-income", person.role) for person in self.income.filers]
        return total([one.earned for one in people], self.income.care_benefits, [one.combat_pay for one in people])

    @line("19", "Earned income above 2,500", cites="IRC 24(d)(1)(B)(i)")
    def above_floor(self):
        return excess(self.earned, over=self.law.child_credit.earned_floor)

    @line("20", "15% of that")
    def by_earnings(self):
        return share(self.law.child_credit.refund_rate, of=self.above_floor)

    @line("21", "Social Security and Medicare taxes withheld", cites="IRC 24(d)(1)(B)(ii)")
    def payroll_withheld(self):
        papers = self.papers("w2")
        return total([w.social_security_withheld for w in papers], [w.medicare_withheld for w in papers])

    @line("22", "Deductible part of self-employment tax")
    def half_self_employment(self):
        return total(self.adjusting.half_self_employment)

    @line("23", "Total payroll taxes")
    def payroll_tax(self):
        return total(self.payroll_withheld, self.half_self_employment)

    @line("24", "EIC and excess Social Security withheld")
    def set_against(self):
        return total(self.income.earned_income_credit, self.more_credits.excess_social_security)

    @line("25", "Excess payroll tax")
    def by_payroll_tax(self):
        return excess(self.payroll_tax, over=self.set_against)

    @line("26", "Larger of the two")
    def larger_route(self):
        if self.children < 3:
            return total(self.by_earnings)
        return greatest(of={"15% of earned income": self.by_earnings, "payroll tax": self.by_payroll_tax})

    @line("27", "Additional child tax credit", weight="total")
    def paid_out(self):
        if self.children == 0:
            return nothing_because("there is no qualifying child under 17")
        if self.income.left_out_abroad:
            return nothing_because("income earned abroad is left out")  # IRC 24(d)(5)
        return least(of={"unused credit, limited": self.refundable, "by earned income or payroll tax": self.larger_route})
