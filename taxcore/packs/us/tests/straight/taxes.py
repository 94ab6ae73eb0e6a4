"""Tax on taxable income, alternative minimum tax, and the other taxes: IRC 1(h), 55 to 59, 72(t), 1401, 1411, 3101(b)(2), 4973."""

from decimal import Decimal

from taxcore.packs.us.tests.straight import amounts as law
from taxcore.packs.us.tests.straight.income import ira_income, written_off
from taxcore.packs.us.tests.straight.papers import box_4, box_6
from taxcore.packs.us.tests.straight_line import BASE, dollars, schedule, tax_on

D = Decimal


def _gain_edges(facts):
    kind = law.KIND[facts.status]
    fifteen = law.GAIN_FIFTEEN_SEPARATE[facts.year] if facts.status == "separate" else law.GAIN_FIFTEEN[facts.year][kind]
    return D(law.GAIN_ZERO[facts.year][kind]), D(fifteen)


class Layers:
    """How taxable income is made up: what is ordinary, what is in the pool of 0, 15 and 20 percent, what is taxed at 25 and 28.

    The gain of 25 and 28 percent fills up the ordinary brackets below 32 percent first. IRC 1(h)(1)(A)."""

    def __init__(self, facts, taxable, gains):
        preferred = facts.qualified + gains.net
        special = min(taxable, preferred)
        pool = preferred - min(gains.net, gains.at_25 + gains.at_28)
        self.pool = min(pool, taxable)
        below = D(schedule(facts.year, facts.status)[4][0])
        with_parts = gains.at_25 + gains.at_28 > 0
        self.ordinary = max(taxable - special, min(max(taxable - pool, D(0)), below)) if with_parts else taxable - special
        self.beside = max(taxable - pool, D(0))  # all that is not in the pool
        zero, self.fifteen = _gain_edges(facts)
        self.zero = zero
        free_room = max(min(taxable, zero) - min(self.beside, min(taxable, zero)), D(0))
        self.free = min(free_room, self.pool)
        middle_room = max(min(taxable, self.fifteen) - self.ordinary - self.free, D(0))
        self.middle = min(self.pool - self.free, middle_room)
        self.top = self.pool - self.free - self.middle
        net_25 = min(gains.net, gains.at_25)
        self.at_25 = max(net_25 - max(preferred + self.ordinary - taxable, D(0)), D(0)) if with_parts else D(0)
        self.at_28 = taxable - self.ordinary - self.pool - self.at_25 if with_parts else D(0)


def regular(facts, taxable, gains):
    bands = schedule(facts.year, facts.status)
    plain = tax_on(taxable, bands)
    if facts.qualified + gains.net <= 0:
        return plain
    at = Layers(facts, taxable, gains)
    parts = (at.middle * 15, at.top * 20, at.at_25 * 25, at.at_28 * 28)
    return min(tax_on(at.ordinary, bands) + sum(dollars(part / 100) for part in parts), plain)


def minimum_tax(facts, income, taken, regular_tax):
    """What the tentative minimum tax is above the regular tax. Neither has a foreign tax credit taken off: it is the same in both."""
    year, separate = facts.year, facts.status == "separate"
    base = taken.taxable if taken.taxable > 0 else taken.unbounded
    base += (taken.listed.taxes if taken.itemizes else taken.taken) + taken.seniors + facts.private + facts.options
    base += sum(fast - slow for fast, slow in (written_off(one.trade) for one in facts.people))
    base -= taken.cut  # IRC 56(b)(1)(F)
    married = facts.status in ("joint", "separate", "surviving_spouse")
    exemption, start = (D(table[year][married]) / (2 if separate else 1) for table in (law.MINIMUM_EXEMPTION, law.MINIMUM_FROM))
    fall = D("0.25") if year < 2026 else D("0.5")
    if separate:
        base += min(dollars(max(base - start - exemption / fall, D(0)) * fall), exemption)
    above = max(base - dollars(max(exemption - max(base - start, D(0)) * fall, D(0))), D(0))
    return max(_tentative(facts, above, income.gains, taken.taxable) - regular_tax, D(0))


def _tentative(facts, above, gains, taxable):
    edge = D(law.MINIMUM_EDGE[facts.year]) / (2 if facts.status == "separate" else 1)

    def flat(amount):
        return dollars(amount * 26 / 100) if amount <= edge else dollars(amount * 28 / 100) - dollars(edge * 2 / 100)

    preferred = facts.qualified + gains.net
    if preferred <= 0:
        return flat(above)
    parts = min(gains.net, gains.at_25 + gains.at_28)
    pool, at_25 = preferred - parts, gains.at_25
    special = min(pool + at_25, preferred) if parts else pool
    ordinary = above - min(above, special)
    zero, fifteen = _gain_edges(facts)
    free = min(max(zero - max(taxable - pool, D(0)), D(0)), min(above, pool))
    plain_ordinary = Layers(facts, taxable, gains).ordinary
    middle = min(min(above, pool) - free, max(fifteen - max(zero - max(taxable - pool, D(0)), D(0)) - plain_ordinary, D(0)))
    top = min(above, pool) - free - middle
    rest = above - ordinary - free - middle - top if at_25 else D(0)
    by_part = flat(ordinary) + dollars(middle * 15 / 100) + dollars(top * 20 / 100) + dollars(rest * 25 / 100)
    return min(by_part, flat(above))


def others(facts, income, taken):
    """{name: amount} of the taxes beside the income tax."""
    wage_limit = {"joint": 250_000, "separate": 125_000}.get(facts.status, 200_000)
    invested_limit = 250_000 if facts.status == "surviving_spouse" else wage_limit
    insured = D(sum(job.insured for job in facts.jobs))
    base = sum(own.base for own in income.businesses)
    medicare = dollars(max(insured - wage_limit, D(0)) * 9 / 1_000)
    medicare += dollars(max(base - max(wage_limit - insured, D(0)), D(0)) * 9 / 1_000)
    invested = (
        income.interest + facts.dividends + income.gains.counted + income.let - (taken.listed.margin if taken.itemizes else 0)
    )
    surtax = dollars(min(max(invested, D(0)), max(income.agi - invested_limit, D(0))) * 38 / 1_000)
    early = sum(dollars(ira_income(one)[0] / 10) for one in facts.people)
    return {
        "self_employment": sum(own.tax for own in income.businesses), "medicare": medicare, "surtax": surtax, "early": early,
        "excess": sum(dollars(amount * 6 / 100) for each in (income.health_excess, *income.ira_excess) for amount in each),
    }  # fmt: skip


def withheld(facts, medicare):
    """(withheld with Additional Medicare Tax, Social Security above the year's most by person with two employers or more)."""
    box_5 = D(sum(job.insured for job in facts.jobs))
    above = max(dollars(sum((box_6(job) for job in facts.jobs), D(0))) - dollars(box_5 * 145 / 10_000), D(0))
    paid = D(sum(job.withheld for job in facts.jobs)) + (above if medicare or above > 1 else D(0))
    excess = D(0)
    for one in facts.people:
        if len(one.jobs) > 1:
            most = BASE[facts.year] * 62 / D(1_000)
            excess += max(sum((box_4(facts.year, job) for job in one.jobs), D(0)) - most, D(0))
    return paid, dollars(excess)
