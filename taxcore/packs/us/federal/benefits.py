"""Taxable Social Security benefits. IRC 86."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, share, total
from taxcore.packs.us.base import FederalForm


class Benefits(FederalForm):
    """Taxable Social Security benefits. Worksheet of the instructions; IRC 86."""

    number, name, worksheet = "Benefits", "Social Security benefits", True
    needs = ("ssa-1099",)
    income = linked("us.1040")
    adjusting = linked("us.sch-1")

    def required(self):
        return self.received != 0

    @fact("Filing separately, lived with spouse")
    def apart_but_together(self):
        return self.income.status == "separate" and not self.paper("filing").lived_apart

    @line("1", "Benefits")
    def received(self):
        return total([paper.net for paper in self.papers("ssa-1099")])

    @line("2", "One-half of benefits")
    def half(self):
        return share(self.law.benefits.first_share, of=self.received)

    @line("3", "Other income")
    def other_income(self):
        """Savings bond interest used for education counts here. IRC 86(b)(2)(A)."""
        return total(self.income.income_without_benefits, self.income.interest.education_bonds, self.income.left_out_abroad)

    @line("4", "Tax-exempt interest")
    def exempt(self):
        return total(self.income.exempt_interest)

    @line("5", "Total income and half of benefits")
    def together(self):
        return total(self.half, self.other_income, self.exempt)

    @line("6", "Adjustments")
    def adjustments(self):
        return total(self.adjusting.before_student_loans)

    @line("7", "Provisional income")
    def provisional(self):
        return excess(self.together, over=self.adjustments)

    @line("8", "Base amount")
    def base(self):
        return self._law_for("base")

    @line("9", "Excess")
    def above(self):
        return excess(self.provisional, over=self.base)

    @line("10", "Adjusted base amount less base amount")
    def between(self):
        return total(self._law_for("adjusted_base"), less=self.base)

    @line("11", "Above the adjusted base amount")
    def above_both(self):
        return excess(self.above, over=self.between)

    @line("12", "Up to the adjusted base amount")
    def below_second(self):
        return least(self.above, self.between)

    @line("13", "One-half of that")
    def half_between(self):
        return share(self.law.benefits.first_share, of=self.below_second)

    @line("14", "Smaller of lines 2 and 13")
    def lower_part(self):
        return least(self.half, self.half_between)

    @line("15", "85% of the excess")
    def upper_part(self):
        return share(self.law.benefits.most_share, of=self.above_both)

    @line("16", "Total taxable before limit")
    def taxable_before_limit(self):
        return total(self.lower_part, self.upper_part)

    @line("17", "85% of the benefits")
    def limit(self):
        return share(self.law.benefits.most_share, of=self.received)

    @line("18", "Social Security benefits, taxable amount", weight="total")
    def taxable(self):
        if self.received <= 0:
            return nothing_because("no benefits were received", self.received)
        if self.taxable_before_limit == 0:
            return nothing_because("income does not exceed the base amount", self.provisional)
        found = {"by income": self.taxable_before_limit, "85% of the benefits": self.limit}
        lump_sum = [paper.lump_sum_taxable for paper in self.papers("ssa-1099") if paper.is_keyed("lump_sum_taxable")]
        return least(of=found | ({"lump-sum election": total(lump_sum)} if lump_sum else {}))

    @fact("Taxable benefits before IRA deduction")
    def taxable_without_ira(self):
        if self.received <= 0:
            return nothing_because("no benefits were received")
        adjusted = excess(self.together, over=self.adjusting.without_ira)
        above = excess(adjusted, over=self.base)
        lower = least(self.half, share(self.law.benefits.first_share, of=least(above, self.between)))
        upper = share(self.law.benefits.most_share, of=excess(above, over=self.between))
        return self.rounding(least(total(lower, upper), self.limit))

    def _law_for(self, name):
        status = self.income.status
        if status == "separate" and not self.apart_but_together:
            status = "single"
        return self.law.benefits[name][status]
