"""Credits in their order: IRC 27, 21, 25A, 25B, 25C, 24, 25D, 26; and those that are paid out: 24(d), 25A(i), 32, 36B."""

from datetime import date
from decimal import ROUND_CEILING, ROUND_HALF_UP, Decimal
from itertools import pairwise

from taxcore.packs.us.tests.straight import amounts as law
from taxcore.packs.us.tests.straight.deductions import aged
from taxcore.packs.us.tests.straight.income import earned_by_person
from taxcore.packs.us.tests.straight.papers import box_4, box_6
from taxcore.packs.us.tests.straight.taxes import Layers
from taxcore.packs.us.tests.straight_line import dollars, schedule

D = Decimal


def begun(above, width):
    """How many steps of that width are begun."""
    return (max(above, D(0)) / width).quantize(D(1), ROUND_CEILING)


def foreign(facts, income, taken, tax):
    """Up to 300, or 600 jointly, as it is; else the part of the tax that foreign income bears. IRC 904(a), (d), (j)."""
    paid = D(facts.foreign + facts.abroad)
    if not facts.abroad and not facts.abroad_before and paid <= (600 if facts.joint else 300):
        return min(paid, tax)
    costs = sum(
        (one.trade.receipts - own.profit for one, own in zip(facts.people, income.businesses, strict=True) if one.trade), D(0)
    )
    # Gross income knows no losses
    everywhere = income.total + costs - min(income.gains.counted, D(0)) - min(facts.share, 0) + facts.rents - income.let
    part = min((facts.abroad_income / everywhere).quantize(D("0.0001"), ROUND_HALF_UP), D(1)) if everywhere > 0 else D(0)
    general = taken.listed.medical + taken.listed.taxes if taken.itemizes else taken.taken
    home = facts.mortgage if taken.itemizes else 0
    net = max(facts.abroad_income - facts.abroad_costs - dollars(part * general) - dollars(part * home), D(0))
    whole = _taxable_everywhere(facts, income, taken)
    borne = min((net / whole).quantize(D("0.0001"), ROUND_HALF_UP), D(1)) if whole > 0 else D(0)
    return min(paid + facts.abroad_before, dollars(borne * tax))


def _taxable_everywhere(facts, income, taken):
    """Gain and qualified dividends at 0% are left out, at 15 and 20% what is between those rates and 37%, unless few of them can be
    foreign and the ordinary rest ends below 32%. IRC 904(b)(2)(B); 26 CFR 1.904(b)-1(b)(3)."""
    gains = income.gains
    preferred = facts.qualified + gains.net
    few = min(facts.abroad_income, preferred) < 20_000
    below = taken.taxable - preferred <= schedule(facts.year, facts.status)[4][0]
    if preferred <= 0 or (few and below) or gains.at_25 + gains.at_28 > 0:
        return taken.taxable
    at = Layers(facts, taken.taxable, gains)
    return max(dollars(taken.taxable - at.free - at.middle * D("0.5946") - at.top * D("0.4595")), D(0))


def care(facts, income):
    spent = D(sum(child.care for child in facts.children))
    cared = sum(child.care > 0 for child in facts.children)
    if not cared or facts.status == "separate":
        return D(0)
    room = max(D(3_000 if cared == 1 else 6_000) - income.care_excluded, D(0))
    earned = [max(e, D(0)) for e in earned_by_person(facts, income.businesses)]
    earned[next(place for place, one in enumerate(facts.people) if one.jobs) if facts.jobs else 0] += income.care_taxed
    counted = min(room, max(spent - income.care_excluded, D(0)), *earned)
    return dollars(counted * _care_percent(facts, income.agi) / 100)


def _care_percent(facts, agi):
    steps = begun(agi - 15_000, 2_000)
    if facts.year < 2026:
        return max(35 - steps, D(20))
    start, width = (150_000, 4_000) if facts.joint else (75_000, 2_000)
    return max(max(50 - steps, D(35)) - begun(agi - start, width), D(20))


def elderly(facts, income):
    """15% of 5,000, of 7,500 where both of a couple are 65, less untaxed benefits and half of the income above a base. IRC 22."""
    many = aged(facts)
    if not many or facts.status == "separate":
        return D(0)
    free = 10_000 if facts.joint else 7_500
    base = (7_500 if many > 1 else 5_000) - (income.benefits - income.taxed_benefits) - dollars(max(income.agi - free, D(0)) / 2)
    return dollars(max(base, D(0)) * 15 / 100)


def education(facts, income):
    """(taken off the tax, paid out)."""
    if not facts.tuition or facts.status == "separate":
        return D(0), D(0)
    _, paid, kind = facts.tuition
    whole = D(min(paid, 2_000)) + D(min(max(paid - 2_000, 0), 2_000)) / 4 if kind == "american" else D(min(paid, 10_000)) / 5
    start, width = (160_000, 20_000) if facts.joint else (80_000, 10_000)
    part = min(max(start + width - income.agi, D(0)) / width, D(1)).quantize(D("0.001"), ROUND_HALF_UP)  # the form's three places
    kept = dollars(dollars(whole) * part)
    out = dollars(kept * 4 / 10) if kind == "american" else D(0)
    return kept - out, out


