"""The notional tax on the homes of a year so far, and what of it is to be paid now. FA 2019 Sch. 2 paras 6 to 8, 14."""

from taxcore.engine import excess, least, line, share, total
from taxcore.packs.uk.base import Calculation
from taxcore.packs.uk.individual.disposals import home_sale


class PropertyDisposal(Calculation):
    """As if the year ended with this sale: all its homes together, less what was paid with the returns before."""

    number, name = "PPD", "Property disposal"

    @property
    def estimate(self):
        return self.run.single("estimate")

    def _sales(self):
        return [home_sale(paper) for paper in self.papers("home")]

    @line("a", "Gain on this home")
    def gain(self):
        return total([one.gain for one in self._sales()])

    @line("b", "Loss on this home")
    def loss(self):
        return total([one.loss for one in self._sales()])

    @line("c", "Gains of homes reported before")
    def earlier_gains(self):
        return total(self.estimate.earlier_gains)

    @line("d", "Losses set against them", cites="FA 2019 Sch. 2 para. 6(3)")
    def losses(self):
        return least(total(self.estimate.losses, self.loss), total(self.gain, self.earlier_gains))

    @line("e", "Annual exempt amount", cites="TCGA 1992 s. 1K")
    def exempt(self):
        return least(self.law.gains.exempt, excess([self.gain, self.earlier_gains], over=self.losses))

    @line("f", "Taxable so far")
    def taxable(self):
        return excess([self.gain, self.earlier_gains], over=[self.losses, self.exempt])

    @line("g", "Left of the basic rate band", cites="FA 2019 Sch. 2 para. 14")
    def room(self):
        return excess(self.law.income_tax.basic_limit, over=self.estimate.income)

    @line("h", "Tax on the year's homes so far", weight="total", cites="TCGA 1992 s. 1H")
    def tax(self):
        rates = self.law.gains.homes
        return total(
            share(rates.lower, of=least(self.taxable, self.room)), share(rates.upper, of=excess(self.taxable, over=self.room))
        )

    @line("i", "Paid with returns before")
    def earlier_paid(self):
        return total(self.estimate.earlier_paid)

    @line("j", "To be paid", weight="total", cites="FA 2019 Sch. 2 para. 7")
    def owed(self):
        return excess(self.tax, over=self.earlier_paid)

    @line("k", "To be repaid", weight="total", cites="FA 2019 Sch. 2 para. 8")
    def repaid(self):
        return excess(self.earlier_paid, over=self.tax)
