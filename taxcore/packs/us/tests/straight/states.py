"""The states a second time: one function each, from a plain household and its federal return to the tax less what is paid out.

Written from each state's statute. The households live in one state all year; the papers of other states, businesses, plans and
credits by question are left to the worked cases. Each function gives the net balance: what is owed is positive.
"""

from datetime import date
from decimal import Decimal

from taxcore.packs.us.tests.diagnosed.making import single
from taxcore.packs.us.tests.straight import credits
from taxcore.packs.us.tests.straight.deductions import aged
from taxcore.packs.us.tests.straight.papers import box_4, box_6
from taxcore.packs.us.tests.straight_line import dollars

D = Decimal


def questions(facts):
    """What a state asks beside the papers."""
    asked = {
        "IN": {"county": "Lake", "spouse_county": "Lake"},
        "PA": {"forgiveness": "no" if facts.status == "separate" else "yes"},
    }.get(facts.home, {})
    return [single(f"{facts.home.lower()}-questions", use_tax="0", **asked)] if asked else []


def _bands(taxable, *bands):
    """Tax by (begins at, percent) pairs."""
    owed, above = D(0), max(taxable, D(0))
    for edge, rate in reversed(bands):
        if above > edge:
            owed += (above - edge) * D(str(rate)) / 100
            above = D(edge)
    return owed


def _married(facts):
    return facts.status in ("joint", "separate")


def _pensions(facts):
    return D(sum(one.pension + one.early for one in facts.people))


def _boxes(facts):
    """Ages of 65 and blindness, one each."""
    return aged(facts) + sum(one.blind for one in facts.people)


def illinois(facts, federal):
    """35 ILCS 5/201, 203, 204, 212, 244. The earned income credit of those outside the federal ages stops."""
    found = federal.income
    base = federal.agi - found.taxed_benefits - _pensions(facts) - facts.government
    each = {2023: 2_425, 2024: 2_775, 2025: 2_850}[facts.year]
    exempt = each * (len(facts.people) + len(facts.children)) + 1_000 * _boxes(facts)
    if federal.agi > (500_000 if facts.joint else 250_000):
        exempt = 0
    tax = dollars(max(max(base, D(0)) - exempt, D(0)) * 495 / 10_000)
    by_work = dollars(federal.by_work * 20 / 100)
    young = any(child.age(facts.year) < 12 for child in facts.children)
    share = {2023: 0, 2024: 20, 2025: 40}[facts.year]
    return tax - by_work - (dollars(by_work * share / 100) if young else 0)


def pennsylvania(facts, federal):
    """72 P.S. 7302, 7303, 7304: classes of income; a loss of one does not lower another. No deductions. What is drawn early stops."""
    pay = sum(job.wages for job in facts.jobs)
    gains = max(facts.short + facts.long, 0)
    taxable = D(pay + facts.interest + facts.dividends + facts.distributions + gains)
    tax = dollars(taxable * 307 / 10_000)
    if facts.status == "separate":
        return tax
    means = taxable + facts.government
    base = (13_000 if facts.joint else 6_500) + 9_500 * len(facts.children)
    steps = credits.begun(means - base, 250)
    return tax - (dollars(tax * (10 - steps) / 10) if steps < 10 else D(0))


def indiana(facts, federal):
    """IC 6-3-1-3.5, 6-3-2-1, 6-3.1-21: Lake county."""
    found = federal.income
    base = D(18_000 if facts.joint else 0 if facts.status == "separate" else 12_000)
    taxed = min(D(facts.unemployment), dollars(max(federal.agi - base, D(0)) / 2))
    income = federal.agi - found.taxed_benefits - facts.government - (facts.unemployment - taxed)
    exempt = 1_000 * (len(facts.people) + len(facts.children)) + 1_500 * len(facts.children) + 1_000 * _boxes(facts)
    exempt += 500 * aged(facts) if federal.agi < (20_000 if facts.status == "separate" else 40_000) else 0
    taxable = max(income - exempt, D(0))
    rate = {2023: "3.15", 2024: "3.05", 2025: "3.0"}[facts.year]
    tax = dollars(taxable * D(rate) / 100) + dollars(taxable * D("1.5") / 100)
    return tax - dollars(federal.by_work / 10)


