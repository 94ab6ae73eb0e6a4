"""The same return by hand: one plain function from papers to refund, with its own amounts, written apart from the engine.

For cross-checks over generated returns and as the yardstick of the bench. Knows wages, interest, one or two people, 2022 to
2025, Illinois for the whole year; nothing that stops filing.
"""

from decimal import ROUND_HALF_UP, Decimal

D = Decimal
SINGLE = {
    2022: [(0, 10), (10_275, 12), (41_775, 22), (89_075, 24), (170_050, 32), (215_950, 35), (539_900, 37)],
    2023: [(0, 10), (11_000, 12), (44_725, 22), (95_375, 24), (182_100, 32), (231_250, 35), (578_125, 37)],
    2024: [(0, 10), (11_600, 12), (47_150, 22), (100_525, 24), (191_950, 32), (243_725, 35), (609_350, 37)],
    2025: [(0, 10), (11_925, 12), (48_475, 22), (103_350, 24), (197_300, 32), (250_525, 35), (626_350, 37)],
    2026: [(0, 10), (12_400, 12), (50_400, 22), (105_700, 24), (201_775, 32), (256_225, 35), (640_600, 37)],
}
TOP_SEPARATE = {2022: 323_925, 2023: 346_875, 2024: 365_600, 2025: 375_800, 2026: 384_350}
TOP_JOINT = {2022: 647_850, 2023: 693_750, 2024: 731_200, 2025: 751_600, 2026: 768_700}
HEAD = {
    2022: [(0, 10), (14_650, 12), (55_900, 22), (89_050, 24), (170_050, 32), (215_950, 35), (539_900, 37)],
    2023: [(0, 10), (15_700, 12), (59_850, 22), (95_350, 24), (182_100, 32), (231_250, 35), (578_100, 37)],
    2024: [(0, 10), (16_550, 12), (63_100, 22), (100_500, 24), (191_950, 32), (243_700, 35), (609_350, 37)],
    2025: [(0, 10), (17_000, 12), (64_850, 22), (103_350, 24), (197_300, 32), (250_500, 35), (626_350, 37)],
    2026: [(0, 10), (17_700, 12), (67_450, 22), (105_700, 24), (201_750, 32), (256_200, 35), (640_600, 37)],
}
BASIC = {
    2022: {"single": 12_950, "head_of_household": 19_400},
    2023: {"single": 13_850, "head_of_household": 20_800},
    2024: {"single": 14_600, "head_of_household": 21_900},
    2025: {"single": 15_750, "head_of_household": 23_625},
    2026: {"single": 16_100, "head_of_household": 24_150},
}
MORE = {2022: (1_750, 1_400), 2023: (1_850, 1_500), 2024: (1_950, 1_550), 2025: (2_000, 1_600), 2026: (2_050, 1_650)}
EXEMPTION = {2022: 2_425, 2023: 2_425, 2024: 2_775, 2025: 2_850}
LEAST = {2022: (1_150, 400), 2023: (1_250, 400), 2024: (1_300, 450), 2025: (1_350, 450)}
BASE = {2022: 147_000, 2023: 160_200, 2024: 168_600, 2025: 176_100, 2026: 184_500}
# Earned income credit without children: most, start single, start joint, end single, end joint, investment income
EARNED = {
    2022: (560, 9_160, 15_290, 16_480, 22_610, 10_300),
    2023: (600, 9_800, 16_370, 17_640, 24_210, 11_000),
    2024: (632, 10_330, 17_250, 18_591, 25_511, 11_600),
    2025: (649, 10_620, 17_730, 19_104, 26_214, 11_950),
}


def dollars(amount):
    return amount.quantize(D(1), ROUND_HALF_UP)


def schedule(year, status):
    if status == "head_of_household":
        return HEAD[year]
    single = SINGLE[year]
    if status == "separate":
        return [*single[:-1], (TOP_SEPARATE[year], 37)]
    if status in ("joint", "surviving_spouse"):
        return [(edge * 2, rate) for edge, rate in single[:-1]] + [(TOP_JOINT[year], 37)]
    return single


