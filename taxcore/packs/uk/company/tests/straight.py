"""A company's tax from the law, straight on: nothing of the pack is used here.

Facts are a dictionary: first and last day, the profit of the accounts with what is added back, plant bought, the main pool,
interest, losses brought forward, donations, exempt dividends, associated companies. CTA 2010 ss. 3, 18A to 18E; CAA 2001 Part 2.
"""

import math
from datetime import date, timedelta
from decimal import ROUND_CEILING, ROUND_FLOOR, ROUND_HALF_UP, Decimal

D = Decimal
BAND = {year: (D(50_000), D(250_000)) for year in (2023, 2024, 2025)}


def down(amount):
    return D(amount).quantize(D(1), ROUND_FLOOR)


def up(amount):
    return D(amount).quantize(D(1), ROUND_CEILING)


def pence(amount):
    return D(amount).quantize(D("0.01"), ROUND_HALF_UP)


def days_by_financial_year(facts):
    found, day = {}, facts["begins"]
    while day <= facts["ends"]:
        year = day.year - (day.month < 4)
        found[year] = found.get(year, 0) + 1
        day += timedelta(days=1)
    return found


def whole_year(facts):
    """The days of the twelve months from the first day: a 29 February among them makes 366."""
    begins = facts["begins"]
    leap = any((begins + timedelta(days=n)).strftime("%m-%d") == "02-29" for n in range(366))
    end_is_29 = (begins + timedelta(days=365)).strftime("%m-%d") == "02-29"
    return 366 if leap and not end_is_29 and _next_year(begins) - begins == timedelta(days=366) else 365


def _next_year(day):
    return date(day.year + 1, day.month, min(day.day, 28) if day.month == 2 else day.day)


def allowances(facts):
    part = D((facts["ends"] - facts["begins"]).days + 1) / whole_year(facts)
    at_once = up(min(D(facts["plant"]), 1_000_000 * part))
    pool = down(D(facts["pool"]) + facts["plant"] - min(D(facts["plant"]), at_once))
    written = up(pool if pool <= 1_000 * part else pool * D("0.18") * part)
    return at_once, min(written, pool), pool - min(written, pool)


def chargeable(facts):
    at_once, written, _ = allowances(facts)
    trade = D(facts["profit"]) + facts["added"] - at_once - written
    profits = max(trade, D(0)) + facts["interest"]
    after = profits - min(D(facts["losses"]), profits)
    return after - min(D(facts["donations"]), after), max(-trade, D(0))


def corporation_tax(facts):
    """Tax less marginal relief, year by year: the first year's part of the profits in whole pounds, the rest in the second."""
    profits, _ = chargeable(facts)
    by_year = days_by_financial_year(facts)
    length, shares, left = sum(by_year.values()), [], profits
    for number, (year, days) in enumerate(by_year.items()):
        part = left if number == len(by_year) - 1 else down(profits * days / length)
        left -= part
        shares.append((year, days, part))
    tax = relief = D(0)
    for year, days, part in shares:
        if year not in BAND:
            tax += pence(part * D("0.19"))
            continue
        lower, upper = (limit / (1 + facts["associates"]) * days / whole_year(facts) for limit in BAND[year])
        augmented = part + D(facts["dividends"]) * days / length
        tax += pence(part * (D("0.19") if augmented <= lower else D("0.25")))
        if lower < augmented <= upper:
            relief += D("0.015") * (upper - augmented) * part / augmented
    return tax - pence(relief)


def close(one, other):
    return math.isclose(one, other, abs_tol=0.021)
