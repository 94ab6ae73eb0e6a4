"""Documents that come by mail or from the scan folder: kept once, looked at, whose they may be, sorted, discarded."""

import os
import tempfile
import threading
import time
from email.message import EmailMessage
from pathlib import Path
from unittest import mock

from django.core.files.storage import default_storage
from django.test import override_settings
from django.urls import reverse

from practice.clients.models import Household, Person
from practice.clients.restricting import restrict
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.intake import fetching, incoming, scanning
from practice.intake.models import Attachment, Incoming
from practice.intake.tests.pages import text_pdf
from practice.intake.tests.test_attaching import pdf, picture
from practice.returns.opening import open_return
from practice.tests.office import OfficeTestCase
from standins.maildrop import Maildrop
from taxcore.engine import BadValue


class IncomingTestCase(OfficeTestCase):
    def come(self, content=None, look=True, **more):
        row = incoming.receive(self.firm, "mail", more.pop("name", "scan.pdf"), content or pdf(1), **more)
        if look:
            incoming.look(row)
            row.refresh_from_db()
        return row

    def other(self, **more):
        household = Household.objects.create(firm=self.firm, name="Fenn, Odo")
        values = {"first_name": "Odo", "last_name": "Fenn", "email": "odo@fenn.example", "number": "923-11-4470"} | more
        return Person.objects.create(firm=self.firm, household=household, **values)


class WhoseTests(IncomingTestCase):
    def test_by_the_senders_address_a_number_or_a_name(self):
        self.other()
        cases = [
            (text_pdf("Statement"), "LORNA@abernathy.example", "Abernathy, Lorna", "mailed from"),
            (text_pdf("For 921-17-5580 of 2025"), "", "Abernathy, Lorna", "a number"),
            (text_pdf("For 923114470"), "", "Fenn, Odo", "a number"),
            (text_pdf("Dear Odo Fenn, enclosed"), "bank@bank.example", "Fenn, Odo", "their name"),
            (text_pdf("FENN, ODO J"), "", "Fenn, Odo", "their name"),
            (text_pdf("Odo Fenn and Lorna Abernathy"), "", None, ""),
            (text_pdf("An electric bill"), "", None, ""),
        ]
        for number, (content, sender, name, why) in enumerate(cases):
            with self.subTest(number):
                row = self.come(content, sender=sender)
                self.assertEqual((row.state, row.household and row.household.name), ("waiting", name))
                self.assertIn(why, row.why)

    def test_a_picture_is_read_too(self):
        with mock.patch.object(incoming, "opened", side_effect=lambda do, *_, **__: {
            "look_into": ["png", 1], "picture": b"x", "words_in": "Dear Lorna Abernathy"}[do]):  # fmt: skip
            row = self.come(picture())
        self.assertEqual((row.household, row.line), (self.household, "Dear Lorna Abernathy"))

    def test_a_virus_is_refused_and_a_scanner_that_is_away_is_waited_for(self):
        with mock.patch.object(scanning, "is_wanted", return_value=True):
            with mock.patch.object(scanning, "found_in", side_effect=scanning.ScannerAway):
                row = self.come()
            self.assertEqual(row.state, "reading")
            with mock.patch.object(scanning, "found_in", return_value="Eicar"):
                incoming.look(row)
        row.refresh_from_db()
        self.assertEqual(row.state, "refused")
        with self.assertRaises(Cannot):
            incoming.sort(self.preparer, row.token, self.return_.pk)
        with self.assertRaises(Cannot):
            incoming.picture_of(self.preparer, row.token)


