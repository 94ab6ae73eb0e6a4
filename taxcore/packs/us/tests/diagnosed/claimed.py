"""Benefits that might be claimed, claims and their forms, what changes next year."""

from taxcore.packs.us.tests.diagnosed.making import (
    care,
    gift,
    nursery,
    older,
    one,
    paper,
    pension,
    policy,
    rows,
    single,
    tuition,
    wage,
)
from taxcore.packs.us.tests.diagnosed.paid import mortgage
from taxcore.packs.us.tests.returns import child, filing, interest, person, result


def parents(*papers, born="2018-05-05", **options):
    return lambda: result(person(), person("spouse"), child("d1", born=born), filing("joint"), *papers, **options)


def with_child(*papers, **values):
    return one(person(), child(**values), *papers)


def itemised(**values):
    return single("itemized", choice="itemise", **values)


def things(**values):
    asked = {"description": "Coats", "given": "2025-05-05", "acquired": "2020", "how_acquired": "bought", "method": "shop"}
    return paper("gift", **{"charity": "Lamplighters", "gift_kind": "property", "amount": "900"} | asked | values)


def carried_gift(year):
    return single("gift-carryover", rows=rows({"from_year": str(year), "gift_kind": "cash", "amount": "5"}))


_BOTH = (wage(), wage(key="w2", owner="spouse"))

