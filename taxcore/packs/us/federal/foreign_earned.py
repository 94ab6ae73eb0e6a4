"""Form 2555: income earned abroad and housing there, left out; the tax on the rest, as if they were not. IRC 911."""

from datetime import date
from decimal import ROUND_HALF_UP, Decimal

from taxcore.engine import excess, fact, least, line, linked, nothing_because, pro_rata, ratio, share, times, total
from taxcore.packs.us.balances import HOUSING_ABROAD
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.tax import tax_on

_CENT, _THREE = Decimal("0.01"), 3


def left_out(run):
    """What Form 2555 takes out of income, housing deduction included: what modified adjusted gross incomes add back."""
    return total([one.together for one in run.every("us.2555")])


class ForeignEarnedIncome(FederalForm):
    """Form 2555 of one person. IRC 911."""

    number, name, per = "2555", "Foreign earned income", "person"
    needs = ("foreign-earned",)

    def required(self):
        return self.excluded_net > 0 or self.housing_deduction > 0

    @property
    def paper(self):
        return next(iter(self.papers("foreign-earned", self.key)), None)

    def _of(self, *names):
        paper = self.paper
        return total([getattr(paper, name) for name in names] if paper is not None else ())

    @fact("Days of the qualifying period within the year", cites="IRC 911(d)(1)")
    def qualifying_days(self):
        """None where no test is met."""
        paper = self.paper
        if paper is None or paper.employer_kind == "government":
            return 0
        first, last = _resided(paper, self.year) if paper.test == "residence" else _was_present(paper)
        if first is None:
            return 0
        return max((min(last, date(self.year, 12, 31)) - max(first, date(self.year, 1, 1))).days + 1, 0)

    @property
    def days_in_year(self):
        return (date(self.year + 1, 1, 1) - date(self.year, 1, 1)).days

    @line("19", "Wages, salaries")
    def wages(self):
        return self._of("on_w2", "pay")

    @line("20a", "Business or profession")
    def business(self):
        return self._of("business_income")

    @line("21d", "Noncash income")
    def in_kind(self):
        return self._of("in_kind")

    @line("22g", "Allowances and reimbursements")
    def allowances(self):
        return self._of("allowances")

    @line("24", "Lines 19 through 22g")
    def earned_before(self):
        return total(self.wages, self.business, self.in_kind, self.allowances)

    @line("25", "Meals and lodging excluded", cites="IRC 119")
    def camp(self):
        return least(self._of("camp"), total(self.in_kind, self.allowances))

    @line("26", "Foreign earned income", weight="total")
    def earned(self):
        return total(self.earned_before, less=self.camp)

    @fact("Pay without a W-2")
    def paid_without_statement(self):
        """For Form 1040, line 1h."""
        return excess(self._of("pay", "in_kind", "allowances"), over=self.camp)

    @line("28", "Housing expenses")
    def housing(self):
        return self._of("housing")

    @line("29b", "Limit on housing expenses", cites="IRC 911(c)(2)(A)")
    def housing_limit(self):
        paper, law = self.paper, self.law.foreign_earned
        full = (
            total(paper.housing_limit)
            if paper is not None and paper.is_keyed("housing_limit")
            else share(law.housing_most, of=law.exclusion)
        )
        return pro_rata(full, Decimal(self.qualifying_days), Decimal(self.days_in_year))

    @line("30", "Housing expenses within the limit")
    def housing_within(self):
        return least(of={"housing expenses": self.housing, "limit": self.housing_limit})

    @line("31", "Days in the qualifying period, this year")
    def days(self):
        return total(Decimal(self.qualifying_days))

    @line("32", "Base housing amount", cites="IRC 911(c)(1)(B)")
    def housing_base(self):
        """16% of the exclusion; for part of a year by days, in cents a day."""
        law = self.law.foreign_earned
        if self.qualifying_days == self.days_in_year:
            return share(law.housing_base, of=law.exclusion)
        each = (law.exclusion * law.housing_base / self.days_in_year).quantize(_CENT, ROUND_HALF_UP)
        return times(self.qualifying_days, each, of="days")

    @line("33", "Housing amount")
    def housing_amount(self):
        return excess(self.housing_within, over=self.housing_base)

    @line("34", "Employer-provided amounts")
    def employer_paid(self):
        return least(self._of("employer_paid"), self.earned)

    @line("35", "Employer's part of earned income", rounding=None)
    def employers_part(self):
        if self.earned <= 0:
            return nothing_because("nothing was earned abroad")
        return least(ratio(self.employer_paid, over=self.earned, places=_THREE), 1)

    @line("36", "Housing exclusion", cites="IRC 911(a)(2)")
    def housing_exclusion(self):
        return least(share(self.employers_part, of=self.housing_amount), self.employer_paid)

    @line("37", "Maximum foreign earned income exclusion", cites="IRC 911(b)(2)(D)")
    def most(self):
        return total(self.law.foreign_earned.exclusion)

    @line("38", "Days in the qualifying period, this year")
    def days_again(self):
        return total(self.days)

    @line("39", "Part of the year", rounding=None)
    def part_of_year(self):
        return ratio(self.days_again, over=Decimal(self.days_in_year), places=_THREE)

    @line("40", "Maximum for these days")
    def most_by_days(self):
        return share(self.part_of_year, of=self.most)

    @line("41", "Earned income less housing exclusion")
    def rest(self):
        return excess(self.earned, over=self.housing_exclusion)

    @line("42", "Foreign earned income exclusion", weight="total", cites="IRC 911(a)(1)")
    def exclusion(self):
        if self.qualifying_days == 0:
            return nothing_because("neither the bona fide residence test nor the physical presence test is met")
        return least(of={"limit by days": self.most_by_days, "earned income": self.rest})

    @line("43", "Exclusions together")
    def excluded(self):
        return total(self.housing_exclusion, self.exclusion)

    @line("44", "Deductions allocable to excluded income", cites="IRC 911(d)(6)")
    def deductions(self):
        return least(self._of("deductions"), self.excluded)

    @line("45", "Excluded, net", weight="total")
    def excluded_net(self):
        return total(self.excluded, less=self.deductions)

    @line("46", "Housing amount not excluded")
    def housing_left(self):
        return total(self.housing_amount, less=self.housing_exclusion)

    @line("47", "Earned income not excluded")
    def room(self):
        return excess(self.earned, over=self.excluded)

    @line("48", "Housing deduction of this year", cites="IRC 911(c)(4)(A)")
    def housing_of_year(self):
        return least(self.housing_left, self.room)

    @line("49", "Housing deduction carryover from last year", cites="IRC 911(c)(4)(C)")
    def carried(self):
        return least(self._of("housing_before"), excess(self.room, over=self.housing_of_year))

    @line("50", "Housing deduction", weight="total")
    def housing_deduction(self):
        return total(self.housing_of_year, self.carried)

    @fact("Housing deduction carried to next year", closes=HOUSING_ABROAD)
    def left(self):
        """One year only, and of this year's housing alone."""
        return excess(self.housing_left, over=self.housing_of_year)

    @fact("Left out of adjusted gross income")
    def together(self):
        return total(self.excluded_net, self.housing_deduction)


