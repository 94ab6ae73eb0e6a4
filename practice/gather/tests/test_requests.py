"""Requests: put together, sent, answered on the portal, settled; reminders that stop by themselves; many at once."""

import io
from datetime import date, timedelta

from django.core import mail
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from PIL import Image

from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.gather import answering, requesting, usual
from practice.gather.models import Item, Request, Turn
from practice.gather.tasks import remind_all
from practice.intake.models import Attachment
from practice.portal.models import PortalLink
from practice.portal.tasks import mail_code, mail_link
from practice.returns import rounds
from practice.returns.entry import add_paper
from practice.returns.leaving import leave
from practice.returns.models import Return
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


def picture(color="white"):
    made = io.BytesIO()
    Image.new("RGB", (60, 40), color).save(made, "PNG")
    return made.getvalue()


class RequestTestCase(OfficeTestCase):
    """A return with an empty interest statement that is expected again, and one question that the practice always asks."""

    def lay_out(self):
        super().lay_out()
        # The guided entry was begun in the office: nobody asks the client its questions
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(guide={"answers": {"wages": {"yes": True}}})
        self.draft()

    def draft(self):
        _, self.bank = add_paper(
            self.preparer, self.return_.pk, "1099-int", "taxpayer", {"payer": "River Bend Savings", "payer_number": "00-3090128"}
        )
        usual.add(self.signer, "us", "question", "Did you move in 2025?")
        self.request = requesting.drafted(self.preparer, self.return_.pk)
        self.document, self.question = self.request.items.exclude(kind="survey").order_by("position")

    def sent(self, **more):
        return requesting.send(self.preparer, self.return_.pk, **more)

    @property
    def link(self):
        return PortalLink.objects.for_firm(self.firm).filter(of=self.return_).select_related("of", "client", "firm").latest("pk")

    def fresh(self, item):
        return Item.objects.for_firm(self.firm).get(pk=item.pk)

    def now(self):
        return Request.objects.for_firm(self.firm).get(pk=self.request.pk)

    def on_day(self, day):
        self.firm.training_day = day
        self.firm.save()


class BesideThePaperTests(RequestTestCase):
    def test_what_a_client_says_of_a_paper_stands_beside_it_until_it_is_settled(self):
        self.sent()
        answering.not_so(self.link, self.document.pk, "I closed that account")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("paper", args=[self.return_.pk, self.bank.pk])
        self.assertContains(self.client.get(page), "does not apply: “I closed that account”")
        self.assertNotContains(self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk])), "I closed that account")
        settled = self.client.post(
            reverse("settle-item", args=[self.return_.pk, self.document.pk]), {"does": "accept", "back": page}
        )
        self.assertRedirects(settled, page)
        self.assertNotContains(self.client.get(page), "I closed that account")


class DraftTests(RequestTestCase):
    def test_a_draft_has_what_is_expected_again_without_amounts_and_what_is_always_asked(self):
        self.assertEqual(self.document.text, "Interest income (1099-INT) from River Bend Savings")
        self.assertEqual(self.document.paper, self.bank)
        self.assertEqual(self.question.text, "Did you move in 2025?")  # the W-2 has its amounts: nobody asks for it

    def test_drafting_again_adds_only_what_is_new_and_nothing_that_was_taken_off(self):
        requesting.withdraw(self.preparer, self.return_.pk, self.question.pk)
        usual.add(self.signer, "us", "document", "Property tax bill")
        again = requesting.drafted(self.preparer, self.return_.pk)
        self.assertEqual(again.pk, self.request.pk)
        self.assertEqual([one.text for one in again.items.all()][2:], ["Property tax bill"])
        self.assertEqual(self.fresh(self.question).turn, Turn.WITHDRAWN)

    def test_items_are_added_and_worded_otherwise_until_somebody_replied(self):
        made = requesting.add_item(self.preparer, self.return_.pk, "document", " The lease ", "All pages")
        self.assertEqual((made.text, made.help), ("The lease", "All pages"))
        requesting.change_item(self.preparer, self.return_.pk, made.pk, "The new lease")
        self.assertEqual(self.fresh(made).text, "The new lease")
        for text, says in (("", "Say what you need"), ("x" * 161, "longer than 160")):
            with self.subTest(text[:5]), self.assertRaisesMessage(BadValue, says):
                requesting.add_item(self.preparer, self.return_.pk, "document", text)
        self.sent()
        answering.answer(self.link, self.question.pk, "No")
        with self.assertRaises(Cannot):
            requesting.change_item(self.preparer, self.return_.pk, self.question.pk, "Did you?")

    def test_what_was_always_asked_and_is_no_more_stays_on_requests_that_have_it(self):
        (row,) = usual.listed(self.firm, "us")
        usual.end(self.signer, row.pk)
        self.assertEqual(list(usual.listed(self.firm, "us")), [])
        self.assertEqual(self.now().items.count(), 2)
        with self.assertRaises(Refused):
            usual.add(self.preparer, "us", "question", "Another?")


