"""Form 540, and 540NR for those who did not live in California all year: the rate of all income on California's part. R&TC."""

from taxcore.engine import (
    ALL,
    ZERO,
    excess,
    fact,
    greatest,
    least,
    line,
    nothing_because,
    ratio,
    share,
    steps,
    times,
    total,
    whole,
)
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.states.base import StateReturn
from taxcore.packs.us.states.table import tax_by_table


class IncomeTax(StateReturn):
    """Individual income tax return. R&TC 17041, 17054, 17071 to 17077, 18001. Lines 36 to 39 are those of 540NR."""

    jurisdiction = "us-ca"
    number, name = "540", "Individual income tax return"
    survives_as = "joint"  # R&TC 17045, 17073.5

    @line("12", "State wages")
    def state_wages(self):
        return total([row.wages for wage in self.papers("w2") for row in wage.states if row.state == "CA"])

    @line("13", "Federal adjusted gross income")
    def federal_agi(self):
        return total(self.federal.adjusted_gross_income)

    @line("14", "Subtractions, Schedule CA")
    def subtractions(self):
        return total(self._taken_off(self.everywhere), self.own_subtractions())

    @staticmethod
    def _taken_off(of):
        return [of.benefits, of.refunds, of.unemployment, of.government_interest]

    @line("16", "Additions, Schedule CA")
    def additions(self):
        return total(self.everywhere.other_bonds, self.health_savings, self.own_additions())

    @fact("HSA amounts not recognized by California", rounding=whole, cites="R&TC 17215.4")
    def health_savings(self):
        """What was deducted, and what employers paid in."""
        employers = [wage.coded({"W"}) for wage in self.papers("w2")]
        return total(self.federal.adjusting.health_savings_deduction, employers)

    @line("17", "California AGI, all sources", weight="total")
    def agi(self):
        return total(self.federal_agi, self.additions, less=self.subtractions)

    @line({2023: "32-NR"}, "California AGI from California sources", weight="total")
    def agi_here(self):
        if self.is_whole:
            return total(self.agi)
        of = self.here
        added = total(of.other_bonds, share(self.part, of=self.health_savings))
        return total(of.agi, added, self.by_hand(), less=self._taken_off(of))

    @fact("Mortgage interest allowed above the federal limit", rounding=whole, cites="R&TC 17225")
    def more_mortgage(self):
        """California kept the older limit of debt."""
        if self.run.is_idle("us.mortgage-limit"):
            return nothing_because("no mortgage is on this return")
        form = self.run.form("us.mortgage-limit")
        most = self.law.itemized.mortgage_debt / (2 if self.federal.status == "separate" else 1)
        if form.share_allowed == 1 or form.balances <= 0:
            return nothing_because("the debt is within the federal limit")
        within = least(ratio(most, over=form.balances, places=3), 1)
        return excess(share(within, of=form.interest), over=form.deductible)

    @fact("California itemized deductions", rounding=whole, cites="R&TC 17201, 17220")
    def itemized(self):
        """Without income and sales tax, and without a cap on the other taxes."""
        parts = self.federal.itemized
        taxes = total(parts.property_tax, parts.vehicle_tax, parts.other_taxes)
        every = total(
            parts.medical_allowed, taxes, parts.interest, self.more_mortgage, parts.all_gifts, parts.casualty, parts.others
        )
        return excess(every, over=self._lost(total(every, less=[parts.medical_allowed, parts.investment, parts.casualty])))

    def _lost(self, limited):
        law = self.law.itemized
        above = excess(self.federal_agi, over=self.by_status(self.law.exemption_credit.falls_from))
        return least(
            of={"6% of income above": share(law.fall, of=above), "80% of what is limited": share(law.most_lost, of=limited)}
        )

    @line("18", "Standard or itemized deduction")
    def deduction(self):
        """Somebody else's dependent has no more than the federal rule of earned income gives. R&TC 17073.5."""
        standard = total(self.by_status(self.law.standard_deduction))
        if self.federal.standard.is_dependant:
            standard = least(of={"standard": standard, "earned income or the minimum": self.standard_of_dependant()})
        return greatest(of={"standard": standard, "itemised": self.itemized})

    @line("19", "Taxable income", weight="total")
    def taxable_income(self):
        return excess(self.agi, over=self.deduction)

    @line("31", "Tax", cites="R&TC 17041")
    def tax(self):
        return tax_by_table(self.taxable_income, self.by_status(self.law.income_tax), self.law.table)

    @fact("AGI limitation steps", cites="R&TC 17054.1")
    def steps_above(self):
        law = self.law.exemption_credit
        step = law.step_separate if self.federal.status == "separate" else law.step
        return steps(excess(self.federal_agi, over=self.by_status(law.falls_from)), of=step)

    @line("32", "Exemption credits", cites="R&TC 17054")
    def exemption_credits(self):
        """None of their own for people whom others can claim."""
        law = self.law.exemption_credit
        claimed = sum(bool(one.claimed_by_other) for one in self.federal.filers)
        persons = (2 if self.federal.status in ("joint", "surviving_spouse") else 1) - claimed
        lost = law.fall * self.steps_above
        own = times(persons + self.aged() + self.blind(), excess(law.each, over=lost), of="credits")
        return total(own, times(len(self.dependants()), excess(law.dependant, over=lost), of="dependants"))

    @line({2023: "36-NR"}, "CA tax rate", rounding=None)
    def rate(self):
        if self.is_whole:
            return nothing_because("all income is from California")
        return ratio(self.tax, over=self.taxable_income, places=4)

    @line({2023: "35-NR"}, "CA taxable income")
    def taxable_here(self):
        if self.is_whole:
            return total(self.taxable_income)
        part = least(ratio(excess(self.agi_here, over=0), over=self.agi, places=4), 1) if self.agi > 0 else ZERO
        return excess(self.agi_here, over=share(part, of=self.deduction))

    @line({2023: "37-NR"}, "CA tax before exemption credits")
    def tax_here(self):
        return total(self.tax) if self.is_whole else share(self.rate, of=self.taxable_here)

    @line({2023: "39-NR"}, "CA prorated exemption credits")
    def exemption_credits_here(self):
        if self.is_whole:
            return total(self.exemption_credits)
        part = least(ratio(self.taxable_here, over=self.taxable_income, places=4), 1) if self.taxable_income > 0 else ZERO
        return share(part, of=self.exemption_credits)

    @line("35", "Tax after exemption credits")
    def after_exemptions(self):
        return excess(self.tax_here, over=self.exemption_credits_here)

    @line("40", "Child and dependent care expenses credit", cites="R&TC 17052.6")
    def care_credit(self):
        """A part of the federal credit as it is before the federal tax limits it."""
        if self.run.is_idle("us.2441"):
            return nothing_because("there are no care expenses")
        rate = next((rate for up_to, rate in self.law.care.steps if self.federal_agi <= up_to), None)
        if rate is None:
            return nothing_because("federal income is above the credit's limit", self.federal_agi)
        return share(self.part, of=share(rate, of=self.run.form("us.2441").before_limit))

    @line("43", "Other state tax credit, Schedule S", cites="R&TC 18001, 18002")
    def other_states(self):
        return self.credit_for_others(self.after_exemptions, self.agi)

    @line("44", "Other state tax credit, nonresidents, Schedule S", cites="R&TC 18002")
    def reverse(self):
        return self.reverse_credit(self.after_exemptions, self.agi_here)

    @line("46", "Nonrefundable renter's credit", cites="R&TC 17053.5")
    def renter(self):
        law = self.law.renter
        if not self.questions.renter:
            return nothing_because("renting half the year is not answered yes")
        if self.agi > self.by_status(law.up_to):
            return nothing_because("the income is above the limit", self.agi)
        return total(self.by_status(law))

    @line("47", "Credits")
    def credits(self):
        return total(self.care_credit, self.other_states, self.reverse, self.renter)

    @line("48", "Tax after credits")
    def after_credits(self):
        return excess(self.after_exemptions, over=self.credits)

    @line("62", "Behavioral Health Services Tax", cites="R&TC 17043")
    def mental_health(self):
        law = self.law.mental_health
        return share(law.rate, of=excess(self.taxable_here, over=law.above))

    @line("64", "Tax", weight="total")
    def total_tax(self):
        return total(self.after_credits, self.mental_health)

    @line("71", "California tax withheld")
    def withheld(self):
        return self.withheld_here()

    @line("72", "Estimated tax, extension and applied payments")
    def prepaid(self):
        return total(self.estimates_here(), self.extension_here(), self.questions.applied_before)

    @line("78", "Payments", weight="total")
    def payments(self):
        return total(self.withheld, self.prepaid)

    @line("91", "Use tax", cites="R&TC 6203")
    def use_tax(self):
        return total(self.questions.use_tax)

    @line("93", "Payments balance")
    def payments_left(self):
        return excess(self.payments, over=self.use_tax)

    @line("94", "Use tax balance")
    def use_tax_left(self):
        return excess(self.use_tax, over=self.payments)

    @line("97", "Overpayment")
    def overpaid(self):
        return excess(self.payments_left, over=self.total_tax)

    @line("98", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("100", "Tax due")
    def due(self):
        return excess(self.total_tax, over=self.payments_left)

    @line("111", "Amount owed", weight="total")
    def owed(self):
        return total(self.due, self.use_tax_left)

    @line("115", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=[self.applied, self.use_tax_left])
