"""Form 1040-X: a federal return corrected after it was filed. IRC 6402, 6511; 26 CFR 301.6402-3.

Column A is what the IRS has, column C the return as it is computed now, column B what lies between. Part I (dependents) repeats
the People of the return and is not drawn. A return that is filed again before its due date has no Form 1040-X.
"""

from taxcore.engine import excess, line, linked, nothing_because, total
from taxcore.packs.us.base import FederalForm, columns_of


def _of(name, code="us.1040"):
    """Columns A and C of a line that another form has."""
    return (lambda form: form.run.form(code).as_filed(name)), (lambda form: total(getattr(form.run.form(code), name)))


def _each(filed, correct, works):
    """Columns A and C of a line that is worked out from those above it; the names are of either column."""
    return (lambda form: works(*(getattr(form, name) for name in filed)),
            lambda form: works(*(getattr(form, name) for name in correct)))  # fmt: skip


class AmendedReturn(FederalForm):
    """As filed, change, correct; then what is owed or refunded after what was paid and refunded before. IRC 6402(a)."""

    number, name = "1040-X", "Amended U.S. individual income tax return"
    columns = ("As filed", "Change", "Correct")
    income = linked("us.1040")
    more = linked("us.sch-3")

    @classmethod
    def idle(cls, run):
        return run.amends is None or run.amends.superseding or "us" not in run.amends.filed

    income_filed, income_change, adjusted_gross_income = columns_of("1", "Adjusted gross income", *_of("adjusted_gross_income"))
    standard_filed, standard_change, standard = columns_of("2", "Standard or itemized deduction", *_of("standard_deduction"))
    after_filed, after_change, after_deduction = columns_of(
        "3",
        "Line 1 less line 2",
        *_each(
            ("income_filed", "standard_filed"),
            ("adjusted_gross_income", "standard"),
            lambda income, deduction: total(income, less=deduction),
        ),
    )
    additional_filed, additional_change, additional = columns_of(
        "4a",
        "Additional deductions",
        lambda form: form.additional_of(form.income.as_filed),
        lambda form: form.additional_of(lambda name: getattr(form.income, name)),
    )
    business_filed, business_change, business = columns_of(
        "4b", "Qualified business income deduction", *_of("business_deduction")
    )
    taxable_filed, taxable_change, taxable_income = columns_of(
        "5",
        "Taxable income",
        *_each(
            ("after_filed", "additional_filed", "business_filed"),
            ("after_deduction", "additional", "business"),
            lambda income, *less: excess(income, over=less),
        ),
        weight="total",
    )
    tax_filed, tax_change, tax = columns_of("6", "Tax", *_of("tax_before_credits"))
    credits_filed, credits_change, credits = columns_of("7", "Nonrefundable credits", *_of("credits"))
    after_credits_filed, after_credits_change, after_credits = columns_of(
        "8",
        "Tax after credits",
        *_each(("tax_filed", "credits_filed"), ("tax", "credits"), lambda tax, credits: excess(tax, over=credits)),
    )
    others_filed, others_change, other_taxes = columns_of("10", "Other taxes", *_of("other_taxes"))
    total_filed, total_change, total_tax = columns_of(
        "11",
        "Total tax",
        *_each(("after_credits_filed", "others_filed"), ("after_credits", "other_taxes"), total),
        weight="total",
    )
    withheld_filed, withheld_change, withheld = columns_of(
        "12",
        "Withheld, with excess Social Security tax",
        lambda form: total(form.income.as_filed("withheld"), form.more.as_filed("excess_social_security")),
        lambda form: total(form.income.withheld, form.more.excess_social_security),
    )
    estimates_filed, estimates_change, estimates = columns_of("13", "Estimated tax payments", *_of("estimates"))
    earned_filed, earned_change, earned = columns_of("14", "Earned income credit", *_of("earned_income_credit"))
    refundable_filed, refundable_change, refundable = columns_of(
        "15",
        "Refundable credits",
        lambda form: form.refundable_of(form.income.as_filed, form.more.as_filed),
        lambda form: form.refundable_of(lambda name: getattr(form.income, name), lambda name: getattr(form.more, name)),
    )

    def additional_of(self, of_income):
        """Schedule 1-A, and contributions without itemizing: all deductions of line 14 that have no line of their own here."""
        return total(of_income("deductions"), less=[of_income("standard_deduction"), of_income("business_deduction")])

    def refundable_of(self, of_income, of_more):
        """Credits that are paid out, but for the earned income credit."""
        return total(of_income("additional_child_credit"), of_income("education_paid"), of_more("premium_credit"))

    @property
    def settled(self):
        """The row of what the IRS got and gave, or None."""
        return next((row for row in self.paper("amendment").settled if row.authority == "US"), None)

    @line("16", "Paid with extension, original and since")
    def paid(self):
        before = [self.settled.paid, self.settled.paid_later] if self.settled else []
        return total(self.more.with_extension, before)

    @line("17", "Total payments")
    def payments(self):
        return total(self.withheld, self.estimates, self.earned, self.refundable, self.paid)

    @line("18", "Overpayment as filed or adjusted")
    def overpaid_before(self):
        if self.settled is not None and self.settled.is_keyed("overpaid"):
            return total(self.settled.overpaid)
        return self.income.as_filed("overpaid")

    @line("19", "Payments less overpayment")
    def left(self):
        return total(self.payments, less=self.overpaid_before)

    @line("20", "Amount owed", weight="total", cites="IRC 6151")
    def owed(self):
        return excess(self.total_tax, over=self.left)

    @line("21", "Overpaid on this return")
    def overpaid(self):
        return excess(self.left, over=self.total_tax)

    @line("22", "Refund", weight="total", cites="IRC 6402(a)")
    def refund(self):
        return excess(self.overpaid, over=self.applied)

    @line("23", "Applied to next year's estimated tax")
    def applied(self):
        wanted = self.paper("amendment").applied_to_next_year
        return nothing_because("nothing is to be applied") if not wanted else total(wanted)