def virginia(facts, federal):
    """Va. Code 58.1-320 to 324, 339.8. Spouses' shares are by whose paper it is; all savings are the taxpayer's."""
    found, year, joint = federal.income, facts.year, facts.joint
    old = [one for one in facts.people if one.born <= date(year - 64, 1, 1)]
    means = federal.agi - found.taxed_benefits
    limit = 75_000 if _married(facts) else 50_000
    oldest = [one for one in old if one.born <= date(1939, 1, 1)]
    left = D(12_000 * (len(old) - len(oldest)))
    age = 12_000 * len(oldest) + (max(left - max(means - limit, D(0)), D(0)) if left else 0)
    agi = federal.agi - found.taxed_benefits - facts.government - facts.unemployment - age
    plain = D({2023: 8_000, 2024: 8_500, 2025: 8_750}[year] * (2 if joint else 1))
    deduction = federal.taken.taken if federal.taken.itemizes else plain
    persons = 930 * (len(facts.people) + len(facts.children)) + 800 * _boxes(facts)
    taxable = max(agi - deduction - persons, D(0))
    tax = dollars(_virginian(taxable)) if agi >= (23_900 if joint else 11_950) else D(0)
    if joint and tax:
        tax -= _of_spouses(facts, federal, age, old, oldest, taxable, tax)
    return tax - _for_low_income(facts, federal, agi, tax)


def _virginian(taxable):
    return _bands(taxable, (0, 2), (3_000, 3), (5_000, 5), (17_000, "5.75"))


def _of_spouses(facts, federal, age, old, oldest, taxable, tax):
    each = []
    for one in facts.people:
        income = D(sum(job.wages for job in one.jobs) + one.pension + one.early)
        if one.role == "taxpayer":
            income += facts.interest + facts.dividends + federal.income.gains.counted
        income -= age / len(old) if one in old else 0
        each.append(max(income - 930 - 800 * (one in old) - 800 * one.blind, D(0)))
    lower = min(*each, D(17_000))
    if min(each) >= 17_000 and taxable >= 34_000:
        return D(259)  # what the worksheet prints, although the bands give 257.50
    return min(max(dollars(tax - _virginian(lower) - _virginian(max(taxable - lower, D(0)))), D(0)), D(259))


def _for_low_income(facts, federal, agi, tax):
    size = len(facts.people) + len(facts.children)
    one, more = {2023: (14_580, 5_140), 2024: (15_060, 5_380), 2025: (15_650, 5_500)}[facts.year]
    if _boxes(facts):
        return D(0)
    poor = agi <= one + more * (size - 1)
    nonrefundable = max(D(300 * size) if poor else D(0), dollars(federal.by_work * 20 / 100))
    refundable = dollars(federal.by_work * (20 if facts.year >= 2025 else 15) / 100)
    return max(min(nonrefundable, tax), refundable)


def georgia(facts, federal):
    """O.C.G.A. 48-7-20, 48-7-26, 48-7-27, 48-7A-3."""
    found, year, joint, separate = federal.income, facts.year, facts.joint, facts.status == "separate"
    excluded = sum(_georgian_pension(facts, federal, one) for one in facts.people)
    agi = federal.agi - found.taxed_benefits - facts.government - excluded
    if year == 2023:
        plain = (7_100 if joint else 3_550 if separate else 5_400) + 1_300 * _boxes(facts)
        exempt = (7_400 if joint else 3_700 if separate else 2_700) + 3_000 * len(facts.children)
    else:
        plain, exempt = 24_000 if joint else 12_000, 4_000 * len(facts.children)
    taxable = max(agi - (federal.taken.taken if federal.taken.itemizes else plain) - exempt, D(0))
    if year == 2023:
        steps = (1_000, 3_000, 5_000, 7_000, 10_000)
        if not joint and facts.status not in ("head_of_household", "surviving_spouse"):
            steps = (500, 1_500, 2_500, 3_500, 5_000) if separate else (750, 2_250, 3_750, 5_250, 7_000)
        tax = dollars(_bands(taxable, *zip((0, *steps), (1, 2, 3, 4, 5, "5.75"), strict=True)))
    else:
        tax = dollars(taxable * D({2024: "5.39", 2025: "5.19"}[year]) / 100)
    each = next(
        (amount for limit, amount in ((6_000, 26), (8_000, 20), (10_000, 14), (15_000, 8), (20_000, 5)) if federal.agi < limit), 0
    )
    return max(tax - each * (len(facts.people) + len(facts.children) + aged(facts)), D(0))


