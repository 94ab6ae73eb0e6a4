"""What the states' own diagnostics say."""

from taxcore.packs.us.tests.diagnosed.making import older, one, paper, pension, rows, sale, single
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import child, filing, interest, person, result, w2


def at(*given):
    return {"states": rows(*({"state": s, "state_number": "1", "wages": str(w), "withheld": str(h)} for s, w, h in given))}


def lives_in_pa(*papers, **options):
    return one(filing(residence="PA", state="PA", zip="16501"), *papers, **options)


def pays(amount=50_000, **values):
    return w2(amount, 4_000, **at(("PA", amount, 900)), **values)


def left_illinois(*papers):
    stays = rows(
        {"person": "taxpayer", "state": "IL", "last": "2025-06-30"}, {"person": "taxpayer", "state": "TX", "first": "2025-07-01"}
    )
    return one(filing(residence=""), single("residency", rows=stays), *papers)


def asked(**values):
    return single("pa-questions", **{"use_tax": "0"} | values)


def couple_of_businesses(second):
    papers = (person(), person("spouse"), filing("joint", residence="PA", state="PA", zip="16501"), shop(), second)
    return lambda: result(*papers)


_SPOUSES = {"owner": "spouse", "activity": "Baking", "code": "311811", "method": "cash", "participates": "yes"}

HOMES = {
    "CA": "us-ca.540", "GA": "us-ga.500", "IA": "us-ia.ia-1040", "IL": "us-il.il-1040", "IN": "us-in.it-40",
    "MO": "us-mo.mo-1040", "PA": "us-pa.pa-40", "SC": "us-sc.sc1040", "VA": "us-va.760", "WI": "us-wi.form-1",
}  # fmt: skip
NO_USE_TAX, COMPARED, ENACTED = {"GA", "MO"}, {"IL", "PA"}, {"IA", "IN", "PA"}


def lives(state, *papers, **options):
    return one(filing(residence=state, state=state), *papers, **options)


def asks(state, **values):
    return single(f"{state.lower()}-questions", **values)


def moves(state, *papers):
    """From the state to Texas in the middle of the year."""
    stays = rows(
        {"person": "taxpayer", "state": state, "last": "2025-06-30"}, {"person": "taxpayer", "state": "TX", "first": "2025-07-01"}
    )
    return one(filing(residence=""), single("residency", rows=stays), *papers)


def of_every_state(state):
    """What each state's return may say."""
    mark = f"us-{state.lower()}"
    earned = w2(50_000, 4_000, **at((state, 50_000, 0)))
    yield f"{mark}.underpaid", lives(state, earned), lives(state, w2(50_000, 4_000, **at((state, 50_000, 5_000))))
    applied = asks(state, applied_to_next_year="900")
    yield (
        f"{mark}.applied-too-much",
        lives(state, earned, applied),
        lives(state, w2(50_000, 4_000, **at((state, 50_000, 9_000))), applied),
    )
    yield f"{mark}.added-by-hand", lives(state, earned, asks(state, other_additions="9")), lives(state, earned)
    yield f"{mark}.sales-of-mover", moves(state, sale(sold="")), moves(state, sale())
    yield f"{mark}.shared-by-days", moves(state, shop()), moves(state, sale())
    yield f"{mark}.wages-by-days", moves(state, w2(50_000, 0, states=[])), moves(state, w2(50_000, 0, **at((state, 50_000, 0))))
    yield f"{mark}.adjustments-by-income", moves(state, earned, paper("1098-e", interest="90")), moves(state, earned)
    if state not in NO_USE_TAX:
        yield f"{mark}.use-tax-open", lives(state, earned), lives(state, earned, asks(state, use_tax="0"))
    if state not in ENACTED:
        yield f"{mark}.planning-amounts", lives(state, earned, year=2026), lives(state, earned)
    if state not in COMPARED:
        yield f"{mark}.lines-unconfirmed", lives(state, earned), lives("TX")


def counties(spouses, **more):
    asked_ = asks("IN", county="Lake", spouse_county=spouses, **more)
    earned = (w2(50_000, 0, **at(("IN", 50_000, 0))), w2(30_000, 0, "w2", owner="spouse", **at(("IN", 30_000, 0))))
    papers = (person(), person("spouse"), filing("joint", residence="IN", state="IN"), asked_, *earned)
    return lambda: result(*papers)


def pensioner(state, amount, **asked):
    return lives(state, older("1950-01-01"), pension(gross=str(amount)), asks(state, **asked))


