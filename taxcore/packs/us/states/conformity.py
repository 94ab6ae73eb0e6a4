"""What each state takes over of federal law on depreciation and losses: conformity.toml in its folder."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass
from decimal import Decimal
from functools import cache
from typing import Any

from taxcore.packs.us import couples, places

_RULE = "conformity.toml"


@dataclass(frozen=True)
class Rule:
    """`special_from`, `special_until`: years of placing in service of which the state takes the special allowance; without the
    first, of none. `expensed`: the most that it expenses in a year, where that is less than the federal limit, until
    `expensed_until`. `otherwise`: kinds of assets whose lives or limits it has not taken over. `long_gain`: it leaves out some of
    a long-term gain. `federal_losses`: the federal net operating loss deduction counts, or there is no place for it.
    `own_classes`: it taxes classes of income of its own. `own_deduction`: it has a standard deduction of its own, or begins with
    federal taxable income, so that what federal law adds to the standard deduction is not simply its own.
    """

    source: str
    special_from: int | None = None
    special_until: int | None = None
    expensed: int | None = None
    expensed_until: int | None = None
    otherwise: tuple[str, ...] = ()
    long_gain: bool = False
    federal_losses: bool = False
    own_classes: bool = False
    own_deduction: bool = False

    def takes_special(self, year: int) -> bool:
        if self.special_from is None:
            return False
        return self.special_from <= year and (self.special_until is None or year <= self.special_until)

    def is_above(self, expensed: Decimal, year: int) -> bool:
        """Whether the state expenses less than that of one year."""
        holds = self.expensed_until is None or year <= self.expensed_until
        return self.expensed is not None and expensed > self.expensed and holds


@cache
def rule(state: str) -> Rule | None:
    """Of a state by its letters; None where its folder says nothing, which stops what would need it."""
    file = couples.state_folder(state) / _RULE
    if not file.is_file():
        return None
    raw: dict[str, Any] = tomllib.loads(file.read_text())
    return Rule(**{name: tuple(value) if isinstance(value, list) else value for name, value in raw.items()})  # type: ignore[arg-type]


def dividing(run: Any) -> list[Any]:
    """Returns that count only a part of income, or classes of their own: of movers, nonresidents, and such states."""
    return [one for one in places.made(run) if one.kind != places.WHOLE or ((own := rule(one.state)) and own.own_classes)]