def _georgian_pension(facts, federal, one):
    """Up to 65,000 from 65 on: what is not worked for, with a little of what is."""
    if one.born > date(facts.year - 64, 1, 1):
        return D(0)
    idle = D(one.pension + one.early)
    if one.role == "taxpayer":
        idle += facts.interest + facts.dividends + federal.income.gains.counted + facts.unemployment
    worked = min(sum(job.wages for job in one.jobs), 4_000 if facts.year == 2023 else 5_000)
    return min(max(idle, D(0)) + worked, D(65_000))


def south_carolina(facts, federal):
    """S.C. Code 12-6-510, 520, 1110 to 1170, 3330, 3632."""
    found, year = federal.income, facts.year
    income = federal.taken.unbounded
    income -= facts.government + found.taxed_benefits + dollars(found.gains.net * 44 / 100)
    each = {2023: 4_610, 2024: 4_790, 2025: 4_930}[year]
    income -= each * (len(facts.children) + sum(child.age(year) < 6 for child in facts.children))
    for one in facts.people:
        old = one.born <= date(year - 64, 1, 1)
        retired = min(one.pension + one.early, 10_000 if old else 3_000)
        income -= retired + (15_000 - retired if old else 0)
    low, high, top = {2023: (3_460, 17_330, "6.4"), 2024: (3_560, 17_830, "6.2"), 2025: (3_640, 18_230, "6.0")}[year]
    taxable = max(income, D(0))
    if taxable < 100_000:
        taxable = taxable // 100 * 100 + 50 if taxable >= 100 else D(0)
    tax = dollars(_bands(taxable, (low, 3), (high, top)))
    pay = [sum(job.wages for job in one.jobs) for one in facts.people]
    two = dollars(min(D(min(pay)), D(50_000)) * 7 / 1_000) if facts.joint else D(0)
    return max(tax - two - dollars(federal.by_work * 125 / 100), D(0))


def iowa(facts, federal):
    """Iowa Code 422.5, 422.7, 422.12, 422.12B."""
    found, year, joint = federal.income, facts.year, facts.joint
    retired = D(sum(one.pension + one.early for one in facts.people if one.aged(year, 55)))
    taxable = max(federal.taken.unbounded - facts.government - found.taxed_benefits - retired, D(0))
    wide = 2 if joint else 1
    if year == 2023:
        tax = _bands(taxable, (0, "4.4"), (6_000 * wide, "4.82"), (30_000 * wide, "5.7"), (75_000 * wide, 6))
    elif year == 2024:
        tax = _bands(taxable, (0, "4.4"), (6_210 * wide, "4.82"), (31_050 * wide, "5.7"))
    else:
        tax = taxable * D("3.8") / 100
    tax = dollars(tax)
    credit = 40 * (2 if joint or facts.status == "head_of_household" else 1) + 20 * _boxes(facts) + 40 * len(facts.children)
    return max(tax - credit, D(0)) - dollars(federal.by_work * 15 / 100)


def missouri(facts, federal):
    """RSMo 143.011, 143.031, 143.121, 143.124, 143.125, 143.131, 143.141, 143.171, 143.177: a column for each spouse."""
    found, year, joint = federal.income, facts.year, facts.joint
    free_gain = max(found.gains.counted, D(0)) if year >= 2025 else D(0)
    columns = []
    for one in facts.people:
        income = D(sum(job.wages for job in one.jobs) + one.pension + one.early)
        if one.role == "taxpayer":
            income += facts.interest + facts.dividends + found.gains.counted + facts.unemployment - free_gain
        columns.append(income + (found.taxed_benefits * one.benefits / found.benefits if found.benefits else 0))
    adjusted = max(sum(dollars(column) for column in columns), D(0))
    columns = [dollars(max(column, D(0))) for column in columns]
    total = sum(columns)
    taken = _missourian_deductions(facts, federal, adjusted)
    taxable = max(adjusted - taken, D(0))
    first = D(100) if len(columns) < 2 or not total else (columns[0] * 100 / total).quantize(D(1), "ROUND_HALF_UP")
    parts = [first, 100 - first] if joint else [D(100)]
    tax = sum(_missouri_chart(year, dollars(taxable * part / 100)) for part in parts)
    return max(tax - dollars(federal.by_work * {2023: 10, 2024: 20, 2025: 20}[year] / 100), D(0))


