"""Shares of one kind: which acquisition a disposal is matched with, and the pool as an account.

TCGA 1992 ss. 104 to 106A: with acquisitions of the same day, then of the thirty days after it in their order, then the pool.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from datetime import date, timedelta
from decimal import Decimal

ZERO = Decimal(0)
_AFTER = timedelta(days=30)


class NotMatched(ValueError):
    """More was sold than there was."""


@dataclass(frozen=True, slots=True)
class Deal:
    """So many shares bought (`amount` is their cost with expenses) or sold (what was received less expenses) on a day."""

    day: date
    bought: bool
    number: Decimal
    amount: Decimal


@dataclass(frozen=True, slots=True)
class Match:
    """Part of a disposal: `how` it was matched ("same day", "thirty days", "pool"), with its cost."""

    how: str
    number: Decimal
    cost: Decimal


@dataclass(frozen=True, slots=True)
class Disposal:
    """All that was sold on a day, as one transaction (s. 105(1)(a))."""

    day: date
    number: Decimal
    proceeds: Decimal
    matches: tuple[Match, ...]

    @property
    def cost(self) -> Decimal:
        return sum((one.cost for one in self.matches), ZERO)

    @property
    def gain(self) -> Decimal:
        return self.proceeds - self.cost


@dataclass(frozen=True, slots=True)
class Balance:
    """The pool after a day: how many shares, at which cost."""

    day: date
    number: Decimal
    cost: Decimal


@dataclass(slots=True)
class _Day:
    """All deals of one day: shares bought on one day are one acquisition, shares sold one disposal."""

    bought: Decimal = ZERO
    cost: Decimal = ZERO
    sold: Decimal = ZERO
    proceeds: Decimal = ZERO
    matches: list[Match] = field(default_factory=list)
    unmatched: Decimal = ZERO

    def take(self, number: Decimal, how: str, of: "_Day") -> Decimal:
        """Match so many of this day's disposal with that day's acquisition. How many."""
        taken = min(number, of.bought)
        if taken > 0:
            cost = of.cost * taken / of.bought
            of.cost, of.bought = of.cost - cost, of.bought - taken
            self.matches.append(Match(how, taken, cost))
        return taken


def matched(deals: Iterable[Deal]) -> tuple[list[Disposal], list[Balance]]:
    """Disposals and the pool, day by day. NotMatched where more was sold than was there; order of entry never matters."""
    days = _by_day(deals)
    for day, one in days.items():
        one.unmatched = one.sold - one.take(one.sold, "same day", one)
        _ = day
    for day, one in days.items():
        for later, other in days.items():
            if one.unmatched > 0 and day < later <= day + _AFTER:
                one.unmatched -= one.take(one.unmatched, "thirty days", other)
    return _pooled(days)


def _by_day(deals: Iterable[Deal]) -> dict[date, _Day]:
    days: dict[date, _Day] = {}
    for deal in sorted(deals, key=lambda one: one.day):
        if deal.number <= 0:
            raise NotMatched(f"Enter how many shares were dealt in on {deal.day:%-d %B %Y}.")
        day = days.setdefault(deal.day, _Day())
        if deal.bought:
            day.bought, day.cost = day.bought + deal.number, day.cost + deal.amount
        else:
            day.sold, day.proceeds = day.sold + deal.number, day.proceeds + deal.amount
    return days


def _pooled(days: dict[date, _Day]) -> tuple[list[Disposal], list[Balance]]:
    number, cost, disposals, balances = ZERO, ZERO, list[Disposal](), list[Balance]()
    for day, one in days.items():
        number, cost = number + one.bought, cost + one.cost
        if one.sold:
            if one.unmatched > number:
                raise NotMatched(f"{one.unmatched - number:f} more shares were sold by {day:%-d %B %Y} than there were.")
            if one.unmatched > 0:
                part = cost * one.unmatched / number
                one.matches.append(Match("pool", one.unmatched, part))
                number, cost = number - one.unmatched, cost - part
            disposals.append(Disposal(day, one.sold, one.proceeds, tuple(_in_order(one.matches))))
        balances.append(Balance(day, number, cost))
    return disposals, balances


def _in_order(matches: list[Match]) -> Iterator[Match]:
    for how in ("same day", "thirty days", "pool"):
        yield from (one for one in matches if one.how == how)
