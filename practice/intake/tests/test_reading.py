"""Files into rows and rows into values, with what is wrong about each; nothing of it needs a database."""

import io
import re
from unittest import TestCase

from openpyxl import Workbook

from practice.intake import opening, reading
from taxcore.packs.us import PACK

SALES = reading.target_named(PACK, "1099-b.sales")
WAGES = reading.target_named(PACK, "w2")

OFX = """OFXHEADER:100
DATA:OFXSGML
VERSION:160
SECURITY:NONE
ENCODING:USASCII
CHARSET:1252
COMPRESSION:NONE
OLDFILEUID:NONE
NEWFILEUID:NONE

<OFX><SIGNONMSGSRSV1><SONRS><STATUS><CODE>0<SEVERITY>INFO</STATUS><DTSERVER>20260120<LANGUAGE>ENG</SONRS></SIGNONMSGSRSV1>
<TAX1099MSGSRSV1><TAX1099TRNRS><TRNUID>1<STATUS><CODE>0<SEVERITY>INFO</STATUS><TAX1099RS><RECID>1
<TAX1099B_V100><SRVRTID>1<TAXYEAR>2025<EXTDBINFO_V100>
<PROCDET_V100><FORM8949CODE>A<DTAQD>20250103<DTSALE>20250304<SECNAME>Alder fund<COSTBASIS>100.00<SALESPR>80.00<WASHSALELOSSDISALLOWED>20.00</PROCDET_V100>
<PROCDET_V100><DTVAR>Y<DTSALE>20250305<SECNAME>Birch fund<COSTBASIS>10.00<SALESPR>30.00<LONGSHORT>LONG</PROCDET_V100>
</EXTDBINFO_V100><PAYERADDR><PAYERNAME1>Sandbar Brokers<ADDR1>1 Levee Street<CITY>Galena<STATE>IL<POSTALCODE>61036</PAYERADDR><PAYERID>007654321<RECID>1</TAX1099B_V100>
</TAX1099RS></TAX1099TRNRS></TAX1099MSGSRSV1></OFX>
"""


def csv(*rows):
    return "\n".join(rows).encode()


