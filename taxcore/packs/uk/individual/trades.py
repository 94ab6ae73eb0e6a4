"""A trade: receipts, expenses, capital allowances, what the twelve months gave, and what it closes.

ITTOIA 2005 Part 2; CAA 2001 Part 2. Amounts are whole pounds, of income what is less, of deductions what is more.
"""

from decimal import Decimal

from taxcore.engine import excess, fact, least, times, total, when
from taxcore.packs.uk.balances import (
    ASSETS,
    MAIN_POOL,
    SPECIAL_POOL,
    TRADE_CLASS_4,
    TRADE_LOSS,
    TRANSITION,
)
from taxcore.packs.uk.base import up
from taxcore.packs.uk.individual.assets import Asset, Year, worked_out
from taxcore.packs.uk.individual.choices import COSTS
from taxcore.packs.uk.individual.trading import Source

_FLAT_RATES = {"travel": "mileage", "premises": "use_of_home"}  # among which expenses they stand
_FULL_ONLY = ("subcontractors", "advertising", "bad_debts", "depreciation", "transition_part", "transition_before", "overlap")


def assets_of(paper):
    """What was entered of plant and cars, as far as it is complete."""
    rows = [row for row in paper.assets if row.bought is not None and row.pool]
    return [
        Asset(row.key, row.pool, row.bought, Decimal(row.cost), Decimal(row.private or 0) / 100, Decimal(row.before), row.sold,
              Decimal(row.proceeds))
        for row in rows
    ]  # fmt: skip


class TradingProfit(Source):
    """One trade from its receipts to what is charged, whichever pages it is written on."""

    number, name, per = "Trading profit", "Profit of a trade", "trade"
    needs = ("trade",)

    @fact("Receipts")
    def receipts(self):
        return total(self.rounding(self.paper.turnover), self.rounding(self.paper.other))

    @fact("Trading allowance", cites="ITTOIA 2005 s. 783AI", rounding=up)
    def allowance(self):
        """Of all trades of somebody together: no more than 1,000, and never a loss."""
        chosen = when(bool(self.paper.use_allowance), self.law.small_allowances.trading, "the expenses are deducted instead")
        return least(chosen, self.receipts)

    @fact("Mileage at flat rates", cites="ITTOIA 2005 s. 94F", rounding=up)
    def mileage(self):
        law, paper = self.law.flat_rates, self.paper
        near = min(paper.miles or 0, int(law.miles))
        miles = (
            times(near, law.mile),
            times((paper.miles or 0) - near, law.mile_above),
            times(paper.motorcycle_miles or 0, law.motorcycle_mile),
        )
        return total(*miles)

    @fact("Use of the home at flat rates", cites="ITTOIA 2005 s. 94H", rounding=up)
    def use_of_home(self):
        law, paper = self.law.flat_rates, self.paper
        months = ((paper.home_25, law.home_25), (paper.home_51, law.home_51), (paper.home_101, law.home_101))
        return total([times(number or 0, rate) for number, rate in months])

    def allowable(self, *names):
        """Of these expenses, each in whole pounds, what is left once the part that is not allowable is taken off."""
        if self.paper.use_allowance:
            return [when(False, Decimal(0), "the trading allowance is deducted instead")]
        kept = [name for name in names if name != "depreciation"]
        entered = [up(getattr(self.paper, name)) for name in kept]
        flat = [getattr(self, rate) for name, rate in _FLAT_RATES.items() if name in kept]
        return [excess([*entered, *flat], over=[self.rounding(row.amount) for row in self.paper.disallowed if row.of in kept])]

    @fact("Allowable expenses")
    def expenses(self):
        return total(self.allowable(*COSTS))

    @fact("Profit of the accounts")
    def profit(self):
        return excess(self.receipts, over=[self.allowance, self.expenses])

    @fact("Loss of the accounts")
    def loss(self):
        return excess(self.expenses, over=self.receipts)

    # Capital allowances

    def plant(self) -> Year:
        return self.paper.once(_plant)

    def _unless_allowance(self, value):
        return when(not self.paper.use_allowance, value, "the trading allowance stands for them")

    @fact("Capital allowances", cites="CAA 2001 s. 55", rounding=up)
    def allowances(self):
        besides = [up(getattr(self.paper, name)) for name in ("investment_allowance", "small_pool", "other_allowances")]
        return self._unless_allowance(total(self.plant().allowed, besides))

    @fact("Balancing charges", cites="CAA 2001 ss. 55, 61")
    def charge(self):
        return self._unless_allowance(total(self.plant().charged, self.rounding(self.paper.balancing_charge)))

    @fact("Main pool at the end", closes=MAIN_POOL, rounding=up)
    def main_after(self):
        return total(self.paper.main_before if self.paper.use_allowance else self.plant().main)

    @fact("Special rate pool at the end", closes=SPECIAL_POOL, rounding=up)
    def special_after(self):
        return total(self.paper.special_before if self.paper.use_allowance else self.plant().special)

    @fact("Plant and cars kept", closes=ASSETS, by_origin="assets_kept")
    def kept(self):
        return total(len(self.assets_kept()))

    def assets_kept(self):
        """Rows of next year's table: what was not sold, with what it is worth where it stands alone."""
        after = self.plant().after
        rows = []
        for row in self.paper.assets:
            if row.sold is None and not self.paper.ended:
                names = ("what", "pool", "bought", "cost", "private")
                kept = {name: str(row.entered[name]) for name in names if row.is_keyed(name)}
                rows.append(kept | ({"before": f"{after[row.key]:.2f}"} if row.key in after else {}))
        return rows

    # Profit for tax, and the change of basis periods

    @fact("Added")
    def added(self):
        return total(self.profit, self.charge, self.rounding(self.paper.own_use))

    @fact("Profit of the twelve months")
    def twelve_months(self):
        return excess(self.added, over=[self.loss, self.allowances])

    @fact("Loss of the twelve months")
    def twelve_months_loss(self):
        return excess([self.loss, self.allowances], over=self.added)

    @fact("Transition profit left", closes=TRANSITION)
    def transition_left(self):
        return excess(self.transition_whole, over=self.transition)

    @fact("Loss to carry forward", closes=TRADE_LOSS, used="loss_used", cites="ITA 2007 s. 83")
    def loss_forward(self):
        return self.left_of_losses()

    @fact("Kept for class 4", closes=TRADE_CLASS_4, used="class_4_used", cites="SSCBA 1992 Sch. 2 para. 3(4)")
    def class_4_left(self):
        return self.left_for_class_4()


def _plant(paper):
    return worked_out(
        assets_of(paper), Decimal(paper.main_before), Decimal(paper.special_before), paper.run.period, paper.law.plant,
        ended=paper.ended is not None,
    )  # fmt: skip


def is_full(paper):
    """Whether a trade is written on the full pages: by choice, by its turnover, or by something that only they have."""
    by_need = any(paper.is_keyed(name) for name in _FULL_ONLY) or paper.turnover >= paper.law.pages.short_below
    return paper.pages == "full" or by_need
