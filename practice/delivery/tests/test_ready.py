"""What is ready to leave, for many at once; sets shared in the portal, previewed, and as a PDF for each part."""

import io
import zipfile
from datetime import date
from unittest import mock

import icalendar
from django.core import mail
from django.urls import reverse
from pypdf import PdfReader

from practice.delivery import packaging, printing
from practice.delivery.models import Package, Printed
from practice.delivery.tasks import build
from practice.delivery.tests.test_printing import PrintTestCase
from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State, Submission
from practice.firm.refusals import Cannot
from practice.portal.models import PortalLink
from practice.portal.tasks import mail_link
from practice.returns import rounds
from practice.returns.entry import add_paper
from practice.returns.models import Round
from practice.signing import locking
from practice.signing.requesting import sign_in_office
from practice.tests.office import SIGNATURE


class ReadyTests(PrintTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        for code in ("us", "us-il"):
            sign_in_office(self.administrator, self.return_.pk, self.client_person.pk, code, SIGNATURE, None, "41706")

    def do(self, act, **more):
        self.client.post(reverse("ready"), {"act": act, "of": [self.return_.pk]} | more)
        made = Round.objects.for_firm(self.firm).latest("pk")
        rounds.go_on(made.pk)
        return made.items.get()

    def listed(self, which):
        return "Abernathy" in self.client.get(reverse("ready"), {"which": which}).content.decode().split("<main")[1]

    def accept(self):
        for code in ("us", "us-il"):
            row = Submission.objects.for_firm(self.firm).get(of=self.return_, authority=code, state=State.QUEUED)
            row.state, row.receipt = State.SENT, "R-1"
            row.save()
            settle(row.pk, Answer("accepted", [], {}))

    def test_from_signed_to_delivered_in_rounds(self):
        self.assertTrue(self.listed("file"))
        item = self.do("file")
        self.assertTrue(item.worked, item.says)
        self.assertEqual(item.says, "US, US-IL on the way")
        self.assertFalse(self.listed("file"))
        self.accept()
        self.assertTrue(self.listed("package"))
        self.assertEqual(self.do("deliver").says, "There is no package yet.")
        self.assertEqual(self.do("package").says, "being assembled")
        build(package_id=Package.objects.for_firm(self.firm).get().pk)
        self.assertTrue(self.listed("deliver"))
        self.assertEqual(self.do("package").says, "assembled already")
        self.assertEqual(self.do("deliver").says, "delivered")
        self.assertEqual(self.do("deliver").says, "delivered already")
        self.assertEqual(self.again().stage, "done")

    def test_what_was_rejected_is_offered_once_it_was_changed(self):
        self.do("file")
        row = Submission.objects.for_firm(self.firm).get(of=self.return_, authority="us")
        row.state, row.receipt = State.SENT, "R-1"
        row.save()
        settle(row.pk, Answer("rejected", [{"rule": "A-0301", "message": "x", "path": ""}], {}))
        self.assertFalse(self.listed("file"))
        self.key("employer_street", "5 Slipway")
        locking.lock_figures(self.signer, self.return_.pk)
        self.assertTrue(self.listed("file"))

    def test_sets_for_many(self):
        self.assertTrue(self.do("print", set=self.set("Client’s copy").pk).worked)
        self.assertEqual(Printed.objects.for_firm(self.firm).get().set.name, "Client’s copy")

    def test_what_cannot_be_done_is_said(self):
        page = reverse("ready")
        for given, says in (({"act": "burn", "of": [self.return_.pk]}, "Choose what to do"), ({"act": "file"}, "at least one"),
                            ({"act": "print", "of": [self.return_.pk], "set": "0"}, "Choose a print set")):  # fmt: skip
            self.assertContains(self.client.post(page, given), says, status_code=422)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.post(page, {"act": "file", "of": [self.return_.pk]}).status_code, 403)
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertFalse(self.listed("locked"))


