"""Form IA 1040 with Schedule 1, IA 126 and IA 130: federal taxable income, changed, and one table of rates. Iowa Code 422.

Its numbers since 2023 begin again; those that are not certain have no number here, see docs/law-coverage.md.
"""

from taxcore.engine import ALL, by_bands, excess, fact, least, line, nothing_because, pro_rata, ratio, share, times, total
from taxcore.packs.us import places
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.states.base import StateReturn


class IncomeTax(StateReturn):
    """Individual income tax return. Iowa Code 422.4, 422.5, 422.7, 422.8, 422.12."""

    jurisdiction = "us-ia"
    number, name = "IA 1040", "Individual income tax return"

    @line("1", "Federal taxable income")
    def federal_taxable(self):
        """It may be below zero here: deductions above the income are not lost before Iowa's own changes."""
        return total(self.federal.adjusted_gross_income, less=self.federal.deductions)

    @fact("Iowa income tax in itemized deductions", rounding=None, cites="Iowa Code 422.9")
    def state_tax_deducted(self):
        return self.state_tax_in_itemized()

    @fact("Retirement income exclusion", rounding=None, cites="Iowa Code 422.7(31)")
    def retirement(self):
        """Of each person its own."""
        taxed = self.everywhere.retirement
        papers = [(paper, paper.gross) for paper in self.papers("1099-r")]
        every = total([gross for _, gross in papers])
        if not taxed or every <= 0:
            return nothing_because("no pension is taxed")
        free = [gross for paper, gross in papers if self._is_free(self.person(paper.owner or "taxpayer"))]
        return pro_rata(taxed, free, every)

    def _is_free(self, person):
        return person is not None and ((person.age_at_end() or 0) >= self.law.retirement.age or person.disabled)

    @fact("Additions, Schedule 1", rounding=None)
    def additions(self):
        return total(self.everywhere.other_bonds, self.state_tax_deducted, self.own_additions())

    @fact("Subtractions, Schedule 1", rounding=None)
    def subtractions(self):
        of = self.everywhere
        return total(of.government_interest, of.benefits, self.retirement, of.refunds, self.own_subtractions())

    @line("2", "Iowa modifications, Schedule 1")
    def modifications(self):
        return total(self.additions, less=self.subtractions)

    @line("4", "Iowa taxable income", weight="total")
    def taxable_income(self):
        return excess(total(self.federal_taxable, self.modifications), over=0)

    @line("5", "Tax", cites="Iowa Code 422.5")
    def tax(self):
        table = self.law.income_tax
        return by_bands(self.taxable_income, table.joint if self.is_joint else table.single)

    @line("8", "Exemption credits", cites="Iowa Code 422.12(1)")
    def exemption_credits(self):
        """A head of household counts as two."""
        law = self.law.exemption_credit
        persons = 2 if self.federal.status == "head_of_household" else len(self.federal.filers)
        return total(times(persons, law.each, of="persons"), times(self.aged() + self.blind(), law.aged_or_blind, of="boxes"),
                     times(len(self.dependants()), law.dependant, of="dependants"))  # fmt: skip

    @fact("Tuition and textbook credit", rounding=None)
    def tuition(self):
        return total(self.questions.tuition_credit)

    @line("12", "Tax after credits")
    def after_credits(self):
        return excess(self.tax, over=[self.exemption_credits, self.tuition])

    @fact("All-source net income, IA 126", rounding=None)
    def net_income(self):
        return total(self.everywhere.agi, self.everywhere.other_bonds, self.own_additions(), less=self.subtractions)

    @fact("Iowa net income, IA 126", rounding=None)
    def iowa_income(self):
        of, every = self.here, self.everywhere
        pensions = pro_rata(self.retirement, of.retirement, every.retirement) if every.retirement > 0 else total(0)
        return total(of.agi, of.other_bonds, self.by_hand(), less=[of.government_interest, of.benefits, of.refunds, pensions])

    @fact("Iowa income percentage", rounding=None, cites="Iowa Code 422.5(1)(b)")
    def iowa_part(self):
        if self.is_whole:
            return total(1)
        if self.net_income <= 0:
            return nothing_because("there is no income")
        return least(ratio(excess(self.iowa_income, over=0), over=self.net_income, places=3), 1)

    @fact("Iowa-source taxable income", rounding=None)
    def taxed_here(self):
        return share(self.iowa_part, of=self.taxable_income)

    @line("13", "Nonresident/part-year resident credit, IA 126")
    def others_credit(self):
        return total(self.after_credits, less=share(self.iowa_part, of=self.after_credits))

    @line("14", "Iowa tax")
    def iowa_tax(self):
        return total(self.after_credits, less=self.others_credit)

    @fact("Out-of-state tax credit, IA 130", rounding=None, cites="Iowa Code 422.8(1)")
    def other_states(self):
        return self.credit_for_others(self.iowa_tax, self.net_income)

    @fact("Tax after nonrefundable credits", rounding=None)
    def tax_after_credits(self):
        return excess(self.iowa_tax, over=self.other_states)

    @fact("School district surtax", rounding=None, cites="Iowa Code 298.14, 257.21")
    def surtax(self):
        """Of those who lived in the district on the last day of the year."""
        if places.home_at_end(self.run) != "IA":
            return nothing_because("nobody lived in Iowa at the end of the year")
        return share(total(self.questions.surtax_rate) / 100, of=self.tax_after_credits)

    @line("20", "Total Iowa tax and surtax", weight="total")
    def total_tax(self):
        return total(self.tax_after_credits, self.surtax, self.questions.use_tax)

    @fact("Child and dependent care credit", rounding=None, cites="Iowa Code 422.12C")
    def care_credit(self):
        """A part of the federal credit, as it is before the federal tax cuts it off; it falls with income and is paid out."""
        credit = self.brought("us.2441", "before_limit")
        rate = next((rate for below, rate in self.law.care.steps if self.net_income < below), None)
        if not credit or rate is None:
            return nothing_because("there is no federal credit" if not credit else "the income is above the credit's limit")
        return share(self.iowa_part, of=share(rate, of=credit))

    @fact("Earned income credit", rounding=None, cites="Iowa Code 422.12B")
    def earned_income_credit(self):
        credit = share(self.law.earned_income_credit.share_of_federal, of=self.federal.earned_income_credit)
        return share(self.iowa_part, of=credit)

    @fact("Withheld", rounding=None)
    def withheld(self):
        return self.withheld_here()

    @fact("Estimated tax, extension and applied payments", rounding=None)
    def prepaid(self):
        return total(self.estimates_here(), self.extension_here(), self.questions.applied_before)

    @line("31", "Payments and refundable credits", weight="total")
    def payments(self):
        return total(self.care_credit, self.earned_income_credit, self.withheld, self.prepaid)

    @line("32", "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.total_tax)

    @line("33", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @line("34", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=self.applied)

    @line("38", "Amount due", weight="total")
    def owed(self):
        return excess(self.total_tax, over=self.payments)
