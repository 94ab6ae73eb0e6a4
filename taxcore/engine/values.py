"""A return as plain values: what `compute` takes. Immutable; made by `document.read` or directly in tests."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from decimal import Decimal
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from taxcore.engine.periods import Period


@dataclass(frozen=True, slots=True)
class Override:
    """A line's amount set by hand, and why."""

    amount: Decimal
    reason: str


@dataclass(frozen=True, slots=True)
class PaperValues:
    """One paper or person: `id` is unique within the return; `values` are field names to open-format values.

    `attached` says how many files lie beside the paper, `carried` which fields came from last year and nobody confirmed yet.
    """

    id: str
    kind: str
    values: Mapping[str, Any] = field(default_factory=dict)
    attached: int = 0
    carried: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class LastYear:
    """What a return may look back at: the papers of the year before, and its lines by name (`line_name`)."""

    year: int
    papers: tuple[PaperValues, ...] = ()
    lines: Mapping[str, Decimal] = field(default_factory=dict)

    def of_kind(self, kind: str) -> list[PaperValues]:
        return [paper for paper in self.papers if paper.kind == kind]


@dataclass(frozen=True, slots=True)
class AsFiled:
    """What one authority has accepted: on which day, under which receipt, and every numbered amount of its forms by address."""

    day: date
    receipt: str = ""
    lines: Mapping[str, Decimal] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Amends:
    """What a return corrects. `number`: it is the first correction, the second. `superseding`: it is filed before the due date
    and takes the place of what was filed. `filed` is by authority; `papers` as they were then, those of last year aside."""

    number: int = 1
    superseding: bool = False
    filed: Mapping[str, AsFiled] = field(default_factory=dict)
    papers: tuple[PaperValues, ...] = ()

    def of_kind(self, kind: str) -> list[PaperValues]:
        return [paper for paper in self.papers if paper.kind == kind]


@dataclass(frozen=True, slots=True)
class ReturnData:
    """Everything that goes into a computation. `year` is the tax year, `pack` the jurisdiction's code.

    A `training` return carries numbers from ranges that are never issued, and only those; any other return only real ones.
    `last_year` moves no line: only diagnostics look at it. `answers` are what a practice says on every return, by
    jurisdiction, kind of paper and field (`us.business.method`): they count where a field that allows it is empty. `period` is
    what the return is for, where that does not follow from the year. `amends` says what it corrects, if anything. `index`, of a
    plan for a year whose law is not known: what the last known year's amounts are multiplied by.
    """

    pack: str
    year: int
    papers: tuple[PaperValues, ...] = ()
    overrides: Mapping[str, Override] = field(default_factory=dict)
    training: bool = False
    last_year: LastYear | None = None
    answers: Mapping[str, str] = field(default_factory=dict)
    period: Period | None = None
    amends: Amends | None = None
    index: Decimal | None = None

    def but(self, **changes: Any) -> ReturnData:
        """A copy with something changed: how rules and what-ifs ask "and if?" without touching the return."""
        return replace(self, **changes)
