"""How reliefs and allowances are best set against the three kinds of income: ITA 2007 s. 25(2) lets the taxpayer have the way
that gives the least tax, so every way at which the law turns is tried."""

from collections.abc import Callable, Iterator
from decimal import Decimal
from itertools import permutations, product

Kinds = tuple[Decimal, Decimal, Decimal]  # earned, savings, dividends
ZERO = Decimal(0)


def best(
    income: Kinds, allowances: Decimal, left: tuple[tuple[Decimal, ...], tuple[Decimal, ...]], tax: Callable[[Kinds], Decimal]
) -> Kinds:
    """What of the allowances stands against each kind. `left` are amounts of savings and of dividends that are taxed at nothing
    and may better stay uncovered; `tax` is that on what is taxable of each."""
    ways = sorted(set(_ways(income, allowances, left)), reverse=True)  # of ways that cost the same, earned income first
    return min(ways, key=lambda used: tax(_less(income, used)))


def _less(income: Kinds, used: Kinds) -> Kinds:
    return (income[0] - used[0], income[1] - used[1], income[2] - used[2])


def _ways(income: Kinds, allowances: Decimal, left: tuple[tuple[Decimal, ...], tuple[Decimal, ...]]) -> Iterator[Kinds]:
    spared = [{max(amount - free, ZERO) for free in (ZERO, *frees)} for amount, frees in zip(income[1:], left, strict=True)]
    for savings, dividends in product(*spared):
        caps = (income[0], savings, dividends)
        for order in permutations(range(3)):
            used, rest = [ZERO, ZERO, ZERO], allowances
            for limits in (caps, income):  # what was spared is covered too, once nothing else is left to cover
                for kind in order:
                    taken = min(rest, max(limits[kind] - used[kind], ZERO))
                    used[kind], rest = used[kind] + taken, rest - taken
            yield (used[0], used[1], used[2])
