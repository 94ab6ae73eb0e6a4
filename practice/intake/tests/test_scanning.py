"""Files are looked through before anybody opens them; one with a virus is not handed out; while the scanner is away they wait."""

import socket
import struct
import threading
from unittest import mock

from django.test import override_settings
from django.urls import reverse

from practice.firm.refusals import Cannot
from practice.intake import arriving, attaching, drawing, importing, scanning
from practice.intake.models import Attachment
from practice.intake.tasks import draw_pages
from practice.intake.tests.test_attaching import pdf
from practice.tests.office import OfficeTestCase
from standins.scanner import Scanner

VIRUS = b"%PDF-1.4 EICAR-STANDARD-" + b"ANTIVIRUS-TEST-FILE"


class ScanningTests(OfficeTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        scanner = Scanner(0)
        threading.Thread(target=scanner.serve_forever, daemon=True).start()
        cls.addClassCleanup(scanner.server_close)
        cls.addClassCleanup(scanner.shutdown)
        cls.port = scanner.server_address[1]
        cls.enterClassContext(override_settings(SCANNER=f"127.0.0.1:{cls.port}"))

    def attached(self, content):
        return attaching.attach(self.preparer, self.return_.pk, self.paper.pk, "page.pdf", content)

    def fresh(self, row):
        return Attachment.objects.for_firm(self.firm).get(pk=row.pk)

    def test_the_scanner_speaks_as_the_real_one_does(self):
        for sent, says in ((b"zPING\0", b"PONG\0"), (b"zHELLO\0", b"UNKNOWN COMMAND\0"),
                           (b"zINSTREAM\0" + struct.pack(">I", 60_000_000), b"INSTREAM size limit exceeded. ERROR\0")):  # fmt: skip
            with socket.create_connection(("127.0.0.1", self.port)) as line:
                line.sendall(sent)
                self.assertEqual(line.recv(100), says)

    def test_a_clean_file_of_several_chunks_is_opened(self):
        self.assertEqual(scanning.found_in(b"x" * 700_000), "")
        row = self.attached(pdf(1))
        draw_pages(attachment_id=row.pk)
        row = self.fresh(row)
        self.assertEqual((row.state, row.scanned_at is not None, row.says), ("ready", True, ""))
        self.assertTrue(attaching.content_of(row).startswith(b"%PDF"))

    def test_a_virus_is_named_not_opened_and_not_handed_out(self):
        row = self.attached(VIRUS)
        with self.assertRaisesMessage(Cannot, "not scanned"):
            attaching.content_of(row)
        draw_pages(attachment_id=row.pk)
        row = self.fresh(row)
        self.assertEqual((row.state, row.infected, row.pages), ("refused", "Eicar-Test-Signature", 0))
        self.assertEqual(self.again().papers.get(pk=self.paper.pk).attached, 0)
        with self.assertRaisesMessage(Cannot, "not handed out"):
            attaching.content_of(row)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(reverse("original", args=[self.return_.pk, row.token])).status_code, 409)
        self.assertContains(
            self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk])), "found Eicar-Test-Signature"
        )

    def test_while_the_scanner_is_away_the_file_waits_and_then_goes_on(self):
        row = self.attached(pdf(1))
        with override_settings(SCANNER="127.0.0.1:1"):
            draw_pages(attachment_id=row.pk)
        row = self.fresh(row)
        self.assertEqual((row.state, row.pages), ("reading", 0))
        self.assertIn("does not answer", row.says)
        draw_pages(attachment_id=row.pk)
        self.assertEqual(self.fresh(row).state, "ready")

    def test_an_answer_that_is_none_is_no_clean_file(self):
        with socket.create_server(("127.0.0.1", 0)) as server:
            threading.Thread(target=self._mumble, args=[server], daemon=True).start()
            with override_settings(SCANNER=f"127.0.0.1:{server.getsockname()[1]}"), self.assertRaises(scanning.ScannerAway):
                scanning.found_in(b"x")

    def _mumble(self, server):
        line, _ = server.accept()
        with line:
            line.recv(100)
            line.sendall(b"stream: maybe\0")

    def test_without_a_scanner_files_are_opened_as_before(self):
        with override_settings(SCANNER=""):
            row = self.attached(pdf(1))
            while drawing.step(self.fresh(row)):
                pass
        self.assertEqual(self.fresh(row).state, "ready")


class FilesThatAreReadTests(OfficeTestCase):
    """Imports and lists of clients are looked through too, before the process that opens them sees them."""

    def test_nothing_is_read_of_what_holds_a_virus_and_a_scanner_that_is_away_is_waited_for(self):
        with mock.patch.object(scanning, "is_wanted", return_value=True):
            for found, fails in (({"return_value": "Eicar"}, False), ({"side_effect": scanning.ScannerAway}, True)):
                row = importing.bring(self.preparer, self.return_.pk, "b.csv", b"Payer,Interest\nFerry,12.50", "1099-int")
                came = arriving.bring(self.preparer, "a.json", b"{}")
                with mock.patch.object(scanning, "found_in", **found):
                    for read, one in ((importing.read, row), (arriving.read, came)):
                        if fails:
                            with self.assertRaises(scanning.ScannerAway):
                                read(one)
                        else:
                            self.assertEqual(read(one).state, "failed")
