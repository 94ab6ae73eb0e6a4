"""Distributions for retirement: what of each is taxed. IRC 72(d), 402(c), 408(d), 408A(d); Form 8606, simplified method."""

from decimal import Decimal

from taxcore.engine import (
    Loop,
    absent,
    excess,
    fact,
    greatest,
    least,
    line,
    linked,
    nothing_because,
    pro_rata,
    ratio,
    share,
    steps,
    times,
    total,
)
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

    @fact("The annuity's beginning is known")
    def applies(self):
        paper = self.statement
        return paper.start is not None and paper.age_at_start is not None and self.cost > 0

    @line("1", "Received this year")
    def received(self):
        return total(self.statement.gross)

    @line("2", "Cost at the start")
    def cost(self):
        paper = self.statement
        return total(paper.total_contributions)

    @line("3", "Expected payments")
    def payments(self):
        if self.statement.age_at_start is None:
            return nothing_because("the age at the start is not known")
        return times(expected_payments(self.statement.age_at_start, self.statement.joint_age_at_start), 1, of="payments")

    @line("4", "Cost in each payment", rounding=None)
    def each(self):
        """In cents, as the worksheet keeps it."""
        return ratio(self.cost, over=self.payments, places=2)

    @line("5", "For the months paid")
    def for_months(self):
        months = self.statement.months_paid
        return times(12 if months is None else months, self.each, of="months")

    @line("6", "Recovered before")
    def recovered(self):
        return total(self.statement.recovered_before)

    @line("7", "Cost left")
    def left(self):
        return excess(self.cost, over=self.recovered)

    @line("8", "Free of tax this year")
    def free(self):
        return least(self.for_months, self.left)

    @line("9", "Taxable", weight="total")
    def taxable(self):
        return excess(self.received, over=self.free)

    @line("10", "Recovered up to now")
    def recovered_now(self):
        return total(self.recovered, self.free)

    @line("11", "Cost to recover later")
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

    @line("2", "Rolled over, converted, given to charity")
    def moved(self):
        paper = self.statement
        return total(paper.rolled_over, paper.converted, paper.charity)

    @line("3", "Taxable on the statement")
    def stated(self):
        paper = self.statement
        codes = paper.codes()
        if _NOT_TAXED_NOW & codes and "8" not in codes:
            return nothing_because("its codes say that it is not income of this year")
        if codes & {"G", "H"} and not paper.is_keyed("taxable"):
            return nothing_because("it went straight into another plan")
        if self.method.applies:
            return total(self.method.taxable)
        if paper.is_keyed("taxable"):
            return total(paper.taxable)
        return excess(paper.gross, over=paper.own_contributions)

    @line("4", "Income, before basis in IRAs", weight="total")
    def income(self):
        if not self.statement.is_keyed("taxable"):
            return excess(self.stated, over=self.moved)
        kept = excess(self.gross, over=self.moved)
        return least(of={"taxable on the statement": self.stated, "kept": kept}) if self.moved > 0 else total(self.stated)


