"""The amount to enter so that a line comes out as wanted, exact to the unit; with the reason where there is none."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal

from taxcore.engine import Result
from taxcore.whatif.differences import Difference, Place, with_differences
from taxcore.whatif.trials import Trials

_LOOKS = 64  # evenly over the range, so that a goal between two turns of the line is found too
Measure = Callable[[Result], Decimal]


@dataclass(frozen=True, slots=True)
class Found:
    """`entered` gives `comes_out`, which is what was wanted if `exact`. Without an answer `entered` is None. `says` is a sentence
    wherever it is not exact."""

    entered: Decimal | None
    comes_out: Decimal
    exact: bool
    says: str = ""


def seek(
    result: Result, trials: Trials, place: Place, of: Measure, wanted: Decimal, low: Decimal, high: Decimal, near: Decimal
) -> Found:
    """The whole amount in a field, from `low` to `high`, with which `of` the return is `wanted`: the one nearest to `near`, which
    is what stands there now. ValueError where the range is none."""
    if high <= low:
        raise ValueError("Seek over a range: from less to more.")
    data, pack, known = result.run.everything, result.run.pack, dict[Decimal, Decimal]()

    def at(amount: Decimal) -> Decimal:
        if amount not in known:
            known[amount] = of(trials.of(with_differences(pack, data, [Difference(place, f"{amount:f}")])))
        return known[amount]

    looks = sorted(
        {low, high, *(low + (high - low) * number // _LOOKS for number in range(1, _LOOKS)), *_within(near, low, high)}
    )
    amounts = [at(one) for one in looks]
    between = [
        (one, two)
        for (one, first), (two, second) in zip(
            zip(looks, amounts, strict=True), zip(looks[1:], amounts[1:], strict=True), strict=False
        )
        if min(first, second) <= wanted <= max(first, second)
    ]
    if not between:
        return Found(None, at(_nearest(looks, near)), False, _why_not(amounts, low, high))
    one, two = min(between, key=lambda pair: min(abs(pair[0] - near), abs(pair[1] - near)))
    return _settled(at, wanted, one, two, near)


def _settled(at: Callable[[Decimal], Decimal], wanted: Decimal, low: Decimal, high: Decimal, near: Decimal) -> Found:
    """Halving, until two whole amounts are left that stand next to each other."""
    rises = at(high) >= at(low)
    if at(low) == wanted or at(high) == wanted:
        hits = [one for one in (low, high) if at(one) == wanted]
        return Found(min(hits, key=lambda one: abs(one - near)), wanted, True)
    while high - low > 1:
        middle = (low + high) // 2
        is_below = at(middle) < wanted if rises else at(middle) > wanted
        low, high = (middle, high) if is_below else (low, middle)
    if at(high) == wanted:
        return Found(high, wanted, True)
    best = min((low, high), key=lambda one: abs(at(one) - wanted))
    says = f"No whole amount gives exactly that: {low:,.0f} gives {at(low):,.0f}, {high:,.0f} gives {at(high):,.0f}."
    return Found(best, at(best), False, says)


def _within(amount: Decimal, low: Decimal, high: Decimal) -> list[Decimal]:
    return [amount // 1] if low <= amount <= high else []


def _nearest(amounts: list[Decimal], near: Decimal) -> Decimal:
    return min(amounts, key=lambda one: abs(one - near))


def _why_not(amounts: list[Decimal], low: Decimal, high: Decimal) -> str:
    least, most = min(amounts), max(amounts)
    if least == most:
        return f"This amount does not move it: from {low:,.0f} to {high:,.0f} it stays {least:,.0f}."
    return f"From {low:,.0f} to {high:,.0f} it goes from {least:,.0f} to {most:,.0f} and no further."
