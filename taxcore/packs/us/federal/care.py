"""Form 2441: child and dependent care, with employer's benefits. IRC 21, 129."""

from taxcore.engine import (
    ZERO,
    excess,
    fact,
    greatest,
    least,
    line,
    linked,
    nothing_because,
    pro_rata,
    share,
    steps,
    times,
    total,
)
from taxcore.packs.us.base import FederalForm

_AGE_BELOW = 13
NOBODY_QUALIFIES = "no qualifying person is under 13 or incapable of self-care"


class CareCredit(FederalForm):
    """Credit for the cost of care that lets both earn; part III: benefits of an employer. IRC 21, 129."""

    number, name = "2441", "Credit for child and dependent care expenses"
    income = linked("us.1040")
    more_credits = linked("us.sch-3")

    @classmethod
    def idle(cls, run):
        """No provider was paid, and no employer gave benefits."""
        benefits = any(wage.is_keyed("care_benefits") for wage in run.papers("w2"))
        return not benefits and not run.papers("care") and not run.single("care-questions").is_keyed("carried_in")

    def required(self):
        return self.expenses > 0 or self.benefits_left > 0

    @property
    def questions(self):
        return self.paper("care-questions")

    def _rows(self):
        return [row for paper in self.papers("care") for row in paper.costs if row.person]

    def _qualifies(self, key):
        """A child below 13 for part of the year, or somebody incapable of self-care who lived here for more than half of it."""
        person = next((one for one in self.run.people() if one.key == key), None)
        if person is None or person.role == "taxpayer":
            return False
        if person.role == "spouse":
            return person.needs_care()
        made = self.run.form("us.dependent", key)
        age = person.years_old()
        young = not made.not_a_child and age is not None and age <= _AGE_BELOW
        return young or (person.needs_care() and (person.months_at_home or 0) >= 7)

    @fact("Qualifying persons")
    def persons(self):
        return len({row.person for row in self._rows() if self._qualifies(row.person)})

    @fact("Qualified expenses")
    def expenses(self):
        return total([row.amount for row in self._rows() if self._qualifies(row.person)])

    @fact("Dollar limit", cites="IRC 21(c)")
    def most(self):
        if self.persons == 0:
            return nothing_because(NOBODY_QUALIFIES)
        return total(self.law.care.one if self.persons == 1 else self.law.care.several)

    @fact("Why not allowed")
    def not_allowed(self):
        apart = self.income.status == "separate" and not self.questions.lived_apart
        return "a married taxpayer must file jointly, unless living apart" if apart else ""

    @line("3", "Qualified expenses, limited")
    def counted(self):
        if self.benefits_left > 0:
            return total(self.after_benefits)
        return least(of={"expenses": self.expenses, "most": self.most})

    @line("4", "Taxpayer's earned income")
    def taxpayers_earned(self):
        return total(self.taxpayers_earned_again, self._taxed_benefits("taxpayer"))

    @line("5", "Spouse's earned income")
    def spouses_earned(self):
        """Not married filing jointly: the taxpayer's own again."""
        if self.income.status != "joint":
            return total(self.taxpayers_earned)
        return total(self.spouses_earned_again, self._taxed_benefits("spouse"))

    def _taxed_benefits(self, role):
        """Taxed benefits are wages of whoever was given them, here but not for the exclusion. IRC 32(c)(2)(A)(i), 129(e)(2)."""
        given = [wage.care_benefits for wage in self.papers("w2", role)]
        if self.taxable == 0 or not given:
            return ZERO
        return pro_rata(self.taxable, sum(given, ZERO), self.benefits) if self.benefits > 0 else ZERO

    def _earned(self, role, months):
        """A student or somebody who cannot care for himself counts as earning so much a month. IRC 21(d)(2)."""
        law, own = self.law.care, greatest(self.run.form("us.earned-income", role).earned, 0)
        if not months:
            return own
        each = law.student_month_one if self.persons == 1 else law.student_month_several
        return greatest(of={"earned": own, "student or incapable of self-care": times(months, each, of="months")})

    @line("6", "Smallest of lines 3, 4 and 5")
    def base(self):
        return least(of={"expenses": self.counted, "taxpayer's earned income": self.taxpayers_earned,
                         "spouse's earned income": self.spouses_earned})  # fmt: skip

    @line("7", "Adjusted gross income")
    def agi(self):
        return total(self.income.adjusted_gross_income)

    @line("8", "Decimal amount", rounding=None, cites="IRC 21(a)(2)")
    def rate(self):
        """One point less for each 2,000 begun above 15,000, never below the least; from 2026 a second fall follows."""
        law, status = self.law.care, self.income.status
        first = steps(excess(self.agi, over=law.falls_from), of=law.step)
        if "middle" not in law:
            return greatest(total(law.most, less=first * law.each), law.least)
        second = steps(excess(self.agi, over=law.falls_again_from[status]), of=law.second_step[status])
        middle = greatest(total(law.most, less=first * law.each), law.middle)
        return greatest(total(middle, less=second * law.each), law.least)

    @line("9a", "Credit on this year's expenses")
    def on_costs(self):
        if self.not_allowed:
            return nothing_because(self.not_allowed)
        if self.persons == 0:
            return nothing_because(NOBODY_QUALIFIES)
        if self.spouses_earned == 0 or self.taxpayers_earned == 0:
            who = "taxpayer" if self.taxpayers_earned == 0 else "spouse"
            return nothing_because(f"the {who} has no earned income")
        return share(self.rate, of=self.base)

    @line("9b", "Credit for prior year expenses")
    def on_earlier(self):
        return total(self.questions.prior_year_expenses)

    @line("9c", "Total credit before limit")
    def before_limit(self):
        return total(self.on_costs, self.on_earlier)

    @line("10", "Credit limit")
    def limit(self):
        return excess(self.income.tax_before_credits, over=self.more_credits.foreign)

    @line("11", "Credit", weight="total")
    def credit(self):
        return least(of={"credit": self.before_limit, "credit limit": self.limit})

    # Part III

    @line("12", "Dependent care benefits, W-2 box 10")
    def benefits(self):
        return total([wage.care_benefits for wage in self.papers("w2")])

    @line("13", "Carryover from prior year")
    def carried_in(self):
        return total(self.questions.carried_in)

    @line("14", "Forfeited or carried forward")
    def forfeited(self):
        return total(self.questions.forfeited)

    @line("15", "Benefits less forfeited")
    def benefits_left(self):
        return excess(total(self.benefits, self.carried_in), over=self.forfeited)

    @line("16", "Qualified expenses incurred")
    def incurred(self):
        return total(self.expenses)

    @line("17", "Smaller of the two")
    def within_costs(self):
        return least(self.benefits_left, self.incurred)

    @line("18", "Taxpayer's earned income")
    def taxpayers_earned_again(self):
        return self._earned("taxpayer", self.questions.student_months)

    @line("19", "Spouse's earned income")
    def spouses_earned_again(self):
        if self.income.status != "joint":
            return total(self.taxpayers_earned_again)
        return self._earned("spouse", self.questions.spouse_student_months)

    @line("20", "Smallest of lines 17, 18 and 19")
    def within_earnings(self):
        return least(of={"benefits and expenses": self.within_costs, "taxpayer's earned income": self.taxpayers_earned_again,
                         "spouse's earned income": self.spouses_earned_again})  # fmt: skip

    @line("21", "Maximum exclusion", cites="IRC 129(a)(2)(A)")
    def most_excluded(self):
        return self.law.care.excluded[self.income.status]

    @line("25", "Excluded benefits")
    def excluded(self):
        return least(of={"benefits, expenses and earned income": self.within_earnings, "most": self.most_excluded})

    @line("26", "Taxable benefits", weight="total", cites="IRC 129(a)")
    def taxable(self):
        return excess(self.benefits_left, over=self.excluded)

    @line("27", "Dollar limit")
    def most_again(self):
        return total(self.most)

    @line("28", "Deductible and excluded benefits")
    def used(self):
        return total(self.excluded)

    @line("29", "Dollar limit less benefits")
    def room(self):
        return excess(self.most_again, over=self.used)

    @line("30", "Expenses not paid with benefits")
    def own_costs(self):
        return excess(self.expenses, over=self.used)

    @line("31", "Expenses for the credit")
    def after_benefits(self):
        return least(self.room, self.own_costs)