def tax_on(taxable, bands):
    if taxable < 100_000:
        if taxable < 5:
            return D(0)
        width = 10 if taxable < 25 else 25 if taxable < 3_000 else 50
        start = (taxable - 5) // 10 * 10 + 5 if taxable < 25 else taxable // width * width
        taxable = start + D(width) / 2
    owed, above = D(0), taxable
    for edge, rate in reversed(bands):
        if above > edge:
            owed += (above - edge) * rate / 100
            above = D(edge)
    return dollars(owed)


def hundredths(amount):
    return amount.quantize(D("0.01"), ROUND_HALF_UP)


def earned_credit(year, status, filers, wages, agi, invested):
    most, start, start_joint, end, end_joint, limit = EARNED[year]
    start, end = (start_joint, end_joint) if status == "joint" else (start, end)
    born = [v["birth_date"] for v in filers]
    of_age = any(f"{year - 64}-01-02" <= day and day <= f"{year - 24}-01-01" for day in born)
    if wages <= 0 or status == "separate" or invested > limit or not of_age:
        return D(0)
    if any(v.get("claimed_by_other") == "yes" for v in filers):
        return D(0)

    def at(income):
        if income >= end or income <= 0:
            return D(0)
        low = income // 50 * 50
        middle = (low + min(low + 50, end)) / D(2)
        credit = min(middle * D("0.0765"), D(most)) - max(middle - start, D(0)) * D("0.0765")
        return max(dollars(min(credit, D(most) - max(middle - start, D(0)) * D("0.0765"))), D(0))

    return min(at(wages), at(agi)) if agi >= start else at(wages)


def state_tax_deducted(year, status, agi, papers):
    """Withheld for states, up to the cap: the only thing these returns could itemize."""
    withheld = dollars(sum((D(row.get("withheld") or 0) for p in papers for row in p.get("states", [])), D(0)))
    half = 2 if status == "separate" else 1
    cap = D(10_000) / half
    if year >= 2025:
        cap = max(D(40_000) / half - D("0.3") * max(agi - D(500_000) / half, D(0)), cap)
    return min(withheld, dollars(cap))


def high_income(year, status, papers, agi, taxable_interest):
    """(other taxes, withheld of them, excess Social Security) for statements that all belong to one person."""
    threshold = 250_000 if status == "joint" else 125_000 if status == "separate" else 200_000
    pay = [D(paper["wages"]) for paper in papers]
    insured = dollars(sum(pay, D(0)))
    medicare = dollars(max(insured - threshold, D(0)) * 9 / 1000)
    box_6 = [hundredths(p * 145 / 10_000 + max(p - 200_000, D(0)) * 9 / 1000) for p in pay]
    above = max(dollars(sum(box_6, D(0))) - dollars(insured * 145 / 10_000), D(0))
    withheld = above if medicare or above > 1 else D(0)
    invested = 250_000 if status in ("joint", "surviving_spouse") else threshold
    surtax = dollars(min(taxable_interest, max(agi - invested, D(0))) * 38 / 1000)
    most = BASE[year] * 62 / D(1000)
    box_4 = [hundredths(min(p, D(BASE[year])) * 62 / 1000) for p in pay]
    too_much = dollars(max(sum((min(b, most) for b in box_4), D(0)) - most, D(0))) if len(pay) > 1 else D(0)
    return medicare + surtax, withheld, too_much


def _elderly(status, aged, agi):
    """IRC 22, without benefits or pensions; spouses who file separately lived together."""
    if not aged or status == "separate":
        return D(0)
    base = (7_500 if aged > 1 else 5_000) - dollars(max(agi - (10_000 if status == "joint" else 7_500), D(0)) / 2)
    return dollars(max(base, D(0)) * 15 / 100)


