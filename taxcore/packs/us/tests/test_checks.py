"""Each diagnostic: a return it speaks about, and the same return mended, about which it is silent."""

import inspect
import re
from unittest import TestCase

from taxcore.engine import Flag, PaperValues
from taxcore.packs.us import PACK
from taxcore.packs.us.checks import MODULES, unsupported
from taxcore.packs.us.states import il
from taxcore.packs.us.tests.returns import child, couple, filing, interest, person, result, w2


def coded(code, amount="100"):
    return {"codes": [{"id": "1", "code": code, "amount": amount}]}


def places(*rows):
    named = ({"id": str(n), "state": s, "state_number": "1", "wages": w, "withheld": h} for n, (s, w, h) in enumerate(rows, 1))
    return {"states": list(named)}


def single(kind, **values):
    return PaperValues(kind, kind, values)


def paper(kind, key="x1", **values):
    return PaperValues(
        kind if PACK.paper(kind).single else key, kind, ({"owner": "taxpayer"} if PACK.paper(kind).owned else {}) | values
    )


def share(**values):
    return paper("k1-1065", entity="Quay", entity_number="00-4455668", **{"participates": "yes"} | values)


def books(**values):
    return paper("business", "b1", activity="Repair", code="811490", **{"participates": "yes"} | values)


def pension(**values):
    return paper("1099-r", "r1", payer="Tern", **{"gross": "900", "code": "7", "ira": "no"} | values)


def dividends(amount, **values):
    return paper("1099-div", "v1", payer="Heron", dividends=str(amount), **values)


def sale(**values):
    row = {"id": "1", "box": "A", "proceeds": "100", "basis": "90", "sold": "2025-05-05"} | values
    return paper("1099-b", payer="Sandbar", sales=[row])


def totals(attached=0):
    rows = [{"id": "1", "box": "A", "proceeds": "100", "basis": "90", "wash_sales": "5"}]
    return PaperValues("x1", "1099-b", {"owner": "taxpayer", "payer": "Sandbar", "summaries": rows}, attached)


def cover(key="c1", kind="alone", **values):
    return paper("hsa", key, coverage=[{"id": "1", "kind": kind, "first": "1", "last": "12"}], **values)


def gift(amount):
    return paper("gift", charity="Lamplighters", gift_kind="cash", amount=amount)


def alimony(since):
    return paper("adjustments", alimony=[{"id": "1", "recipient": "Roe", "number": "916-20-1111", "since": since, "amount": "5"}])


def car(**values):
    asked = {"loan_date": "2025-01-01", "new_for_owner": "yes", "assembled_here": "yes", "personal": "yes"}
    return paper("car-loan", lender="Lock", vin="1HGCM82633A004352", interest="5", **asked | values)


def split(amount):
    return single(
        "split-deposit", rows=[{"id": "1", "routing": "138150000", "kind": "savings", "account": "4471", "amount": amount}]
    )


def care(who):
    return paper(
        "care",
        "n1",
        provider="Nursery",
        provider_address="3 Dock Road",
        number="00-1122334",
        costs=[{"id": "1", "person": who, "amount": "900"}],
    )


def family(*papers, born="2018-05-05"):
    return lambda: result(person(), person("spouse"), child("d1", born=born), filing("joint"), *papers)


def _some(kind, name):
    return "yes" if isinstance(PACK.paper(kind).fields()[name], Flag) else "5"


def checklist(**answers):
    yes = ("own_information", "worksheets", "knowledge", "records", "substantiation", "certified")
    no = ("inconsistent", "disallowed")
    base = (
        dict.fromkeys(yes, "yes") | dict.fromkeys(no, "no") | {"asked": "M. Quist", "asked_on": "2026-02-01", "manner": "person"}
    )
    return single("diligence", **base | answers)


def about(key, id_="q1"):
    return paper("diligence-child", id_, child=key, dependant="yes", absence_explained="yes", release_explained="yes")


def studying():
    return paper("1098-t", "t1", payer="College", student="taxpayer", paid="3000", half_time="yes")


def two_died(*roles):
    people = [person(role, **({"death_date": "2025-05-05"} if role in roles else {})) for role in ("taxpayer", "spouse")]
    return lambda: result(*people, filing("joint"))


def one(*papers, **options):
    return lambda: result(*papers, **options)


