"""Pages beside CT600: loans to participators (CT600A), group relief (CT600C), and quarterly payments of large companies.

CTA 2010 ss. 97 to 142, 455 to 464A; SI 1998/3175.
"""

from datetime import date, timedelta
from decimal import Decimal

from taxcore.engine import excess, fact, least, line, linked, nothing_because, pro_rata, share, total
from taxcore.engine.figures import cents
from taxcore.packs.uk.base import Page, up
from taxcore.packs.uk.company.base import days_shared, months_after, months_of, twelve_months_of

ZERO = Decimal(0)
_ONE = timedelta(days=1)


class LoansPage(Page):
    """CT600A: loans of the period, and what is given back of their tax for those that were repaid."""

    number, name = "CT600A", "Loans to participators"
    needs = ("loans",)

    @property
    def paper(self):
        return self.run.single("loans")

    def _rate(self, row):
        law = self.law.loans
        return law.rate if row.made >= date.fromisoformat(law.changed) else law.rate_before

    def _at_rates(self, name):
        return total([share(self._rate(row), of=getattr(row, name)) for row in self.paper.loans if row.made is not None])

    @line("A20", "Loans of the period that were not repaid by its end")
    def outstanding(self):
        return total([row.amount for row in self.paper.loans])

    @line("A25", "Tax on them", cites="CTA 2010 s. 455(2)", rounding=cents)
    def charged(self):
        return self._at_rates("amount")

    @line("A45", "Relief: repaid within nine months", cites="CTA 2010 s. 458(4)", rounding=cents)
    def early_relief(self):
        return least(self._at_rates("repaid"), self.charged)

    @line("A70", "Relief: repaid later", cites="CTA 2010 s. 458(5)", rounding=cents)
    def later_relief(self):
        return least(self._at_rates("later"), excess(self.charged, over=self.early_relief))

    @line("A75", "All that is owed at the end of the period")
    def owed(self):
        return total(self.outstanding, self.paper.before)

    @line("A80", "Tax on loans", weight="total", cites="CTA 2010 s. 455(2)", rounding=cents)
    def tax(self):
        return excess(self.charged, over=[self.early_relief, self.later_relief])

    def required(self):
        return bool(self.paper.loans)


class GroupPage(Page):
    """CT600C: losses of other companies, each no more than the days that both periods have; and what is given up to others."""

    number, name = "CT600C", "Group relief"
    needs = ("group",)
    company = linked("uk.ct600")

    @property
    def paper(self):
        return self.run.single("group")

    def _shared(self, row):
        return 0 if row.begun is None or row.ended is None else days_shared(self.run.period, (row.begun, row.ended))

    def most_lost(self, row):
        """Of the other company's loss what falls on the days that both periods have: CTA 2010 s. 139."""
        days = (row.ended - row.begun).days + 1 if row.begun is not None and row.ended is not None else 0
        return pro_rata(row.loss, Decimal(self._shared(row)), Decimal(days)) if days > 0 else total(ZERO)

    def taken(self):
        """(row, amount) in the order of the claims: no more than is asked for, was lost, and is left of the profits of the days
        that both periods have, after what earlier claims took of those days. CTA 2010 ss. 139 to 142."""
        found, all_days = [], Decimal(self.run.period.days)
        profits = excess(self.company.before_donations, over=self.company.donations)
        for row in self.paper.claims:
            room = pro_rata(profits, Decimal(self._shared(row)), all_days)
            before = [
                pro_rata(amount, Decimal(self._common(row, other)), Decimal(self._shared(other)))
                for other, amount in found
                if amount
            ]
            left = excess(profits, over=[amount for _, amount in found])
            found.append((row, least(row.amount, self.most_lost(row), excess(room, over=before), left)))
        return found

    def _common(self, row, other):
        """Days that two claims share with the period; none as long as a day is missing."""
        if row.begun is None or row.ended is None:
            return 0
        begun, ended = max(row.begun, other.begun), min(row.ended, other.ended)
        return days_shared(self.run.period, (begun, ended))

    @line("1", "Losses of others that are claimed", weight="total", cites="CTA 2010 s. 137", rounding=up)
    def claimed(self):
        return total([amount for _, amount in self.taken()])

    @line("2", "Given up to others", weight="total", cites="CTA 2010 s. 99")
    def given(self):
        return total([row.amount for row in self.paper.given])

    def required(self):
        return bool(self.paper.claims) or bool(self.paper.given)


