"""Deduction for health insurance of the self-employed. IRC 162(l); with a marketplace plan: 26 CFR 1.162(l)-1, Pub. 974."""

from decimal import Decimal

from taxcore.engine import Loop, excess, fact, least, line, linked, nothing_because, ratio, share, total
from taxcore.packs.us.base import FederalForm, digits
from taxcore.packs.us.federal.trades import TRADES, trade_of, trades

_KINDS = (*TRADES, "k1-1065", "k1-1120s")


class SelfEmployedHealth(FederalForm):
    """One business at a time: no more than what that business earns. Form 7206; long-term care goes by age. IRC 162(l)."""

    number, name, per = "7206", "Self-employed health insurance", _KINDS
    premium_credit = linked("us.8962")

    @property
    def paper(self):
        return self.run.by_key(_KINDS, self.key)

    def required(self):
        return self.premiums > 0

    @fact("Marketplace premiums, this business")
    def marketplace(self):
        return total([total([row.premium * _months(row) for row in p.months]) for p in self._policies()])

    def _policies(self):
        return [paper for paper in self.papers("1095-a") if paper.business == self.key]

    @fact("Advance premium tax credit for them")
    def advance(self):
        return total([total([row.advance * _months(row) for row in p.months]) for p in self._policies()])

    @fact("Premiums not covered by the credit")
    def marketplace_left(self):
        """Less the advance, more what of it is repaid, less the credit that is left: the credit depends on income, and income on
        this. The circle is cut at line 14. A policy of no business beside it stops filing, so the credit is this business's."""
        if self.marketplace == 0:
            return nothing_because("no marketplace coverage is linked to this business")
        repaid = total(self.marketplace, self.premium_credit.to_repay)
        return excess(repaid, over=[self.advance, self.premium_credit.net_credit])

    @line("1", "Premiums")
    def premiums(self):
        return total(self.paper.health_insurance, self.marketplace_left)

    @line("2", "Long-term care premiums, limited by age")
    def care_premiums(self):
        paid = getattr(self.paper, "care_insurance", Decimal(0))
        owner = self.run.person(self.paper.owner or "taxpayer")
        if not paid or owner is None:
            return nothing_because("none were paid")
        return least(of={"paid": paid, "limit by age": care_limit(self.law, owner.age_at_end() or 0)})

    @line("3", "Total premiums")
    def together(self):
        return total(self.premiums, self.care_premiums)

    @line("4", "Net profit, this business")
    def profit(self):
        paper = self.paper
        if paper.kind in TRADES:
            return excess(trade_of(paper).profit, over=0)
        if paper.kind == "k1-1065":
            return excess(paper.self_employment, over=0)
        return nothing_because("a shareholder's wages are on line 11")

    @line("5", "Total net profits")
    def all_profits(self):
        owner = self.paper.owner or "taxpayer"
        profits = [one.profit for one in trades(self.run) if one.earner == owner and one.profit > 0]
        return total(profits, [p.self_employment for p in self.papers("k1-1065", owner) if p.self_employment > 0])

    @line("6", "This business's share", rounding=None)
    def profit_share(self):
        if self.all_profits == 0:
            return nothing_because("no profit is subject to SE tax")
        return least(ratio(self.profit, over=self.all_profits), 1)

    @line("7", "Deductible part of SE tax, its share")
    def half(self):
        return share(self.profit_share, of=self.brought("us.sch-se", "half", self.paper.owner or "taxpayer"))

    @line("8", "Profit less that")
    def after_half(self):
        return excess(self.profit, over=self.half)

    @line("9", "Retirement plan deduction, its share")
    def plans(self):
        if self.run.is_idle("us.plans"):
            return nothing_because("there are no plan contributions")
        return total(self.run.form("us.plans", self.paper.owner or "taxpayer").of_paper(self.key))

    @line("10", "Remainder")
    def left(self):
        return excess(self.after_half, over=self.plans)

    @line("11", "Medicare wages, S corporation shareholder")
    def wages(self):
        if self.paper.kind != "k1-1120s":
            return nothing_because("it is not an S corporation")
        number = digits(self.paper.entity_number)
        statements = self.papers("w2", self.paper.owner or "taxpayer")
        return total([wage.medicare_wages for wage in statements if number and digits(wage.employer_number) == number])

    @line("13", "Limit")
    def limit(self):
        return total(self.left, self.wages)

    @line("14", "Deduction", weight="total", loop=Loop(Decimal(1)))
    def deduction(self):
        return least(of={"premiums": self.together, "limit": self.limit})

    @fact("Premiums not deducted here")
    def unused(self):
        """What stays a medical expense. IRC 162(l)(3)."""
        return excess(self.together, over=self.deduction)


def care_limit(law, age):
    """Most of one person's long-term care premiums. IRC 213(d)(10)."""
    steps = ((40, "up_to_40"), (50, "up_to_50"), (60, "up_to_60"), (70, "up_to_70"), (999, "older"))
    return law.long_term_care[next(name for up_to, name in steps if age <= up_to)]


def _months(row):
    return max((row.last or 0) - (row.first or 13) + 1, 0)
