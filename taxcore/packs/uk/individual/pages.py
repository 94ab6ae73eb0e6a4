"""The pages of the return with their box numbers: what was entered, in whole pounds, and what each page comes to.

Box numbers as on the pages for 2024-25; where one is only remembered it is marked in docs/law-coverage.md.
"""

from decimal import Decimal

from taxcore.engine import excess, fact, least, line, linked, share, total, when
from taxcore.engine.forms import ALL
from taxcore.packs.uk.balances import HOME_FINANCE, PROPERTY_LOSS
from taxcore.packs.uk.base import Page, up

_BENEFITS = ("car", "fuel", "medical", "vouchers", "assets", "accommodation", "expenses_paid")
_EXPENSES = ("travel", "fixed", "fees", "other_expenses")
LET = ("premises", "repairs", "finance", "fees", "services", "rest")


def _of(paper, names):
    return [getattr(paper, name) for name in names]


class EmploymentPage(Page):
    """SA102, one for each employment. ITEPA 2003 ss. 9, 10, 62, 336."""

    number, name, per = "SA102", "Employment", "employment"
    needs = ("employment",)

    @property
    def paper(self):
        return next(one for one in self.papers("employment") if one.key == self.key)

    @line("1", "Pay from this employment")
    def pay(self):
        return total(self.paper.pay)

    @line("2", "UK tax taken off", rounding=up)
    def tax(self):
        return total(self.paper.tax)

    @line("3", "Tips and other payments")
    def tips(self):
        return total(self.paper.tips)

    @fact("Benefit of the loan", cites="ITEPA 2003 ss. 175, 180 to 182")
    def cheap_loan(self):
        """The average of both days at the official rate, less interest paid; none where it never was above 10,000."""
        paper, law = self.paper, self.law.loans
        average = share(Decimal("0.5"), of=total(paper.loan_begun, paper.loan_ended))
        benefit = excess(share(law.official, of=average), over=paper.loan_interest)
        above = bool(paper.loan_above) or max(paper.loan_begun, paper.loan_ended) > law.above
        return when(above, benefit, "the loan was never above the limit")

    @fact("Benefits, boxes 9 to 16")
    def benefits(self):
        """Box 15 has other benefits together with that of a loan."""
        others = [self.rounding(one) for one in _of(self.paper, _BENEFITS)]
        return total(others, self.rounding(total(self.paper.loan_benefit, self.cheap_loan)))

    @fact("Expenses, boxes 17 to 20")
    def expenses(self):
        return total([up(one) for one in _of(self.paper, _EXPENSES)])

    @fact("Taxable from this employment", cites="ITEPA 2003 s. 11")
    def taxable(self):
        """Expenses cannot make a loss: ITEPA 2003 s. 329."""
        return excess([self.pay, self.tips, self.benefits], over=self.expenses)


class PropertyPage(Page):
    """SA105: all lettings in the UK as one business. ITTOIA 2005 ss. 264, 268, 272."""

    number, name = "SA105", "UK property"
    needs = ("property",)

    @property
    def paper(self):
        return self.run.single("property")

    @line("20", "Total rents and other income from property")
    def rents(self):
        return total(self.paper.rents)

    @line("20.1", "Property income allowance", cites="ITTOIA 2005 s. 783BI", rounding=up)
    def allowance(self):
        chosen = when(bool(self.paper.use_allowance), self.law.small_allowances.property, "the expenses are deducted instead")
        return least(chosen, self.rents)

    @line("21", "Tax taken off", rounding=up)
    def tax(self):
        return total(self.paper.tax)

    @fact("Expenses, boxes 24 to 29 and 36, less private use")
    def expenses(self):
        """Finance costs of homes are no expense: they are relieved at the basic rate."""
        costs = excess(
            total([up(one) for one in (*_of(self.paper, LET), self.paper.domestic_items)]),
            over=self.rounding(self.paper.private),
        )
        return when(not self.paper.use_allowance, costs, "the property allowance is deducted instead")

    @line("38", "Adjusted profit for the year")
    def profit(self):
        return excess(self.rents, over=[self.allowance, self.expenses])

    @line("39", "Loss brought forward used against this year's profits", rounding=up)
    def loss_used(self):
        return least(self.paper.loss_before, self.profit)

    @line("40", "Taxable profit for the year", weight="total")
    def taxable(self):
        return excess(self.profit, over=self.loss_used)

    @line("41", "Adjusted loss for the year")
    def loss(self):
        return excess(self.expenses, over=self.rents)

    @line("43", "Loss to carry forward", closes=PROPERTY_LOSS, used="loss_used", cites="ITA 2007 s. 118")
    def loss_forward(self):
        return total(excess(self.paper.loss_before, over=self.loss_used), self.loss)

    @fact("Finance costs not relieved", closes=HOME_FINANCE, used=ALL, cites="ITTOIA 2005 s. 274AA(5)")
    def home_finance_forward(self):
        """What of the costs is above the profits or the income that they are relieved by."""
        return excess(total(self.home_finance, self.home_finance_before), over=self.run.form("uk.income-tax").finance_relieved)

    @line("44", "Residential finance costs", rounding=up)
    def home_finance(self):
        kept = total(self.paper.home_finance)
        return when(not self.paper.use_allowance, kept, "the property allowance rules the relief out")

    @line("45", "Unused residential finance costs brought forward", rounding=up)
    def home_finance_before(self):
        return total(self.paper.home_finance_before)


