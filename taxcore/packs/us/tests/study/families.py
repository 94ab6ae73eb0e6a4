"""Made-up families whose returns are right, each with the year before: the same papers at a slightly lower level."""

from dataclasses import replace
from decimal import Decimal

from taxcore.engine import Amount, PaperValues, ReturnData, compute, last_year_of
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import ADDRESS

_LOWER = Decimal("0.96")
_CENT = Decimal("0.01")
_SOCIAL, _MEDICARE = Decimal("0.062"), Decimal("0.0145")


def paper(kind, key, values):
    return PaperValues(kind if PACK.paper(kind).single else key, kind, values)


def somebody(role="taxpayer", first="Maren", born="1980-06-15", number=None, **values):
    numbers = {"taxpayer": "912-04-3371", "spouse": "913-22-8046"}
    base = {"role": role, "first_name": first, "last_name": "Quist", "birth_date": born, "number": number or numbers[role],
            "occupation": "Miller", "email": f"{first.lower()}@quist.example"}  # fmt: skip
    return PaperValues(role, "person", base | values)


def dependant(key, first, born, **values):
    base = {"role": "dependant", "first_name": first, "last_name": "Quist", "number": f"914-33-000{key[-1]}", "birth_date": born,
            "relationship": "child", "months_at_home": "12", "resident": "yes"}  # fmt: skip
    return PaperValues(key, "person", base | values)


def filing(status="single", **values):
    return PaperValues("filing", "filing", {"status": status, "residence": "IL", "digital_assets": "no", **ADDRESS} | values)


def wages(key, employer, amount, withheld, owner="taxpayer", number="00-7140362", codes=(), **values):
    """A W-2 with every box entered as the paper has it."""
    deferred = sum((Decimal(a) for code, a in codes if code in ("D", "E")), Decimal(0))
    insured = Decimal(amount) + deferred
    row = {
        "id": "1",
        "state": "IL",
        "state_number": "0071-4036",
        "wages": amount,
        "withheld": _cents(Decimal(amount) * Decimal("0.0495")),
    }
    base = {
        "owner": owner, "employer": employer, "employer_number": number, "employer_street": "4 Slipway", "employer_city": "Savanna",
        "employer_state": "IL", "employer_zip": "61074", "wages": amount, "federal_withheld": withheld,
        "social_security_wages": str(insured), "social_security_withheld": _cents(insured * _SOCIAL),
        "medicare_wages": str(insured), "medicare_withheld": _cents(insured * _MEDICARE), "states": [row],
        "codes": [{"id": str(n), "code": code, "amount": a} for n, (code, a) in enumerate(codes, 1)],
        **({"retirement_plan": "yes"} if deferred else {}),
    }  # fmt: skip
    return paper("w2", key, base | values)


def _cents(amount):
    return str(amount.quantize(_CENT))


def from_payer(kind, key, payer, owner="taxpayer", number="00-3344556", **values):
    return paper(kind, key, {"owner": owner, "payer": payer, "payer_number": number} | values)


def answers(*, checklist=(), student="", asked=()):
    """What every clean return has: deposit, use tax, and the checklist where a benefit needs it."""
    found = [
        paper("deposit", "", {"routing": "138150000", "account": "44710092", "account_kind": "checking"}),
        paper("il-questions", "", {"use_tax": "0"}),
    ]
    if checklist or student or asked:
        who = {"asked": "Maren Quist", "asked_on": "2026-02-03", "manner": "person"}
        yes = ("own_information", "worksheets", "knowledge", "records", "substantiation", "certified", *asked)
        found.append(paper("diligence", "", who | dict.fromkeys(yes, "yes") | {"inconsistent": "no", "disallowed": "no"}))
        of_child = (
            "dependant",
            "absence_explained",
            "release_explained",
            *(("lived_here", "tie_explained") if "eitc_eligible" in asked else ()),
        )
        found += [paper("diligence-child", f"q{key}", who | {"child": key} | dict.fromkeys(of_child, "yes")) for key in checklist]
        if student:
            found.append(paper("diligence-student", "qs", who | {"student": student, "substantiated": "yes"}))
    return found