class SortingTests(IncomingTestCase):
    def test_the_same_file_waits_once_and_again_after_it_was_sorted(self):
        content = pdf(1)
        first = self.come(content)
        self.assertEqual(self.come(content), first)
        incoming.sort(self.preparer, first.token, self.return_.pk)
        self.assertNotEqual(self.come(content), first)

    def test_sorted_it_is_a_document_of_the_return_beside_no_paper_yet(self):
        content = pdf(2)
        row = self.come(content, sender="lorna@abernathy.example")
        self.assertEqual(incoming.returns_of(self.preparer, row), [self.return_])
        with self.captureOnCommitCallbacks(execute=True):
            made = incoming.sort(self.preparer, row.token, self.return_.pk)
        self.assertIsNone(made.paper_id)
        self.assertFalse(default_storage.exists(row.file))
        with self.assertRaisesRegex(Cannot, "sorted already"):
            incoming.sort(self.preparer, row.token, self.return_.pk)
        with self.assertRaises(Refused):
            incoming.sort(self.reviewer, self.come(pdf(3)).token, self.return_.pk)
        with self.assertRaises(NotOfThisFirm):
            incoming.sort(self.stranger, self.come(pdf(4)).token, self.return_.pk)

    def test_by_a_typed_name(self):
        other = self.other()
        made = open_return(self.preparer, other.household_id, 2025, [(other.pk, "taxpayer")])
        for text in ("Fenn", "fenn, odo", "Fenn, Odo, 2025"):
            self.assertEqual(incoming.named(self.preparer, text), made, text)
        for text, says in (
            ("", "No return"),
            ("Nobody", "No return"),
            ("Fenn, Odo, 2019", "No return"),
            ("n", "Several clients"),
        ):
            with self.subTest(text), self.assertRaises(BadValue) as refused:
                incoming.named(self.preparer, text)
            self.assertIn(says, refused.exception.says)

    def test_discarded_the_file_is_gone_and_that_it_came_is_not(self):
        row = self.come()
        with self.assertRaisesRegex(BadValue, "Why"):
            incoming.discard(self.preparer, row.token, "")
        with self.captureOnCommitCallbacks(execute=True):
            incoming.discard(self.preparer, row.token, "advertising")
        row.refresh_from_db()
        self.assertEqual((row.state, row.says), ("discarded", "advertising"))
        self.assertFalse(default_storage.exists(row.file))

    def test_what_is_a_restricted_clients_is_seen_by_their_confidants_only(self):
        self.come(sender="lorna@abernathy.example")
        self.assertEqual(incoming.waiting(self.preparer).count(), 1)
        restrict(self.administrator, self.household.pk, [self.administrator.pk])
        self.assertEqual(incoming.waiting(type(self.preparer).objects.get(pk=self.preparer.pk)).count(), 0)

    def test_the_page(self):
        row = self.come(text_pdf("Dear Lorna Abernathy"), sender="bank@bank.example", subject="Your <form>")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("incoming"))
        self.assertContains(page, "Your &lt;form&gt;")
        self.assertContains(page, "Abernathy, Lorna 2025")
        self.assertEqual(self.client.get(reverse("incoming-page", args=[row.token]))["Content-Type"], "image/png")
        wrong = self.client.post(reverse("sort-incoming", args=[row.token]), {"client": "Nobody"})
        self.assertContains(wrong, "No return of a client", status_code=422)
        self.client.post(reverse("sort-incoming", args=[row.token]), {"client": "Abernathy, Lorna, 2025"})
        self.assertEqual(Attachment.objects.for_firm(self.firm).get().of, self.return_)
        self.assertContains(self.client.get(reverse("incoming")), "Nothing waits here")
        other = self.come(pdf(1))
        self.client.post(reverse("discard-incoming", args=[other.token]), {"why": "empty page"})
        self.assertFalse(incoming.waiting(self.preparer).exists())


