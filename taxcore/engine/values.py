"""A return as plain values: what `compute` takes. Immutable; made by `document.read` or directly in tests."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
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
class ReturnData:
    """Everything that goes into a computation. `year` is the tax year, `pack` the jurisdiction's code.

    A `training` return carries numbers from ranges that are never issued, and only those; any other return only real ones.
    `last_year` moves no line: only diagnostics look at it. `answers` are what a practice says on every return, by
    jurisdiction, kind of paper and field (`us.business.method`): they count where a field that allows it is empty. `period` is
    what the return is for, where that does not follow from the year.
    """

    pack: str
    year: int
    papers: tuple[PaperValues, ...] = ()
    overrides: Mapping[str, Override] = field(default_factory=dict)
    training: bool = False
    last_year: LastYear | None = None
    answers: Mapping[str, str] = field(default_factory=dict)
    period: Period | None = None

    def but(self, **changes: Any) -> ReturnData:
        """A copy with something changed: how rules and what-ifs ask "and if?" without touching the return."""
        return replace(self, **changes)
