"""Form 1 and Form 1NPR: federal adjusted gross income, changed; a standard deduction that falls with income. Wis. Stat. ch. 71.

Lines whose numbers are not certain have none here, see docs/law-coverage.md.
"""

from taxcore.engine import ALL, excess, fact, greatest, least, line, nothing_because, pro_rata, ratio, share, times, total, whole
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.federal.care import NOBODY_QUALIFIES
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.states.base import StateReturn
from taxcore.packs.us.states.table import tax_by_table


class IncomeTax(StateReturn):
    """Income tax return. Wis. Stat. 71.02, 71.05, 71.06, 71.07."""

    jurisdiction = "us-wi"
    number, name = "Form 1", "Income tax return"
    survives_as = "head_of_household"  # Form 1 has no status of its own for them

    @line("1", "Federal adjusted gross income")
    def federal_agi(self):
        return total(self.here.agi)

    @line("2", "Additions, Schedule AD")
    def additions(self):
        return total(self.here.other_bonds, self.own_additions())

    @line("3", "Income plus additions")
    def with_additions(self):
        return total(self.federal_agi, self.additions)

    @fact("Capital gain exclusion", rounding=whole, cites="Wis. Stat. 71.05(6)(b)9")
    def gain_excluded(self):
        """30% of the smaller of the long-term gain and the gain together; of a mover in the part that is Wisconsin's."""
        if self.run.is_idle("us.sch-d"):
            return total(0)
        schedule = self.federal.gains
        net = excess(least(schedule.long_term, schedule.together), over=0)
        if not net or schedule.together <= 0:
            return nothing_because("there is no long-term gain")
        excluded = share(self.law.gains.excluded, of=net)
        return excluded if self.is_whole else pro_rata(excluded, self.here.gains, self.everywhere.gains)

    @fact("Retirement income subtraction", rounding=whole, cites="Wis. Stat. 71.05(6)(b)54")
    def pensions(self):
        """Of people of 65 with a low income; since 2025 more for people of 67 who choose it and forgo credits."""
        taxed = self.here.retirement
        if self.excludes_pensions:
            law = self.law.retirement_exclusion
            return least(taxed, times(self.aged(law.age), law.each, of="persons"))
        law, low = self.law.retirement, self._income_is_low()
        if not taxed or not low:
            return nothing_because("no pension is taxed" if not taxed else "the income is above the limit")
        return least(taxed, times(self.aged(law.age), law.each, of="persons"))

    def _income_is_low(self):
        law = self.law.retirement
        couple = self.federal.status in ("joint", "separate")
        return self.federal.adjusted_gross_income < (law.couple_below if couple else law.alone_below)

    @fact("Retirement income exclusion elected")
    def excludes_pensions(self):
        return bool(self.questions.pension_exclusion) and "retirement_exclusion" in self.law

    @line("4", "Subtractions, Schedule SB")
    def subtractions(self):
        of = self.here
        unemployment = self.untaxed_unemployment(of.unemployment, self.law.unemployment)
        return total(of.government_interest, of.benefits, of.refunds, unemployment, self.gain_excluded, self.pensions,
                     self.own_subtractions())  # fmt: skip

    @line("5", "Wisconsin income", weight="total")
    def wisconsin_income(self):
        return total(self.with_additions, less=self.subtractions)

    @fact("Income for the standard deduction", rounding=None)
    def income_for_deduction(self):
        """All income, where some of it is not Wisconsin's."""
        if self.is_whole:
            return total(self.wisconsin_income)
        return greatest(of={"federal income": self.federal.adjusted_gross_income, "Wisconsin income": self.wisconsin_income})

    @line("6", "Standard deduction", cites="Wis. Stat. 71.05(22)")
    def standard_deduction(self):
        """Somebody else's dependent has no more than earned so much, or the least that the federal law leaves."""
        table = self.law.standard_deduction
        most = self._falling(self.by_status(table))
        if self.federal.status in ("head_of_household", "surviving_spouse"):
            most = greatest(of={"head of household": most, "single": self._falling(table.single)})
        if self.federal.standard.is_dependant:
            most = least(of={"by income": most, "earned income or the minimum": self.standard_of_dependant()})
        return total(most)

    def _falling(self, row):
        return excess(row.most, over=share(row.rate, of=excess(self.income_for_deduction, over=row.falls_from)))

    @fact("Wisconsin percentage", rounding=None, cites="Wis. Stat. 71.06(2s)")
    def part_of_year(self):
        """Wisconsin income over federal income: brackets, deduction and exemptions count in it."""
        if self.is_whole or self.everywhere.agi <= 0:
            return total(1 if self.is_whole else 0)
        return least(ratio(excess(self.wisconsin_income, over=0), over=self.everywhere.agi, places=4), 1)

    @line("8", "Exemptions", cites="Wis. Stat. 71.05(23)")
    def exemptions(self):
        """None for somebody whom others can claim. Wis. Stat. 71.05(23)(b)."""
        own = sum(not one.claimed_by_other for one in self.federal.filers)
        law, persons = self.law.exemption, own + len(self.dependants())
        return total(times(persons, law.each, of="persons"), times(self.aged(), law.aged, of="aged"))

    @line("9", "Taxable income", weight="total")
    def taxable_income(self):
        """Of movers and nonresidents as if all income were Wisconsin's: the tax on it counts in Wisconsin's part."""
        return excess(self.income_for_deduction, over=[self.standard_deduction, self.exemptions])

    @fact("Wisconsin-source taxable income", rounding=None)
    def taxed_here(self):
        return share(self.part_of_year, of=self.taxable_income)

    @line("10", "Tax", cites="Wis. Stat. 71.06")
    def tax(self):
        every = tax_by_table(self.taxable_income, self.by_status(self.law.income_tax), self.law.table)
        return total(every) if self.is_whole else share(self.part_of_year, of=every)

    @fact("Itemized deduction credit, Schedule 1", rounding=whole, cites="Wis. Stat. 71.07(5)")
    def itemized_credit(self):
        """On interest, gifts and medical costs above the standard deduction, whether the federal return itemizes or not; taxes do
        not count."""
        itemized = self.federal.itemized
        counted = total(itemized.medical_allowed, itemized.interest, itemized.all_gifts)
        above = excess(counted, over=self.standard_deduction)
        return share(self.part_of_year, of=share(self.law.itemized_credit.rate, of=above))

    @fact("Child and dependent care expenses credit", rounding=whole, cites="Wis. Stat. 71.07(9g)")
    def care_credit(self):
        """Half of the federal credit; since 2024 its rate on more costs, whether the federal tax uses the credit up or not."""
        law = self.law.care
        if "share_of_federal" in law:
            return share(self.part_of_year, of=share(law.share_of_federal, of=self.federal.more_payments.care))
        return share(self.part_of_year, of=self.care_on_costs)

    @fact("Care credit before proration", rounding=None, cites="2023 Wisconsin Act 101")
    def care_on_costs(self):
        if self.run.is_idle("us.2441"):
            return nothing_because("there are no care expenses")
        care, law = self.run.form("us.2441"), self.law.care
        if care.not_allowed or not care.persons:
            return nothing_because(care.not_allowed or NOBODY_QUALIFIES)
        most = law.one if care.persons == 1 else law.several
        return share(care.rate, of=least(of={"expenses": care.expenses, "most": most,
                                             "taxpayer's earned income": care.taxpayers_earned,
                                             "spouse's earned income": care.spouses_earned}))  # fmt: skip

    @fact("School property tax credit", rounding=whole, cites="Wis. Stat. 71.07(9)")
    def home_credit(self):
        """Of property tax, and of a part of rent as if it were; 300 at most."""
        law, asked = self.law.home_credit, self.questions
        of_rent = total(
            share(law.rent_with_heat, of=asked.rent_with_heat), share(law.rent_without_heat, of=asked.rent_without_heat)
        )
        return least(share(law.rate, of=total(asked.property_tax, of_rent)), law.most)

    @fact("Married couple credit", rounding=whole, cites="Wis. Stat. 71.07(6)")
    def couple_credit(self):
        if self.federal.status != "joint":
            return nothing_because("it is for couples who file jointly")
        law, earned = self.law.couple_credit, [self._earned(person.role) for person in self.federal.filers]
        return share(law.rate, of=least(earned, law.earned_most)) if len(earned) == 2 else total(0)

    def _earned(self, role):
        wages = [self._in_wisconsin(wage) for wage in self.papers("w2", role)]
        return total(wages, [one.profit for one in trades(self.run) if one.books.owner == role and one.profit > 0])

    def _in_wisconsin(self, wage):
        return wage.wages if self.is_whole else total([row.wages for row in wage.states if row.state == "WI"])

    @fact("Net tax paid to another state, Schedule OS", rounding=whole, cites="Wis. Stat. 71.07(7)")
    def other_states(self):
        """What is paid there, and no more than Wisconsin's tax after the other credits."""
        return self.credit_for_others(excess(self.tax, over=self.own_credits), self.wisconsin_income)

    def credited(self, one, tax, base):
        """In proportion of the income that both tax, but for states that the statute names."""
        if one.state in self.law.other_states.without_proportion:
            return least(of={f"tax paid to {one.state}": one.tax, "tax here": tax})
        return super().credited(one, tax, base)

    @fact("Wisconsin nonrefundable credits", rounding=None)
    def own_credits(self):
        """Who chooses the larger pension exclusion has none."""
        if self.excludes_pensions:
            return nothing_because("the larger pension exclusion is chosen")
        return total(self.itemized_credit, self.care_credit, self.home_credit, self.couple_credit)

    @fact("Total nonrefundable credits", rounding=None)
    def credits(self):
        return total(self.own_credits, self.other_states)

    @line("18", "Tax after credits")
    def tax_after_credits(self):
        return excess(self.tax, over=self.credits)

    @line("19", "Sales and use tax")
    def use_tax(self):
        return total(self.questions.use_tax)

    @line("23", "Total tax", weight="total")
    def total_tax(self):
        return total(self.tax_after_credits, self.use_tax)

    @line("24", "Wisconsin tax withheld")
    def withheld(self):
        return self.withheld_here()

    @line("25", "Estimated tax and applied payments")
    def prepaid(self):
        return total(self.estimates_here(), self.extension_here(), self.questions.applied_before)

    @line("26", "Earned income credit", cites="Wis. Stat. 71.07(9e)")
    def earned_income_credit(self):
        """A part of the federal credit that depends on the children; for residents of the whole year."""
        if not self.is_whole or self.excludes_pensions:
            return nothing_because(
                "it requires full-year residency" if not self.is_whole else "the larger pension exclusion is chosen"
            )
        children = f"{min(int(self.federal.earned.children), 3)}"
        return share(self.law.earned_income_credit[children], of=self.federal.earned_income_credit)

    @line("33", "Payments and refundable credits", weight="total")
    def payments(self):
        return total(self.withheld, self.prepaid, self.earned_income_credit)

    @line("34", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.total_tax)

    @line("35", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=self.applied)

    @line("36", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("37", "Amount owed", weight="total")
    def owed(self):
        return excess(self.total_tax, over=self.payments)
