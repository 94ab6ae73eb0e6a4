"""Findings: what a return says about itself. Values, not exceptions; each is of a declared diagnostic with a stable code.

A diagnostic is a function of the computation that yields `found(...)` for every place it speaks about. Its decorator says
what it is: code, weight, title, kind and rule. The catalogue that people search is read from those declarations.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Any

STOPS, CHECK, IDEA = "stops", "check", "idea"

# What kind of thing a diagnostic is about, as the catalogue groups them
KINDS = {
    "missing": "Missing information",
    "format": "Numbers, names and dates",
    "conflict": "Conflicting entries",
    "unlikely": "Unlikely amounts",
    "rule": "Requirement not met",
    "lost": "Credit or deduction lost",
    "missed": "Credit or deduction possibly missed",
    "election": "Elections",
    "carried": "Carryovers",
    "next-year": "Next year",
    "diligence": "Due diligence",
    "unsupported": "Not supported",
}


@dataclass(frozen=True, slots=True)
class Diagnostic:
    """One thing that returns can say about themselves: `title` is what it is about, without a return's figures."""

    code: str
    weight: str
    title: str
    kind: str
    cites: str = ""


@dataclass(frozen=True, slots=True)
class Mend:
    """A change to the return that would settle the finding: set the field at `address` to `value`."""

    label: str
    address: str
    value: str


@dataclass(frozen=True, slots=True)
class Finding:
    """`at` are the addresses it is about, the first being where to go. `says`: what is so, then what to do."""

    code: str
    weight: str
    at: tuple[str, ...]
    says: str
    cites: str = ""
    mend: Mend | None = None
    kind: str = ""


@dataclass(frozen=True, slots=True)
class Found:
    """What a check yields. `code` is said only where the check declares several diagnostics."""

    at: tuple[str, ...]
    says: str
    code: str
    mend: Mend | None


def found(at: str | Iterable[str], says: str, *, code: str = "", mend: Mend | None = None) -> Found:
    """`at` are addresses, the first being where to go; `says`: what is so, then what to do."""
    return Found((at,) if isinstance(at, str) else tuple(at), says, code, mend)


Check = Callable[[Any], Iterable[Found]]


def stops(code: str, title: str, kind: str, cites: str = "") -> Callable[[Check], Check]:
    """Decorator: the return cannot go out while this stands."""
    return declares(Diagnostic(code, STOPS, title, kind, cites))


def check(code: str, title: str, kind: str, cites: str = "") -> Callable[[Check], Check]:
    """Decorator: often right, worth a look."""
    return declares(Diagnostic(code, CHECK, title, kind, cites))


def idea(code: str, title: str, kind: str, cites: str = "") -> Callable[[Check], Check]:
    """Decorator: something that might serve the client."""
    return declares(Diagnostic(code, IDEA, title, kind, cites))


def declares(*diagnostics: Diagnostic) -> Callable[[Check], Check]:
    """Decorator of a check that can find these."""

    def mark(check: Check) -> Check:
        known = getattr(check, "diagnostics", {})
        check.diagnostics = {one.code: one for one in diagnostics} | known  # type: ignore[attr-defined]
        return check

    return mark


def diagnostics_of(check: Check) -> dict[str, Diagnostic]:
    """What a check can find, by code. A check that declares nothing is broken: AttributeError."""
    return check.diagnostics  # type: ignore[attr-defined]


def findings_of(check: Check, run: Any) -> Iterator[Finding]:
    """What a check finds on a return, with all that was declared about it."""
    known = diagnostics_of(check)
    for one in check(run):
        of = known[one.code] if one.code else next(iter(known.values()))
        yield Finding(of.code, of.weight, one.at, one.says, of.cites, one.mend, of.kind)


def finding(of: Diagnostic, at: str | tuple[str, ...], says: str) -> Finding:
    """A finding of the engine's own, made without a check."""
    return Finding(of.code, of.weight, (at,) if isinstance(at, str) else at, says, of.cites, None, of.kind)
