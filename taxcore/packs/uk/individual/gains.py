"""Capital gains tax on disposals: losses and the exempt amount against what is taxed highest, the basic band where it saves most.

TCGA 1992 ss. 1C to 1K, 169N. Which gains losses, the exempt amount and the unused basic band are set against is the taxpayer's to
choose (ss. 1F, 1H, 1K): every order of the kinds of gain is tried.
"""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from itertools import permutations
from typing import Any

from taxcore.engine import Operand, excess, explained, fact, greatest, least, line, linked, total
from taxcore.engine.figures import ZERO, cents
from taxcore.packs.uk.balances import BUSINESS_LIFETIME, CAPITAL_LOSS
from taxcore.packs.uk.base import Calculation, Page, up
from taxcore.packs.uk.individual.disposals import Sale, sales_of

Rates = tuple[Decimal, Decimal]  # within the basic band, and above it
Charge = tuple[Decimal, Decimal, Decimal]  # rate, gains at it, tax


def cheapest(gains: dict[Rates, Decimal], reliefs: Decimal, room: Decimal) -> list[Charge]:
    """What is charged at each rate in the order that gives the least tax. `reliefs`: losses and the exempt amount together;
    `room`: what is left of the basic band. Gains with one rate for all (those of business asset disposal relief) come first in
    that band: TCGA 1992 s. 169N(7)."""
    kinds = [rates for rates, gain in gains.items() if gain > 0]
    ways = [_charged(gains, way, reliefs, room) for way in permutations(kinds)]
    return min(ways, key=_tax_of, default=[])


def _tax_of(charges: list[Charge]) -> Decimal:
    return sum((tax for _, _, tax in charges), ZERO)


def _charged(gains: dict[Rates, Decimal], relieved: tuple[Rates, ...], reliefs: Decimal, room: Decimal) -> list[Charge]:
    """With reliefs set against gains in that order: the cheapest use of the basic band."""
    left, rest = {}, reliefs
    for rates in relieved:
        left[rates] = max(gains[rates] - rest, ZERO)
        rest = max(rest - gains[rates], ZERO)
    flat = [rates for rates in relieved if rates[0] == rates[1]]
    others = permutations(rates for rates in relieved if rates[0] != rates[1])
    return min((_banded(left, (*flat, *ordered), room) for ordered in others), key=_tax_of)


def _banded(left: dict[Rates, Decimal], ordered: tuple[Rates, ...], room: Decimal) -> list[Charge]:
    found: dict[Decimal, tuple[Decimal, Decimal]] = {}
    for lower, upper in ordered:
        held = min(left[lower, upper], room)
        room -= held
        for rate, part in ((lower, held), (upper, left[lower, upper] - held)):
            amount, tax = found.get(rate, (ZERO, ZERO))
            found[rate] = (amount + part, tax + cents(part * rate))
    return [(rate, amount, tax) for rate, (amount, tax) in sorted(found.items()) if amount]


def least_tax(gains: dict[Rates, Decimal], reliefs: Decimal, room: Decimal) -> Decimal:
    return _tax_of(cheapest(gains, reliefs, room))


def in_order(form: Any) -> list[Charge]:
    """What a return's gains are charged at, rate by rate."""
    return cheapest(form.by_rates(), *form.set_against())


_DIGITAL_SINCE = 2024
_CATEGORIES = {
    "residential": ("residential",), "other": ("land", "other"), "digital": ("digital",), "listed": ("listed",),
    "unlisted": ("unlisted",),
}  # fmt: skip


def _box(number: Any, label: str, category: str, what: str) -> Any:
    """A box of one kind of asset: how many disposals, or the sum of an attribute of them."""

    def box(page: Any) -> Any:
        kinds = _kinds_in(category, page.year)
        if not page.run.once(_kinds_there).intersection(kinds):
            return total()
        sales = [one for one in page.sales() if one.kind in kinds]
        return total([getattr(one, what) for one in sales])

    return line(number, label, rounding=up if what in ("cost", "loss") else "form")(box)


def _kinds_in(category: str, year: int) -> tuple[str, ...]:
    """Digital assets have boxes of their own since 2024-25; before they were other assets."""
    if year < _DIGITAL_SINCE and category in ("other", "digital"):
        return (*_CATEGORIES["other"], *_CATEGORIES["digital"]) if category == "other" else ()
    return _CATEGORIES[category]


def _kinds_there(run: Any) -> set[str]:
    return {one.kind for one in run.once(sales_of)}


