"""Capital gains tax on disposals: losses and the exempt amount against what is taxed highest, the basic band where it saves most.

TCGA 1992 ss. 1C to 1K, 169N. Which gains losses, the exempt amount and the unused basic band are set against is the taxpayer's to
choose (ss. 1F, 1H, 1K): every order of the kinds of gain is tried.
"""

from contextlib import suppress
from dataclasses import dataclass
from datetime import date
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from itertools import permutations
from typing import Any

from taxcore.engine import Operand, excess, explained, fact, least, line, linked, total
from taxcore.engine.figures import ZERO, cents
from taxcore.packs.uk.balances import CAPITAL_LOSS
from taxcore.packs.uk.base import Calculation, Page
from taxcore.packs.uk.individual.pool import Deal, NotMatched, matched
from taxcore.packs.uk.individual.residence import relieved_part

Rates = tuple[Decimal, Decimal]  # within the basic band, and above it


def least_tax(gains: dict[Rates, Decimal], reliefs: Decimal, room: Decimal) -> Decimal:
    """The least tax over all orders. `reliefs`: losses and the exempt amount together; `room`: what is left of the basic band."""
    kinds = [rates for rates, gain in gains.items() if gain > 0]
    best = None
    for relieved in permutations(kinds):
        left, rest = {}, reliefs
        for rates in relieved:
            left[rates] = max(gains[rates] - rest, ZERO)
            rest = max(rest - gains[rates], ZERO)
        for ordered in permutations(kinds):
            tax, space = ZERO, room
            for lower, upper in ordered:
                held = min(left[lower, upper], space)
                space -= held
                tax += cents(held * lower) + cents((left[lower, upper] - held) * upper)
            best = tax if best is None else min(best, tax)
    return best or ZERO


@dataclass(frozen=True, slots=True)
class Sale:
    """One disposal of the year as it counts: `home` and `business` say which rates it has."""

    proceeds: Decimal
    cost: Decimal
    day: date | None
    home: bool = False
    business: bool = False
    relieved: Decimal = ZERO

    @property
    def gain(self) -> Decimal:
        """After relief for a main residence; the pounds of what is relieved are rounded up."""
        whole = max(self.proceeds.quantize(Decimal(1), ROUND_FLOOR) - self.cost, ZERO)
        return whole - min((whole * self.relieved).quantize(Decimal(1), ROUND_CEILING), whole)

    @property
    def loss(self) -> Decimal:
        return max(self.cost - self.proceeds, ZERO)


def _sale(row: Any) -> Sale:
    days = (row.bought, row.day, row.lived_from, row.lived_until)
    relieved = relieved_part(*days) if row.home and all(day is not None for day in days) else ZERO
    return Sale(Decimal(row.proceeds), Decimal(row.costs), row.day, bool(row.home), bool(row.business), relieved)


def deals_of(paper: Any) -> list[Deal]:
    """What was entered of a holding, as far as it is complete."""
    rows = [row for row in paper.deals if row.day is not None and row.what and row.number]
    return [Deal(row.day, row.what == "bought", Decimal(row.number), Decimal(row.amount)) for row in rows]


class GainsPage(Page):
    """SA108: the year's disposals in figures, single ones and those matched from lists of deals. TCGA 1992 s. 1."""

    number, name = "SA108", "Capital gains summary"
    needs = ("gains", "shares")

    @property
    def paper(self):
        return self.run.single("gains")

    def sales(self) -> list[Sale]:
        """Disposals of the year. A list that sells more than was bought counts for nothing, and a check stops filing."""
        rows = self.paper.disposals if self.papers("gains") else ()
        found = [_sale(row) for row in rows]
        for paper in self.papers("shares"):
            with suppress(NotMatched):
                made = matched(deals_of(paper))[0]
                found += [Sale(cents(one.proceeds), cents(one.cost), one.day) for one in made if one.day in self.run.period]
        return found

    @fact("Disposal proceeds")
    def proceeds(self):
        return total([one.proceeds for one in self.sales()])

    @fact("Number of disposals")
    def disposals(self):
        return total(len(self.sales()))

    @fact("Gains in the year, before losses")
    def gains(self):
        return total([one.gain for one in self.sales()])

    @fact("Losses in the year")
    def losses(self):
        return total([one.loss for one in self.sales()])

    @line("45", "Losses brought forward and used in the year")
    def losses_before(self):
        """Only down to the exempt amount: TCGA 1992 s. 1E."""
        return least(self.paper.losses_before, excess(self.gains, over=total(self.losses, self.law.gains.exempt)))

    @line("47", "Losses available to be carried forward", closes=CAPITAL_LOSS, used="losses_before")
    def carried_on(self):
        unused = excess(self.losses, over=self.gains)
        return total(unused, self.paper.losses_before, less=self.losses_before)

    @fact("Whether the pages are needed", cites="TMA 1970 s. 8C")
    def needed(self):
        return self.gains > self.law.gains.exempt or self.proceeds > self.law.gains.reporting.proceeds


class GainsTax(Calculation):
    """Gains are taxed last, on top of all income. TCGA 1992 ss. 1H, 1J."""

    number, name, worksheet = "Gains tax", "Capital gains tax", True
    page, tax_on_income = linked("uk.sa108"), linked("uk.income-tax")

    def rates_of(self, row: Sale) -> Rates:
        law = self.law.gains
        if row.business:
            return (Decimal(law.business.rate), Decimal(law.business.rate))
        if "later" in law and row.day is not None and row.day >= date.fromisoformat(law.later["from"]):
            return (Decimal(law.later.lower), Decimal(law.later.upper))
        held = law.homes if row.home else law
        return (Decimal(held.lower), Decimal(held.upper))

    @line("a", "Annual exempt amount used", cites="TCGA 1992 s. 1K")
    def exempt(self):
        return least(self.law.gains.exempt, excess(self.page.gains, over=[self.page.losses, self.page.losses_before]))

    @line("b", "Taxable gains", weight="total")
    def taxable(self):
        return excess(self.page.gains, over=[self.page.losses, self.page.losses_before, self.exempt])

    @line("c", "Left of the basic rate band")
    def room(self):
        _, limit = self.tax_on_income.edges("basic")
        return excess(limit, over=self.tax_on_income.taxable)

    @line("d", "Capital gains tax", weight="total")
    def tax(self):
        """Scottish taxpayers too by the United Kingdom's bands: TCGA 1992 s. 1J."""
        sales = self.page.sales()
        kinds, amounts = [self.rates_of(one) for one in sales], [one.gain for one in sales]
        reliefs = total(self.page.losses, self.page.losses_before, self.exempt)

        def again(*given):
            gains: dict[Rates, Decimal] = {}
            for rates, amount in zip(kinds, given, strict=False):
                gains[rates] = gains.get(rates, ZERO) + amount
            return least_tax(gains, given[-2], given[-1])

        operands = [Operand(Decimal(one)) for one in (*amounts, reliefs, self.room)]
        return explained("gains", again(*(one.value for one in operands)), operands, again, "the order that gives the least tax")
