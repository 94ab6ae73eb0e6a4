"""Disposals of the year as they count: single ones, homes with what is relieved, shares as they are matched. TCGA 1992."""

from contextlib import suppress
from dataclasses import dataclass, replace
from datetime import date
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from typing import Any

from taxcore.engine.figures import ZERO, cents
from taxcore.packs.uk.individual.pool import Deal, Match, NotMatched, matched
from taxcore.packs.uk.individual.residence import SINCE, Period, last_months, relieved_on

_SET_ASIDE = ("held_over", "rolled_over", "deferred")


@dataclass(frozen=True, slots=True)
class Sale:
    """One disposal of the year. `kind` is that of the asset (choices.KINDS_OF_ASSET), `at` the rate that it is claimed at: "",
    business or investors. `kept` is the part of the gain that is not relieved, `relieved` an amount of it that is held over,
    rolled over or deferred, `letting` what the relief for letting takes; `matches` say of shares what they were matched with.
    `to_income`: its loss is claimed against income. A sum of several disposals has their `number` and what was `lost` among
    them."""

    asset: str
    kind: str
    proceeds: Decimal
    cost: Decimal
    day: date | None
    at: str = ""
    relieved: Decimal = ZERO
    kept: Decimal = Decimal(1)
    matches: tuple[Match, ...] = ()
    to_income: bool = False
    number: int = 1
    lost: Decimal = ZERO
    letting: Decimal = ZERO

    @property
    def whole(self) -> Decimal:
        """The gain before any relief, in whole pounds of what was received."""
        return max(self.proceeds.quantize(Decimal(1), ROUND_FLOOR) - self.cost + self.lost, ZERO)

    @property
    def gain(self) -> Decimal:
        """In whole pounds: what is left over is left off, and those of what is relieved are rounded up."""
        home = (self.whole * (1 - self.kept)).quantize(Decimal(1), ROUND_CEILING)
        return max(self.whole - min(home, self.whole) - self.relieved - self.letting, ZERO).quantize(Decimal(1), ROUND_FLOOR)

    @property
    def loss(self) -> Decimal:
        """What would not be taxed as a gain is no loss either: TCGA 1992 s. 16(2)."""
        return (max(self.cost - self.proceeds, self.lost) * self.kept).quantize(Decimal(1), ROUND_CEILING)


def sales_of(run: Any) -> list[Sale]:
    """Disposals of the year. A list that sells more than was bought counts for nothing, and a check stops filing."""
    rows = run.single("gains").disposals if run.papers("gains") else ()
    found = [sale for row in rows if (sale := _sale(row)) is not None]
    found += _summed(run)
    found += [home_sale(paper) for paper in run.papers("home")]
    for paper in run.papers("shares"):
        with suppress(NotMatched):
            found += _of_shares(paper, run.period)
    return found


def _sale(row: Any) -> Sale | None:
    """A row as it counts; None of what is neither gain nor loss (TCGA 1992 s. 58)."""
    if row.relief == "spouse":
        return None
    at = "business" if row.business else "investors" if row.relief == "investors" else ""
    relieved = Decimal(row.relieved) if row.relief in _SET_ASIDE else ZERO
    return Sale(
        row.asset, row.kind or "other", Decimal(row.proceeds), Decimal(row.costs), row.day, at, relieved,
        to_income=bool(row.to_income and row.subscribed),
    )  # fmt: skip


def _summed(run: Any) -> list[Sale]:
    """Sums by kind of asset, of disposals that a computation elsewhere lists."""
    rows = run.single("gains").summaries if run.papers("gains") else ()
    return [
        Sale("Several", row.kind, Decimal(row.proceeds), Decimal(row.costs), run.period.end if row.late else run.period.start,
             number=row.number or 0, lost=Decimal(row.lost))
        for row in rows if row.kind
    ]  # fmt: skip


def periods_of(paper: Any) -> list[Period]:
    rows = [row for row in paper.periods if row.why and row.begun is not None and row.ended is not None]
    return [Period(row.why, row.begun, row.ended) for row in rows]


def home_sale(paper: Any) -> Sale:
    part = Decimal(100 if paper.percent is None else paper.percent) / 100
    sale = Sale(paper.asset, "residential", cents(paper.proceeds * part), cents(paper.costs * part), paper.sold)
    if paper.bought is None or paper.sold is None or paper.sold <= paper.bought:
        return sale
    relieved = relieved_on(paper.bought, paper.sold, periods_of(paper))
    owned, private = (paper.sold - max(paper.bought, SINCE)).days, 1 - Decimal(paper.business_percent or 0) / 100
    let = Decimal(paper.let_percent or 0) / 100 * len(relieved & _let_on(paper)) if paper.let_beside else ZERO
    kept = 1 - (len(relieved) - let) / owned * private
    return replace(sale, kept=kept, letting=_letting(sale.whole, let / owned * private, 1 - kept, paper))


def _let_on(paper: Any) -> set[int]:
    """Days on which a part was let, up to the last months, which count as lived in throughout."""
    if paper.let_begun is None or paper.let_ended is None:
        return set()
    return set(range(paper.let_begun.toordinal(), paper.let_ended.toordinal() + 1)) - last_months(paper.sold)


def _letting(whole: Decimal, let: Decimal, lived: Decimal, paper: Any) -> Decimal:
    """The least of the gain of what was let, of the relief for the home, and the limit. TCGA 1992 s. 224B."""
    limit = Decimal(paper.law.gains.letting.limit)
    return min(whole * let, whole * lived, limit).quantize(Decimal(1), ROUND_CEILING)


def deals_of(paper: Any) -> list[Deal]:
    """What was entered of a holding, as far as it is complete."""
    rows = [row for row in paper.deals if row.day is not None and row.what and row.number]
    return [Deal(row.day, row.what == "bought", Decimal(row.number), Decimal(row.amount)) for row in rows]


def _of_shares(paper: Any, period: Any) -> list[Sale]:
    kind = "unlisted" if paper.unlisted else "listed"
    return [
        Sale(paper.company, kind, cents(one.proceeds), cents(one.cost), one.day, matches=one.matches)
        for one in matched(deals_of(paper))[0]
        if one.day in period
    ]
