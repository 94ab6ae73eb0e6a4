"""The practice's own words in mails, on invoices and with packages."""

from django.core import mail
from django.urls import reverse

from practice.delivery import printing
from practice.delivery.tests.test_printing import PrintTestCase
from practice.fees import billing
from practice.firm.permissions import Refused
from practice.firm.refusals import Cannot
from practice.gather import lettering, wording
from practice.gather.models import Wording
from practice.portal.links import send_link
from practice.portal.tasks import mail_link
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class WordingTests(OfficeTestCase):
    def write(self, kind, words, actor=None):
        return wording.write(actor or self.signer, self.return_.pack, kind, words)

    def mailed(self, purpose):
        link = send_link(self.return_, self.client_person, purpose)
        mail_link(link_id=link.pk)
        return mail.outbox[-1].body

    def test_a_mail_has_the_practices_words_its_link_and_goes_back(self):
        self.write(Wording.REMINDER, "Hello {client}, we still wait. {practice}, {telephone}")
        body = self.mailed("reminder")
        self.assertTrue(body.startswith("Hello Lorna Abernathy, we still wait. Larkspur Row Tax, "), body)
        self.assertIn("/portal/enter/", body)
        self.write(Wording.REMINDER, "")
        self.assertIn("Something is still missing", self.mailed("reminder"))

    def test_a_mail_names_nothing_confidential_and_each_knows_its_fields(self):
        for kind, words in ((Wording.REMINDER, "{household}"), (Wording.INVOICE, "{outcome}"), (Wording.COVER, "{banana}"),
                            ("nothing", "x"), (Wording.COVER, "x" * 4001)):  # fmt: skip
            with self.subTest(kind), self.assertRaises(BadValue):
                self.write(kind, words)
        with self.assertRaises(Refused):
            self.write(Wording.COVER, "x", self.preparer)

    def test_versions_are_only_added_and_an_unchanged_one_is_none(self):
        first = self.write(Wording.INVOICE, "Thank you, {household}.")
        self.assertEqual(self.write(Wording.INVOICE, "Thank you, {household}."), first)
        self.assertEqual(self.write(Wording.INVOICE, "Thanks.").version, 2)
        self.assertNotIn("invoice", lettering.texts(self.firm, self.return_.pack))
        self.assertEqual(billing.drafted(self.signer, self.return_.pk).words, "Thanks.")

    def test_the_page(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("write-wording", args=["cover"])
        self.assertContains(self.client.post(page, {"words": "{x}"}), "is not filled in there", status_code=422)
        self.client.post(page, {"words": "Dear all"})
        self.assertContains(self.client.get(reverse("gather-practice")), "Dear all")


class CoverTests(PrintTestCase):
    def test_the_letter_has_the_practices_words_around_the_outcome(self):
        wording.write(self.signer, self.return_.pack, Wording.COVER, "Good news for {household}.\n{outcome}\nSee you in {town}.")
        words = self.text(self.made())
        begin, end = words.index("Good news for Abernathy, Lorna."), words.index("See you in Galena.")
        self.assertIn("refund of $563", words[begin:end])
        self.assertNotIn("Keep the documents", words)


class DisclosureTests(PrintTestCase):
    def test_nothing_goes_to_somebody_else_before_the_consent_is_signed(self):
        with self.assertRaisesRegex(Cannot, "consent to disclosure"):
            self.made("Lender’s copy")
        self.consent()
        self.assertEqual(self.made("Lender’s copy").state, "ready")
        printing.keep_set(self.signer, "Mine", ["summary"], True, "")
        self.assertEqual(self.made("Mine").state, "ready")
