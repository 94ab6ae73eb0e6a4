"""Form 1040: the individual return, from wages to refund or balance due."""

from taxcore.engine import ALL, ZERO, absent, excess, fact, line, linked, nothing_because, total
from taxcore.engine.amending import corrects
from taxcore.packs.us.balances import APPLIED, ITEMIZED_BEFORE, PRIOR_INCOME
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.foreign_earned import left_out
from taxcore.packs.us.federal.tax import tax_on
from taxcore.packs.us.papers.shares import KINDS as SHARES

_OTHER_WITHHOLDING = (
    "1099-int", "1099-oid", "1099-div", "1099-b", "1099-da", "1099-r", "ssa-1099", "1099-g", "1099-nec", "1099-misc", "1099-k",
)  # fmt: skip


_ITEMISED = ("1098", "casualty", "gift", "gift-carryover", "ssa-1099", "foreign-tax", *SHARES)


class IncomeTaxReturn(FederalForm):
    """US individual income tax return. IRC 1, 61, 62, 63, 31, 6401."""

    number, name = "1040", "Individual income tax return"
    interest = linked("us.sch-b")
    adjusting = linked("us.sch-1")
    additional = linked("us.sch-1-a")
    standard = linked("us.standard-deduction")
    itemized = linked("us.sch-a")
    gains = linked("us.sch-d")
    children = linked("us.sch-8812")
    earned = linked("us.earned-income-credit")
    education = linked("us.8863")
    more_taxes = linked("us.sch-2")
    more_payments = linked("us.sch-3")
    high_wages = linked("us.8959")
    child_tax = linked("us.8615")
    underpaying = linked("us.2210")

    @property
    def is_correction(self):
        """Whether the IRS has a return already that this one corrects, and not in its stead before the due date."""
        return corrects(self.run, self.run.pack.authority("us"))

    @fact("Filing status")
    def status(self):
        return self.paper("filing").status or "single"

    @fact("Persons who file")
    def filers(self):
        roles = ("taxpayer", "spouse") if self.status == "joint" else ("taxpayer",)
        return tuple(person for person in map(self.person, roles) if person is not None)

    def _others(self, name):
        return [getattr(paper, name) for paper in self.papers("other-income")]

    @line("1a", "Total amount from Form(s) W-2, box 1")
    def wage_statements(self):
        return total([paper.wages for paper in self.papers("w2") if not paper.statutory_employee])

    @line("1b", "Household employee wages not on W-2")
    def household_wages(self):
        return total(self._others("household_wages"))

    @line("1c", "Tip income not reported")
    def tips(self):
        return total([one.unreported for one in self.every("us.4137")])

    @line("1d", "Medicaid waiver payments not on W-2")
    def medicaid_waiver(self):
        """In here and out again on Schedule 1 line 8s: not income, but earned income where it was entered. Notice 2014-7."""
        return total(self._others("medicaid_waiver"))

    @line("1e", "Taxable dependent care benefits, Form 2441")
    def care_benefits(self):
        return self.brought("us.2441", "taxable")

    @line("1f", "Taxable adoption benefits, Form 8839")
    def adoption_benefits(self):
        return self.brought("us.8839", "taxable_benefits")

    @line("1h", "Other earned income")
    def other_earned(self):
        disabled = [paper.gross for paper in self.papers("1099-r") if paper.disability_pension]
        moves = [one.income for one in self.every("us.3903")]
        abroad = [one.paid_without_statement for one in self.every("us.2555")]
        return total(self._others("other_earned"), disabled, moves, abroad)

    @line("1i", "Nontaxable combat pay election")
    def combat_pay(self):
        """It is not part of the sum: only the credits look at it."""
        return total(self._others("combat_pay"))

    @line("1z", "Total wages")
    def wages(self):
        return total(self.wage_statements, self.household_wages, self.tips, self.medicaid_waiver, self.care_benefits,
                     self.adoption_benefits, self.other_earned)  # fmt: skip

    @line("2a", "Tax-exempt interest")
    def exempt_interest(self):
        return self.interest.exempt

    @line("2b", "Taxable interest")
    def taxable_interest(self):
        return self.interest.taxable

    @line("3a", "Qualified dividends", cites="IRC 1(h)(11)")
    def qualified_dividends(self):
        return self.interest.qualified

    @line("3b", "Ordinary dividends")
    def dividends(self):
        return self.interest.dividends

    @line("4a", "IRA distributions")
    def ira_gross(self):
        return total([paper.gross for paper in self.papers("1099-r") if paper.ira])

    @line("4b", "IRA distributions, taxable amount")
    def ira_taxable(self):
        return total([one.taxable_in_all for one in self.every("us.8606")])

    def _pensions(self):
        return [paper for paper in self.papers("1099-r") if not paper.ira and not paper.disability_pension]

    @line("5a", "Pensions and annuities")
    def pension_gross(self):
        return total([paper.gross for paper in self._pensions()])

    @line("5b", "Pensions and annuities, taxable amount")
    def pension_taxable(self):
        papers = [paper for paper in self._pensions() if not paper.is_roth()]
        return total([self.run.form("us.distribution", paper.key).income for paper in papers])

    @line("6a", "Social Security benefits")
    def benefits_received(self):
        return excess(self.brought("us.benefits", "received"), over=0)

    @line("6b", "Social Security benefits, taxable amount", cites="IRC 86")
    def taxable_benefits(self):
        return self.brought("us.benefits", "taxable")

    @line({2022: "7", 2025: "7a"}, "Capital gain or loss")
    def capital_gain(self):
        return self.brought("us.sch-d", "counted")

    @line("8", "Additional income, Schedule 1")
    def additional_income(self):
        return self.brought("us.sch-1", "other_income")

    @fact("Total income before Social Security benefits")
    def income_without_benefits(self):
        return total(self.wages, self.taxable_interest, self.dividends, self.ira_taxable, self.pension_taxable,
                     self.capital_gain, self.additional_income)  # fmt: skip

    @line("9", "Total income", weight="total")
    def total_income(self):
        return total(self.wages, self.taxable_interest, self.dividends, self.ira_taxable, self.pension_taxable,
                     self.taxable_benefits, self.capital_gain, self.additional_income)  # fmt: skip

    @line("10", "Adjustments to income, Schedule 1")
    def adjustments(self):
        return self.brought("us.sch-1", "adjustments")

    @line({2022: "11", 2025: "11a"}, "Adjusted gross income", weight="total", cites="IRC 62", closes=PRIOR_INCOME)
    def adjusted_gross_income(self):
        return total(self.total_income, less=self.adjustments)

    @line({2025: "11b"}, "Adjusted gross income")
    def agi_carried(self):
        return self.adjusted_gross_income

    @fact("Itemized deductions are taken", closes=ITEMIZED_BEFORE)
    def is_itemised(self):
        """By choice, or because it is more; apart from a spouse who itemizes there is no standard deduction at all."""
        choice = self.paper("itemized").choice
        # Nothing but state tax could be itemised: most returns need no Schedule A to know the answer
        only_tax = not self.paper("itemized").values and not any(self.papers(kind) for kind in _ITEMISED)
        if only_tax and self.status != "separate" and self.itemized.state_income_tax <= self.standard.deduction:
            return False
        if choice == "itemise" or (self.status == "separate" and self.paper("filing").spouse_itemises):
            return True
        return choice != "standard" and self.itemized.at_least > total(self.standard.deduction, self.disaster_loss)

    @fact("Net qualified disaster loss")
    def disaster_loss(self):
        """Also without itemizing: it is added to the standard deduction."""
        return self.brought("us.4684", "net_qualified")

    @line({2022: "12", 2025: "12e"}, "Standard or itemized deduction", cites="IRC 63(b), (c), (d)")
    def standard_deduction(self):
        if self.is_itemised:
            return total(self.itemized.deduction)
        return total(self.standard.deduction, self.disaster_loss) if self.disaster_loss else total(self.standard.deduction)

    @line({2022: "13", 2025: "13a"}, "Qualified business income deduction", cites="IRC 199A")
    def business_deduction(self):
        return self.brought("us.8995", "deduction")

    @line({2025: "13b"}, "Additional deductions, Schedule 1-A")
    def additional_deductions(self):
        return self.additional.deductions

    @fact("Schedule 1-A, where the year has it")
    def additional_in_all(self):
        return total(self.additional_deductions) if self.year >= 2025 else nothing_because("it begins in 2025")

    @fact("Charitable contributions without itemizing", cites="IRC 170(p)")
    def gifts_without_itemizing(self):
        law = self.law.itemized
        if "gifts_without_itemizing" not in law or self.is_itemised:
            return nothing_because("it begins in 2026, for people who do not itemize")
        given = sum((paper.amount for paper in self.papers("gift") if paper.gift_kind == "cash"), ZERO)
        return total(min(given, law.gifts_without_itemizing[self.status]))

    @fact("Deductions before QBI deduction")
    def deductions_before_business(self):
        """Without the overall limitation of itemized deductions. IRC 199A(e)(1)."""
        taken = self.itemized.before_limit if self.is_itemised else total(self.standard.deduction, self.disaster_loss)
        return total(taken, self.additional_in_all, self.gifts_without_itemizing)

    @line("14", "Total deductions")
    def deductions(self):
        return total(self.standard_deduction, self.business_deduction, self.additional_in_all, self.gifts_without_itemizing)

    @line("15", "Taxable income", weight="total", cites="IRC 63(b)")
    def taxable_income(self):
        return excess(self.adjusted_gross_income, over=self.deductions)

    @fact("Left out of income, Form 2555")
    def left_out_abroad(self):
        """Lines 45 and 50: the tax worksheets put it below what is taxed, limits of income add it back."""
        return left_out(self.run)

    @fact("Method used to figure the tax")
    def tax_method(self):
        """Schedule D's where gain of the 25% or 28% kind is there or gain is treated as investment income; else by kind."""
        if self.run.is_idle("us.sch-d"):
            return "preferred" if self.qualified_dividends > 0 else "table"
        elected = self.brought("us.4952", "elected") if self.is_itemised else ZERO
        if self.gains.is_gain and (self.gains.collectibles_gain > 0 or self.gains.property_gain > 0 or elected > 0):
            return "schedule D"
        return "preferred" if self.qualified_dividends > 0 or self.gains.preferred > 0 else "table"

    @fact("Tax by the worksheet that the method names")
    def tax_by_worksheet(self):
        name = "us.sch-d-tax-worksheet" if self.tax_method == "schedule D" else "us.qualified-dividends-worksheet"
        return total(self.run.form(name).tax)

    @fact("Tax at the taxpayer's own rates")
    def tax_by_own_rates(self):
        if self.left_out_abroad > 0:
            return total(self.run.form("us.foreign-earned-tax").tax)
        if self.tax_method == "table":
            return tax_on(self.taxable_income, self.law, self.status)
        return total(self.tax_by_worksheet)

    @line("16", "Tax", cites="IRC 1(h), 1(j), 3")
    def tax(self):
        if not self.run.is_idle("us.8615") and self.child_tax.applies:
            return total(self.child_tax.tax)
        if self.tax_method == "table" and not self.left_out_abroad:
            return tax_on(self.taxable_income, self.law, self.status)
        return total(self.tax_by_own_rates)

    @line("17", "Amount from Schedule 2, line 3")
    def other_tax_before_credits(self):
        return total(self.more_taxes.before_credits)

    @fact("Excess advance premium tax credit repayment")
    def premium_repaid(self):
        return total(self.more_taxes.premium_repaid)

    @line("18", "Total of lines 16 and 17")
    def tax_before_credits(self):
        return total(self.tax, self.other_tax_before_credits)

    @line("19", "Child tax credit and credit for other dependents")
    def child_credit(self):
        if not self.run.people("dependant"):
            return absent("there is no dependent on this return")
        return self.children.credit

    @fact("Foreign tax credit")
    def foreign_credit(self):
        return total(self.more_payments.foreign)

    @line("20", "Amount from Schedule 3, line 8")
    def other_credits(self):
        return total(self.more_payments.credits)

    @line("21", "Credits")
    def credits(self):
        return total(self.child_credit, self.other_credits)

    @line("22", "Tax after credits")
    def tax_after_credits(self):
        return excess(self.tax_before_credits, over=self.credits)

    @line("23", "Other taxes, Schedule 2")
    def other_taxes(self):
        return self.more_taxes.other_taxes

    @line("24", "Total tax", weight="total")
    def total_tax(self):
        return total(self.tax_after_credits, self.other_taxes)

    @line("25a", "Federal income tax withheld, W-2", cites="IRC 31(a)")
    def withheld_wages(self):
        return total([paper.federal_withheld for paper in self.papers("w2")])

    @line("25b", "Federal income tax withheld, 1099", cites="IRC 31(c)")
    def withheld_other(self):
        return total([paper.withheld for kind in _OTHER_WITHHOLDING for paper in self.papers(kind)])

    @line("25c", "Federal income tax withheld, other forms")
    def withheld_more(self):
        shares = [paper.withheld for paper in self.papers("k1-1041")]
        return total(self.high_wages.counted_as_withheld, [paper.withheld for paper in self.papers("w2g")], shares)

    @line("25d", "Total federal income tax withheld")
    def withheld(self):
        return total(self.withheld_wages, self.withheld_other, self.withheld_more)

    @line("26", "Estimated tax payments", cites="IRC 6315")
    def estimates(self):
        paper = self.paper("estimates")
        return total([row.amount for row in paper.rows], paper.applied)

    @line({2022: "27", 2025: "27a"}, "Earned income credit", cites="IRC 32")
    def earned_income_credit(self):
        return self.earned.credit

    @line("28", "Additional child tax credit, Schedule 8812", cites="IRC 24(d)")
    def additional_child_credit(self):
        return self.children.paid_out

    @line("29", "American opportunity credit, Form 8863 (refundable)", cites="IRC 25A(i)")
    def education_paid(self):
        return self.brought("us.8863", "paid_out")

    @line({2022: None, 2025: "30"}, "Refundable adoption credit, Form 8839", cites="IRC 23(a)(4)")
    def adoption_paid(self):
        return self.brought("us.8839", "paid_out")

    @line("31", "From Schedule 3, line 15")
    def other_payments(self):
        return self.more_payments.payments

    @line("32", "Total other payments and refundable credits")
    def refundable(self):
        credits = (self.earned_income_credit, self.additional_child_credit, self.education_paid, self.adoption_paid)
        return total(credits, self.other_payments)

    @line("33", "Payments", weight="total")
    def payments(self):
        return total(self.withheld, self.estimates, self.refundable)

    @line("34", "Overpayment")
    def overpaid(self):
        """Before the penalty: lines 35a, 36 and 38 together make line 34."""
        return excess(self.payments, over=self.total_tax)

    @line("35a", "Refund", weight="total", cites="IRC 6402(a)")
    def refund(self):
        return excess(self.overpaid, over=[self.applied, self.penalty] if self.penalty else self.applied)

    @line("36", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return total(self.paper("deposit").applied_to_next_year)

    @line("37", "Amount owed", weight="total", cites="IRC 6151")
    def owed(self):
        due = total(self.total_tax, self.penalty) if self.penalty else self.total_tax
        return excess(due, over=self.payments)

    @line("38", "Estimated tax penalty", cites="IRC 6654")
    def penalty(self):
        """A correction leaves it as it was: the tax shown on the original decides."""
        if self.is_correction:
            return self.as_filed("penalty")
        return total(self.underpaying.penalty, self.brought("us.2210-f", "penalty"))
