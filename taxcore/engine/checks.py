"""Findings: what a return says about itself. Values, not exceptions; each has a stable code, a place and a sentence."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

STOPS, CHECK, IDEA = "stops", "check", "idea"


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


def stops_filing(code: str, at: str | Iterable[str], says: str, cites: str = "", mend: Mend | None = None) -> Finding:
    """The return cannot go out while this stands."""
    return Finding(code, STOPS, _places(at), says, cites, mend)


def check(code: str, at: str | Iterable[str], says: str, cites: str = "", mend: Mend | None = None) -> Finding:
    """Often right, worth a look."""
    return Finding(code, CHECK, _places(at), says, cites, mend)


def idea(code: str, at: str | Iterable[str], says: str, cites: str = "", mend: Mend | None = None) -> Finding:
    """Something that might serve the client."""
    return Finding(code, IDEA, _places(at), says, cites, mend)


def _places(at: str | Iterable[str]) -> tuple[str, ...]:
    return (at,) if isinstance(at, str) else tuple(at)