def _resided(paper, year):
    """(first, last) of an uninterrupted residence that takes in a whole tax year, or (None, None). IRC 911(d)(1)(A)."""
    first, last = paper.residence_from, paper.residence_to or date(year, 12, 31)
    if first is None or last < first:
        return None, None
    whole = first.year if (first.month, first.day) == (1, 1) else first.year + 1
    return (first, last) if last >= date(whole, 12, 31) else (None, None)


def _was_present(paper):
    """(first, last) of twelve months with 330 full days abroad, or (None, None). IRC 911(d)(1)(B)."""
    first, last = paper.presence_from, paper.presence_to
    if first is None or last is None or not is_twelve_months(first, last) or (paper.days_abroad or 0) < LEAST_DAYS:
        return None, None
    return first, last


LEAST_DAYS = 330


def is_twelve_months(first, last):
    """Whether a period is the twelve months from its first day."""
    try:
        ends = first.replace(year=first.year + 1)
    except ValueError:  # from a 29 February
        ends = date(first.year + 1, 3, 1)
    return (ends - last).days == 1


class ForeignEarnedTax(FederalForm):
    """Tax on what is left, at the rates that it would bear above what was left out. IRC 911(f)(1)(A)."""

    number, name, worksheet = "Foreign earned tax", "Foreign earned income tax", True
    needs = ("foreign-earned",)
    income = linked("us.1040")

    def required(self):
        return self.left_out > 0 and self.taxable_income > 0

    @line("1", "Taxable income")
    def taxable_income(self):
        return total(self.income.taxable_income)

    @line("2c", "Form 2555, lines 45 and 50")
    def left_out(self):
        return left_out(self.run)

    @line("3", "Lines 1 and 2c")
    def together(self):
        return total(self.taxable_income, self.left_out)

    @line("4", "Tax on line 3")
    def on_all(self):
        if self.income.tax_method == "table":
            return tax_on(self.together, self.law, self.income.status)
        return total(self.income.tax_by_worksheet)

    @line("5", "Tax on line 2c")
    def on_left_out(self):
        return tax_on(self.left_out, self.law, self.income.status)

    @line("6", "Tax", weight="total")
    def tax(self):
        if self.taxable_income == 0:
            return nothing_because("there is no taxable income")
        return excess(self.on_all, over=self.on_left_out)
