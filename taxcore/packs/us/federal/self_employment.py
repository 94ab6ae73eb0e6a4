"""Schedule SE, earned income and plans of the self-employed, for each person. IRC 1401, 32(c)(2), 404."""

from decimal import Decimal

from taxcore.engine import ZERO, absent, excess, fact, greatest, least, line, linked, nothing_because, pro_rata, share, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.trades import TRADES

_HALF = Decimal("0.5")


class SelfEmploymentTax(FederalForm):
    """Schedule SE of one person, with the optional methods. IRC 1401, 1402. Church pay has no paper yet."""

    number, name, per = "Schedule SE", "Self-employment tax", "person"
    needs = (*TRADES, "k1-1065")

    def required(self):
        return self.tax > 0

    def _mine(self, code):
        return [one for one in self.every(code) if one.earner == self.key and not one.is_statutory]

    @fact("Net farm profit")
    def farm_profit(self):
        return total([one.profit for one in self._mine("us.sch-f")])

    @fact("Net nonfarm profit")
    def other_profit(self):
        shares = [self._of_share(share_) for share_ in self.papers("k1-1065", self.key)]
        return total([one.profit for one in self._mine("us.sch-c")], shares)

    @line("1a", "Net farm profit or (loss)")
    def farm(self):
        """Nothing where the optional method takes its place."""
        return nothing_because("the farm optional method is used") if self.farm_optional else total(self.farm_profit)

    @line("1b", "Conservation Reserve Program payments", cites="IRC 1402(a)(1)")
    def reserve(self):
        """Of people with benefits of Social Security they are none of these earnings."""
        if self.farm_optional or not self.papers("ssa-1099", self.key):
            return nothing_because("no benefits are received, or the farm optional method is used")
        return total(less=[one.books.reserve for one in self._mine("us.sch-f")])

    @line("2", "Net profit or (loss)")
    def profit(self):
        return nothing_because("the nonfarm optional method is used") if self.other_optional else total(self.other_profit)

    @line("3", "Combined net profit")
    def together(self):
        return total(self.farm, self.reserve, self.profit)

    @line("4a", "Net earnings, 92.35%")
    def earnings(self):
        if self.together <= 0:
            return total(self.together)
        return share(self.law.self_employment.share, of=self.together)

    @line("4b", "Optional methods", cites="IRC 1402(a)")
    def optional(self):
        return total(self.farm_optional, self.other_optional)

    @line("4c", "Combined, if 400 or more", cites="IRC 1402(b)(2)")
    def taxed(self):
        both = total(self.earnings, self.optional)
        if both < self.law.self_employment.least:
            return nothing_because("earnings are under $400", both)
        return total(both)

    @line("6", "Self-employment earnings")
    def net_earnings(self):
        return total(self.taxed)

    @line("7", "Maximum subject to Social Security tax")
    def base(self):
        return self.law.payroll.wage_base

    @line("8a", "Social Security wages and tips")
    def wages(self):
        papers = self.papers("w2", self.key)
        return total([p.social_security_wages for p in papers], [p.social_security_tips for p in papers])

    @line("8b", "Unreported tips")
    def tips(self):
        return self.brought("us.4137", "within", self.key)

    @line("8d", "Total Social Security wages")
    def wages_together(self):
        return total(self.wages, self.tips)

    @line("9", "Maximum less wages")
    def room(self):
        return excess(self.base, over=self.wages_together)

    @line("10", "12.4% of the smaller")
    def social_security(self):
        return share(self.law.self_employment.social_security_rate, of=least(self.net_earnings, self.room))

    @line("11", "2.9% of earnings")
    def medicare(self):
        return share(self.law.self_employment.medicare_rate, of=self.net_earnings)

    @line("12", "Self-employment tax", weight="total")
    def tax(self):
        if self.net_earnings == 0:
            earned = total(self.together, self.optional) > 0
            return total(self.taxed) if earned else nothing_because("there are no self-employment earnings")
        return total(self.social_security, self.medicare)

    @line("13", "Deduction for one-half", cites="IRC 164(f)")
    def half(self):
        return share(_HALF, of=self.tax)

    @line("14", "Maximum income of optional methods", cites="IRC 1402(l)")
    def optional_most(self):
        """Four quarters of coverage."""
        return total(self.law.self_employment.optional_most)

    def _low_profit(self):
        """What a profit must be below: its 92.35% below the maximum."""
        return pro_rata(self.optional_most, 1, self.law.self_employment.share)

    @line("15", "Farm optional method", cites="IRC 1402(a)")
    def farm_optional(self):
        """Two thirds of gross farm income, where that is no more than half above the maximum or the profit is low."""
        mine = [one for one in self._mine("us.sch-f") if one.books.optional_method]
        if not mine:
            return nothing_because("it is not chosen")
        gross = total([one.gross_income for one in mine])
        if gross > self.optional_most * _HALF * 3 and self.farm_profit >= self._low_profit():
            return nothing_because("the farm's profit is too high")
        return least(pro_rata(excess(gross, over=0), 2, 3), self.optional_most)

    @line("16", "Left for the nonfarm optional method")
    def optional_left(self):
        return excess(self.optional_most, over=self.farm_optional)

    @line("17", "Nonfarm optional method", cites="IRC 1402(a)")
    def other_optional(self):
        """Where the profit is low, and below 72.189% of gross income."""
        mine = [one for one in self._mine("us.sch-c") if one.books.optional_method]
        if not mine:
            return nothing_because("it is not chosen")
        gross = total([one.gross_income for one in mine])
        low = least(self._low_profit(), share(self.law.self_employment.optional_profit, of=gross))
        if self.other_profit >= low:
            return nothing_because("the profit is too high")
        return least(pro_rata(excess(gross, over=0), 2, 3), self.optional_left)

    def _of_share(self, paper):
        return total(paper.self_employment, less=[paper.unreimbursed, self.run.form("us.share", paper.key).section_179])


