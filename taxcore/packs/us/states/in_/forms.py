"""Form IT-40 (IT-40PNR, IT-40RNR): adjusted gross income, one rate, and the county's tax on the same income. IC 6-3, 6-3.6."""

from taxcore.engine import ALL, excess, fact, least, line, nothing_because, pro_rata, share, times, total, whole
from taxcore.packs.us.balances import APPLIED, PRIOR_STATE_TAX
from taxcore.packs.us.states.base import StateReturn


class IncomeTax(StateReturn):
    """Individual income tax return. IC 6-3-1-3.5, 6-3-2-1, 6-3-2-22, 6-3-3-3, 6-3.6."""

    jurisdiction = "us-in"
    number, name = "IT-40", "Individual income tax return"

    @line("1", "Federal adjusted gross income")
    def federal_agi(self):
        """Of others than full-year residents what Schedule A gives to Indiana."""
        return total(self.here.agi)

    @line("2", "Add-backs, Schedule 1", cites="IC 6-3-1-3.5(a)(2)")
    def additions(self):
        return total(self.here.other_bonds, self.own_additions())

    @line("3", "Income plus add-backs")
    def with_additions(self):
        return total(self.federal_agi, self.additions)

    @fact("Renter's deduction", rounding=None, cites="IC 6-3-2-6")
    def rent(self):
        return least(of={"rent": self.questions.rent, "most": self.law.renter.most})

    @fact("Homeowner's residential property tax deduction", rounding=None, cites="Schedule 2")
    def property_tax(self):
        return least(of={"property tax": self.questions.property_tax, "most": self.law.home.most})

    @fact("Nontaxable unemployment compensation", rounding=None, cites="IC 6-3-2-10")
    def unemployment(self):
        return self.untaxed_unemployment(self.here.unemployment, self.law.unemployment)

    @line("4", "Deductions, Schedule 2")
    def deductions(self):
        of = self.here
        return total(self.rent, self.property_tax, of.refunds, of.government_interest, of.benefits, self.unemployment,
                     self.own_subtractions())  # fmt: skip

    @line("5", "Indiana adjusted gross income", weight="total")
    def adjusted_income(self):
        return total(self.with_additions, less=self.deductions)

    @fact("Personal exemptions", rounding=None, cites="IC 6-3-1-3.5(a)(3)")
    def own_exemptions(self):
        return times(len(self.federal.filers) + len(self.dependants()), self.law.exemption.each, of="persons")

    @fact("Additional dependent child exemptions", rounding=None, cites="IC 6-3-1-3.5(a)(5)(A)")
    def child_exemptions(self):
        """More for a child in its first year."""
        law, children = self.law.exemption, [one.who for one in self.dependants() if self._is_child(one.who)]
        born = sum(1 for one in children if one.birth_date.year == self.year)
        return total(times(len(children) - born, law.child, of="children"), times(born, law.child_first, of="born this year"))

    def _is_child(self, who):
        law, age = self.law.exemption, who.years_old()
        kin = who.relationship in ("child", "foster")
        return kin and age is not None and age < (law.student_below if who.student else law.child_below)

    @fact("Age and blindness exemptions", rounding=None, cites="IC 6-3-1-3.5(a)(5)(B) to (D)")
    def aged_exemptions(self):
        law, aged = self.law.exemption, self.aged()
        below = law.low_income_below["separate" if self.federal.status == "separate" else "others"]
        low = aged if self.federal.adjusted_gross_income < below else 0
        return total(times(aged + self.blind(), law.aged_or_blind, of="boxes"), times(low, law.aged_low_income, of="aged"))

    @line("6", "Exemptions, Schedule 3")
    def exemptions(self):
        return share(self.part, of=total(self.own_exemptions, self.child_exemptions, self.aged_exemptions))

    @line("7", "Taxable income", weight="total")
    def taxable_income(self):
        return excess(self.adjusted_income, over=self.exemptions)

    @line("8", "State tax", cites="IC 6-3-2-1(b)")
    def tax(self):
        return share(self.law.income_tax.rate, of=self.taxable_income)

    @property
    def has_two_counties(self):
        """Whether a spouse has a county of their own, on a return of residents of the whole year."""
        questions = self.questions
        return self.is_whole and len(self.federal.filers) > 1 and questions.spouse_county not in ("", questions.county)

    def _rate(self, county, keyed):
        """Entered, or of a county whose rate is in the files."""
        if keyed:
            return total(keyed) / 100
        known = self.law.county
        return total(known[county]) if county in known else nothing_because("the county rate is not known")

    @fact("County tax rate", rounding=None, cites="IC 6-3.6-4")
    def county_rate(self):
        return self._rate(self.questions.county, self.questions.county_rate)

    @fact("Spouse's county tax rate", rounding=None, cites="IC 6-3.6-4")
    def spouse_county_rate(self):
        if not self.has_two_counties:
            return nothing_because("both lived in one county")
        return self._rate(self.questions.spouse_county, self.questions.spouse_county_rate)

    @fact("Spouse's taxable income", rounding=whole, cites="Schedule CT-40, column B")
    def spouse_taxable(self):
        """As the federal income of the one is to that of both."""
        if not self.has_two_counties:
            return nothing_because("both lived in one county")
        mine, theirs = (excess(self.run.form("us-in.own-income", role).agi, over=0) for role in ("taxpayer", "spouse"))
        together = total(mine, theirs)
        return pro_rata(self.taxable_income, theirs, together) if together > 0 else nothing_because("neither has income")

    @line("9", "County tax", cites="IC 6-3.6-8")
    def county_tax(self):
        own = share(self.county_rate, of=total(self.taxable_income, less=self.spouse_taxable))
        return total(own, share(self.spouse_county_rate, of=self.spouse_taxable))

    @line("10", "Other taxes, Schedule 4")
    def other_taxes(self):
        return total(self.questions.use_tax)

    @line("11", "Total taxes", weight="total", closes=PRIOR_STATE_TAX)
    def total_tax(self):
        return total(self.tax, self.county_tax, self.other_taxes)

    @fact("Indiana state and county tax withheld", rounding=None)
    def withheld(self):
        return self.withheld_here(local=True)

    @fact("Estimated tax, extension and applied payments", rounding=None)
    def prepaid(self):
        return total(self.estimates_here(), self.extension_here(), self.questions.applied_before)

    @fact("Earned income credit", rounding=None, cites="IC 6-3.1-21-6")
    def earned_income_credit(self):
        credit = share(self.law.earned_income_credit.share_of_federal, of=self.federal.earned_income_credit)
        return share(self.part, of=credit)

    @line("12", "Credits, Schedule 5")
    def credits(self):
        return total(self.withheld, self.prepaid, self.earned_income_credit)

    @fact("Credit for taxes paid to other states", rounding=None, cites="IC 6-3-3-3")
    def other_states(self):
        """In each no more than Indiana's own rate on the same income; none where that state credits it instead."""
        elsewhere = self.taxed_elsewhere()
        if not elsewhere:
            return nothing_because(self.no_other_state)
        rate = self.law.income_tax.rate
        return total([least(of={f"tax paid to {one.state}": one.tax, "Indiana's on the same": share(rate, of=one.income)})
                      for one in elsewhere])  # fmt: skip

    @fact("Credit for taxes paid to the home state", rounding=None, cites="IC 6-3-3-3(b)")
    def reverse(self):
        return self.reverse_credit(self.tax, self.adjusted_income)

    @line("13", "Offset credits, Schedule 6")
    def offset_credits(self):
        return least(total(self.other_states, self.reverse), self.tax)

    @fact("Tax for another state's credit")
    def taxed(self):
        return total(self.tax, self.county_tax, less=self.reverse)

    @line("14", "Total credits", weight="total")
    def all_credits(self):
        return total(self.credits, self.offset_credits)

    @line("15", "Total tax")
    def taxes_carried(self):
        return total(self.total_tax)

    @line("16", "Overpayment")
    def overpaid(self):
        return excess(self.all_credits, over=self.taxes_carried)

    @line("19", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)

    @property
    def penalty_is_known(self):
        return self.run.form("us-in.it-2210").is_worked_out

    @line("20", "Underpayment penalty, Schedule IT-2210", cites="IC 6-3-4-4.1")
    def penalty(self):
        return total(self.run.form("us-in.it-2210").penalty)

    @line("21", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=[self.applied, self.penalty])

    @line("23", "Tax less credits")
    def short(self):
        return excess(self.taxes_carried, over=self.all_credits)

    @line("26", "Amount due", weight="total")
    def owed(self):
        """With the penalty, of which an overpayment has paid its part."""
        return total(self.short, excess(self.penalty, over=excess(self.overpaid, over=self.applied)))
