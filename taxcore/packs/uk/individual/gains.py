"""Capital gains tax on disposals: losses and the exempt amount against what is taxed highest, the basic band where it saves most.

TCGA 1992 ss. 1C to 1K, 169N. Which gains losses, the exempt amount and the unused basic band are set against is the taxpayer's to
choose (ss. 1F, 1H, 1K): every order of the kinds of gain is tried.
"""

from contextlib import suppress
from dataclasses import dataclass, replace
from datetime import date
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from itertools import permutations
from typing import Any

from taxcore.engine import Operand, excess, explained, fact, greatest, least, line, linked, total
from taxcore.engine.figures import ZERO, cents
from taxcore.packs.uk.balances import BUSINESS_LIFETIME, CAPITAL_LOSS
from taxcore.packs.uk.base import Calculation, Page
from taxcore.packs.uk.individual.pool import Deal, NotMatched, matched
from taxcore.packs.uk.individual.residence import SINCE, Period, relieved_days

Rates = tuple[Decimal, Decimal]  # within the basic band, and above it


def least_tax(gains: dict[Rates, Decimal], reliefs: Decimal, room: Decimal) -> Decimal:
    """The least tax over all orders. `reliefs`: losses and the exempt amount together; `room`: what is left of the basic band.
    Gains with one rate for all (those of business asset disposal relief) come first in that band: TCGA 1992 s. 169N(7)."""
    kinds = [rates for rates, gain in gains.items() if gain > 0]
    best = None
    for relieved in permutations(kinds):
        left, rest = {}, reliefs
        for rates in relieved:
            left[rates] = max(gains[rates] - rest, ZERO)
            rest = max(rest - gains[rates], ZERO)
        flat = [rates for rates in kinds if rates[0] == rates[1]]
        for ordered in permutations(rates for rates in kinds if rates[0] != rates[1]):
            tax, space = ZERO, room
            for lower, upper in (*flat, *ordered):
                held = min(left[lower, upper], space)
                space -= held
                tax += cents(held * lower) + cents((left[lower, upper] - held) * upper)
            best = tax if best is None else min(best, tax)
    return best or ZERO


_SET_ASIDE = ("held_over", "rolled_over", "deferred")


@dataclass(frozen=True, slots=True)
class Sale:
    """One disposal of the year as it counts: `kind` ("" or home, business, investors) says which rates it has; `kept` is the part
    of the gain that is not relieved, `relieved` an amount of it that is held over, rolled over or deferred."""

    proceeds: Decimal
    cost: Decimal
    day: date | None
    kind: str = ""
    relieved: Decimal = ZERO
    kept: Decimal = Decimal(1)

    @property
    def gain(self) -> Decimal:
        """The pounds of what is relieved are rounded up."""
        whole = max(self.proceeds.quantize(Decimal(1), ROUND_FLOOR) - self.cost, ZERO)
        home = (whole * (1 - self.kept)).quantize(Decimal(1), ROUND_CEILING)
        return max(whole - min(home, whole) - self.relieved, ZERO)

    @property
    def loss(self) -> Decimal:
        """What would not be taxed as a gain is no loss either: TCGA 1992 s. 16(2)."""
        return max(self.cost - self.proceeds, ZERO) * self.kept


def _sale(row: Any) -> Sale | None:
    """A row as it counts; None of what is neither gain nor loss (TCGA 1992 s. 58)."""
    if row.relief == "spouse":
        return None
    kind = "business" if row.business else "investors" if row.relief == "investors" else "home" if row.home else ""
    relieved = Decimal(row.relieved) if row.relief in _SET_ASIDE else ZERO
    return Sale(Decimal(row.proceeds), Decimal(row.costs), row.day, kind, relieved)


def periods_of(paper: Any) -> list[Period]:
    rows = [row for row in paper.periods if row.why and row.begun is not None and row.ended is not None]
    return [Period(row.why, row.begun, row.ended) for row in rows]


