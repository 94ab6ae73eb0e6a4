"""Form IL-1040 for residents, and with Schedule NR for part-year residents and nonresidents. 35 ILCS 5."""

from taxcore.engine import ALL, excess, fact, least, line, linked, nothing_because, pro_rata, ratio, share, times, total, whole
from taxcore.packs.us import places
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.states.base import StateForm, StateReturn


class IllinoisForm(StateForm):
    jurisdiction = "us-il"


class Modifications(IllinoisForm):
    """Additions and subtractions. 35 ILCS 5/203(a)(2). Its line numbers are open, see docs/law-coverage.md."""

    number, name = "Schedule M", "Other additions and subtractions"

    def required(self):
        return self.government_interest > 0

    @fact("Interest on US obligations", cites="31 USC 3124; 35 ILCS 5/203(a)(2)(N)", rounding=whole)
    def government_interest(self):
        return total(self.federal.interest.from_government)


class OtherStates(IllinoisForm):
    """Credit for tax paid to other states. 35 ILCS 5/601(b)(3). Its line numbers are open, see docs/law-coverage.md."""

    number, name = "Schedule CR", "Credit for tax paid to other states"
    home = linked("us-il.il-1040")

    @classmethod
    def idle(cls, run):
        return super().idle(run) or places.calls(run, "IL") == places.NONE

    def required(self):
        return self.credit > 0

    @property
    def _base(self):
        return self.home.base_income if self.is_whole else self.run.form("us-il.sch-nr").base_income

    @fact("Double-taxed income", rounding=whole)
    def twice(self):
        """All states together, and never more than what Illinois itself taxes."""
        return least(total([one.income for one in self.taxed_elsewhere()]), self._base)

    @fact("Tax paid to other states", rounding=whole)
    def paid(self):
        return total([one.tax for one in self.taxed_elsewhere()])

    @fact("Illinois tax on double-taxed income", rounding=whole)
    def limit(self):
        if self._base <= 0:
            return nothing_because("there is no income in Illinois")
        return pro_rata(self.home.tax, self.twice, self._base)

    @fact("Credit", cites="35 ILCS 5/601(b)(3)", rounding=whole)
    def credit(self):
        return least(of={"tax paid to other states": self.paid, "Illinois tax on that income": self.limit})


class PartHere(IllinoisForm):
    """Part-year residents and nonresidents: what of the income is Illinois', and the tax on it. 35 ILCS 5/301 to 304, 204(b).

    Its line numbers are open, see docs/law-coverage.md.
    """

    number, name = "Schedule NR", "Nonresident and part-year resident computation"
    of_all = linked("us-il.il-1040")

    @classmethod
    def idle(cls, run):
        return super().idle(run) or places.calls(run, "IL") == places.WHOLE

    @fact("Federally tax-exempt interest, resident period", rounding=whole, cites="35 ILCS 5/203(a)(2)(A)")
    def exempt_interest(self):
        every, bonds = self.everywhere.other_bonds, self.here.other_bonds
        return pro_rata(self.federal.exempt_interest, bonds, every) if every > 0 else total(0)

    @fact("Subtractions as on Form IL-1040", rounding=whole)
    def subtractions(self):
        of = self.here
        return total(of.retirement, of.benefits, of.refunds, of.government_interest)

    @fact("Illinois base income", rounding=whole)
    def base_income(self):
        return excess(
            total(self.here.agi, self.exempt_interest, self.by_hand(), self.of_shares("modified")), over=self.subtractions
        )

    @fact("Illinois decimal", rounding=None)
    def part(self):
        """Three places, and never above one."""
        if self.of_all.base_income <= 0:
            return nothing_because("there is no base income")
        return least(ratio(self.base_income, over=self.of_all.base_income, places=3), 1)

    @fact("Illinois exemptions, prorated", rounding=whole)
    def exemptions(self):
        return share(self.part, of=self.of_all.exemptions)

    @fact("Illinois net income", rounding=whole)
    def net_income(self):
        return excess(self.base_income, over=self.exemptions)


