"""Form 3800 and the everyday credits behind it: Forms 5884, 8826, 8846, 8881. IRC 38, 39, 44, 45B, 45E, 45T, 51."""

from decimal import Decimal

from taxcore.engine import ZERO, excess, fact, greatest, least, line, linked, nothing_because, share, times, total, whole
from taxcore.packs.us.balances import BUSINESS_CREDIT
from taxcore.packs.us.base import FederalForm, from_paper

OTHER, SPECIFIED = "other", "specified"


class _Credit(FederalForm):
    """One credit: there when something of it was entered."""

    @classmethod
    def idle(cls, run):
        return not run.single("business-credits").values

    @property
    def entered(self):
        return self.run.single("business-credits")

    def required(self):
        return self.credit > 0


class WorkOpportunity(_Credit):
    """Form 5884. IRC 51(a), (e), (i)(3)."""

    number, name = "5884", "Work opportunity credit"

    @line("1a", "25% of wages of those who worked 120 to 399 hours")
    def short(self):
        return share(self.law.business_credits.work_short, of=self.entered.wages_short)

    @line("1b", "40% of wages of those who worked 400 hours or more")
    def long(self):
        return share(self.law.business_credits.work_long, of=self.entered.wages_long)

    @line("1c", "50% of second-year wages")
    def second(self):
        return share(self.law.business_credits.work_second, of=self.entered.wages_second)

    @line("2", "Current year credit, by which the wages are reduced", cites="IRC 280C(a)")
    def together(self):
        return total(self.short, self.long, self.second)

    @line("6", "Work opportunity credit", weight="total")
    def credit(self):
        return total(self.together)


class EmployerTips(_Credit):
    """Form 8846. IRC 45B: the employer's part of the tax on tips above those that the minimum wage counts."""

    number, name = "8846", "Credit for employer social security and Medicare taxes on tips"

    tips = from_paper("1", "tips", "Tips received by employees", of="entered")
    counted = from_paper("2", "tips_to_minimum", "Tips not subject to the credit", of="entered")

    @line("3", "Creditable tips")
    def creditable(self):
        return excess(self.tips, over=self.counted)

    @line("4", "7.65% of them")
    def tax(self):
        return share(self.law.business_credits.employer_rate, of=self.creditable)

    @line("6", "Credit", weight="total")
    def credit(self):
        return total(self.tax)


class DisabledAccess(_Credit):
    """Form 8826. IRC 44(a): half of what is above 250, up to 10,250."""

    number, name = "8826", "Disabled access credit"

    costs = from_paper("1", "access_costs", "Eligible access expenditures", of="entered")

    @line("2", "Minimum amount")
    def minimum(self):
        return total(self.law.business_credits.access_from)

    @line("3", "Line 1 less line 2")
    def above(self):
        return excess(self.costs, over=self.minimum)

    @line("4", "Maximum amount")
    def most(self):
        return total(self.law.business_credits.access_most)

    @line("5", "Smaller of lines 3 and 4")
    def counted(self):
        return least(self.above, self.most)

    @line("6", "Half of it")
    def half(self):
        return share(self.law.business_credits.access_share, of=self.counted)

    @line("8", "Disabled access credit", weight="total")
    def credit(self):
        return total(self.half)


class PlanStartup(_Credit):
    """Form 8881: costs of a new plan, and joining by itself. IRC 45E(a), (b), (e)(4), 45T. Its lines are open."""

    number, name = "8881", "Credit for small employer pension plan startup costs"

    @fact("Dollar limit", rounding=whole, cites="IRC 45E(b)")
    def limit(self):
        law = self.law.business_credits
        by_members = least(times(self.entered.plan_members or 0, law.plan_each, of="members"), law.plan_most)
        return greatest(law.plan_least, by_members)

    @fact("Startup costs at their rate", rounding=whole, cites="IRC 45E(a), (e)(4)")
    def at_rate(self):
        """All of them for up to fifty employees since 2023, else half; above a hundred nothing."""
        law, employees = self.law.business_credits, self.entered.employees or 0
        if employees > law.plan_employees:
            return nothing_because("there are more than 100 employees")
        rate = law.plan_rate_small if employees <= law.plan_employees_small else law.plan_rate
        return share(rate, of=self.entered.plan_costs)

    @fact("Automatic enrollment", rounding=whole, cites="IRC 45T(b)")
    def joining(self):
        return total(self.law.business_credits.plan_joining if self.entered.joins_itself else ZERO)

    @fact("Credit", rounding=whole)
    def credit(self):
        return total(least(self.at_rate, self.limit), self.joining)


