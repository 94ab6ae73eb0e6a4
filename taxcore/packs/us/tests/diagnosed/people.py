"""Names, dates and accounts; more of W-2s."""

from taxcore.packs.us.tests.diagnosed.making import coded, older, one, paper, places, policy, rows, single, two, wage
from taxcore.packs.us.tests.returns import child, filing, person, result, w2


def refund_to(*accounts):
    given = ({"routing": routing, "kind": "savings", "account": account, "amount": "5"} for routing, account in accounts)
    return single("split-deposit", rows=rows(*given))


def with_child(**values):
    return one(person(), child(**values))


def state_row(**values):
    return w2(50_000, 4_000, states=rows({"state": "IL", "state_number": "7", "wages": "50000", "withheld": "2000"} | values))


def gone(*papers, refund=True, **values):
    """Somebody who died; who files, and claims a refund."""
    given = {"capacity": "claimant", "representative": "Odo Fenn", "street": "1 Weir", "city": "Galena", "state": "IL", "zip": "61036",
             "will": "no", "appointed": "no", "to_be_appointed": "no", "pays_out": "yes"}  # fmt: skip
    pay = w2(30_000, 9_000 if refund else 0)
    return one(person(death_date="2025-05-05"), pay, single("decedent", **{**given, **values}), *papers)


_OK = "138150000"
_IL = {"state": "IL", "state_number": "7", "wages": "25000", "withheld": "900"}


def stay(state, first="", last="", who="taxpayer"):
    return {"person": who, "state": state, "first": first, "last": last}


def lived(*given, **more):
    """No state of the whole year, but these stays."""
    return one(filing(**{"residence": ""} | more), single("residency", rows=rows(*given)), wage())


def two_homes(other, first="IL"):
    stays = rows(stay(first), stay(other, who="spouse"))
    papers = (
        person(),
        person("spouse"),
        filing("joint", residence=""),
        single("residency", rows=stays),
        wage(),
        wage(key="w2", owner="spouse", **places((other, "50000", "0"))),
    )
    return lambda: result(*papers)


def decided(what, state, *papers):
    return one(single("state-returns", rows=rows({"state": state, "what": what, "reason": "Asked"})), *papers)