class IncomeTax(StateReturn):
    """Individual income tax return. 35 ILCS 5/201, 203, 204; of others than full-year residents with Schedule NR."""

    jurisdiction = "us-il"
    number, name = "IL-1040", "Individual income tax return"
    modifications = linked("us-il.sch-m")
    part_here = linked("us-il.sch-nr")

    @line("1", "Federal adjusted gross income")
    def federal_agi(self):
        return self.federal.adjusted_gross_income

    @line("2", "Federally tax-exempt interest", cites="35 ILCS 5/203(a)(2)(A)")
    def exempt_interest(self):
        return self.federal.exempt_interest

    @line("3", "Other additions")
    def additions(self):
        """By hand, of depreciation, and what Schedules K-1-P add."""
        return total(self.own_additions(), excess(self.of_shares("modified"), over=0))

    @line("4", "Total income", weight="total")
    def total_income(self):
        return total(self.federal_agi, self.exempt_interest, self.additions)

    @line("5", "Social Security and retirement income")
    def retirement(self):
        """What federal income holds of pensions, IRAs and Social Security: Illinois taxes none of it. 35 ILCS 5/203(a)(2)(F)."""
        federal = self.federal
        return total(federal.ira_taxable, federal.pension_taxable, federal.taxable_benefits)

    @line("6", "State refund in federal income")
    def state_refund(self):
        return total(self.federal.adjusting.state_refunds)

    @line("7", "Other subtractions, Schedule M")
    def subtractions(self):
        return total(self.modifications.government_interest, self.own_subtractions(), excess(0, over=self.of_shares("modified")))

    @line("8", "Total subtractions")
    def all_subtractions(self):
        return total(self.retirement, self.state_refund, self.subtractions)

    @line("9", "Base income", weight="total")
    def base_income(self):
        return excess(self.total_income, over=self.all_subtractions)

    @fact("Federal AGI within the exemption limit", cites="35 ILCS 5/204(g)")
    def within_limit(self):
        limit = self.law.exemption.income_limit
        return self.federal_agi <= limit["joint" if self.federal.status == "joint" else "others"]

    @fact("Exemptions allowed")
    def exempt_persons(self):
        return sum(1 for person in self.federal.filers if self._has_exemption(person))

    @line("10a", "Taxpayer and spouse")
    def own_exemption(self):
        if not self.within_limit:
            return nothing_because("federal income is above the limit for exemptions", self.federal_agi)
        return times(self.exempt_persons, self.law.exemption.each, of="persons")

    @line("10b", "65 or older")
    def aged_exemption(self):
        return self._counted(sum(1 for person in self.federal.filers if person.is_aged()))

    @line("10c", "Blind")
    def blind_exemption(self):
        return self._counted(sum(1 for person in self.federal.filers if person.blind))

    @line("10d", "Dependents")
    def dependants(self):
        if not self.within_limit:
            return nothing_because("federal income is above the limit for exemptions", self.federal_agi)
        claimed = sum(1 for one in self.every("us.dependent") if one.is_dependant)
        return times(claimed, self.law.exemption.each, of="dependants")

    @line("10", "Exemptions")
    def exemptions(self):
        return total(self.own_exemption, self.aged_exemption, self.blind_exemption, self.dependants)

    @line("11", "Net income", weight="total")
    def net_income(self):
        if not self.is_whole:
            return total(self.part_here.net_income)
        return excess(self.base_income, over=self.exemptions)

    @fact("Income for another state's credit")
    def taxed_here(self):
        return total(self.part_here.base_income) if not self.is_whole else total(self.base_income)

    @line("12", "Tax at 4.95%", cites="35 ILCS 5/201(b)(5.4)")
    def tax(self):
        return share(self.law.income_tax.rate, of=self.net_income)

    @line("13", "Recapture of investment credits")
    def recapture(self):
        return nothing_because("no investment credit was taken on prior returns")

    @line("14", "Income tax")
    def income_tax(self):
        return total(self.tax, self.recapture)

    @line("15", "Income tax paid to another state, Schedule CR")
    def other_state_credit(self):
        if not self.taxed_elsewhere():
            return nothing_because(self.no_other_state)
        return total(self.run.form("us-il.sch-cr").credit)

    @line("16", "Property tax and K-12 education expense credit, Schedule ICR")
    def property_credit(self):
        """A twentieth of the property tax of the main home, and no more than the tax. Expenses of schooling are not computed."""
        paid = self.questions.property_tax
        if not self.within_limit or not paid:
            return nothing_because(
                "no property tax is entered" if not paid else "federal income is above the limit", self.federal_agi
            )
        return least(share(self.law.property_credit.rate, of=paid), excess(self.income_tax, over=self.other_state_credit))

    @line("17", "Credits from Schedule 1299-C")
    def business_credits(self):
        return nothing_because("there is no business on this return")

    @line("18", "Credits")
    def credits(self):
        return least(total(self.other_state_credit, self.property_credit, self.business_credits), self.income_tax)

    @line("19", "Tax after credits")
    def tax_after_credits(self):
        return excess(self.income_tax, over=self.credits)

    @line("20", "Household employment tax")
    def household_tax(self):
        return nothing_because("there is no household employee")

    @line("21", "Use tax")
    def use_tax(self):
        return total(self.questions.use_tax)

    @line("22", "Surcharges")
    def surcharges(self):
        return nothing_because("no surcharge applies to wages or interest")

    @line("23", "Total tax", weight="total")
    def total_tax(self):
        return total(self.tax_after_credits, self.household_tax, self.use_tax, self.surcharges)

    @line("24", "Total tax")
    def total_tax_carried(self):
        return self.total_tax

    @line("25", "Illinois tax withheld", cites="35 ILCS 5/601(b)")
    def withheld(self):
        return total(self.withheld_here(), less=self.of_shares("withheld"))

    @line("26", "Estimated tax, extension and applied payments")
    def estimates(self):
        return total(self.estimates_here(), self.extension_here(), self.questions.applied_before)

    @line("27", "Pass-through withholding", cites="35 ILCS 5/709.5")
    def withheld_by_entities(self):
        return total(self.of_shares("withheld"))

    @line("28", "Pass-through entity tax credit", cites="35 ILCS 5/201(p)(4)")
    def entity_tax(self):
        return total(self.of_shares("entity_tax"))

    @line("29", "Earned income credit, Schedule IL-E/EITC", cites="35 ILCS 5/212")
    def earned_income_credit(self):
        credit = share(self.law.earned_income_credit.share_of_federal, of=self.federal.earned_income_credit)
        return credit if self.is_whole else share(self.part_here.part, of=credit)

    @line({2024: "30"}, "Child tax credit", cites="35 ILCS 5/244")
    def child_credit(self):
        if "child_credit" not in self.law:
            return nothing_because("the law begins in 2024")
        law = self.law.child_credit
        young = [
            one for one in self.every("us.dependent") if one.counts_for_earned_income and one.who.years_old() < law.child_below
        ]
        if not young:
            return nothing_because("there is no qualifying child under 12")
        return share(law.share_of_earned_income_credit, of=self.earned_income_credit)

    @line({2022: "30", 2024: "31"}, "Payments", weight="total")
    def payments(self):
        entities = (self.withheld_by_entities, self.entity_tax)
        return total(self.withheld, self.estimates, entities, self.earned_income_credit, self.child_credit)

    @line({2022: "31", 2024: "32"}, "Overpayment")
    def overpaid(self):
        return excess(self.payments, over=self.total_tax_carried)

    @line({2022: "32", 2024: "33"}, "Underpaid")
    def underpaid(self):
        return excess(self.total_tax_carried, over=self.payments)

    @line({2022: "36", 2024: "37"}, "Overpayment after donations")
    def overpayment(self):
        return total(self.overpaid)

    @line({2022: "37", 2024: "38"}, "Refund", weight="total")
    def refund(self):
        return excess(self.overpayment, over=self.applied)

    @line({2022: "38", 2024: "39"}, "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpayment)

    @line({2022: "40", 2024: "41"}, "Amount owed", weight="total")
    def owed(self):
        return total(self.underpaid)

    def _has_exemption(self, person):
        """Somebody else's dependent keeps the exemption only up to the income limit."""
        return not person.claimed_by_other or self.base_income <= self.law.exemption.dependant_income_limit

    def _counted(self, persons):
        if not self.within_limit:
            return nothing_because("federal income is above the limit for exemptions", self.federal_agi)
        return times(persons, self.law.exemption.aged_or_blind, of="persons")
