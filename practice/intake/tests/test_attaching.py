"""Pages beside a paper: known by content, kept sealed, shown to the firm only, counted by the diagnostic that asks."""

import io
from unittest import mock

from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from PIL import Image

from practice.intake import attaching, drawing, enclosing
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Attachment
from practice.intake.tasks import draw_pages
from practice.returns.computing import result_of
from practice.returns.entry import add_paper
from practice.returns.tests.test_pages import PageTestCase
from practice.signing.locking import lock_figures
from taxcore.engine import BadValue


def picture(form="PNG", size=(60, 30)):
    made = io.BytesIO()
    Image.new("RGB", size, "white").save(made, form)
    return made.getvalue()


def pdf(pages=2):
    sheets = [Image.new("RGB", (200, 300), "white") for _ in range(pages)]
    made = io.BytesIO()
    sheets[0].save(made, "PDF", save_all=True, append_images=sheets[1:])
    return made.getvalue()


class ContentTests(PageTestCase):
    def test_what_a_file_is_comes_from_its_content(self):
        for content, kind in ((picture(), "png"), (picture("JPEG"), "jpeg"), (pdf(3), "pdf")):
            self.assertEqual(attaching.kind_of(content), kind)

    def test_anything_else_is_refused_with_a_reason(self):
        for content, words in (
            (b"<html>hello", "none of them"), (picture("GIF"), "none of them"), (b"1" * (attaching.LARGEST + 1), "MB"), (b"", "none of them"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(BadValue, words):
                attaching.kind_of(content)


class AttachTests(PageTestCase):
    def attach(self, content=None, name="scan.png", paper=None):
        row = self.bring(content, name, paper)
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()
        return row

    def bring(self, content=None, name="scan.png", paper=None):
        """Attached, and waiting for a worker."""
        return attaching.attach(self.preparer, self.return_.pk, (paper or self.paper).pk, name, content or picture())

    def change(self, row, **posted):
        self.client.post(reverse("change-attachment", args=[self.return_.pk, row.token]), posted)
        row.refresh_from_db()

    def page(self, row, page=1):
        return self.client.get(reverse("page-picture", args=[self.return_.pk, row.token, page]))

    def test_it_is_stored_sealed_and_comes_back_whole(self):
        row = self.attach()
        with default_storage.open(row.file) as stored:
            self.assertNotIn(b"PNG", stored.read())
        self.assertEqual(attaching.content_of(row), picture())

    def test_the_same_file_twice_is_one(self):
        self.assertEqual(self.attach().pk, self.attach().pk)

    def test_each_page_is_a_picture_and_there_is_none_beyond_the_last(self):
        row = self.attach(pdf(2), "two.pdf")
        for page in (1, 2):
            self.assertEqual(self.page(row, page)["Content-Type"], "image/png")
        beyond = self.page(row, 3)
        self.assertEqual((beyond.status_code, beyond["Content-Type"]), (422, "image/svg+xml"))
        self.assertEqual(self.events("document viewed").count(), 1)

    def test_turned_pages_stay_turned(self):
        row = self.attach(picture(size=(60, 30)))
        self.change(row, turn="90")
        self.assertEqual((row.state, self.page(row).status_code), (Attachment.State.READING, 422))
        draw_pages(attachment_id=row.pk)
        shown = Image.open(io.BytesIO(self.page(row).content))
        self.assertEqual(shown.size, (30, 60))

    def test_pages_turned_while_they_are_drawn_are_drawn_as_they_are_turned(self):
        row = self.bring(pdf(2))
        drawing.step(row)
        row.refresh_from_db()
        stale = Attachment.objects.for_firm(self.firm).get(pk=row.pk)
        self.change(row, turn="90")
        drawing.step(stale)  # the worker still has the row as it was
        row.refresh_from_db()
        self.assertEqual((row.drawn, row.turn), (0, 90))
        draw_pages(attachment_id=row.pk)
        self.assertEqual(Image.open(io.BytesIO(self.page(row).content)).size, (1200, 800))
        row.refresh_from_db()
        self.assertEqual((row.state, row.drawn), (Attachment.State.READY, 2))

    def test_nothing_of_a_file_is_opened_by_the_page_that_takes_it_or_shows_it(self):
        with mock.patch("practice.intake.confined._run", side_effect=AssertionError("opened in a web process")):
            row = self.bring(pdf(2))
            self.assertEqual(self.page(row).status_code, 422)
            page = self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk]))
        self.assertContains(page, "being read")
        draw_pages(attachment_id=row.pk)
        with mock.patch("practice.intake.confined._run", side_effect=AssertionError("opened in a web process")):
            self.assertEqual(self.page(row).status_code, 200)

    def test_the_page_asks_again_until_it_is_read_and_then_shows_it(self):
        row = self.bring(pdf(2))
        url = reverse("attached", args=[self.return_.pk, self.paper.pk])
        self.assertEqual(self.client.get(url, {"seen": "0"}).status_code, 204)
        drawing.step(row)
        self.assertContains(self.client.get(url, {"seen": "0"}), "0 of 2 pages")
        draw_pages(attachment_id=row.pk)
        done = self.client.get(url, {"seen": "2"})
        self.assertContains(done, reverse("page-picture", args=[self.return_.pk, row.token, 2]))
        self.assertNotContains(done, "every 1s")

    def test_a_damaged_file_is_refused_beside_the_paper_counts_for_nothing_and_can_be_read_again(self):
        for content in (picture()[:40], b"%PDF-1.7 broken"):
            row = self.attach(content)
            self.assertEqual(row.state, Attachment.State.REFUSED)
        page = self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk]))
        self.assertContains(page, "Not accepted. The PDF cannot be opened")
        self.assertEqual(self.return_.papers.get(pk=self.paper.pk).attached, 0)
        self.assertEqual(self.events("document not accepted").count(), 2)
        self.change(row, again="1")
        self.assertEqual((row.state, row.says), (Attachment.State.READING, ""))

    def test_pages_that_cannot_be_drawn_are_said_and_the_others_are_not_tried_for_ever(self):
        with mock.patch("practice.intake.drawing.opened", self._opened):
            row = self.attach(pdf(6))
        self.assertEqual((row.state, row.drawn, sorted(row.undrawn)), (Attachment.State.READY, 6, ["1", "2", "3", "4", "5", "6"]))
        self.assertIn("too slow", self.page(row, 2).content.decode())
        self.assertIn("not tried", self.page(row, 5).content.decode())
        self.change(row, again="1")
        draw_pages(attachment_id=row.pk)
        self.assertEqual(self.page(row, 5).status_code, 200)

    @staticmethod
    def _opened(do, content, **given):
        if do == "picture":
            raise NotOpened("too slow")
        return opened(do, content, **given)

    def test_it_is_nobody_elses(self):
        row = self.attach()
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.page(row).status_code, 404)
        self.assertEqual(self.client.get(reverse("original", args=[self.return_.pk, row.token])).status_code, 404)

    def test_a_guessed_address_is_nothing(self):
        guessed = reverse("original", args=[self.return_.pk, "00000000-0000-4000-8000-000000000000"])
        self.assertEqual(self.client.get(guessed).status_code, 404)

    def test_the_original_is_a_download_under_no_name_of_a_client(self):
        row = self.attach(name="../Lorna's secret.png")
        answer = self.client.get(reverse("original", args=[self.return_.pk, row.token]))
        self.assertIn("attachment", answer["Content-Disposition"])
        self.assertNotIn("Lorna", answer["Content-Disposition"])
        self.assertEqual(row.name, "Lorna's secret.png")

    def test_totals_with_adjustments_ask_for_the_statement_until_it_is_there(self):
        rows = [{"box": "A", "proceeds": "100.00", "basis": "90.00", "wash_sales": "5.00"}]
        _, paper = add_paper(self.preparer, self.return_.pk, "1099-b", "taxpayer", {"payer": "Sandbar", "summaries": rows})
        codes = lambda: {found.code for found in result_of(self.again()).findings}  # noqa: E731
        self.assertIn("us.sale.summary-unattached", codes())
        row = self.attach(pdf(1), "list.pdf", paper)
        self.assertIn("us.sale.summary-unattached", codes(), "a page beside it may be anything")
        enclosing.choose_statement(self.preparer, self.return_.pk, row.token, True)
        self.assertNotIn("us.sale.summary-unattached", codes())
        attaching.change_attachment(self.preparer, self.return_.pk, row.token, remove=True)
        self.assertIn("us.sale.summary-unattached", codes())

    def test_a_page_attached_after_signing_voids_nothing(self):
        lock_figures(self.preparer, self.return_.pk)
        snapshot = self.again().snapshot_id
        self.attach()
        self.assertEqual(self.again().snapshot_id, snapshot)
        self.assertIsNotNone(snapshot)

    def test_a_page_can_be_given_to_another_paper(self):
        _, other = add_paper(self.preparer, self.return_.pk, "1099-int", "taxpayer")
        row = self.attach()
        attaching.change_attachment(self.preparer, self.return_.pk, row.token, paper_id=other.pk)
        counts = {paper.kind: paper.attached for paper in self.return_.papers.filter(pk__in=[self.paper.pk, other.pk])}
        self.assertEqual(counts, {"w2": 0, "1099-int": 1})

    def test_files_dropped_on_the_page_and_a_wrong_one_among_them(self):
        url = reverse("attach", args=[self.return_.pk, self.paper.pk])
        files = [SimpleUploadedFile("a.png", picture()), SimpleUploadedFile("b.txt", b"hello")]
        page = self.client.post(url, {"file": files}, follow=True)
        self.assertContains(page, "b.txt: Attach a PDF")
        self.assertContains(page, "a.png")
