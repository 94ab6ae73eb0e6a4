"""Files that were made to hurt whoever opens them: refused within the limits, and the one who asked lives on."""

import io
import os
import signal
import subprocess
import sys
import time
import zipfile
from pathlib import Path
from unittest import TestCase

from PIL import Image

from practice.intake import confined
from practice.intake.confined import NotOpened, opened
from practice.intake.tests.test_attaching import pdf
from practice.intake.tests.test_reading import csv


def heavy_pdf(operations, size=(612, 792)):
    """One page whose drawing takes that many strokes: small once compressed, slow to draw."""
    import zlib

    drawing = zlib.compress(b"0 0 m 600 700 l S\n" * operations)
    parts = [
        b"<< /Type /Catalog /Pages 2 0 R >>", b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 %d %d] /Contents 4 0 R >>" % size,
        b"<< /Length %d /Filter /FlateDecode >>\nstream\n%s\nendstream" % (len(drawing), drawing),
    ]  # fmt: skip
    body, places = b"%PDF-1.4\n", []
    for number, part in enumerate(parts, 1):
        places.append(len(body))
        body += b"%d 0 obj\n%s\nendobj\n" % (number, part)
    table = b"".join(b"%010d 00000 n \n" % place for place in places)
    return (
        body
        + b"xref\n0 5\n0000000000 65535 f \n"
        + table
        + b"trailer << /Size 5 /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF" % len(body)
    )


def workbook(rows, sheet=None, head=""):
    """A tiny file that unpacks to many cells."""
    cells = "<row>" + "<c><v>1</v></c>" * 50 + "</row>"
    body = (
        sheet
        or f'<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><dimension ref="A1:AX{rows}"/><sheetData>{cells * rows}</sheetData></worksheet>'
    )
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(
            "[Content_Types].xml",
            head
            + '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>',
        )
        packed.writestr(
            "_rels/.rels",
            '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>',
        )
        packed.writestr(
            "xl/workbook.xml",
            '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="a" sheetId="1" r:id="r1"/></sheets></workbook>',
        )
        packed.writestr(
            "xl/_rels/workbook.xml.rels",
            '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
        )
        packed.writestr("xl/worksheets/sheet1.xml", body)
    return made.getvalue()


class LimitTests(TestCase):
    def refused(self, words, do, content, **given):
        with self.assertRaisesRegex(NotOpened, words):
            opened(do, content, **given)

    def test_what_is_well_is_opened(self):
        self.assertEqual(opened("look_into", pdf(3)), ["pdf", 3])
        self.assertEqual(opened("sheet", csv("a,b", "1,2"), form="csv")["rows"], [["1", "2"]])
        self.assertEqual(len(opened("sheet", workbook(3), form="xlsx")["rows"]), 2)
        self.assertEqual(opened("picture", pdf(1), kind="pdf", page=1, turn=90)[:4], b"\x89PNG")

    def test_a_page_that_takes_minutes_to_draw_is_given_up(self):
        content = heavy_pdf(3_000_000)
        self.assertLess(len(content), 200_000)
        self.refused("more time", "picture", content, seconds=1, kind="pdf", page=1, turn=0)

    def test_a_huge_page_is_drawn_small(self):
        huge = heavy_pdf(10, size=(60_000, 60_000))
        self.assertEqual(opened("picture", huge, kind="pdf", page=1, turn=0)[:4], b"\x89PNG")

    def test_a_small_workbook_of_millions_of_cells_is_refused(self):
        content = workbook(60_000)
        self.assertLess(len(content), 300_000)
        self.refused("more than 50,000 cells", "sheet", content, form="xlsx", most=50_000)
        self.refused("more time", "sheet", content, form="xlsx", seconds=1)

    def test_entities_are_refused(self):
        bomb = (
            '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;">]><worksheet>&b;</worksheet>'
        )
        self.refused("entities", "sheet", workbook(1, sheet=bomb), form="xlsx")

    def test_damaged_files_of_all_kinds_are_refused_with_a_reason(self):
        for do, given in (("look_into", {}), ("sheet", {"form": "xlsx"}), ("ofx", {})):
            for content in (b"", b"%PDF-1.4 nothing", b"PK\x03\x04", b"\x89PNG\r\n\x1a\n", bytes(range(256)) * 40):
                with self.subTest(do, content=content[:6]), self.assertRaises(NotOpened):
                    opened(do, content, **given)


class CopiesTests(TestCase):
    """The process that others are copied from."""

    def setUp(self):
        opened("mail", b"To: a@b.example")
        self.process = confined._COPIES.process

    def children(self):
        """Copies that are at work."""
        return Path(f"/proc/{self.process.pid}/task/{self.process.pid}/children").read_text().split()

    def test_it_is_there_for_the_next_file_whatever_became_of_the_last_one(self):
        with self.assertRaisesRegex(NotOpened, "more time"):
            opened("picture", heavy_pdf(3_000_000), seconds=1, kind="pdf", page=1, turn=0)
        self.assertEqual(opened("look_into", pdf(2)), ["pdf", 2])
        self.assertIs(confined._COPIES.process, self.process)

    def test_the_largest_picture_is_drawn_whatever_was_loaded_before(self):
        opened("look_into", pdf(1))
        opened("sheet", workbook(2), form="xlsx")
        made = io.BytesIO()
        Image.new("1", (7_700, 7_700)).save(made, "PNG")
        self.assertEqual(opened("picture", made.getvalue(), seconds=20, kind="png", page=1, turn=0)[:4], b"\x89PNG")
        with self.assertRaisesRegex(NotOpened, "memory"):
            opened("picture", made.getvalue(), seconds=20, megabytes=100, kind="png", page=1, turn=0)

    def test_one_that_was_killed_is_started_anew(self):
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()
        self.assertEqual(opened("look_into", pdf(2)), ["pdf", 2])
        self.assertIsNot(confined._COPIES.process, self.process)

    def test_it_keeps_no_copy_that_nobody_waits_for(self):
        ours, theirs = confined.socket.socketpair()
        with ours, theirs:
            confined._COPIES.hand_over({"do": "mail", "megabytes": 700, "seconds": 1}, theirs)  # never told the end of the file
            self.until(self.children)
            self.until(lambda: not self.children())

    def test_it_knows_nothing_of_ours(self):
        around = Path(f"/proc/{self.process.pid}/environ").read_bytes()
        self.assertNotIn(b"IMPUESTO", around)
        open_ones = [os.readlink(one) for one in Path(f"/proc/{self.process.pid}/fd").iterdir()]
        self.assertEqual([one.split(":")[0] for one in sorted(open_ones)], ["/dev/null", "/dev/null", "socket"])

    def test_a_process_of_ours_has_its_own_and_takes_it_along_when_it_ends(self):
        program = "from practice.intake import confined; confined.opened('mail', b''); print(confined._COPIES.process.pid)"
        done = subprocess.run(
            [sys.executable, "-c", program], cwd=Path(__file__).parents[3], capture_output=True, text=True, check=True
        )
        other = int(done.stdout)
        self.assertNotEqual(other, self.process.pid)
        self.until(lambda: not Path(f"/proc/{other}").exists())

    def until(self, holds):
        until = time.monotonic() + 20
        while not holds():
            self.assertLess(time.monotonic(), until)
            time.sleep(0.02)