def home_sale(paper: Any) -> Sale:
    part = Decimal(100 if paper.percent is None else paper.percent) / 100
    kept = Decimal(1)
    if paper.bought is not None and paper.sold is not None and paper.sold > paper.bought:
        days = relieved_days(paper.bought, paper.sold, periods_of(paper))
        lived = Decimal(days) / (paper.sold - max(paper.bought, SINCE)).days if days else ZERO
        kept = 1 - lived * (1 - Decimal(paper.business_percent or 0) / 100)
    return Sale(cents(paper.proceeds * part), cents(paper.costs * part), paper.sold, "home", kept=kept)


def deals_of(paper: Any) -> list[Deal]:
    """What was entered of a holding, as far as it is complete."""
    rows = [row for row in paper.deals if row.day is not None and row.what and row.number]
    return [Deal(row.day, row.what == "bought", Decimal(row.number), Decimal(row.amount)) for row in rows]


class GainsPage(Page):
    """SA108: the year's disposals in figures, single ones and those matched from lists of deals. TCGA 1992 s. 1."""

    number, name = "SA108", "Capital gains summary"
    needs = ("gains", "shares", "home")

    @property
    def paper(self):
        return self.run.single("gains")

    def sales(self) -> list[Sale]:
        """Disposals of the year. A list that sells more than was bought counts for nothing, and a check stops filing."""
        rows = self.paper.disposals if self.papers("gains") else ()
        found = [sale for row in rows if (sale := _sale(row)) is not None]
        found += [home_sale(paper) for paper in self.papers("home")]
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
        return total([one.gain for one in self.sales()], self.paper.deferred_back)

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

    @fact("Gains with business asset disposal relief so far", closes=BUSINESS_LIFETIME, cites="TCGA 1992 s. 169N(4)")
    def business_after(self):
        made = total([one.gain for one in self.sales() if one.kind == "business"])
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
        if sale.kind in ("business", "investors"):
            return (Decimal(law[sale.kind].rate), Decimal(law[sale.kind].rate))
        if "later" in law and sale.day is not None and sale.day >= date.fromisoformat(law.later["from"]):
            return (Decimal(law.later.lower), Decimal(law.later.upper))
        held = law.homes if sale.kind == "home" else law
        return (Decimal(held.lower), Decimal(held.upper))

    def _parts(self) -> list[tuple[Rates, Decimal]]:
        """Gains with their rates; of business ones what is above the lifetime limit has those that it would have without."""
        left = max(self.law.gains.business.lifetime - Decimal(self.page.paper.business_before), ZERO)
        found = []
        for sale in self.page.sales():
            at_relief = min(sale.gain, left) if sale.kind == "business" else sale.gain
            left -= at_relief if sale.kind == "business" else ZERO
            found.append((self.rates_of(sale), at_relief))
            if at_relief < sale.gain:
                found.append((self.rates_of(replace(sale, kind="")), sale.gain - at_relief))
        if back := Decimal(self.page.paper.deferred_back):
            found.append((self.rates_of(Sale(ZERO, ZERO, self.run.period.end)), back))
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
        return excess(limit, over=self.tax_on_income.taxable)

    @line("d", "Capital gains tax", weight="total")
    def tax(self):
        """Scottish taxpayers too by the United Kingdom's bands: TCGA 1992 s. 1J."""
        parts = self._parts()
        kinds, amounts = [rates for rates, _ in parts], [gain for _, gain in parts]
        reliefs = total(self.page.losses, self.page.losses_before, self.exempt)

        def again(*given):
            gains: dict[Rates, Decimal] = {}
            for rates, amount in zip(kinds, given, strict=False):
                gains[rates] = gains.get(rates, ZERO) + amount
            return least_tax(gains, given[-2], given[-1])

        operands = [Operand(Decimal(one)) for one in (*amounts, reliefs, self.room)]
        return explained("gains", again(*(one.value for one in operands)), operands, again, "the order that gives the least tax")