class SharedTests(PrintTestCase):
    def test_a_shared_set_is_told_taken_and_written_down(self):
        made = self.made()
        printing.share(self.signer, made.pk)
        printing.share(self.signer, made.pk)
        link = PortalLink.objects.for_firm(self.firm).get(purpose="set")
        mail_link(link_id=link.pk)
        self.assertIn("A document for you", mail.outbox[-1].subject)
        session = self.client.session
        session["portal"] = link.pk
        session.save()
        self.assertContains(self.client.get(reverse("portal")), "Documents for you")
        answer = self.client.get(reverse("portal-printed", args=[made.pk]))
        self.assertTrue(answer.content.startswith(b"%PDF-"))
        self.assertEqual(made.downloads.get().client, self.client_person)
        self.assertEqual(self.client.get(reverse("portal-printed", args=[self.made("Practice’s copy").pk])).status_code, 404)
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("print-sets", args=[self.return_.pk])), "downloaded by Lorna")

    def test_what_goes_to_an_authority_is_not_shared(self):
        made = self.made()
        Printed.objects.for_firm(self.firm).filter(pk=made.pk).update(authority="us")
        with self.assertRaises(Cannot):
            printing.share(self.signer, made.pk)

    def test_a_preview_keeps_nothing_and_says_so_on_its_pages(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("preview-set", args=[self.return_.pk])
        answer = self.client.get(page, {"set": self.set("Client’s copy").pk})
        self.assertIn("PREVIEW", PdfReader(io.BytesIO(answer.content)).pages[0].extract_text())
        self.assertFalse(Printed.objects.for_firm(self.firm).exists())
        self.assertEqual(self.client.get(page, {"set": "0"}).status_code, 404)
        self.client.force_login(self.administrator, "django.contrib.auth.backends.ModelBackend")  # who sees no number in full
        self.assertEqual(self.client.get(page, {"set": self.set("Practice’s copy").pk}).status_code, 403)

    def test_a_pdf_for_each_part(self):
        printing.keep_set(self.signer, "Apart", ["summary", "advice", "by hand"], True, "", True)
        made = self.made("Apart")
        self.assertEqual(made.file_name, "Apart-2025.zip")
        with zipfile.ZipFile(io.BytesIO(printing.read(made))) as packed:
            self.assertEqual(packed.namelist(), ["01 Summary with a chart.pdf", "03 Signature page.pdf"])
            pages = [len(PdfReader(io.BytesIO(packed.read(name))).pages) for name in packed.namelist()]
        self.assertEqual(sum(pages), made.pages)


class ToComeTests(PrintTestCase):
    def test_installments_of_next_year_are_in_the_letter_and_the_calendar(self):
        add_paper(self.preparer, self.return_.pk, "next-year", "", {"make": "yes", "each": "500"})
        snapshot = locking.lock_figures(self.signer, self.return_.pk)
        link = PortalLink.objects.create(
            firm=self.firm, of=self.again(), client=self.client_person, token_digest="x", expires_at="2030-01-01T00:00Z"
        )
        session = self.client.session
        session["portal"] = link.pk
        session.save()
        with mock.patch("practice.web.client_pages._shown", return_value=snapshot):
            found = icalendar.Calendar.from_ical(self.client.get(reverse("portal-dates")).content)
        days = {str(one["summary"]): one["dtstart"].dt for one in found.walk("VEVENT")}
        self.assertEqual(
            sorted(days.values()), [date(2026, 4, 15), date(2026, 6, 15), date(2026, 9, 15), date(2027, 1, 15)], days
        )
        self.assertIn("Pay Estimated tax 2026, first installment $500", days)
        self.assertIn("Estimated tax 2026, fourth installment, by January 15, 2027 $500", self.text(self.made()))


class PackageAgainTests(PrintTestCase):
    def test_a_package_before_acceptance_is_refused(self):
        with self.assertRaises(packaging.CannotDeliver):
            packaging.make_one(self.signer, self.return_.pk)
