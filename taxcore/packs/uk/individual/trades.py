"""Trades and shares of partnerships: what is charged of each, on which pages, and what it closes.

ITTOIA 2005 Parts 2 and 9; CAA 2001 Part 2; FA 2022 Sch. 1 for the change of basis periods. Amounts are whole pounds, of income
what is less, of deductions what is more.
"""

from decimal import Decimal

from taxcore.engine import excess, fact, least, line, share, times, total, when
from taxcore.packs.uk.balances import (
    ASSETS,
    MAIN_POOL,
    PARTNER_LOSS,
    SPECIAL_POOL,
    TRADE_LOSS,
    TRANSITION,
)
from taxcore.packs.uk.base import Page, up
from taxcore.packs.uk.individual.assets import Asset, Year, worked_out
from taxcore.packs.uk.individual.papers import COSTS

_FIRST_OF_THE_CHANGE = 2023
_LAST_OF_THE_CHANGE = 2027
_FLAT_RATES = {"travel": "mileage", "premises": "use_of_home"}  # among which expenses they stand
_FULL_ONLY = ("subcontractors", "advertising", "bad_debts", "depreciation", "transition_part", "transition_before", "overlap")


def trades_of(run):
    """Everything with profits of a trade: each has taxable, transition, net_loss, loss_use, deducted and counts_for_class_4."""
    return [*run.every("uk.trading-profit"), *run.every("uk.sa104s")]


def assets_of(paper):
    """What was entered of plant and cars, as far as it is complete."""
    rows = [row for row in paper.assets if row.bought is not None and row.pool]
    return [
        Asset(row.key, row.pool, row.bought, Decimal(row.cost), Decimal(row.private or 0) / 100, Decimal(row.before), row.sold,
              Decimal(row.proceeds))
        for row in rows
    ]  # fmt: skip


class _OfOnePaper(Page):
    """A page that stands on one paper."""

    @property
    def paper(self):
        return next(one for one in self.papers(self.per) if one.key == self.key)


class TradingProfit(_OfOnePaper):
    """One trade from its receipts to what is charged, whichever pages it is written on."""

    number, name, per, worksheet = "Trading profit", "Profit of a trade", "trade", True
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

    @fact("Transition part less overlap relief", cites="FA 2022 Sch. 1 para. 70", rounding=None)
    def changed(self):
        """Of 2023-24 alone. Less than nothing lowers the profit of the year."""
        part = total(self.rounding(self.paper.transition_part), less=up(self.paper.overlap))
        return when(self.year == _FIRST_OF_THE_CHANGE, part, "basis periods changed in 2023-24")

    @fact("Transition profit", cites="FA 2022 Sch. 1 paras 70, 72")
    def transition_whole(self):
        """No more than the profit of the year altogether: a loss of the twelve months comes off first."""
        of_the_year = excess(self.changed, over=self.twelve_months_loss)
        return total(of_the_year, self.rounding(self.paper.transition_before))

    @fact("Transition profit charged in the year", cites="FA 2022 Sch. 1 paras 72, 73")
    def transition(self):
        """A fifth in 2023-24, then an equal part of what is left each year; all of it in the last, and when the trade ends."""
        if self.paper.ended is not None or self.year >= _LAST_OF_THE_CHANGE:
            return total(self.transition_whole)
        part = share(Decimal(1) / self.law.basis_periods.parts, of=self.transition_whole)
        return least(total(self.rounding(part + 0), self.rounding(self.paper.transition_more)), self.transition_whole)

    @fact("Transition profit left", closes=TRANSITION)
    def transition_left(self):
        return excess(self.transition_whole, over=self.transition)

    @fact("Net profit for tax")
    def net(self):
        lower = excess([Decimal(0)], over=[self.changed])
        return excess(self.twelve_months, over=lower)

    @fact("Net loss for tax")
    def net_loss(self):
        """What the twelve months lost and no transition profit made good, and overlap relief above all profit."""
        lower = excess([Decimal(0)], over=[self.changed])
        return total(
            excess(self.twelve_months_loss, over=excess(self.changed, over=Decimal(0))), excess(lower, over=self.twelve_months)
        )

    @fact("Loss brought forward and used", rounding=up)
    def loss_used(self):
        return least(self.paper.loss_before, self.net)

    @fact("Charged of this trade", weight="total")
    def taxable(self):
        return excess(self.net, over=self.loss_used)

    @property
    def loss_use(self):
        return self.paper.loss_use

    @property
    def counts_for_class_4(self):
        return not self.paper.no_class_4

    @fact("Loss set against other income", cites="ITA 2007 s. 64")
    def loss_against_income(self):
        claimed = when(self.loss_use == "income", self.net_loss, "it is not set against other income")
        return least(claimed, self.run.form("uk.income").losses_set)

    @fact("Loss to carry forward", closes=TRADE_LOSS, used="loss_used", cites="ITA 2007 s. 83")
    def loss_forward(self):
        """What of losses of before is not used, and what of this year's is set against nothing."""
        return total(excess(self.paper.loss_before, over=self.loss_used), excess(self.net_loss, over=self.loss_against_income))

    @fact("Deductions of contractors", rounding=up)
    def deducted(self):
        return total(self.paper.deducted)