def books(**values):
    base = {
        "owner": "taxpayer", "business_name": "Quist Millwork", "activity": "Millwork", "code": "238350", "method": "cash",
        "participates": "yes", "must_report": "no", "receipts": "64210.55", "supplies": "9120.40", "insurance": "1840.10",
        "office": "611.25", "professional": "780.90", "utilities": "1312.66", "health_insurance": "6412.80", "miles": "4210",
        "commuting_miles": "0", "other_miles": "7120", "car_method": "miles", "car_placed": "2021-03-01", "car_evidence": "yes",
    }  # fmt: skip
    return paper("business", "b1", base | values)


def couple(*children):
    return [somebody(), somebody("spouse", "Odile", "1982-11-02"), *children]


_TWO = (dependant("d1", "Wren", "2016-04-01"), dependant("d2", "Tobias", "2018-09-09"))
_CREDITS = {"checklist": ("d1", "d2")}


def kittiwake(amount="61480.00", withheld="5812.00", **more):
    return wages("w1", "Kittiwake Boatworks", amount, withheld, **more)


def letterpress(amount="38905.00", withheld="3200.00", **more):
    return wages("w2", "Sandbar Letterpress", amount, withheld, "spouse", "00-5520917", **more)


def _bank(amount="412.16", owner="taxpayer", **more):
    return from_payer("1099-int", "i1", "River Bend Savings", owner, interest=amount, **more)


def _fund(owner="taxpayer", **more):
    return from_payer(
        "1099-div", "v1", "Heron Fund", owner, "00-9911223", **{"dividends": "1912.40", "qualified": "1610.22"} | more
    )


def _sold(**more):
    row = {"id": "1", "box": "D", "description": "Alder Freight", "acquired": "02/11/2019", "sold": "2025-05-05",
           "proceeds": "8210.40", "basis": "6980.10"}  # fmt: skip
    return from_payer("1099-b", "s1", "Sandbar Brokers", number="00-6677889", sales=[row | more])


def _mortgage(**more):
    base = {"owner": "taxpayer", "lender": "Lock Street Bank", "interest": "11210.18", "principal": "241000.00", "origin": "2019-06-01",
            "property_tax": "6120.40", "use": "main"}  # fmt: skip
    return paper("1098", "m1", base | more)


def _nursery():
    rows = [{"id": "1", "person": "d1", "amount": "4200.00"}, {"id": "2", "person": "d2", "amount": "5110.00"}]
    return paper(
        "care",
        "n1",
        {"provider": "Willow Nursery", "provider_address": "3 Dock Road, Galena IL", "number": "00-1122334", "costs": rows},
    )


def _pension(**more):
    return from_payer("1099-r", "r1", "River Pilots Pension", number="00-8833221", **{"gross": "24110.00", "taxable": "24110.00", "code": "7",
                      "ira": "no", "withheld": "2900.00"} | more)  # fmt: skip


def _benefits(key="b1", owner="taxpayer", amount="21860.00"):
    return paper("ssa-1099", key, {"owner": owner, "paid": amount, "repaid": "0", "net": amount, "withheld": "1530.20",
                                    "medicare_premiums": "2220.00"})  # fmt: skip


_AGED = [somebody(born="1953-05-05", occupation="Retired"), somebody("spouse", "Odile", "1955-07-07", occupation="Retired")]
_YOUNG = somebody(born="2004-08-08", claimed_by_other="no", student="yes", earns_own_support="yes")