class SendTests(RequestTestCase):
    def test_a_request_goes_to_the_client_by_mail_that_says_nothing_confidential(self):
        sent = self.sent(word="Photos are fine.", due=self.firm.today() + timedelta(days=10))
        self.assertEqual((sent.sent_on, sent.sent_to), (self.firm.today(), self.client_person))
        self.assertEqual(sent.remind_on, self.firm.today() + timedelta(days=7))
        mail_link(link_id=self.link.pk)
        (letter,) = mail.outbox
        self.assertEqual(letter.subject, "Your 2025 tax return: what we need from you")
        self.assertIn("/portal/enter/", letter.body)
        for word in ("River Bend", "move", "Abernathy"):
            self.assertNotIn(word, letter.body.replace("lorna@abernathy", ""))

    def test_nothing_goes_out_without_items_an_address_or_a_day_to_come(self):
        with self.assertRaisesMessage(Cannot, "That day is over"):
            self.sent(due=date(2020, 1, 1))
        self.client_person.email = ""
        self.client_person.save()
        with self.assertRaisesMessage(Cannot, "email address"):
            self.sent()
        self.assertIsNone(self.now().sent_on)
        for item in (self.document, self.question):
            requesting.withdraw(self.preparer, self.return_.pk, item.pk)
        with self.assertRaisesMessage(Cannot, "nothing to ask"):
            self.sent()

    def test_who_may_not_ask_and_strangers_are_refused(self):
        with self.assertRaises(Refused):
            requesting.drafted(self.reviewer, self.return_.pk)
        with self.assertRaises(NotOfThisFirm):
            requesting.drafted(self.stranger, self.return_.pk)

    def test_a_client_who_left_is_not_asked(self):
        leave(self.signer, self.household.pk)
        with self.assertRaisesMessage(Cannot, "left the practice"):
            requesting.drafted(self.preparer, self.return_.pk)

    def test_many_are_asked_in_one_round_and_twice_does_no_harm(self):
        for _ in range(2):
            made = rounds.begin(self.preparer, "request", [self.return_.pk])
            rounds.go_on(made.pk)
        first, second = (item.says for item in [one for of in (made.pk - 1, made.pk) for one in self._items(of)])
        self.assertEqual(first, "asked Lorna Abernathy for 2 items")
        self.assertTrue(second.startswith("left: asked on"), second)
        self.assertEqual(PortalLink.objects.for_firm(self.firm).filter(of=self.return_).count(), 1)

    def _items(self, round_id):
        from practice.returns.models import RoundItem

        return RoundItem.objects.for_firm(self.firm).filter(round_id=round_id)