class Basis(FederalForm):
    """Form 8606 of one person: basis in traditional IRAs, conversions, Roth distributions. IRC 408(o), 408A(d)."""

    number, name, per = "8606", "IRAs with basis", "person"
    needs = ("ira", "1099-r")
    income = linked("us.1040")

    def required(self):
        return self.not_deducted > 0 or (self.basis > 0 and self._touched()) or self.conversions > 0 or self.roth_paid > 0

    def _touched(self):
        return self.distributions > 0 or self.conversions > 0

    def _account(self):
        return next(iter(self.papers("ira", self.key)), None)

    def _statements(self, roth):
        return [paper for paper in self.papers("1099-r", self.key) if paper.ira and paper.is_roth() == roth]

    def _of(self, name):
        account = self._account()
        return total(getattr(account, name)) if account is not None else absent("no paper of IRAs is on the return")

    @line("1", "Contributions not deducted")
    def not_deducted(self):
        if self._account() is None:
            return absent("no paper of IRAs is on the return")
        deduction = self.run.form("us.ira-deduction", self.key)
        return least(excess(deduction.paid, over=deduction.deduction), deduction.room)

    @line("2", "Basis of earlier years")
    def basis_before(self):
        return self._of("basis_before")

    @line("3", "Basis")
    def basis(self):
        return total(self.not_deducted, self.basis_before)

    @line("4", "Paid in after the end of the year")
    def after_year(self):
        return least(self._of("paid_after_year"), self.not_deducted)

    @line("5", "Basis for this year")
    def basis_now(self):
        return excess(self.basis, over=self.after_year)

    @line("6", "Value at year end, with outstanding rollovers")
    def value(self):
        return total(self._of("value_at_end"), self._of("repaid"))

    @line("7", "Distributions")
    def distributions(self):
        papers = [p for p in self._statements(roth=False) if not p.codes() & {"G", "N", "R", "6"}]
        kept = [excess(p.gross, over=[p.rolled_over, p.converted, p.charity]) for p in papers]
        return total(kept)

    @line("8", "Converted to Roth IRAs")
    def conversions(self):
        return total([paper.converted for paper in self._statements(roth=False)])

    @line("9", "Together")
    def together(self):
        return total(self.value, self.distributions, self.conversions)

    @line("10", "Share that is basis", rounding=None)
    def basis_share(self):
        """To five places, never above one."""
        if self.together == 0:
            return nothing_because("there is nothing to share it over")
        return least(ratio(self.basis_now, over=self.together, places=5), 1)

    @line("11", "Basis in the conversions")
    def basis_converted(self):
        return share(self.basis_share, of=self.conversions)

    @line("12", "Basis in the distributions")
    def basis_distributed(self):
        return share(self.basis_share, of=self.distributions)

    @line("13", "Basis used")
    def used(self):
        return total(self.basis_converted, self.basis_distributed)

    @line("14", "Basis left for later", weight="total")
    def left(self):
        return excess(self.basis, over=self.used)

    @line("15c", "Taxable distributions")
    def taxable(self):
        return excess(self.distributions, over=self.basis_distributed)

    @line("16", "Converted")
    def converted(self):
        return total(self.conversions)

    @line("17", "Basis in it")
    def converted_basis(self):
        return total(self.basis_converted)

    @line("18", "Taxable conversion")
    def taxable_conversion(self):
        return excess(self.converted, over=self.converted_basis)

    @line("19", "Roth distributions that are not qualified", cites="IRC 408A(d)(2), (4)")
    def roth_paid(self):
        papers = [p for p in self._statements(roth=True) if "Q" not in p.codes()]
        return total([excess(p.gross, over=p.rolled_over) for p in papers])

    @line("22", "Roth contributions")
    def roth_basis(self):
        return self._of("roth_basis")

    @line("23", "Above contributions")
    def above_contributions(self):
        return excess(self.roth_paid, over=self.roth_basis)

    @line("24", "Conversions")
    def conversion_basis(self):
        return self._of("roth_conversion_basis")

    @line("25c", "Taxable Roth distribution")
    def roth_taxable(self):
        return excess(self.above_contributions, over=self.conversion_basis)

    @fact("Income of IRAs")
    def taxable_in_all(self):
        """What Form 1040 line 4b takes: by this form where there is basis or a conversion, else by the statements."""
        if self.distributions == 0 and self.conversions == 0:
            of_traditional = total([self.run.form("us.distribution", p.key).income for p in self._statements(roth=False)])
        elif self.basis > 0 or self.conversions > 0:
            of_traditional = total(self.taxable, self.taxable_conversion)
        else:
            worksheets = [self.run.form("us.distribution", p.key) for p in self._statements(roth=False)]
            of_traditional = total([one.income for one in worksheets])
        return total(of_traditional, self.roth_taxable)


