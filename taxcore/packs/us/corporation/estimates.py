"""Form 2220: what a corporation paid too little of during the year. IRC 6655."""

from datetime import date

from taxcore.engine import Amount, Day, Flag, Row, Rows, excess, fact, least, line, linked, nothing_because, share, total, whole
from taxcore.packs.us.entity.balances import CORPORATE_PRIOR_TAX
from taxcore.packs.us.entity.base import EntityForm, EntityPaper
from taxcore.packs.us.federal.underpayment import PRIOR_TAX_UNKNOWN, RATES_UNKNOWN, PaidByDays

_DUE = ((4, 15), (6, 15), (9, 15), (12, 15))
NO_DAYS = "payments are entered together, without their days"


class PaymentRow(Row):
    paid = Day(None, "Paid", needed="Interest runs by days.")
    amount = Amount("11", "Amount")


class Estimates(EntityPaper):
    """What was paid when, and what the law measures it by. IRC 6655(d)."""

    kind, name, official, group = "estimates", "Estimated tax", "Form 2220", "payments"
    single, repeats = True, ("rows",)

    prior_tax = Amount("4", "Tax of last year's return", opens=CORPORATE_PRIOR_TAX, help="If nothing was owed, 0.")
    prior_part = Flag(None, "Last year was not twelve months", cites="IRC 6655(d)(2)")
    large = Flag(
        "8",
        "Large corporation",
        cites="IRC 6655(g)(2)",
        kept=True,
        help="Taxable income of a million in one of the three years before.",
    )
    by_irs = Flag(None, "Leave the penalty to the IRS", kept=True)
    paid_on = Day(None, "Balance paid", help="If empty, on the due date.")
    rows = Rows("11", "Payments", PaymentRow)


class Form2220(PaidByDays, EntityForm):
    """Form 2220, the regular method. IRC 6655(a) to (d)."""

    number, name = "2220", "Underpayment of estimated tax by corporations"
    page = linked("us.1120")

    @property
    def asked(self):
        return self.paper("estimates")

    def required(self):
        return self.penalty > 0

    @line("1", "Total tax")
    def whole_tax(self):
        return total(self.page.tax)

    @line("3", "Current year tax", closes=CORPORATE_PRIOR_TAX)
    def tax(self):
        return total(self.whole_tax)

    @line("4", "Tax of last year's return", cites="IRC 6655(d)(1)(B)(ii)")
    def last_year(self):
        return total(self.asked.prior_tax)

    @fact("Last year's tax counts", cites="IRC 6655(d)(2)")
    def by_last_year(self):
        """Of a year of twelve months whose return showed a tax."""
        return not self.asked.prior_part and self.asked.prior_tax > 0

    @line("5", "Required annual payment")
    def required_payment(self):
        if not self.by_last_year or self.asked.large:
            return total(self.tax)
        return least(of={"this year's tax": self.tax, "last year's": self.last_year})

    @fact("Why there is no penalty")
    def excused(self):
        undated = bool(self.paper("about").estimates) and not self.asked.rows
        reasons = (
            (self.tax >= self.law.corporate.estimates_least, "the tax is less than $500"),
            (not undated, NO_DAYS),
            (self.asked.is_keyed("prior_tax") or self.asked.prior_part, PRIOR_TAX_UNKNOWN),
            (not self.asked.by_irs, "it is left to the IRS"),
            ("rates" in self.law.underpayment, RATES_UNKNOWN),
        )
        return next((reason for holds, reason in reasons if not holds), "")

    @line("10", "Required installments")
    def installment(self):
        return share(self.law.underpayment.installment_share, of=self.required_payment)

    @fact("First installment of a large corporation", cites="IRC 6655(d)(2)(B)", rounding=whole)
    def first(self):
        """It may go by last year's tax; the next one makes up for it."""
        if not (self.asked.large and self.by_last_year):
            return total(self.installment)
        return least(self.installment, share(self.law.underpayment.installment_share, of=self.last_year))

    @fact("Installment due dates", cites="IRC 6655(c)(2)")
    def due_dates(self):
        return tuple(date(self.year, month, day) for month, day in _DUE)

    def installments(self):
        """The second has what the first left out."""
        return self.first, total(self.installment, excess(self.installment, over=self.first)), self.installment, self.installment

    def payments(self):
        """(day, amount) of everything paid, oldest first; an overpayment of last year counts from the first day."""
        about, home = self.paper("about"), self.paper("about").state
        rows = [(self.due_dates[0], about.credited_before)]
        rows += [(self.counts_from(row.paid, home), row.amount) for row in self.asked.rows if row.paid is not None]
        return sorted((day, amount) for day, amount in rows if amount > 0)

    def end(self):
        last = date(self.year + 1, 4, 15)
        return min(self.asked.paid_on, last) if self.asked.paid_on else last

    @line("17", "Total underpayment")
    def underpaid(self):
        return total([owed for due, since, owed, _ in self.spells() if since == due])

    @line("38", "Penalty", weight="total")
    def penalty(self):
        return nothing_because(self.excused) if self.excused else self.by_days()