def two(*papers, **options):
    return lambda: couple(*papers, **options)


NOT_TRAINING = {"number": "123-45-6789"}

CASES = [  # code, a return that has it, the same return mended
    ("us.person.number-malformed", one(person(number="999-99-9999")), one(person())),
    ("us.person.number-malformed", one(person(number="000-12-3456"), training=False), one(person(number="219-09-9998"), training=False)),
    ("us.person.number-missing", one(person(number="")), one(person())),
    ("us.person.birth-date-missing", one(person(birth_date="")), one(person())),
    ("us.person.number-twice", lambda: result(person(), person("spouse", number="912-04-3371"), filing("joint")), two()),
    ("us.person.born-later", one(person(born="2026-01-01")), one(person(born="2025-12-31"))),
    ("us.employer-number-malformed", one(w2(1, employer_number="12-3456789")), one(w2(1))),
    ("us.employer-number-malformed", one(w2(1, employer_number="07-1234567"), training=False),
     one(w2(1, employer_number="12-3456789"), training=False)),
    ("us.w2.employer-number-missing", one(w2(1, employer_number="")), one(w2(1))),
    ("us.w2.employer-street-missing", one(w2(1, employer_street="")), one(w2(1))),
    ("us.deposit.routing-wrong", one(single("deposit", routing="138150001", account="4471", account_kind="savings")),
     one(single("deposit", routing="138150000", account="4471", account_kind="savings"))),
    ("us.deposit.incomplete", one(single("deposit", routing="138150000")), one(single("deposit"))),
    ("us.filing.moved", one(filing(residence="TX")), one(filing())),
    ("us.taxpayer-missing", lambda: result(person("spouse")), one()),
    ("us.spouse-missing", one(filing("joint")), two()),
    ("us.owner-missing", two(w2(1, owner="")), two(w2(1, owner="spouse"))),
    ("us.owner-missing", two(interest("1", owner="")), two(interest("1", owner="joint"))),
    ("us.owner-missing", two(paper("1099-r", owner="joint")), two(paper("1099-r", owner="spouse"))),
    ("us.owner-not-on-return", one(w2(1, owner="spouse")), one(w2(1))),
    ("us.w2.employee-number-differs", two(w2(1, employee_number="913-22-8046")), two(w2(1, employee_number="912-04-3371"))),
    ("us.w2.above-wage-base", one(w2(200_000, social_security_wages="176100.01")), one(w2(200_000, social_security_wages="176100"))),
    ("us.w2.box-3-differs", one(w2(50_000, social_security_wages="50002")), one(w2(50_000, social_security_wages="50001"))),
    ("us.w2.box-3-differs", one(w2(50_000, social_security_wages="50000", **coded("D", "3000"))),
     one(w2(50_000, social_security_wages="53000", **coded("D", "3000")))),
    ("us.w2.box-4-differs", one(w2(50_000, social_security_withheld="3102")), one(w2(50_000, social_security_withheld="3100.99"))),
    ("us.w2.box-5-below-box-3", one(w2(50_000, medicare_wages="49000")), one(w2(50_000, medicare_wages="50000"))),
    ("us.w2.withheld-above-wages", one(w2(100, 101)), one(w2(100, 100))),
    ("us.w2.state-withheld-above-wages", one(w2(100, **places(("IL", "100", "101")))), one(w2(100, **places(("IL", "100", "99"))))),
    ("us.w2.state-number-missing", one(w2(100, states=[{"id": "1", "state": "IL", "wages": "100", "withheld": "5"}])), one(w2(100))),
    ("us.w2.states-differ", one(w2(100, **places(("IL", "99", "0")))), one(w2(100, **places(("IL", "100", "0"))))),
    ("us.w2.code-twice", one(w2(1, codes=[{"id": i, "code": "DD", "amount": "1"} for i in "12"])), one(w2(1, **coded("DD")))),
    ("us.w2.twice", one(w2(9, 1), w2(9, 1, "w2")), one(w2(9, 1), w2(8, 1, "w2"))),
    ("us.w2.deferrals-above-limit", one(w2(90_000, **coded("D", "23500.01"))), one(w2(90_000, **coded("D", "23500")))),
    ("us.w2.deferrals-above-limit", one(person(born="1975-12-31"), w2(90_000, **coded("D", "31000.01"))),
     one(person(born="1975-12-31"), w2(90_000, **coded("D", "31000")))),
    ("us.unsupported.w2-code", one(w2(90_000, **coded("T"))), one(w2(90_000, **coded("DD")))),
    ("us.unsupported.4137", one(w2(1, allocated_tips="1")), one(w2(1))),
    ("us.unsupported.statutory-employee", one(w2(1, statutory_employee="yes")), one(w2(1, statutory_employee="no"))),
    ("us.unsupported.railroad", one(w2(1, others=[{"id": "1", "kind": "railroad", "amount": "5"}])), one(w2(1))),
    ("us.diligence.missing", one(person(), child(), w2(60_000)), one(person(), child(), w2(60_000), checklist())),
    ("us.diligence.child-missing", one(person(), child(), w2(60_000), checklist()), one(person(), child(), w2(60_000), checklist(), about("d1"))),
    ("us.diligence.child-missing", one(person(), child("d1"), child("d2"), w2(60_000), about("d1")),
     one(person(), child("d1"), child("d2"), w2(60_000), about("d1"), about("d2", "q2"))),
    ("us.diligence.student-missing", one(studying(), w2(60_000)), one(studying(), w2(60_000), paper("diligence-student", student="taxpayer"))),
    ("us.diligence.answered-no", one(person(), child(), w2(60_000), checklist(knowledge="no")), one(person(), child(), w2(60_000), checklist())),
    ("us.diligence.asked-on-missing", one(person(), child(), w2(60_000), checklist(asked_on="")), one(person(), child(), w2(60_000), checklist())),
    ("us.diligence.inquired-missing", one(person(), child(), w2(60_000), checklist(inconsistent="yes")),
     one(person(), child(), w2(60_000), checklist(inconsistent="yes", inquired="yes", inquiry_kept="yes"))),
    ("us.unsupported.8862", one(person(), child(), w2(60_000), checklist(disallowed="yes")), one(person(), child(), w2(60_000), checklist())),
    ("us.dependant.not-one", one(person(), child(born="2000-01-01")), one(person(), child())),
    ("us.dependant.turned-17", one(person(), child(born="2008-12-31")), one(person(), child(born="2009-01-01"))),
    ("us.person.relationship-missing", one(person(), child(relationship="")), one(person(), child())),
    ("us.filing.home-not-kept", one(filing("head_of_household"), person(), child()),
     one(filing("head_of_household", kept_home="yes"), person(), child())),
    ("us.filing.nobody-eligible", one(filing("head_of_household", kept_home="yes"), person(), child(relationship="none", months_at_home="12")),
     one(filing("head_of_household", kept_home="yes"), person(), child(relationship="parent", months_at_home="0", supported="yes"))),
    ("us-il.eitc-by-age", one(person(born="2003-05-05"), w2(9_000)), one(person(born="2000-05-05"), w2(9_000))),
    ("us.unsupported.deceased", one(person(death_date="2025-05-05")), one(person())),
    ("us.unsupported.deceased", two_died("taxpayer", "spouse"), two_died("taxpayer")),
    ("us.schedule-b-part-iii", one(interest("1501")), one(interest("1500"))),
    ("us.filing.digital-assets-missing", one(filing(digital_assets="")), one(filing())),
    ("us.unsupported.state", one(filing(residence="WI")), one(filing(residence="TX", state="TX"))),
    ("us.unsupported.state", one(w2(100, **places(("IA", "100", "3")))), one(w2(100, **places(("TX", "100", "0"))))),
    ("us.2210", one(w2(90_000, 5_000)), one(w2(90_000, 12_000))),
    ("us.planning-year", one(w2(1), year=2026), one(w2(1), year=2025)),
    ("us.person.died-before", one(person(death_date="2024-12-31")), one(person(death_date="2025-01-01"))),
    ("us.filing.spouse-unnamed", one(filing("separate")), one(filing("separate", spouse_name="O. Quist", spouse_number="NRA"))),
    ("us.filing.spouse-died", one(filing("surviving_spouse", spouse_died="2022"), person(), child()),
     one(filing("surviving_spouse", spouse_died="2024"), person(), child())),
    ("us.filing.no-child-at-home", one(filing("surviving_spouse", spouse_died="2024"), person(), child(months_at_home="11")),
     one(filing("surviving_spouse", spouse_died="2024"), person(), child())),
    # law that is not computed: each field that calls for it
    *((f"us.unsupported.{code}", one(paper(kind, **{name: _some(kind, name)})), one(paper(kind))) for kind, name, code, _ in unsupported._FIELDS),
    *((f"us.unsupported.{code}", one(share(**{name: "5"})), one(share())) for name, code, _ in unsupported._OF_SHARES if name != "final_year"),
    ("us.unsupported.6198", one(share(ordinary="-5")), one(share(ordinary="-5", all_at_risk="yes"))),
    ("us.unsupported.8582", one(share(ordinary="-5", participates="no")), one(share(ordinary="-5"))),
    ("us.unsupported.8582", one(books(supplies="5", participates="no")), one(books(supplies="5"))),
    ("us.unsupported.461", one(books(supplies="313001")), one(books(supplies="313000"))),
    ("us.unsupported.4972", one(pension(code="A")), one(pension(code="7"))),
    ("us.unsupported.prohibited", one(pension(code="5")), one(pension(code="7"))),
    ("us.unsupported.5329-conversions", one(pension(code="J", ira="yes"), paper("ira", roth_conversion_basis="9")),
     one(pension(code="J", ira="yes"), paper("ira", roth_basis="900", roth_conversion_basis="9"))),
    ("us.paper-twice", two(paper("ira"), paper("ira", "x2")), two(paper("ira"), paper("ira", "x2", owner="spouse"))),
    ("us.unsupported.8962-split", one(books(), paper("1095-a", business="b1"), paper("1095-a", "x2")),
     one(books(), paper("1095-a", business="b1"), paper("1095-a", "x2", business="b1"))),
    ("us.unsupported.8853", one(paper("1099-sa", account_kind="archer")), one(paper("1099-sa", account_kind="hsa"))),
    ("us.unsupported.8615-gains", one(person(born="2012-01-05"), dividends(9_000, collectibles="50", capital_gain="50")),
     one(person(born="2012-01-05"), dividends(9_000, capital_gain="50"))),
    ("us.unsupported.1116-gains", one(w2(90_000), dividends(30_000, qualified="20000", foreign_tax="400", foreign_income="30000")),
     one(w2(90_000), dividends(30_000, qualified="19999", foreign_tax="400", foreign_income="30000"))),
    ("us.unsupported.1116-minimum", one(w2(200_000), dividends(900, foreign_tax="400", foreign_income="900"), single("minimum-tax", stock_options="200000")),
     one(w2(200_000), dividends(900, foreign_tax="400", foreign_income="900"))),
    # papers that lead nowhere or contradict themselves
    ("us.1099-nec.nowhere", one(paper("1099-nec", pay="5")), one(paper("1099-nec", pay="5"), books())),
    ("us.1099-misc.nowhere", one(paper("1099-misc", medical="5")), one(paper("1099-misc", medical="5", is_business="yes"), books())),
    ("us.1099-k.nowhere", one(paper("1099-k", gross="5")), one(paper("1099-k", gross="5", personal="5"))),
    ("us.prior-year.itemised-open", one(paper("1099-g", state_refund="5")), one(paper("1099-g", state_refund="5"), single("prior-year", itemised="no"))),
    ("us.1099-g.other-year", one(paper("1099-g", state_refund="5", refund_year="2023")), one(paper("1099-g", state_refund="5", refund_year="2024"))),
    ("us.1099-div.liquidation", one(dividends(5, cash_liquidation="5")), one(dividends(5))),
    ("us.1099-div.basis", one(dividends(5, return_of_capital="5")), one(dividends(5))),
    ("us.benefits.lump-sum", one(paper("ssa-1099", paid="9", earlier_years="5")), one(paper("ssa-1099", paid="9", earlier_years="5", lump_sum_taxable="5"))),
    ("us.8615.parent-missing", one(person(born="2012-01-05"), interest("2701")), one(person(born="2012-01-05"), interest("2700"))),
    ("us.foreign-report-open", one(filing(foreign_account="yes")), one(filing(foreign_account="yes", foreign_report="no"))),
    ("us.digital-assets.nothing-keyed", one(filing(digital_assets="yes")), one(filing(digital_assets="yes"), paper("other-income", digital_assets="5"))),
    ("us.digital-assets.answer", one(paper("other-income", digital_assets="5")), one(filing(digital_assets="yes"), paper("other-income", digital_assets="5"))),
    ("us.sale.other-year", one(sale(sold="2024-12-31")), one(sale(sold="2025-01-01"))),
    ("us.sale.code-missing", one(sale(adjustment="5")), one(sale(adjustment="5", code="W"))),
    ("us.sale.wash-sale-sign", one(sale(adjustment="-5", code="W")), one(sale(adjustment="5", code="W"))),
    ("us.sale.summary-unattached", one(totals()), one(totals(attached=1))),
    ("us.sale.box-of-later-years", one(sale(box="G"), year=2024), one(sale(box="G"))),
    ("us.1099-r.not-determined", one(pension(undetermined="yes")), one(pension(undetermined="yes", own_contributions="5"))),
    ("us.1099-r.more-than-gross", one(pension(rolled_over="901")), one(pension(rolled_over="900"))),
    ("us.1099-r.charity-too-young", one(pension(ira="yes", charity="5")), one(person(born="1950-01-05"), pension(ira="yes", charity="5"))),
    ("us.1099-r.early", one(pension(code="1")), one(pension(code="1", exception="03"))),
    ("us.ira.value-missing", one(pension(ira="yes"), paper("ira", basis_before="5")),
     one(pension(ira="yes"), paper("ira", basis_before="5", value_at_end="0"))),
    ("us.hsa.cover-missing", one(w2(9_000, **coded("W"))), one(w2(9_000, **coded("W")), cover())),
    ("us.hsa.employer-excess", one(w2(9_000, **coded("W", "4300.51")), cover()), one(w2(9_000, **coded("W", "4300")), cover())),
    ("us.hsa.not-medical", one(paper("1099-sa", account_kind="hsa", gross="9")), one(paper("1099-sa", account_kind="hsa", gross="9", medical="9"))),
    ("us.hsa.limit-twice", two(cover("c1", kind="family"), cover("c2", kind="family", owner="spouse")),
     two(cover("c1", kind="family", spouses_part="8550"), cover("c2", kind="family", owner="spouse"))),
    ("us.business.service-open", one(w2(300_000), books(receipts="9000")), one(w2(300_000), books(receipts="9000", service_trade="no"))),
    ("us.business.car-evidence", one(books(miles="5")), one(books(miles="5", car_evidence="yes"))),
    ("us.business.statements-due", one(books(must_report="yes")), one(books(must_report="yes", did_report="yes"))),
    ("us.1098.principal-missing", one(paper("1098", interest="5")), one(paper("1098", interest="5", principal="9"))),
    ("us.gift.acknowledgement", one(gift("250")), one(gift("249.99"))),
    ("us.alimony.new-agreement", one(alimony("2019-01-01")), one(alimony("2018-12-31"))),
    ("us.car-loan.not-deducted", one(car(personal="no")), one(car())),
    ("us.estimates.other-year", one(single("estimates", rows=[{"id": "1", "paid": "2026-02-01", "amount": "5"}])),
     one(single("estimates", rows=[{"id": "1", "paid": "2026-01-31", "amount": "5"}]))),
    ("us.split-deposit.sum", one(w2(9_000, 50), split("49")), one(person(born="2007-01-05"), w2(9_000, 50), split("50"))),
    ("us.deposit.applied-too-much", one(person(born="2007-01-05"), w2(9_000, 50), single("deposit", applied_to_next_year="51")),
     one(person(born="2007-01-05"), w2(9_000, 50), single("deposit", applied_to_next_year="50"))),
    # benefits that came out smaller for a reason somebody can act on
    ("us.care.one-earner", family(w2(90_000), care("d1")), family(w2(90_000), w2(9_000, key="w2", owner="spouse"), care("d1"))),
    ("us.care.nobody-qualifies", family(w2(90_000), care("d1"), born="2011-12-31"), family(w2(90_000), care("d1"), born="2012-01-01")),
    ("us.care.benefits-taxed", family(w2(90_000, care_benefits="50")), family(w2(90_000, care_benefits="50"), w2(9_000, key="w2", owner="spouse"), care("d1"))),
    ("us.ira.limited", one(w2(89_000, retirement_plan="yes"), paper("ira", traditional="5")), one(w2(79_000, retirement_plan="yes"), paper("ira", traditional="5"))),
    ("us.ira.excess", one(w2(165_000), paper("ira", roth="500")), one(w2(150_000), paper("ira", roth="500"))),
    ("us.student-loan.denied", one(w2(100_000), paper("1098-e", interest="50")), one(w2(85_000), paper("1098-e", interest="50"))),
    ("us.1098-t.half-time-open", one(w2(9_000), paper("1098-t", paid="50")), one(w2(9_000), paper("1098-t", paid="50", half_time="no"))),
    ("us.savers-credit.distributions", one(w2(30_000), pension(), paper("ira", roth="900")), one(w2(30_000), pension(), paper("ira", roth="901"))),
    ("us.w2.tips-not-marked", one(w2(9_000, social_security_tips="5")), one(w2(9_000, social_security_tips="5"), year=2024)),
    ("us.benefits.lived-apart-open", one(filing("separate"), paper("ssa-1099", net="5")), one(filing("separate", lived_apart="no"), paper("ssa-1099", net="5"))),
    ("us.gambling.losses", one(paper("w2g", winnings="50"), single("itemized", choice="itemise")),
     one(paper("w2g", winnings="50"), single("itemized", choice="itemise", gambling_losses="5"))),
    ("us-il.use-tax-open", one(), one(single("il-questions", use_tax="0"))),
    ("us-il.schedule-icr", one(single("il-questions", property_tax="1")), one(single("il-questions", property_tax="0"))),
    ("us-il.schedule-m-line", one(interest("0", government_interest="1")), one(interest("1"))),
    ("us-il.il-2210", one(w2(90_000)), one(w2(90_000, state_withheld=4_000))),
]  # fmt: skip


