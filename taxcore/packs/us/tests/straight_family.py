"""Families by hand: one plain function from papers to refund, written apart from the engine, with its own amounts.

Knows wages, interest, dividends, gains and losses, Social Security benefits, one business a person, children of any age below
17, single, joint and head of household, 2022 to 2025, no state. Income stays below the threshold of the business deduction.
"""

from decimal import Decimal

from taxcore.packs.us.tests.straight_line import BASE, BASIC, MORE, dollars, hundredths, schedule, tax_on

D = Decimal
# 0% up to, 15% up to: single, joint, head of household
GAIN = {
    2022: ((41_675, 459_750), (83_350, 517_200), (55_800, 488_500)),
    2023: ((44_625, 492_300), (89_250, 553_850), (59_750, 523_050)),
    2024: ((47_025, 518_900), (94_050, 583_750), (63_000, 551_350)),
    2025: ((48_350, 533_400), (96_700, 600_050), (64_750, 566_700)),
}
# Most by children 0 to 3, phase-out begins without and with children, what a joint return has more, credit ends (not joint)
EARNED = {
    2022: ((560, 3_733, 6_164, 6_935), 9_160, 20_130, (6_130, 6_130), (16_480, 43_492, 49_399, 53_057), 10_300),
    2023: ((600, 3_995, 6_604, 7_430), 9_800, 21_560, (6_570, 6_560), (17_640, 46_560, 52_918, 56_838), 11_000),
    2024: ((632, 4_213, 6_960, 7_830), 10_330, 22_720, (6_920, 6_920), (18_591, 49_084, 55_768, 59_899), 11_600),
    2025: ((649, 4_328, 7_152, 8_046), 10_620, 23_350, (7_110, 7_120), (19_104, 50_434, 57_310, 61_555), 11_950),
}
RATES = ((D("0.0765"), D("0.0765")), (D("0.34"), D("0.1598")), (D("0.40"), D("0.2106")), (D("0.45"), D("0.2106")))
CHILD = {2022: (2_000, 1_500), 2023: (2_000, 1_600), 2024: (2_000, 1_700), 2025: (2_200, 1_700)}
KINDS = {"single": 0, "joint": 1, "head_of_household": 2}


def at_preferred_rates(year, status, taxable, preferred):
    """The worksheet's result: whatever fills the brackets first is ordinary."""
    bands = schedule(year, status)
    plain = tax_on(taxable, bands)
    special = min(preferred, taxable)
    if special <= 0:
        return plain
    zero, fifteen = (D(edge) for edge in GAIN[year][KINDS[status]])
    ordinary = taxable - special
    free = max(min(taxable, zero) - ordinary, D(0))
    middle = max(min(taxable, fifteen) - max(ordinary, zero), D(0))
    middle = min(middle, special - free)
    top = special - free - middle
    return min(tax_on(ordinary, bands) + dollars(middle * 15 / 100) + dollars(top * 20 / 100), plain)


def taxable_benefits(status, benefits, other):
    first, second = (32_000, 44_000) if status == "joint" else (25_000, 34_000)
    half = dollars(benefits / 2)
    above = max(half + other - first, D(0))
    if benefits <= 0 or above == 0:
        return D(0)
    beyond = max(above - (second - first), D(0))
    lower = min(half, dollars(min(above, D(second - first)) / 2))
    return min(lower + dollars(beyond * 85 / 100), dollars(benefits * 85 / 100))


def earned_credit(year, status, children, earned, agi, invested, of_age):
    most, alone, with_children, more, ends, limit = EARNED[year]
    if earned <= 0 or invested > limit or not (children or of_age):
        return D(0)
    n = min(children, 3)
    joint = status == "joint"
    start = (with_children if n else alone) + (more[1 if n else 0] if joint else 0)
    end = ends[n] + (more[1 if n else 0] if joint else 0)
    up, down = RATES[n]

    def at(income):
        if income <= 0 or income >= end:
            return D(0)
        low = income // 50 * 50
        middle = (low + min(low + 50, D(end))) / 2
        return max(dollars(min(middle * up, D(most[n]), most[n] - max(middle - start, D(0)) * down)), D(0))

    return min(at(earned), at(agi)) if agi >= start else at(earned)