class EarnedIncome(FederalForm):
    """What one person earned, for everything that depends on it. IRC 32(c)(2), 219(f)(1), 21(d), 24(d)."""

    number, name, per, worksheet = "Earned income", "Earned income", "person", True
    income = linked("us.1040")

    def required(self):
        return False

    def _wages(self):
        return self.papers("w2", self.key)

    @line("1", "Wages")
    def wages(self):
        employed = [wage.wages for wage in self._wages() if not wage.statutory_employee]
        others = self.papers("other-income", self.key)
        disabled = [p for p in self.papers("1099-r", self.key) if p.disability_pension]
        own = [total(p.household_wages, p.other_earned, p.medicaid_waiver) for p in others]
        more = (own, [p.gross for p in disabled], self.brought("us.3903", "income", self.key))
        abroad = self.brought("us.2555", "paid_without_statement", self.key)
        if not (employed or others or disabled or abroad):
            person = self.person(self.key)
            return absent(f"{person.title if person else self.key} has no W-2")
        return total(employed, self.brought("us.4137", "unreported", self.key), abroad, more)

    @line("2", "Nonqualified plan amounts in wages")
    def deferred(self):
        return total([wage.nonqualified_plans for wage in self._wages()])

    @line("3", "Net earnings from self-employment")
    def own_business(self):
        own = total(self.brought("us.sch-se", "together", self.key), self.brought("us.sch-se", "optional", self.key))
        return total(own, less=self.brought("us.sch-se", "half", self.key))

    @line("4", "Statutory employee's profit")
    def statutory(self):
        """Pay that a business reports as receipts, less its costs."""
        return total([one.profit for one in self.every("us.sch-c") if one.earner == self.key and one.is_statutory])

    @line("4a", "Foreign earned income excluded", cites="IRC 911(a)")
    def excluded(self):
        return self.brought("us.2555", "excluded", self.key)

    @line("5", "Earned income", weight="total")
    def earned(self):
        return total(self.wages, self.own_business, self.statutory, less=[self.deferred, self.excluded])

    @fact("Nontaxable combat pay")
    def combat_pay(self):
        return total([p.combat_pay for p in self.papers("other-income", self.key)])

    @fact("Compensation for IRAs", cites="IRC 219(f)(1)")
    def compensation(self):
        """Wages and a profit, less half the tax on it and payments into plans; alimony under old agreements; combat pay."""
        others = self.papers("other-income", self.key)
        profit = excess(total(self.own_business), over=self.brought("us.plans", "deduction", self.key))
        pay = excess(self.wages, over=self.deferred)
        return total(excess(total(pay, profit), over=self.excluded), [p.alimony for p in others], self.combat_pay)