FAMILIES = {
    "one employer": [somebody(), filing(), kittiwake(), _bank(), *answers()],
    "two employers": [somebody(), filing(), kittiwake(), wages("w2", "Upper River Gauges", "14210.00", "1100.00", number="00-4412089"), *answers()],
    "two earners, two children": [*couple(*_TWO), filing("joint"), kittiwake(codes=(("D", "3200.00"), ("DD", "9120.00"))), letterpress(),
                                  _bank(owner="joint"), _nursery(), *answers(**_CREDITS)],
    "two earners, no children": [*couple(), filing("joint"), kittiwake(codes=(("D", "6000.00"),)), letterpress(codes=(("D", "2400.00"),)), *answers()],
    "a parent alone": [somebody(), dependant("d1", "Wren", "2016-04-01"), filing("head_of_household", kept_home="yes"),
                       kittiwake("27480.00", "900.00"), *answers(checklist=("d1",), asked=("eitc_eligible", "head_eligible"))],
    "retired": [*_AGED, filing("joint"), _pension(), _benefits(), _benefits("b2", "spouse", "14210.00"), _bank(owner="joint"), *answers()],
    "retired with an IRA": [_AGED[0], filing(), _benefits(), from_payer("1099-r", "r1", "Heron Trust IRA", number="00-8833229", gross="14000.00",
                            taxable="14000.00", code="7", ira="yes", withheld="1400.00"),
                            paper("ira", "x1", {"owner": "taxpayer", "value_at_end": "210000.00", "basis_before": "0"}), *answers()],
    "own business": [somebody(), filing(), books(), from_payer("1099-nec", "n1", "Pier Contracting", pay="12110.00", business="b1"),
                     paper("estimates", "", {"rows": [{"id": str(n), "paid": day, "amount": "2400.00"} for n, day in enumerate(
                         ("2025-04-15", "2025-06-16", "2025-09-15", "2026-01-15"), 1)]}), *answers()],
    "business with an office": [somebody(), filing(), books(home_method="simplified", home_area="180"), kittiwake("41480.00", "5400.00"), *answers()],
    "investor": [somebody(), filing(), kittiwake(), _fund(), _sold(), _bank("1120.18"), *answers()],
    "loss carried over from last year": [somebody(), filing(), kittiwake(), _sold(basis="15310.00"), *answers()],
    "itemises": [*couple(), filing("joint"), kittiwake("98480.00", "11900.00"), letterpress(), _mortgage(owner="joint", interest="18210.18"),
                 paper("gift", "g1", {"owner": "joint", "charity": "Lamplighters", "gift_kind": "cash", "amount": "6210.00", "acknowledged": "yes"}), *answers()],
    "student": [_YOUNG, filing(), kittiwake("21480.00", "1500.00"), paper("1098-t", "t1", {"payer": "Galena College", "payer_number": "00-2244668",
                "student": "taxpayer", "paid": "5210.00", "scholarships": "0", "half_time": "yes", "years_claimed": "1", "books": "410.00"}), *answers(student="taxpayer")],
    "student at home": [*couple(dependant("d1", "Wren", "2005-04-01", student="yes")), filing("joint"), kittiwake(), letterpress(),
                        paper("1098-t", "t1", {"payer": "Galena College", "payer_number": "00-2244668", "student": "d1", "paid": "7210.00",
                        "scholarships": "0", "half_time": "yes", "years_claimed": "2", "books": "640.00"}),
                        *answers(checklist=("d1",), student="d1")],
    "health savings": [somebody(), filing(), kittiwake(codes=(("W", "900.00"),)), paper("hsa", "h1", {"owner": "taxpayer", "paid_in": "2400.00",
                       "coverage": [{"id": "1", "kind": "alone", "first": "1", "last": "12"}]}),
                       from_payer("1099-sa", "a1", "Weir Savings", account_kind="hsa", gross="611.40", medical="611.40", code="1"), *answers()],
    "marketplace": [somebody(), filing(), kittiwake("31480.00", "2100.00"), paper("1095-a", "m1", {"marketplace": "Illinois", "policy": "88121",
                    "months": [{"id": "1", "first": "1", "last": "12", "premium": "412.00", "benchmark": "430.00", "advance": "240.00"}]}), *answers()],
    "S corporation": [somebody(), filing(), wages("w1", "Weir Works Inc", "58000.00", "7900.00", number="00-4455669"),
                      paper("k1-1120s", "k1", {"owner": "taxpayer", "entity": "Weir Works Inc", "entity_number": "00-4455669", "participates": "yes",
                      "ordinary": "31210.00", "qualified_income": "31210.00", "qualified_wages": "58000.00", "all_at_risk": "yes"}), *answers()],
    "partner": [somebody(), filing(), kittiwake("70480.00", "14900.00"), paper("k1-1065", "k1", {"owner": "taxpayer", "entity": "Quay Partners",
                "entity_number": "00-4455668", "participates": "yes", "ordinary": "18210.00", "self_employment": "18210.00",
                "qualified_income": "18210.00", "all_at_risk": "yes", "interest": "112.00"}), *answers()],
    "teacher": [somebody(occupation="Teacher"), filing(), kittiwake(), paper("adjustments", "x1", {"owner": "taxpayer", "educator": "280.00"}),
                paper("1098-e", "l1", {"owner": "taxpayer", "lender": "Lock Student Loans", "interest": "1210.44"}), *answers()],
    "unemployed for a while": [somebody(), filing(), kittiwake("38210.00", "3100.00"),
                               from_payer("1099-g", "g1", "State of Illinois", unemployment="6120.00", withheld="612.00"), *answers()],
    "parent supported": [somebody(), dependant("d1", "Greta", "1948-04-01", relationship="parent", months_at_home="0", supported="yes",
                         gross_income="0", disabled="no"), filing(), kittiwake(), *answers(checklist=("d1",))],
    "files separately": [somebody(), filing("separate", spouse_name="Odile Quist", spouse_number="913-22-8046", spouse_itemises="no"), kittiwake(), *answers()],
    "foreign tax": [somebody(), filing(), kittiwake(), _fund(foreign_tax="88.20", foreign_income="610.00"), *answers()],
    "works in two states": [somebody(), filing(), kittiwake(states=[
        {"id": "1", "state": "IL", "state_number": "0071-4036", "wages": "41480.00", "withheld": "2053.26"},
        {"id": "2", "state": "TX", "state_number": "", "wages": "20000.00", "withheld": "0"}]), *answers()],
    "savings and IRA": [somebody(), filing(), kittiwake(), _bank("2210.60"), paper("ira", "x1", {"owner": "taxpayer", "roth": "4000.00",
                        "roth_basis": "22000.00"}), *answers()],
}  # fmt: skip