class SheetTests(TestCase):
    def test_comma_semicolon_and_tab(self):
        for mark in (",", ";", "\t"):
            sheet = reading.read_sheet("csv", csv(f"Payer{mark}Interest", f"River Bend{mark}12.50", f"Lamplighters{mark}3"))
            self.assertEqual((sheet.heads, sheet.rows), (["Payer", "Interest"], [["River Bend", "12.50"], ["Lamplighters", "3"]]))

    def test_a_mark_at_the_start_and_old_encodings(self):
        self.assertEqual(reading.read_sheet("csv", "\ufeffPayer,Interest\nCafé,1".encode()).heads[0], "Payer")
        self.assertEqual(reading.read_sheet("csv", "Payer,Interest\nCafé,1".encode("cp1252")).rows[0][0], "Café")

    def test_a_workbook_with_dates_and_numbers(self):
        book = Workbook()
        for row in (["Sold", "Proceeds"], [__import__("datetime").date(2025, 3, 4), 120.5], [None, None]):
            book.active.append(row)
        made = io.BytesIO()
        book.save(made)
        self.assertEqual(reading.read_sheet("xlsx", made.getvalue()).rows, [["2025-03-04", "120.5"]])

    def test_what_is_no_table_says_so(self):
        for form, content, words in (
            ("csv", b"Payer,Interest", "no row below"), ("csv", b"a\0b\nc", "not a text file"), ("xlsx", b"PK nothing", "cannot be opened"),
            ("csv", csv("a", *["1"] * (opening.MOST_ROWS + 1)), "can be read at once"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(reading.NotReadable, words):
                reading.read_sheet(form, content)


class ColumnTests(TestCase):
    def test_headings_of_brokers_are_known(self):
        heads = [
            "Description of property",
            "Date acquired",
            "Date sold",
            "Gross proceeds",
            "Cost basis",
            "Wash sale loss disallowed",
            "Term",
            "Remarks",
        ]
        self.assertEqual(
            reading.suggest(SALES, heads),
            {0: "description", 1: "acquired", 2: "sold", 3: "proceeds", 4: "basis", 5: "wash_sale", 6: "term"},
        )

    def test_boxes_and_labels_are_known(self):
        self.assertEqual(
            reading.suggest(WAGES, ["Box 1", "box 2", "Employer"]), {0: "wages", 1: "federal_withheld", 2: "employer"}
        )

    def test_a_field_is_proposed_once(self):
        self.assertEqual(list(reading.suggest(WAGES, ["Wages, tips, other compensation", "Box 1"]).values()), ["wages"])


class RowTests(TestCase):
    COLUMNS = {0: "description", 1: "sold", 2: "proceeds", 3: "basis", 4: "term", 5: "wash_sale"}

    def read(self, *row, fixed=None):
        return reading.read_rows(SALES, self.COLUMNS, fixed or {}, [list(row)])[0]

    def test_the_box_follows_from_the_term_and_a_wash_sale_is_adjustment_w(self):
        one = self.read("Alder", "3/4/2025", "$80.00", "100", "Short", "20.00")
        self.assertEqual((one.errors, one.values["box"], one.values["code"], one.values["adjustment"]), ([], "A", "W", "20.00"))
        self.assertEqual(self.read("Alder", "3/4/2025", "80", "100", "long", "", fixed={"reported": "no"}).values["box"], "E")

    def test_what_cannot_be_read_is_told_by_row_field_and_word(self):
        one = self.read("Alder", "the fourth", "lots", "100", "Short", "")
        self.assertEqual(
            [(e["row"], e["field"], e["given"]) for e in one.errors], [(1, "Date sold", "the fourth"), (1, "Proceeds", "lots")]
        )

    def test_a_row_that_tells_no_box_is_an_error(self):
        self.assertIn("Box is missing", self.read("Alder", "3/4/2025", "80", "100", "", "").errors[0]["says"])

    def test_an_empty_row_is_an_error_not_a_paper(self):
        self.assertIn("Nothing in this row", self.read("", "", "", "", "", "").errors[0]["says"])

    def test_two_rows_that_are_just_alike_are_two_records(self):
        row = ["Alder", "3/4/2025", "80", "100", "Short", ""]
        marks = [one.mark for one in reading.read_rows(SALES, self.COLUMNS, {}, [row, row])]
        self.assertEqual(len(set(marks)), 2)

    def test_progress_is_told(self):
        heard = []
        reading.read_rows(SALES, self.COLUMNS, {}, [["Alder", "3/4/2025", "80", "100", "Short", ""]] * 1200, heard.append)
        self.assertEqual(heard, [500, 1000])


class DocumentTests(TestCase):
    def test_ofx_tax_statements_become_papers_with_their_sales(self):
        paper = reading.read_ofx(PACK, OFX.encode())[0]
        self.assertEqual(paper.errors, [])
        self.assertEqual(
            (paper.kind, paper.values["payer"], paper.values["payer_number"]), ("1099-b", "Sandbar Brokers", "00-7654321")
        )
        first, second = paper.values["sales"]
        self.assertEqual((first["box"], first["code"], first["adjustment"], first["acquired"]), ("A", "W", "20.00", "2025-01-03"))
        self.assertEqual((second["box"], second["acquired"], second["sold"]), ("D", "VARIOUS", "2025-03-05"))

    def test_version_2_is_xml_and_reads_alike(self):
        body = re.sub(r"<([A-Z0-9._]+)>([^<\n]*[^<\s])", r"<\1>\2</\1>", OFX[OFX.index("<OFX>") :]).replace(
            "Alder fund", "Alder &amp; Co"
        )
        xml = f'<?xml version="1.0" encoding="UTF-8"?>\n<?OFX OFXHEADER="200" VERSION="211"?>\n{body}'
        one, other = (reading.read_ofx(PACK, text.encode())[0] for text in (OFX.replace("Alder fund", "Alder & Co"), xml))
        self.assertEqual(one.values, other.values)
        self.assertEqual(other.values["sales"][0]["description"], "Alder & Co")

    def test_a_void_statement_and_entities_bring_nothing(self):
        void = OFX.replace("<TAXYEAR>2025", "<TAXYEAR>2025<VOID>Y")
        bomb = OFX[OFX.index("<OFX>") :].replace("<OFX>", '<!DOCTYPE OFX [<!ENTITY a "aaaa">]><OFX>').replace("Birch fund", "&a;")
        with self.assertRaises(reading.NotReadable):
            reading.read_ofx(PACK, void.encode())
        self.assertEqual(reading.read_ofx(PACK, bomb.encode())[0].values["sales"][1]["description"], "&a;")

    def test_what_is_no_ofx_with_tax_statements_says_so(self):
        for content in (b"nothing", b"<OFX></OFX>", OFX.replace("TAX1099B", "BANKACCT").encode()):
            with self.assertRaises(reading.NotReadable):
                reading.read_ofx(PACK, content)

    def test_the_open_format_brings_papers_and_names_what_it_does_not_know(self):
        document = """{"format": "impuesto-return", "version": 1, "pack": "us", "year": 2025,
          "people": [{"id": "taxpayer", "role": "taxpayer"}],
          "papers": [{"id": "a", "kind": "1099-int", "payer": "River Bend", "interest": "12.50"},
                     {"id": "b", "kind": "1099-int", "tulips": "3"}, {"id": "c", "kind": "tulip"}]}"""
        good, odd, unknown = reading.read_document(PACK, document.encode())
        self.assertEqual((good.values["interest"], good.errors), ("12.50", []))
        self.assertIn("no such field", odd.errors[0]["says"])
        self.assertIn("no such paper", unknown.errors[0]["says"])

    def test_other_json_says_what_to_correct(self):
        for content, words in ((b"{", "not JSON"), (b"{}", "does not say")):
            with self.subTest(words), self.assertRaisesRegex(reading.NotReadable, words):
                reading.read_document(PACK, content)
