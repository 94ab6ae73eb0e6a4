"""Forms 2210 and 2210-F: penalty for underpaying during the year. IRC 6654, 6621.

Withholding counts in four equal parts; payments go to the oldest
installment first.
"""

from datetime import date, timedelta
from decimal import Decimal

from taxcore.engine import (
    ZERO,
    Operand,
    excess,
    explained,
    fact,
    least,
    line,
    linked,
    nothing_because,
    pro_rata,
    share,
    total,
    whole,
)
from taxcore.engine.pack import working_day
from taxcore.packs.us import holidays
from taxcore.packs.us.balances import PRIOR_TAX
from taxcore.packs.us.base import FederalForm

_QUARTERS = ((4, 15), (6, 15), (9, 15), (1, 15))

PRIOR_TAX_UNKNOWN = "prior year tax is not entered"
RATES_UNKNOWN = "not all interest rates of the year are published"


class PaidByDays:
    """Installments, each paid by whatever came first, and interest on what was short. Beside a form that has `due_dates`,
    `installments()`, `payments()` and `end()`, the last day. IRC 6654(b), 6655(b), 6621."""

    def interest(self, since, amount, until):
        """Simple interest by days, each quarter at its rate, over the days of its calendar year."""
        rates, year = self.law.underpayment.rates, self.year
        quarters = (
            (date(year, 4, 1), date(year, 6, 30), rates.second_quarter),
            (date(year, 7, 1), date(year, 9, 30), rates.third_quarter),
            (date(year, 10, 1), date(year, 12, 31), rates.fourth_quarter),
            (date(year + 1, 1, 1), date(year + 1, 4, 15), rates.first_quarter),
        )
        interest = ZERO
        for first, last, rate in quarters:
            start, stop = max(since, first - timedelta(1)), min(until, last)
            days = (stop - start).days
            if days > 0:
                interest += amount * rate * days / (366 if _leap(last.year) else 365)
        return interest

    def spells(self):
        """(due day, since, amount outstanding, until): one for each stretch in which an installment was short."""
        payments = [list(one) for one in self.payments()]
        end = self.end()
        for due, instalment in zip(self.due_dates, self.installments(), strict=True):
            short, since = Decimal(instalment), due
            for payment in payments:
                used = min(payment[1], short)
                if used <= 0:
                    continue
                until = min(payment[0], end)
                if until > since:
                    yield due, since, short, until
                    since = until
                payment[1] -= used
                short -= used
            if short > 0 and end > since:
                yield due, since, short, end

    def by_days(self):
        """Explained: the interest of all stretches together."""
        spells = list(self.spells())
        if not spells:
            return nothing_because("all installments were paid on time")
        operands = [
            Operand(owed, f"installment of {due:%B %-d}, from {since:%B %-d} to {until:%B %-d, %Y}")
            for due, since, owed, until in spells
        ]

        def redo(*amounts):
            parts = [self.interest(one[1], amount, one[3]) for one, amount in zip(spells, amounts, strict=True)]
            return whole(sum(parts, ZERO))

        return explained("Interest by days", redo(*(one[2] for one in spells)), operands, redo)

    def counts_from(self, paid, home):
        """The due date itself for what was paid by the next day on which offices are open. IRC 7503."""
        return next((due for due in self.due_dates if due < paid <= working_day(due, holidays.federal(due.year, home))), paid)


