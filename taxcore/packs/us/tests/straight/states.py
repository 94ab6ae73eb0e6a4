"""The states a second time: one function each, from a plain household and its federal return to the tax less what is paid out.

Written from each state's statute. The households live in one state all year; the papers of other states, businesses, plans and
credits by question are left to the worked cases. Each function gives the net balance: what is owed is positive.
"""

from datetime import date
from decimal import Decimal

from taxcore.packs.us.tests.diagnosed.making import single
from taxcore.packs.us.tests.straight import credits
from taxcore.packs.us.tests.straight.deductions import aged
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
    """35 ILCS 5/201, 203, 204, 212, 212.1."""
    found = federal.income
    base = federal.agi - found.taxed_benefits - _pensions(facts) - facts.government
    each = {2023: 2_425, 2024: 2_775, 2025: 2_850}[facts.year]
    exempt = each * (len(facts.people) + len(facts.children)) + 1_000 * _boxes(facts)
    if federal.agi > (500_000 if facts.joint else 250_000):
        exempt = 0
    tax = dollars(max(max(base, D(0)) - exempt, D(0)) * 495 / 10_000)
    by_work = dollars(credits.earned(facts, found, adults=True) * 20 / 100)
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
    each = next((amount for limit, amount in ((6_000, 26), (8_000, 20), (10_000, 14), (15_000, 8), (20_000, 5)) if federal.agi < limit), 0)
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
