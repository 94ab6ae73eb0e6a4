"""A practice that makes British returns, in a browser: foreign tax with limits set, gains below and above the thresholds, filed."""

import base64
import io
import re
from unittest import TestCase

import lxml.etree as etree
from pypdf import PdfReader

from ops.tests.running import RunningPractice, Walk


class BritishTests(TestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.practice = RunningPractice(packs="uk uk-home uk-ct")
        cls.addClassCleanup(cls.practice.destroy)
        cls.practice.start()

    def walk(self) -> Walk:
        made = Walk(self.practice)
        self.addCleanup(made.quit)
        made.sign_in("sunniva")
        return made

    def return_of(self, name: str) -> int:
        of = "select r.id from returns_return r join clients_household h on h.id = r.household_id"
        return int(self.practice.sql(f"{of} where h.name like '{name}%'"))

    def paper(self, return_id: int, kind: str, having: str = "") -> str:
        of = f"select id from returns_paper where of_id = {return_id} and kind = '{kind}' and values::text like '%{having}%'"
        return f"/returns/{return_id}/papers/{self.practice.sql(of)}"

    def test_dividends_of_three_countries_a_limit_and_the_credit_as_a_whole(self):
        """631.50 of 631.56, 357 of 595 and 285.75 of 502.44 by the agreements; 5% of Germany leaves 95.25; then 1,000 by hand."""
        return_id, walk = self.return_of("Weir"), self.walk()
        walk.go(f"/returns/{return_id}/forms?at=uk.foreign-credit.a")
        walk.sees("Foreign credit line a · 1,274.25")
        walk.go(self.paper(return_id, "foreign", "Meise"))
        walk.key("Limit of the foreign tax in percent, set here", "5")
        walk.sees("Enter why the limit of the foreign tax is set here.")
        walk.key("Why the limit is set", "Article 10(2)(a)")
        walk.go(f"/returns/{return_id}/forms?at=uk.foreign-credit.a")
        walk.sees("Foreign credit line a · 1,083.75")
        walk.press("Override this line")
        walk.find("#ov-amount").send_keys("1000")
        walk.find("#ov-reason").send_keys("As HMRC agreed")
        walk.press("Set")
        walk.sees("Foreign credit line a · 1,000", "As HMRC agreed", "1,083.75")
        self.assertEqual(walk.complaints(), [])

    def test_a_guided_answer_and_boxes_lead_to_gains_below_then_above_the_threshold(self):
        return_id, walk = self.return_of("Larkin"), self.walk()
        walk.go(f"/returns/{return_id}/guide?q=gains")
        walk.sees("Was anything else sold or given away")
        walk.press("Yes, this many")
        walk.sees("Papers so far", "Capital gains")
        walk.go(self.paper(return_id, "gains"))
        walk.press("add a row")
        for label, value in (("Asset", "A painting"), ("Kind of asset", "Other"), ("Date of disposal", "1/8/2025"),
                             ("Proceeds", "12,000"), ("Allowable costs", "9,500")):  # fmt: skip
            walk.key(label, value)
        walk.go(f"/returns/{return_id}/review")
        walk.sees("Gains and proceeds are below both thresholds")
        walk.go(f"/returns/{return_id}/sign/attachments")
        self.assertNotIn("Capital gains computation", walk.text())
        walk.go(self.paper(return_id, "gains"))
        walk.key("Proceeds", "13,000")
        walk.go(f"/returns/{return_id}/forms?at=uk.sa108.17")
        walk.sees("SA108 line 17 · 3,500")
        walk.go(f"/returns/{return_id}/sign/attachments")
        walk.sees("Capital gains computation")
        self.assertEqual(walk.complaints(), [])

    def test_signed_filed_and_the_computation_read_back_from_what_arrived(self):
        return_id, walk = self.return_of("Osei-Hart"), self.walk()
        walk.go(f"/returns/{return_id}/review")
        walk.press("First review done")
        walk.sees("First review by Sunniva Holt")
        walk.go(f"/returns/{return_id}/sign")
        walk.press("Lock the return")
        walk.sees("Locked")
        walk.sign_in_office(return_id, 1, lambda: self.verify(walk))
        walk.go(f"/returns/{return_id}/sign")
        walk.press("E-file")
        walk.until(lambda: "accepted ·" in walk.text(), 60)
        sent = self.practice.sql("select document from authority_filing order by id desc limit 1", "authority")
        document = etree.fromstring(bytes.fromhex(sent.removeprefix("\\x")))
        enclosed = document.find(".//{*}Attachment")
        words = PdfReader(io.BytesIO(base64.b64decode(enclosed.text))).pages[0].extract_text()
        for text in ("3 Fell Terrace", "140,275", "63,900", "28,464"):
            self.assertIn(text, words)
        self.assertIsNone(re.search(r"Federal|Illinois|IRS", walk.text()))
        self.assertEqual(walk.complaints(), [])

    def verify(self, walk: Walk) -> None:
        walk.find("[name=document]").send_keys("Driving")
        walk.find("[name=issued_by]").send_keys("DVLA")
        walk.find("[name=expires]").send_keys("30/6/2029")
        walk.find("[name=ending]").send_keys("4417")
        walk.press("Record it")
        walk.sees("ends 4417")