def _missourian_deductions(facts, federal, adjusted):
    found, year, joint = federal.income, facts.year, facts.joint
    paid = max(
        federal.tax + federal.added - sum(federal.used.values()) - federal.by_work - federal.by_child - federal.out_tuition, D(0)
    )
    rate = next((rate for edge, rate in ((25_000, 35), (50_000, 25), (100_000, 15), (125_000, 5)) if adjusted <= edge), 0)
    federal_tax = min(dollars(paid * rate / 100), D(10_000 if joint else 5_000))
    listed = federal.taken.taken
    if federal.taken.itemizes:
        listed += dollars(sum((box_4(year, job) + box_6(job) for job in facts.jobs), D(0)))
    more = 1_400 if facts.status in ("head_of_household", "surviving_spouse") else 0
    benefits = found.taxed_benefits
    if year == 2023:
        benefits = max(benefits - max(adjusted - (100_000 if joint else 85_000), D(0)), D(0))
    limit = 32_000 if joint else 16_000 if facts.status == "separate" else 25_000
    over = max(adjusted - found.taxed_benefits - limit, D(0))
    pensions = max(sum(min(D(one.pension + one.early), D(6_000)) for one in facts.people) - over, D(0))
    return federal_tax + listed + more + benefits + pensions


def _missouri_chart(year, taxable):
    """Each row begins with the whole dollars of the rows before it, as the chart prints them: 24, 54, 90, 132, 180, 234 in 2023."""
    width, top = {2023: (1_207, "4.95"), 2024: (1_273, "4.8"), 2025: (1_313, "4.7")}[year]
    rates = ("2", "2.5", "3", "3.5", "4", "4.5", top)
    begun, base = width, D(0)
    for place, rate in enumerate(rates):
        end = begun + width if place < 6 else None
        if taxable <= begun:
            return D(0)
        if end is None or taxable <= end:
            return dollars(base + (taxable - begun) * D(rate) / 100)
        base += dollars(width * D(rate) / 100)
        begun = end
    raise AssertionError(taxable)


_CALIFORNIAN = {  # single or separate, head of household; a joint return has twice the first
    2023: ((10_412, 24_684, 38_959, 54_081, 68_350, 349_137, 418_961, 698_271), (20_839, 49_371, 63_644, 78_765, 93_037, 474_824, 569_790, 949_649)),
    2024: ((10_756, 25_499, 40_245, 55_866, 70_606, 360_659, 432_787, 721_314), (21_527, 51_000, 65_744, 81_364, 96_107, 490_493, 588_593, 980_987)),
    2025: (
        (11_079, 26_264, 41_452, 57_542, 72_724, 371_479, 445_771, 742_953), (22_173, 52_530, 67_716, 83_805, 98_990, 505_208, 606_251, 1_010_417),
    ),
}  # fmt: skip
# Standard deduction, credits for a person and a dependent, where they and itemized deductions begin to fall (single, head, joint)
_CALIFORNIAN_AMOUNTS = {
    2023: (5_363, 144, 446, (237_035, 355_558, 474_075)), 2024: (5_540, 149, 461, (244_857, 367_291, 489_719)),
    2025: (5_706, 153, 475, (252_203, 378_310, 504_411)),
}  # fmt: skip


def california(facts, federal):
    """R&TC 17041, 17043, 17054, 17071 to 17085, 17073.5, 17077, 17201. The earned income credit stops; it is not computed."""
    found, year, double = federal.income, facts.year, facts.status in ("joint", "surviving_spouse")
    plain, each, dependent, falls = _CALIFORNIAN_AMOUNTS[year]
    kind = 2 if double else 1 if facts.status == "head_of_household" else 0
    agi = federal.agi - found.taxed_benefits - facts.unemployment - facts.government
    listed = _californian_list(facts, federal, falls[kind])
    taxable = max(agi - max(listed, D(plain * (2 if kind else 1))), D(0))
    head = facts.status == "head_of_household"
    steps = _CALIFORNIAN[year][1 if head else 0]
    edges = (0, *(step * (2 if double else 1) for step in steps))
    at = taxable
    if taxable <= 100_000:
        at = (taxable + 49) // 100 * 100 if taxable > 50 else taxable
    tax = dollars(_bands(at, *zip(edges, (1, 2, 4, 6, 8, "9.3", "10.3", "11.3", "12.3"), strict=True)))
    lost = 6 * credits.begun(federal.agi - falls[kind], 1_250 if facts.status == "separate" else 2_500)
    persons, children = (2 if double else 1) + _boxes(facts), len(facts.children)
    credit = max(each * persons - lost * persons, D(0)) + max(dependent * children - lost * children, D(0))
    return max(tax - credit, D(0)) + dollars(max(taxable - 1_000_000, D(0)) / 100)


