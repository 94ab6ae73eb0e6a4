"""Returns apart of a couple: made, known as such, filed alone, kept in view of the joint return, given up."""

import io
from unittest import mock

from django.urls import reverse
from pypdf import PdfReader

from practice.delivery import packaging
from practice.delivery import tasks as delivered
from practice.dispatch import filing, tasks
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.returns.changing import Settled
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, add_spouse, remove_paper, save_field
from practice.returns.last_year import last_year
from practice.returns.models import Return, Stage
from practice.returns.undoing import undo_last
from practice.review.notices import notices_of
from practice.signing import locking, requesting
from practice.tests.office import SIGNATURE, WAGES, OfficeTestCase
from practice.us import extending, separate_returns, state_returns
from taxcore.engine import BadValue


class ApartTestCase(OfficeTestCase):
    """She lives in Illinois with 61,480 of wages, he in Texas with 40,000."""

    def lay_out(self):
        super().lay_out()
        _, spouse = add_spouse(self.preparer, self.return_.pk)
        for name, value in {"first_name": "Wren", "number": "913228046", "birth_date": "1/5/1980"}.items():
            self.key(name, value, paper=spouse)
        self.key("status", "joint", paper=self.return_.papers.get(kind="filing"))
        lived = {"rows": [{"person": "taxpayer", "state": "IL"}, {"person": "spouse", "state": "TX"}]}
        add_paper(self.preparer, self.return_.pk, "residency", "", lived)
        self.key("residence", "", paper=self.return_.papers.get(kind="filing"))
        pay = WAGES | {"wages": "40000.00", "federal_withheld": "3000", "states": [{"state": "TX", "wages": "40000.00"}]}
        _, self.his = add_paper(self.preparer, self.return_.pk, "w2", "spouse", pay)
        add_paper(self.preparer, self.return_.pk, "il-questions", "", {"use_tax": "0"})
        self.bank = add_paper(self.preparer, self.return_.pk, "1099-int", "joint", {"payer": "Ferry Bank", "interest": "900"})[1]

    def part(self):
        (made,) = separate_returns.file_apart(self.preparer, self.return_.pk, "IL")
        return made

    def lines(self, return_=None):
        return [line.authority.code for line in result_of(return_ or self.again()).bottom_lines]

    def notices(self, return_):
        return_.refresh_from_db()
        return {one.code: one.says for one in notices_of(return_, result_of(return_), ())}


class MakingTests(ApartTestCase):
    def test_each_return_has_its_own_bottom_line(self):
        made = self.part()
        self.assertEqual((self.lines(), self.lines(made)), (["us"], ["us-il"]))
        self.assertEqual((made.authorities, made.stage, made.due.isoformat()), ("IL separate", Stage.PREPARE, "2026-04-15"))
        found = result_of(made)
        self.assertEqual(found["us.1040.1z"].value, 61_480)
        self.assertEqual(found["us.1040.2b"].value, 450)
        self.assertEqual(found.run.single("filing").spouse_number, "913-22-8046")
        self.assertEqual([one for one in found.findings if one.weight == "stops"], [])

    def test_papers_are_marked_as_brought_and_people_stay_clients(self):
        made = self.part()
        wages = made.papers.get(kind="w2")
        self.assertEqual(wages.provenance["wages"]["how"], "imported")
        self.assertEqual(made.papers.get(kind="person").person, self.client_person)
        self.assertNotIn("913", str(made.papers.get(kind="filing").values))

    def test_the_spouse_who_lives_there_signs_with_her_own_client(self):
        for row, state in (("1", "TX"), ("2", "IL")):
            paper = self.return_.papers.get(kind="residency")
            save_field(
                self.preparer, self.return_.pk, paper.pk, f"rows.{row}.state", state, paper.values["rows"][int(row) - 1]["state"]
            )
        (made, *others) = separate_returns.file_apart(self.preparer, self.return_.pk, "IL")
        self.assertEqual([one.apart_role for one in (made, *others)], ["taxpayer", "spouse"])
        his = next(one for one in (made, *others) if one.apart_role == "spouse")
        self.assertEqual(his.papers.get(kind="person").person.first_name, "Wren")

    def test_why_it_is_left_out_is_said_on_the_return_of_both(self):
        self.part()
        self.again()
        said = [one.says for one in result_of(self.return_).findings if one.code == "us.places.left-out"]
        self.assertIn("Lorna files separately", said[0])

    def test_what_the_state_does_not_allow_is_refused(self):
        with self.assertRaisesRegex(BadValue, "requires one return"):
            separate_returns.file_apart(self.preparer, self.return_.pk, "IA")
        made = self.part()
        for return_ in (self.return_, made):
            with self.assertRaises(BadValue):
                separate_returns.file_apart(self.preparer, return_.pk, "IL")

    def test_who_may(self):
        with self.assertRaises(Refused):
            separate_returns.file_apart(self.reviewer, self.return_.pk, "IL")
        with self.assertRaises(NotOfThisFirm):
            separate_returns.file_apart(self.stranger, self.return_.pk, "IL")
        self.assertFalse(Return.objects.for_firm(self.firm).exclude(apart_from=None).exists())

    def test_last_years_return_is_the_couples(self):
        made = self.part()
        self.assertIsNone(last_year(made))


