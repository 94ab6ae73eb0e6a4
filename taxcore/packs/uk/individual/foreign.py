"""Foreign income and what the United Kingdom allows for the tax on it.

TIOPA 2010 ss. 18, 33, 36, 112. Relief is given source by source: the UK tax that an item adds, and no more than the foreign tax
within the agreement's limit. Which item comes on top of which is the taxpayer's to choose, so every order is tried; the sum in
the order of entry stays beside it.
"""

from decimal import ROUND_FLOOR, Decimal
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine import Operand, excess, explained, fact, least, line, linked, share, total, when
from taxcore.engine.figures import ZERO, cents
from taxcore.engine.law import Law, read_law
from taxcore.packs.uk.balances import UNREMITTABLE
from taxcore.packs.uk.base import Calculation, Page

_PLACES = {"interest": 1, "dividends": 2}  # among (earned, savings, dividends); whatever else is earned
_NAMES = ("earned", "savings", "dividends")
_EVERY_ORDER = 6  # items; of more, those whose foreign tax is the largest part of the income come first


@cache
def treaties() -> Law:
    return read_law(Path(__file__).parent.parent / "treaties.toml")


def reliefs_in(
    order: tuple[int, ...], items: list[tuple[int, Decimal, Decimal]], kinds: tuple[Decimal, ...], tax: Any
) -> list[Decimal]:
    """The relief of each item, when they are taken off the top of the income in this order. `items` are (place of the kind,
    amount, creditable tax); `tax` works out income tax on income by kinds."""
    found, left = [ZERO] * len(items), list(kinds)
    before = tax(tuple(left))
    for number in order:
        place, amount, creditable = items[number]
        left[place] -= amount
        after = tax(tuple(left))
        found[number] = min(creditable, max(cents(before - after), ZERO))
        before = after
    return found


def best_relief(items: list[tuple[int, Decimal, Decimal]], kinds: tuple[Decimal, ...], tax: Any) -> Decimal:
    """The most that any order gives. What is left of the income follows from which items were taken off, not from their order, so
    that each set of items is worked out once."""
    known = cache(tax)
    entered = sum(reliefs_in(tuple(range(len(items))), items, kinds, known), ZERO)
    if entered == sum((creditable for _, _, creditable in items), ZERO):
        return entered  # all of the foreign tax is credited: no order gives more
    if len(items) > _EVERY_ORDER:
        order = tuple(sorted(range(len(items)), key=lambda number: -items[number][2] / items[number][1]))
        return max(entered, sum(reliefs_in(order, items, kinds, known), ZERO))
    best = {frozenset[int](): ZERO}
    for size in range(len(items)):
        for taken in [one for one in best if len(one) == size]:
            before = known(_without(kinds, items, taken))
            for number in set(range(len(items))) - taken:
                after = taken | {number}
                relief = min(items[number][2], max(cents(before - known(_without(kinds, items, after))), ZERO))
                best[after] = max(best.get(after, ZERO), best[taken] + relief)
    return best[frozenset(range(len(items)))]


def _without(kinds: tuple[Decimal, ...], items: list[tuple[int, Decimal, Decimal]], taken: Any) -> tuple[Decimal, ...]:
    left = list(kinds)
    for number in taken:
        left[items[number][0]] -= items[number][1]
    return tuple(left)


