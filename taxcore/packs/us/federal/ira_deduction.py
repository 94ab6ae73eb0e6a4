"""Deduction for traditional IRAs, and the room for Roth IRAs. IRC 219, 408A(c)."""

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
    steps,
    times,
    total,
)
from taxcore.packs.us.base import FederalForm


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

    @line("1", "Traditional IRA contributions")
    def paid(self):
        account = self._account()
        return total(account.traditional) if account is not None else absent("there are no contributions")

    @line("2", "Contribution limit by age")
    def most(self):
        law, person = self.law.ira, self.person(self.key)
        older = person is not None and (person.age_at_end() or 0) >= law.catch_up_age
        return total(law.limit, law.catch_up) if older else total(law.limit)

    @line("3", "Compensation", cites="IRC 219(f)(1), (c)")
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

    @line("4", "Maximum contribution")
    def room(self):
        return least(of={"contribution limit": self.most, "compensation": self.pay})

    @fact("Covered by a plan at work", cites="IRC 219(g)(5)")
    def covered(self):
        """By an employer's plan, or by one's own: a SEP, SIMPLE, deferrals or a profit sharing plan of one's business."""
        if self._own_plan():
            return True
        account = self._account()
        if account is not None:
            return bool(account.covered)
        return any(wage.retirement_plan for wage in self.papers("w2", self.key))

    def _own_plan(self):
        if self.run.is_idle("us.plans"):
            return False
        plans = self.run.form("us.plans", self.key)
        return plans.by_employer > 0 or plans.deferred > 0 or plans.simple > 0

    @fact("Spouse is covered by a plan at work")
    def spouse_covered(self):
        other = "spouse" if self.key == "taxpayer" else "taxpayer"
        return self.income.status == "joint" and self.run.form("us.ira-deduction", other).covered

    @fact("Modified adjusted gross income", cites="IRC 219(g)(3)")
    def modified_agi(self):
        """With taxable benefits worked out as if no IRA were deducted, which is how Pub. 590-A breaks the circle."""
        bonds = self.income.interest.education_bonds
        before = total(self.income.income_without_benefits, bonds, self.brought("us.benefits", "taxable_without_ira"))
        return total(before, self.income.left_out_abroad, less=self.adjusting.without_ira)

    @fact("Phaseout range")
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

    @line("5", "Maximum deduction")
    def limit(self):
        """Reduced in proportion, rounded up to ten, at least 200 while anything is left. IRC 219(g)(2)."""
        if self.falls is None:
            return total(self.room)
        begins, width = self.falls
        above = excess(self.modified_agi, over=begins)
        if above >= width:
            return nothing_because("income exceeds the phaseout for active participants", self.modified_agi)
        if above == 0:
            return total(self.room)
        left = pro_rata(self.most, width - above, width)
        return least(of={"reduced limit": self._rounded_up(left), "maximum contribution": self.room})

    @line("6", "Deduction", weight="total", loop=Loop(Decimal(1)))
    def deduction(self):
        """What is not deducted is basis, basis lowers taxable distributions, and those count in the income that limits this."""
        account = self._account()
        if account is None:
            return absent("there are no contributions")
        wanted = excess(self.paid, over=account.not_deducted)
        return least(of={"paid in": wanted, "maximum deduction": self.limit})

    @fact("Maximum Roth contribution", cites="IRC 408A(c)(3)")
    def roth_room(self):
        """For people whose income is inside or above the range it falls; used for excess contributions."""
        law, status = self.law.ira, self.income.status
        if status == "separate" and self.paper("filing").lived_apart:
            status = "single"
        left = excess(self.room, over=self.paid)
        income = total(
            self.income.adjusted_gross_income, self.income.left_out_abroad, self.adjusting.ira, self.adjusting.student_loans
        )
        above = excess(income, over=[self._conversion_income(), law.roth_from[status]])
        width = law.roth_range[status]
        if above >= width:
            return nothing_because("income exceeds the phaseout for Roth IRAs")
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
        """Of both on a joint return: the income that limits each is the couple's. IRC 408A(c)(3)(B)(i)."""
        return total([self.run.form("us.8606", person.role).taxable_conversion for person in self.income.filers])
