"""Distributions for retirement: how much of each is income. Simplified method and a worksheet of our own. IRC 72, 402."""

from taxcore.engine import excess, fact, least, line, nothing_because, ratio, times, total
from taxcore.packs.us.balances import COST_RECOVERED
from taxcore.packs.us.base import FederalForm

# Expected payments by age at the start. IRC 72(d)(1)(B)(iii), (iv)
_ONE_LIFE = ((55, 360), (60, 310), (65, 260), (70, 210), (999, 160))
_TWO_LIVES = ((110, 410), (120, 360), (130, 310), (140, 260), (999, 210))
_NOT_TAXED_NOW = frozenset("6NRP")


def expected_payments(age, other_age=None):
    """Number of monthly payments over which the cost is recovered."""
    table, reached = (_ONE_LIFE, age) if other_age is None else (_TWO_LIVES, age + other_age)
    return next(number for up_to, number in table if reached <= up_to)


class _OfDistribution(FederalForm):
    per, worksheet = "1099-r", True

    @property
    def statement(self):
        return self.run.by_key(("1099-r",), self.key)


class SimplifiedMethod(_OfDistribution):
    """Cost of an annuity recovered month by month. Worksheet of the instructions; IRC 72(d)(1)."""

    number, name = "Simplified method", "Simplified method"

    def required(self):
        return self.applies

    @fact("Annuity starting date is entered")
    def applies(self):
        paper = self.statement
        return paper.start is not None and paper.age_at_start is not None and self.cost > 0

    @line("1", "Received this year")
    def received(self):
        return total(self.statement.gross)

    @line("2", "Cost at annuity starting date")
    def cost(self):
        paper = self.statement
        return total(paper.total_contributions)

    @line("3", "Number of expected payments")
    def payments(self):
        if self.statement.age_at_start is None:
            return nothing_because("the age at the annuity starting date is not entered")
        return times(expected_payments(self.statement.age_at_start, self.statement.joint_age_at_start), 1, of="payments")

    @line("4", "Cost per payment", rounding=None)
    def each(self):
        """In cents, as the worksheet keeps it."""
        return ratio(self.cost, over=self.payments, places=2)

    @line("5", "Times months paid")
    def for_months(self):
        months = self.statement.months_paid
        return times(12 if months is None else months, self.each, of="months")

    @line("6", "Recovered in prior years")
    def recovered(self):
        return total(self.statement.recovered_before)

    @line("7", "Cost remaining")
    def left(self):
        return excess(self.cost, over=self.recovered)

    @line("8", "Tax-free this year")
    def free(self):
        return least(self.for_months, self.left)

    @line("9", "Taxable", weight="total")
    def taxable(self):
        return excess(self.received, over=self.free)

    @line("10", "Recovered to date", closes=COST_RECOVERED)
    def recovered_now(self):
        return total(self.recovered, self.free)

    @line("11", "Unrecovered cost")
    def later(self):
        return excess(self.cost, over=self.recovered_now)


class Distribution(_OfDistribution):
    """One distribution that is not from a Roth IRA: how much of it is income. IRC 72, 402. Our own worksheet."""

    number, name = "Distribution", "Retirement distribution"
    method = property(lambda form: form.run.form("us.simplified-method", form.key))

    def required(self):
        return not self.statement.is_roth()

    @line("1", "Gross distribution")
    def gross(self):
        return total(self.statement.gross)

    @line("2", "Rolled over, converted, QCD")
    def moved(self):
        paper = self.statement
        return total(paper.rolled_over, paper.converted, paper.charity)

    @line("3", "Taxable per Form 1099-R")
    def stated(self):
        paper = self.statement
        codes = paper.codes()
        if _NOT_TAXED_NOW & codes and "8" not in codes:
            return nothing_because("its codes say it is not taxed this year")
        if codes & {"G", "H"} and not paper.is_keyed("taxable"):
            return nothing_because("it was a direct rollover")
        if self.method.applies:
            return total(self.method.taxable)
        if paper.is_keyed("taxable"):
            return total(paper.taxable)
        return excess(paper.gross, over=paper.own_contributions)

    @line("4", "Taxable amount before IRA basis", weight="total")
    def income(self):
        if not self.statement.is_keyed("taxable"):
            return excess(self.stated, over=self.moved)
        kept = excess(self.gross, over=self.moved)
        return least(of={"taxable per Form 1099-R": self.stated, "kept": kept}) if self.moved > 0 else total(self.stated)
