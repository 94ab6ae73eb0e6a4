"""From adjusted gross income to taxable income: IRC 63, 163, 164, 170, 213, 199A, and 224, 225, 163(h)(4), 151(d)(5)(C) from 2025."""

from datetime import date
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal
from types import SimpleNamespace

from taxcore.packs.us.tests.straight import amounts as law
from taxcore.packs.us.tests.straight_line import BASIC, MORE, dollars, schedule

D = Decimal


def aged(facts):
    """How many are 65, as the law counts: the day before the birthday."""
    return sum(one.born <= date(facts.year - 64, 1, 1) for one in facts.people)


def standard(facts):
    boxes = aged(facts) + sum(one.blind for one in facts.people)
    married = facts.status in ("joint", "separate", "surviving_spouse")
    kind = "head_of_household" if facts.status == "head_of_household" else "single"
    double = 2 if facts.status in ("joint", "surviving_spouse") else 1
    return D(BASIC[facts.year][kind] * double + boxes * MORE[facts.year][married])


def itemized(facts, income):
    agi = income.agi
    medical = facts.medical + sum(own.unused for own in income.businesses)
    medical = max(medical - dollars(max(agi, D(0)) * 75 / 1_000), D(0))
    half = 2 if facts.status == "separate" else 1
    cap = D(10_000) / half
    if facts.year >= 2025:
        most, start = {2025: (40_000, 500_000), 2026: (40_400, 505_000)}[facts.year]
        cap = max(dollars(D(most) / half - max(agi - D(start) / half, D(0)) * 30 / 100), cap)
    taxes = min(D(max(facts.state_tax, facts.sales_tax) + facts.property_tax), cap)
    ordinary_gain = max(income.gains.counted, D(0)) - income.gains.net
    invested = income.interest + facts.dividends - facts.qualified + ordinary_gain
    margin = min(D(facts.margin + facts.margin_before), invested)
    room = max(agi, D(0))
    cash = min(D(facts.given), dollars(room * 60 / 100))
    things = min(D(facts.given_things), max(dollars(room / 2) - cash, D(0)))
    gifts = cash + things + min(D(facts.given_before), max(dollars(room * 60 / 100) - cash - things, D(0)))
    lost = D(facts.lost)
    if facts.year >= 2026:  # IRC 170(b)(1)(I), 165(d)(1)
        gifts, lost = dollars(max(gifts - room * 5 / 1_000, D(0))), dollars(lost * 90 / 100)
    lost = min(lost, D(facts.winnings))
    return SimpleNamespace(
        total=medical + taxes + facts.mortgage + margin + gifts + lost, taxes=taxes, margin=margin, medical=medical, cut=D(0)
    )


def _cut(facts, income, listed, new, business):
    """From 2026: 2/37 of what is itemized, or of the income that bears the highest rate if that is less. IRC 68."""
    if facts.year < 2026:
        return D(0)
    top = schedule(facts.year, facts.status)[-1][0]
    return dollars(min(listed.total, max(income.agi - new - business - top, D(0))) * 2 / 37)


def new_deductions(facts, income):
    """Schedule 1-A: (tips, overtime, car loan, seniors)."""
    if facts.year < 2025:
        return (D(0),) * 4
    agi, joint, separate = income.agi, facts.joint, facts.status == "separate"
    over = max(agi - (300_000 if joint else 150_000), D(0))
    steps = (over / 1_000).quantize(D(1), ROUND_FLOOR) * 100
    tips = max(min(D(sum(job.tips for job in facts.jobs)), D(25_000)) - steps, D(0))
    overtime = max(min(D(sum(job.overtime for job in facts.jobs)), D(25_000 if joint else 12_500)) - steps, D(0))
    beyond = max(agi - (200_000 if joint else 100_000), D(0))
    car = max(min(D(facts.car_loan), D(10_000)) - (beyond / 1_000).quantize(D(1), ROUND_CEILING) * 200, D(0))
    each = max(D(6_000) - dollars(max(agi - (150_000 if joint else 75_000), D(0)) * 6 / 100), D(0))
    return (D(0), D(0), car, D(0)) if separate else (tips, overtime, car, each * aged(facts))


def business_income(facts, income, before):
    """IRC 199A: a fifth of each business, from the threshold on bounded by wages; and a fifth of trusts' dividends."""
    threshold = D(law.BUSINESS_THRESHOLD[facts.year] * (2 if facts.joint else 1))
    threshold += 25 if facts.year == 2026 and facts.status == "separate" else 0  # rounded apart from the others
    width = (50_000 if facts.year < 2026 else 75_000) * (2 if facts.joint else 1)
    owned = [(own.profit - own.half - own.plan - own.health, D(0)) for own in income.businesses if own.profit]
    if facts.share:
        owned.append((D(facts.share), D(abs(facts.share))))
    net = sum((amount for amount, _ in owned), D(0))
    ceiling = dollars(max(before - facts.qualified - income.gains.net, D(0)) / 5)
    if before <= threshold:
        component = dollars(max(net, D(0)) / 5)
    else:
        component = sum((_bounded(amount, pay, before - threshold, width) for amount, pay in _after_losses(owned)), D(0))
    found = min(component + dollars(D(facts.trust) / 5), ceiling)
    return min(max(found, D(400)), before) if facts.year >= 2026 and net >= 1_000 else found  # IRC 199A(i)


def _after_losses(owned):
    """Losses lower the profits in proportion. Reg. 1.199A-1(d)(2)(iii)."""
    lost = -sum((amount for amount, _ in owned if amount < 0), D(0))
    gained = sum((amount for amount, _ in owned if amount > 0), D(0))
    if lost >= gained:
        return []
    return [(amount - dollars(lost * amount / gained), pay) for amount, pay in owned if amount > 0]


def _bounded(amount, pay, over, width):
    fifth, limit = dollars(amount / 5), dollars(pay / 2)
    if fifth <= limit:
        return fifth
    if over >= width:
        return limit
    return fifth - dollars((fifth - limit) * over / width)


def of(facts, income):
    """The deduction taken, the new ones, the business one, and taxable income."""
    listed, plain = itemized(facts, income), standard(facts)
    new = new_deductions(facts, income)
    # The limitation of section 68 comes after the business deduction, which is worked out without it. IRC 199A(e)(1)
    cut = _cut(facts, income, listed, sum(new), business_income(facts, income, max(income.agi - listed.total - sum(new), D(0))))
    itemizes = listed.total - cut > plain
    cut = cut if itemizes else D(0)
    taken = listed.total - cut if itemizes else plain
    gifts = D(0) if itemizes or facts.year < 2026 else D(min(facts.given, 2_000 if facts.joint else 1_000))  # IRC 170(p)
    before = income.agi - taken - gifts - sum(new)
    business = business_income(facts, income, max(before - cut, D(0)))
    return SimpleNamespace(
        taken=taken, itemizes=itemizes, listed=listed, new=sum(new), seniors=new[3], business=business, gifts=gifts, cut=cut,
        taxable=max(before - business, D(0)), unbounded=before - business,
    )  # fmt: skip
