"""Form SC1040 with Schedule NR: federal taxable income, changed; retirement and age by person. S.C. Code 12-6."""

from taxcore.engine import ALL, ZERO, excess, fact, least, line, nothing_because, pro_rata, ratio, share, times, total, whole
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.states.base import StateReturn
from taxcore.packs.us.states.table import tax_by_table


class IncomeTax(StateReturn):
    """Individual income tax return. S.C. Code 12-6-510, 12-6-560, 12-6-1120 to 12-6-1170, 12-6-3330, 12-6-3400."""

    jurisdiction = "us-sc"
    number, name = "SC1040", "Individual income tax return"

    @line("1", "Federal taxable income")
    def federal_taxable(self):
        """It may be below zero here."""
        return total(self.federal.adjusted_gross_income, less=self.federal.deductions)

    @fact("State tax addback", rounding=whole, cites="S.C. Code 12-6-1130(2)")
    def state_tax_deducted(self):
        """No more than what itemizing exceeds the standard deduction by."""
        if not self.federal.is_itemised:
            return nothing_because("the federal return takes the standard deduction")
        gained = excess(self.federal.itemized.deduction, over=self.federal.standard.deduction)
        return least(of={"state income tax": self.state_tax_in_itemized(), "above the standard deduction": gained})

    @line("2", "Additions")
    def additions(self):
        return total(self.state_tax_deducted, self.everywhere.other_bonds, self.own_additions())

    @fact("Net capital gain deduction, 44%", rounding=whole, cites="S.C. Code 12-6-1150")
    def gain_excluded(self):
        if self.run.is_idle("us.sch-d") or self.federal.gains.together <= 0:
            return nothing_because("there is no long-term gain")
        schedule = self.federal.gains
        return share(self.law.gains.excluded, of=excess(least(schedule.long_term, schedule.together), over=0))

    @fact("Retirement and age 65 deductions", rounding=whole, cites="S.C. Code 12-6-1170")
    def retirement(self):
        """Of each: pensions up to an amount; from 65 the age deduction takes its place where it is more."""
        law = self.law.retirement
        return total([self._retired(form, law) for form in self.every("us-sc.own-income")])

    def _retired(self, own, law):
        if (self.person(own.key).age_at_end() or 0) < law.age:
            return least(own.retirement, law.each)
        pension = least(own.retirement, law.aged_each)
        return total(pension, excess(law.age_deduction, over=pension))

    @fact("Dependent exemptions, including under age 6", rounding=whole, cites="S.C. Code 12-6-1140(13), 12-6-1160")
    def dependants_deduction(self):
        law, claimed = self.law.dependants, self.dependants()
        young = sum(1 for one in claimed if one.who.years_old() is not None and one.who.years_old() < law.young_below)
        return times(len(claimed) + young, law.each, of="dependants")

    @line("4", "Subtractions")
    def subtractions(self):
        of = self.everywhere
        return total(self._taken_off(of), self.gain_excluded, self.retirement, self.dependants_deduction,
                     self.own_subtractions())  # fmt: skip

    @staticmethod
    def _taken_off(of):
        return [of.refunds, of.government_interest, of.benefits]

    @fact("South Carolina income, Schedule NR", rounding=whole)
    def agi_here(self):
        """Of residents all income, less what is not taxed."""
        of, every = self.here, self.everywhere
        gains = pro_rata(self.gain_excluded, of.gains, every.gains) if every.gains > 0 else ZERO
        pensions = share(self.part, of=self.retirement)
        return total(of.agi, of.other_bonds, self.by_hand(), less=[self._taken_off(of), gains, pensions])

    @fact("South Carolina proration", rounding=None, cites="S.C. Code 12-6-1720")
    def carolinas_part(self):
        if self.is_whole or self.everywhere.agi <= 0:
            return total(1 if self.is_whole else 0)
        return least(ratio(excess(self.here.agi, over=0), over=self.everywhere.agi, places=4), 1)

    @line("5", "South Carolina income subject to tax", weight="total")
    def taxable_income(self):
        """A mover's or nonresident's deductions count in South Carolina's part."""
        if self.is_whole:
            return excess(total(self.federal_taxable, self.additions), over=self.subtractions)
        deductions = total(self.federal.deductions, self.dependants_deduction, less=self.state_tax_deducted)
        return excess(self.agi_here, over=share(self.carolinas_part, of=deductions))

    @line("6", "Tax", cites="S.C. Code 12-6-510; SC1040TT")
    def tax(self):
        return tax_by_table(self.taxable_income, self.law.income_tax.bands, self.law.table)

    @line("11", "Child and dependent care expenses credit", cites="S.C. Code 12-6-3380")
    def care_credit(self):
        """Of the costs that the federal credit counts."""
        if self.run.is_idle("us.2441") or self.run.form("us.2441").not_allowed:
            return nothing_because("there are no federal care expenses")
        return share(self.part, of=share(self.law.care.rate, of=self.run.form("us.2441").base))

    @line("12", "Two wage earner credit", cites="S.C. Code 12-6-3330")
    def two_earners(self):
        if self.federal.status != "joint" or len(self.federal.filers) < 2:
            return nothing_because("it is for couples who file jointly")
        law = self.law.two_earners
        earned = [self._earned(one.role) for one in self.federal.filers]
        return share(law.rate, of=least(earned, law.earned_most))

    def _earned(self, role):
        pay = [wage.wages if self.is_whole else self.here.wages_of(wage) for wage in self.papers("w2", role)]
        return total(pay, [one.profit for one in trades(self.run) if one.books.owner == role and one.profit > 0])

    @fact("Tax paid to another state, SC1040TC", rounding=whole, cites="S.C. Code 12-6-3400")
    def other_states(self):
        return self.credit_for_others(self.tax, self.agi_here)

    @fact("Earned income credit, SC1040TC", rounding=whole, cites="S.C. Code 12-6-3632")
    def earned_income_credit(self):
        if not self.is_whole:
            return nothing_because("it requires full-year residency")
        return share(self.law.earned_income_credit.share_of_federal, of=self.federal.earned_income_credit)

    @line("13", "Other credits, SC1040TC")
    def other_credits(self):
        return total(self.other_states, self.earned_income_credit)

    @line("14", "Credits")
    def credits(self):
        return least(total(self.care_credit, self.two_earners, self.other_credits), self.tax)

    @line("15", "Tax after credits", weight="total")
    def tax_after_credits(self):
        return excess(self.tax, over=self.credits)

    @line("16", "South Carolina tax withheld")
    def withheld(self):
        return self.withheld_here()

    @line("17", "Estimated tax and applied payments")
    def estimates(self):
        return total(self.estimates_here(), self.questions.applied_before)

    @line("18", "Amount paid with request for extension")
    def with_extension(self):
        return self.extension_here()

    @line("23", "Payments", weight="total")
    def payments(self):
        return total(self.withheld, self.estimates, self.with_extension)

    @line("24", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.tax_after_credits)

    @line("25", "Tax due")
    def due(self):
        return excess(self.tax_after_credits, over=self.payments)

    @line("26", "Use tax")
    def use_tax(self):
        return total(self.questions.use_tax)

    @fact("Tax plus use tax", rounding=whole)
    def total_tax(self):
        return total(self.tax_after_credits, self.use_tax)

    @line("27", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("30", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=[self.applied, self.use_tax])

    @line("34", "Amount owed", weight="total")
    def owed(self):
        return excess(total(self.due, self.applied, self.use_tax), over=self.overpaid)