def _californian_list(facts, federal, edge):
    medical = max(facts.medical - dollars(max(federal.agi, D(0)) * 75 / 1_000), D(0))
    gifts = min(D(facts.given), dollars(max(federal.agi, D(0)) / 2))
    rest = facts.property_tax + facts.mortgage + gifts
    over = max(federal.agi - edge, D(0))
    return medical + rest - min(dollars(over * 6 / 100), dollars(rest * 80 / 100))


_WISCONSIN = {  # bands: single, joint, separate; falling deduction (most, from, percent): single, joint, head, separate
    2023: (
        ((13_810, 27_630, 304_170), (18_420, 36_840, 405_550), (9_210, 18_420, 202_780)),
        ((12_760, 18_400), (23_620, 26_550), (16_480, 18_400), (11_220, 12_600)),
    ),
    2024: (
        ((14_320, 28_640, 315_310), (19_090, 38_190, 420_420), (9_550, 19_090, 210_210)),
        ((13_230, 19_070), (24_490, 27_520), (17_090, 19_070), (11_630, 13_060)),
    ),
    2025: (
        ((14_680, 50_480, 323_290), (19_580, 67_300, 431_060), (9_790, 33_650, 215_530)),
        ((13_560, 19_550), (25_110, 28_210), (17_520, 19_550), (11_930, 13_390)),
    ),
}


def wisconsin(facts, federal):
    """Wis. Stat. 71.05, 71.06, 71.07."""
    found, year, joint, separate = federal.income, facts.year, facts.joint, facts.status == "separate"
    base = D(18_000 if joint else 0 if separate else 12_000)
    taxed = min(D(facts.unemployment), dollars(max(federal.agi - base, D(0)) / 2))
    income = (
        federal.agi - found.taxed_benefits - facts.government - (facts.unemployment - taxed) - dollars(found.gains.net * 30 / 100)
    )
    if federal.agi < (30_000 if joint else 15_000):
        income -= sum(min(one.pension + one.early, 5_000) for one in facts.people if one.born <= date(year - 64, 1, 1))
    bands, falling = _WISCONSIN[year]
    plain = _falling(income, *falling[0], "12")
    if joint:
        plain = _falling(income, *falling[1], "19.778")
    elif separate:
        plain = _falling(income, *falling[3], "19.778")
    elif facts.status in ("head_of_household", "surviving_spouse"):
        plain = max(plain, _falling(income, *falling[2], "22.515"))
    exempt = 700 * (len(facts.people) + len(facts.children)) + 250 * aged(facts)
    taxable = max(income - plain - exempt, D(0))
    at = taxable // 100 * 100 + 50 if 0 < taxable < 100_000 else taxable
    tax = dollars(_bands(at, *zip((0, *bands[1 if joint else 2 if separate else 0]), ("3.5", "4.4", "5.3", "7.65"), strict=True)))
    medical = max(facts.medical - dollars(max(federal.agi, D(0)) * 75 / 1_000), D(0))
    listed = dollars(
        max(medical + facts.mortgage + min(D(facts.given), dollars(max(federal.agi, D(0)) * 60 / 100)) - plain, D(0)) * 5 / 100
    )
    pay = [sum(job.wages for job in one.jobs) for one in facts.people]
    couple = dollars(D(min(*pay, 16_000)) * 3 / 100) if joint else D(0)
    by_work = dollars(federal.by_work * (0, 4, 11, 34)[min(len(facts.children), 3)] / 100)
    return max(tax - listed - couple, D(0)) - by_work


def _falling(income, most, start, percent):
    return max(most - dollars(max(income - start, D(0)) * D(percent) / 100), D(0))


YEARS = (2023, 2024, 2025)
BY_HOME = {
    "CA": california, "GA": georgia, "IA": iowa, "IL": illinois, "IN": indiana, "MO": missouri, "PA": pennsylvania, "SC": south_carolina,
    "VA": virginia, "WI": wisconsin,
}  # fmt: skip
