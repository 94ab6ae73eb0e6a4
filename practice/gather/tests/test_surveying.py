"""The questionnaire: one item of a request, answered a tap each, taken over by the office; what only a yes calls for waits for it."""

import io

from django.urls import reverse
from pypdf import PdfReader

from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.gather import answering, requesting, surveying, usual
from practice.gather.models import Item, Kind, Told, Turn
from practice.gather.tests.test_requests import PageTests, RequestTestCase
from practice.returns import computing
from practice.returns.entry import add_paper
from practice.returns.models import Return
from practice.returns.opening import open_return
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class SurveyedTestCase(RequestTestCase):
    """Nobody began the guided entry, so the client is asked its questions."""

    def lay_out(self):
        OfficeTestCase.lay_out(self)
        self.draft()


class SurveyTestCase(SurveyedTestCase):
    def setUp(self):
        super().setUp()
        self.item = self.request.items.get(kind=Kind.SURVEY)
        self.sent()

    def tell_all(self, **said):
        for one in surveying.questions(self.return_):
            surveying.tell(self.link, self.item.pk, one.question.key, said.get(one.question.key, "no"))


class SurveyTests(SurveyTestCase):
    def test_every_question_is_answered_before_one_is_done(self):
        surveying.tell(self.link, self.item.pk, "wages", "yes", "Two jobs")
        with self.assertRaisesMessage(Cannot, "questions are not answered yet, first: Did the client support"):
            surveying.finish(self.link, self.item.pk)
        self.tell_all(wages="yes", interest="unsure")
        surveying.finish(self.link, self.item.pk)
        item = self.fresh(self.item)
        self.assertEqual(
            (item.turn, item.words), (Turn.OFFICE, f"1 yes, {len(surveying.questions(self.return_)) - 2} no, 1 not sure")
        )
        kept = Told.objects.for_firm(self.firm).get(key="wages")
        self.assertEqual((kept.yes, kept.words), (True, "Two jobs"))  # tapped again, the word stays

    def test_what_is_no_answer_or_no_question_is_refused(self):
        for key, said, words in (("wages", "perhaps", ""), ("nonsense", "yes", ""), ("wages", "yes", "x" * 1001)):
            with self.subTest(key, said=said), self.assertRaises(BadValue):
                surveying.tell(self.link, self.item.pk, key, said, words)
        with self.assertRaises(Cannot):
            surveying.tell(self.link, self.question.pk, "wages", "yes")
        self.assertEqual(Told.objects.for_firm(self.firm).count(), 0)

    def test_answers_are_taken_over_into_the_guided_way(self):
        self.tell_all(interest="yes", dividends="unsure")
        surveying.finish(self.link, self.item.pk)
        noes = surveying.take_noes(self.preparer, self.return_.pk)
        self.assertEqual(
            (noes, surveying.take_noes(self.preparer, self.return_.pk)), (len(surveying.questions(self.return_)) - 2, 0)
        )
        with self.assertRaisesMessage(BadValue, "how many"):
            surveying.take(self.preparer, self.return_.pk, "interest", {})
        surveying.take(self.preparer, self.return_.pk, "interest", {"1099-int": 3})
        self.assertEqual(self.again().papers.filter(kind="1099-int", removed_at=None).count(), 3)
        self.assertEqual(self.return_.guide["answers"]["interest"]["yes"], True)
        with self.assertRaisesMessage(Cannot, "not sure"):
            surveying.take(self.preparer, self.return_.pk, "dividends", {})
        surveying.tell(self.link, self.item.pk, "interest", "no")
        self.assertIsNone(Told.objects.for_firm(self.firm).get(key="interest").taken_by)  # another answer is new again

    def test_all_of_it_as_a_pdf(self):
        self.tell_all(wages="yes")
        surveying.tell(self.link, self.item.pk, "wages", "yes", "Two jobs")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        answer = self.client.get(reverse("questionnaire-pdf", args=[self.return_.pk]))
        words = " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(answer.content)).pages).split())
        self.assertIn("“Two jobs”", words)
        self.assertEqual(words.count(" yes"), 1)
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(reverse("questionnaire-pdf", args=[self.return_.pk])).status_code, 404)

    def test_who_may_not_key_and_strangers_take_nothing(self):
        self.tell_all()
        for who, error in ((self.reviewer, Refused), (self.stranger, NotOfThisFirm)):
            with self.subTest(who.role), self.assertRaises(error):
                surveying.take_noes(who, self.return_.pk)
            with self.subTest(who.role), self.assertRaises(error):
                surveying.take(who, self.return_.pk, "wages", {})

    def test_last_years_papers_stand_beside(self):
        before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        add_paper(self.preparer, before.pk, "1099-int", "taxpayer", {"payer": "River Bend Savings"})
        computing.forget()
        found = {
            one.question.key: one.before
            for one in surveying.questions(Return.objects.for_firm(self.firm).get(pk=self.return_.pk))
        }
        self.assertEqual((found["interest"], found["dividends"]), (1, 0))


