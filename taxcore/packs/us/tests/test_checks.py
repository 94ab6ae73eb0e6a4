"""Each diagnostic: a return it speaks about, and the same return mended, about which it is silent."""

import inspect
import re
from unittest import TestCase

from taxcore.engine import PaperValues
from taxcore.packs.us import PACK
from taxcore.packs.us.checks import identity, people, unsupported, wages
from taxcore.packs.us.states import il
from taxcore.packs.us.tests.returns import child, couple, filing, interest, person, result, w2


def coded(code, amount="100"):
    return {"codes": [{"id": "1", "code": code, "amount": amount}]}


def places(*rows):
    named = ({"id": str(n), "state": s, "state_number": "1", "wages": w, "withheld": h} for n, (s, w, h) in enumerate(rows, 1))
    return {"states": list(named)}


def single(kind, **values):
    return PaperValues(kind, kind, values)


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
    ("us.w2.owner-missing", two(w2(1, owner="")), two(w2(1, owner="spouse"))),
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
    ("us.unsupported.w2-code", one(w2(90_000, **coded("W"))), one(w2(90_000, **coded("DD")))),
    ("us.unsupported.4137", one(w2(1, allocated_tips="1")), one(w2(1))),
    ("us.unsupported.2441", one(w2(1, care_benefits="1")), one(w2(1))),
    ("us.unsupported.statutory-employee", one(w2(1, statutory_employee="yes")), one(w2(1, statutory_employee="no"))),
    ("us.unsupported.tips", one(w2(1, social_security_tips="1")), one(w2(1, social_security_tips="1"), year=2024)),
    ("us.unsupported.overtime", one(w2(1, others=[{"id": "1", "kind": "overtime", "amount": "5"}])),
     one(w2(1, others=[{"id": "1", "kind": "union", "amount": "5"}]))),
    ("us.unsupported.railroad", one(w2(1, others=[{"id": "1", "kind": "railroad", "amount": "5"}])), one(w2(1))),
    *((f"us.unsupported.interest-{name.replace('_', '-')}", one(interest("1", **{name: "1"})), one(interest("1")))
      for name in ("foreign_tax", "private_activity", "market_discount", "premium", "treasury_premium", "exempt_premium")),
    ("us.unsupported.8867", one(person(), child(), w2(60_000)), one(person(), child(born="2000-01-01", supported="yes"))),
    ("us.dependant.not-one", one(person(), child(born="2000-01-01")), one(person(), child())),
    ("us.dependant.turned-17", one(person(), child(born="2008-12-31")), one(person(), child(born="2009-01-01"))),
    ("us.person.relationship-missing", one(person(), child(relationship="")), one(person(), child())),
    ("us.filing.home-not-kept", one(filing("head_of_household"), person(), child()),
     one(filing("head_of_household", kept_home="yes"), person(), child())),
    ("us.filing.nobody-eligible", one(filing("head_of_household", kept_home="yes"), person(), child(relationship="none", months_at_home="12")),
     one(filing("head_of_household", kept_home="yes"), person(), child(relationship="parent", months_at_home="0", supported="yes"))),
    ("us-il.eitc-by-age", one(person(born="2003-05-05"), w2(9_000)), one(person(born="2000-05-05"), w2(9_000))),
    ("us.unsupported.deceased", one(person(death_date="2025-05-05")), one(person())),
    ("us.unsupported.status-person", one(filing("surviving_spouse")), one(filing("single"))),
    ("us.unsupported.8880", one(w2(39_500, **coded("AA"))), one(w2(39_501, **coded("AA")))),
    ("us.unsupported.8615", one(person(born="2004-05-05", claimed_by_other="yes"), interest("2701")),
     one(person(born="2004-05-05", claimed_by_other="yes"), interest("2700"))),
    ("us.schedule-b-part-iii", one(interest("1501")), one(interest("1500"))),
    ("us.unsupported.digital-assets", one(filing(digital_assets="yes")), one(filing())),
    ("us.filing.digital-assets-missing", one(filing(digital_assets="")), one(filing())),
    ("us.unsupported.schedule-a", one(filing("separate", spouse_itemises="yes")), one(filing("separate", spouse_itemises="no"))),
    ("us.unsupported.state", one(filing(residence="WI")), one(filing(residence="TX", state="TX"))),
    ("us.unsupported.state", one(w2(100, **places(("IA", "100", "3")))), one(w2(100, **places(("TX", "100", "0"))))),
    ("us.2210", one(w2(90_000, 5_000)), one(w2(90_000, 12_000))),
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
        for module in (identity, people, wages, unsupported, il):
            written |= set(re.findall(r'"(us(?:-il)?\.[\w.-]+)"', inspect.getsource(module)))
            written |= {f"us.unsupported.{name}" for name in re.findall(r'_stop\(\s*"([\w-]+)"', inspect.getsource(module))}
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
