"""The tax calculation: income by kind, allowances, income tax band by band, reducers, contributions, charges, what is due.

ITA 2007 s. 23 gives the steps. Each amount is in pounds and pence.
"""

from decimal import ROUND_FLOOR, Decimal
from functools import partial

from taxcore.engine import (
    Operand,
    by_bands,
    excess,
    explained,
    fact,
    full_steps,
    greatest,
    least,
    line,
    linked,
    nothing_because,
    share,
    total,
    when,
)
from taxcore.engine.figures import ZERO, cents
from taxcore.packs.uk.base import Calculation, Page
from taxcore.packs.uk.individual import dividing
from taxcore.packs.uk.individual.trading import trades_of

_BANDS = ("basic", "higher", "additional")


class Incomes(Calculation):
    """Steps 1 and 2: what is charged, by kind, and net income. ITA 2007 ss. 16, 23."""

    number, name, worksheet = "Income", "Income by kind", True
    main, let = linked("uk.sa100"), linked("uk.sa105")

    @line("a", "Employments")
    def employments(self):
        return total([one.taxable for one in self.every("uk.sa102")])

    @line("b", "Pensions")
    def pensions(self):
        return total(self.main.state_pension, self.main.pensions)

    @line("c", "Trades and partnerships")
    def trades(self):
        """Transition profits stand apart: they take nothing of any allowance (FA 2022 Sch. 1 para. 76)."""
        return total([one.taxable for one in trades_of(self.run)])

    @line("m", "Transition profits", cites="FA 2022 Sch. 1 paras 72, 76")
    def transition(self):
        return total([one.transition for one in trades_of(self.run)])

    @line("d", "UK property")
    def property(self):
        return total(self.let.taxable, [one.property for one in self.every("uk.partnership-profit")])

    @line("n", "Other income of partnerships")
    def other_of_partners(self):
        return total([one.other for one in self.every("uk.partnership-profit")])

    @fact("Foreign income other than savings and dividends")
    def foreign_earned(self):
        return total([one.charged for one in self.every("uk.foreign-item") if one.kind_of_income == "earned"])

    @line("e", "Income other than savings and dividends")
    def earned(self):
        return total(self.employments, self.pensions, self.trades, self.property, self.other_of_partners, self.foreign_earned)

    @line("f", "Savings")
    def savings(self):
        """Taxed interest is charged with the tax taken off it: ITA 2007 s. 848, ITTOIA 2005 s. 370."""
        foreign = [one.charged for one in self.every("uk.foreign-item") if one.kind_of_income == "savings"]
        partners = [one.savings for one in self.every("uk.partnership-profit")]
        taxed = share(self.main.one_and_a_quarter, of=self.main.interest_taxed)
        return total(self.main.interest_untaxed, taxed, partners, foreign)

    @line("g", "Dividends")
    def dividends(self):
        foreign = [one.charged for one in self.every("uk.foreign-item") if one.kind_of_income == "dividends"]
        partners = [one.dividends for one in self.every("uk.partnership-profit")]
        return total(self.main.dividends, self.main.fund_dividends, partners, foreign)

    @line("h", "Total income", weight="total")
    def total_income(self):
        return total(self.earned, self.savings, self.dividends)

    @line("i", "Payments to pensions deducted from income", cites="FA 2004 s. 194")
    def contributions(self):
        return least(self.main.gross_contributions, self.total_income)

    @fact("Losses of trades that can be set against income", cites="ITA 2007 s. 64")
    def losses_claimed(self):
        return total([one.claimed for one in trades_of(self.run)])

    @fact("Losses of shares that are claimed against income", cites="ITA 2007 s. 131")
    def share_losses_claimed(self):
        if self.run.is_idle("uk.sa108"):
            return nothing_because("there is no disposal")
        return total([one.loss for one in self.run.form("uk.sa108").sales() if one.to_income])

    @fact("What losses may take of income", cites="ITA 2007 s. 24A")
    def losses_cap(self):
        """No more than 50,000, or a quarter of the income if that is more."""
        law = self.law.losses
        cap = greatest(law.cap, share(law.part, of=self.total_income))
        return least(cap, excess(self.total_income, over=self.contributions))

    @fact("Losses of shares set against income", cites="ITA 2007 ss. 131, 133")
    def share_losses_set(self):
        """Before those of trades: ITA 2007 s. 133(1)."""
        return least(self.share_losses_claimed, self.losses_cap)

    @fact("Losses of trades set against income", cites="ITA 2007 ss. 24A, 64")
    def losses_set(self):
        return least(self.losses_claimed, excess(self.losses_cap, over=self.share_losses_set))

    @line("l", "Losses set against income")
    def all_losses_set(self):
        return total(self.losses_set, self.share_losses_set)

    @line("j", "Net income", weight="total", cites="ITA 2007 s. 23, step 2")
    def net(self):
        return excess(self.total_income, over=[self.contributions, self.all_losses_set])

    @line("k", "Adjusted net income", cites="ITA 2007 s. 58")
    def adjusted(self):
        return excess(self.net, over=[self.main.gifts_gross, self.main.relief_at_source])