class GainsPage(Page):
    """SA108: the year's disposals in figures, single ones and those matched from lists of deals. TCGA 1992 s. 1."""

    number, name = "SA108", "Capital gains summary"
    needs = ("gains", "shares", "home")

    @property
    def paper(self):
        return self.run.single("gains")

    def sales(self) -> list[Sale]:
        return self.run.shared(sales_of)

    homes = _box("3", "Residential property: number of disposals", "residential", "number")
    homes_proceeds = _box("4", "Residential property: disposal proceeds", "residential", "proceeds")
    homes_costs = _box("5", "Residential property: allowable costs", "residential", "cost")
    homes_gains = _box("6", "Residential property: gains in the year, before losses", "residential", "gain")
    homes_losses = _box("7", "Residential property: losses in the year", "residential", "loss")
    digital = _box({_DIGITAL_SINCE: "13.1"}, "Cryptoassets: number of disposals", "digital", "number")
    digital_proceeds = _box({_DIGITAL_SINCE: "13.2"}, "Cryptoassets: disposal proceeds", "digital", "proceeds")
    digital_costs = _box({_DIGITAL_SINCE: "13.3"}, "Cryptoassets: allowable costs", "digital", "cost")
    digital_gains = _box({_DIGITAL_SINCE: "13.4"}, "Cryptoassets: gains in the year, before losses", "digital", "gain")
    digital_losses = _box({_DIGITAL_SINCE: "13.5"}, "Cryptoassets: losses in the year", "digital", "loss")
    others = _box("14", "Other property, assets and gains: number of disposals", "other", "number")
    others_proceeds = _box("15", "Other property, assets and gains: disposal proceeds", "other", "proceeds")
    others_costs = _box("16", "Other property, assets and gains: allowable costs", "other", "cost")
    others_gains = _box("17", "Other property, assets and gains: gains in the year, before losses", "other", "gain")
    others_losses = _box("19", "Other property, assets and gains: losses in the year", "other", "loss")
    listed = _box("23", "Listed shares and securities: number of disposals", "listed", "number")
    listed_proceeds = _box("24", "Listed shares and securities: disposal proceeds", "listed", "proceeds")
    listed_costs = _box("25", "Listed shares and securities: allowable costs", "listed", "cost")
    listed_gains = _box("26", "Listed shares and securities: gains in the year, before losses", "listed", "gain")
    listed_losses = _box("27", "Listed shares and securities: losses in the year", "listed", "loss")
    unlisted = _box("31", "Unlisted shares and securities: number of disposals", "unlisted", "number")
    unlisted_proceeds = _box("32", "Unlisted shares and securities: disposal proceeds", "unlisted", "proceeds")
    unlisted_costs = _box("33", "Unlisted shares and securities: allowable costs", "unlisted", "cost")
    unlisted_gains = _box("34", "Unlisted shares and securities: gains in the year, before losses", "unlisted", "gain")
    unlisted_losses = _box("35", "Unlisted shares and securities: losses in the year", "unlisted", "loss")

    @fact("Disposal proceeds")
    def proceeds(self):
        return total([one.proceeds for one in self.sales()])

    @fact("Number of disposals")
    def disposals(self):
        return total([one.number for one in self.sales()])

    @fact("Gains in the year, before losses")
    def gains(self):
        kinds = (self.homes_gains, self.digital_gains, self.others_gains, self.listed_gains, self.unlisted_gains)
        return total(kinds, self.rounding(self.paper.deferred_back))

    @fact("Losses in the year")
    def losses(self):
        """Without what is set against income."""
        kinds = (self.homes_losses, self.digital_losses, self.others_losses, self.listed_losses, self.unlisted_losses)
        return excess(kinds, over=self.against_income)

    @line("41", "Losses used against income", cites="ITA 2007 s. 131")
    def against_income(self):
        return total(self.run.form("uk.income").share_losses_set)

    @line("45", "Losses brought forward and used in the year")
    def losses_before(self):
        """Only down to the exempt amount: TCGA 1992 s. 1E."""
        return least(self.paper.losses_before, excess(self.gains, over=total(self.losses, self.law.gains.exempt)))

    @line("47", "Losses available to be carried forward", closes=CAPITAL_LOSS, used="losses_before")
    def carried_on(self):
        unused = excess(self.losses, over=self.gains)
        return total(unused, self.paper.losses_before, less=self.losses_before)

    @fact("Gains with business asset disposal relief so far", closes=BUSINESS_LIFETIME, cites="TCGA 1992 s. 169N(4)")
    def business_after(self):
        made = total([one.gain for one in self.sales() if one.at == "business"])
        limit = self.law.gains.business.lifetime
        return least(total(self.paper.business_before, made), greatest(limit, self.paper.business_before))

    @fact("Whether the pages are needed", cites="TMA 1970 s. 8C; TCGA 1992 s. 16(2A)")
    def needed(self):
        """Above either threshold, or where a loss of the year is claimed, or tax was paid that is credited."""
        above = self.gains > self.law.gains.exempt or self.proceeds > self.law.gains.reporting.proceeds
        return above or self.losses > 0 or self.run.form("uk.gains-tax").paid_already > 0

    def required(self):
        return self.needed or bool(self.paper.file_anyway)


