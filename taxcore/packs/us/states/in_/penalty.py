"""Schedule IT-2210: penalty for paying too little during the year, regular method. IC 6-3-4-4.1, 6-8.1-10-2.1(b).

A tenth of what each installment was short of, whenever it was made up for. Withholding counts in four equal parts, what was paid
above one installment counts for the next. Farmers, and income that came unevenly, are the preparer's.
"""

from datetime import date

from taxcore.engine import excess, fact, least, linked, nothing_because, share, total, whole
from taxcore.packs.us.states.base import StateForm


class Underpayment(StateForm):
    """Whether there is a penalty, and how much. IC 6-3-4-4.1. The numbers of its lines were not at hand."""

    jurisdiction = "us-in"
    number, name = "IT-2210", "Underpayment of estimated tax by individuals"
    home = linked("us-in.it-40")

    def required(self):
        return self.penalty > 0

    @property
    def is_worked_out(self):
        """Whether last year's tax is known, so that nothing is left to the department."""
        return self.questions.is_keyed("tax_last_year")

    @fact("Current year tax less credits", rounding=whole)
    def tax(self):
        home = self.home
        return excess(total(home.tax, home.county_tax), over=[home.earned_income_credit, home.offset_credits])

    @fact("Current year tax less withholding", rounding=whole)
    def not_withheld(self):
        return excess(self.tax, over=self.home.withheld)

    @fact("Prior year safe harbor", rounding=whole, cites="IC 6-3-4-4.1(c)")
    def last_year(self):
        law, federal = self.law.penalty, self.federal
        high = federal.adjusted_gross_income > law.high_income["separate" if federal.status == "separate" else "others"]
        return share(law.of_last_year_high if high else law.of_last_year, of=self.questions.tax_last_year)

    @fact("Required annual payment", rounding=whole)
    def required_payment(self):
        this_year = share(self.law.penalty.of_this_year, of=self.tax)
        return least(of={"90% of this year": this_year, "last year's": self.last_year})

    @fact("Required installments", rounding=whole)
    def instalment(self):
        return share(self.law.penalty.instalment, of=self.required_payment)

    def _paid(self):
        """What was paid up to each installment's day and after the one before it. The days are the federal ones."""
        rows = [row for row in self.paper("estimates").state_rows if row.state == "IN" and row.paid]
        paid, after = [], date.min
        for day in self.run.form("us.2210").due_dates:
            paid.append([row.amount for row in rows if after < row.paid <= day])
            after = day
        paid[0].append(self.questions.applied_before)
        return paid

    @fact("Total underpayment", rounding=whole)
    def short(self):
        short, over = [], total(0)
        for paid in self._paid():
            there = total(share(self.law.penalty.instalment, of=self.home.withheld), paid, over)
            short.append(excess(self.instalment, over=there))
            over = excess(there, over=self.instalment)
        return total(short)

    @fact("Penalty", rounding=whole)
    def penalty(self):
        if not self.is_worked_out:
            return nothing_because("prior year tax is not entered")
        if not self.questions.tax_last_year:
            return nothing_because("there was no tax last year")
        if self.not_withheld < self.law.underpayment.owed_above:
            return nothing_because("tax after withholding is less than $1,000", self.not_withheld)
        return share(self.law.penalty.rate, of=self.short)