class GeneralBusinessCredit(_Credit):
    """Form 3800: all of them together, up to the limits of the tax; the rest waits twenty years. IRC 38(c), 39(a)."""

    number, name = "3800", "General business credit"
    income, alternative = linked("us.1040"), linked("us.6251")

    def required(self):
        return self.available > 0

    def _own(self, kind):
        return [row.amount for row in self.entered.rows if row.kind == kind and not row.passive]

    def oldest(self):
        return self.year - int(self.law.carried_years.business_credit.most)

    def _carried(self, kind):
        """(year, amount) that still counts, the oldest first."""
        rows = [row for row in self.entered.carried if row.kind == kind and row.from_year is not None]
        return sorted((row.from_year, Decimal(whole(row.amount))) for row in rows if self.oldest() <= row.from_year < self.year)

    @line("2", "Current year credits that are not specified")
    def current(self):
        forms = [self.run.form(code).credit for code in ("us.8826", "us.8881")]
        return total(forms, self._own(OTHER))

    @line("4", "Carryforward")
    def carried(self):
        return total([amount for _, amount in self._carried(OTHER)])

    @line("6", "Credits that are not specified, in all")
    def together(self):
        return total(self.current, self.carried)

    @line("7", "Regular tax before credits")
    def regular(self):
        return total(self.income.tax)

    @line("8", "Alternative minimum tax")
    def minimum_tax(self):
        return total(self.alternative.tax)

    @line("9", "Lines 7 and 8")
    def both(self):
        return total(self.regular, self.minimum_tax)

    @line("10a", "Foreign tax credit")
    def foreign(self):
        return total(self.income.foreign_credit)

    @line("10b", "Personal credits")
    def personal(self):
        credits = self.run.form("us.sch-3")
        return excess(total(credits.before_business, self.income.child_credit), over=self.foreign)

    @line("10c", "Lines 10a and 10b")
    def other_credits(self):
        return total(self.foreign, self.personal)

    @line("11", "Net income tax", cites="IRC 38(c)(1)")
    def net_income_tax(self):
        return excess(self.both, over=self.other_credits)

    @line("12", "Net regular tax")
    def net_regular(self):
        return excess(self.regular, over=self.other_credits)

    @line("13", "25% of net regular tax above 25,000", cites="IRC 38(c)(1)(B)")
    def quarter(self):
        law = self.law.business_credits
        return share(law.limit_share, of=excess(self.net_regular, over=law.limit_above[self.income.status]))

    @line("14", "Tentative minimum tax", cites="IRC 38(c)(1)(A)")
    def tentative(self):
        return total(self.alternative.tentative)

    @line("15", "Greater of lines 13 and 14")
    def floor(self):
        return greatest(self.quarter, self.tentative)

    @line("16", "Line 11 less line 15")
    def room(self):
        return excess(self.net_income_tax, over=self.floor)

    @line("17", "Smaller of lines 6 and 16", weight="total")
    def allowed_other(self):
        return least(self.together, self.room)

    @line("27", "Line 11 less line 13", cites="IRC 38(c)(4)(A)")
    def room_of_specified(self):
        return excess(self.net_income_tax, over=self.quarter)

    @line("28", "Line 17")
    def before_specified(self):
        return total(self.allowed_other)

    @line("29", "Line 27 less line 28")
    def left_for_specified(self):
        return excess(self.room_of_specified, over=self.before_specified)

    @line("30", "Current year specified credits")
    def specified(self):
        return total([self.run.form(code).credit for code in ("us.5884", "us.8846")], self._own(SPECIFIED))

    @line("34", "Carryforward of specified credits")
    def specified_carried(self):
        return total([amount for _, amount in self._carried(SPECIFIED)])

    @line("36", "Specified credits in all")
    def specified_together(self):
        return total(self.specified, self.specified_carried)

    @line("37", "Smaller of lines 29 and 36")
    def allowed_specified(self):
        return least(self.specified_together, self.left_for_specified)

    @line("38", "General business credit allowed", weight="total")
    def credit(self):
        return total(self.allowed_other, self.allowed_specified)

    @fact("Credits of this year and before")
    def available(self):
        return total(self.together, self.specified_together)

    def _parts(self, kind):
        """(year, kind, amount) of what is left of one kind: carried ones are used first, the oldest first. IRC 38(d)."""
        now, used = (self.current, self.allowed_other) if kind == OTHER else (self.specified, self.allowed_specified)
        used, found = Decimal(used), []
        for year, amount in (*self._carried(kind), (self.year, Decimal(now))):
            taken = min(amount, used)
            used -= taken
            found.append((year, kind, amount - taken))
        return found

    def _left(self):
        parts = [*self._parts(OTHER), *self._parts(SPECIFIED)]
        return [one for one in parts if one[2] > 0]

    @fact("Business credits carried over", closes=BUSINESS_CREDIT, by_origin="left_by_year", used="used", expired="expired")
    def left(self):
        return total([amount for year, _, amount in self._left() if year > self.oldest()])

    @fact("Credits of earlier years used")
    def used(self):
        return excess(total(self.carried, self.specified_carried), over=[self.left, self.expired])

    @fact("Business credits that end with this year")
    def expired(self):
        return total([amount for year, _, amount in self._left() if year <= self.oldest()])

    def left_by_year(self):
        """Rows of next year's paper."""
        return [
            {"from_year": str(year), "kind": kind, "amount": f"{amount:f}"}
            for year, kind, amount in sorted(self._left(), key=lambda one: one[0])
            if year > self.oldest()
        ]


FORMS = (GeneralBusinessCredit, WorkOpportunity, DisabledAccess, EmployerTips, PlanStartup)