class Plans(FederalForm):
    """Deduction of the self-employed for SEP, SIMPLE and 401(k), of one person. IRC 404(a)(8), 404(h), 408(p), 415(c)."""

    number, name, per, worksheet = "Plans", "Self-employed retirement plans", "person", True
    needs = (*TRADES, "k1-1065")

    def required(self):
        return self.paid > 0

    def _books(self):
        return [paper for kind in TRADES for paper in self.papers(kind, self.key)]

    @line("1", "Net earnings less half of SE tax")
    def earnings(self):
        schedule = self.run.form("us.sch-se", self.key)
        return excess(total(schedule.together, schedule.optional), over=schedule.half)

    @line("2", "Employer contributions")
    def by_employer(self):
        shares = [paper.sep for paper in self.papers("k1-1065", self.key)]
        return total([total(books.sep, books.profit_sharing) for books in self._books()], shares)

    @line("3", "Limit", cites="IRC 404(a)(8)(D), 401(a)(17)")
    def employer_limit(self):
        """A quarter of what is left after it, which is a fifth of what there is before."""
        law = self.law.plans
        return least(of={"20% of net earnings": share(law.share, of=least(self.earnings, law.pay)), "most": law.additions})

    @fact("50 or older")
    def is_older(self):
        person = self.person(self.key)
        return person is not None and (person.age_at_end() or 0) >= 50

    @line("4", "Elective deferrals")
    def deferred(self):
        return total([books.deferral for books in self._books()])

    @line("5", "Limit", cites="IRC 402(g), 414(v)")
    def deferral_limit(self):
        """What employers' plans took this year counts against it."""
        law = self.law.deferrals
        spent = [total(wage.coded({"D", "E", "F", "S", "AA", "BB"})) for wage in self.papers("w2", self.key)]
        most = total(law.limit, law.catch_up if self.is_older else 0)
        return excess(least(most, self.earnings), over=spent)

    @line("5a", "SIMPLE")
    def simple(self):
        return total([books.simple for books in self._books()])

    @line("5b", "Limit", cites="IRC 408(p)(2)")
    def simple_limit(self):
        """The deferral, and the employer's 3% of net earnings beside it."""
        law = self.law.plans
        own = total(law.simple, law.simple_catch_up if self.is_older else 0)
        match = share(law.simple_match, of=greatest(self.run.form("us.sch-se", self.key).earnings, 0))
        return least(total(own, match), self.earnings)

    @line("6", "Total contributions")
    def paid(self):
        return total(self.by_employer, self.deferred, self.simple)

    @line("7", "Deduction", weight="total")
    def deduction(self):
        law = self.law
        plan = total(least(self.by_employer, self.employer_limit), least(self.deferred, self.deferral_limit))
        most = total(law.plans.additions, law.deferrals.catch_up if self.is_older else 0)
        within = total(least(of={"within each limit": plan, "overall limit": most}), least(self.simple, self.simple_limit))
        return least(of={"within the limits": within, "earnings": self.earnings})

    def of_paper(self, key):
        """The part of one business, for its qualified income: as much as was paid through it, in the share allowed."""
        paid = sum((total(b.sep, b.profit_sharing, b.deferral, b.simple) for b in self._books() if b.key == key), ZERO)
        paid += sum((p.sep for p in self.papers("k1-1065", self.key) if p.key == key), ZERO)
        return pro_rata(self.deduction, paid, self.paid)