CASES = [
    ("us.care.not-asked", parents(*_BOTH), parents(*_BOTH, care("d1"))),
    ("us.education.dependent-not-asked", with_child(born="2006-01-05", student="yes"), with_child(tuition(student="d1"), born="2006-01-05", student="yes")),
    ("us.education.filer-not-asked", one(person(student="yes")), one(person(student="yes"), tuition())),
    ("us.dependent.months-short", with_child(months_at_home="6"), with_child(months_at_home="7")),
    ("us.dependent.student-open", with_child(born="2003-01-05"), with_child(born="2003-01-05", student="yes")),
    ("us.dependent.disabled-not-asked", with_child(born="1999-01-05", supported="yes"), with_child(born="1999-01-05", supported="yes", disabled="no")),
    ("us.eitc.denied", with_child(wage(20_000), interest("12000")), with_child(wage(20_000), interest("11000"))),
    ("us.person.claimed-open", one(older("2003-01-05")), one(older("2003-01-05", claimed_by_other="no"))),
    ("us.filing.head-possible", with_child(), one(person(), child(), filing("head_of_household", kept_home="yes"))),
    ("us.filing.joint-possible", lambda: result(person(), person("spouse", death_date="2025-05-05"), filing()),
     lambda: result(person(), person("spouse", death_date="2025-05-05"), filing("joint"))),
    ("us.filing.apart-costs", one(filing("separate"), tuition()), one(filing("separate"))),
    ("us.filing.spouse-itemizes-open", one(filing("separate")), one(filing("separate", spouse_itemises="no"))),
    ("us.property-tax.missing", one(mortgage(), itemised()), one(mortgage(property_tax="900"), itemised())),
    ("us.itemized.near", one(single("itemized", property_tax="15000")), one(single("itemized", property_tax="14000"))),
    ("us.sales-tax.not-asked", one(filing(residence="TX", state="TX"), itemised(property_tax="20000")),
     one(filing(residence="TX", state="TX"), itemised(property_tax="20000", sales_tax="900"))),
    ("us.salt.capped", one(itemised(property_tax="40001")), one(itemised(property_tax="40000"))),
    ("us.medical.below-floor", one(wage(), itemised(medical="3750")), one(wage(), itemised(medical="3751"))),
    ("us.itemized.choice-costs", one(itemised()), one(single("itemized", medical="5"))),
    ("us.gift.from-ira", one(older("1950-01-05"), pension(ira="yes"), gift("90")), one(older("1950-01-05"), pension(ira="yes", charity="90"), gift("90"))),
    ("us.gift.description-missing", one(things(method="")), one(things())),
    ("us.gift.cost-above-value", one(things(gift_kind="gain", cost="901")), one(things(gift_kind="gain", cost="900"))),
    ("us.gift.things-large", one(things(amount="5000")), one(things(amount="4999"))),
    ("us.gift-carryover.left", one(wage(), itemised(), gift("40000")), one(wage(), itemised(), gift("30000"))),
    ("us.gift-carryover.expires", one(carried_gift(2020)), one(carried_gift(2021))),
    ("us.gift-carryover.too-old", one(carried_gift(2019)), one(carried_gift(2020))),
    ("us.educator.not-asked", one(person(occupation="Teacher"), wage()), one(person(occupation="Teacher"), wage(), paper("adjustments", educator="90"))),
    ("us.student-loan.above-most", one(paper("1098-e", interest="2501")), one(paper("1098-e", interest="2500"))),
    ("us.educator.above-limit", one(paper("adjustments", educator="301")), one(paper("adjustments", educator="300"))),
    ("us.alimony.agreement-open", one(paper("other-income", alimony="5")), one(paper("other-income", alimony="5", alimony_since="2015-01-01"))),
    ("us.early-withdrawal.kept", one(interest("120", early_withdrawal="110")), one(interest("120", early_withdrawal="105"))),
    # claims
    ("us.1098-t.years-open", one(wage(), tuition()), one(wage(), tuition(years_claimed="1"))),
    ("us.1098-t.aid-above-costs", one(tuition(scholarships="4001")), one(tuition(scholarships="4000"))),
    ("us.1098-t.tax-the-scholarship", one(tuition(scholarships="2100")), one(tuition(scholarships="2100", taxed_scholarship="2100"))),
    ("us.1098-t.choice", one(tuition(credit="lifetime")), one(tuition(credit="better"))),
    ("us.8863.income-too-high", one(wage(90_000), tuition()), one(wage(89_000), tuition())),
    ("us.1098-t.grown-old", one(older("1994-01-05"), tuition()), one(older("1995-01-05"), tuition())),
    ("us.1098-t.books-not-asked", one(tuition(paid="3999")), one(tuition())),
    ("us.1098-t.prepaid-twice", one(tuition(next_term="yes")), one(tuition(next_term="no"))),
    ("us.care.provider-is-dependent", parents(*_BOTH, nursery("914-33-0001")), parents(*_BOTH, nursery())),
    ("us.care.above-earnings", parents(wage(), wage(2_000, 0, key="w2", owner="spouse"), nursery()), parents(*_BOTH, nursery())),
    ("us.care.large", parents(*_BOTH, nursery(amount="40001")), parents(*_BOTH, nursery(amount="40000"))),
    ("us.care.benefits-room", parents(*_BOTH, nursery(amount="3001")), parents(*_BOTH, nursery(amount="3000"))),
    ("us.care.turns-13-next-year", parents(*_BOTH, nursery(), born="2013-05-05"), parents(*_BOTH, nursery(), born="2014-05-05")),
    ("us.1095-a.months-wrong", one(policy({"first": "5", "last": "4"})), one(policy({"first": "4", "last": "5"}))),
    ("us.1095-a.months-twice", one(policy({"last": "6"}, {"first": "6"})), one(policy({"last": "5"}, {"first": "6"}))),
    ("us.1095-a.benchmark-missing", one(policy({"benchmark": ""})), one(policy({}))),
    ("us.1095-a.advance-above-premium", one(policy({"advance": "501"})), one(policy({"advance": "500"}))),
    ("us.premium.repaid", one(wage(), policy({})), one(wage(20_000), policy({}))),
    ("us.premium.apart", one(filing("separate"), policy({})), one(filing("separate"), policy({}), single("premium-questions", abused_or_abandoned="yes"))),
    ("us.savers-credit.possible", one(wage(25_000)), one(wage(26_000))),
    ("us.energy.above-cap", one(wage(), single("energy", insulation="4000", furnace="100")), one(wage(), single("energy", insulation="4000"))),
    ("us.energy.carried-on", one(wage(30_000), single("energy", solar_electric="9000")), one(wage(60_000), single("energy", solar_electric="9000"))),
    # next year
    ("us.next-year.child-17", with_child(born="2009-05-05"), with_child(born="2010-05-05")),
    ("us.next-year.child-19", with_child(born="2007-05-05"), with_child(born="2007-05-05", student="yes")),
    ("us.next-year.student-24", with_child(born="2002-05-05", student="yes"), with_child(born="2003-05-05", student="yes")),
    ("us.next-year.gift-floor", one(itemised(), gift("90")), one(itemised(), gift("90"), year=2024)),
    ("us.next-year.gift-without-itemizing", one(gift("90")), one(gift("90"), year=2024)),
    ("us.next-year.gambling", one(single("itemized", gambling_losses="5")), one(single("itemized", gambling_losses="5"), year=2024)),
    ("us.next-year.mortgage-insurance", one(mortgage(insurance="5")), one(mortgage())),
    ("us.next-year.salt-cap", one(itemised(property_tax="40001")), one(itemised(property_tax="40000"))),
    ("us.next-year.premium-cliff", one(wage(60_000), policy({})), one(wage(50_000), policy({}))),
    ("us.next-year.care-rate", parents(*_BOTH, nursery()), parents(*_BOTH, nursery(), year=2024)),
    ("us.next-year.care-benefits", parents(wage(care_benefits="5000"), nursery()), parents(wage(care_benefits="4999"), nursery())),
    ("us.next-year.clean-energy-ends", one(single("energy", insulation="5")), one(single("energy", insulation="5"), year=2024)),
    ("us.next-year.minimum-tax", one(wage(510_000)), one(wage(490_000))),
    ("us.seniors.cut", one(older("1950-01-05"), pension(gross="76000")), one(older("1950-01-05"), pension(gross="75000"))),
    ("us.additional.cut", one(wage(152_000, others=rows({"kind": "overtime", "amount": "900"}))), one(wage(149_000, others=rows({"kind": "overtime", "amount": "900"})))),
]  # fmt: skip
