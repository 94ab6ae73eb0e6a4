"""Form 4684, section A: casualties and thefts of property for personal use. IRC 165(c)(3), (h).

Since 2018 a loss counts where the President declared a disaster, else only against gains of casualties: IRC 165(h)(5).
"""

from taxcore.engine import ZERO, excess, fact, least, line, linked, nothing_because, pro_rata, share, total
from taxcore.packs.us.base import FederalForm, from_paper
from taxcore.packs.us.property.lives import is_held_longer


class LostThing(FederalForm):
    """One thing that was damaged, destroyed or stolen: lines 2 to 9. IRC 165(b); 26 CFR 1.165-7(b)."""

    number, name, per, worksheet = "4684 property", "Casualty of one property", "casualty", True

    @property
    def paper(self):
        return self.run.by_key(("casualty",), self.key)

    def required(self):
        return False

    basis = from_paper("2", "basis", "Cost or other basis")
    reimbursed = from_paper("3", "reimbursed", "Insurance or other reimbursement")

    @line("4", "Gain")
    def gain(self):
        return excess(self.reimbursed, over=self.basis)

    before = from_paper("5", "before", "Fair market value before")
    after = from_paper("6", "after", "Fair market value after")

    @line("7", "Line 5 less line 6")
    def fall(self):
        return excess(self.before, over=self.after)

    @line("8", "Smaller of lines 2 and 7")
    def smaller(self):
        return least(self.basis, self.fall)

    @line("9", "Loss")
    def loss(self):
        return excess(self.smaller, over=self.reimbursed) if not self.gain else nothing_because("there is a gain")

    @property
    def is_long(self):
        first, day = self.paper.acquired, self.paper.happened
        return first is not None and day is not None and is_held_longer(first, day)


class Casualties(FederalForm):
    """Section A, all events together. IRC 165(h)(1) to (5)."""

    number, name = "4684", "Casualties and thefts"
    income = linked("us.1040")
    needs = ("casualty",)

    def required(self):
        return self.losses > 0 or self.gains > 0

    def _things(self):
        return self.every("us.4684-property")

    def _events(self):
        """{(what happened, whether it is a disaster, whether it is a qualified one): things}: what one day or one name joins."""
        found = {}
        for one in self._things():
            paper = one.paper
            key = (paper.event or str(paper.happened), bool(paper.disaster), bool(paper.disaster and paper.qualified))
            found.setdefault(key, []).append(one)
        return found

    def _after_floor(self, *, disaster, qualified):
        law, found = self.law.casualties, []
        for (_, declared, special), things in self._events().items():
            if (declared, special) == (disaster, qualified):
                found.append(excess([one.loss for one in things], over=law.qualified_each if qualified else law.each))
        return found

    @line("10", "Casualty and theft losses")
    def losses(self):
        return total([one.loss for one in self._things()])

    @line("12", "Losses of each event above 100, or 500 of qualified disasters", cites="IRC 165(h)(1)")
    def above_floor(self):
        return total(self.qualified, self.declared, self.others)

    @fact("Losses of qualified disasters")
    def qualified(self):
        return total(self._after_floor(disaster=True, qualified=True))

    @fact("Losses of other federally declared disasters")
    def declared(self):
        return total(self._after_floor(disaster=True, qualified=False))

    @fact("Losses of no declared disaster", cites="IRC 165(h)(5)(A)")
    def others(self):
        return total(self._after_floor(disaster=False, qualified=False))

    @line("13", "Losses of federally declared disasters")
    def together(self):
        return total(self.qualified, self.declared)

    @line("14", "Gains", cites="IRC 165(h)(3)(A)")
    def gains(self):
        return total([one.gain for one in self._things()])

    @fact("Gains that losses of no declared disaster leave", cites="IRC 165(h)(5)(B)")
    def gains_left(self):
        return excess(self.gains, over=self.others)

    @line("15", "Net qualified disaster loss", weight="total")
    def net_qualified(self):
        return excess(self.qualified, over=self.gains_left)

    @line("16", "Other losses above gains")
    def net(self):
        return excess(self.declared, over=excess(self.gains_left, over=self.qualified))

    @line("17", "10% of adjusted gross income", cites="IRC 165(h)(2)(A)")
    def floor(self):
        return share(self.law.casualties.of_income, of=excess(self.income.adjusted_gross_income, over=ZERO))

    @line("18", "Casualty and theft loss for Schedule A", weight="total")
    def deduction(self):
        return excess(self.net, over=self.floor)

    @fact("Net gain", cites="IRC 165(h)(2)(B)")
    def net_gain(self):
        return excess(self.gains_left, over=self.together)

    @fact("Net gain, long-term")
    def long_gain(self):
        return pro_rata(self.net_gain, [one.gain for one in self._things() if one.is_long], self.gains)

    @fact("Net gain, short-term")
    def short_gain(self):
        return excess(self.net_gain, over=self.long_gain)
