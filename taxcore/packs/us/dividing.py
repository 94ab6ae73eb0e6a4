"""How a couple divide what is of both: the holder of what cannot be halved, and a share of each paper where they say one.

Own papers stay with their owner; nothing here moves those. What follows a person (tuition, questions on a child) goes where that
person goes. IRC 6013(a); estimates: Treas. Reg. 1.6654-2(e)(5)(ii).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from taxcore.engine import ZERO, BadValue, Refer, Rows

WHOLE, HALF = Decimal(100), Decimal(50)
ROLES = ("taxpayer", "spouse")
# What cannot be halved goes with one of them, whole
WHOLE_KINDS = frozenset({"deposit", "debit", "parent", "1095-a"})
# Each has their own, or the holder's answers go with what they are about; nothing to divide
_DECIDED = frozenset({"filing", "residency", "state-returns", "amendment", "care-questions"})
# Halved or left at what it was, although the law asks for more: said wherever the returns are made
_DOUBTS = {
    "capital-carryover": "a loss belongs to whoever had it: Treas. Reg. 1.1212-1(c)(1)(iii)",
    "gift-carryover": "by what each would have carried alone: Treas. Reg. 1.170A-10(d)(4)(i)",
    "business-credits": "a credit belongs to whoever has the business",
    "credits-carried": "a credit belongs to whoever it comes from",
    "operating-losses": "a loss belongs to whoever had it: Treas. Reg. 1.172-7",
    "adoption": "its costs belong to whoever paid them",
    "adoption-carried": "a credit belongs to whoever it comes from",
    "mortgage-certificate": "its credit is divided by what each paid: Treas. Reg. 1.25-5",
    "mortgage-carried": "a credit belongs to whoever it comes from",
    "minimum-tax": "its amounts belong to whoever had the item",
    "qualified-loss": "a loss belongs to whoever had the business: IRC 199A(c)(2)",
    "foreign-tax": "a tax belongs to whoever paid it: IRC 901(b)",
    "prior-year": "last year's joint tax is shared by what each would have owed: Treas. Reg. 1.6654-2(e)(5)(ii)",
    "penalty": "worked out anew for each: IRC 6654",
    "next-year": "next year's estimates were planned for both",
    "split-deposit": "these accounts were chosen for one refund",
}


@dataclass(frozen=True)
class Division:
    """`shares`: by a paper's mark (kind/id) the taxpayer's percent of it. Where it says nothing: half, or all with the holder."""

    holder: str = "taxpayer"
    shares: Mapping[str, Decimal] = field(default_factory=dict)

    def percent(self, mark: str, role: str, *, whole: bool) -> Decimal:
        first = self.shares.get(mark)
        if first is None or (whole and ZERO < first < WHOLE):
            first = (WHOLE if self.holder == "taxpayer" else ZERO) if whole else HALF
        return first if role == "taxpayer" else WHOLE - first


@dataclass(frozen=True)
class Part:
    """A paper that is of both: `percent` is the taxpayer's. `whole`: one of them has all of it."""

    mark: str
    title: str
    whole: bool
    percent: Decimal


def follows(kind: Any) -> str:
    """The field that says which person a paper is about, where nobody owns it; empty for the others."""
    return "" if kind.owned else person_in(kind)


def person_in(kind: Any) -> str:
    """The field of a paper or row that names a person of the return; empty where none does."""
    return next((name for name, one in kind.fields().items() if isinstance(one, Refer) and one.kinds == ("person",)), "")


def rows_about(kind: Any) -> str:
    """The table of a paper in which each row is about a person; empty for the others."""
    return next((name for name, one in kind.fields().items() if isinstance(one, Rows) and person_in(one.row)), "")


def is_whole(kind: Any) -> bool:
    return kind.kind in WHOLE_KINDS or kind.kind == "person"


def parts(run: Any, division: Division) -> Iterator[Part]:
    """What there is to divide, dependents first."""
    for node in (*run.people("dependant"), *run.all_papers()):
        kind, mark = type(node), f"{node.kind}/{node.key}"
        if node.kind in _DECIDED or follows(kind) or rows_about(kind) or not node.entered:
            continue
        whole = is_whole(kind) or (kind.owned and node.entered.get("owner") not in (*ROLES, "joint", None, ""))
        if whole or not kind.owned or node.entered.get("owner") == "joint":
            yield Part(mark, node.title, whole, division.percent(mark, "taxpayer", whole=whole))


def read_share(part: Part, text: str) -> Decimal:
    """The taxpayer's percent as somebody typed it. BadValue for what is none, or no whole one where it cannot be divided."""
    try:
        share = Decimal(text.strip().removesuffix("%").strip())
    except ArithmeticError:
        raise BadValue("Enter a percent from 0 to 100.", text) from None
    if not ZERO <= share <= WHOLE or share != round(share, 4):
        raise BadValue("Enter a percent from 0 to 100, to four decimals at most.", text)
    if part.whole and share not in (ZERO, WHOLE):
        raise BadValue("This goes with one of them, whole.", text)
    return share


def doubts(run: Any) -> Iterator[str]:
    """What could not be divided as the law would, in sentences."""
    for node in run.all_papers():
        if node.kind in _DOUBTS and node.entered:
            yield f"{node.title}: {_DOUBTS[node.kind]}. Check it on both returns."
    for address, override in run.everything.overrides.items():
        yield f"The overridden line ({address}: {override.amount:,.0f}) was not taken along. It was overridden for both."
