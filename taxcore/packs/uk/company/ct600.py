"""CT600: all profits, reliefs in their order, tax by financial years with marginal relief, what is due.

CTA 2009 s. 2; CTA 2010 ss. 3, 18A to 18N, 37 to 45F, 62, 99, 189, 269ZB to 269ZD, 455.
"""

from decimal import Decimal

from taxcore.engine import excess, fact, least, line, linked, nothing_because, pro_rata, share, total, when
from taxcore.engine.figures import cents
from taxcore.packs.uk.base import Page, up
from taxcore.packs.uk.company.balances import CAPITAL_LOSS, DEFICIT, PROPERTY_LOSS, TRADE_LOSS, TRADE_LOSS_2017
from taxcore.packs.uk.company.base import months_after, twelve_months_of

ZERO = Decimal(0)
_BACK, _AT_THE_END = 12, 36  # months


class CompanyReturn(Page):
    """The company's return for one accounting period."""

    number, name = "CT600", "Company tax return"
    trade, accounts = linked("uk.trading-profit"), linked("uk.accounts")

    @property
    def about(self):
        return self.run.single("about")

    @property
    def losses(self):
        return self.run.single("losses")

    @property
    def income(self):
        return self.run.single("other-income")

    @property
    def reliefs(self):
        return self.run.single("reliefs")

    def _in_period(self, amount):
        """Of accounts that are longer, the part of the period by days."""
        if self.run.period.days >= self.accounts.days:
            return total(amount)
        return pro_rata(amount, Decimal(self.run.period.days), Decimal(self.accounts.days))

    # Income

    @line("145", "Turnover")
    def turnover(self):
        return self._in_period(self.accounts.turnover)

    @line("155", "Trading profits")
    def trading(self):
        return total(self.trade.profit)

    @line("160", "Trading losses of before April 2017 set against them", cites="CTA 2010 s. 45", rounding=up)
    def old_losses(self):
        return least(self.losses.trade_before_2017, self.trading, self.losses_cap)

    @line("165", "Net trading profits")
    def net_trading(self):
        return excess(self.trading, over=self.old_losses)

    @fact("Interest less what it costs")
    def loans_net(self):
        keyed = total(self.rounding(self.income.interest), less=up(self.income.interest_paid))
        return total(self._in_period(self.accounts.interest), keyed)

    @line("170", "Profits of loan relationships, not of the trade", cites="CTA 2009 s. 299")
    def interest(self):
        return excess(total(self.loans_net), over=ZERO)

    @fact("Rents less what they cost")
    def lettings_net(self):
        keyed = total(self.rounding(self.income.rents), less=up(self.income.property_costs))
        return total(self._in_period(self.accounts.property), keyed)

    @line("190", "Income of lettings", cites="CTA 2009 s. 209")
    def property(self):
        return excess(total(self.lettings_net), over=ZERO)

    @line("205", "Other income")
    def other(self):
        return total(self.accounts.other, self.rounding(self.income.other))

    # Gains

    def _gains(self):
        rows = self.run.single("gains").disposals if self.run.papers("gains") else ()
        return [row for row in rows if row.sold is None or row.sold in self.run.period]

    @line("210", "Gross chargeable gains", cites="TCGA 1992 ss. 2, 53")
    def gains(self):
        return total([excess(row.proceeds, over=[row.cost, row.indexation]) for row in self._gains()])

    @fact("Losses on disposals of the period", rounding=up)
    def gains_lost(self):
        return total([excess(row.cost, over=row.proceeds) for row in self._gains()])

    @line("215", "Capital losses set against them", cites="TCGA 1992 s. 2A", rounding=up)
    def capital_losses(self):
        return least(total(self.gains_lost, self.run.single("gains").losses_before), self.gains)

    @line("220", "Net chargeable gains")
    def net_gains(self):
        return excess(self.gains, over=self.capital_losses)

    @fact("Capital losses to carry forward", closes=CAPITAL_LOSS, rounding=up)
    def capital_left(self):
        return excess(total(self.gains_lost, self.run.single("gains").losses_before), over=self.capital_losses)

    # All profits, and what comes off them

    @line("235", "Profits before other deductions and reliefs", weight="total")
    def profits(self):
        return total(self.net_trading, self.interest, self.property, self.other, self.net_gains)

    @fact("Loss of lettings of the period")
    def lettings_lost(self):
        return excess(ZERO, over=self.lettings_net)

    @fact("Of it, set against profits of the period", cites="CTA 2010 s. 62(3)")
    def lettings_lost_used(self):
        return least(self.lettings_lost, self.profits)

    @fact("Deficit of loans of the period")
    def deficit(self):
        return excess(ZERO, over=self.loans_net)

    @line("250", "Losses of lettings", rounding=up)
    def property_losses(self):
        return total(self.lettings_lost_used, self.property_before)

    def _given(self, sort):
        """What is given up to other companies of the group, of one kind of loss: CTA 2010 s. 99."""
        return total([row.amount for row in self.run.single("group").given if row.sort == sort])

    @fact("Deficit that the company keeps")
    def deficit_kept(self):
        return excess(self.deficit, over=self._given("deficit"))

    @line("260", "Deficit of loans of the period", cites="CTA 2009 s. 463B(1)(a)")
    def deficit_used(self):
        claimed = self.deficit_kept
        if self.losses.is_keyed("deficit_claim"):
            claimed = least(claimed, self.losses.deficit_claim)
        return least(claimed, excess(self.profits, over=self.lettings_lost_used))

    @line("263", "Deficits of loans brought forward", cites="CTA 2009 s. 463G", rounding=up)
    def deficit_before(self):
        return least(self.losses.deficit_before, *self._left(self.trade_before, self.property_before))

    @fact("Trading loss that the company keeps")
    def loss_kept(self):
        return excess(self.trade.loss, over=self._given("trade"))

    @line("275", "Trading losses of the period", cites="CTA 2010 s. 37(3)(a)")
    def loss_against(self):
        left = excess(self.profits, over=[self.lettings_lost_used, self.deficit_used])
        return when(bool(self.losses.this_year), least(self.loss_kept, left), "it is not claimed")

    @fact("What losses brought forward may take", cites="CTA 2010 ss. 269ZB to 269ZD")
    def losses_cap(self):
        """The deductions allowance, and half of the profits above it."""
        law = self.law.losses
        keyed = self.losses.is_keyed("allowance")
        allowance = total(self.losses.allowance) if keyed else total(law.allowance)
        profits = total(self.trading, self.interest, self.property, self.other, self.net_gains)
        return total(allowance, share(law.above, of=excess(profits, over=allowance)))

    def _left(self, *used):
        """(of the profits, of what losses of before may take) after what comes earlier."""
        return (
            excess(self.profits, over=[self.lettings_lost_used, self.deficit_used, self.loss_against, *used]),
            excess(self.losses_cap, over=[self.old_losses, *used]),
        )

    @line("285", "Trading losses brought forward", cites="CTA 2010 s. 45A", rounding=up)
    def trade_before(self):
        given = self.losses.trade_before
        if self.losses.is_keyed("trade_claim"):
            given = least(given, self.losses.trade_claim)
        return least(given, *self._left())

    @fact("Losses of lettings brought forward", cites="CTA 2010 s. 62(5)", rounding=up)
    def property_before(self):
        return least(self.losses.property_before, *self._left(self.trade_before))

    @line("295", "Deductions and reliefs")
    def deductions(self):
        return total(self.property_losses, self.deficit_used, self.deficit_before, self.loss_against, self.trade_before)

    @line("300", "Profits before donations and group relief")
    def before_donations(self):
        return excess(self.profits, over=self.deductions)

    @line("305", "Qualifying donations", cites="CTA 2010 s. 189", rounding=up)
    def donations(self):
        return least(total(self.accounts.donations, up(self.reliefs.donations)), self.before_donations)

    @line("310", "Group relief", cites="CTA 2010 s. 137")
    def group_relief(self):
        return self.brought("uk.ct600c", "claimed")

    @line("315", "Profits chargeable to Corporation Tax", weight="total")
    def taxable(self):
        return excess(self.before_donations, over=[self.donations, self.group_relief])

    # Losses carried back and forward

    def _within(self, row, amount, months):
        """Of an amount of an earlier period what falls on the months before this one, by days."""
        window = months_after(self.run.period.start, -months)
        days, inside = (row.ended - row.begun).days + 1, (row.ended - max(row.begun, window)).days + 1
        if inside <= 0 or days <= 0:
            return total(ZERO)
        return total(amount) if inside >= days else pro_rata(amount, Decimal(inside), Decimal(days))

    def claims(self):
        """(row, deficit, trading loss) of earlier periods, the latest first: twelve months, for a trading loss three years where
        the trade ceased. A deficit goes against profits of loans alone, and before the trading loss of the same period."""
        months = _AT_THE_END if self.about.ceased is not None else _BACK
        deficit = excess(self.deficit_kept, over=self.deficit_used) if self.losses.deficit_back else total(ZERO)
        trade = excess(self.loss_kept, over=self.loss_against) if self.losses.back else total(ZERO)
        found = []
        rows = [row for row in self.losses.earlier if row.begun is not None and row.ended is not None]
        rows = [row for row in rows if row.begun <= row.ended < self.run.period.start]
        for row in sorted(rows, key=lambda row: row.ended, reverse=True):
            first = least(deficit, self._within(row, least(row.interest, row.profits), _BACK))
            then = least(trade, self._within(row, excess(row.profits, over=first), months))
            deficit, trade = excess(deficit, over=first), excess(trade, over=then)
            if first > 0 or then > 0:
                found.append((row, first, then))
        return found

    @fact("Trading loss carried back", cites="CTA 2010 ss. 37(3)(b), 38, 39", rounding=up)
    def carried_back(self):
        return total([trade for _, _, trade in self.claims()])

    @fact("Deficit of loans carried back", cites="CTA 2009 ss. 463B(1)(b), 463E", rounding=up)
    def deficit_back(self):
        return total([deficit for _, deficit, _ in self.claims()])

    @fact("Tax of earlier periods that is repaid", rounding=cents)
    def saved_before(self):
        return total([excess(row.tax_before, over=row.tax_after) for row, _, _ in self.claims()])

    @fact("Trading losses to carry forward", closes=TRADE_LOSS, used="trade_before", cites="CTA 2010 s. 45A")
    def trade_left(self):
        fresh = excess(self.loss_kept, over=[self.loss_against, self.carried_back])
        return total(excess(self.losses.trade_before, over=self.trade_before), fresh)

    @fact("Trading losses of before April 2017 left", closes=TRADE_LOSS_2017, used="old_losses", cites="CTA 2010 s. 45")
    def old_left(self):
        return excess(self.losses.trade_before_2017, over=self.old_losses)

    @fact("Losses of lettings to carry forward", closes=PROPERTY_LOSS, used="property_before", cites="CTA 2010 s. 62(5)")
    def property_left(self):
        fresh = excess(self.lettings_lost, over=[self.lettings_lost_used, self._given("property")])
        return total(excess(self.losses.property_before, over=self.property_before), fresh)

    @fact("Deficits of loans to carry forward", closes=DEFICIT, used="deficit_before", cites="CTA 2009 s. 463G")
    def deficit_left(self):
        fresh = excess(self.deficit_kept, over=[self.deficit_used, self.deficit_back])
        return total(excess(self.losses.deficit_before, over=self.deficit_before), fresh)

    # Tax, by financial years

    @line("326", "Associated companies")
    def associates(self):
        return total(self.about.associates or 0)

    def _part(self, number):
        parts = self.run.parts()
        return parts[number] if number < len(parts) else None

    @line("330", "Financial year", text=True)
    def first_year(self):
        return str(self._part(0).year)

    @line("335", "Profits of the first financial year")
    def first_profits(self):
        part = self._part(0)
        if part.days == self.run.period.days:
            return total(self.taxable)
        return pro_rata(self.taxable, Decimal(part.days), Decimal(self.run.period.days))

    @line("345", "Tax of the first financial year", rounding=cents)
    def first_tax(self):
        return share(self._rate(self._part(0)), of=self.first_profits)

    @line("380", "Second financial year", text=True)
    def second_year(self):
        part = self._part(1)
        return str(part.year) if part else ""

    @line("385", "Profits of the second financial year")
    def second_profits(self):
        return excess(self.taxable, over=self.first_profits)

    @line("395", "Tax of the second financial year", rounding=cents)
    def second_tax(self):
        part = self._part(1)
        return (
            share(self._rate(part), of=self.second_profits) if part else nothing_because("the period lies in one financial year")
        )

    def augmented(self, part):
        """Profits with exempt distributions, of the days of one financial year: CTA 2010 s. 18L."""
        profits = self.first_profits if part == self._part(0) else self.second_profits
        return total(profits, pro_rata(self.exempt, Decimal(part.days), Decimal(self.run.period.days)))

    def limit_of(self, part, name):
        """A limit by days, shared with associated companies: CTA 2010 ss. 18D, 18E."""
        whole = self.run.law_in("uk", part.year).rates[name]
        companies = Decimal(1 + (self.about.associates or 0))
        return pro_rata(share(1 / companies, of=whole), Decimal(part.days), Decimal(twelve_months_of(self.run.period)))

    def _has_relief(self, part):
        return bool(self.run.law_in("uk", part.year).rates.has_relief) and not self.about.investment_holding

    def _rate(self, part):
        law = self.run.law_in("uk", part.year).rates
        small = self._has_relief(part) and self.augmented(part) <= self.limit_of(part, "lower_limit")
        return law.small if small else law.main

    def _relief(self, part, profits):
        """CTA 2010 s. 18B: the fraction of what augmented profits are below the upper limit, as profits are of them."""
        if part is None or not self._has_relief(part):
            return nothing_because("no small profits have a rate of their own in that year")
        augmented, upper = self.augmented(part), self.limit_of(part, "upper_limit")
        if augmented <= self.limit_of(part, "lower_limit") or augmented > upper:
            return nothing_because("profits are within the lower limit, or above the upper one")
        whole = share(self.run.law_in("uk", part.year).rates.fraction, of=excess(upper, over=augmented))
        return pro_rata(whole, profits, augmented)

    @line("430", "Corporation Tax", rounding=cents)
    def tax(self):
        return total(self.first_tax, self.second_tax)

    @line("435", "Marginal relief", cites="CTA 2010 s. 18B", rounding=cents)
    def relief(self):
        return total(self._relief(self._part(0), self.first_profits), self._relief(self._part(1), self.second_profits))

    @line("440", "Corporation Tax chargeable", weight="total", rounding=cents)
    def chargeable(self):
        return excess(self.tax, over=self.relief)

    @line("480", "Tax on loans to participators", rounding=cents)
    def loans_tax(self):
        return self.brought("uk.ct600a", "tax")

    @line("510", "Tax chargeable", rounding=cents)
    def charged(self):
        return total(self.chargeable, self.loans_tax)

    @line("515", "Income tax taken off", rounding=cents)
    def deducted(self):
        return total(self.about.tax_deducted)

    @line("525", "Tax payable", weight="total", rounding=cents)
    def payable(self):
        return excess(self.charged, over=self.deducted)

    @line("620", "Exempt distributions received")
    def exempt(self):
        return total(self.accounts.dividends, self.rounding(self.income.dividends))

    def settled(self):
        """What is set against what is charged: tax taken off and paid, or of an amended return what the first one came to."""
        return total(self.deducted, self.about.paid if self.run.amends is None else self.as_filed("payable"))

    @fact("Owed", rounding=cents)
    def owed(self):
        return excess(self.charged, over=self.settled())

    @fact("Repaid", rounding=cents)
    def repaid(self):
        return excess(self.settled(), over=self.charged)

    @fact("All profits")
    def total_income(self):
        return total(self.profits)

    @fact("Total tax", rounding=cents)
    def total_tax(self):
        return total(self.charged)