class FollowingTests(SurveyedTestCase):
    """A question of the practice's own that only those are asked who said yes to self-employment."""

    def setUp(self):
        super().setUp()
        requesting.withdraw(self.preparer, self.return_.pk, self.document.pk)
        usual.add(self.signer, "us", "question", "How many days did you work at home?", "", "business")
        requesting.drafted(self.preparer, self.return_.pk)
        self.item = self.request.items.get(kind=Kind.SURVEY)
        self.sent()

    def asked(self):
        return [one.text for one in answering.asked_of(self.link)]

    def test_it_waits_for_the_yes(self):
        self.assertNotIn("How many days did you work at home?", self.asked())
        surveying.tell(self.link, self.item.pk, "business", "yes")
        self.assertIn("How many days did you work at home?", self.asked())

    def test_without_the_yes_it_is_not_asked_and_the_request_can_close(self):
        for one in surveying.questions(self.return_):
            surveying.tell(self.link, self.item.pk, one.question.key, "no")
        surveying.finish(self.link, self.item.pk)
        answering.answer(self.link, self.question.pk, "No")
        for item in (self.item, self.question):
            requesting.accept(self.preparer, self.return_.pk, item.pk)
        self.assertIsNotNone(self.now().closed_at)
        self.assertEqual(Item.objects.for_firm(self.firm).get(after="business").turn, Turn.WITHDRAWN)

    def test_without_a_questionnaire_it_is_not_put_on(self):
        requesting.withdraw(self.preparer, self.return_.pk, self.item.pk)
        self.assertEqual(Item.objects.for_firm(self.firm).get(after="business").turn, Turn.WITHDRAWN)
        with self.assertRaises(BadValue):
            usual.add(self.signer, "us", "question", "x?", "", "nonsense")


class SurveyPageTests(SurveyTestCase):
    in_portal = PageTests.in_portal

    def test_the_client_taps_and_the_office_takes_over(self):
        client = self.in_portal()
        page = reverse("portal-survey", args=[self.item.pk])
        self.assertContains(client.get(reverse("portal-asked")), page)
        self.assertContains(client.get(page), "Was anyone employed during the year?")
        self.assertLess(len(client.get(page).content), 150_000)
        self.assertRedirects(client.post(page, {"key": "wages", "said": "yes"}), f"{page}#q-wages", fetch_redirect_response=False)
        piece = client.post(page, {"key": "wages", "said": "no"}, headers={"hx-request": "true"})
        self.assertContains(piece, 'aria-pressed="true">No')
        self.assertContains(client.post(page, {"done": "1"}), "not answered yet", status_code=422)
        self.assertContains(client.post(page, {"key": "wages", "said": "x"}), "Choose yes", status_code=422)
        self.assertEqual(client.get(reverse("portal-survey", args=[self.question.pk])).status_code, 302)
        self.tell_all(wages="yes")
        client.post(page, {"done": "1"})
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        office = reverse("questionnaire", args=[self.return_.pk])
        self.assertContains(self.client.get(reverse("requests", args=[self.return_.pk])), office)
        self.assertContains(self.client.get(office), "Was anyone employed during the year?")
        take = reverse("take-told", args=[self.return_.pk])
        self.assertContains(self.client.post(take, {"key": "wages"}), "how many", status_code=422)
        self.client.post(take, {"key": "wages", "n-w2": "1"})
        self.client.post(take, {"noes": "1"})
        self.assertNotContains(self.client.get(office), "take over")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(office).status_code, 404)
        self.assertEqual(self.client.post(take, {"noes": "1"}).status_code, 404)
