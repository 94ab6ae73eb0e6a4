"""An individual's tax from the law, straight on, in pounds and pence: nothing of the pack is used here.

Facts are a dictionary: amounts by name, `region` ("england", "wales", "scotland"), `year` (that in which the tax year begins).
ITA 2007 ss. 6 to 16, 23 to 25, 35; SSCBA 1992 s. 15; TCGA 1992 s. 1H.
"""

from decimal import ROUND_HALF_UP, Decimal
from itertools import product

D = Decimal
SCOTLAND = {
    2023: [(2_162, ".19"), (13_118, ".20"), (31_092, ".21"), (125_140, ".42"), (None, ".47")],
    2024: [(2_306, ".19"), (13_991, ".20"), (31_092, ".21"), (62_430, ".42"), (125_140, ".45"), (None, ".48")],
    2025: [(2_827, ".19"), (14_921, ".20"), (31_092, ".21"), (62_430, ".42"), (125_140, ".45"), (None, ".48")],
}
DIVIDENDS_FREE = {2023: 1_000, 2024: 500, 2025: 500}
CLASS_4 = {2023: D(".09"), 2024: D(".06"), 2025: D(".06")}
EXEMPT = {2023: 6_000, 2024: 3_000, 2025: 3_000}


def pence(amount):
    return D(amount).quantize(D("0.01"), ROUND_HALF_UP)


def net_income(facts):
    return max(sum(D(facts.get(name, 0)) for name in ("pay", "trade", "rents", "savings", "dividends")), D(0))


def personal_allowance(facts):
    adjusted = net_income(facts) - extended(facts)
    fall = max(adjusted - 100_000, D(0)) // 2
    return max(D(12_570) - fall, D(0))


def extended(facts):
    """What gifts and pension contributions, with the tax taken back on them, widen the bands by."""
    return D(facts.get("gifts", 0)) / D("0.8") + D(facts.get("pension", 0)) / D("0.8")


def income_tax(facts, allowance=None):
    """The least over every division of the allowance between the three kinds of income, in steps where the law turns."""
    allowance = personal_allowance(facts) if allowance is None else allowance
    earned = D(facts.get("pay", 0)) + D(facts.get("trade", 0)) + D(facts.get("rents", 0))
    kinds = (max(earned, D(0)), D(facts.get("savings", 0)), D(facts.get("dividends", 0)))
    best = None
    for leave_savings, leave_dividends in product(range(0, 6_001, 500), range(0, 1_001, 500)):
        for order in product((0, 1, 2), repeat=3):
            left, used = allowance, [D(0)] * 3
            caps = [kinds[0], max(kinds[1] - leave_savings, D(0)), max(kinds[2] - leave_dividends, D(0))]
            for turn in (0, 1):  # what was left for the nil rates is used too if allowance remains
                for kind in (*order, 0, 1, 2):
                    room = (caps[kind] if not turn else kinds[kind]) - used[kind]
                    taken = min(left, max(room, D(0)))
                    used[kind], left = used[kind] + taken, left - taken
            tax = _on(facts, [kind - taken for kind, taken in zip(kinds, used, strict=True)])
            best = tax if best is None else min(best, tax)
    return best


def _on(facts, taxable):
    """Tax on what is taxable of the three kinds, in their order."""
    earned, savings, dividends = taxable
    wider = extended(facts)
    basic, higher = D(37_700) + wider, D(125_140) + wider
    whole = earned + savings + dividends
    tax = (
        _scottish(facts, earned, wider)
        if facts["region"] == "scotland"
        else _slice(D(0), earned, basic, higher, (".20", ".40", ".45"))
    )
    starting = min(max(D(5_000) - earned, D(0)), savings)
    free = D(0) if whole > higher else D(500) if whole > basic else D(1_000)
    free = min(free, savings - starting)
    tax += _slice(earned + starting + free, savings - starting - free, basic, higher, (".20", ".40", ".45"))
    free = min(D(DIVIDENDS_FREE[facts["year"]]), dividends)
    tax += _slice(earned + savings + free, dividends - free, basic, higher, (".0875", ".3375", ".3935"))
    return tax


def _slice(below, amount, basic, higher, rates):
    parts = [
        max(min(below + amount, top) - max(below, floor), D(0))
        for floor, top in ((D(0), basic), (basic, higher), (higher, D(10**12)))
    ]
    return sum((pence(part * D(rate)) for part, rate in zip(parts, rates, strict=True)), D(0))


def _scottish(facts, earned, wider):
    """The widening begins above the band that is taxed at the basic rate: ITA 2007 s. 10 as it reads for Scottish taxpayers."""
    tax, floor = D(0), D(0)
    for number, (top, rate) in enumerate(SCOTLAND[facts["year"]]):
        end = D(10**12) if top is None else D(top) + (wider if number >= 1 else 0)
        tax += pence(max(min(earned, end) - floor, D(0)) * D(rate))
        floor = end
    return tax


def class_4(facts):
    profit = max(D(facts.get("trade", 0)), D(0))
    main = max(min(profit, D(50_270)) - 12_570, D(0)) * CLASS_4[facts["year"]]
    return pence(main) + pence(max(profit - 50_270, D(0)) * D(".02"))
