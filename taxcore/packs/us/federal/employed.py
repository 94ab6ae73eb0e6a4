"""Tips (Form 4137), people employed in the home (Schedule H), moves on orders (Form 3903), contracts (Form 6781)."""

from decimal import Decimal

from taxcore.engine import excess, fact, least, line, nothing_because, share, total
from taxcore.packs.us.base import FederalForm

_LONG = Decimal("0.6")


class UnreportedTips(FederalForm):
    """Form 4137 of one person: tips that no employer withheld on. IRC 3121(q), 6053(a)."""

    number, name, per = "4137", "Social Security and Medicare tax on unreported tips", "person"
    needs = ("w2", "other-income")

    def required(self):
        return self.unreported > 0

    @line("4", "Unreported tips", weight="total")
    def unreported(self):
        """What employers allocated, and what was never reported to one."""
        allocated = [paper.allocated_tips for paper in self.papers("w2", self.key)]
        return total(allocated, [paper.tips for paper in self.papers("other-income", self.key)])

    @line("6", "Subject to Medicare tax")
    def taxed(self):
        return total(self.unreported)

    @line("7", "Maximum subject to Social Security tax")
    def base(self):
        return total(self.law.payroll.wage_base)

    @line("8", "Social Security wages and tips")
    def insured(self):
        papers = self.papers("w2", self.key)
        return total([p.social_security_wages for p in papers], [p.social_security_tips for p in papers])

    @line("9", "Room")
    def room(self):
        return excess(self.base, over=self.insured)

    @line("10", "Subject to Social Security tax")
    def within(self):
        return least(self.taxed, self.room)

    @line("11", "6.2% of it")
    def social_security(self):
        return share(self.law.payroll.social_security_rate, of=self.within)

    @line("12", "1.45% of the tips")
    def medicare(self):
        return share(self.law.payroll.medicare_rate, of=self.taxed)

    @line("13", "Tax on unreported tips", weight="total")
    def tax(self):
        return total(self.social_security, self.medicare)


class HouseholdTaxes(FederalForm):
    """Schedule H: taxes on people employed in the home. IRC 3101, 3102, 3111, 3301, 3121(x)."""

    number, name = "Schedule H", "Household employment taxes"
    needs = ("household",)

    @property
    def household(self):
        return self.run.single("household")

    def required(self):
        return self.tax > 0

    def _insured(self):
        """Wages of those who were paid enough in the year: IRC 3121(a)(7)(B)."""
        return [row.wages for row in self.household.employees if row.wages >= self.law.household.least]

    @line("1", "Wages subject to Social Security tax")
    def wages(self):
        return total([least(one, self.law.payroll.wage_base) for one in self._insured()])

    @line("2", "12.4% of them")
    def social_security(self):
        return share(2 * self.law.payroll.social_security_rate, of=self.wages)

    @line("3", "Wages subject to Medicare tax")
    def all_wages(self):
        return total(self._insured())

    @line("4", "2.9% of them")
    def medicare(self):
        return share(2 * self.law.payroll.medicare_rate, of=self.all_wages)

    @line("5", "Wages above 200,000")
    def above(self):
        return total([excess(one, over=self.law.payroll.additional_withheld_above) for one in self._insured()])

    @line("6", "0.9% of them")
    def additional(self):
        return share(self.law.payroll.additional_rate, of=self.above)

    @line("7", "Federal income tax withheld")
    def withheld(self):
        return total(self.household.withheld)

    @line("8", "Social Security, Medicare and income taxes", weight="total")
    def insured_taxes(self):
        return total(self.social_security, self.medicare, self.additional, self.withheld)

    @line("15", "Wages subject to unemployment tax", cites="IRC 3306(b)(1)")
    def unemployment_wages(self):
        if not self.household.thousand:
            return nothing_because("less than 1,000 was paid in every quarter")
        return total([least(row.wages, self.law.household.unemployment_base) for row in self.household.employees])

    @line("16", "Federal unemployment tax, 0.6%", cites="IRC 3301, 3302")
    def unemployment(self):
        return share(self.law.household.unemployment_rate, of=self.unemployment_wages)

    @line("26", "Household employment taxes", weight="total")
    def tax(self):
        return total(self.insured_taxes, self.unemployment)


class Moving(FederalForm):
    """Form 3903 of one person: a move that the Armed Forces ordered. IRC 217(g), 132(g)(2)."""

    number, name, per = "3903", "Moving expenses", "person"
    needs = ("adjustments",)

    def required(self):
        return self.deduction > 0 or self.income > 0

    @property
    def ordered(self):
        return any(paper.moving_ordered for paper in self.papers("adjustments", self.key))

    @line("1", "Transportation and storage of household goods")
    def goods(self):
        return total([paper.moving for paper in self.papers("adjustments", self.key)])

    @line("2", "Travel and lodging")
    def travel(self):
        return total([paper.moving_travel for paper in self.papers("adjustments", self.key)])

    @line("3", "Expenses")
    def expenses(self):
        return total(self.goods, self.travel)

    @line("4", "Paid by the government, W-2 box 12 code P")
    def paid(self):
        return total([wage.coded({"P"}) for wage in self.papers("w2", self.key)])

    @line("5", "Moving expense deduction", weight="total")
    def deduction(self):
        if not self.ordered:
            return nothing_because("the move was not ordered")
        return excess(self.expenses, over=self.paid)

    @fact("Paid above the expenses")
    def income(self):
        """What is paid for more than the move cost is pay, Form 1040 line 1h. A move without its costs is asked about instead."""
        if self.expenses == 0:
            return nothing_because("no expenses are entered")
        return excess(self.paid, over=self.expenses)


class Contracts(FederalForm):
    """Form 6781, part I: contracts marked to market, as brokers report them together. IRC 1256."""

    number, name = "6781", "Gains and losses from section 1256 contracts"
    needs = ("1099-b",)

    def required(self):
        return self.together != 0

    @line("7", "Net gain or (loss)", weight="total")
    def together(self):
        return total([paper.contracts for paper in self.papers("1099-b")])

    @line("8", "Short-term, 40%", cites="IRC 1256(a)(3)")
    def short_term(self):
        return total(self.together, less=self.long_term)

    @line("9", "Long-term, 60%")
    def long_term(self):
        return share(_LONG, of=self.together)