class KeepingInViewTests(ApartTestCase):
    def test_a_change_of_the_return_of_both_is_said_by_paper(self):
        made = self.part()
        self.assertNotIn("apart-differs", self.notices(made))
        self.key("wages", "62000", paper=self.paper)
        self.assertIn("Kittiwake", self.notices(made)["apart-differs"])

    def test_a_paper_of_the_other_alone_is_no_news(self):
        made = self.part()
        self.key("wages", "41000", paper=self.his)
        self.assertNotIn("apart-differs", self.notices(made))

    def test_a_decision_cannot_be_taken_back_beside_an_open_return(self):
        self.part()
        with self.assertRaisesRegex(BadValue, "File jointly again"):
            state_returns.decide(self.preparer, self.return_.pk, "IL", "", "")

    def test_nothing_is_filed_twice_after_an_undo(self):
        self.part()
        undo_last(self.preparer, self.return_.pk)
        self.assertIn("twice", self.notices(self.return_))
        with self.assertRaisesRegex(Settled, "on a separate state return"):
            locking.lock_figures(self.signer, self.return_.pk)


class GivingUpTests(ApartTestCase):
    def test_together_again(self):
        made = self.part()
        separate_returns.file_together(self.preparer, self.return_.pk, "IL")
        made.refresh_from_db()
        self.assertEqual((self.lines(), made.stage, made.state_note), (["us", "us-il"], Stage.DONE, "canceled"))
        self.assertIn("given-up", self.notices(made))
        with self.assertRaisesRegex(Settled, "canceled"):
            save_field(self.preparer, made.pk, made.papers.get(kind="w2").pk, "wages", "1", "61480.00")

    def test_more_time_that_was_ready_does_not_go_out_any_more(self):
        made = self.part()
        extending.ask(self.preparer, made.pk)
        extending.make_ready(self.preparer, made.pk)
        separate_returns.file_together(self.preparer, self.return_.pk, "IL")
        with self.assertRaisesRegex(extending.CannotExtend, "canceled"):
            extending.send_ready(self.signer, made.pk)

    def test_a_return_apart_without_its_person_still_opens(self):
        made = self.part()
        remove_paper(self.preparer, made.pk, made.papers.get(kind="person").pk)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("places", args=[made.pk])), "Illinois only: nobody")

    def test_and_apart_once_more(self):
        first = self.part()
        separate_returns.file_together(self.preparer, self.return_.pk, "IL")
        self.key("wages", "70000", paper=self.paper)
        again = self.part()
        self.assertNotEqual(first.pk, again.pk)
        self.assertEqual(result_of(again)["us.1040.1z"].value, 70_000)

    def test_there_must_be_one_to_give_up(self):
        with self.assertRaisesRegex(BadValue, "No separate Illinois return"):
            separate_returns.file_together(self.preparer, self.return_.pk, "IL")


