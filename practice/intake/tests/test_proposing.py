"""What a page says is proposed beside its paper, taken over by somebody as one act, and never by itself."""

import io
import uuid

from django.urls import reverse
from PIL import Image, ImageDraw, ImageFont

from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.intake import attaching, drawing, proposing
from practice.intake.models import Attachment
from practice.intake.tasks import draw_pages
from practice.returns.changing import Settled
from practice.returns.entry import add_paper
from practice.returns.models import Return
from practice.tests.office import OfficeTestCase

PAGE = "River Bend Savings\nPAYER'S TIN 00-3090128\n1 Interest income $1,212.40\n2 Early withdrawal penalty 15.00\n"


class ProposingTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        _, self.bank = add_paper(self.preparer, self.return_.pk, "1099-int", "taxpayer", {"payer": "River Bend Savings"})
        self.page = self.attached()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")

    def attached(self, words=PAGE, paper=True):
        content = b"%PDF-1.4 " + uuid.uuid4().bytes
        row = attaching.attach(self.preparer, self.return_.pk, self.bank.pk if paper else None, "1099.pdf", content)
        drawing._keep(drawing.words_name(row), words.encode())
        Attachment.objects.for_firm(self.firm).filter(pk=row.pk).update(state="ready", pages=1, drawn=1, kind="pdf")
        return Attachment.objects.for_firm(self.firm).get(pk=row.pk)

    def proposed(self):
        bank = self.again().papers.get(pk=self.bank.pk)
        said = proposing.proposals(self.return_, bank, list(self.return_.attachments.filter(removed_at=None)))
        return {one.name: (one.value, one.now) for _, ours in said for one in ours}

    def take(self, *names, actor=None):
        return proposing.take_over(actor or self.preparer, self.return_.pk, self.page.token, set(names))

    def test_a_page_proposes_and_changes_nothing_by_itself(self):
        expected = {"payer_number": ("00-3090128", ""), "interest": ("1212.40", ""), "early_withdrawal": ("15.00", "")}
        self.assertEqual(self.proposed(), expected)
        page = self.client.get(reverse("paper", args=[self.return_.pk, self.bank.pk]))
        self.assertContains(page, "1099.pdf says")
        self.assertContains(page, "1,212.40")
        self.assertEqual(self.again().papers.get(pk=self.bank.pk).values.get("interest"), None)

    def test_taken_over_it_says_where_it_comes_from_and_is_undone_as_one(self):
        self.take("interest", "early_withdrawal")
        bank = self.again().papers.get(pk=self.bank.pk)
        self.assertEqual((bank.values["interest"], bank.values["early_withdrawal"]), ("1212.40", "15.00"))
        self.assertEqual((bank.provenance["interest"]["how"], bank.provenance["interest"]["from"]), ("imported", "1099.pdf"))
        self.assertEqual(list(self.proposed()), ["payer_number"])
        self.client.post(reverse("undo", args=[self.return_.pk]))
        self.assertEqual(len(self.proposed()), 3)

    def test_what_the_field_has_already_is_no_proposal_and_another_amount_is_one(self):
        self.key("interest", "1212.40", paper=self.bank)
        self.key("early_withdrawal", "14.00", paper=self.bank)
        self.assertEqual(self.proposed()["early_withdrawal"], ("15.00", "14.00"))
        self.assertNotIn("interest", self.proposed())

    def test_a_browser_cannot_say_what_a_page_says(self):
        for names in (("wages",), ("exempt_interest",), ()):
            with self.subTest(names), self.assertRaisesMessage(Cannot, "says nothing of that"):
                self.take(*names)
        self.page = self.attached(paper=False)
        with self.assertRaisesMessage(Cannot, "lies with no paper"):
            self.take("interest")
        answer = self.client.post(
            reverse("take-read", args=[self.return_.pk, self.page.token]), {"field": "interest"}, follow=True
        )
        self.assertContains(answer, "lies with no paper")

    def test_who_may_not_key_and_strangers_take_nothing(self):
        with self.assertRaises(Refused):
            self.take("interest", actor=self.reviewer)
        with self.assertRaises(NotOfThisFirm):
            self.take("interest", actor=self.stranger)
        self.client.post(reverse("take-read", args=[self.return_.pk, self.page.token]), {"field": ["interest"]})
        self.assertEqual(self.again().papers.get(pk=self.bank.pk).values["interest"], "1212.40")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        url = reverse("take-read", args=[self.return_.pk, self.page.token])
        self.assertEqual(self.client.post(url, {"field": "interest"}).status_code, 404)

    def test_a_filed_return_takes_nothing(self):
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(stage="file")
        self.return_.submissions.create(
            firm=self.firm, authority="us", document=b"", state="sent", by=self.signer, snapshot=self._locked()
        )
        with self.assertRaises(Settled):
            self.take("interest")

    def _locked(self):
        from practice.signing.locking import lock_figures

        return lock_figures(self.signer, self.return_.pk)

    def test_a_photo_is_read_by_its_picture(self):
        made, out = Image.new("RGB", (1400, 500), "white"), io.BytesIO()
        pen, font = ImageDraw.Draw(made), ImageFont.load_default(30)
        for place, line in enumerate(PAGE.splitlines()):
            pen.text((80, 60 + place * 70), line, fill="black", font=font)
        made.save(out, "PNG")
        row = attaching.attach(self.preparer, self.return_.pk, self.bank.pk, "photo.png", out.getvalue())
        draw_pages(attachment_id=row.pk)
        Attachment.objects.for_firm(self.firm).filter(pk=self.page.pk).update(paper=None)
        self.assertEqual(self.proposed()["interest"], ("1212.40", ""))
        page = self.client.get(reverse("paper", args=[self.return_.pk, self.bank.pk]))
        self.assertContains(page, "as far as its picture can be read")