def _plant(paper):
    return worked_out(
        assets_of(paper), Decimal(paper.main_before), Decimal(paper.special_before), paper.run.period, paper.law.plant,
        ended=paper.ended is not None,
    )  # fmt: skip


def is_full(paper):
    """Whether a trade is written on the full pages: by choice, by its turnover, or by something that only they have."""
    by_need = any(paper.is_keyed(name) for name in _FULL_ONLY) or paper.turnover >= paper.law.pages.short_below
    return paper.pages == "full" or by_need


class _TradePage(_OfOnePaper):
    per = "trade"
    needs = ("trade",)

    @property
    def of(self):
        return self.run.form("uk.trading-profit", self.key)


class TradePage(_TradePage):
    """SA103S. Expenses are grouped as its boxes are."""

    number, name = "SA103S", "Self-employment (short)"

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers("trade") if not is_full(paper)]

    @line("9", "Turnover")
    def turnover(self):
        return total(self.paper.turnover)

    @line("10", "Any other business income")
    def other(self):
        return total(self.paper.other)

    @line("10.1", "Trading income allowance")
    def allowance(self):
        return total(self.of.allowance)

    @line("20", "Total allowable expenses")
    def expenses(self):
        return total(self.of.expenses)

    @line("21", "Net profit")
    def profit(self):
        return total(self.of.profit)

    @line("22", "Net loss")
    def loss(self):
        return total(self.of.loss)

    @line("28", "Net business profit for tax purposes")
    def net(self):
        return total(self.of.net)

    @line("29", "Loss brought forward set against this year's profits")
    def loss_used(self):
        return total(self.of.loss_used)

    @line("31", "Total taxable profits", weight="total")
    def taxable(self):
        return total(self.of.taxable)

    @line("32", "Net business loss for tax purposes")
    def net_loss(self):
        return total(self.of.net_loss)

    @line("33", "Loss set off against other income")
    def loss_against_income(self):
        return total(self.of.loss_against_income)

    @line("35", "Total loss to carry forward")
    def loss_forward(self):
        return total(self.of.loss_forward)

    @line("38", "Deductions on payment and deduction statements")
    def deducted(self):
        return total(self.of.deducted)


def _expense(number, label, name):
    """A box of the full pages for one kind of expenses, less what of it is disallowable."""
    return line(number, label)(lambda page: total(page.of.allowable(name)))


