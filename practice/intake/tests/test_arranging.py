"""Pages split, joined and put in order as documents of their own."""

import io
import uuid

from django.urls import reverse
from pypdf import PdfReader, PdfWriter

from practice.firm.permissions import NotOfThisFirm, Refused
from practice.intake import arranging, attaching, enclosing
from practice.intake.arranging import Pick
from practice.intake.models import Attachment
from practice.intake.tasks import draw_pages
from practice.intake.tests.test_attaching import picture
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


def sized(*widths):
    """A PDF whose pages are told apart by their width."""
    writer, made = PdfWriter(), io.BytesIO()
    for width in widths:
        writer.add_blank_page(width, 300)
    writer.write(made)
    return made.getvalue()


class ArrangingTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        self.scan = self.attach("scan.pdf", sized(110, 120, 130))
        self.other = self.attach("other.pdf", sized(210, 220))
        self.photo = self.attach("photo.png", picture(size=(60, 30)))

    def attach(self, name, content):
        row = attaching.attach(self.preparer, self.return_.pk, None, name, content)
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()
        return row

    def make(self, *picks, name="New", **more):
        return arranging.put_together(
            self.preparer, self.return_.pk, [Pick(row.token, page) for row, page in picks], name, **more
        )

    def content(self, row):
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()
        return attaching.content_of(row)

    def widths(self, row):
        return [round(page.mediabox.width) for page in PdfReader(io.BytesIO(self.content(row))).pages]

    def test_a_scan_is_split_and_pages_of_several_are_joined_in_the_order_chosen(self):
        self.assertEqual(self.widths(self.make((self.scan, 2))), [120])
        joined = self.make((self.other, 2), (self.scan, 1), (self.other, 1), name="Joined.pdf", paper_id=self.paper.pk)
        self.assertEqual(self.widths(joined), [220, 110, 210])
        self.assertEqual((joined.name, joined.paper_id), ("Joined.pdf", self.paper.pk))
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.attached, 1)

    def test_photos_join_too_and_turned_pages_stay_turned(self):
        attaching.change_attachment(self.preparer, self.return_.pk, self.other.token, turn=90)
        draw_pages(attachment_id=self.other.pk)
        made = self.make((self.photo, 1), (self.other, 1))
        pages = PdfReader(io.BytesIO(self.content(made))).pages
        self.assertEqual([page.rotation for page in pages], [0, 90])

    def test_what_they_were_made_of_goes_only_when_asked_and_never_what_is_filed(self):
        self.make((self.scan, 1), replace=True)
        names = Attachment.objects.for_firm(self.firm).filter(removed_at=None).values_list("name", flat=True)
        self.assertEqual(set(names), {"other.pdf", "photo.png", "New.pdf"})
        enclosing.choose(self.preparer, self.return_.pk, self.other.token, "election", "E")
        with self.assertRaisesRegex(BadValue, "is e-filed"):
            self.make((self.other, 1), name="Again", replace=True)
        self.assertFalse(Attachment.objects.for_firm(self.firm).filter(name="Again.pdf").exists())

    def test_what_cannot_be_made_is_said(self):
        for picks, name, says in (((), "x", "at least one"), (((self.scan, 4),), "x", "no page 4"), (((self.scan, 0),), "x", "no page"),
                                  (((self.scan, 1),), " ", "Name")):  # fmt: skip
            with self.subTest(says), self.assertRaises(BadValue) as refused:
                self.make(*picks, name=name)
            self.assertIn(says, refused.exception.says)
        fresh = attaching.attach(self.preparer, self.return_.pk, None, "fresh.pdf", sized(99))
        with self.assertRaisesRegex(BadValue, "still being read"):
            self.make((fresh, 1))
        with self.assertRaises(NotOfThisFirm):
            arranging.put_together(self.preparer, self.return_.pk, [Pick(uuid.uuid4(), 1)], "x")
        with self.assertRaises(Refused):
            arranging.put_together(self.reviewer, self.return_.pk, [Pick(self.scan.token, 1)], "x")

    def test_the_page(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("pages", args=[self.return_.pk])
        self.assertContains(self.client.get(page), "scan.pdf, page 3")
        one, two = f"{self.scan.token}.3", f"{self.scan.token}.1"
        self.assertContains(self.client.post(page, {"page": [one], "name": ""}), "Name the new", status_code=422)
        self.assertContains(self.client.post(page, {"page": ["x.1"], "name": "a"}), "Choose pages", status_code=422)
        self.client.post(page, {"page": [two, one], f"at-{one}": "1", f"at-{two}": "2", "name": "Turned around"})
        made = Attachment.objects.for_firm(self.firm).get(name="Turned around.pdf")
        self.assertEqual(self.widths(made), [130, 110])
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(page).status_code, 404)
