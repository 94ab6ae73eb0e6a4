"""Trades whose owner does not materially participate: their losses wait for passive income or for the end. IRC 469."""

from decimal import Decimal

from taxcore.engine import ZERO, Loop, excess, fact, line, nothing_because, total
from taxcore.packs.us.balances import PASSIVE_TRADE
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import limits_risk
from taxcore.packs.us.federal.trades import TRADES, trade_of


def is_passive(books):
    """Whether a trade goes through Form 8582: its owner does not materially participate. IRC 469(c)(1)."""
    return books.participates is False


class LimitedTrade(FederalForm):
    """A schedule whose `result` goes through what is at risk and then the passive loss limit."""

    def result(self):
        """Income less expenses."""
        raise NotImplementedError

    @fact("Profit or loss before the at-risk limit")
    def before_risk(self):
        return self.result()

    @fact("Profit or loss before the passive loss limit")
    def after_risk(self):
        return total(self.run.form("us.6198", self.key).counted) if limits_risk(self.books) else self.result()

    def after_limits(self):
        """Line 31 or 34: income less expenses itself, where nothing limits it."""
        if is_passive(self.books):
            return total(self.run.form("us.passive-trade", self.key).counted)
        return total(self.after_risk) if limits_risk(self.books) else self.result()


class PassiveTrade(FederalForm):
    """What one such trade's schedule counts. IRC 469(a), (b), (g)."""

    number, name, per, worksheet = "Passive trade", "Trade without material participation", tuple(TRADES), True

    @classmethod
    def keys(cls, run):
        return [books.key for kind in TRADES for books in run.papers(kind) if is_passive(books)]

    @property
    def books(self):
        return self.run.by_key(tuple(TRADES), self.key)

    def required(self):
        return self.before > 0 or self.result < 0

    @line("1", "Profit or (loss) before the passive loss limit")
    def result(self):
        return total(trade_of(self.books).after_risk)

    @line("2", "Passive losses of earlier years not allowed")
    def before(self):
        return total(self.books.passive_before)

    @fact("Ends with all its losses", cites="IRC 469(g)(1)(A)")
    def is_released(self):
        return bool(self.books.disposed) and total(self.before, less=self.result) > 0

    @line("3", "Losses not allowed this year", closes=PASSIVE_TRADE, cites="IRC 469(b)", loop=Loop(Decimal(1)))
    def waits(self):
        """A circle: the allowance of rents goes by income after deductions that follow the profit of all trades."""
        if self.is_released:
            return nothing_because("the trade was disposed of entirely")
        return total(self.run.form("us.8582").waiting(self.key))

    @line("4", "Net profit or (loss) on its schedule", weight="total")
    def counted(self):
        losses = total(excess(ZERO, over=self.result), self.before)
        return total(excess(self.result, over=ZERO), less=excess(losses, over=self.waits))
