"""What the authorities accept and reject, and that a key files once. Documents come from a file made by the declarations' schema."""

import base64
import hashlib
import uuid
from datetime import timedelta
from pathlib import Path

from django.test import TestCase, override_settings
from django.utils import timezone

from authority.models import Claim, Employer, Filing, Mood, Person
from authority.rules import faults_of

DOCUMENT = (Path(__file__).parent / "us-2025.xml").read_text()
STATE_DOCUMENT = (Path(__file__).parent / "us-il-2025.xml").read_text()


@override_settings(TRANSMITTER_KEY="key")
class AuthorityTestCase(TestCase):
    def setUp(self):
        Person.objects.create(number="921175580", last_name="Abernathy-Osei")
        Employer.objects.create(number="007140362", name="Kittiwake Boatworks LLC")

    def post(self, document=DOCUMENT, key=None, authority="us", **headers):
        headers = {"X-Transmitter-Key": "key", "Idempotency-Key": str(key or uuid.uuid4())} | headers
        return self.client.post(f"/efile/{authority}/2025/returns", document, content_type="application/xml", headers=headers)

    def ask(self, receipt):
        return self.client.get(f"/efile/receipts/{receipt}", headers={"X-Transmitter-Key": "key"}).json()

    def decided(self, **post):
        receipt = self.post(**post).json()["receipt"]
        Filing.objects.update(received_at=timezone.now() - timedelta(minutes=1))
        return self.ask(receipt)


class ReceivingTests(AuthorityTestCase):
    def test_a_receipt_at_once_and_an_answer_later(self):
        answer = self.post()
        self.assertEqual(answer.status_code, 202)
        self.assertEqual(self.ask(answer.json()["receipt"])["state"], "pending")
        Filing.objects.update(received_at=timezone.now() - timedelta(minutes=1))
        self.assertEqual(self.ask(answer.json()["receipt"])["state"], "accepted")

    def test_the_same_key_again_files_once(self):
        key = uuid.uuid4()
        one, other = (self.post(key=key).json()["receipt"] for _ in range(2))
        self.assertEqual((one, Filing.objects.count()), (other, 1))

    def test_a_key_cannot_be_used_for_another_document(self):
        key = uuid.uuid4()
        self.post(key=key)
        self.assertEqual(self.post(DOCUMENT.replace("61480", "61481"), key=key).status_code, 409)

    def test_strangers_and_keyless_requests_are_refused(self):
        self.assertEqual(self.post(**{"X-Transmitter-Key": "other"}).status_code, 401)
        self.assertEqual(self.post(**{"Idempotency-Key": "x"}).status_code, 400)
        self.assertEqual(self.post(authority="us-xx").status_code, 404)

    def test_a_lost_answer_has_filed_all_the_same(self):
        Mood.objects.create(pk=1, answers_to_lose=1)
        key = uuid.uuid4()
        self.assertEqual(self.post(key=key).status_code, 504)
        self.assertEqual(self.post(key=key).status_code, 202)
        self.assertEqual(Filing.objects.get().times_received, 2)

    def test_a_closed_authority_says_so(self):
        self.client.post("/mood", {"is_down": "on"})
        self.assertEqual(self.post().status_code, 503)
        self.client.post("/mood", {})
        self.assertEqual(self.post().status_code, 202)

    def test_the_console_lists_filings(self):
        receipt = self.post().json()["receipt"]
        self.assertContains(self.client.get("/"), receipt)


