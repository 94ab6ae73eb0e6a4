"""What the states' own diagnostics say."""

from taxcore.packs.us.tests.diagnosed.making import one, paper, pension, rows, sale, single
from taxcore.packs.us.tests.diagnosed.paid import shop
from taxcore.packs.us.tests.returns import child, filing, interest, person, result, w2


def at(*given):
    return {"states": rows(*({"state": s, "state_number": "1", "wages": str(w), "withheld": str(h)} for s, w, h in given))}


def lives_in_pa(*papers, **options):
    return one(filing(residence="PA", state="PA", zip="16501"), *papers, **options)


def pays(amount=50_000, **values):
    return w2(amount, 4_000, **at(("PA", amount, 900)), **values)


def moved(*papers):
    stays = rows(
        {"person": "taxpayer", "state": "TX", "last": "2025-06-30"}, {"person": "taxpayer", "state": "PA", "first": "2025-07-01"}
    )
    return one(filing(residence="", state="PA", zip="16501"), single("residency", rows=stays), *papers)


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

CASES = [
    ("us-il.schedule-nr-lines", left_illinois(), one()),
    ("us-il.nr-business", left_illinois(shop()), one(shop())),
    ("us-il.nr-sales", left_illinois(sale()), one(sale())),
    ("us-il.nr-adjustments", left_illinois(paper("1098-e", interest="90")), left_illinois(interest("90"))),
    ("us-il.nr-other-income", left_illinois(paper("other-income", prizes="90")), left_illinois(interest("90"))),
    ("us-il.part-year-credit", left_illinois(w2(50_000, 0, **at(("IL", 25_000, 0), ("PA", 25_000, 700)))), left_illinois(w2(50_000, 0, **at(("IL", 50_000, 0))))),
    ("us-il.schedule-cr-lines", one(w2(50_000, 0, **at(("IL", 50_000, 0), ("PA", 20_000, 600)))), one(w2(50_000, 0, **at(("IL", 50_000, 0))))),
    ("us-pa.use-tax-open", lives_in_pa(pays()), lives_in_pa(pays(), asked())),
    ("us-pa.forgiveness-possible", lives_in_pa(pays(8_999)), lives_in_pa(pays(9_000))),
    ("us-pa.forgiveness-possible", lives_in_pa(pays(8_000)), lives_in_pa(pays(8_000), asked(forgiveness="no"))),
    ("us-pa.applied-too-much", lives_in_pa(pays(20_000), asked(applied_to_next_year="287")), lives_in_pa(pays(20_000), asked(applied_to_next_year="286"))),
    ("us-pa.books-differ", lives_in_pa(shop()), lives_in_pa(pays())),
    ("us-pa.losses-of-couple", couple_of_businesses(paper("business", "b2", supplies="900", **_SPOUSES)), couple_of_businesses(paper("business", "b2", receipts="900", **_SPOUSES))),
    ("us-pa.early-distribution", lives_in_pa(pension(code="1")), lives_in_pa(pension(code="7"))),
    ("us-pa.business-of-mover", one(shop(), w2(50_000, 0, **at(("PA", 50_000, 900)))), lives_in_pa(shop())),
    ("us-pa.sales-of-mover", moved(sale()), lives_in_pa(sale())),
    ("us-pa.other-income", lives_in_pa(paper("other-income", prizes="900")), lives_in_pa(interest("900"))),
    ("us-pa.care-credit", lambda: with_care(9_000), lambda: with_care(0)),
    ("us-pa.working-credit", lives_in_pa(person(), child(), pays(20_000)), lives_in_pa(person(), child(), pays(20_000), year=2024)),
]  # fmt: skip


def with_care(amount):
    costs = rows({"person": "d1", "amount": str(amount)})
    nursery = paper("care", "n1", provider="N", provider_address="3 Dock Road", number="00-1122334", costs=costs)
    return result(
        person(),
        child("d1", born="2018-05-05"),
        filing("head_of_household", residence="PA", state="PA", zip="16501", kept_home="yes"),
        pays(),
        nursery,
    )
