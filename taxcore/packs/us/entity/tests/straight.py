"""Form 1065, Form 1120-S and Illinois' returns of both a second time: straight from the books to every owner's share.

Written from the law alone: IRC 702, 703, 706, 1366, 1368, 1377; 35 ILCS 5/201, 203, 204, 304. It reads papers, no forms, and knows
no assets, properties or special allocations.
"""

from datetime import date
from decimal import ROUND_HALF_UP, Decimal

D = Decimal
_PORTFOLIO = ("interest_income", "dividends", "royalties", "short_gain", "long_gain")
_APART = ("contributions", "investment_interest", "portfolio_costs", "foreign_tax")
_PLAIN = ("repairs", "bad_debts", "rent", "taxes", "interest", "depreciation", "retirement", "benefits", "salaries")


def whole(amount):
    return D(amount).quantize(D(1), ROUND_HALF_UP)


def of_books(papers):
    """Debits less credits by tax line."""
    (books,) = [one for one in papers if one.kind == "books"]
    found: dict[str, Decimal] = {}
    for row in books.values["rows"]:
        net = D(row.get("debit") or 0) - D(row.get("credit") or 0)
        found[row["tax_line"]] = found.get(row["tax_line"], D(0)) + net
    return found


def days_held(stakes, name, year):
    """Percent or shares by the days of the year on which they were held."""
    first, last = date(year, 1, 1), date(year, 12, 31)
    starts = sorted((date.fromisoformat(row["since"]) if row.get("since") else first, D(row[name])) for row in stakes)
    ends = [one[0] for one in starts[1:]] + [date(year + 1, 1, 1)]
    return sum(
        (part * max((end - max(start, first)).days, 0) for (start, part), end in zip(starts, ends, strict=True) if start <= last),
        D(0),
    )


def divided(amount, weights):
    """Whole dollars: everybody's whole part, then one each to the largest remainders."""
    every = sum(weights)
    if not every:
        return [D(0)] * len(weights)
    size = abs(whole(amount))
    exact = [size * one / every for one in weights]
    parts = [D(int(one)) for one in exact]
    order = sorted(range(len(parts)), key=lambda at: (-(exact[at] - parts[at]), at))
    for at in order[: int(size - sum(parts))]:
        parts[at] += 1
    return [part if amount >= 0 else -part for part in parts]


def passed_on(papers, owners_kind, stake, year=2025):
    """Schedule K and every owner's part of it, of a partnership or an S corporation."""
    books, owners = of_books(papers), [one.values for one in papers if one.kind == owners_kind]
    net = lambda *names: sum((books.get(one, D(0)) for one in names), D(0))  # noqa: E731
    weights = [days_held(one["stakes"], stake, year) for one in owners]
    guaranteed = [D(one.get("services") or 0) if owners_kind == "partner" else D(0) for one in owners]
    others = (
        whole(net("advertising", "other_deductions", "amortization") + net("meals") / 2) if owners_kind == "partner" else None
    )
    if others is None:
        others = net("advertising") + whole(net("other_deductions", "amortization") + net("meals") / 2)
    costs = net(*_PLAIN) + others + net("officers") + sum(guaranteed)
    ordinary = -net("sales") - net("returns", "cogs") - costs
    lost = net("nondeductible") + net("meals") - whole(net("meals") / 2)
    k = {"ordinary": ordinary, "exempt_interest": -net("exempt_interest"), "nondeductible": lost}
    k |= {name: -net(name) for name in _PORTFOLIO} | {name: net(name) for name in _APART}
    shares = [
        dict(zip(k, parts, strict=True)) for parts in zip(*(divided(amount, weights) for amount in k.values()), strict=True)
    ]
    return k, shares, guaranteed, weights


def adjustments(k, before, distributed):
    """The adjustments account after distributions; what reduces it counts after them where it is more than what is added."""
    plus = sum(max(amount, D(0)) for name, amount in k.items() if name in ("ordinary", *_PORTFOLIO))
    minus = -sum(min(amount, D(0)) for name, amount in k.items() if name in ("ordinary", *_PORTFOLIO))
    minus += sum(k[name] for name in _APART) + k["nondeductible"]
    together = before + plus - minus
    room = max(before + (D(0) if minus > plus else plus - minus), D(0))
    return together, min(distributed, room)


def illinois(k, guaranteed, weights, factor, *, exempt, entity_tax, replaced=(), pay=0):
    """(base income, net income, replacement tax, entity tax, each owner's share). `replaced` are places of owners who pay replacement tax themselves."""
    unmodified = k["ordinary"] + sum(k[name] for name in _PORTFOLIO) - sum(k[name] for name in _APART)
    shared = unmodified + k["exempt_interest"]
    shares = [part + own for part, own in zip(divided(shared, weights), guaranteed, strict=True)]
    base = shared + sum(guaranteed) - sum(shares[at] for at in replaced) - pay
    here = whole(base * factor)
    free = min(whole(D(1000) * here / base), 1000) if exempt and base > 0 and here > 0 else D(0)
    net = here - min(free, max(here, D(0)))
    elected = whole(max(sum(shares) * factor, D(0))) if entity_tax else D(0)
    return base, net, whole(max(net, D(0)) * D("0.015")), whole(elected * D("0.0495")), shares
