"""Papers copied, repeated, ordered; known senders; control totals; undoing whole papers; the states of the index."""

from decimal import Decimal

from practice.returns import arranging, entry, undoing
from practice.returns.computing import result_of
from practice.returns.index import changed_parts, index_view
from practice.returns.models import Party
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class SeatTestCase(OfficeTestCase):
    def index(self):
        return_ = self.again()
        return index_view(return_, [paper for paper in return_.papers.all() if not paper.removed_at], result_of(return_))

    def item(self, paper):
        return next(item for group in self.index() for item in group.items if item.paper == paper.pk)


class CopyTests(SeatTestCase):
    def test_the_same_sender_again_brings_who_and_whose_and_no_amount(self):
        _, made = arranging.copy_paper(self.preparer, self.return_.pk, self.paper.pk, everything=False)
        self.assertEqual(
            (made.values["employer"], made.values["employer_zip"], made.values["owner"]),
            ("Kittiwake Boatworks LLC", "61074", "taxpayer"),
        )
        self.assertNotIn("wages", made.values)
        self.assertEqual(made.values["states"], [{"id": "1", "state": "IL", "state_number": "0071-4036"}])
        self.assertEqual(made.provenance["employer"]["how"], "copied")
        self.assertEqual(result_of(self.again())["us.1040.1a"].amount, 61480)

    def test_a_copy_brings_everything_but_secrets(self):
        self.key("employee_number", "921-17-5580")
        self.paper.refresh_from_db()
        _, made = arranging.copy_paper(self.preparer, self.return_.pk, self.paper.pk)
        self.assertNotIn("employee_number", made.values)
        self.assertEqual(result_of(self.again())["us.1040.1a"].amount, 2 * 61480)

    def test_what_exists_once_is_not_copied(self):
        filing = self.return_.papers.get(kind="filing")
        with self.assertRaisesRegex(BadValue, "only once"):
            arranging.copy_paper(self.preparer, self.return_.pk, filing.pk)


class OrderTests(SeatTestCase):
    def test_papers_move_among_those_of_their_group(self):
        _, second = entry.add_paper(self.preparer, self.return_.pk, "1099-int", "taxpayer", {"payer": "Bank"})
        arranging.reorder(self.preparer, self.return_.pk, second.pk, -1)
        income = next(group for group in self.index() if group.code == "income")
        self.assertEqual([item.paper for item in income.items], [second.pk, self.paper.pk])
        arranging.reorder(self.preparer, self.return_.pk, second.pk, -1)  # already the first
        arranging.reorder(self.preparer, self.return_.pk, second.pk, 1)
        income = next(group for group in self.index() if group.code == "income")
        self.assertEqual([item.paper for item in income.items], [self.paper.pk, second.pk])


class SenderTests(SeatTestCase):
    def new_paper(self):
        return entry.add_paper(self.preparer, self.return_.pk, "w2", "taxpayer")[1]

    def test_a_sender_keyed_once_is_offered_by_number_and_taken_over_only_when_asked(self):
        self.assertEqual(Party.objects.for_firm(self.firm).get(number="00-7140362").city, "Savanna")
        paper = self.new_paper()
        self.key("employer_number", "007140362", paper=paper)
        paper.refresh_from_db()
        self.assertNotIn("employer", paper.values)
        saved = arranging.take_party(self.preparer, self.return_.pk, paper.pk)
        paper.refresh_from_db()
        self.assertEqual((paper.values["employer"], paper.values["employer_state"]), ("Kittiwake Boatworks LLC", "IL"))
        self.assertIn("filled in", saved.says)
        self.assertEqual(paper.changes.get(path="employer").note, "known to the practice")

    def test_what_somebody_keyed_stays(self):
        paper = self.new_paper()
        self.key("employer", "Kittiwake Boats", paper=paper)
        self.key("employer_number", "007140362", paper=paper)
        arranging.take_party(self.preparer, self.return_.pk, paper.pk)
        paper.refresh_from_db()
        self.assertEqual(paper.values["employer"], "Kittiwake Boats")

    def test_a_number_that_is_not_known_offers_nothing(self):
        paper = self.new_paper()
        self.key("employer_number", "00-1231231", paper=paper)
        with self.assertRaises(BadValue):
            arranging.take_party(self.preparer, self.return_.pk, paper.pk)

    def test_senders_stay_within_the_firm(self):
        self.assertFalse(Party.objects.for_firm(self.stranger.firm).exists())