class MailTests(IncomingTestCase):
    def mail(self, *files, to=None, sender="Lorna <lorna@abernathy.example>"):
        made = EmailMessage()
        made["From"], made["To"], made["Subject"] = sender, to or fetching.address_of(self.firm), "My papers"
        made.set_content("Here they are.")
        for name, content in files:
            made.add_attachment(content, maintype="application", subtype="octet-stream", filename=name)
        return made.as_bytes()

    def test_its_documents_are_taken_and_what_is_none_is_written_down(self):
        made = fetching.take_mail(self.mail(("../a.pdf", pdf(1)), ("b.exe", b"MZ"), ("c.png", picture())))
        self.assertEqual([(row.name, row.sender, row.subject) for row in made],
                         [("a.pdf", "lorna@abernathy.example", "My papers"), ("c.png", "lorna@abernathy.example", "My papers")])  # fmt: skip
        self.assertIn("b.exe", self.events("document not accepted").get().says)
        self.assertEqual(fetching.take_mail(self.mail()), [])
        self.assertEqual(self.events("mail without documents").count(), 1)
        self.assertEqual(fetching.take_mail(self.mail(("a.pdf", pdf(2)), to="documents-99999@larkspurrow.example")), [])
        self.assertEqual(fetching.take_mail(b"\x00\xff not a mail"), [])

    def test_from_a_mailbox_by_pop3_and_gone_from_it_only_then(self):
        folder = Path(tempfile.mkdtemp())
        server = Maildrop(folder, "only for tests", 0)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        (folder / "1.eml").write_bytes(self.mail(("a.pdf", pdf(1))))
        (folder / "2.eml").write_bytes(self.mail(("b.pdf", pdf(2))))
        with override_settings(MAIL_IN=f"pop://documents@127.0.0.1:{server.server_address[1]}", MAIL_IN_KEY="only for tests"):
            with mock.patch.object(incoming, "receive", side_effect=OSError("the disk is full")):
                self.assertEqual(fetching.fetch_mail(), 0)
            self.assertEqual(len(list(folder.iterdir())), 2)
            self.assertEqual(fetching.fetch_mail(), 2)
            self.assertEqual(list(folder.iterdir()), [])
            self.assertEqual(fetching.fetch_mail(), 0)
        self.assertEqual(Incoming.objects.for_firm(self.firm).count(), 2)
        with override_settings(MAIL_IN="pop://documents@127.0.0.1:1"):
            self.assertEqual(fetching.fetch_mail(), 0)
        self.assertEqual(fetching.fetch_mail(), 0)


class FullTests(IncomingTestCase):
    def test_what_nobody_sorts_is_not_added_to_for_ever(self):
        self.come(pdf(1))
        folder = Path(tempfile.mkdtemp()) / str(self.firm.pk)
        folder.mkdir()
        (folder / "a.pdf").write_bytes(pdf(2))
        os.utime(folder / "a.pdf", (1, 1))
        with mock.patch.object(incoming, "MOST_WAITING", 1), override_settings(SCAN_FOLDER=str(folder.parent)):
            self.assertEqual(fetching.fetch_scans(), 0)
            self.assertIsNone(fetching.take_mail(MailTests.mail(self, ("b.pdf", pdf(3)))))
        self.assertEqual(Incoming.objects.for_firm(self.firm).count(), 1)
        self.assertTrue((folder / "a.pdf").exists())


class FolderTests(IncomingTestCase):
    def test_scans_are_taken_once_they_are_written_and_others_are_laid_aside(self):
        root = Path(tempfile.mkdtemp())
        with override_settings(SCAN_FOLDER=str(root)):
            self.assertEqual(fetching.fetch_scans(), 0)
            folder = root / str(self.firm.pk)
            for name, content, age in (
                ("a.pdf", pdf(1), 60),
                ("b.txt", b"hello", 60),
                ("growing.pdf", pdf(2), 0),
                (".tmp", b"x", 60),
            ):
                path = folder / name
                path.write_bytes(content)
                os.utime(path, (time.time() - age,) * 2)
            (folder / "link.pdf").symlink_to("/etc/passwd")
            self.assertEqual(fetching.fetch_scans(), 1)
            left = {one.name for one in folder.iterdir()}
        self.assertEqual(left, {"growing.pdf", ".tmp", "link.pdf", "not-accepted"})
        self.assertEqual(Incoming.objects.for_firm(self.firm).get().name, "a.pdf")
        self.assertEqual(self.events("document not accepted").count(), 1)
