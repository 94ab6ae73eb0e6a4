"""States a preparer decides about, and moves entered as one act."""

from django.urls import reverse

from practice.firm.permissions import Refused
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, add_spouse
from practice.returns.undoing import undo_last
from practice.tests.office import OfficeTestCase
from practice.us import state_returns
from taxcore.engine import BadValue
from taxcore.packs.us import places
from taxcore.packs.us.papers.places import WHERE


class DecidingTestCase(OfficeTestCase):
    def decide(self, state, what, reason="Asked by the client"):
        return state_returns.decide(self.preparer, self.return_.pk, state, what, reason)

    def move(self, who="taxpayer", state="IN", day="07/01/2025", actor=None):
        return state_returns.move(actor or self.preparer, self.return_.pk, who, state, day)

    def run_(self):
        return result_of(self.again()).run

    def lines(self):
        return [line.authority.code for line in result_of(self.again()).bottom_lines]

    def wanted(self):
        return {one.state: one for one in places.wanted(self.run_())}


class DecidingTests(DecidingTestCase):
    def test_a_return_left_out_and_made_after_all(self):
        self.decide("IL", "leave-out")
        self.assertEqual((self.lines(), self.wanted()["IL"].left_out), (["us"], "Asked by the client"))
        self.assertIn("us.places.left-out", {one.code for one in result_of(self.again()).findings})
        self.decide("IL", "", "")
        self.assertEqual((self.lines(), self.wanted()["IL"].left_out), (["us", "us-il"], ""))

    def test_a_return_that_nothing_calls_for(self):
        saved = self.decide("GA", "make", "Estimates were paid")
        self.assertIn("Georgia's return is prepared by choice", saved.says)
        self.assertEqual(self.lines(), ["us", "us-il", "us-ga"])
        self.assertTrue(self.wanted()["GA"].by_hand)
        undo_last(self.preparer, self.return_.pk)
        self.assertEqual(self.lines(), ["us", "us-il"])

    def test_another_decision_takes_the_place_of_the_first(self):
        self.decide("IL", "leave-out", "One")
        self.decide("IL", "leave-out", "Two")
        rows = self.return_.papers.get(kind="state-returns").values["rows"]
        self.assertEqual([row["reason"] for row in rows], ["Two"])

    def test_what_cannot_be_decided_says_why(self):
        for state, what, reason, says in (
            ("IL", "leave-out", " ", "Enter the reason"),
            ("TX", "make", "Why not", "no return to prepare"),
        ):
            with self.subTest(state), self.assertRaisesRegex(BadValue, says):
                self.decide(state, what, reason)
        self.assertFalse(self.return_.papers.filter(kind="state-returns").exists())

    def test_it_is_recorded(self):
        self.decide("GA", "make", "Estimates were paid")
        self.assertIn("Estimates were paid", self.events("state return decided").get().says)