def by_hand(data):
    """{address: amount} of the lines that matter."""
    values = [(paper.kind, paper.values) for paper in data.papers]
    filing = next(v for kind, v in values if kind == "filing")
    status, year = filing["status"], data.year
    roles = ("taxpayer", "spouse") if status == "joint" else ("taxpayer",)
    filers = [v for kind, v in values if kind == "person" and v["role"] in roles]
    w2s = [v for kind, v in values if kind == "w2"]
    slips = [v for kind, v in values if kind == "1099-int"]
    get = lambda rows, name: dollars(sum((D(row.get(name) or 0) for row in rows), D(0)))  # noqa: E731
    wages = get(w2s, "wages")
    taxable_interest = dollars(sum((D(s.get("interest") or 0) + D(s.get("government_interest") or 0) for s in slips), D(0)))
    agi = wages + taxable_interest - get(slips, "early_withdrawal")
    aged = [v["birth_date"] <= f"{year - 64}-01-01" for v in filers]
    boxes = sum(aged) + sum(v.get("blind") == "yes" for v in filers)
    married = status in ("joint", "separate", "surviving_spouse")
    kind = "head_of_household" if status == "head_of_household" else "single"
    basic = D(BASIC[year][kind] * (2 if status in ("joint", "surviving_spouse") else 1))
    if any(v.get("claimed_by_other") == "yes" for v in filers):
        least, added = LEAST[year]
        basic = min(basic, max(D(least), wages + added))
    standard = basic + boxes * MORE[year][1 if married else 0]
    deduction = max(standard, state_tax_deducted(year, status, agi, [*w2s, *slips]))
    senior = D(0)
    if year >= 2025 and status != "separate":
        limit = 150_000 if status == "joint" else 75_000
        each = max(D(6_000) - dollars(max(agi - limit, D(0)) * 6 / 100), D(0))
        senior = each * sum(aged)
    taxable = max(agi - deduction - senior, D(0))
    tax = tax_on(taxable, schedule(year, status))
    others, withheld_too, too_much = high_income(year, status, w2s, agi, taxable_interest)
    exempt_interest = get(slips, "exempt_interest")
    credit = earned_credit(year, status, filers, wages, agi, taxable_interest + exempt_interest)
    paid = get(w2s, "federal_withheld") + get(slips, "withheld") + withheld_too + credit + too_much
    owed = tax - min(_elderly(status, sum(aged), agi), tax) + others
    state_agi = max(agi + get(slips, "exempt_interest") - get(slips, "government_interest"), D(0))
    within = agi <= (500_000 if status == "joint" else 250_000)
    dependants_keep = state_agi <= EXEMPTION[year]
    own = sum(1 for v in filers if v.get("claimed_by_other") != "yes" or dependants_keep)
    exempt = (own * EXEMPTION[year] + 1_000 * boxes) if within else 0
    state_tax = dollars(max(state_agi - exempt, D(0)) * 495 / 10_000)
    rows = [row for paper in (*w2s, *slips) for row in paper.get("states", []) if row.get("state") == "IL"]
    state_paid = get(rows, "withheld") + dollars(credit * (18 if year == 2022 else 20) / 100)
    return {
        "us.1040.11a" if year >= 2025 else "us.1040.11": agi,
        "us.1040.15": taxable,
        "us.1040.16": tax,
        "us.1040.33": paid,
        "us.1040.23": others,
        "us.1040.34": max(paid - owed, D(0)),
        "us.1040.37": max(owed - paid, D(0)),
        "us-il.il-1040.11": max(state_agi - exempt, D(0)),
        "us-il.il-1040.23": state_tax,
        f"us-il.il-1040.{38 if year >= 2024 else 37}": max(state_paid - state_tax, D(0)),
        f"us-il.il-1040.{41 if year >= 2024 else 40}": max(state_tax - state_paid, D(0)),
    }