class Allowances(Calculation):
    """Step 3. ITA 2007 ss. 35, 38, 55B, 55C."""

    number, name, worksheet = "Allowances", "Allowances", True
    income = linked("uk.income")

    @property
    def about(self):
        return self.run.single("about")

    @fact("Lost of the personal allowance", cites="ITA 2007 s. 35(2)")
    def lost(self):
        """Half of what is above 100,000; what is left of the allowance is rounded up to the pound."""
        above = excess(self.income.adjusted, over=self.law.allowances.personal_falls_from)
        return full_pounds(share(Decimal("0.5"), of=above))

    @line("a", "Personal allowance")
    def personal(self):
        return excess(self.law.allowances.personal, over=self.lost)

    @line("b", "Transferred to the spouse", cites="ITA 2007 s. 55C")
    def given(self):
        return when(
            bool(self.about.gives_allowance), least(self.law.allowances.marriage, self.personal), "nothing is transferred"
        )

    @line("c", "Blind person's allowance", cites="ITA 2007 s. 38")
    def blind(self):
        return when(bool(self.about.blind), self.law.allowances.blind, "not registered blind")

    @line("d", "Allowances", weight="total")
    def together(self):
        return total(self.personal, self.blind, less=self.given)

    @fact("Payments deducted and allowances")
    def set_against(self):
        return least(total(self.income.contributions, self.income.all_losses_set, self.together), self.income.total_income)


def full_pounds(value):
    """Whole pounds, what is less left off."""
    return full_steps(value, of=Decimal(1))


def _slice(form, below, amount, band):
    """What of an amount that lies on top of another falls into a band."""
    floor, top = form.edges(band)
    held = total(below, amount)
    return excess(held if top is None else least(held, top), over=greatest(below, floor))