class IraDeduction(FederalForm):
    """Deduction for traditional IRAs of one person. IRC 219(b), (c), (d), (g); worksheet of the instructions."""

    number, name, per, worksheet = "IRA deduction", "IRA deduction", "person", True
    needs = ("ira", "1099-r")
    income = linked("us.1040")
    adjusting = linked("us.sch-1")

    def required(self):
        return self.paid > 0

    def _account(self, role=None):
        return next(iter(self.papers("ira", role or self.key)), None)

    @line("1", "Paid into traditional IRAs")
    def paid(self):
        account = self._account()
        return total(account.traditional) if account is not None else absent("nothing was paid in")

    @line("2", "Most, by age")
    def most(self):
        law, person = self.law.ira, self.person(self.key)
        older = person is not None and (person.age_at_end() or 0) >= law.catch_up_age
        return total(law.limit, law.catch_up) if older else total(law.limit)

    @line("3", "Pay that counts", cites="IRC 219(f)(1), (c)")
    def pay(self):
        """Own earned income; on a joint return also what the spouse has left."""
        own = self.run.form("us.earned-income", self.key)
        if self.income.status != "joint":
            return total(own.compensation)
        other = "spouse" if self.key == "taxpayer" else "taxpayer"
        others_pay = self.run.form("us.earned-income", other).compensation
        account = self._account(other)
        spent = total(account.traditional, account.roth) if account is not None else 0
        return total(own.compensation, excess(others_pay, over=spent) if others_pay > own.compensation else 0)

    @line("4", "Most that may be paid into traditional IRAs")
    def room(self):
        return least(of={"most, by age": self.most, "pay that counts": self.pay})

    @fact("Covered by a plan at work", cites="IRC 219(g)(5)")
    def covered(self):
        account = self._account()
        if account is not None:
            return bool(account.covered)
        return any(wage.retirement_plan for wage in self.papers("w2", self.key))

    @fact("Spouse is covered")
    def spouse_covered(self):
        other = "spouse" if self.key == "taxpayer" else "taxpayer"
        return self.income.status == "joint" and self.run.form("us.ira-deduction", other).covered

    @fact("Modified adjusted gross income", cites="IRC 219(g)(3)")
    def modified_agi(self):
        """With taxable benefits worked out as if no IRA were deducted, which is how Pub. 590-A breaks the circle."""
        before = total(self.income.income_without_benefits, self.brought("us.benefits", "taxable_without_ira"))
        return total(before, less=self.adjusting.without_ira)

    @fact("Income where the limit falls, and over how much")
    def falls(self):
        law, status = self.law.ira, self.income.status
        if status == "separate" and self.paper("filing").lived_apart:
            status = "single"
        if self.covered:
            return law.covered_from[status], law.covered_range[status]
        if self.spouse_covered:
            return law.spouse_covered.begins, law.spouse_covered.range
        if status == "separate" and self.paper("filing").spouse_covered:
            return law.covered_from[status], law.covered_range[status]
        return None

    @line("5", "Most that may be deducted")
    def limit(self):
        """Reduced in proportion, rounded up to ten, at least 200 while anything is left. IRC 219(g)(2)."""
        if self.falls is None:
            return total(self.room)
        begins, width = self.falls
        above = excess(self.modified_agi, over=begins)
        if above >= width:
            return nothing_because("income is above the range for people covered by a plan", self.modified_agi)
        if above == 0:
            return total(self.room)
        left = pro_rata(self.most, width - above, width)
        return least(of={"reduced limit": self._rounded_up(left), "may be paid in": self.room})

    @line("6", "Deduction", weight="total", loop=Loop(Decimal(1)))
    def deduction(self):
        """What is not deducted is basis, basis lowers taxable distributions, and those count in the income that limits this."""
        account = self._account()
        if account is None:
            return absent("nothing was paid in")
        wanted = excess(self.paid, over=account.not_deducted)
        return least(of={"paid in": wanted, "most that may be deducted": self.limit})

    @fact("Most that may be paid into Roth IRAs", cites="IRC 408A(c)(3)")
    def roth_room(self):
        """For people whose income is inside or above the range it falls; used for excess contributions."""
        law, status = self.law.ira, self.income.status
        if status == "separate" and self.paper("filing").lived_apart:
            status = "single"
        left = excess(self.room, over=self.paid)
        above = excess(self.income.adjusted_gross_income, over=[self._conversion_income(), law.roth_from[status]])
        width = law.roth_range[status]
        if above >= width:
            return nothing_because("income is above the range for Roth IRAs")
        if above == 0:
            return left
        return least(self._rounded_up(pro_rata(self.most, width - above, width)), left)

    def _rounded_up(self, amount):
        """To the next ten, at least 200. IRC 219(g)(2)(B), (C)."""
        law = self.law.ira
        return greatest(
            of={"rounded up": times(steps(amount, of=law.round_up_to), law.round_up_to, of="tens"), "least": law.least}
        )

    def _conversion_income(self):
        return self.run.form("us.8606", self.key).taxable_conversion