class DiagnosticTests(TestCase):
    def test_speaks_when_it_should_and_is_silent_when_mended(self):
        for code, spoken, mended in CASES:
            with self.subTest(code):
                self.assertIn(code, [finding.code for finding in spoken().findings])
                self.assertNotIn(code, [finding.code for finding in mended().findings])

    def test_each_points_at_a_place_that_exists_and_says_what_to_do(self):
        for code, spoken, _ in CASES:
            with self.subTest(code):
                found = spoken()
                for finding in found.findings:
                    if finding.code == code:
                        self.assertGreater(len(finding.says), 30)
                        self.assertTrue(any(self.exists(found, place) for place in finding.at), finding.at)

    def exists(self, found, place):
        nodes = [*found.run.people(), *found.run.all_papers(), *found.run._forms.values()]
        return place in found.cells or any(place.startswith(node.address_prefix) for node in nodes)

    def test_no_diagnostic_is_without_a_case(self):
        written = set()
        for module in (*MODULES, il):
            written |= set(re.findall(r'"(us(?:-il)?\.[\w.-]+)"', inspect.getsource(module)))
            written |= {f"us.unsupported.{name}" for name in re.findall(r'_stop\(\s*"([\w-]+)"', inspect.getsource(module))}
        written |= {f"us.unsupported.{row[-2]}" for row in (*unsupported._FIELDS, *unsupported._OF_SHARES)}
        written = {
            code
            for code in written
            if code.count(".") and not code.startswith(("us.1040", "us.sch", "us.filing.status", "us-il.il-1040", "us-il.sch"))
        }
        written -= {form.code() for form in PACK.forms}
        self.assertEqual(written - {code for code, _, _ in CASES}, set())

    def test_a_clean_return_has_nothing_to_stop_it(self):
        found = result(w2(61_480, 5_212, state_withheld=3_000), single("il-questions", use_tax="0"))
        self.assertEqual([finding.code for finding in found.findings], [])

    def test_a_mend_names_a_place_and_a_value_that_fits_it(self):
        finding = next(f for f in result(w2(1, owner="spouse")).findings if f.mend)
        self.assertEqual((finding.mend.address, finding.mend.value), ("us.w2[w1].owner", "taxpayer"))


class DeclarationTests(TestCase):
    def test_addresses_are_unique_within_a_form(self):
        for year in PACK.years:
            for node in (*PACK.forms, *PACK.papers, PACK.people):
                places_ = [spec.place(year) for spec in node.specs.values()]
                self.assertEqual(len(places_), len(set(places_)), node.__name__)

    def test_every_form_cites_its_law(self):
        for form in PACK.forms:
            self.assertRegex(form.__doc__ or "", r"IRC|ILCS|USC", form.__name__)