class IncomeTax(Calculation):
    """Steps 4 to 6: each kind of income on top of the one before, at the rates of its kind. ITA 2007 ss. 6 to 16."""

    number, name, worksheet = "Income tax", "Income tax by bands", True
    income, allowances, main, let = linked("uk.income"), linked("uk.allowances"), linked("uk.sa100"), linked("uk.sa105")
    foreign = linked("uk.foreign-credit")

    @property
    def is_scottish(self):
        return self.run.single("about").region == "scotland"

    @fact("Bands are wider by", cites="ITA 2007 s. 414; FA 2004 s. 192(4)")
    def wider(self):
        return total(self.main.gifts_gross, self.main.relief_at_source)

    def edges(self, band):
        law = self.law.income_tax
        basic, higher = law.basic_limit + self.wider, law.higher_limit + self.wider
        return {"basic": (ZERO, basic), "higher": (basic, higher), "additional": (higher, None)}[band]

    # How the allowances stand against the kinds

    def _used(self, place):
        kinds = (self.income.earned, self.income.savings, self.income.dividends)
        given = [Operand(value) for value in (*kinds, self.allowances.set_against)]
        choose = partial(self._best, place)
        return explained(
            "The division that costs least of",
            choose(*kinds, self.allowances.set_against),
            given,
            choose,
            "the way that gives the least tax",
        )

    def _best(self, place, earned, savings, dividends, allowances):
        return self._division(earned, savings, dividends, allowances)[place]

    def _division(self, earned, savings, dividends, allowances):
        law = self.law.savings
        free = (
            law.allowance,
            law.allowance_higher,
            law.starting_limit + law.allowance,
            law.starting_limit + law.allowance_higher,
        )
        left = (tuple(map(Decimal, free)), (Decimal(self.law.dividends.allowance),))
        return dividing.best((earned, savings, dividends), allowances, left, self._tax_of)

    def _tax_of(self, taxable):
        """The tax on what is taxable of each kind, by the same rules as the lines below."""
        earned, savings, dividends = taxable
        law, whole_ = self.law, sum(taxable, ZERO)
        tax = self._on_earned(earned)
        starting = min(max(law.savings.starting_limit - earned, ZERO), savings)
        free = min(self._savings_allowance(whole_), savings - starting)
        tax += self._on(earned + starting + free, savings - starting - free, law.income_tax, _BANDS)
        free = min(law.dividends.allowance, dividends)
        return tax + self._on(earned + savings + free, dividends - free, law.dividends, ("ordinary", "upper", "additional"))

    def _on_earned(self, earned):
        if self.is_scottish:
            return sum((rate * max(min(earned, top) - floor, ZERO) for floor, top, rate in self._scottish()), ZERO)
        return self._on(ZERO, earned, self.law.income_tax, _BANDS)

    def _on(self, below, amount, law, rates):
        tax = ZERO
        for band, rate in zip(_BANDS, rates, strict=True):
            floor, top = self.edges(band)
            held = below + amount if top is None else min(below + amount, top)
            tax += max(held - max(below, floor), ZERO) * law[rate]
        return tax

    def _savings_allowance(self, taxable):
        """ITA 2007 s. 12B: 1,000; 500 where something is taxed above the basic rate; nothing above the higher one."""
        if taxable > self.edges("additional")[0]:
            return ZERO
        return self.law.savings.allowance_higher if taxable > self.edges("basic")[1] else self.law.savings.allowance

    def _scottish(self):
        """(from, to, rate): what gifts and contributions widen are the bands from the one at the basic rate on."""
        bands = self.law.scotland.bands
        edges = [floor + (self.wider if number > 1 else ZERO) for number, (floor, _) in enumerate(bands)]
        return [(floor, top, rate) for floor, top, (_, rate) in zip(edges, [*edges[1:], Decimal(10**12)], bands, strict=True)]

    @line("a", "Set against earned income")
    def used_earned(self):
        return self._used(0)

    @line("b", "Set against savings")
    def used_savings(self):
        return self._used(1)

    @line("c", "Set against dividends")
    def used_dividends(self):
        return self._used(2)

    @line("d", "Earned income, taxable")
    def earned(self):
        return excess(self.income.earned, over=self.used_earned)

    @line("e", "Savings, taxable")
    def savings(self):
        return excess(self.income.savings, over=self.used_savings)

    @line("f", "Dividends, taxable")
    def dividends(self):
        return excess(self.income.dividends, over=self.used_dividends)

    @line("g", "Taxable income", weight="total")
    def taxable(self):
        return total(self.earned, self.savings, self.dividends)

    # Earned income

    @line("h", "Tax on earned income")
    def tax_on_earned(self):
        if self.is_scottish:
            return by_bands(self.earned, [(floor, rate) for floor, _, rate in self._scottish()])
        return total([share(self.law.income_tax[band], of=_slice(self, ZERO, self.earned, band)) for band in _BANDS])

    # Savings

    @line("i", "Savings in the starting rate band, at nothing", cites="ITA 2007 s. 12")
    def starting(self):
        return least(excess(self.law.savings.starting_limit, over=self.earned), self.savings)

    @line("j", "Savings allowance used, at nothing", cites="ITA 2007 ss. 12A, 12B")
    def savings_free(self):
        return least(total(self._savings_allowance(self.taxable)), excess(self.savings, over=self.starting))

    @line("k", "Tax on savings")
    def tax_on_savings(self):
        below, rest = (
            total(self.earned, self.starting, self.savings_free),
            excess(self.savings, over=[self.starting, self.savings_free]),
        )
        return total([share(self.law.income_tax[band], of=_slice(self, below, rest, band)) for band in _BANDS])

    # Dividends

    @line("l", "Dividend allowance used, at nothing", cites="ITA 2007 s. 13A")
    def dividends_free(self):
        return least(self.law.dividends.allowance, self.dividends)

    @line("m", "Tax on dividends")
    def tax_on_dividends(self):
        below, rest = total(self.earned, self.savings, self.dividends_free), excess(self.dividends, over=self.dividends_free)
        rates = zip(_BANDS, ("ordinary", "upper", "additional"), strict=True)
        return total([share(self.law.dividends[rate], of=_slice(self, below, rest, band)) for band, rate in rates])

    @line("t", "Tax on transition profits", cites="FA 2022 Sch. 1 para. 76")
    def tax_on_transition(self):
        """What they add as the top of earned income, the allowances as they are without them."""
        more = self.income.transition

        def again(profits, *kinds):
            earned, savings, dividends = kinds
            return cents(self._tax_of((earned + profits, savings, dividends)) - self._tax_of(kinds))

        given = [Operand(one) for one in (more, self.earned, self.savings, self.dividends)]
        worked = explained("What is added by", again(*(one.value for one in given)), given, again, "as the top of earned income")
        return when(more > 0, worked, "there is no transition profit")

    @line("u", "Tax on the State Pension lump sum", cites="F(No. 2)A 2005 s. 7")
    def tax_on_lump_sum(self):
        """No part of total income; at the highest rate that taxable income reaches, and at none where there is no such income."""
        return share(self._highest_rate(), of=self.main.state_lump_sum)

    def _highest_rate(self):
        if self.taxable <= 0:
            return ZERO
        if self.is_scottish:
            return next(rate for _, top, rate in self._scottish() if self.taxable <= top)
        law = self.law.income_tax
        ends = {band: self.edges(band)[1] for band in _BANDS}
        return next(law[band] for band, end in ends.items() if end is None or self.taxable <= end)

    @line("n", "Income tax before reducers", weight="total")
    def before(self):
        return total(self.tax_on_earned, self.tax_on_savings, self.tax_on_dividends, self.tax_on_transition, self.tax_on_lump_sum)

    @line("v", "Relief for investments", cites="ITA 2007 s. 26")
    def investments(self):
        return least(self.brought("uk.sa101", "relief"), self.before)

    @line("o", "Relief for finance costs of homes", cites="ITTOIA 2005 s. 274AA")
    def finance_relief(self):
        """At the basic rate, on the least of the costs, the profits of letting, and income that allowances leave uncovered."""
        return least(share(self.law.reducers.rate, of=self.finance_relieved), excess(self.before, over=self.investments))

    @fact("Finance costs that are relieved")
    def finance_relieved(self):
        costs = total(self.let.home_finance, self.let.home_finance_before)
        taken = total(self.income.contributions, self.income.all_losses_set, self.allowances.together)
        return least(costs, self.let.taxable, excess(self.income.earned, over=taken))

    @line("p", "Allowance received from the spouse", cites="ITA 2007 s. 55B")
    def marriage(self):
        reducer = share(self.law.reducers.rate, of=self.law.allowances.marriage)
        received = when(bool(self.run.single("about").receives_allowance), reducer, "nothing was transferred")
        return least(received, excess(self.before, over=[self.investments, self.finance_relief]))

    @line("q", "Income tax before credit for foreign tax")
    def before_credit(self):
        return excess(self.before, over=[self.investments, self.finance_relief, self.marriage])

    @line("r", "Credit for foreign tax", cites="TIOPA 2010 ss. 18, 29, 36")
    def foreign_credit(self):
        return least(self.foreign.relief, self.before_credit)

    @line("s", "Income tax", weight="total")
    def tax(self):
        return excess(self.before_credit, over=self.foreign_credit)

    def tax_if(self, kinds):
        """Income tax before reducers on income of these kinds (earned, savings, dividends) instead, allowances and all."""
        law, together = self.law.allowances, sum(kinds, ZERO)
        taken = self.income.contributions + self.income.all_losses_set
        net = max(together - taken, ZERO)
        adjusted = max(net - self.wider, ZERO)
        lost = (max(adjusted - law.personal_falls_from, ZERO) / 2).quantize(Decimal(1), ROUND_FLOOR)
        allowances = max(law.personal - lost, ZERO) + self.allowances.blind - self.allowances.given
        against = min(taken + max(allowances, ZERO), together)
        used = self._division(*kinds, against)
        return self._tax_of(tuple(kind - taken for kind, taken in zip(kinds, used, strict=True)))