class Benefits(FederalForm):
    """Taxable social security benefits. Worksheet of the instructions; IRC 86."""

    number, name, worksheet = "Benefits", "Social security benefits", True
    needs = ("ssa-1099",)
    income = linked("us.1040")
    adjusting = linked("us.sch-1")

    def required(self):
        return self.received != 0

    @fact("Filing apart after living together")
    def apart_but_together(self):
        return self.income.status == "separate" and not self.paper("filing").lived_apart

    @line("1", "Benefits")
    def received(self):
        return total([paper.net for paper in self.papers("ssa-1099")])

    @line("2", "Half of them")
    def half(self):
        return share(self.law.benefits.first_share, of=self.received)

    @line("3", "Other income")
    def other_income(self):
        return total(self.income.income_without_benefits)

    @line("4", "Tax-exempt interest")
    def exempt(self):
        return total(self.income.exempt_interest)

    @line("5", "Together")
    def together(self):
        return total(self.half, self.other_income, self.exempt)

    @line("6", "Adjustments")
    def adjustments(self):
        return total(self.adjusting.before_student_loans)

    @line("7", "Income for this purpose")
    def provisional(self):
        return excess(self.together, over=self.adjustments)

    @line("8", "First threshold")
    def base(self):
        return self._law_for("base")

    @line("9", "Above it")
    def above(self):
        return excess(self.provisional, over=self.base)

    @line("10", "Between the thresholds")
    def between(self):
        return total(self._law_for("adjusted_base"), less=self.base)

    @line("11", "Above both")
    def above_both(self):
        return excess(self.above, over=self.between)

    @line("12", "Up to the second")
    def below_second(self):
        return least(self.above, self.between)

    @line("13", "Half of that")
    def half_between(self):
        return share(self.law.benefits.first_share, of=self.below_second)

    @line("14", "Smaller of lines 2 and 13")
    def lower_part(self):
        return least(self.half, self.half_between)

    @line("15", "85% of what is above both")
    def upper_part(self):
        return share(self.law.benefits.most_share, of=self.above_both)

    @line("16", "Together")
    def taxable_before_limit(self):
        return total(self.lower_part, self.upper_part)

    @line("17", "85% of the benefits")
    def limit(self):
        return share(self.law.benefits.most_share, of=self.received)

    @line("18", "Taxable benefits", weight="total")
    def taxable(self):
        if self.received <= 0:
            return nothing_because("no benefits were received", self.received)
        if self.taxable_before_limit == 0:
            return nothing_because("income is not above the first threshold", self.provisional)
        found = {"by income": self.taxable_before_limit, "85% of the benefits": self.limit}
        lump_sum = [paper.lump_sum_taxable for paper in self.papers("ssa-1099") if paper.is_keyed("lump_sum_taxable")]
        return least(of=found | ({"lump-sum election": total(lump_sum)} if lump_sum else {}))

    @fact("Taxable benefits as if no IRA were deducted")
    def taxable_without_ira(self):
        if self.received <= 0:
            return nothing_because("no benefits were received")
        adjusted = excess(self.together, over=self.adjusting.without_ira)
        above = excess(adjusted, over=self.base)
        lower = least(self.half, share(self.law.benefits.first_share, of=least(above, self.between)))
        upper = share(self.law.benefits.most_share, of=excess(above, over=self.between))
        return self.rounding(least(total(lower, upper), self.limit))

    def _law_for(self, name):
        status = self.income.status
        if status == "separate" and not self.apart_but_together:
            status = "single"
        return self.law.benefits[name][status]