class ReplyTests(RequestTestCase):
    def setUp(self):
        super().setUp()
        self.sent()

    def test_pages_lie_beside_the_paper_that_they_were_asked_for_and_wait_for_the_office(self):
        self.assertEqual(answering.upload(self.link, self.document.pk, "../photo.png", picture()), ("photo.png", True))
        item = self.fresh(self.document)
        self.assertEqual((item.turn, item.reply, item.client), (Turn.OFFICE, "files", self.client_person))
        kept = Attachment.objects.for_firm(self.firm).get()
        self.assertEqual((kept.paper, kept.by, kept.upload.item), (self.bank, None, item))
        self.bank.refresh_from_db()
        self.assertEqual((self.bank.values.get("interest"), self.bank.attached), (None, 1))
        self.assertEqual(self.events("document sent").get().by, "Lorna Abernathy")

    def test_the_same_file_twice_is_one_and_for_another_item_is_said(self):
        other = requesting.add_item(self.preparer, self.return_.pk, "document", "The lease")
        answering.upload(self.link, self.document.pk, "a.png", picture())
        self.assertEqual(answering.upload(self.link, self.document.pk, "b.png", picture()), ("a.png", False))
        answering.upload(self.link, other.pk, "lease.png", picture("blue"))
        self.assertEqual(Attachment.objects.for_firm(self.firm).count(), 2)
        third = requesting.add_item(self.preparer, self.return_.pk, "document", "The deed")
        with self.assertRaisesMessage(BadValue, "You sent this file already, for “The lease”"):
            answering.upload(self.link, third.pk, "deed.png", picture("blue"))
        self.assertEqual(self.fresh(third).turn, Turn.CLIENT)

    def test_a_file_that_is_no_page_changes_nothing(self):
        with self.assertRaisesMessage(BadValue, "PDF, PNG or JPEG"):
            answering.upload(self.link, self.document.pk, "a.exe", b"MZ")
        self.assertEqual(self.fresh(self.document).turn, Turn.CLIENT)

    def test_answers_reasons_and_questions_are_kept_sealed(self):
        answering.answer(self.link, self.question.pk, " No. ")
        answering.not_so(self.link, self.document.pk, "The account is closed")
        self.assertEqual([self.fresh(one).words for one in (self.question, self.document)], ["No.", "The account is closed"])
        stored = Item.objects.for_firm(self.firm).filter(pk=self.question.pk).extra(select={"raw": "words"}).values_list("raw")
        self.assertNotIn("No.", str(list(stored)))
        for empty in (answering.answer, answering.not_so, answering.ask_back):
            with self.subTest(empty.__name__), self.assertRaises(BadValue):
                empty(self.link, self.document.pk, "  ")

    def test_accepting_everything_closes_the_request_and_the_next_one_begins_anew(self):
        answering.answer(self.link, self.question.pk, "No")
        answering.upload(self.link, self.document.pk, "a.png", picture())
        self.assertIsNone(self.now().remind_on)
        for item in (self.question, self.document):
            requesting.accept(self.preparer, self.return_.pk, item.pk)
        self.assertIsNotNone(self.now().closed_at)
        with self.assertRaisesMessage(Cannot, "no open request"):
            requesting.accept(self.preparer, self.return_.pk, self.question.pk)
        with self.assertRaisesMessage(Cannot, "The office has this already"):
            answering.answer(self.link, self.question.pk, "Yes after all")
        again = requesting.drafted(self.preparer, self.return_.pk)
        self.assertEqual([one.text for one in again.items.all()], ["Did you move in 2025?"])  # pages of the other are there

    def test_a_question_back_is_answered_and_asked_again(self):
        answering.ask_back(self.link, self.document.pk, "Which account?")
        with self.assertRaisesMessage(Cannot, "asks something"):
            requesting.accept(self.preparer, self.return_.pk, self.document.pk)
        requesting.ask_again(self.preparer, self.return_.pk, self.document.pk, "The savings one")
        item = self.fresh(self.document)
        self.assertEqual((item.turn, item.again), (Turn.CLIENT, "The savings one"))
        self.assertEqual(PortalLink.objects.for_firm(self.firm).filter(of=self.return_).count(), 2)

    def test_another_clients_link_reaches_nothing_of_it(self):
        from practice.demo.building import build_household
        from practice.demo.scenario import HOUSEHOLDS

        other = build_household(self.firm, HOUSEHOLDS[2])
        requesting.drafted(self.preparer, other.pk)
        requesting.send(self.preparer, other.pk)
        strange = PortalLink.objects.for_firm(self.firm).select_related("of", "client", "firm").get(of=other, purpose="request")
        self.assertEqual(self.document.pk in [one.pk for one in answering.asked_of(strange)], False)
        for do in (answering.answer, answering.not_so, answering.ask_back):
            with self.subTest(do.__name__), self.assertRaises(Cannot):
                do(strange, self.document.pk, "x")
        with self.assertRaises(Cannot):
            answering.upload(strange, self.document.pk, "a.png", picture())
        self.assertEqual(self.fresh(self.document).turn, Turn.CLIENT)

    def test_a_draft_is_seen_by_nobody_outside(self):
        Request.objects.for_firm(self.firm).filter(pk=self.request.pk).update(sent_on=None)
        self.assertEqual(list(answering.asked_of(self.link)), [])
        with self.assertRaises(Cannot):
            answering.answer(self.link, self.question.pk, "No")