class GainsTax(Calculation):
    """Gains are taxed last, on top of all income. TCGA 1992 ss. 1H, 1J."""

    number, name, worksheet = "Gains tax", "Capital gains tax", True
    page, tax_on_income = linked("uk.sa108"), linked("uk.income-tax")

    def rates_of(self, sale: Sale) -> Rates:
        law = self.law.gains
        if sale.at:
            return (Decimal(law[sale.at].rate), Decimal(law[sale.at].rate))
        if "later" in law and sale.day is not None and sale.day >= date.fromisoformat(law.later["from"]):
            return (Decimal(law.later.lower), Decimal(law.later.upper))
        held = law.homes if sale.kind == "residential" else law
        return (Decimal(held.lower), Decimal(held.upper))

    def _parts(self) -> list[tuple[Rates, Decimal, str]]:
        """Gains with their rates and what they are of; of business ones what is above the lifetime limit has ordinary rates."""
        left = max(self.law.gains.business.lifetime - Decimal(self.page.paper.business_before), ZERO)
        found = []
        for sale in self.page.sales():
            at_relief = min(sale.gain, left) if sale.at == "business" else sale.gain
            left -= at_relief if sale.at == "business" else ZERO
            found.append((self.rates_of(sale), at_relief, sale.asset))
            if at_relief < sale.gain:
                found.append((self.rates_of(replace(sale, at="")), sale.gain - at_relief, sale.asset))
        if back := Decimal(self.page.paper.deferred_back):
            found.append((self.rates_of(Sale("", "other", ZERO, ZERO, self.run.period.end)), back, "deferred before"))
        return found

    @fact("Paid within sixty days", cites="FA 2019 Sch. 2 para. 6")
    def paid_already(self):
        return total([one.tax_paid for one in self.papers("home")])

    @line("a", "Annual exempt amount used", cites="TCGA 1992 s. 1K")
    def exempt(self):
        return least(self.law.gains.exempt, excess(self.page.gains, over=[self.page.losses, self.page.losses_before]))

    @line("b", "Taxable gains", weight="total")
    def taxable(self):
        return excess(self.page.gains, over=[self.page.losses, self.page.losses_before, self.exempt])

    @line("c", "Left of the basic rate band")
    def room(self):
        _, limit = self.tax_on_income.edges("basic")
        return excess(limit, over=[self.tax_on_income.taxable, self.tax_on_income.income.transition])

    @line("d", "Capital gains tax", weight="total")
    def tax(self):
        """Scottish taxpayers too by the United Kingdom's bands: TCGA 1992 s. 1J."""
        parts = [part for part in self._parts() if part[1]]

        def again(*given):
            gains = [(rates, amount) for (rates, _, _), amount in zip(parts, given, strict=False)]
            return least_tax(_together(gains), given[-2], given[-1])

        reliefs, room = self.set_against()
        operands = [Operand(gain, asset) for _, gain, asset in parts]
        operands += [Operand(reliefs, "losses and exempt amount"), Operand(room)]
        note = "each at its rates, in the order that gives the least tax"
        return explained("Tax on", again(*(one.value for one in operands)), operands, again, note)

    def by_rates(self) -> dict[Rates, Decimal]:
        return _together((rates, gain) for rates, gain, _ in self._parts())

    def set_against(self) -> tuple[Decimal, Decimal]:
        """Losses and the exempt amount together, and what is left of the basic band."""
        return total(self.page.losses, self.page.losses_before, self.exempt), self.room

    @fact("Saved by that order", cites="TCGA 1992 s. 1F")
    def saved(self):
        """Against reliefs set against the lowest rates first."""
        gains, (reliefs, room) = self.by_rates(), self.set_against()
        worst = _tax_of(_charged(gains, tuple(sorted(gains)), reliefs, room)) if gains else ZERO
        return excess(worst, over=self.tax)


def _together(parts: Any) -> dict[Rates, Decimal]:
    gains: dict[Rates, Decimal] = {}
    for rates, amount in parts:
        gains[rates] = gains.get(rates, ZERO) + amount
    return gains
