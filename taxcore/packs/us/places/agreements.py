"""Agreements between states: wages that only the home state taxes, and which of two gives the credit (reciprocity.toml)."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path

_AGREEMENTS = Path(__file__).parents[1] / "states" / "reciprocity.toml"


@cache
def _pairs(name: str) -> frozenset[frozenset[str]]:
    with _AGREEMENTS.open("rb") as opened:
        return frozenset(frozenset(pair.split()) for pair in tomllib.load(opened)[name]["pairs"])


def reciprocal_pairs() -> frozenset[frozenset[str]]:
    return _pairs("wages")


def are_reciprocal(one: str, other: str) -> bool:
    """Whether neither of two states taxes wages of the other's residents."""
    return frozenset((one, other)) in reciprocal_pairs()


def are_reverse(one: str, other: str) -> bool:
    """Whether each of two states credits the other's residents on its own nonresident return, and not at home."""
    return frozenset((one, other)) in _pairs("reverse_credit")
