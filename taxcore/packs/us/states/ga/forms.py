"""Form 500 with Schedules 1 and 3: federal adjusted gross income, changed, and since 2024 one rate. O.C.G.A. 48-7."""

from taxcore.engine import (
    ALL,
    ZERO,
    by_bands,
    excess,
    fact,
    least,
    line,
    nothing_because,
    pro_rata,
    ratio,
    share,
    times,
    total,
    whole,
)
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.states.base import StateReturn


class IncomeTax(StateReturn):
    """Individual income tax return. O.C.G.A. 48-7-20, 48-7-26, 48-7-27, 48-7-28."""

    jurisdiction = "us-ga"
    number, name = "500", "Individual income tax return"
    survives_as = "head_of_household"  # one status on Form 500

    @line("8", "Federal adjusted gross income")
    def federal_agi(self):
        return total(self.federal.adjusted_gross_income)

    @fact("Retirement income exclusion", rounding=whole, cites="O.C.G.A. 48-7-27(a)(5)")
    def retirement(self):
        return total([self._left_out(form) for form in self.every("us-ga.own-income")])

    def _left_out(self, own):
        """Of somebody of 62, or disabled: what is no pay for work, and a little of what is, up to an amount by age. Losses count
        against the rest, as lines 9, 10 and 13 of Schedule 1, page 2, have it."""
        law, person = self.law.retirement, self.person(own.key)
        age = person.age_at_end() or 0
        if age < law.age and not person.disabled:
            return nothing_because("under 62 and not disabled")
        left_out = [self._federal_bonds(own), own.refunds]
        unearned = excess(total(own.interest, own.dividends, own.gains, own.retirement, own.other), over=left_out)
        earned = least(excess(total(own.wages, own.business), over=0), law.earned_most)
        return least(total(unearned, earned), law.older_each if age >= law.older_age else law.each)

    def _federal_bonds(self, own):
        every = [form.interest for form in self.every("us-ga.own-income")]
        return pro_rata(self.everywhere.government_interest, own.interest, every) if total(every) > 0 else ZERO

    @line("9", "Adjustments, Schedule 1")
    def adjustments(self):
        of = self.everywhere
        added = total(of.other_bonds, self.own_additions())
        return total(added, less=[self._taken_off(of), self.retirement, self.own_subtractions()])

    @staticmethod
    def _taken_off(of):
        return [of.benefits, of.government_interest, of.refunds]

    @line("10", "Georgia adjusted gross income", weight="total")
    def agi(self):
        return total(self.federal_agi, self.adjustments)

    @fact("Georgia income, Schedule 3", rounding=whole)
    def agi_here(self):
        if self.is_whole:
            return total(self.agi)
        of, every = self.here, self.everywhere
        kinds = ("interest", "dividends", "gains", "retirement")
        unearned = total([getattr(every, name) for name in kinds])
        left_out = pro_rata(self.retirement, [getattr(of, name) for name in kinds], unearned) if unearned > 0 else ZERO
        return total(of.agi, of.other_bonds, self.by_hand(), less=[self._taken_off(of), left_out])

    @line("11", "Standard deduction", cites="O.C.G.A. 48-7-27(a)(1)")
    def standard(self):
        if self.federal.is_itemised:
            return nothing_because("the federal return is itemized")
        law = self.law.standard_deduction
        return total(self.by_status(law), times(self.aged() + self.blind(), law.aged_or_blind, of="boxes"))

    @line("12", "Itemized deductions, less other states' income tax", cites="O.C.G.A. 48-7-27(b)(3)")
    def itemized(self):
        federal = self.federal
        if not federal.is_itemised:
            return nothing_because("the federal return is not itemized")
        return total(federal.itemized.deduction, less=self.state_tax_in_itemized(others_only=True))

    @line("14", "Exemptions", cites="O.C.G.A. 48-7-26")
    def exemptions(self):
        law = self.law.exemption
        return total(self.by_status(law), times(len(self.dependants()), law.dependant, of="dependants"))

    @fact("Ratio, Schedule 3 line 9", rounding=None)
    def georgias_part(self):
        if self.is_whole:
            return total(1)
        if self.agi <= 0:
            return nothing_because("there is no income")
        return least(ratio(excess(self.agi_here, over=0), over=self.agi, places=4), 1)

    @line({2023: "15c"}, "Taxable income", weight="total")
    def taxable_income(self):
        return excess(self.agi_here, over=share(self.georgias_part, of=self._deductions()))

    def _deductions(self):
        return total(self.standard, self.itemized, self.exemptions)

    @line("16", "Tax", cites="O.C.G.A. 48-7-20")
    def tax(self):
        return by_bands(self.taxable_income, self.by_status(self.law.income_tax))

    @line("17", "Low income credit", cites="O.C.G.A. 48-7A-3")
    def low_income(self):
        """For each exemption; one more for each person of 65. Nobody who can be claimed by others has it."""
        if self.federal.standard.is_dependant or not self.is_whole:
            return nothing_because("it requires full-year residency and not being claimed as a dependent")
        each = next((each for below, each in self.law.low_income.steps if self.federal_agi < below), None)
        if each is None:
            return nothing_because("the income is above the limit", self.federal_agi)
        return times(len(self.federal.filers) + len(self.dependants()) + self.aged(), each, of="exemptions")

    @line("18", "Other state(s) tax credit", cites="O.C.G.A. 48-7-28")
    def other_states(self):
        return self.credit_for_others(self.tax, self.agi)

    def credited(self, one, tax, base):
        """No more than Georgia's tax, from the first band on, on that income less its part of the deductions. IT-511."""
        if base <= 0:
            return nothing_because("there is no income to tax")
        twice = least(of={"income taxed there": one.income, "all income": base})
        alone = excess(twice, over=pro_rata(share(self.georgias_part, of=self._deductions()), twice, base))
        here = by_bands(alone, self.by_status(self.law.income_tax))
        return least(of={f"tax paid to {one.state}": one.tax, "tax here on the same income": here})

    @line("19", "Child and dependent care expense credit, IND-CR", cites="O.C.G.A. 48-7-29.10")
    def care_credit(self):
        return share(self.part, of=share(self.law.care.share_of_federal, of=self.federal.more_payments.care))

    @line("21", "Credits")
    def credits(self):
        return least(total(self.low_income, self.other_states, self.care_credit), self.tax)

    @line("22", "Tax after credits", weight="total")
    def total_tax(self):
        return excess(self.tax, over=self.credits)

    @line("23", "Georgia tax withheld")
    def withheld(self):
        return self.withheld_here()

    @line("25", "Estimated tax, extension and applied payments")
    def prepaid(self):
        return total(self.estimates_here(), self.extension_here(), self.questions.applied_before)

    @line("27", "Payments", weight="total")
    def payments(self):
        return total(self.withheld, self.prepaid)

    @line("28", "Balance due")
    def due(self):
        return excess(self.total_tax, over=self.payments)

    @line("29", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.total_tax)

    @line("30", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("44", "Amount owed", weight="total")
    def owed(self):
        return total(self.due)

    @line("45", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=self.applied)