class MainReturn(Page):
    """SA100: savings, pensions, reliefs. TMA 1970 s. 8."""

    number, name = "SA100", "Tax return"

    @property
    def reliefs(self):
        return self.run.single("reliefs")

    @line("1", "Taxed UK interest, the net amount")
    def interest_taxed(self):
        return total([one.taxed_net for one in self.papers("interest")])

    @line("2", "Untaxed UK interest")
    def interest_untaxed(self):
        return total([one.untaxed for one in self.papers("interest")])

    @line("4", "Dividends from UK companies")
    def dividends(self):
        return total([one.dividends for one in self.papers("dividends")])

    @line("5", "Other dividends")
    def fund_dividends(self):
        return total([one.fund for one in self.papers("dividends")])

    @line("8", "State Pension")
    def state_pension(self):
        return total([one.amount for one in self.papers("pension") if one.state])

    @line("9", "State Pension lump sum")
    def state_lump_sum(self):
        return total([one.lump_sum for one in self.papers("pension") if one.state])

    @line("10", "Tax taken off box 9", rounding=up)
    def state_lump_tax(self):
        return total([one.lump_tax for one in self.papers("pension") if one.state])

    @line("11", "Pensions other than State Pension")
    def pensions(self):
        """With what is taxed of lump sums."""
        others = [one for one in self.papers("pension") if not one.state]
        return total([one.amount for one in others], [one.lump_taxed for one in others])

    @line("12", "Tax taken off box 11", rounding=up)
    def pension_tax(self):
        """Of other pensions, and what was taken off the State Pension by mistake."""
        return total(
            [one.tax for one in self.papers("pension")], [one.lump_tax for one in self.papers("pension") if not one.state]
        )

    @line("TR4.1", "Payments to pension schemes with relief at source, basic rate tax added", rounding=up)
    def relief_at_source(self):
        return total(share(self.one_and_a_quarter, of=self.reliefs.relief_at_source))

    @line("TR4.2", "Payments without relief taken off, gross", rounding=up)
    def gross_contributions(self):
        return total(self.reliefs.gross_contributions)

    @fact("Gift Aid of the year, with the tax treated as deducted", cites="ITA 2007 s. 415")
    def gifts_gross(self):
        paid = excess([up(self.reliefs.gifts), up(self.reliefs.gifts_from_next_year)], over=up(self.reliefs.gifts_to_year_before))
        return total(share(self.one_and_a_quarter, of=paid))

    @property
    def one_and_a_quarter(self):
        """What a payment comes to with basic rate tax on it: 100 of 80."""
        return 1 / (1 - self.law.income_tax.basic)


class AdditionalPage(Page):
    """SA101: subscriptions for shares, and pension savings above the annual allowance."""

    number, name = "SA101", "Additional information"
    needs = ("reliefs", "pension-savings")

    @property
    def reliefs(self):
        return self.run.single("reliefs")

    @line("Ai2.1", "Subscriptions for Venture Capital Trust shares")
    def vct(self):
        return total(self.reliefs.vct)

    @line("Ai2.2", "Subscriptions under the Enterprise Investment Scheme")
    def eis(self):
        return total(self.reliefs.eis)

    @line("Ai2.10", "Subscriptions under the Seed Enterprise Investment Scheme")
    def seis(self):
        return total(self.reliefs.seis)

    @line("Ai4.10", "Saved in pensions above the annual allowance")
    def above_allowance(self):
        return self.brought("uk.annual-allowance", "excess")

    @line("Ai4.11", "Annual allowance charge paid by the scheme", rounding=up)
    def paid_by_scheme(self):
        return self.brought("uk.annual-allowance", "paid_by_scheme")

    @fact("Relief for investments", cites="ITA 2007 ss. 158, 257AB, 263", rounding=None)
    def relief(self):
        """Each at its rate up to its limit; the higher limit of the enterprise scheme is for knowledge-intensive companies."""
        law = self.law.investments
        limit = total(law.eis_limit, least(self.reliefs.eis_knowledge, law.eis_knowledge))
        return total(
            share(law.vct, of=least(self.vct, law.vct_limit)),
            share(law.eis, of=least(self.eis, limit)),
            share(law.seis, of=least(self.seis, law.seis_limit)),
        )

    def required(self):
        return any(getattr(self, name) for name in ("vct", "eis", "seis", "above_allowance", "paid_by_scheme"))


class Linked:
    """What every step of the calculation reads."""

    main = linked("uk.sa100")
    let = linked("uk.sa105")