class ReminderTests(RequestTestCase):
    def days_on(self, days):
        self.on_day(self.firm.today() + timedelta(days=days))
        return remind_all()

    def test_reminders_go_out_every_so_many_days_and_stop_after_four(self):
        self.sent(every=5)
        self.assertEqual(self.days_on(4), 0)
        self.assertEqual([self.days_on(one) for one in (1, 5, 5, 5, 5, 30)], [1, 1, 1, 1, 0, 0])
        self.assertEqual((self.now().reminded, self.now().remind_on), (4, None))

    def test_the_clock_twice_a_day_reminds_once(self):
        self.sent()
        self.assertEqual((self.days_on(7), remind_all()), (1, 0))

    def test_nobody_is_reminded_once_all_is_in_or_the_client_left(self):
        self.sent()
        answering.answer(self.link, self.question.pk, "No")
        answering.not_so(self.link, self.document.pk, "Closed")
        self.assertEqual(self.days_on(8), 0)
        requesting.ask_again(self.preparer, self.return_.pk, self.document.pk, "Since when?")
        leave(self.signer, self.household.pk)
        self.assertEqual(self.days_on(8), 0)
        self.assertIsNone(self.now().remind_on)

    def test_without_days_there_are_no_reminders_and_somebody_may_still_send_one(self):
        self.sent(every=0)
        self.assertEqual(self.days_on(90), 0)
        requesting.remind(self.administrator, self.return_.pk)
        self.assertEqual((self.now().reminded, self.now().remind_on), (1, None))
        self.assertEqual(self.link.purpose, "reminder")

    def test_the_practice_says_how_often(self):
        usual.remind_every(self.signer, 3)
        with self.assertRaises(BadValue):
            usual.remind_every(self.signer, None)
        Request.objects.for_firm(self.firm).filter(pk=self.request.pk).update(closed_at="2026-01-01T00:00:00Z")
        self.assertEqual(requesting.drafted(self.preparer, self.return_.pk).every, 3)


