"""The practice's own signatures: the paid preparer's with a number, a second one of somebody else, before a return goes out."""

from django.urls import reverse
from lxml import etree

from practice.dispatch.filing import CannotFile, file_return
from practice.firm.packs import usual_pack
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.returns import frozen
from practice.signing import locking, preparing
from practice.signing.tests.test_signing import SigningTestCase
from taxcore.engine import BadValue


class PreparerTests(SigningTestCase):
    def lay_out(self):
        super().lay_out()
        self.sign_all()

    def number(self, actor, text="P01234567"):
        preparing.set_number(actor, usual_pack(), text)

    def ours(self, actor, place="preparer"):
        return preparing.sign(actor, self.return_.pk, place)

    def test_a_number_is_written_as_the_law_has_it(self):
        self.number(self.preparer, " p01234567 ")
        self.assertEqual(self.preparer.preparer_number, "P01234567")
        for text in ("1234", "P1234567", "X01234567", "P0123456٧"):
            with self.subTest(text), self.assertRaisesRegex(BadValue, "PTIN"):
                self.number(self.preparer, text)
        self.number(self.preparer, "")
        self.assertEqual(self.preparer.preparer_number, "")

    def test_nothing_goes_out_before_those_that_the_practice_wants(self):
        preparing.set_needed(self.signer, ["second", "preparer", "nonsense"])
        self.firm.refresh_from_db()
        self.assertEqual(self.firm.file_needs, ["preparer", "second"])
        with self.assertRaisesRegex(CannotFile, "Paid preparer is missing"):
            file_return(self.signer, self.return_.pk)
        with self.assertRaisesRegex(Cannot, "PTIN on your account"):
            self.ours(self.preparer)
        self.number(self.preparer)
        self.ours(self.preparer)
        self.assertIsNone(self.ours(self.preparer))
        with self.assertRaisesRegex(CannotFile, "Second signature is missing"):
            file_return(self.signer, self.return_.pk)
        with self.assertRaisesRegex(Cannot, "somebody else"):
            self.ours(self.preparer, "second")
        self.ours(self.reviewer, "second")
        self.assertEqual(len(file_return(self.signer, self.return_.pk)), 2)

    def test_another_lock_wants_another_one(self):
        preparing.set_needed(self.signer, ["preparer"])
        self.number(self.preparer)
        self.ours(self.preparer)
        self.key("employer_street", "5 Slipway")
        with self.assertRaisesRegex(Cannot, "Lock the return"):
            self.ours(self.preparer)
        locking.lock_figures(self.signer, self.return_.pk)
        with self.assertRaisesRegex(CannotFile, "Paid preparer is missing"):
            file_return(self.signer, self.return_.pk)

    def test_who_may_not(self):
        self.number(self.reviewer)
        with self.assertRaises(Refused):
            self.ours(self.reviewer)
        with self.assertRaises(NotOfThisFirm):
            self.ours(self.stranger)
        with self.assertRaises(Refused):
            preparing.set_needed(self.preparer, [])
        with self.assertRaises(Cannot):
            self.ours(self.preparer, "third")

    def test_the_filed_document_names_who_prepared_it(self):
        self.assertIsNone(etree.fromstring(frozen.document_of(self.again().snapshot, "us")).find(".//{*}Preparer"))
        self.number(self.return_.preparer)
        self.key("employer_street", "5 Slipway")
        locking.lock_figures(self.signer, self.return_.pk)
        found = etree.fromstring(frozen.document_of(self.again().snapshot, "us")).find(".//{*}Preparer")
        self.assertEqual((found.get("number"), found.get("firm")), ("P01234567", "Larkspur Row Tax"))

    def test_the_pages(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.client.post(reverse("signatures-needed"), {"places": ["preparer"]})
        self.assertContains(self.client.get(reverse("firm-answers")), 'value="preparer" checked')
        self.assertContains(self.client.post(reverse("account-number"), {"number": "x"}), "written like", status_code=422)
        self.client.post(reverse("account-number"), {"number": "P01234567"})
        page = reverse("sign", args=[self.return_.pk])
        self.assertContains(self.client.get(page), "sign as Sunniva Holt")
        sign = reverse("sign-as-preparer", args=[self.return_.pk])
        self.assertContains(self.client.post(sign, {"place": "x"}), "Choose as what", status_code=422)
        self.client.post(sign, {"place": "preparer"})
        self.assertContains(self.client.get(page), "Sunniva Holt, P01234567")