class ForeignItem(Calculation):
    """One item: what is charged here, and how much of its foreign tax can be credited."""

    number, name, per, worksheet = "Foreign item", "Foreign income, item by item", "foreign", True
    needs = ("foreign",)

    @property
    def paper(self):
        return next(one for one in self.papers("foreign") if one.key == self.key)

    @property
    def place(self):
        return _PLACES.get(self.paper.income_kind, 0)

    @property
    def kind_of_income(self):
        return _NAMES[self.place]

    @fact("Amount in whole pounds")
    def amount(self):
        pounds = self.paper.amount.quantize(Decimal(1), ROUND_FLOOR)
        return when(not self.paper.unremittable, pounds, "it could not be brought to the United Kingdom")

    @fact("Could be remitted this year, of what was kept", cites="ITTOIA 2005 s. 844")
    def released(self):
        return least(self.paper.released, self.paper.kept_before)

    @fact("Kept as unremittable", closes=UNREMITTABLE, used="released", cites="ITTOIA 2005 ss. 842, 843")
    def kept(self):
        fresh = when(bool(self.paper.unremittable), self.paper.amount, "it could be brought to the United Kingdom")
        return total(fresh, excess(self.paper.kept_before, over=self.released))

    @fact("Of the year, and remitted now")
    def whole(self):
        return total(self.amount, self.released.quantize(Decimal(1), ROUND_FLOOR))

    @line("a", "Charged here")
    def charged(self):
        """Foreign tax for which no credit is claimed is deducted: TIOPA 2010 s. 112. What could not be remitted is charged once
        it can be."""
        return total(self.whole) if self.paper.claims else excess(self.whole, over=self.paper.tax)

    @fact("Limit of the agreement")
    def limit(self):
        """The percentage that the country may keep; none where the agreement is not known here."""
        if self.paper.is_keyed("limit_percent"):
            return share(Decimal("0.01"), of=self.paper.limit_percent)
        known = self.agreement
        return total(known[self.paper.income_kind]) if known is not None else when(False, ZERO, "no agreement is known here")

    @property
    def agreement(self):
        known = treaties().countries
        country = dict(known.items()).get(self.paper.country)
        return country if country is not None and self.paper.income_kind in country else None

    @line("b", "Foreign tax that can be credited")
    def creditable(self):
        """Special withholding tax is credited or repaid in full, besides: it has no limit."""
        within = least(self.paper.tax, share(self.limit, of=self.whole))
        return when(bool(self.paper.claims) and self.whole > 0, within, "no credit is claimed, or it is not taxed")


class ForeignCredit(Calculation):
    """Foreign tax credit relief: the best lawful order, and that of entry beside it."""

    number, name, worksheet = "Foreign credit", "Foreign tax credit relief", True
    income_tax, income = linked("uk.income-tax"), linked("uk.income")

    def _items(self):
        return [(one.place, one.charged, one.creditable) for one in self.every("uk.foreign-item") if one.creditable > 0]

    def _kinds(self):
        return (self.income.earned, self.income.savings, self.income.dividends)

    @fact("In the order of entry")
    def as_entered(self):
        return self._sum(lambda items, kinds, tax: sum(reliefs_in(tuple(range(len(items))), items, kinds, tax), ZERO))

    @line("a", "Credit for foreign tax, in the best order", weight="total")
    def relief(self):
        return self._sum(best_relief)

    def _sum(self, worked_out):
        items, kinds = self._items(), self._kinds()
        if not items:
            return when(False, ZERO, "there is no foreign tax to credit")

        def again(*given):
            paired = [(place, amount, tax) for (place, _, _), amount, tax in zip(items, given[::2], given[1::2], strict=True)]
            return worked_out(paired, kinds, self.income_tax.tax_if)

        flat = [value for _, amount, tax in items for value in (amount, tax)]
        return explained(
            "Credit for", again(*flat), [Operand(value) for value in flat], again, "item by item, the smaller of both taxes"
        )

    @fact("The best order brings", cites="TIOPA 2010 s. 36")
    def better(self):
        return excess(self.relief, over=self.as_entered)

    @fact("Special withholding tax", cites="TIOPA 2010 s. 135")
    def special(self):
        return total([one.special_withholding for one in self.papers("foreign")])


class ForeignPage(Page):
    """SA106: totals by kind of income."""

    number, name = "SA106", "Foreign"
    needs = ("foreign",)
    credit = linked("uk.foreign-credit")

    def _of(self, kind):
        return [one.whole for one in self.every("uk.foreign-item") if one.paper.income_kind == kind]

    @line("4", "Interest and other income from overseas savings")
    def interest(self):
        return total(self._of("interest"))

    @line("6", "Dividends from foreign companies")
    def dividends(self):
        return total(self._of("dividends"))

    @line("8", "Overseas pensions, social security benefits and royalties")
    def pensions(self):
        return total(self._of("pension"), self._of("royalties"))

    @line("14", "Total income from overseas property")
    def rents(self):
        return total(self._of("rents"))

    @line("2", "Foreign Tax Credit Relief", weight="total")
    def relief(self):
        return total(self.credit.relief)

    @fact("Kept as unremittable")
    def unremittable(self):
        return total([one.kept for one in self.every("uk.foreign-item")])
