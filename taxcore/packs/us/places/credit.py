"""What another state taxes, for the credit that one of two states gives."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from taxcore.packs.us.places.agreements import are_reverse
from taxcore.packs.us.places.residence import (
    NONE,
    PART,
    WHOLE,
    count_as_residents,
)
from taxcore.packs.us.places.wanted import calls


@dataclass(frozen=True)
class TaxedElsewhere:
    """What a state where nobody lived taxes: for the credit at home. Amounts are the lines of that state's return."""

    state: str
    income: Any
    tax: Any
    taxable: Any  # what the tax is worked out on


def taxed_elsewhere(run: Any, home: str) -> list[TaxedElsewhere]:
    """Nonresident returns that are made beside the one of `home`, whatever order they came in; no reverse credit's.

    A couple of whom one only counts as a resident is taxed by the state that one really lived in, too.
    """
    taxing = (NONE, PART) if count_as_residents(run, home) else (NONE,)
    return [
        _credited(state, run.form(authority.form.code()), authority)
        for state, authority in _made(run)
        if state != home and calls(run, state) in taxing and not are_reverse(state, home)
    ]


def taxed_at_home(run: Any, state: str) -> TaxedElsewhere | None:
    """What the state where people lived all year taxes, where the nonresident return of `state` credits it: reverse credit."""
    for home, authority in _made(run):
        if are_reverse(state, home) and calls(run, home) == WHOLE and calls(run, state) == NONE:
            return _credited(home, run.form(authority.form.code()), authority)
    return None


def _made(run: Any) -> list[tuple[str, Any]]:
    return [
        (authority.code.partition("-")[2].upper(), authority)
        for authority in run.pack.authorities
        if "-" in authority.code and authority.applies(run)
    ]


def _credited(state: str, form: Any, authority: Any) -> TaxedElsewhere:
    income, tax = authority.credited_income or authority.income, authority.credited_tax or authority.tax
    return TaxedElsewhere(state, getattr(form, income), getattr(form, tax), getattr(form, authority.credited_taxable or income))