_OF_THE_YEAR = ("home-sale", "installment")  # last year had none
_NOT_YET = {"asset": ("sold", "sold_for", "costs"), "rental": ("disposed",), "adoption": ("final_in",)}


def _earlier(paper):
    """The paper a year before: amounts a little lower, everything else the same; what was sold or made final was not yet."""
    fields, gone = PACK.by_kind[paper.kind].fields(), _NOT_YET.get(paper.kind, ())
    kept = {name: value for name, value in paper.values.items() if name not in gone}
    return replace(paper, values={name: _lower(fields.get(name), value) for name, value in kept.items()})


def _lower(field, value):
    if isinstance(field, Amount) and not field.kept and value not in (None, ""):
        return _cents(Decimal(value) * _LOWER)
    if isinstance(value, list):
        inner = field.row.fields()
        return [{name: _earlier_in_row(inner.get(name), name, one) for name, one in row.items()} for row in value]
    return value


def _earlier_in_row(field, name, value):
    if name in ("sold", "paid"):
        return str(int(value[:4]) - 1) + value[4:]
    return _lower(field, value)


def _with_what_waited(one, lines):
    """A property with the depreciation that last year left of a home that is also let."""
    left = lines.get(f"us.sch-e-part-i[{one.id}]:depreciation_left")
    return replace(one, values={**one.values, "home_depreciation_before": str(left)}) if left else one


def every():
    """{name: papers} of all families."""
    from taxcore.packs.us.tests.study.owners import OWNERS

    return FAMILIES | OWNERS


def clean(name):
    """A family's return, right as far as anybody can see, with last year's papers and lines; what is carried over from last year agrees."""
    papers = every()[name]
    there = (paper for paper in papers if paper.kind not in _OF_THE_YEAR)
    before = compute(PACK, ReturnData("us", 2024, tuple(map(_earlier, there)), training=True))
    last_year = last_year_of(before)
    lines = last_year.lines
    agi = lines["us.1040:adjusted_gross_income"]
    carried = [paper("prior-year", "", {"adjusted_gross_income": str(agi), "tax": str(lines["us.2210:tax"])})]
    if any(paper_.kind == "rental" for paper_ in papers):
        papers = [_with_what_waited(one, lines) for one in papers]
    if left := lines.get("us.capital-loss-carryover:long_carried"):
        carried.append(paper("capital-carryover", "", {"long_term": str(left)}))
    return ReturnData("us", 2025, (*papers, *carried), training=True, last_year=last_year)