class MovingTests(DecidingTestCase):
    def days(self, role="taxpayer"):
        return places.days_in(self.run_(), role)

    def test_a_resident_moves_and_everything_keyed_stays(self):
        wages = self.paper.values
        self.move()
        self.assertEqual((self.days(), self.lines()), ({"IL": 181, "IN": 184}, ["us", "us-il", "us-in"]))
        self.assertEqual(self.again().papers.get(pk=self.paper.pk).values, wages)
        self.assertNotIn("residence", self.return_.papers.get(kind="filing").values)

    def test_twice_in_a_year_and_back(self):
        self.move(state="IN", day="04/01/2025")
        self.move(state="IL", day="10/01/2025")
        self.assertEqual(self.days(), {"IL": 90 + 92, "IN": 183})

    def test_an_earlier_day_takes_the_place_of_what_came_after(self):
        self.move(state="IN", day="07/01/2025")
        self.move(state="WI", day="03/01/2025")
        self.assertEqual(self.days(), {"IL": 59, "WI": 306})

    def test_undone_as_one(self):
        before = self.lines()
        self.move()
        undo_last(self.preparer, self.return_.pk)
        self.assertEqual((self.lines(), self.days()), (before, {"IL": 365}))

    def test_one_spouse_moves_and_the_other_stays(self):
        add_spouse(self.preparer, self.return_.pk)
        filing = self.return_.papers.get(kind="filing")
        self.key("status", "joint", paper=filing)
        self.move("spouse", "IA", "02/01/2025")
        self.assertEqual((self.days(), self.days("spouse")), ({"IL": 365}, {"IL": 31, "IA": 334}))
        self.move("both", "WI", "12/01/2025")
        self.assertEqual((self.days()["WI"], self.days("spouse")["WI"]), (31, 31))

    def test_abroad_is_a_place_too(self):
        self.move(state=state_returns.state_named("outside the united states", WHERE), day="12/31/2025")
        self.assertEqual(self.days(), {"IL": 364, "abroad": 1})

    def test_what_cannot_be_says_why_and_changes_nothing(self):
        cases = (
            ("spouse", "IN", "07/01/2025", "no spouse"),
            ("taxpayer", "IL", "07/01/2025", "already the residence"),
            ("taxpayer", "IN", "07/01/2024", "within 2025"),
            ("taxpayer", "IN", "01/01/2025", "after January 1"),
            ("taxpayer", "IN", "", "first day"),
            ("taxpayer", "IN", "someday", ""),
        )
        for who, state, day, says in cases:
            with self.subTest(says or day), self.assertRaisesRegex(BadValue, says):
                self.move(who, state, day)
        self.assertEqual(self.days(), {"IL": 365})

    def test_a_reviewer_moves_nobody(self):
        with self.assertRaises(Refused):
            self.move(actor=self.reviewer)

    def test_residency_changes_in_place_and_keeps_the_state_s_own_answers(self):
        add_paper(self.preparer, self.return_.pk, "in-questions", "", {"county": "Lake", "rent": "900.00"})
        self.decide("IN", "make")
        kinds = [self.wanted()["IN"].kind]
        self.move()
        kinds.append(self.wanted()["IN"].kind)
        filing = self.return_.papers.get(kind="filing")
        undo_last(self.preparer, self.return_.pk)
        self.key("residence", "IN", paper=filing)
        kinds.append(self.wanted()["IN"].kind)
        self.assertEqual(kinds, ["nonresident", "part-year", "full-year"])
        self.assertEqual(result_of(self.again())["us-in.it-40.4"].value, 900)


class PageTests(DecidingTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer)
        self.url = reverse("places", args=[self.return_.pk])

    def test_a_move_from_the_page(self):
        page = self.client.post(f"{self.url}/move", {"who": "taxpayer", "state": "Indiana", "day": "7/1/2025"}, follow=True)
        self.assertContains(page, "Moved to Indiana on July 1")
        self.assertContains(page, "IN 184")

    def test_what_was_typed_stays_where_it_is_refused(self):
        page = self.client.post(f"{self.url}/move", {"who": "taxpayer", "state": "Atlantis", "day": "7/1/2025"})
        self.assertContains(page, "Atlantis", status_code=422)
        self.assertContains(page, "7/1/2025", status_code=422)
        page = self.client.post(f"{self.url}/decide", {"state": "Georgia", "what": "make", "reason": ""})
        self.assertContains(page, "Enter the reason", status_code=422)
        self.assertContains(page, 'value="Georgia"', status_code=422)

    def test_left_out_from_the_page_and_back(self):
        page = self.client.post(
            f"{self.url}/decide", {"state": "IL", "what": "leave-out", "reason": "Moved in error"}, follow=True
        )
        self.assertContains(page, "Not prepared: Moved in error")
        page = self.client.post(f"{self.url}/decide", {"state": "IL", "what": "", "reason": ""}, follow=True)
        self.assertNotContains(page, "Not prepared: Moved in error")

    def test_the_map_tells_what_each_square_is(self):
        page = self.client.get(self.url)
        self.assertContains(page, "Illinois: 61,480 of income, 3,043 withheld, lived there")
        self.assertContains(page, "<title>Texas: nothing</title>")

    def test_localities_are_listed(self):
        self.key("states.1.locality", "RIVERSIDE")
        self.key("states.1.local_withheld", "120")
        self.assertContains(self.client.get(self.url), "RIVERSIDE")
