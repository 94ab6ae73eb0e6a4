"""Form IL-1120: income and replacement tax of a corporation. 35 ILCS 5/201(a), (b)(14), (c), (d), 203(b)."""

from typing import Any

from taxcore.engine import excess, least, line, nothing_because, share, total
from taxcore.packs.us.states.il.entities.base import Modified, after_losses, allocated, settled


class _Base(Modified):
    """Steps 2 and 3."""

    @line("1", "Federal taxable income")
    def taxable_income(self):
        return total(self.page.taxable_income)

    @line("2", "Federal net operating loss deduction", cites="35 ILCS 5/203(b)(2)(D)")
    def federal_losses(self):
        return total(self.page.operating_loss)

    @line("3", "Exempt interest", cites="35 ILCS 5/203(b)(2)(A)")
    def exempt_interest(self):
        return self.exempt()

    @line("4", "Illinois taxes deducted", cites="35 ILCS 5/203(b)(2)(B)")
    def own_tax(self):
        return total(self.asked.own_tax)

    @line("5", "Special depreciation addition", cites="35 ILCS 5/203(b)(2)(E-10)")
    def more_depreciation(self):
        return total(self.depreciation_added)

    @line("6", "Related-party expenses addition")
    def related(self):
        return nothing_because("Schedule 80/20 is not made here")

    @line("7", "Distributive share of additions")
    def share_of_additions(self):
        return nothing_because("no share of another entity is known here")

    @line("8", "Other additions")
    def additions(self):
        return total(self.asked.other_additions)

    @line("9", "Total income or loss", weight="total")
    def with_additions(self):
        plus = (self.federal_losses, self.exempt_interest, self.own_tax, self.more_depreciation, self.related)
        return total(self.taxable_income, plus, self.share_of_additions, self.additions)

    @line("10", "Interest on U.S. obligations", cites="35 ILCS 5/203(b)(2)(J); 31 USC 3124")
    def government_interest(self):
        return total(self.asked.government_interest)

    @line("16", "Special depreciation subtraction", cites="35 ILCS 5/203(b)(2)(T)")
    def less_depreciation(self):
        return total(self.depreciation_taken_off)

    @line("19", "Other subtractions")
    def subtractions(self):
        return total(self.asked.other_subtractions)

    @line("20", "Total subtractions")
    def taken_off(self):
        return total(self.government_interest, self.less_depreciation, self.subtractions)

    @line("21", "Base income or loss", weight="total", cites="35 ILCS 5/203(b)(1)")
    def base_income(self):
        return total(self.with_additions, less=self.taken_off)


_ALLOCATED: Any = after_losses(allocated(_Base, 22), 33)


class _Taxed(_ALLOCATED):
    """Steps 6 to 8."""

    def loss_limit(self):
        """A corporation has a limit in dollars. 35 ILCS 5/207(d)."""
        return least(self.rates.loss_limit, excess(self.adjusted, over=0))

    @property
    def taxed(self):
        return excess(self.after_losses, over=0)

    @line("38", "Replacement tax", cites="35 ILCS 5/201(c), (d)")
    def replacement_tax(self):
        return share(self.rates.corporate_replacement, of=self.taxed)

    @line("41", "Investment credits")
    def investment_credits(self):
        return nothing_because("Form IL-477 is not made here")

    @line("42", "Net replacement tax")
    def replacement(self):
        return total(self.replacement_tax, less=self.investment_credits)

    @line("43", "Income tax", cites="35 ILCS 5/201(a), (b)(14)")
    def income_tax(self):
        return share(self.rates.corporate, of=self.taxed)

    @line("46", "Income tax credits")
    def credits(self):
        return nothing_because("Schedule 1299-D is not made here")

    @line("47", "Net income tax")
    def income_tax_left(self):
        return total(self.income_tax, less=self.credits)


def _due(form):
    return form.replacement, form.income_tax_left


_SETTLED: Any = settled(_Taxed, ("52", "56", "57", "58", "60", "61"), _due)


class CorporationReturn(_SETTLED):
    """Form IL-1120."""

    number, name = "IL-1120", "Corporation income and replacement tax return"