CASES = [
    ("us.decedent.representative", gone(capacity=""), gone()),
    ("us.decedent.name", gone(zip=""), gone()),
    ("us.decedent.nobody-died", one(single("decedent", capacity="court")), gone(capacity="court")),
    ("us.decedent.spouse-signs", lambda: result(person(death_date="2025-05-05"), person("spouse"), filing("joint"), single("decedent", capacity="court")),
     gone(capacity="court")),
    ("us.decedent.unanswered", gone(pays_out=""), gone()),
    ("us.decedent.unanswered", gone(to_be_appointed=""), gone(to_be_appointed="", refund=False)),
    ("us.decedent.appointed", gone(appointed="yes"), gone()),
    ("us.decedent.to-be-appointed", gone(to_be_appointed="yes"), gone()),
    ("us.decedent.pays-out", gone(pays_out="no"), gone(capacity="court", pays_out="")),
    ("us.decedent.refund-to", gone(single("deposit", routing="138150000", account="4471", account_kind="savings")), gone()),
    ("us.places.gap", lived(stay("IL", "", "2025-05-30"), stay("TX", "2025-06-01")), lived(stay("IL", "", "2025-05-31"), stay("TX", "2025-06-01"))),
    ("us.places.two-homes", lived(stay("IL", "", "2025-06-01"), stay("TX", "2025-06-01")), lived(stay("IL", "", "2025-05-31"), stay("TX", "2025-06-01"))),
    ("us.places.whole-year-differs", lived(stay("TX"), residence="IL"), lived(stay("IL"), residence="IL")),
    ("us.places.reciprocal-withheld", one(wage(**places(("WI", "50000", "90")))), one(wage(**places(("IN", "50000", "90"))))),
    ("us.unsupported.state", lived(stay("IL", "", "2025-05-31"), stay("OH", "2025-06-01")), lived(stay("IL"))),
    ("us.places.couple-of-two-states", two_homes("IN"), two_homes("IL")),
    ("us.places.apart-pays", two_homes("TX"), two_homes("TX", first="IA")),
    ("us.places.community-property", two_homes("TX"), two_homes("TN")),
    ("us.places.worked-out-apart", one(filing("separate", only_state="IL"), wage()), one(filing("separate"), wage())),
    ("us.places.left-out", decided("leave-out", "MO", wage(**places(("MO", "50000", "90")))), decided("make", "MO", wage(**places(("MO", "50000", "90"))))),
    ("us.places.untaxed-state", decided("make", "TX"), decided("make", "GA")),
    ("us.person.name-characters", one(person(last_name="O'Quist")), one(person(last_name="O-Quist"))),
    ("us.person.name-unwritable", one(person(last_name="？？")), one(person(last_name="Quist"))),
    ("us.person.whole-name-in-first", one(person(first_name="Maren Quist")), one(person(first_name="Maren"))),
    ("us.person.death-before-birth", one(person(death_date="1975-01-01")), one(person(death_date="2025-01-01"))),
    ("us.person.very-old", one(older("1914-12-31")), one(older("1915-01-01"))),
    ("us.person.filer-very-young", lambda: result(person(), older("2010-01-02", "spouse"), filing("joint")), two()),
    ("us.dependent.older-than-parent", with_child(born="1992-01-01"), with_child(born="1993-01-01")),
    ("us.dependent.parent-too-young", with_child(relationship="parent", born="1968-01-01"), with_child(relationship="parent", born="1967-01-01")),
    ("us.dependent.births-too-near", one(person(), child("d1"), child("d2", born="2015-08-01", first_name="Bo")),
     one(person(), child("d1"), child("d2", first_name="Bo"))),
    ("us.person.twice", one(person(), child("d1"), child("d2")), one(person(), child("d1"), child("d2", first_name="Bo"))),
    ("us.filing.zip-of-another-state", one(filing(zip="53001")), one(filing(zip="60001"))),
    ("us.employer.zip-of-another-state", one(wage(employer_zip="53001")), one(wage())),
    ("us.person.occupation-missing", one(person(occupation="")), one(person(occupation="Miller"))),
    ("us.person.no-mail-address", one(), one(person(email="m@quist.example"))),
    ("us.foreign-country-missing", one(filing(foreign_account="yes", foreign_report="yes")),
     one(filing(foreign_account="yes", foreign_report="yes", foreign_country="Norway"))),
    ("us.deposit.account-is-routing", one(single("deposit", routing=_OK, account=_OK, account_kind="savings")),
     one(single("deposit", routing=_OK, account="4471", account_kind="savings"))),
    ("us.split-deposit.account-twice", one(refund_to((_OK, "4471"), (_OK, "4471"))), one(refund_to((_OK, "4471"), (_OK, "4472")))),
    ("us.split-deposit.too-many", one(refund_to(*((_OK, f"447{n}") for n in range(4)))), one(refund_to(*((_OK, f"447{n}") for n in range(3))))),
    ("us.split-deposit.routing-wrong", one(refund_to(("138150001", "4471"))), one(refund_to((_OK, "4471")))),
    ("us.spouse-number-is-taxpayers", one(filing("separate", spouse_number="912-04-3371")), one(filing("separate", spouse_number="NRA"))),
    # wage statements
    ("us.w2.box-6-differs", one(wage(medicare_withheld="726.01")), one(wage(medicare_withheld="726"))),
    ("us.w2.box-6-differs", one(wage(300_000, medicare_withheld="4350")), one(wage(300_000, medicare_withheld="5250"))),
    ("us.w2.box-5-differs", one(wage(medicare_wages="51002")), one(wage(medicare_wages="51000", **coded("D", "1000")))),
    ("us.w2.plan-mark-missing", one(wage(**coded("D", "1000"))), one(wage(retirement_plan="yes", **coded("D", "1000")))),
    ("us.w2.withholding-high", one(wage(1_000, 451)), one(wage(1_000, 450))),
    ("us.w2.withholding-none", one(wage(20_000, 0)), one(wage(19_999, 0))),
    ("us.w2.withheld-as-box-4", one(wage(50_000, 3_100, social_security_withheld="3100")), one(wage(50_000, 3_200, social_security_withheld="3100"))),
    ("us.w2.withheld-as-state", one(wage(50_000, 1_000)), one(wage(50_000, 1_001))),
    ("us.w2.no-state", one(wage(states=[])), one(wage())),
    ("us.w2.state-twice", one(w2(50_000, 4_000, states=rows(_IL, _IL))), one(w2(50_000, 4_000, states=rows(_IL, _IL | {"state": "TX"})))),
    ("us.w2.locality-missing", one(state_row(local_withheld="5", local_wages="500")), one(state_row(local_withheld="5", local_wages="500", locality="Ely"))),
    ("us.w2.local-above-wages", one(state_row(local_withheld="50001", locality="Ely")), one(state_row(local_withheld="500", locality="Ely"))),
    ("us.w2.state-withheld-nothing", one(wage(state_withheld=0)), one(wage())),
    ("us.w2.combat-pay", one(wage(**coded("Q", "900"))), one(wage(**coded("Q", "900")), paper("other-income", combat_pay="900"))),
    ("us.w2.nonqualified-above-wages", one(wage(nonqualified_plans="50001")), one(wage(nonqualified_plans="50000"))),
    ("us.w2.options-above-wages", one(wage(**coded("V", "50001"))), one(wage(**coded("V", "50000")))),
    ("us.w2.cover-and-marketplace", one(wage(**coded("DD")), policy({})), one(wage(), policy({}))),
    ("us.w2.too-many-simple", one(wage(**coded("S", "18151"))), one(wage(**coded("S", "18150")))),
    ("us.w2.deferral-room", one(wage(**coded("D", "22499"))), one(wage(**coded("D", "22500")))),
    ("us.w2.swapped", one(wage(51_240, medicare_wages="52140")), one(wage(51_240, medicare_wages="51740"))),
    ("us.w2.decimal", one(wage(5_124, social_security_wages="51240")), one(wage(5_124, social_security_wages="51250"))),
]  # fmt: skip
