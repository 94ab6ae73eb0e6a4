"""Like-kind exchanges of real property, Form 8824. IRC 1031; 26 CFR 1.1031(a)-1 to (k)-1."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Day, Flag, Refer, Text, excess, fact, least, line, nothing_because, share, total
from taxcore.packs.us.base import FederalForm, FederalPaper, from_paper
from taxcore.packs.us.property.installments import SORTS
from taxcore.packs.us.property.lives import is_held_longer
from taxcore.packs.us.property.papers import BUILT

ZERO, _PERCENT = Decimal(0), Decimal("0.01")


class Exchange(FederalPaper):
    """One exchange: what was given up and received, and what came and went besides. IRC 1031(a), (b), (d)."""

    kind, name, official, group = "exchange", "Like-kind exchange", "Form 8824", "property"
    owned = False
    short, heading, main = "Like-kind exchange", "given", "value"

    given = Text("1", "Property given up", longest=60, wide=True, needed="Line 1 asks for it.")
    got = Text("2", "Property received", longest=60, wide=True, needed="Line 2 asks for it.")
    sort = Choice(None, "Kind", SORTS, needed="What kind of gain it is depends on it.")
    asset = Refer(None, "Asset given up", ("asset",), optional=True, help="Its basis is used.")
    replacement = Refer(None, "Asset received", ("asset",), optional=True, help="Its cost should be line 25.")
    acquired = Day("3", "Given up: date acquired", needed="Line 3 asks for it.")
    transferred = Day("4", "Date transferred to the other party", needed="Line 4 asks for it.")
    identified = Day("5", "Date the replacement was identified", needed="The law gives 45 days.", cites="IRC 1031(a)(3)(A)")
    received = Day("6", "Date the replacement was received", needed="The law gives 180 days.", cites="IRC 1031(a)(3)(B)")
    related = Flag("7", "With a related party", cites="IRC 1031(f)", needed="Line 7 asks for it.")

    value = Amount("16", "Fair market value of the property received", begins="Amounts")
    basis = Amount("18", "Adjusted basis of the property given up")
    cash = Amount("15", "Cash and other property received")
    paid = Amount(None, "Cash paid, and fair market value of other property given")
    relieved = Amount(None, "Liabilities the other party assumed", cites="26 CFR 1.1031(d)-2")
    assumed = Amount(None, "Liabilities assumed from the other party")
    expenses = Amount(None, "Exchange expenses")

    @basis.when_empty
    def _basis(self):
        if not self.asset or self.run.by_key(("asset",), self.asset) is None:
            return None
        register, thing = self.run.form("us.depreciation", self.asset), self.run.by_key(("asset",), self.asset)
        cost = share(Decimal(thing.business_share or 0) * _PERCENT, of=thing.cost)
        return excess(cost, over=[register.accumulated, register.section_179]) if register.is_there else total(cost)

    @property
    def thing(self):
        """The asset given up, or None."""
        return self.run.by_key(("asset",), str(self.asset or ""))


class LikeKindExchange(FederalForm):
    """Realized and recognized gain, and the basis of what was received. IRC 1031(b) to (d)."""

    number, name, per = "8824", "Like-kind exchanges", "exchange"

    @property
    def paper(self):
        return self.run.by_key(("exchange",), self.key)

    @property
    def is_this_year(self):
        day = self.paper.transferred
        return day is not None and day.year == self.run.year

    def required(self):
        return self.is_this_year

    @property
    def is_long(self):
        """Held for more than a year. IRC 1222."""
        first, gone = self.paper.acquired, self.paper.transferred
        return first is not None and gone is not None and is_held_longer(first, gone)

    @fact("Net liabilities and cash", cites="26 CFR 1.1031(d)-2")
    def went_besides(self):
        """What was paid and taken over, above the liabilities that went: money received is never set off."""
        return excess(total(self.paper.assumed, self.paper.paid), over=self.paper.relieved)

    @fact("Received besides, before expenses")
    def came_besides(self):
        return total(self.paper.cash, excess(self.paper.relieved, over=[self.paper.assumed, self.paper.paid]))

    @line("15", "Cash, other property and net liabilities received, less exchange expenses", cites="IRC 1031(b)")
    def boot(self):
        return excess(self.came_besides, over=self.paper.expenses)

    value = from_paper("16", "value", "Fair market value of like-kind property received")

    @line("17", "Lines 15 and 16")
    def got(self):
        return total(self.boot, self.value)

    @line("18", "Adjusted basis given up, net amounts paid, and expenses not used on line 15")
    def gave(self):
        return total(self.paper.basis, self.went_besides, excess(self.paper.expenses, over=self.came_besides))

    @line("19", "Realized gain or (loss)", weight="total", cites="IRC 1001")
    def realized(self):
        return total(self.got, less=self.gave)

    @line("20", "Smaller of lines 15 and 19")
    def limited(self):
        return excess(least(self.boot, self.realized), over=ZERO)

    @line("21", "Ordinary income under recapture rules")
    def ordinary(self):
        return nothing_because("only real property is exchanged, written off by the straight line: IRC 1031(a)(1), 1250(a)")

    @line("22", "Line 20 less line 21")
    def other_gain(self):
        return excess(self.limited, over=self.ordinary)

    @line("23", "Recognized gain", weight="total", cites="IRC 1031(b)")
    def recognized(self):
        return total(self.ordinary, self.other_gain)

    @line("24", "Deferred gain or (loss)", weight="total", cites="IRC 1031(a)(1), (c)")
    def deferred(self):
        return total(self.realized, less=self.recognized)

    @line("25", "Basis of like-kind property received", weight="total", cites="IRC 1031(d)")
    def basis_received(self):
        return total(self.gave, self.recognized, less=self.boot)

    @fact("Gain of this year")
    def gain(self):
        return total(self.other_gain) if self.is_this_year else nothing_because("it was transferred in another year")

    @fact("Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def unrecaptured(self):
        thing = self.paper.thing
        if thing is None or thing.sort not in BUILT or not self.is_long:
            return nothing_because("it is no building held for more than a year")
        return least(self.gain, self.run.form("us.depreciation", thing.key).accumulated)


def exchanged_gains(run, *, long, capital):
    """Gains of exchanges of investments, or of property of trades and rentals, by how long it was held."""
    return [
        one.gain for one in run.every("us.8824")
        if one.is_long == long and (one.paper.sort == "capital") == capital
    ]  # fmt: skip


def exchanged_assets(run):
    """Keys of the assets that were exchanged and not sold."""
    return frozenset(str(paper.asset) for paper in run.papers("exchange") if paper.asset)
