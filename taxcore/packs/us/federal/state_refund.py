"""Which part of a state's refund is income. IRC 111."""

from taxcore.engine import excess, least, line, nothing_because, total
from taxcore.packs.us.base import FederalForm


class StateRefund(FederalForm):
    """Which part of a state's refund is income: what the deduction of it saved. Worksheet of the instructions; IRC 111."""

    number, name, worksheet = "State refund", "State refund", True
    needs = ("1099-g",)

    def required(self):
        return self.refunds > 0

    def _prior(self, name):
        return total(getattr(self.paper("prior-year"), name))

    @line("1", "Refunds, limited to the tax deducted")
    def refunds(self):
        """Refunds of a business's own tax belong to the business."""
        papers = [paper for paper in self.papers("1099-g") if not paper.trade_income]
        return total([paper.state_refund for paper in papers])

    @line("2", "Tax above the cap that year")
    def above_cap(self):
        """What was never deducted is never income."""
        return self._prior("above_cap")

    @line("3", "Refund of tax deducted")
    def of_deducted(self):
        return least(excess(self.refunds, over=self.above_cap), self._prior("state_tax_deducted"))

    @line("4", "Itemized deductions that year")
    def itemised(self):
        return self._prior("itemised_total")

    @line("5", "Standard deduction that year")
    def standard(self):
        return self._prior("standard_then")

    @line("6", "Excess of itemized over standard")
    def advantage(self):
        return excess(self.itemised, over=self.standard)

    @line("7", "Income tax over sales tax")
    def over_sales_tax(self):
        deducted, sales = self._prior("state_tax_deducted"), self._prior("sales_tax_then")
        return excess(deducted, over=sales)

    @line("8", "Income", weight="total")
    def taxable(self):
        if self.refunds == 0:
            return nothing_because("no refund was received")
        if not self.paper("prior-year").itemised:
            return nothing_because("last year's return was not itemized")
        found = {"refund of deducted tax": self.of_deducted, "excess of itemized over standard": self.advantage}
        if self.paper("prior-year").is_keyed("sales_tax_then"):
            found["more than the sales tax"] = self.over_sales_tax
        negative = self.paper("prior-year").separate_or_negative
        least_of_all = least(of=found)
        return excess(least_of_all, over=-negative) if negative < 0 else least_of_all
