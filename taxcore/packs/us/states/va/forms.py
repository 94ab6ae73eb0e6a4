"""Form 760, and 760PY and 763 for those who did not live in Virginia all year. Va. Code 58.1-320 to 58.1-326.

A nonresident's taxable income is that of a resident in the part of the income that is Virginia's. 58.1-325.
"""

from datetime import date

from taxcore.engine import (
    ALL,
    by_bands,
    excess,
    fact,
    greatest,
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
from taxcore.packs.us import places
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.states.base import StateReturn


class IncomeTax(StateReturn):
    """Individual income tax return. Va. Code 58.1-320, 58.1-322 to 58.1-322.04, 58.1-332, 58.1-339.8."""

    jurisdiction = "us-va"
    number, name = "760", "Individual income tax return"

    @property
    def counted(self):
        """A nonresident computes on all income, a mover on that of the time in Virginia."""
        return self.everywhere if self.kind_of_return == places.NONE else self.here

    @line("1", "Federal adjusted gross income")
    def federal_agi(self):
        return total(self.counted.agi)

    @line("2", "Additions, Schedule ADJ")
    def additions(self):
        return total(self.counted.other_bonds, self.own_additions())

    @line("3", "Income plus additions")
    def with_additions(self):
        return total(self.federal_agi, self.additions)

    @line("4", "Age deduction", cites="Va. Code 58.1-322.03(5)")
    def age_deduction(self):
        """Falls by the income above a base, but for those born before 1939."""
        law, filers = self.law.age_deduction, self.federal.filers
        old = [one for one in filers if (one.age_at_end() or 0) >= 65]
        if not old:
            return nothing_because("nobody is 65")
        oldest = [one for one in old if self._is_oldest(one)]
        married = self.federal.status in ("joint", "separate")
        income = total(self.federal.adjusted_gross_income, less=self.federal.taxable_benefits)
        falling = times(len(old) - len(oldest), law.each, of="persons of 65")
        fall = excess(income, over=law.married_above if married else law.single_above)
        return total(times(len(oldest), law.each, of="born before January 2, 1939"), excess(falling, over=fall))

    def _is_oldest(self, person):
        """Born on or before 1 January 1939: the deduction does not fall."""
        return person.birth_date <= date(int(self.law.age_deduction.older_born_before), 1, 1)

    def _own_age_deduction(self, person):
        """The whole amount of the oldest; what fell is divided evenly among the others of 65."""
        if (person.age_at_end() or 0) < 65:
            return nothing_because("is under 65")
        oldest = sum(1 for one in self.federal.filers if (one.age_at_end() or 0) >= 65 and self._is_oldest(one))
        if self._is_oldest(person):
            return total(self.law.age_deduction.each)
        left = total(self.age_deduction, less=times(oldest, self.law.age_deduction.each, of="born before January 2, 1939"))
        return left / (self.aged() - oldest)

    @line("5", "Social Security")
    def benefits(self):
        return total(self.counted.benefits)

    @line("6", "State refund")
    def refunds(self):
        return total(self.counted.refunds)

    @line("7", "Subtractions, Schedule ADJ", cites="Va. Code 58.1-322.02")
    def subtractions(self):
        return total(self.counted.government_interest, self.counted.unemployment, self.own_subtractions())

    @line("8", "Total subtractions")
    def all_subtractions(self):
        return total(self.age_deduction, self.benefits, self.refunds, self.subtractions)

    @line("9", "Virginia adjusted gross income", weight="total")
    def agi(self):
        return total(self.with_additions, less=self.all_subtractions)

    @line("10", "Virginia itemized deductions", cites="Va. Code 58.1-322.03(1)")
    def itemized(self):
        """They are taken where the federal return itemizes, and only there."""
        federal = self.federal
        if not federal.is_itemised:
            return nothing_because("the federal return is not itemized")
        return share(self.part_of_deductions, of=total(federal.itemized.deduction, less=self.state_tax_in_itemized()))

    @line("11", "Standard deduction")
    def standard(self):
        if self.federal.is_itemised:
            return nothing_because("the federal return is itemized")
        if self.federal.standard.is_dependant:
            return least(self._earned(), self.by_status(self.law.standard_deduction))
        return share(self.part_of_deductions, of=self.by_status(self.law.standard_deduction))

    def _earned(self):
        return total(self.federal.wages, excess(self.everywhere.business, over=0))

    @fact("Deduction percentage", rounding=None)
    def part_of_deductions(self):
        """Of movers as much as income falls into their time here."""
        return self.part if self.kind_of_return == places.PART else total(1)

    @line("12", "Exemptions", cites="Va. Code 58.1-322.03(2)")
    def exemptions(self):
        """Of movers by days."""
        law, persons = self.law.exemption, len(self.federal.filers) + len(self.dependants())
        every = total(times(persons, law.each, of="persons"), times(self.aged() + self.blind(), law.aged_or_blind, of="boxes"))
        if self.kind_of_return != places.PART:
            return total(every)
        parts = [places.part_lived_by(self.run, one.role, "VA") for one in self.federal.filers]
        return share(total(parts) / len(parts), of=every)

    @line("13", "Deductions, Schedule ADJ", cites="Va. Code 58.1-322.03(3)")
    def care(self):
        """The costs that the federal care credit counts."""
        if self.run.is_idle("us.2441") or self.run.form("us.2441").not_allowed:
            return nothing_because("there are no federal care expenses")
        return share(self.part_of_deductions, of=self.run.form("us.2441").base)

    @line("15", "Virginia taxable income", weight="total")
    def taxable_income(self):
        return excess(self.agi, over=[self.itemized, self.standard, self.exemptions, self.care])

    @fact("Virginia source income, 763 line 8", rounding=whole)
    def agi_here(self):
        if self.kind_of_return != places.NONE:
            return total(self.agi)
        of = self.here
        spared = [of.benefits, of.refunds, of.government_interest, of.unemployment]
        return total(of.agi, of.other_bonds, self.by_hand(), less=spared)

    @fact("Nonresident allocation percentage", rounding=None, cites="Va. Code 58.1-325")
    def virginias_part(self):
        if self.kind_of_return != places.NONE:
            return total(1)
        if self.agi <= 0:
            return nothing_because("there is no income")
        return least(ratio(excess(self.agi_here, over=0), over=self.agi, places=3), 1)

    @fact("Taxable income allocated to Virginia", rounding=whole)
    def taxed_income(self):
        return share(self.virginias_part, of=self.taxable_income)

    @line("16", "Tax", cites="Va. Code 58.1-320")
    def tax(self):
        least_income = self.law.filing["joint" if self.is_joint else "single"]
        if self.agi < least_income:
            return nothing_because("the income is below where a return is asked for", self.agi)
        return by_bands(self.taxed_income, self.law.income_tax.bands)

    @line("17", "Spouse tax adjustment", cites="Va. Code 58.1-324(B)")
    def spouse_adjustment(self):
        """What two rows of bands would save the couple, where both have income; at most 259."""
        law = self.law.spouse_adjustment
        if self.federal.status != "joint" or not self.is_whole:
            return nothing_because("it is for couples who file jointly and lived here the whole year")
        lower = min(self._own_income(one.role) for one in self.federal.filers)
        if lower <= 0 or self.taxable_income <= law.bands_from:
            return nothing_because(
                "only one of them has income of their own" if lower <= 0 else "the income is in the lowest bands"
            )
        if lower >= law.upper and self.taxable_income >= 2 * law.upper:
            return total(law.most)
        mine = least(lower, law.upper)
        rest = excess(self.taxable_income, over=mine)
        apart = total(by_bands(mine, self.law.income_tax.bands), by_bands(rest, self.law.income_tax.bands))
        return least(excess(self.tax, over=apart), law.most)

    def _own_income(self, role):
        """One spouse's income here after the own age deduction, less the own exemptions."""
        own, law, person = self.run.form("us-va.own-income", role), self.law.exemption, self.person(role)
        boxes = (1 if (person.age_at_end() or 0) >= 65 else 0) + (1 if person.blind else 0)
        spared = [own.benefits, own.refunds, own.government_interest, own.unemployment]
        return total(own.agi, less=[*spared, self._own_age_deduction(person), law.each, law.aged_or_blind * boxes])

    @line("18", "Net tax", weight="total")
    def net_tax(self):
        return excess(self.tax, over=self.spouse_adjustment)

    @line("19", "Virginia tax withheld")
    def withheld(self):
        return self.withheld_here()

    @line("20", "Estimated tax payments")
    def estimates(self):
        return self.estimates_here()

    @line("21", "Overpayment applied from last year")
    def applied_before(self):
        return total(self.questions.applied_before)

    @line("22", "Amount paid with request for extension")
    def with_extension(self):
        return self.extension_here()

    @line("23", "Credit for Low-Income Individuals or Earned Income Credit", cites="Va. Code 58.1-339.8")
    def low_income(self):
        """The best of three: by the guidelines of poverty, a part of the federal credit, or another part that is paid out."""
        if self.kind_of_return == places.NONE:
            return nothing_because("it is for residents")
        if self.age_deduction > 0 or self.aged() or self.blind():
            return nothing_because("the age deduction or an exemption for 65 or blind is claimed")
        if any(one.claimed_by_other for one in self.federal.filers):
            return nothing_because("the taxpayer can be claimed as a dependent")
        law, earned = self.law.earned_income_credit, share(self.part, of=self.federal.earned_income_credit)
        return greatest(
            of={
                "300 for each person below the guidelines": least(self._by_guidelines(), self.net_tax),
                "part of the federal credit, not paid out": least(share(law.not_paid_out, of=earned), self.net_tax),
                "part of the federal credit, paid out": share(law.paid_out, of=earned),
            }
        )

    def _by_guidelines(self):
        law, persons = self.law.low_income, len(self.federal.filers) + len(self.dependants())
        below = self.agi <= law.first + law.each_more * (persons - 1)
        return times(persons, law.each, of="persons") if below else total(0)

    @line("24", "Credit for tax paid to another state, Schedule OSC", cites="Va. Code 58.1-332")
    def other_states(self):
        return self.credit_for_others(self.net_tax, self.agi)

    def credited(self, one, tax, base):
        """By the taxable incomes of both: what the other state's tax is on, over Virginia's. 58.1-332(A)."""
        if self.taxed_income <= 0:
            return nothing_because("there is no taxable income")
        twice = least(of={"taxable income there": one.taxable, "taxable income here": self.taxed_income})
        return least(of={f"tax paid to {one.state}": one.tax,
                         "tax here on as much": pro_rata(tax, twice, self.taxed_income)})  # fmt: skip

    @line("25", "Other credits, Schedule CR")
    def other_credits(self):
        """Also the tax at a home state that credits nothing."""
        return self.reverse_credit(self.net_tax, self.agi_here)

    @fact("Tax for another state's credit", rounding=whole)
    def taxed(self):
        return excess(self.net_tax, over=self.other_credits)

    @line("26", "Payments and credits", weight="total")
    def payments(self):
        credits = least(total(self.other_states, self.other_credits), self.net_tax)
        paid = total(self.withheld, self.estimates, self.applied_before, self.with_extension)
        return total(paid, self.low_income, credits)

    @line("27", "Tax owed")
    def short(self):
        return excess(self.net_tax, over=self.payments)

    @line("28", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.net_tax)

    @line("29", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("33", "Use tax")
    def use_tax(self):
        return total(self.questions.use_tax)

    @fact("Tax plus use tax", rounding=whole)
    def total_tax(self):
        return total(self.net_tax, self.use_tax)

    @line("35", "Amount owed", weight="total")
    def owed(self):
        return excess(total(self.short, self.applied, self.use_tax), over=self.overpaid)

    @line("36", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=[self.applied, self.use_tax])