class ControlTests(SeatTestCase):
    def control(self):
        return next(group for group in self.index() if group.code == "income").controls[0]

    def test_it_turns_from_open_to_met(self):
        arranging.set_control(self.preparer, self.return_.pk, "w2", 2, Decimal("70000"))
        self.assertEqual((self.control()["met"], self.control()["left"]), (False, Decimal("8520.00")))
        entry.add_paper(self.preparer, self.return_.pk, "w2", "taxpayer", {"wages": "8520.00"})
        self.assertTrue(self.control()["met"])

    def test_a_kind_with_no_paper_yet_is_told_too(self):
        arranging.set_control(self.preparer, self.return_.pk, "gift", 3, None)
        group = next(group for group in self.index() if group.code == "deductions")
        self.assertEqual((group.items, group.controls[0]["counted"], group.controls[0]["met"]), ([], 0, False))

    def test_it_can_be_taken_away(self):
        arranging.set_control(self.preparer, self.return_.pk, "w2", 2, None)
        arranging.set_control(self.preparer, self.return_.pk, "w2", None, None)
        self.assertFalse(self.return_.controls.exists())


class IndexStateTests(SeatTestCase):
    def test_empty_partly_question_complete(self):
        _, paper = entry.add_paper(self.preparer, self.return_.pk, "w2", "taxpayer")
        self.assertEqual(self.item(paper).state, "empty")
        self.key("wages", "100", paper=paper)
        self.assertEqual(self.item(paper).state, "partly")
        self.assertEqual(self.item(self.paper).state, "complete")
        filing = self.return_.papers.get(kind="filing")
        self.key("residence", "", paper=filing)
        self.assertEqual(self.item(filing).state, "question")

    def test_only_what_differs_is_drawn_again(self):
        before = self.index()
        self.key("wages", "61000")
        items, heads = changed_parts(before, self.index())
        self.assertEqual(([item.paper for item in items], [group.code for group in heads]), ([self.paper.pk], ["income"]))

    def test_a_new_paper_draws_all_of_it(self):
        before = self.index()
        entry.add_paper(self.preparer, self.return_.pk, "gift")
        self.assertIsNone(changed_parts(before, self.index()))


class UndoPaperTests(SeatTestCase):
    def test_an_added_paper_goes_and_a_removed_one_comes_back(self):
        _, made = entry.add_paper(self.preparer, self.return_.pk, "1099-int", "taxpayer", {"payer": "Bank", "interest": "50.00"})
        entry.remove_paper(self.preparer, self.return_.pk, made.pk)
        undoing.undo_last(self.preparer, self.return_.pk)
        self.assertEqual(result_of(self.again())["us.1040.2b"].amount, 50)
        undoing.undo_last(self.preparer, self.return_.pk)
        self.assertEqual(result_of(self.again())["us.1040.2b"].amount, 0)

    def test_a_paper_put_back_by_hand_is_not_put_back_again(self):
        entry.remove_paper(self.preparer, self.return_.pk, self.paper.pk)
        entry.restore_paper(self.preparer, self.return_.pk, self.paper.pk)
        undone = undoing.undo_last(self.preparer, self.return_.pk)
        self.assertIn("added", undone.says)

    def test_a_paper_a_colleague_keyed_in_is_not_taken_out_by_undo(self):
        _, made = entry.add_paper(self.preparer, self.return_.pk, "gift", "taxpayer")
        self.key("amount", "5", actor=self.signer, paper=made)
        with self.assertRaises(undoing.SomebodyElse):
            undoing.undo_last(self.preparer, self.return_.pk)

    def test_a_colleagues_changes_are_theirs(self):
        entry.add_paper(self.signer, self.return_.pk, "gift")
        undone = undoing.undo_last(self.preparer, self.return_.pk)
        self.assertNotIn("gift", undone.says)


class ComputedBeforeTests(SeatTestCase):
    def test_taking_over_a_computed_box_says_what_it_was(self):
        saved = self.key("social_security_wages", "60000")
        self.assertIn("was = 61,480.00", saved.says)
