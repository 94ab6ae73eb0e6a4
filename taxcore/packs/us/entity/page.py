"""Page 1 of an entity's return, as far as all kinds have it alike. IRC 162 to 168, 274."""

from decimal import Decimal

from taxcore.engine import fact, line, share, total
from taxcore.packs.us.entity.base import EntityForm
from taxcore.packs.us.entity.books import credit_of, debit_of
from taxcore.packs.us.entity.received import received, with_received

_HALF = Decimal("0.5")


def spent(number, label, *keys, **options):
    """A line of page 1 that is the accounts of its tax lines."""

    @line(number, label, **options)
    def read(form):
        return debit_of(form.run, *keys)

    return read


class PageOne(EntityForm):
    """Receipts, cost and gross profit, and what the return deducts otherwise than the books. IRC 61(a)(2), 167, 274(n)."""

    def required(self):
        return True

    @line("1a", "Gross receipts or sales")
    def receipts(self):
        return credit_of(self.run, "sales")

    @line("1b", "Returns and allowances")
    def returned(self):
        return debit_of(self.run, "returns")

    @line("1c", "Balance")
    def net_receipts(self):
        return total(self.receipts, less=self.returned)

    @line("2", "Cost of goods sold, Form 1125-A")
    def cost(self):
        return self.brought("us.1125-a", "cost")

    @line("3", "Gross profit", weight="total")
    def gross_profit(self):
        return total(self.net_receipts, less=self.cost)

    @fact("Depreciation of the business for the return")
    def depreciation_now(self):
        """By the register; where there is none, as booked."""
        if any(asset.used_in == "business" for asset in self.papers("asset")):
            return total(self.run.form("us.4562", "business").without_179)
        return debit_of(self.run, "depreciation")

    @fact("Amortization for the return", cites="IRC 195, 197, 248, 709")
    def amortization(self):
        of_register = [one.asset.sort in ("intangible", "start-up") for one in self.every("us.depreciation")]
        if any(of_register):
            return total(self.run.form("us.4562", "business").amortized)
        return debit_of(self.run, "amortization")

    @fact("Meals that are deducted", cites="IRC 274(n)")
    def meals(self):
        return share(_HALF, of=debit_of(self.run, "meals"))


class QualifiedBusiness(EntityForm):
    """What owners are told for section 199A, of a Schedule K. IRC 199A(b)(4), (6), (c)."""

    @fact("Qualified business income", cites="IRC 199A(c)")
    def qualified_income(self):
        """Of the business, and of properties that are a trade."""
        own = total(self.ordinary, less=self.page.from_entities) if self.page.from_entities else total(self.ordinary)
        trade = total(0) if self.run.single("business").no_trade else own
        let = [one.net for one in self.every("us.8825-property") if one.paper.is_trade]
        return total(trade, let, received(self.run, "qualified_income"))

    @fact("W-2 wages", cites="IRC 199A(b)(4)")
    def wages_paid(self):
        trade = self.run.single("business")
        own = total(trade.wages_paid) if trade.is_keyed("wages_paid") else debit_of(self.run, "salaries", "officers", "labor")
        return with_received(self.run, own, "qualified_wages")

    @fact("Unadjusted basis of qualified property", cites="IRC 199A(b)(6)")
    def property_basis(self):
        """Of the register: for ten years, or the recovery period where that is longer."""
        trade = self.run.single("business")
        if trade.is_keyed("property_basis"):
            return total(trade.property_basis, received(self.run, "property_basis"))
        own = [one.basis for one in self.every("us.depreciation") if one.is_there and _counts(one)]
        return total(own, received(self.run, "property_basis"))

    @fact("Meals that are not deducted", cites="IRC 274(n)")
    def meals_half(self):
        return total(debit_of(self.run, "meals"), less=self.rounding(self.page.meals))


def _counts(one):
    """Whether a thing is held at the end of the year within its depreciable period, or ten years."""
    if one.asset.sort in ("land", "intangible", "start-up", "software"):
        return False
    if one.asset.sold and one.asset.sold.year <= one.run.year:
        return False
    return one.number_of_year <= max(Decimal(str(one.asset.period or 0)), Decimal(10))
