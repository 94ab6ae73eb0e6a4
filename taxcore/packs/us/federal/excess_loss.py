"""Form 461: business losses above the limit, which become an operating loss of the next years. IRC 461(l)."""

from taxcore.engine import ZERO, excess, least, line, linked, nothing_because, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.shares import royalties_of_shares
from taxcore.packs.us.federal.trades import TRADES
from taxcore.packs.us.papers.shares import KINDS as SHARES


class BusinessLossLimit(FederalForm):
    """Losses of all trades together against the threshold. Wages are no business income: IRC 461(l)(3)(A)(i)."""

    number, name = "461", "Limitation on business losses"
    needs = (*TRADES, "rental", "asset", *SHARES)
    income, adjusting = linked("us.1040"), linked("us.sch-1")

    def required(self):
        return self.excess > 0

    @line("2", "Business income or (loss)")
    def business(self):
        return total(self.adjusting.business)

    @line("3", "Capital gain attributable to trades", cites="IRC 461(l)(3)(B)")
    def gains(self):
        if self.run.is_idle("us.4797"):
            return nothing_because("no business property was sold")
        return least(excess(self.run.form("us.4797").long_gain, over=ZERO), excess(self.income.capital_gain, over=ZERO))

    @line("4", "Other gains or (losses)")
    def other_gains(self):
        return total(self.adjusting.other_gains)

    @line("5", "Supplemental income or (loss), Schedule E")
    def supplemental(self):
        return total(self.adjusting.entities)

    @line("6", "Farm income or (loss)")
    def farms(self):
        return total(self.adjusting.farms)

    @line("9", "Lines 2 through 8", weight="total")
    def together(self):
        return total(self.business, self.gains, self.other_gains, self.supplemental, self.farms)

    def _others(self):
        """Of Schedule E what comes from no trade: royalties, and rents of people who are no professionals and claim none."""
        return [one for one in self.every("us.sch-e-part-i") if not _is_trade(one.paper)]

    @line("10", "Income not attributable to trades")
    def other_income(self):
        return total([excess(one.net, over=ZERO) for one in self._others()], royalties_of_shares(self.run))

    @line("11", "Losses not attributable to trades")
    def other_losses(self):
        return total([one.deductible for one in self._others()])

    @line("12", "Line 11 less line 10")
    def other(self):
        return total(self.other_losses, less=self.other_income)

    @line("14", "Income or (loss) of trades", weight="total")
    def of_trades(self):
        return total(self.together, self.other)

    @line("15", "Threshold", cites="IRC 461(l)(3)(A)(ii)")
    def threshold(self):
        return self.law.excess_business_loss[self.income.status]

    @line("16", "Excess business loss", weight="total", cites="IRC 461(l)(1)")
    def excess(self):
        return excess(excess(ZERO, over=self.of_trades), over=self.threshold)


def _is_trade(paper):
    return not paper.is_royalties and (bool(paper.professional) or bool(paper.qualified_trade))
