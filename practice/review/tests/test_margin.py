"""Initials that lapse when a figure or its papers move; margin notes and open points."""

from django.urls import reverse

from practice.firm.permissions import Refused
from practice.returns.computing import result_of
from practice.returns.tests.test_pages import PageTestCase
from practice.review import margin
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class InitialsTests(OfficeTestCase):
    def held(self, address):
        return_ = self.again()
        return [(row.by.initials, why) for row, why in margin.initials_on(return_, result_of(return_)).get(address, [])]

    def test_they_hold_until_the_value_moves(self):
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.25a")
        self.key("wages", "61500")
        self.assertEqual(self.held("us.1040.25a"), [(self.reviewer.initials, "")])
        self.key("federal_withheld", "5900")
        self.assertEqual(self.held("us.1040.25a"), [(self.reviewer.initials, "was 5812, is 5900")])

    def test_they_lapse_when_a_paper_moves_though_the_value_does_not(self):
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.24")
        self.key("wages", "61481")  # the same row of the tax table
        self.assertIn("a paper moved", self.held("us.1040.24")[0][1])

    def test_set_again_they_hold_again(self):
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.25a")
        self.key("federal_withheld", "5900")
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.25a")
        self.assertEqual(self.held("us.1040.25a"), [(self.reviewer.initials, "")])

    def test_two_reviewers_initial_apart_and_each_takes_back_their_own(self):
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.24")
        margin.set_initials(self.signer, self.return_.pk, "us.1040.24")
        margin.take_initials_back(self.reviewer, self.return_.pk, "us.1040.24")
        self.assertEqual([who for who, _ in self.held("us.1040.24")], [self.signer.initials])

    def test_only_reviewers_initial_and_only_figures(self):
        with self.assertRaises(Refused):
            margin.set_initials(self.preparer, self.return_.pk, "us.1040.24")
        with self.assertRaises(BadValue):
            margin.set_initials(self.reviewer, self.return_.pk, "us.1040.999")


class NoteTests(PageTestCase):
    def post(self, name, *args, **body):
        return self.client.post(reverse(name, args=[self.return_.pk, *args]), {"at": "us.1040.24"} | body)

    def test_an_open_point_is_asked_answered_and_closed(self):
        self.assertContains(self.post("add-note", text="Is this right?", asked=self.reviewer.pk), "open point for")
        self.assertContains(self.get("review"), "Is this right?")
        note = self.return_.notes.get()
        self.assertContains(self.post("close-note", note.pk, answer=" "), "Enter the answer first", status_code=422)
        self.assertContains(self.post("close-note", note.pk, answer="Yes, see box 2"), "Yes, see box 2")
        self.assertNotContains(self.get("review"), "Is this right?")

    def test_a_note_for_the_record_marks_its_line(self):
        self.post("add-note", text="From the letter of 3 March")
        self.assertContains(self.get("forms", at="us.1040.24"), 'title="margin note"')

    def test_nothing_written_is_refused_and_a_stranger_is_nobody_to_ask(self):
        self.assertContains(self.post("add-note", text=" "), "Enter a note", status_code=422)
        answer = self.post("add-note", text="Is this right?", asked=self.stranger.pk)
        self.assertContains(answer, 'value="Is this right?"', status_code=422)

    def test_a_preparer_may_not_initial(self):
        self.assertEqual(self.post("set-initials").status_code, 403)

    def test_a_reviewers_initials_stand_on_the_line_and_in_review(self):
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.post("set-initials"), self.reviewer.initials)
        self.key("federal_withheld", "1")
        self.key("wages", "90000")
        self.assertContains(self.get("review"), "lapsed")
        self.assertContains(self.get("forms", at="us.1040.24"), f'title="initials of {self.reviewer.initials} lapsed"')
