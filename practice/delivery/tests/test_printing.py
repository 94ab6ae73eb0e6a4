"""Print sets: declared, made of what is locked, numbers masked or not, a password, kept and read by those who may."""

import io
import re

from django.urls import reverse
from pypdf import PdfReader

from practice.delivery import printing
from practice.delivery.models import Printed
from practice.delivery.tasks import print_set
from practice.fees import billing
from practice.fees.tasks import draw_invoice
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.gather import lettering
from practice.gather.models import Letter
from practice.intake import attaching
from practice.intake.tasks import draw_pages
from practice.intake.tests.test_attaching import pdf, picture
from practice.returns import rounds
from practice.signing import locking
from practice.signing.requesting import sign_in_office
from practice.tests.office import SIGNATURE, OfficeTestCase
from taxcore.engine import BadValue


class PrintTestCase(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        printing.begin_with_usual(self.signer)
        locking.lock_figures(self.signer, self.return_.pk)

    def set(self, name):
        return printing.listed(self.firm).get(name=name)

    def made(self, name="Client’s copy", **more):
        asked = printing.ask(self.preparer, self.return_.pk, self.set(name).pk, **more)
        print_set(printed_id=asked.pk)
        return Printed.objects.for_firm(self.firm).select_related("set", "of").get(pk=asked.pk)

    def consent(self):
        """Everybody on the return consents to disclosure."""
        text = lettering.write(self.signer, self.return_.pack, "disclose", "I consent.")
        letter = lettering.made_for(self.signer, self.return_, text, self.client_person)
        Letter.objects.for_firm(self.firm).filter(pk=letter.pk).update(signed_at="2026-02-10T10:00Z")

    def text(self, printed, password=""):
        reader = PdfReader(io.BytesIO(printing.read(printed)))
        if password:
            reader.decrypt(password)
        return re.sub(r"\s+", " ", " ".join(page.extract_text() for page in reader.pages))


class SetTests(PrintTestCase):
    def test_a_set_has_a_name_and_parts_in_order_and_is_replaced(self):
        first = printing.keep_set(self.signer, "Bank", ["forms", "cover", "nonsense"], True, "COPY")
        self.assertEqual(first.parts, ["forms", "cover"])
        printing.keep_set(self.signer, "Bank", ["summary"], True, "")
        self.assertEqual(self.set("Bank").parts, ["summary"])
        for name, parts in (("", ["cover"]), ("x" * 61, ["cover"]), ("Bank", []), ("Bank", ["all"])):
            with self.subTest(name[:4]), self.assertRaises(BadValue):
                printing.keep_set(self.signer, name, parts, True, "")
        with self.assertRaises(Refused):
            printing.keep_set(self.preparer, "Mine", ["cover"], True, "")
        with self.assertRaises(NotOfThisFirm):
            printing.end_set(self.stranger, first.pk)

    def test_the_usual_ones_come_once(self):
        printing.begin_with_usual(self.signer)
        self.assertEqual(printing.listed(self.firm).count(), 3)


class MadeTests(PrintTestCase):
    def test_a_set_has_its_parts_and_nothing_else(self):
        self.consent()
        text = self.text(self.made("Lender’s copy", recipient="Galena Lamplighters Credit Union"))
        for word in ("For Galena Lamplighters Credit Union", "Summary", "Total income", "61,480", "COPY"):
            self.assertIn(word, text)
        self.assertNotIn("Dear Lorna", text)

    def test_numbers_are_masked_or_in_full_as_the_set_says(self):
        number = self.client_person.number
        self.consent()
        masked, full = (self.text(self.made(name)) for name in ("Lender’s copy", "Practice’s copy"))
        self.assertNotIn(number, masked)
        self.assertIn(number[-4:], masked)
        self.assertIn(number, full)

    def test_authorizations_invoices_and_pages_come_along(self):
        for line in self.again().snapshot.bottom_lines:
            sign_in_office(
                self.administrator, self.return_.pk, self.client_person.pk, line["code"], SIGNATURE, "127.0.0.1", "41706"
            )
        draft = billing.drafted(self.preparer, self.return_.pk)
        billing.add_line(self.preparer, draft.pk, None, "The return", "1", "300")
        draw_invoice(invoice_id=billing.send(self.preparer, draft.pk).pk)
        for name, content in (("a.pdf", pdf(2)), ("b.png", picture())):
            draw_pages(attachment_id=attaching.attach(self.preparer, self.return_.pk, self.paper.pk, name, content).pk)
        without = printing.keep_set(self.signer, "Short", ["summary"], True, "")
        short, whole = self.made(without.name), self.made("Practice’s copy")
        self.assertIn("Invoice 2026-0001", self.text(whole))
        self.assertGreaterEqual(whole.pages, short.pages + 6)  # two authorizations, an invoice, three pages

    def test_a_password_opens_it_and_is_not_kept(self):
        with self.assertRaises(BadValue):
            self.made(password="short")
        printed = self.made(password="kittiwake 7")
        self.assertEqual((printed.password, printed.locked), ("", True))
        self.assertTrue(PdfReader(io.BytesIO(printing.read(printed))).is_encrypted)
        self.assertIn("Total income", self.text(printed, "kittiwake 7"))

    def test_only_what_is_locked_and_ones_own_is_printed(self):
        for who, error in ((self.reviewer, Refused), (self.stranger, NotOfThisFirm)):
            with self.subTest(who.role), self.assertRaises(error):
                printing.ask(who, self.return_.pk, self.set("Client’s copy").pk)
        self.key("wages", "61000.00")
        type(self.return_).objects.for_firm(self.firm).filter(pk=self.return_.pk).update(snapshot=None)
        with self.assertRaisesMessage(Cannot, "Lock the return first"):
            self.made()

    def test_many_in_a_round(self):
        made = rounds.begin(self.preparer, "print", [self.return_.pk], set_id=self.set("Client’s copy").pk)
        rounds.go_on(made.pk)
        self.assertEqual(made.items.get().says, "Client’s copy asked for")


class PageTests(PrintTestCase):
    def test_the_pages_declare_make_and_open(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("print-sets", args=[self.return_.pk])
        self.assertContains(self.client.get(page), "Lender’s copy")
        body = {"set": self.set("Client’s copy").pk, "recipient": "Kept <b>", "password": "x"}
        bad = self.client.post(reverse("make-set", args=[self.return_.pk]), body)
        self.assertContains(bad, "Kept &lt;b&gt;", status_code=422)
        self.assertRedirects(self.client.post(reverse("make-set", args=[self.return_.pk]), body | {"password": ""}), page)
        printed = Printed.objects.for_firm(self.firm).get()
        url = reverse("read-printed", args=[printed.pk])
        self.assertEqual(self.client.get(url).status_code, 404)
        print_set(printed_id=printed.pk)
        self.assertEqual(self.client.get(url)["Content-Type"], "application/pdf")
        self.assertEqual(self.events("set read").count(), 1)
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(url).status_code, 404)
        self.assertEqual(self.client.post(reverse("make-set", args=[self.return_.pk]), body).status_code, 404)

    def test_a_set_in_full_opens_for_those_who_see_numbers(self):
        printed = self.made("Practice’s copy")
        self.client.force_login(self.administrator, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(reverse("read-printed", args=[printed.pk])).status_code, 403)

    def test_the_practice_declares_its_sets(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("practice-sets")
        body = {"name": "Bank", "part": ["cover", "forms"], "at-cover": "2", "at-forms": "1", "masked": "on", "watermark": "COPY"}
        self.assertRedirects(self.client.post(page, body), page)
        self.assertEqual(self.set("Bank").parts, ["forms", "cover"])
        self.assertContains(self.client.post(page, body | {"part": []}), "at least one part", status_code=422)
        self.client.post(reverse("end-set", args=[self.set("Bank").pk]))
        self.assertFalse(printing.listed(self.firm).filter(name="Bank").exists())
