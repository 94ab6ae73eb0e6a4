"""Accounts over years: what a balance was opened with, what came and went, what it closed with, year by year."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from taxcore.engine import ALL, ZERO, Amount, Balance, Result
from taxcore.engine.balances import Closing, Opening


@dataclass(frozen=True, slots=True)
class Year:
    """One year of an account: opening + added - used - expired = closing. `at` is the address of the line that closes it."""

    year: int
    opening: Decimal
    added: Decimal
    used: Decimal
    expired: Decimal
    closing: Decimal
    at: str


@dataclass(frozen=True, slots=True)
class Account:
    """A balance of one holder (a person, a business; empty where it is the return's) over years, the earliest first."""

    balance: Balance
    jurisdiction: str
    key: str
    holder: str
    years: tuple[Year, ...]

    @property
    def expires(self) -> bool:
        return self.balance.expires


def accounts(results: Iterable[Result]) -> list[Account]:
    """The accounts of several years' returns of the same people; those on which nothing ever stood are left out."""
    found: dict[tuple[Balance, str, str], list[tuple[str, Year]]] = {}
    for result in sorted(results, key=lambda one: one.year):
        for mark, holder, year in _of_year(result):
            found.setdefault(mark, []).append((holder, year))
    made = [Account(*mark, rows[-1][0], tuple(year for _, year in rows)) for mark, rows in found.items()]
    return [one for one in made if any(year.opening or year.closing or year.added for year in one.years)]


def _of_year(result: Result) -> Iterator[tuple[tuple[Balance, str, str], str, Year]]:
    pack = result.run.pack
    for (balance, jurisdiction), closing in pack.closings.items():
        if not balance.kept_up:
            continue
        for form in result.run.every(closing.form.code()):
            closed = Decimal(getattr(form, closing.line.name))
            opened = _opened(result, pack.openings.get((balance, jurisdiction), ()), form.key)
            holder = result.run.title_of(form.key) if form.key else ""
            yield (balance, jurisdiction, form.key or ""), holder, _year(result.year, form, closing, opened, closed)


def _year(year: int, form: Any, closing: Closing, opened: Decimal, closed: Decimal) -> Year:
    line = closing.line
    expired = Decimal(getattr(form, line.expired)) if line.expired else ZERO
    net = closed - opened + expired
    if line.used == ALL:
        used = opened
    elif line.used:
        used = Decimal(getattr(form, line.used))
    else:  # what came and went within the year nobody tells apart
        used = max(-net, ZERO)
    return Year(year, opened, net + used, used, expired, closed, form.address(line.name))


def _opened(result: Result, openings: tuple[Opening, ...], key: str | None) -> Decimal:
    """What the papers of the return, of the person, or the paper itself open it with."""
    total = ZERO
    for opening in openings:
        for paper in result.run.papers(opening.paper.kind):
            mine = key is None or paper.key == key or (getattr(paper, paper.whose, "") or "taxpayer") == key
            if mine:
                total += _amount(paper, opening)
    return total


def _amount(paper: Any, opening: Opening) -> Decimal:
    value = getattr(paper, opening.field.name)
    if isinstance(value, tuple):
        amounts = [name for name, field in opening.field.row.fields().items() if isinstance(field, Amount)]  # type: ignore[attr-defined]
        return sum((getattr(row, name) for row in value for name in amounts), ZERO)
    return Decimal(value or 0)
