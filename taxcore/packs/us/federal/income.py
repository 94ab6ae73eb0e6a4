"""Form 1040: the individual return, from wages to refund or balance due."""

from taxcore.engine import excess, fact, line, linked, nothing_because, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.tax import tax_on


class IncomeTaxReturn(FederalForm):
    """US individual income tax return. IRC 1, 61, 62, 63, 31, 6401."""

    number, name = "1040", "Individual income tax return"
    interest = linked("us.sch-b")
    adjusting = linked("us.sch-1")
    additional = linked("us.sch-1-a")
    standard = linked("us.standard-deduction")
    children = linked("us.sch-8812")
    earned = linked("us.earned-income-credit")
    more_taxes = linked("us.sch-2")
    more_payments = linked("us.sch-3")
    high_wages = linked("us.8959")

    @fact("Filing status")
    def status(self):
        return self.paper("filing").status or "single"

    @fact("Persons who file")
    def filers(self):
        roles = ("taxpayer", "spouse") if self.status == "joint" else ("taxpayer",)
        return tuple(person for person in map(self.person, roles) if person is not None)

    @line("1a", "Wages, box 1 of all statements")
    def wage_statements(self):
        return total([paper.wages for paper in self.papers("w2")])

    @line("1z", "Wages together")
    def wages(self):
        return total(self.wage_statements)

    @line("2a", "Tax-exempt interest")
    def exempt_interest(self):
        return self.interest.exempt

    @line("2b", "Taxable interest")
    def taxable_interest(self):
        return self.interest.taxable

    @line("9", "Total income", weight="total")
    def total_income(self):
        return total(self.wages, self.taxable_interest)

    @line("10", "Adjustments, Schedule 1")
    def adjustments(self):
        return self.adjusting.adjustments

    @line({2022: "11", 2025: "11a"}, "Adjusted gross income", weight="total", cites="IRC 62")
    def adjusted_gross_income(self):
        return total(self.total_income, less=self.adjustments)

    @line({2025: "11b"}, "Adjusted gross income, carried")
    def agi_carried(self):
        return self.adjusted_gross_income

    @line({2022: "12", 2025: "12e"}, "Standard deduction", cites="IRC 63(c)")
    def standard_deduction(self):
        return self.standard.deduction

    @line({2022: "13", 2025: "13a"}, "Qualified business income deduction", cites="IRC 199A")
    def business_deduction(self):
        return nothing_because("there is no business on this return")

    @line({2025: "13b"}, "Additional deductions, Schedule 1-A")
    def additional_deductions(self):
        return self.additional.deductions

    @line("14", "Deductions together")
    def deductions(self):
        added = () if self.additional_deductions is None else (self.additional_deductions,)
        return total(self.standard_deduction, self.business_deduction, added)

    @line("15", "Taxable income", weight="total", cites="IRC 63(b)")
    def taxable_income(self):
        return excess(self.adjusted_gross_income, over=self.deductions)

    @line("16", "Tax", cites="IRC 1(j), 3")
    def tax(self):
        return tax_on(self.taxable_income, self.law, self.status)

    @line("17", "From Schedule 2, line 3")
    def other_tax_before_credits(self):
        return nothing_because("nothing on this return calls for Schedule 2, part I")

    @line("18", "Together")
    def tax_before_credits(self):
        return total(self.tax, self.other_tax_before_credits)

    @line("19", "Child credit, other dependants")
    def child_credit(self):
        if not self.run.people("dependant"):
            return nothing_because("there is no dependant on this return")
        return self.children.credit

    @line("20", "From Schedule 3, line 8")
    def other_credits(self):
        return nothing_because("nothing on this return calls for Schedule 3, part I")

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

    @line("25a", "Withheld, wage statements", cites="IRC 31(a)")
    def withheld_wages(self):
        return total([paper.federal_withheld for paper in self.papers("w2")])

    @line("25b", "Withheld, 1099", cites="IRC 31(c)")
    def withheld_other(self):
        return total([paper.withheld for paper in self.papers("1099-int")])

    @line("25c", "Withheld, other forms")
    def withheld_more(self):
        return self.high_wages.counted_as_withheld

    @line("25d", "Withheld together")
    def withheld(self):
        return total(self.withheld_wages, self.withheld_other, self.withheld_more)

    @line({2022: "27", 2025: "27a"}, "Earned income credit", cites="IRC 32")
    def earned_income_credit(self):
        return self.earned.credit

    @line("28", "Additional child credit, Schedule 8812", cites="IRC 24(d)")
    def additional_child_credit(self):
        return self.children.paid_out

    @line("31", "From Schedule 3, line 15")
    def other_payments(self):
        return self.more_payments.payments

    @line("32", "Other payments and refundable credits")
    def refundable(self):
        return total(self.earned_income_credit, self.additional_child_credit, self.other_payments)

    @line("33", "Payments", weight="total")
    def payments(self):
        return total(self.withheld, self.refundable)

    @line("34", "Overpaid")
    def overpaid(self):
        return excess(self.payments, over=self.total_tax)

    @line("35a", "Refund", weight="total", cites="IRC 6402(a)")
    def refund(self):
        return excess(self.overpaid, over=self.applied)

    @line("36", "Applied to next year")
    def applied(self):
        return total(self.paper("deposit").applied_to_next_year)

    @line("37", "Amount owed", weight="total", cites="IRC 6151")
    def owed(self):
        return excess(self.total_tax, over=self.payments)