class Underpayment(PaidByDays, FederalForm):
    """Whether there is a penalty, and how much. IRC 6654(a), (b), (d), (e)."""

    number, name = "2210", "Underpayment of estimated tax by individuals"
    income = linked("us.1040")

    def required(self):
        """Also where a waiver or the annualized method leaves no penalty: the form asks for it."""
        asked = self.paper("penalty").annualise and not self.excused
        return not self.income.is_correction and (self.whole_penalty > 0 or asked)

    @property
    def prior(self):
        return self.paper("prior-year")

    @line("1", "Tax after credits")
    def tax_after_credits(self):
        return total(self.income.tax_after_credits)

    @line("2", "Total other taxes")
    def other_taxes(self):
        """Without the tax on excess contributions, which is none for this purpose."""
        excesses = [total(one.ira_tax, one.roth_tax, one.savings_tax) for one in self.every("us.5329")]
        return total(self.income.other_taxes, less=excesses)

    @line("3", "Refundable credits")
    def refundable(self):
        one = self.income
        credits = (one.earned_income_credit, one.additional_child_credit, one.education_paid, one.adoption_paid)
        return total(credits, self.run.form("us.sch-3").premium_credit)

    @line("4", "Current year tax", closes=PRIOR_TAX)
    def tax(self):
        return excess(total(self.tax_after_credits, self.other_taxes), over=self.refundable)

    @line("5", "90% of current year tax")
    def share_of_year(self):
        return share(self.law.underpayment.share_of_year, of=self.tax)

    @line("6", "Withheld")
    def withheld(self):
        return total(self.income.withheld, self.run.form("us.sch-3").excess_social_security)

    @line("7", "Current year tax less withholding")
    def not_withheld(self):
        return excess(self.tax, over=self.withheld)

    @line("8", "Maximum required annual payment, prior year tax", cites="IRC 6654(d)(1)(B)(ii), (C)")
    def last_year(self):
        """110% where last year's income was high."""
        law, income = self.law.underpayment, self.prior.adjusted_gross_income
        high = income > law.high_income[self.income.status]
        return share(law.prior_share_high if high else law.prior_share, of=self.prior.tax)

    @line("9", "Required annual payment")
    def required_payment(self):
        if self.prior.whole_year is False:
            return total(self.share_of_year)
        return least(of={"90% of this year": self.share_of_year, "last year's": self.last_year})

    @fact("Why there is no penalty")
    def excused(self):
        law, questions = self.law.underpayment, self.paper("penalty")
        reasons = [
            (not questions.farmer, "a farmer's is on Form 2210-F"),
            (self.not_withheld >= law.owed_below, "tax after withholding is less than $1,000"),
            (self.prior.is_keyed("tax"), PRIOR_TAX_UNKNOWN),
            (not (self.prior.tax == 0 and self.prior.whole_year is not False), "there was no tax last year"),
            (self.withheld < self.required_payment, "withholding was sufficient"),
            (not questions.by_authority, "it is left to the IRS"),
            ("rates" in law, RATES_UNKNOWN),
        ]
        return next((reason for holds, reason in reasons if not holds), "")

    @line("10", "Required installments")
    def instalment(self):
        return share(self.law.underpayment.installment_share, of=self.required_payment)

    @fact("Installment due dates", cites="IRC 6654(c)(2)")
    def due_dates(self):
        """As the law prints them: a weekend or holiday makes a later payment timely and moves no date that interest runs from."""
        return tuple(date(self.year + (month == 1), month, day) for month, day in _QUARTERS)

    def payments(self):
        """(day, amount) of everything paid, oldest first."""
        estimates = self.paper("estimates")
        quarter = self.withheld / 4
        rows = [(day, quarter) for day in self.due_dates]
        rows += [(self.due_dates[0], estimates.applied)]
        home = self.paper("filing").residence
        rows += [(self.counts_from(row.paid, home), row.amount) for row in estimates.rows if row.paid is not None]
        return sorted((day, amount) for day, amount in rows if amount > 0)

    @line("17", "Total underpayment")
    def underpaid(self):
        return total([owed for due, since, owed, _ in self.spells() if since == due])

    @line("19", "Penalty", weight="total")
    def penalty(self):
        """Less what is asked to be waived: IRC 6654(e)(3)."""
        waived = self.paper("penalty").waived if self.paper("penalty").waiver else ZERO
        return excess(self.whole_penalty, over=waived)

    @fact("Penalty before a waiver", rounding=whole)
    def whole_penalty(self):
        if self.excused:
            return nothing_because(self.excused)
        return self.by_days()

    def installments(self):
        """The four of them, by income as it came where that was chosen."""
        if self.paper("penalty").annualise:
            return self.run.form("us.2210-ai").installments
        return (self.instalment,) * len(self.due_dates)

    def end(self):
        paid_on = self.paper("penalty").paid_on
        return min(paid_on, date(self.year + 1, 4, 15)) if paid_on else date(self.year + 1, 4, 15)


class FarmersUnderpayment(FederalForm):
    """Farmers and fishermen: one installment, and none for who files and pays by 1 March. IRC 6654(i).

    Form 2210-F's line numbers are open, see docs/law-coverage.md.
    """

    number, name = "2210-F", "Underpayment of estimated tax by farmers and fishermen"
    income = linked("us.1040")
    regular = linked("us.2210")
    questions = property(lambda form: form.paper("penalty"))

    @classmethod
    def idle(cls, run):
        return not run.single("penalty").farmer

    def required(self):
        return not self.income.is_correction and self.penalty > 0

    @fact("Two thirds of current year tax", rounding=whole, cites="IRC 6654(i)(1)(C)")
    def share_of_year(self):
        return pro_rata(self.regular.tax, 2, 3)

    @fact("Required payment", rounding=whole, cites="IRC 6654(i)(1)")
    def required_payment(self):
        """Of last year's tax no more than all of it."""
        prior = self.paper("prior-year")
        if prior.whole_year is False or not prior.is_keyed("tax"):
            return total(self.share_of_year)
        return least(of={"two thirds of this year": self.share_of_year, "last year's": prior.tax})

    @fact("Why there is no penalty")
    def excused(self):
        law, regular, prior = self.law.underpayment, self.regular, self.paper("prior-year")
        reasons = [
            (regular.not_withheld >= law.owed_below, "tax after withholding is less than $1,000"),
            (not (prior.is_keyed("tax") and prior.tax == 0 and prior.whole_year is not False), "there was no tax last year"),
            (not self.questions.paid_by_march, "the return was filed and paid by March 1"),
            (not self.questions.by_authority, "it is left to the IRS"),
            ("rates" in law, RATES_UNKNOWN),
        ]
        return next((reason for holds, reason in reasons if not holds), "")

    @fact("Due date of the installment", cites="IRC 6654(i)(1)(B)")
    def due(self):
        return date(self.year + 1, 1, 15)

    @fact("Underpayment", rounding=whole)
    def underpaid(self):
        paid = [amount for day, amount in self.regular.payments() if day <= self.due]
        return excess(self.required_payment, over=paid)

    @fact("Penalty", rounding=whole, cites="IRC 6654(a)")
    def penalty(self):
        """From the installment's day to that of payment, or April 15."""
        if self.excused:
            return nothing_because(self.excused)
        later = [(day, amount) for day, amount in self.regular.payments() if day > self.due]
        owed, since, found = Decimal(self.underpaid), self.due, ZERO
        for day, amount in [*later, (self.regular.end(), owed)]:
            until = min(day, self.regular.end())
            found += self.regular.interest(since, owed, until)
            owed, since = max(owed - amount, ZERO), until
        return total(found)


def _leap(year):
    return year % 4 == 0 and (year % 100 != 0 or year % 400 == 0)