class RuleTests(AuthorityTestCase):
    CASES = [  # why, change to the document, rule, end of the path
        ("the name does not fit the number", ("Abernathy", "Wren"), "P-0101", "Number"),
        ("a number that training refuses", ("921-17-5580", "921-49-5580"), "P-0101", "Number"),
        (
            "an employer nobody knows",
            ("00-7140362", "00-0000363"),
            "E-0301",
            "/Return/Papers/WageStatement[@id='w1']/EmployerNumber",
        ),
        (
            "a bad total",
            ('<TotalIncome line="9">61480', '<TotalIncome line="9">61481'),
            "T-0401",
            "/Return/Forms/IncomeTaxReturn/TotalIncome",
        ),
        (
            "withholding that no statement shows",
            ('<WithheldWages line="25a">5812', '<WithheldWages line="25a">5912'),
            "T-0402",
            "WithheldWages",
        ),
        ("a line that is missing", ('<TotalTax line="24">5249</TotalTax>', ""), "X-0003", ""),
        ("a line with another number", ('line="24"', 'line="25"'), "X-0003", ""),
        ("an amount that is none", (">5249</TotalTax>", ">much</TotalTax>"), "X-0003", "TotalTax"),
        ("no XML at all", (DOCUMENT, "hello"), "X-0001", "/"),
    ]

    def test_each_fault_is_named_with_its_place(self):
        for why, (old, new), rule, path in self.CASES:
            with self.subTest(why):
                self.assertIn(old, DOCUMENT)
                faults = faults_of("us", 2025, DOCUMENT.replace(old, new).encode())
                found = [fault for fault in faults if fault.rule == rule]
                self.assertTrue(found, faults)
                self.assertTrue(found[0].path.endswith(path), found[0].path)

    def test_attachments_are_whole_pdfs_with_names_of_their_own(self):
        def with_them(*attached):
            written = "".join(
                f'<Attachment what="election" name="{name}" paper="" sha256="{digest or hashlib.sha256(content).hexdigest()}">'
                f"{base64.b64encode(content).decode()}</Attachment>"
                for name, content, digest in attached
            )
            return DOCUMENT.replace("</Return>", f"<Attachments>{written}</Attachments></Return>").encode()

        good, cases = ("A", b"%PDF-1.7 a", ""), {
            "no PDF": [("A", b"PK", "")],
            "what its hash says": [("A", b"%PDF-1.7", "0" * 64)],
            "same name": [("A", b"%PDF-1.7", ""), ("A", b"%PDF-1.6", "")],
            "bytes": [("A", b"%PDF-" + b"x" * 5_000_000, "")],
        }  # fmt: skip
        self.assertEqual(faults_of("us", 2025, with_them(good, ("B", b"%PDF-1.7 a", ""))), [])
        for says, attached in cases.items():
            with self.subTest(says):
                (fault,) = faults_of("us", 2025, with_them(*attached))
                self.assertEqual((fault.rule, fault.path), ("A-0701", "/Return/Attachments"))
                self.assertIn(says, fault.message)

    def test_what_is_right_has_no_fault(self):
        self.assertEqual(faults_of("us", 2025, DOCUMENT.encode()), [])
        self.assertEqual(faults_of("us-il", 2025, STATE_DOCUMENT.encode()), [])
        other = (Path(__file__).parent / "us-pa-2025.xml").read_bytes()  # a state that no rule here knows by name
        self.assertEqual(faults_of("us-pa", 2025, other), [])

    def test_people_and_employers_whom_nobody_met_are_taken_and_remembered(self):
        Person.objects.all().delete()
        Employer.objects.all().delete()
        self.assertEqual(self.decided()["state"], "accepted")
        self.assertEqual(Person.objects.get().last_name, "Abernathy")
        other = self.decided(document=DOCUMENT.replace("Abernathy", "Wren"))
        self.assertEqual(other["faults"][0]["rule"], "P-0101")
        self.assertIn("Lorna Wren, number ending 5580", other["faults"][0]["message"])

    def test_the_console_can_have_the_next_one_refused(self):
        self.client.post("/mood", {"to_refuse": "1"})
        self.assertEqual(self.decided()["faults"][0]["rule"], "C-0901")
        self.assertEqual(self.decided()["state"], "accepted")

    def test_a_year_that_is_not_open(self):
        self.assertEqual(faults_of("us", 1999, DOCUMENT.encode())[0].rule, "X-0002")

    def test_entities_are_not_followed(self):
        hostile = DOCUMENT.replace("<Return ", '<!DOCTYPE r [<!ENTITY x SYSTEM "file:///etc/passwd">]><Return ', 1).replace(
            "Galena", "&x;"
        )
        faults = faults_of("us", 2025, hostile.encode())
        self.assertEqual([fault.rule for fault in faults], ["X-0004"])

    def test_a_number_files_once_a_year_and_authority(self):
        self.assertEqual(self.decided()["state"], "accepted")
        again = self.decided()
        self.assertEqual((again["state"], again["faults"][0]["rule"]), ("rejected", "P-0201"))
        self.assertEqual(self.decided(document=STATE_DOCUMENT, authority="us-il")["state"], "accepted")

    def test_a_dependant_claimed_elsewhere_is_rejected(self):
        Person.objects.create(number="914330001", last_name="Abernathy")
        Claim.objects.create(authority="us", year=2025, number="914330001", role="dependent")
        child = (
            '<UnitedStatesPerson id="d1" role="dependent"><FirstName>Ada</FirstName><LastName>Abernathy</LastName>'
            "<Number>914-33-0001</Number><BirthDate>2015-01-05</BirthDate></UnitedStatesPerson></People>"
        )
        answer = self.decided(document=DOCUMENT.replace("</People>", child))
        self.assertEqual(answer["faults"][0]["rule"], "P-0202")

    def test_a_rejected_return_claims_nothing(self):
        self.decided(document=DOCUMENT.replace("00-7140362", "00-0000363"))
        self.assertEqual(Claim.objects.count(), 0)