class Instalments(Page):
    """When a large company pays: SI 1998/3175 regs 3, 5, 5AZA."""

    number, name, worksheet = "Instalments", "Quarterly payments", True
    rounding = staticmethod(cents)
    company = linked("uk.ct600")

    @property
    def about(self):
        return self.run.single("about")

    def _limit(self, whole):
        """Shared with associated companies, and of a short period by its days."""
        one = share(1 / Decimal(1 + (self.about.associates or 0)), of=whole)
        return pro_rata(one, Decimal(self.run.period.days), Decimal(twelve_months_of(self.run.period)))

    @line("a", "Profits with exempt distributions", rounding=None)
    def profits(self):
        return total(self.company.taxable, self.company.exempt)

    @line("b", "Above it a company is large")
    def large_above(self):
        return self._limit(self.law.instalments.large)

    @line("c", "Above it, very large")
    def very_large_above(self):
        return self._limit(self.law.instalments.very_large)

    @fact("Very large")
    def very_large(self):
        return self.profits > self.very_large_above

    def is_spared(self):
        """The first year of large profits, up to ten millions: reg. 3(2)."""
        return not self.about.large_before and self.profits <= self._limit(self.law.instalments.spared)

    @line("d", "Paid by instalments", weight="total")
    def owed(self):
        """The tax on profits and on loans, less income tax taken off; of little tax nothing: reg. 3(3)."""
        if self.profits <= self.large_above:
            return nothing_because("profits are not above the limit")
        if not self.very_large and self.is_spared():
            return nothing_because("the company was not large before, and profits are no more than ten millions")
        small = self.law.instalments.small_tax * self.run.period.days / Decimal(twelve_months_of(self.run.period))
        if self.company.payable <= small:
            return nothing_because("the tax is small")
        return total(self.company.payable)

    def days(self):
        """The days of its payments; the last one takes the rest."""
        start, end = self.run.period.start, self.run.period.end
        if self.very_large:  # the fourteenth of the third, sixth, ninth and last month
            last = months_after(start, max(_whole_months(self.run.period) - 1, 0)) + timedelta(days=13)
            first = months_after(start, 2) + timedelta(days=13)
        else:
            first, last = months_after(start, 6) + timedelta(days=13), months_after(end, 3) + timedelta(days=14)
        found = []
        while first < last and len(found) < 3:
            found.append(first)
            first = months_after(first, 3)
        return [*found, last]

    def _instalment(self, place):
        """Three times the tax over the months of the period, as long as there is another one after it."""
        if not self.owed or place >= len(self.days()) - 1:
            return total(ZERO)
        return pro_rata(self.owed, Decimal(3), months_of(self.run.period))

    @line("e", "First")
    def first(self):
        return self._instalment(0)

    @line("f", "Second")
    def second(self):
        return self._instalment(1)

    @line("g", "Third")
    def third(self):
        return self._instalment(2)

    @line("h", "Last: the rest")
    def last(self):
        return excess(self.owed, over=[self.first, self.second, self.third])

    def payments(self):
        """(day, amount) of each; none where nothing is paid so."""
        amounts = [amount for amount in (self.first, self.second, self.third) if amount]
        return list(zip(self.days(), [*amounts, self.last], strict=True)) if self.owed else []

    def required(self):
        return bool(self.owed)


def _whole_months(period):
    """Calendar months that a period touches or fills: at least one."""
    months = 0
    while months < 12 and months_after(period.start, months) <= period.end:
        months += 1
    return months