CASES = [
    *(case for state in HOMES for case in of_every_state(state)),
    ("us-il.schedule-nr-lines", left_illinois(), one()),
    ("us-il.schedule-cr-lines", one(w2(50_000, 0, **at(("IL", 50_000, 0), ("PA", 20_000, 600)))), one(w2(50_000, 0, **at(("IL", 50_000, 0))))),
    ("us-pa.forgiveness-possible", lives_in_pa(pays(8_999)), lives_in_pa(pays(9_000))),
    ("us-pa.forgiveness-possible", lives_in_pa(pays(8_000)), lives_in_pa(pays(8_000), asked(forgiveness="no"))),
    ("us-pa.books-differ", lives_in_pa(shop()), lives_in_pa(pays())),
    ("us-pa.losses-of-couple", couple_of_businesses(paper("business", "b2", supplies="900", **_SPOUSES)), couple_of_businesses(paper("business", "b2", receipts="900", **_SPOUSES))),
    ("us-pa.early-distribution", lives_in_pa(pension(code="1")), lives_in_pa(pension(code="7"))),
    ("us-pa.other-income", lives_in_pa(paper("other-income", prizes="900")), lives_in_pa(interest("900"))),
    ("us-pa.care-credit", lambda: with_care(9_000), lambda: with_care(0)),
    ("us-pa.working-credit", lives_in_pa(person(), child(), pays(20_000)), lives_in_pa(person(), child(), pays(20_000), year=2024)),
    ("us-in.county-open", lives("IN"), lives("IN", asks("IN", county="none"))),
    ("us-in.county-rate-open", lives("IN", asks("IN", county="Allen")), lives("IN", asks("IN", county="Allen", county_rate="1.59"))),
    ("us-in.county-rate", lives("IN", asks("IN", county="Lake")), lives("IN", asks("IN", county="Lake", county_rate="1.5"))),
    ("us-in.two-counties", moves("IN", asks("IN", county="Lake", spouse_county="Porter")), moves("IN", asks("IN", county="Lake", spouse_county="Lake"))),
    ("us-in.divided-between-counties", counties("Hamilton"), counties("Lake")),
    ("us-in.county-rate-open", counties("Allen"), counties("Allen", spouse_county_rate="1.59")),
    ("us-ia.school-district-open", lives("IA", asks("IA", school_district="1737")), lives("IA", asks("IA", school_district="1737", surtax_rate="0"))),
    ("us-ia.low-income", lives("IA", older("1950-01-01"), w2(23_900, 0)), lives("IA", older("1950-01-01"), w2(24_100, 0))),
    ("us-wi.care-benefits", lambda: with_care(9_000, "WI", care_benefits="900"), lambda: with_care(9_000, "WI")),
    ("us-wi.pension-exclusion-pays", pensioner("WI", 40_000), pensioner("WI", 40_000, pension_exclusion="yes")),
    ("us-wi.pension-exclusion-pays", pensioner("WI", 40_000), lives("WI", older("1960-06-01"), pension(gross="40000"))),
    ("us-wi.dependent", lives("WI", person(claimed_by_other="yes"), w2(9_000)), lives("WI", w2(9_000))),
    ("us-mo.public-pension", pensioner("MO", 9_000, public_pension="9000"), pensioner("MO", 9_000)),
    ("us-mo.property-tax-credit", pensioner("MO", 9_000, property_tax_credit="900"), pensioner("MO", 9_000)),
    ("us-ca.health-coverage-open", lives("CA"), lives("CA", asks("CA", health_coverage="yes"))),
    ("us-ca.coverage-penalty", lives("CA", asks("CA", health_coverage="no")), lives("CA", asks("CA", health_coverage="yes"))),
    ("us-ca.earned-income-credit", lives("CA", w2(32_900)), lives("CA", w2(32_901))),
    ("us-ca.earned-income-credit", lives("CA", w2(900)), lives("CA", w2(900), asks("CA", no_earned_income_credit="yes"))),
    ("us-ca.minimum-tax", lives("CA", w2(90_000), single("minimum-tax", stock_options="5")), lives("CA", w2(90_000))),
    ("us-ga.own-tax-itemized", lives("GA", w2(90_000, 0, **at(("GA", 90_000, 4_000))), single("itemized", unreported_mortgage="20000")),
     lives("GA", w2(90_000, 0, **at(("GA", 90_000, 4_000))))),
    ("us-ga.earned-retirement", lives("GA", older("1950-01-01"), w2(9_000), year=2023), lives("GA", older("1950-01-01"), w2(9_000), year=2024)),
    ("us-va.limit-by-taxable-income", lives("VA", w2(50_000, 0, **at(("VA", 30_000, 0), ("IL", 20_000, 0)))), lives("VA", w2(50_000, 0, **at(("VA", 50_000, 0))))),
    ("us-wi.part-of-tax", lives("TX", w2(50_000, 0, **at(("WI", 50_000, 0)))), lives("WI", w2(50_000, 0, **at(("WI", 50_000, 0))))),
    ("us-wi.without-proportion", lives("WI", w2(50_000, 0, **at(("WI", 30_000, 0), ("IA", 20_000, 0)))), lives("WI", w2(50_000, 0, **at(("WI", 30_000, 0), ("CA", 20_000, 0))))),
    ("us-mo.chart", lives("MO", w2(50_000), year=2023), lives("MO", w2(50_000), year=2024)),
    ("us-sc.conformity", lives("SC"), lives("SC", year=2024)),
]  # fmt: skip


def with_care(amount, state="PA", **boxes):
    costs = rows({"person": "d1", "amount": str(amount)})
    nursery = paper("care", "n1", provider="N", provider_address="3 Dock Road", number="00-1122334", costs=costs)
    return result(
        person(),
        child("d1", born="2018-05-05"),
        filing("head_of_household", residence=state, state=state, zip="16501", kept_home="yes"),
        pays(**boxes),
        nursery,
    )