def savers(facts, income):
    tier = law.SAVERS[facts.year]
    by = {"joint": D(2), "head_of_household": D("1.5")}.get(facts.status, D(1))
    rate = next((rate for edge, rate in zip(tier, (50, 20, 10), strict=True) if income.agi <= edge * by), 0)
    drawn = sum(one.pension + one.early for one in facts.people)
    base = sum(min(max(one.ira + one.roth + sum(job.deferral for job in one.jobs) - drawn, 0), 2_000) for one in facts.people)
    return dollars(D(base) * rate / 100)


def improvements(facts):
    costs = (
        (facts.insulation, 1_200),
        (facts.windows, 600),
        (facts.doors, 250),
        (facts.furnace, 600),
        (facts.panels, 600),
        (facts.audit, 150),
    )
    envelope = sum(min(dollars(D(cost) * 30 / 100), D(most)) for cost, most in costs)
    return min(envelope, D(1_200)) + min(dollars(D(facts.heat_pump) * 30 / 100), D(2_000))


def families(facts, income):
    """The child tax credit with the credit for other dependents, before the limit of the tax."""
    small = sum(child.age(facts.year) < 17 for child in facts.children)
    whole = D(law.CHILD[facts.year][0] * small + 500 * (len(facts.children) - small))
    return max(whole - begun(income.agi - (400_000 if facts.joint else 200_000), 1_000) * 50, D(0)), small


def child_paid_out(facts, income, left, small, earned_credit, excess):
    if not small:
        return D(0)
    found = dollars(max(income.earned + income.care_taxed - 2_500, D(0)) * 15 / 100)
    if small >= 3:
        insured = dollars(sum((box_4(facts.year, job) + box_6(job) for job in facts.jobs), D(0)))
        found = max(found, max(insured + sum(own.half for own in income.businesses) - earned_credit - excess, D(0)))
    return min(left, D(law.CHILD[facts.year][1] * small), found)


def earned(facts, income):
    """The earned income credit, by the official table's rows of 50."""
    children = min(len(facts.children), 3)
    invested = income.interest + income.exempt + facts.dividends + max(income.gains.counted, D(0)) + max(income.let, D(0))
    of_age = any(date(facts.year - 64, 1, 2) <= one.born <= date(facts.year - 24, 1, 1) for one in facts.people)
    pay = income.earned + income.care_taxed
    if facts.status == "separate" or invested > law.EARNED_INVESTED[facts.year] or pay <= 0 or not (children or of_age):
        return D(0)
    more = law.EARNED_JOINT[facts.year][children > 0] if facts.joint else 0
    start, end = law.EARNED_FROM[facts.year][children > 0] + more, law.EARNED_ENDS[facts.year][children] + more
    up = (D("0.0765"), D("0.34"), D("0.40"), D("0.45"))[children]
    down = (D("0.0765"), D("0.1598"), D("0.2106"), D("0.2106"))[children]
    most = D(law.EARNED_MOST[facts.year][children])

    def at(amount):
        if not 0 < amount < end:
            return D(0)
        low = amount // 50 * 50
        middle = (low + min(low + 50, D(end))) / 2
        return max(dollars(min(middle * up, most, most - max(middle - start, D(0)) * down)), D(0))

    return min(at(pay), at(income.agi)) if income.agi >= start else at(pay)


def premium(facts, income):
    """(paid out, paid back) of the premium credit: month by month, or in one for twelve equal months."""
    if not facts.cover:
        return D(0), D(0)
    advance = D(sum((last - first + 1) * each for first, last, _, _, each in facts.cover))
    size = len(facts.people) + len(facts.children)
    one, each = law.POVERTY[facts.year]
    means = income.agi + income.exempt + income.benefits - income.taxed_benefits
    percent = min(int(max(means, D(0)) * 100 / (one + each * (size - 1))), 401)
    expected = dollars(max(means, D(0)) * _share(facts.year, percent))
    credit = sum((_of_months(span, expected) for span in facts.cover), D(0))
    if (percent < 100 and not advance) or (facts.year >= 2026 and percent > 400):
        credit = D(0)
    back = max(advance - credit, D(0))
    if percent < 400 and facts.year < 2026:
        cap = law.PAID_BACK[facts.year][0 if percent < 200 else 1 if percent < 300 else 2]
        back = min(back, D(cap * (1 if facts.status == "single" else 2)))
    return max(credit - advance, D(0)), back


def _of_months(span, expected):
    """Twelve equal months are worked out as one; else each with a twelfth of what is expected, in whole dollars."""
    first, last, paid, benchmark, _ = span
    months = last - first + 1
    times, each = (12, expected) if months == 12 else (1, dollars(expected / 12))
    found = max(min(D(paid * times), D(benchmark * times) - each), D(0))
    return found if months == 12 else found * months


def _share(year, percent):
    """The part of the income that the household is expected to pay. IRC 36B(b)(3)(A)."""
    corners = law.COVER_2026 if year >= 2026 else law.COVER_UNTIL_2025
    for (low, below), (high, above) in pairwise(corners):
        if percent < high:
            found = D(below) + (D(above) - D(below)) * (percent - low) / (high - low)
            return found.quantize(D("0.0001"), ROUND_HALF_UP)
    raise AssertionError(percent)
