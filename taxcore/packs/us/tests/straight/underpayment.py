"""The penalty for paying too little during the year: IRC 6654, 6621, by the regular method."""

from datetime import date
from decimal import Decimal
from itertools import pairwise

from taxcore.packs.us.tests.straight.facts import due
from taxcore.packs.us.tests.straight_line import dollars

D = Decimal
# Percent for the days after that one
_RATES = (
    (date(2022, 3, 31), 4), (date(2022, 6, 30), 5), (date(2022, 9, 30), 6), (date(2022, 12, 31), 7), (date(2023, 9, 30), 8),
    (date(2024, 12, 31), 7),
)  # fmt: skip


def penalty(facts, federal):
    """Interest on each quarter's shortage until it is made up, at the latest on April 15. `federal`: what `federal.whole` found."""
    current = federal.total - federal.excise
    current -= federal.by_work + federal.by_child + federal.out_tuition + federal.out_premium
    if current - federal.withheld < 1_000:
        return D(0)
    tax, income = facts.before
    high = income > (75_000 if facts.status == "separate" else 150_000)
    needed = min(dollars(current * 90 / 100), dollars(D(tax) * (110 if high else 100) / 100))
    if needed <= federal.withheld:
        return D(0)
    days = due(facts.year)
    open_at = [[day, dollars(needed / 4)] for day in days]
    paid = sorted([(day, federal.withheld / 4) for day in days] + [(day, D(amount)) for day, amount in facts.paid])
    owed, end = D(0), date(facts.year + 1, 4, 15)
    for day, amount in paid:
        for row in open_at:
            used = min(amount, row[1])
            amount -= used
            row[1] -= used
            owed += _interest(used, row[0], min(day, end))
    return dollars(owed + sum((_interest(left, day, end) for day, left in open_at), D(0)))


def _interest(amount, begin, end):
    """For the days after the first up to the last, each year by its own number of days."""
    if end <= begin or not amount:
        return D(0)
    new_year = date(end.year - 1, 12, 31)
    edges = sorted(
        {begin, end, *(day for day, _ in _RATES if begin < day < end), *([new_year] if begin < new_year < end else [])}
    )
    owed = D(0)
    for start, stop in pairwise(edges):
        rate = max((day, rate) for day, rate in _RATES if day <= start)[1]
        year = 366 if stop.year % 4 == 0 else 365
        owed += amount * rate / 100 * (stop - start).days / year
    return owed
