"""The statement that stands behind a broker's totals: chosen as such, looked at, and sent with the filing."""

import base64
import hashlib

from django.urls import reverse
from lxml import etree

from practice.intake import attaching, enclosing
from practice.intake.tasks import draw_pages
from practice.intake.tests.pages import text_pdf
from practice.intake.tests.test_attaching import pdf
from practice.returns import frozen
from practice.returns.computing import result_of
from practice.returns.entry import add_paper
from practice.signing.locking import lock_figures
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue

BROKER = {
    "payer": "Sandbar Brokers", "payer_number": "00-3090128",
    "summaries": [{"box": "B", "proceeds": "9000.00", "basis": "8000.00"}],
}  # fmt: skip


class StatementTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        _, self.broker = add_paper(self.preparer, self.return_.pk, "1099-b", "taxpayer", BROKER)

    def attach(self, content, paper=None):
        row = attaching.attach(self.preparer, self.return_.pk, (paper or self.broker).pk, "2025 statement.pdf", content)
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()
        return row

    def choose(self, row, chosen=True):
        return enclosing.choose_statement(self.preparer, self.return_.pk, row.token, chosen)

    def said(self):
        return {one.code for one in result_of(self.again()).findings}

    def test_a_page_beside_the_paper_is_not_the_statement_until_it_is_chosen(self):
        row = self.attach(pdf(1))
        self.assertIn("us.sale.summary-unattached", self.said())
        self.choose(row)
        self.assertNotIn("us.sale.summary-unattached", self.said())
        self.choose(row, False)
        self.assertIn("us.sale.summary-unattached", self.said())

    def test_words_that_lack_the_brokers_name_or_number_raise_a_doubt_and_a_scan_none(self):
        cases = [
            ("Sandbar Brokers, payer 00-3090128, proceeds", ""),
            ("Sandbar Brokers, proceeds", "it does not show the number of Sandbar Brokers"),
            ("Electric bill of March", "it does not show the name and the number of Sandbar Brokers"),
        ]
        for words, doubt in cases:
            with self.subTest(words):
                self.assertEqual(self.choose(self.attach(text_pdf(words))).doubt, doubt)
        self.assertEqual(self.choose(self.attach(pdf(2))).doubt, "")

    def test_it_goes_with_the_filed_document_and_the_page_lists_it(self):
        content = pdf(2)
        self.choose(self.attach(content))
        lock_figures(self.signer, self.return_.pk)
        snapshot = self.again().snapshot
        root = etree.fromstring(frozen.document_of(snapshot, "us"))
        (one,) = root.findall(".//{*}Attachments/{*}Attachment")
        self.assertEqual(base64.b64decode(one.text), content)
        self.assertEqual(one.get("sha256"), hashlib.sha256(content).hexdigest())
        self.assertEqual(etree.fromstring(frozen.document_of(snapshot, "us-il")).findall(".//{*}Attachment"), [])
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("sign", args=[self.return_.pk]))
        self.assertContains(page, "Attached: 2025 statement.pdf, 2 pages, behind the totals of Sandbar Brokers")

    def test_it_is_chosen_once_it_is_read(self):
        row = attaching.attach(self.preparer, self.return_.pk, self.broker.pk, "x.pdf", pdf(1))
        with self.assertRaisesRegex(BadValue, "still being read"):
            self.choose(row)

    def test_only_a_statement_of_totals_goes_and_not_a_huge_one(self):
        with self.assertRaisesRegex(BadValue, "paper with totals"):
            self.choose(self.attach(pdf(1), self.paper))
        row = self.attach(pdf(3))
        row.size = 6_000_000
        row.save()
        with self.assertRaisesRegex(BadValue, "up to 5 MB"):
            self.choose(row)