class Contributions(Calculation):
    """Class 4 and class 2. SSCBA 1992 ss. 11, 15; SI 2001/1004."""

    number, name, worksheet = "National Insurance", "National Insurance contributions", True

    @fact("Profits that count")
    def profits(self):
        """Transition profits count. Losses set against income for tax are no matter of class 4: each trade is taken as it is."""
        return total([one.class_4_profit for one in trades_of(self.run) if one.counts_for_class_4])

    @line("a", "Class 4 at the main rate")
    def main(self):
        law = self.law.insurance
        return share(law.class_4, of=excess(least(self.profits, law.upper_limit), over=law.lower_limit))

    @line("b", "Class 4 above the upper limit")
    def above(self):
        law = self.law.insurance
        return share(law.class_4_above, of=excess(self.profits, over=law.upper_limit))

    @line("c", "Class 4", weight="total")
    def class_4(self):
        return total(self.main, self.above)

    @line("d", "Class 2")
    def class_2(self):
        """Due by law until 2023-24 once profits reach the limit; by choice otherwise."""
        law = self.law.insurance
        due = bool(law.class_2_due) and self.profits >= law.class_2_from
        chosen = bool(self.run.single("about").class_2) and bool(trades_of(self.run))
        return when(due or chosen, total(law.class_2_week * law.class_2_weeks), "it is neither due nor paid by choice")


