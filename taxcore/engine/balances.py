"""Balances: what one year closes and the next one opens. A loss, a credit, a basis; or a figure that next year's law looks at.

A line says `closes=SHORT_LOSS`, a field of a paper `opens=SHORT_LOSS`: rolling forward, the checks against last year and the
account over years all read these two declarations. Within a jurisdiction one line closes a balance.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from taxcore.engine.fields import Field
    from taxcore.engine.forms import Form, Line
    from taxcore.engine.papers import Paper


@dataclass(frozen=True)
class Balance:
    """`expires`: what is not used in so many years is lost; how many is the law's, and the closing line's business.

    `kept_up`: an account with use and additions; else only a figure of the year before that the law asks for. `waits`: it
    outlives the paper that it stood on, as a loss does its business. `wanted`: of a figure that is only looked at, every return
    should have it.
    """

    name: str
    title: str
    cites: str = ""
    expires: bool = False
    kept_up: bool = True
    waits: bool = True
    wanted: bool = False


@dataclass(frozen=True)
class Opening:
    """A field that opens a balance."""

    paper: type[Paper]
    field: Field


@dataclass(frozen=True)
class Closing:
    """A line that closes a balance."""

    form: type[Form]
    line: Line

    def name(self, key: str | None) -> str:
        """What the line is called in every year (`line_name`)."""
        return f"{self.form.code()}{f'[{key}]' if key else ''}:{self.line.name}"


Key = tuple[Balance, str]  # with the jurisdiction that keeps it: each state has its own overpayment applied


def openings_of(papers: Any) -> Mapping[Key, tuple[Opening, ...]]:
    """Which fields open a balance: several kinds of papers may."""
    found: dict[Key, tuple[Opening, ...]] = {}
    for paper in papers:
        for field in paper.fields().values():
            if field.opens is not None:
                key = (field.opens, paper.jurisdiction)
                found[key] = (*found.get(key, ()), Opening(paper, field))
    return found


def closings_of(forms: Any) -> Mapping[Key, Closing]:
    """Which line closes a balance. ValueError where two of one jurisdiction do."""
    found: dict[Key, Closing] = {}
    for form in forms:
        for spec in form.specs.values():
            balance = getattr(spec, "closes", None)
            if balance is None:
                continue
            if (balance, form.jurisdiction) in found:
                raise ValueError(f"{balance.name} of {form.jurisdiction} is closed twice")
            found[balance, form.jurisdiction] = Closing(form, spec)
    return found
