"""What a trade and a share of a partnership have in common: transition profits, losses and where they are set, class 4.

FA 2022 Sch. 1 for the change of basis periods; ITA 2007 Part 4 for losses. Whole pounds.
"""

from decimal import Decimal

from taxcore.engine import excess, fact, full_steps, greatest, least, share, total, when
from taxcore.packs.uk.base import Page, up

_FIRST_OF_THE_CHANGE = 2023
_LAST_OF_THE_CHANGE = 2027
_THIS_YEAR = ("income", "both", "back_first")
_YEAR_BEFORE = ("back", "both", "back_first")
_ALWAYS_AGAINST_INCOME = (*_YEAR_BEFORE, "income", "opening")


def trades_of(run):
    """Everything with profits of a trade: a `Source` for each trade and each share of a partnership."""
    return [*run.every("uk.trading-profit"), *run.every("uk.partnership-profit")]


class OfOnePaper(Page):
    """A page that stands on one paper."""

    @property
    def paper(self):
        return next(one for one in self.papers(self.per) if one.key == self.key)


class Source(OfOnePaper):
    """One source of profits. Whoever inherits says what the twelve months gave: `twelve_months`, `twelve_months_loss`."""

    worksheet = True

    # The change of basis periods

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

    # Profit for tax

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

    @fact("Charged of this source", weight="total")
    def taxable(self):
        return excess(self.net, over=self.loss_used)

    # Where a loss is set

    @property
    def loss_use(self):
        return self.paper.loss_use

    @fact("Loss that can be set anywhere", cites="ITA 2007 ss. 64, 72, 90")
    def loss_at_hand(self):
        """At the end of a trade with what of its last twelve months fell in the year before."""
        of_the_end = when(
            self.loss_use == "end", up(self.paper.end_before), "the trade did not end, or nothing is claimed for it"
        )
        return total(self.net_loss, of_the_end)

    def claims(self):
        """(row, amount) for each earlier year that the loss reaches, in the order that the law gives."""
        rest = excess(self.loss_at_hand, over=self.loss_against_income) if self.loss_use == "both" else self.loss_at_hand
        found = []
        for row in self._rows_in_order():
            taken = least(rest, self._room_in(row))
            rest = excess(rest, over=taken)
            found.append((row, taken))
        return found

    def reached(self):
        """Earlier years that the chosen use reaches, in its order: the year before; three of them from the first, or from the
        last."""
        before = [self.year - 1, self.year - 2, self.year - 3]
        if self.loss_use in _YEAR_BEFORE:
            return before[:1]
        return {"opening": before[::-1], "end": before}.get(self.loss_use, [])

    def _rows_in_order(self):
        rows = {int(row.of_year): row for row in self.paper.earlier if row.of_year}
        return [rows[year] for year in self.reached() if year in rows]

    def _room_in(self, row):
        """Of a terminal loss the profits of the trade; of others all income, above those profits no more than the cap:
        ITA 2007 ss. 24A(7), 89."""
        if self.loss_use == "end":
            return self.rounding(row.profit)
        law = self.law.losses
        cap = total(greatest(law.cap, share(law.part, of=row.income)), row.profit)
        return full_steps(least(row.income, cap), of=Decimal(1))

    @fact("Loss set against earlier years", cites="ITA 2007 ss. 64, 72, 89")
    def loss_carried_back(self):
        return total([amount for _, amount in self.claims()])

    @fact("Tax of earlier years that becomes less", cites="TMA 1970 Sch. 1B para. 2", rounding=None)
    def saved_before(self):
        """The relief belongs to this year's return, and is worth what it would have been in its own year."""
        return total([excess(row.tax_before, over=row.tax_after) for row, amount in self.claims() if amount > 0])

    @fact("Loss that may be set against income of the year")
    def claimed(self):
        """With the year before first: what that left."""
        first = total([amount for _, amount in self.claims()]) if self.loss_use == "back_first" else Decimal(0)
        return when(self.loss_use in _THIS_YEAR, excess(self.net_loss, over=first), "it is not set against other income")

    @fact("Loss set against other income", cites="ITA 2007 s. 64")
    def loss_against_income(self):
        """Of several sources in the order of entry: the cap is one for all."""
        earlier = []
        for one in trades_of(self.run):
            if one.key == self.key:
                break
            earlier.append(one.claimed)
        return least(self.claimed, excess(self.run.form("uk.income").losses_set, over=earlier))

    def left_of_losses(self):
        """What of losses of before is not used, and what of this year's is set against nothing."""
        set_here = total(self.loss_against_income, self.loss_carried_back)
        return total(excess(self.paper.loss_before, over=self.loss_used), excess(self.loss_at_hand, over=set_here))

    # Class 4

    @property
    def counts_for_class_4(self):
        return not self.paper.no_class_4

    @fact("Set against it for class 4", cites="SSCBA 1992 Sch. 2 para. 3(4)")
    def class_4_used(self):
        return least(self.paper.class_4_before, total(self.taxable, self.transition))

    @fact("Profit that counts for class 4", cites="SSCBA 1992 Sch. 2 paras 2, 3")
    def class_4_profit(self):
        """A loss that was set against other income lowers what counts here in later years all the same."""
        return excess(total(self.taxable, self.transition), over=self.class_4_used)

    def left_for_class_4(self):
        """What was set against the trade's own profits of an earlier year has lowered class 4 in that year's tax."""
        beyond = [excess(amount, over=row.profit) for row, amount in self.claims()]
        fresh = total(self.loss_against_income, beyond)
        kept = when(self.loss_use in _ALWAYS_AGAINST_INCOME, fresh, "no loss is set against other income")
        return total(excess(self.paper.class_4_before, over=self.class_4_used), kept)

    # Tax taken off

    @fact("Deductions of contractors", rounding=up)
    def deducted(self):
        return total(self.paper.deducted)