class Charges(Calculation):
    """Child Benefit and student loans. ITEPA 2003 ss. 681B to 681H; SI 2009/470."""

    number, name, worksheet = "Charges", "Child Benefit charge and student loans", True
    income = linked("uk.income")

    @property
    def about(self):
        return self.run.single("about")

    @fact("Percent of the benefit")
    def percent(self):
        law = self.law.child_benefit_charge
        above = excess(self.income.adjusted, over=law["from"])
        return least(full_steps(above, of=law.step), Decimal(100))

    @line("a", "High Income Child Benefit Charge", weight="total")
    def child_benefit(self):
        """Whole pounds, what is less left off: ITEPA 2003 s. 681C(3)."""
        charged = full_pounds(share(self.percent / 100, of=self.about.child_benefit))
        return when(not self.about.partner_earns_more, charged, "the charge is the partner's")

    @fact("Income that counts for loans", cites="SI 2009/470, reg. 29")
    def counted(self):
        """Pay without benefits, and profits; savings, dividends, rents and pensions only where they are above 2,000 together."""
        pay = [total(one.pay, one.tips, less=one.expenses) for one in self.every("uk.sa102")]
        unearned = total(self.income.savings, self.income.dividends, self.income.property, self.income.pensions)
        more = when(unearned > self.law.student_loans.unearned_above, unearned, "it is no more than 2,000")
        return excess(total(pay, self.income.trades, more), over=self.income.contributions)

    @line("b", "Student loan repayment")
    def student_loan(self):
        """Whole pounds; what employers deducted is taken off."""
        plan, law = self.about.loan, self.law.student_loans
        if plan in ("", "none"):
            return when(False, ZERO, "there is no student loan")
        owed = full_pounds(share(law.rate, of=excess(self.counted, over=law[plan])))
        return excess(owed, over=[one.loan_deducted for one in self.papers("employment")])

    @line("c", "Postgraduate loan repayment")
    def postgraduate_loan(self):
        law = self.law.student_loans
        owed = full_pounds(share(law.postgraduate_rate, of=excess(self.counted, over=law.postgraduate)))
        left = excess(owed, over=[one.postgraduate_deducted for one in self.papers("employment")])
        return when(bool(self.about.postgraduate_loan), left, "there is no postgraduate loan")