class PageTests(RequestTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.page = reverse("requests", args=[self.return_.pk])

    def in_portal(self):
        """A client with a proven link."""
        mail_link(link_id=self.link.pk)
        token = mail.outbox[-1].body.split("/portal/enter/")[1].split()[0]
        client = self.client_class()
        client.post(f"/portal/enter/{token}")
        mail_code(link_id=self.link.pk)
        code = "".join(one for one in mail.outbox[-1].body if one.isdigit())[:6]
        self.assertRedirects(client.post("/portal/code", {"code": code}), "/portal/")
        return client

    def test_the_office_puts_a_request_together_and_sends_it(self):
        self.assertContains(self.client.get(self.page), "A draft: the client has not seen it")
        self.client.post(reverse("add-item", args=[self.return_.pk]), {"kind": "document", "text": "The lease"})
        day = self.firm.today() + timedelta(days=9)
        answer = self.client.post(reverse("send-request", args=[self.return_.pk]), {"due": day.isoformat(), "every": "3"})
        self.assertRedirects(answer, self.page)
        self.assertContains(self.client.get(self.page), "Sent Feb 10 to Lorna Abernathy, wanted by Feb 19")

    def test_what_cannot_be_sent_is_said_and_kept(self):
        for body, says in (
            ({"due": "soon"}, "Enter a day such as"),
            ({"due": "2020-01-01", "word": "Hello"}, "That day is over"),
        ):
            answer = self.client.post(reverse("send-request", args=[self.return_.pk]), body)
            self.assertContains(answer, says, status_code=422)
        self.assertContains(answer, "Hello", status_code=422)

    def test_the_client_sends_pages_and_answers_and_the_office_sees_them(self):
        self.sent()
        client = self.in_portal()
        page = client.get(reverse("portal-asked"))
        self.assertContains(page, "0 of 2 done")
        self.assertLess(len(page.content), 150_000)
        file = SimpleUploadedFile("photo.png", picture(), "image/png")
        answer = client.post(reverse("portal-reply", args=[self.document.pk]), {"file": [file]}, follow=True)
        self.assertContains(answer, "photo.png: received")
        client.post(reverse("portal-reply", args=[self.question.pk]), {"does": "answer", "words": "To Savanna <in May>"})
        page = self.client.get(self.page)
        self.assertContains(page, "To Savanna &lt;in May&gt;")
        self.assertContains(page, "photo.png")
        self.assertContains(self.client.get(reverse("all-requests")), "Abernathy, Lorna")
        self.client.post(reverse("settle-item", args=[self.return_.pk, self.question.pk]), {"does": "accept"})
        self.assertContains(client.get(reverse("portal-asked")), "Accepted by the office")

    def test_what_the_portal_refuses_keeps_the_words(self):
        self.sent()
        client = self.in_portal()
        url = reverse("portal-reply", args=[self.document.pk])
        self.assertContains(client.post(url, {}), "Choose a file", status_code=422)
        answer = client.post(url, {"does": "not-so", "words": "x" * 2001})
        self.assertContains(answer, "longer than 2,000", status_code=422)
        self.assertContains(answer, "x" * 2001, status_code=422)
        bad = SimpleUploadedFile("a.txt", b"hello")
        self.assertContains(client.post(url, {"file": bad}), "PDF, PNG or JPEG", status_code=422)
        self.assertEqual(client.post(reverse("portal-reply", args=[999_999]), {"does": "answer", "words": "x"}).status_code, 422)

    def test_without_a_link_nothing_of_the_portal_opens(self):
        for name in ("portal-asked", "portal-messages"):
            self.assertEqual(Client().get(reverse(name)).status_code, 403)
        self.assertEqual(Client().post(reverse("portal-reply", args=[self.document.pk]), {"does": "answer"}).status_code, 403)

    def test_the_list_over_all_clients_filters_and_is_saved(self):
        for which in ("new", "waiting", "week", "none", "points", "nonsense"):
            self.assertEqual(self.client.get(reverse("all-requests"), {"which": which}).status_code, 200)
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(stage="gather")
        self.assertContains(self.client.get(reverse("all-requests"), {"which": "none"}), "Abernathy, Lorna")
        self.sent()
        self.assertNotContains(self.client.get(reverse("all-requests"), {"which": "none"}), "Abernathy, Lorna")
        table = self.client.get(reverse("all-requests"), {"which": "waiting", "as": "csv"})
        self.assertIn(b"Abernathy, Lorna", b"".join(table.streaming_content))
        answer = self.client.post(reverse("all-requests"), {"act": "remind", "of": [self.return_.pk]})
        self.assertEqual(answer.status_code, 302)
        self.assertContains(self.client.post(reverse("all-requests"), {"act": "burn"}), "Choose what to send", status_code=422)

    def test_a_return_of_another_firm_has_no_such_pages(self):
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(self.page).status_code, 404)
        for name in ("start-request", "add-item", "send-request", "remind-client", "send-letters", "write-message"):
            self.assertEqual(
                self.client.post(reverse(name, args=[self.return_.pk]), {"kind": "engagement"}).status_code, 404, name
            )
        url = reverse("settle-item", args=[self.return_.pk, self.document.pk])
        self.assertEqual(self.client.post(url, {"does": "accept"}).status_code, 404)

    def test_pages_are_suggested_by_the_number_in_their_words(self):
        from practice.gather.suggesting import suggested
        from practice.intake import drawing

        self.sent()
        other = requesting.add_item(self.preparer, self.return_.pk, "document", "Anything else")
        answering.upload(self.link, other.pk, "a.pdf", b"%PDF-1.4 anything")
        row = Attachment.objects.for_firm(self.firm).get()
        drawing._keep(drawing.words_name(row), b"River  Bend SAVINGS, payer's TIN 00-3090128, box 1 212.40")
        papers = list(Return.objects.for_firm(self.firm).get(pk=self.return_.pk).papers.all())
        self.assertEqual(suggested(row, papers), self.bank)
        drawing._keep(drawing.words_name(row), b"nobody that we know")
        self.assertIsNone(suggested(row, papers))