class FullTradePage(_TradePage):
    """SA103F."""

    number, name = "SA103F", "Self-employment (full)"

    @classmethod
    def keys(cls, run):
        return [paper.key for paper in run.papers("trade") if is_full(paper)]

    @line("15", "Turnover")
    def turnover(self):
        return total(self.paper.turnover)

    @line("16", "Any other business income")
    def other(self):
        return total(self.paper.other)

    @line("16.1", "Trading income allowance")
    def allowance(self):
        return total(self.of.allowance)

    goods = _expense("17", "Cost of goods bought for resale or goods used", "goods")
    subcontractors = _expense("18", "Construction industry payments to subcontractors", "subcontractors")
    wages = _expense("19", "Wages, salaries and other staff costs", "wages")
    travel = _expense("20", "Car, van and travel expenses", "travel")
    premises = _expense("21", "Rent, rates, power and insurance costs", "premises")
    repairs = _expense("22", "Repairs and maintenance of property and equipment", "repairs")
    office = _expense("23", "Phone, stationery and other office costs", "office")
    advertising = _expense("24", "Advertising and business entertainment costs", "advertising")
    finance = _expense("25", "Interest on bank and other loans", "finance")
    bank_charges = _expense("26", "Bank, credit card and other financial charges", "bank_charges")
    bad_debts = _expense("27", "Irrecoverable debts written off", "bad_debts")
    accountancy = _expense("28", "Accountancy, legal and other professional fees", "accountancy")
    rest = _expense("30", "Other business expenses", "rest")

    @line("31", "Total expenses")
    def expenses(self):
        return total(self.of.expenses)

    @line("47", "Net profit")
    def profit(self):
        return total(self.of.profit)

    @line("48", "Net loss")
    def loss(self):
        return total(self.of.loss)

    @line("57", "Total capital allowances")
    def allowances(self):
        return total(self.of.allowances)

    @line("59", "Balancing charge on sales of assets or on cessation")
    def charge(self):
        return total(self.of.charge)

    @line("60", "Goods and services for own use")
    def own_use(self):
        return total(self.paper.own_use)

    @line("64", "Net business profit for tax purposes")
    def net(self):
        return total(self.of.twelve_months)

    @line("65", "Net business loss for tax purposes")
    def net_loss(self):
        return total(self.of.twelve_months_loss)

    @line("69", "Overlap relief used this year")
    def overlap(self):
        return total(self.paper.overlap)

    @line("73", "Adjusted profit for the year")
    def adjusted(self):
        return total(self.of.net)

    @line("73.3", "Transition profit charged in the year")
    def transition(self):
        return total(self.of.transition)

    @line("74", "Loss brought forward set off against this year's profits")
    def loss_used(self):
        return total(self.of.loss_used)

    @line("76", "Total taxable profits from this business", weight="total")
    def taxable(self):
        return total(self.of.taxable, self.of.transition)

    @line("77", "Adjusted loss for the year")
    def adjusted_loss(self):
        return total(self.of.net_loss)

    @line("78", "Loss set off against other income")
    def loss_against_income(self):
        return total(self.of.loss_against_income)

    @line("80", "Total loss to carry forward")
    def loss_forward(self):
        return total(self.of.loss_forward)

    @line("81", "Deductions on payment and deduction statements")
    def deducted(self):
        return total(self.of.deducted)


class PartnershipPage(_OfOnePaper):
    """SA104S, one for each partnership. ITTOIA 2005 s. 850."""

    number, name, per = "SA104S", "Partnership (short)", "partnership"
    needs = ("partnership",)

    @line("8", "Share of the partnership's profit or loss")
    def share(self):
        return total(self.paper.share)

    @fact("Profit")
    def net(self):
        return excess(self.share, over=Decimal(0))

    @line("17", "Losses brought forward set against this year's profit", rounding=up)
    def loss_used(self):
        return least(self.paper.loss_before, self.net)

    @line("20", "Total taxable profits", weight="total")
    def taxable(self):
        return excess(self.net, over=self.loss_used)

    @line("22", "Adjusted loss for the year")
    def net_loss(self):
        return excess(Decimal(0), over=self.share)

    @line("23", "Loss set off against other income", cites="ITA 2007 s. 64")
    def loss_against_income(self):
        claimed = when(self.loss_use == "income", self.net_loss, "it is not set against other income")
        return least(claimed, self.run.form("uk.income").losses_set)

    @line("25", "Total loss to carry forward", closes=PARTNER_LOSS, used="loss_used", cites="ITA 2007 s. 83")
    def loss_forward(self):
        return total(excess(self.paper.loss_before, over=self.loss_used), excess(self.net_loss, over=self.loss_against_income))

    @line("28", "Share of untaxed interest")
    def interest(self):
        return total(self.paper.interest)

    @line("30", "Share of deductions of contractors", rounding=up)
    def deducted(self):
        return total(self.paper.deducted)

    @property
    def transition(self):
        return Decimal(0)

    @property
    def loss_use(self):
        return self.paper.loss_use

    @property
    def counts_for_class_4(self):
        return not self.paper.no_class_4