class Summary(Page):
    """SA110 and what is to be paid when. TMA 1970 ss. 59A, 59B."""

    number, name = "SA110", "Tax calculation summary"
    rounding = staticmethod(Calculation.rounding)
    tax, insurance, charges, main, let = (
        linked("uk.income-tax"), linked("uk.national-insurance"), linked("uk.charges"), linked("uk.sa100"), linked("uk.sa105"),
    )  # fmt: skip
    gains = linked("uk.gains-tax")

    @property
    def about(self):
        return self.run.single("about")

    @fact("Annual allowance charge", cites="FA 2004 s. 227")
    def allowance_charge(self):
        """Less what the scheme pays of it."""
        return total(self.brought("uk.annual-allowance", "charge"), less=self.brought("uk.annual-allowance", "paid_by_scheme"))

    @line("1.1", "Income tax, Child Benefit and pension charges")
    def income_tax(self):
        return total(self.tax.tax, self.charges.child_benefit, self.allowance_charge)

    @fact("Tax taken off at source")
    def deducted(self):
        """On pay, pensions, interest, rents, by contractors; and special withholding tax, which is credited or repaid in full."""
        interest = share(self.main.one_and_a_quarter - 1, of=self.main.interest_taxed)
        pay, trades = [one.tax for one in self.every("uk.sa102")], [one.deducted for one in trades_of(self.run)]
        special = self.run.form("uk.foreign-credit").special
        partners = [one.interest_tax for one in self.every("uk.partnership-profit")]
        return total(pay, self.main.pension_tax, self.main.state_lump_tax, interest, self.let.tax, trades, partners, special)

    @line("3", "Student Loan repayment due")
    def student_loan(self):
        return total(self.charges.student_loan)

    @line("3.1", "Postgraduate Loan repayment due")
    def postgraduate_loan(self):
        return total(self.charges.postgraduate_loan)

    @line("4", "Class 4 National Insurance contributions due")
    def class_4(self):
        return total(self.insurance.class_4)

    @line("4.1", "Class 2 National Insurance contributions due")
    def class_2(self):
        return total(self.insurance.class_2)

    @line("5", "Capital Gains Tax due")
    def gains_tax(self):
        """Less what was paid with returns within sixty days: FA 2019 Sch. 2 para. 15."""
        return excess(self.gains.tax, over=self.gains.paid_already)

    @fact("Paid within sixty days above the tax on gains")
    def gains_overpaid(self):
        return excess(self.gains.paid_already, over=self.gains.tax)

    @line("7", "Underpaid tax of earlier years in the year's tax code")
    def code_earlier(self):
        return total(self.about.code_earlier)

    @line("8", "Underpaid tax of the year in a later tax code")
    def code_later(self):
        return total(self.about.code_later)

    @line("14", "More tax due for an earlier year")
    def earlier_more(self):
        return total(self.about.earlier_more)

    @line("15", "Less tax due for an earlier year")
    def earlier_less(self):
        """What is entered, and what losses of the year that were carried back are worth."""
        return total(self.about.earlier_less, [one.saved_before for one in trades_of(self.run)])

    @fact("All that is charged")
    def charged(self):
        return total(self.income_tax, self.student_loan, self.postgraduate_loan, self.class_4, self.class_2, self.gains_tax)

    @fact("All that is due, with adjustments of codes and earlier years")
    def together(self):
        return total(self.charged, self.code_earlier, self.earlier_more)

    @fact("Tax deducted, and what else is set against it")
    def set_against(self):
        return total(self.deducted, self.code_later, self.earlier_less, self.gains_overpaid)

    @line("1", "Total tax, Student Loan repayment and National Insurance due", weight="total")
    def due(self):
        return excess(self.together, over=self.set_against)

    @line("2", "Tax overpaid", weight="total")
    def overpaid(self):
        return excess(self.set_against, over=self.together)

    @fact("What counts for payments on account", cites="TMA 1970 s. 59A(1), (2), (8); SI 1996/1654")
    def relevant(self):
        """Income tax and class 4 that were not deducted, nor are by a later code; gains, class 2, loans and claims for earlier
        years are settled in January alone."""
        return excess(total(self.income_tax, self.class_4, self.code_earlier), over=total(self.deducted, self.code_later))

    @line("11", "Payments on account for the next year, each", cites="TMA 1970 s. 59A")
    def on_account(self):
        """None where less than 1,000 is due, or more than four fifths were deducted."""
        law = self.law.payments_on_account
        small = self.relevant < law.owed_from
        mostly = self.deducted - self.code_earlier > law.deducted_share * (self.income_tax + self.class_4)
        half = share(Decimal("0.5"), of=self.relevant)
        claimed = least(half, self.about.reduced_to) if self.about.is_keyed("reduced_to") else half
        return when(not small and not mostly, claimed, "too little is due, or nearly all was deducted")

    @fact("Payments on account made")
    def paid(self):
        return total(self.run.single("about").paid_on_account)

    def settled(self):
        """(what is set against what is due, what is due besides): payments on account, or of an amended return what the first
        one came to."""
        if self.run.amends is None:
            return self.paid, ZERO
        return self.as_filed("due"), self.as_filed("overpaid")

    @fact("Repaid")
    def repaid(self):
        against, besides = self.settled()
        return excess(total(self.overpaid, against), over=[self.due, besides])

    @fact("Owed on 31 January")
    def owed(self):
        against, besides = self.settled()
        return excess(total(self.due, besides), over=[self.overpaid, against])

    @fact("Total tax")
    def total_tax(self):
        return total(self.charged)

    @fact("Total income")
    def total_income(self):
        return total(self.run.form("uk.income").total_income)
