"""The annual allowance of pension savings: taper, what is unused of three years, and the charge. FA 2004 ss. 227 to 238A."""

from decimal import Decimal

from taxcore.engine import by_bands, excess, fact, full_steps, greatest, least, line, linked, share, total, when
from taxcore.packs.uk.balances import ALLOWANCE_UNUSED
from taxcore.packs.uk.base import Calculation


class AnnualAllowance(Calculation):
    """FA 2004 s. 227: what is above the allowance is charged at the rates that it would bear as the top of income."""

    number, name, worksheet = "Annual allowance", "Annual allowance charge", True
    needs = ("pension-savings",)
    income, tax, main = linked("uk.income"), linked("uk.income-tax"), linked("uk.sa100")

    @property
    def paper(self):
        return self.run.single("pension-savings")

    @line("a", "Threshold income", cites="FA 2004 s. 228ZA(5)")
    def threshold(self):
        return total(excess(total(self.income.net, self.paper.sacrificed), over=self.main.relief_at_source))

    @line("b", "Adjusted income", cites="FA 2004 s. 228ZA(4)")
    def adjusted(self):
        """With what the employer pays, and what was taken off pay before tax."""
        of_the_employer = excess(self.paper.input, over=self.paper.own)
        return total(self.income.net, self.income.contributions, self.paper.net_pay, of_the_employer)

    @line("c", "Annual allowance", cites="FA 2004 ss. 228, 228ZA(3)")
    def allowance(self):
        """Half of what adjusted income is above its limit comes off, in whole pounds, where threshold income is above its own."""
        law = self.law.annual_allowance
        above = full_steps(share(Decimal("0.5"), of=excess(self.adjusted, over=law.adjusted)), of=Decimal(1))
        tapered = greatest(law.least, excess(law.allowance, over=above))
        return tapered if self.threshold > law.threshold else total(law.allowance)

    @property
    def oldest(self):
        """The first year of which something unused still counts."""
        return self.year - int(self.law.annual_allowance.years)

    def _unused(self):
        """(year, amount) of the three years before, the earliest first."""
        rows = [(int(row.of_year), Decimal(row.amount)) for row in self.paper.unused if row.of_year]
        return sorted((year, amount) for year, amount in rows if self.oldest <= year < self.year)

    @line("d", "Unused of three years before", cites="FA 2004 s. 228A")
    def unused_before(self):
        return total([amount for _, amount in self._unused()])

    @fact("Above the allowance of the year")
    def above(self):
        return excess(self.paper.input, over=self.allowance)

    @line("e", "Used of years before")
    def used(self):
        return least(self.above, self.unused_before)

    @fact("Above it, with money purchase savings apart", cites="FA 2004 s. 227ZA")
    def alternative(self):
        """Where they are above their own allowance: that, and the rest above what is then left of the other one."""
        law = self.law.annual_allowance
        own = excess(self.paper.money_purchase, over=law.money_purchase)
        rest = excess(self.paper.input, over=self.paper.money_purchase)
        left = total(excess(self.allowance, over=law.money_purchase), self.unused_before)
        return when(own > 0, total(own, excess(rest, over=left)), "money purchase savings are within their own allowance")

    @line("f", "Chargeable excess", weight="total", cites="FA 2004 ss. 227, 227ZA")
    def excess(self):
        return greatest(excess(self.above, over=self.used), self.alternative)

    @line("g", "Annual allowance charge", weight="total", cites="FA 2004 s. 227(4)")
    def charge(self):
        """On top of all that is taxed, by the bands of the country whose taxpayer one is."""
        bands = self._bands()
        with_it, without = total(self.tax.taxable, self.excess), total(self.tax.taxable)
        return excess(by_bands(with_it, bands), over=by_bands(without, bands))

    def _bands(self):
        if self.tax.is_scottish:
            return [(floor, rate) for floor, _, rate in self.tax._scottish()]
        law = self.law.income_tax
        return [(self.tax.edges(band)[0], law[band]) for band in ("basic", "higher", "additional")]

    @line("h", "Paid by the scheme", cites="FA 2004 s. 237B")
    def paid_by_scheme(self):
        return least(self.paper.scheme_pays, self.charge)

    @line("i", "Unused, kept for later years", closes=ALLOWANCE_UNUSED, by_origin="left_by_year", expired="lost")
    def unused_after(self):
        return total([Decimal(row["amount"]) for row in self.left_by_year()])

    @fact("Unused of the oldest year, lost now")
    def lost(self):
        return total([amount for year, amount in self._left() if year <= self.oldest])

    def _left(self):
        rest, found = Decimal(self.used), []
        for year, amount in self._unused():
            taken = min(amount, rest)
            rest -= taken
            found.append((year, amount - taken))
        return [*found, (self.year, Decimal(excess(self.allowance, over=self.paper.input)))]

    def left_by_year(self):
        """Rows of the next year's table, the oldest first."""
        return [{"of_year": str(year), "amount": f"{amount:f}"} for year, amount in self._left() if year > self.oldest and amount]