class FilingTests(ApartTestCase):
    def signed(self):
        made = self.part()
        requesting.ask_for_signature(self.signer, made.pk)
        requesting.sign_in_office(self.administrator, made.pk, self.client_person.pk, "us-il", SIGNATURE, None, "41706")
        return made

    def test_the_state_is_filed_alone_and_waits_for_nobody(self):
        made = self.signed()
        (submission,) = filing.file_return(self.signer, made.pk)
        self.assertEqual((submission.authority, submission.state), ("us-il", State.QUEUED))
        with mock.patch.object(tasks, "hand_in", return_value="R-1"):
            tasks.send(submission.pk)
        with mock.patch.object(tasks, "ask", return_value=Answer("accepted", raw={})):
            tasks.poll(submission.pk)
        made.refresh_from_db()
        self.assertEqual(made.stage, Stage.DELIVER)

    def test_the_package_says_which_forms_are_not_filed(self):
        made = self.signed()
        (submission,) = filing.file_return(self.signer, made.pk)
        submission.state, submission.receipt = State.ACCEPTED, "R-us-il"
        submission.save()
        package = packaging.make_package(self.signer, made.pk)
        delivered.build(package.pk)
        package.refresh_from_db()
        pages = PdfReader(io.BytesIO(delivered.read_package(package))).pages
        text = " ".join(" ".join(page.extract_text() for page in pages).split())
        self.assertIn("1040 Individual income tax return, 2025 Figured for another return. This form is not filed.", text)
        self.assertIn("R-us-il", text)
        self.assertIn("Your 2025 IL tax return", text)
        self.assertNotIn("Federal, tax", text)

    def test_more_time_with_the_state_is_more_time_for_the_return(self):
        made = self.part()
        self.assertEqual(extending.ask(self.preparer, made.pk), ["us-il"])
        extending.make_ready(self.preparer, made.pk)
        self.assertEqual(extending.send_ready(self.signer, made.pk), [])
        made.refresh_from_db()
        self.assertEqual(made.due.isoformat(), "2026-10-15")

    def test_what_was_sent_is_not_given_up(self):
        filing.file_return(self.signer, self.signed().pk)
        with self.assertRaisesRegex(Settled, "was filed"):
            separate_returns.file_together(self.preparer, self.return_.pk, "IL")


class PageTests(ApartTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")

    def post(self, way, state="IL"):
        return self.client.post(reverse("file-apart", args=[self.return_.pk]), {"state": state, "way": way}, follow=True)

    def test_places_shows_what_both_ways_come_to(self):
        page = self.client.get(reverse("places", args=[self.return_.pk]))
        self.assertContains(page, "Separate returns save")
        self.assertContains(page, "Lorna alone")
        self.assertContains(page, "both count as residents on a joint return")

    def test_apart_and_together_again(self):
        self.assertContains(self.post("apart"), "The separate state return is made")
        made = self.return_.apart.for_firm(self.firm).get()
        page = self.client.get(reverse("places", args=[made.pk]))
        self.assertContains(page, "the joint return")
        self.assertContains(page, "Illinois only: Lorna, separate from the joint return")
        self.assertNotContains(page, "Separate returns save")
        self.assertContains(self.client.get(reverse("household", args=[self.household.pk])), "IL apart")
        self.assertContains(self.post("together"), "They file jointly again")

    def test_what_cannot_be_is_said_there(self):
        answer = self.post("apart", "IA")
        self.assertContains(answer, "requires one return of this couple", status_code=422)
        self.assertContains(self.post("apart", "nowhere"), "is not a state", status_code=422)