def family_by_hand(year, status, wages, profits, interest, dividends, qualified, gain, loss, benefits, children, aged, withheld):
    """{address: amount}. `wages` and `profits` are one amount for each person, `aged` how many are 65 or older."""
    net = [dollars(p * D("0.9235")) if p > 0 else p for p in profits]
    taxed = [n if n >= 400 else D(0) for n in net]
    room = [max(BASE[year] - min(w, BASE[year]), D(0)) for w in wages]
    each = [dollars(min(t, r) * D("0.124")) + dollars(t * D("0.029")) for t, r in zip(taxed, room, strict=True)]
    half = [dollars(t / 2) for t in each]
    gains = gain - loss
    counted = max(gains, D(-3_000))
    before = sum(wages) + interest + dividends + counted + sum(profits)
    taxable_part = taxable_benefits(status, benefits, max(before - sum(half), D(0) - dollars(benefits / 2)))
    agi = before + taxable_part - sum(half)
    kind = "head_of_household" if status == "head_of_household" else "single"
    standard = D(BASIC[year][kind] * (2 if status == "joint" else 1) + aged * MORE[year][1 if status == "joint" else 0])
    senior = D(0)
    if year >= 2025 and aged:
        over = max(agi - (150_000 if status == "joint" else 75_000), D(0))
        senior = aged * max(D(6_000) - dollars(over * 6 / 100), D(0))
    preferred = qualified + max(min(gain - loss, gain), D(0))
    room_for_business = max(agi - standard - senior, D(0))
    qualified_income = max(sum(p - h for p, h in zip(profits, half, strict=True)), D(0))
    business = D(0)
    if any(profits):
        business = min(dollars(qualified_income / 5), dollars(max(room_for_business - preferred, D(0)) / 5))
    taxable = max(agi - standard - senior - business, D(0))
    tax = at_preferred_rates(year, status, taxable, preferred)
    threshold = 400_000 if status == "joint" else 200_000
    over = max(agi - threshold, D(0))
    begun = -(-over // 1_000) if over % 1_000 == 0 else over // 1_000 + 1
    credit = max(D(CHILD[year][0] * children) - begun * 50, D(0))
    used = min(credit, tax)
    earned = sum(wages) + sum(p - h for p, h in zip(profits, half, strict=True))
    invested = interest + dividends + max(counted, D(0))
    eic = earned_credit(year, status, children, earned, agi, invested, of_age=aged < len(wages))
    insured = [hundredths(min(w, BASE[year]) * D("0.062")) + hundredths(w * D("0.0145")) for w in wages]
    fica = dollars(sum(insured, D(0)))
    by_pay = dollars(max(earned - 2_500, D(0)) * 15 / 100)
    if children >= 3:
        by_pay = max(by_pay, max(fica + sum(half) - eic, D(0)))
    paid_out = min(credit - used, D(CHILD[year][1] * children), by_pay) if children else D(0)
    medicare_limit = 250_000 if status == "joint" else 200_000
    over_wages = max(sum(wages) - medicare_limit, D(0))
    over_profit = max(sum(taxed) - max(medicare_limit - sum(wages), D(0)), D(0))
    medicare = dollars(over_wages * 9 / 1_000) + dollars(over_profit * 9 / 1_000)
    invested_net = max(interest + dividends + counted, D(0))
    surtax = dollars(min(invested_net, max(agi - medicare_limit, D(0))) * 38 / 1_000)
    others = sum(each) + medicare + surtax
    total_tax = tax - used + others
    return {
        "us.1040.6b": taxable_part,
        "us.1040.11a" if year >= 2025 else "us.1040.11": agi,
        "us.1040.13a" if year >= 2025 else "us.1040.13": business,
        "us.1040.15": taxable,
        "us.1040.16": tax,
        "us.1040.19": used,
        "us.1040.23": others,
        "us.1040.24": total_tax,
        "us.1040.27a" if year >= 2025 else "us.1040.27": eic,
        "us.1040.28": paid_out,
        "us.1040.34": max(withheld + eic + paid_out - total_tax, D(0)),
        "us.1040.37": max(total_tax - withheld - eic - paid_out, D(0)),
    }