class AdditionalRetirementTax(FederalForm):
    """Form 5329 of one person: early distributions, excess contributions. IRC 72(t), 4973, 530(d)(4)."""

    number, name, per = "5329", "Additional taxes on retirement and savings accounts", "person"
    needs = ("1099-r", "1099-q", "ira", "hsa")

    def required(self):
        """Not where every early distribution has code 1 and no exception: then only Schedule 2 line 8 is filled."""
        more = self.excepted > 0 or self.account_tax > 0 or self.simple > 0
        return more or self.ira_tax > 0 or self.roth_tax > 0 or self.savings_tax > 0

    def _early(self):
        for paper in self.papers("1099-r", self.key):
            if {"1", "J", "S"} & paper.codes():
                yield paper

    def _income(self, paper):
        if paper.is_roth():
            return self.run.form("us.8606", self.key).roth_taxable
        return self.run.form("us.distribution", paper.key).income

    @line("1", "Early distributions in income")
    def early(self):
        """Roth distributions count once for all statements of the person, since Form 8606 works them out together."""
        papers = list(self._early())
        ordinary = [self._income(paper) for paper in papers if not paper.is_roth()]
        roth = [paper for paper in papers if paper.is_roth()]
        return total(ordinary, self._income(roth[0]) if roth else 0)

    @line("2", "Of them, excepted", cites="IRC 72(t)(2)")
    def excepted(self):
        rows = []
        for paper in self._early():
            if paper.exception:
                whole = self._income(paper)
                rows.append(least(paper.excepted, whole) if paper.is_keyed("excepted") else total(whole))
        return total(rows)

    @line("3", "Taxed in addition")
    def taxed(self):
        return excess(self.early, over=self.excepted)

    @fact("Of it, from a SIMPLE in its first two years")
    def simple(self):
        return total([self._income(paper) for paper in self._early() if "S" in paper.codes() and not paper.exception])

    @line("4", "Additional tax", cites="IRC 72(t)(1), (6)")
    def early_tax(self):
        law = self.law.early_distributions
        return total(share(law.rate, of=excess(self.taxed, over=self.simple)), share(law.simple_rate, of=self.simple))

    @line("5", "Education accounts in income")
    def accounts(self):
        return total([paper.taxable() for paper in self.papers("1099-q", self.key)])

    @line("6", "Of them, excepted")
    def accounts_excepted(self):
        return least(total([paper.no_additional_tax for paper in self.papers("1099-q", self.key)]), self.accounts)

    @line("7", "Taxed in addition")
    def accounts_taxed(self):
        return excess(self.accounts, over=self.accounts_excepted)

    @line("8", "Additional tax, education accounts", cites="IRC 530(d)(4)")
    def account_tax(self):
        return share(self.law.early_distributions.rate, of=self.accounts_taxed)

    @line("9", "Traditional: excess of earlier years")
    def ira_before(self):
        return total([paper.excess_before for paper in self.papers("ira", self.key)])

    @line("10", "Room this year")
    def ira_room(self):
        deduction = self.run.form("us.ira-deduction", self.key)
        return excess(deduction.room, over=deduction.paid)

    @line("15", "Excess paid in this year")
    def ira_excess(self):
        deduction = self.run.form("us.ira-deduction", self.key)
        return excess(deduction.paid, over=deduction.room)

    @line("16", "Excess in all")
    def ira_excess_all(self):
        return total(excess(self.ira_before, over=self.ira_room), self.ira_excess)

    @line("17", "6% of it, or of the value if smaller", cites="IRC 4973(a)")
    def ira_tax(self):
        value = total([paper.value_at_end for paper in self.papers("ira", self.key)])
        taxed = least(self.ira_excess_all, value) if value > 0 else total(self.ira_excess_all)
        return share(self.law.early_distributions.excess_rate, of=taxed)

    @line("18", "Roth: excess of earlier years")
    def roth_before(self):
        return total([paper.roth_excess_before for paper in self.papers("ira", self.key)])

    @line("23", "Roth: excess paid in this year")
    def roth_excess(self):
        paid = total([paper.roth for paper in self.papers("ira", self.key)])
        return excess(paid, over=self.run.form("us.ira-deduction", self.key).roth_room)

    @line("24", "Roth: excess in all")
    def roth_excess_all(self):
        paid = total([paper.roth for paper in self.papers("ira", self.key)])
        room = excess(self.run.form("us.ira-deduction", self.key).roth_room, over=paid)
        return total(excess(self.roth_before, over=room), self.roth_excess)

    @line("25", "6% of it", cites="IRC 4973(f)")
    def roth_tax(self):
        return share(self.law.early_distributions.excess_rate, of=self.roth_excess_all)

    @line("48", "Health savings: excess in all")
    def savings_excess(self):
        return self.brought("us.8889", "excess_left", self.key)

    @line("49", "6% of it", cites="IRC 4973(g)")
    def savings_tax(self):
        return share(self.law.early_distributions.excess_rate, of=self.savings_excess)

    @fact("All of the form")
    def tax(self):
        return total(self.early_tax, self.account_tax, self.ira_tax, self.roth_tax, self.savings_tax)
