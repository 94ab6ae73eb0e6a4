"""What a practice wants done before a return is locked, and reviewers who send back."""

from django.urls import reverse

from practice.firm.models import Firm
from practice.firm.permissions import Refused
from practice.returns import confirming
from practice.returns.computing import result_of
from practice.review import gate, handing, signing_off
from practice.review.margin import add_note, close_note, set_initials
from practice.review.progress import progress_of
from practice.signing.locking import lock_figures
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class GateTestCase(OfficeTestCase):
    needs = ["first", "points"]

    def setUp(self):
        super().setUp()
        Firm.objects.filter(pk=self.firm.pk).update(lock_needs=self.needs)
        self.sign_in(self.signer)

    def sign_in(self, who):
        self.client.force_login(who, "django.contrib.auth.backends.ModelBackend")

    def again(self):
        self.return_ = type(self.return_).objects.for_firm(self.firm).select_related("firm").get(pk=self.return_.pk)
        return self.return_

    def lacking(self):
        return [one.code for one in gate.lacking(self.again(), result_of(self.return_))]


class FreshPracticeTests(GateTestCase):
    def test_a_fresh_practice_asks_for_a_first_review_and_no_open_point(self):
        self.assertEqual(Firm(name="New").lock_needs, ["first", "points"])

    def test_nothing_looked_at_is_not_locked_and_the_page_says_what_lacks(self):
        with self.assertRaises(gate.NotReviewed) as caught:
            lock_figures(self.signer, self.return_.pk)
        self.assertEqual([one.code for one in caught.exception.lacking], ["first"])
        page = self.client.get(reverse("sign", args=[self.return_.pk]))
        self.assertContains(page, "The first review is not done yet.")
        self.assertNotContains(page, "Lock the return</button>")
        answer = self.client.post(reverse("lock", args=[self.return_.pk]), follow=True)
        self.assertContains(answer, "Not locked. The first review is not done yet.")

    def test_reviewed_and_answered_it_locks(self):
        note = add_note(self.reviewer, self.return_.pk, "us.1040.1a", "All of it?", self.preparer.pk)
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.client.post(reverse("sign-off", args=[self.return_.pk]))
        self.assertEqual(self.lacking(), ["points"])
        close_note(self.preparer, self.return_.pk, note.pk, "Yes")
        self.assertEqual(self.lacking(), [])
        self.assertIsNotNone(lock_figures(self.signer, self.return_.pk).pk)

    def test_a_review_lapses_when_a_figure_moves_and_only_then(self):
        signing_off.sign_off(self.reviewer, self.return_.pk)
        self.key("employer_street", "5 Slipway")
        self.assertEqual(self.lacking(), [])
        self.key("wages", "62000")
        self.assertEqual(self.lacking(), ["first"])
        self.assertContains(self.client.get(reverse("review", args=[self.return_.pk])), "lapsed: a figure moved")

    def test_preparers_do_not_review(self):
        with self.assertRaises(Refused):
            signing_off.sign_off(self.preparer, self.return_.pk)


class StricterPracticeTests(GateTestCase):
    needs = ["first", "second", "initials"]

    def test_the_second_review_is_somebody_elses(self):
        signing_off.sign_off(self.reviewer, self.return_.pk)
        with self.assertRaises(signing_off.AlreadyReviewed):
            signing_off.sign_off(self.reviewer, self.return_.pk)
        self.assertIn("second", self.lacking())
        signing_off.sign_off(self.signer, self.return_.pk)
        self.assertEqual(self.lacking(), ["initials"])
        signing_off.take_back(self.signer, self.return_.pk)
        self.assertIn("second", self.lacking())

    def test_every_line_that_matters_initialed(self):
        result = result_of(self.return_)
        for cell in progress_of(self.again().firm, result, {}).next:
            set_initials(self.reviewer, self.return_.pk, cell.address)
        self.assertNotIn("initials", self.lacking())

    def test_the_practice_chooses_on_its_page(self):
        chosen = {"needs": ["points", "second", "nonsense"], "reviewers_correct": "on"}
        self.client.post(reverse("lock-needs"), chosen)
        firm = Firm.objects.get(pk=self.firm.pk)
        self.assertEqual((firm.lock_needs, firm.reviewers_correct), (["second", "points"], True))
        self.sign_in(self.preparer)
        self.assertEqual(self.client.post(reverse("lock-needs"), {}).status_code, 403)

    def test_the_practice_says_who_takes_on_clients(self):
        self.client.post(reverse("taking-on"), {})
        self.assertFalse(Firm.objects.get(pk=self.firm.pk).preparers_add_clients)
        self.assertContains(self.client.get(reverse("firm-answers")), "Taking on clients")
        self.sign_in(self.preparer)
        self.assertEqual(self.client.post(reverse("taking-on"), {"preparers": "on"}).status_code, 403)
        self.assertEqual(self.client.get(reverse("new-household")).status_code, 403)

    def test_every_condition_can_be_chosen(self):
        self.client.post(reverse("lock-needs"), {"needs": list(gate.CONDITIONS)})
        self.assertEqual(Firm.objects.get(pk=self.firm.pk).lock_needs, list(gate.CONDITIONS))

    def test_e_file_numbers_are_digits(self):
        page = self.client.post(reverse("efile-numbers"), {"efin": "12", "pin": "30518"})
        self.assertContains(page, "An EFIN has six digits.", status_code=422)
        self.client.post(reverse("efile-numbers"), {"efin": "009417", "pin": "30518"})
        self.assertEqual(Firm.objects.get(pk=self.firm.pk).efin, "009417")