EXTENSION = """<?xml version='1.0' encoding='utf-8'?>
<Extension xmlns="urn:impuesto:extension" authority="us" year="2025" form="4868">
  <Header><ReturnId>7</ReturnId><Software>Impuesto</Software></Header>
  <People><UnitedStatesPerson id="taxpayer" role="taxpayer"><FirstName>Lorna</FirstName><LastName>Abernathy-Osei</LastName>
    <Number>921-17-5580</Number></UnitedStatesPerson></People>
  <Expected>3875</Expected><Paid>4000</Paid><Balance>0</Balance><Paying>100</Paying><Until>2026-10-15</Until>
</Extension>"""


class ExtensionTests(AuthorityTestCase):
    def extended(self, document=EXTENSION, authority="us"):
        headers = {"X-Transmitter-Key": "key", "Idempotency-Key": str(uuid.uuid4())}
        answer = self.client.post(
            f"/efile/{authority}/2025/extensions", document, content_type="application/xml", headers=headers
        )
        Filing.objects.update(received_at=timezone.now() - timedelta(minutes=1))
        return self.ask(answer.json()["receipt"])

    def rules(self, *given, **more):
        return [fault["rule"] for fault in self.extended(*given, **more)["faults"]]

    def test_more_time_is_given_and_leaves_the_number_free_for_the_return(self):
        self.assertEqual(self.extended()["state"], "accepted")
        self.assertEqual(Claim.objects.count(), 0)
        self.assertEqual(self.decided()["state"], "accepted")

    def test_strangers_and_wrong_documents_are_refused(self):
        self.assertEqual(self.rules(EXTENSION.replace("Abernathy-Osei", "Quist")), ["P-0101"])
        self.assertEqual(self.rules(EXTENSION.replace("<Paying>100", "<Paying>much")), ["X-0003"])
        self.assertEqual(self.rules(EXTENSION, authority="us-il"), ["X-0005"])
        self.assertEqual(self.rules("<Extension"), ["X-0001"])

    def test_nobody_needs_more_time_for_a_return_that_is_here(self):
        self.assertEqual(self.decided()["state"], "accepted")
        self.assertEqual(self.rules(), ["E-0501"])