class CorrectingReviewersTests(GateTestCase):
    def test_a_reviewer_is_told_why_not_and_sends_it_back_from_there(self):
        with self.assertRaises(Refused):
            self.key("wages", "62000", actor=self.reviewer)
        self.sign_in(self.reviewer)
        page = self.client.get(reverse("paper", args=[self.return_.pk, self.paper.pk]))
        self.assertContains(page, "reviewers do not enter amounts")
        place = {"at": "us.1040.1a", "text": "Box 1 reads 61,840.", "back": "1"}
        self.assertContains(self.client.post(reverse("add-note", args=[self.return_.pk]), place), "Box 1 reads 61,840.")
        self.again()
        self.assertEqual((self.return_.stage, self.return_.state_note), ("prepare", "sent back"))
        self.assertEqual(self.return_.waiting_for, self.return_.preparer)
        self.assertEqual(self.return_.notes.get().asked, self.return_.preparer)

    def test_where_the_practice_allows_it_a_reviewer_corrects(self):
        Firm.objects.filter(pk=self.firm.pk).update(reviewers_correct=True)
        self.reviewer.refresh_from_db()
        self.key("wages", "62000", actor=type(self.reviewer).objects.get(pk=self.reviewer.pk))
        self.assertEqual(self.again().papers.get(pk=self.paper.pk).values["wages"], "62000.00")

    def test_a_locked_return_is_not_sent_back(self):
        signing_off.sign_off(self.reviewer, self.return_.pk)
        lock_figures(self.signer, self.return_.pk)
        with self.assertRaises(handing.CannotHand):
            handing.send_back(self.reviewer, self.return_.pk, "us.1040.1a", "Why?")

    def test_a_question_needs_words(self):
        with self.assertRaises(BadValue):
            handing.send_back(self.reviewer, self.return_.pk, "us.1040.1a", " ")


class BroughtAlongTests(GateTestCase):
    needs = ["brought"]

    def test_what_nobody_confirmed_keeps_it_open_until_each_paper_is(self):
        lacking = list(gate.lacking(self.again(), result_of(self.return_)))
        self.assertEqual([one.code for one in lacking], ["brought"])
        self.assertIn("First name", lacking[0].says)
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "Rolled forward and not confirmed")
        self.sign_in(self.preparer)
        for paper, _ in confirming.unconfirmed(self.again()):
            page = reverse("paper", args=[self.return_.pk, paper.pk])
            self.assertContains(self.client.get(page), "rolled forward, in italics")
            self.client.post(reverse("confirm-brought", args=[self.return_.pk, paper.pk]))
            self.assertNotContains(self.client.get(page), "rolled forward, in italics")
        self.assertEqual(self.lacking(), [])
        self.assertEqual(self.events("values confirmed").count(), 2)

    def test_keying_a_value_anew_confirms_that_one(self):
        filing = self.return_.papers.get(kind="filing")
        self.assertIn("City", {one.kind: labels for one, labels in confirming.unconfirmed(self.return_)}["filing"][1])
        self.key("city", "Savanna", paper=filing, was="Galena")
        labels = next(labels for one, labels in confirming.unconfirmed(self.again()) if one.kind == "filing")
        self.assertNotIn("City", labels)

    def test_reviewers_who_do_not_enter_do_not_confirm(self):
        with self.assertRaises(Refused):
            confirming.confirm(self.reviewer, self.return_.pk, self.return_.papers.get(kind="filing").pk)
