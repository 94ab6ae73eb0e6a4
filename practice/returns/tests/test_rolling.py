"""Next year's return in the practice: made, left, filled, made again; confirmed; and what the year before says otherwise later."""

from practice.firm.models import Event
from practice.firm.permissions import Refused
from practice.returns import rolling, rounds, taking_over
from practice.returns.computing import data_of, result_of
from practice.returns.confirming import confirm, confirm_many, unconfirmed
from practice.returns.entry import add_paper, remove_paper, save_field
from practice.returns.models import Origin, Return
from practice.returns.opening import open_return
from practice.returns.undoing import undo_last
from practice.signing.locking import lock_figures
from practice.tests.office import WAGES, OfficeTestCase
from taxcore.engine.document import write


class RollingTestCase(OfficeTestCase):
    """`self.earlier` is a return of 2024 with a W-2 and a capital loss; next year is the law's last complete one."""

    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        cls.return_.given_up_at = cls.return_.opened_at  # the year after must be free
        cls.return_.save()
        cls.earlier = open_return(cls.preparer, cls.household.pk, 2024, [(cls.client_person.pk, "taxpayer")])
        filing = cls.earlier.papers.get(kind="filing")
        save_field(cls.preparer, cls.earlier.pk, filing.pk, "residence", "IL", "")
        add_paper(cls.preparer, cls.earlier.pk, "w2", "taxpayer", WAGES | {"employee_number": "921-17-5580"})
        sales = [
            {
                "box": "D",
                "description": "Shares",
                "acquired": "2020-01-05",
                "sold": "2024-05-05",
                "proceeds": "0",
                "basis": "9000",
            }
        ]
        _, cls.sold = add_paper(cls.preparer, cls.earlier.pk, "1099-b", "taxpayer", {"payer": "Sandbar", "sales": sales})

    def roll(self, there="leave"):
        return rolling.roll(self.preparer, self.earlier.pk, there)

    def next(self):
        return Return.objects.for_firm(self.firm).get(year=2025, given_up_at=None)

    def value(self, kind, name):
        return data_of(self.next()).papers and next(
            one.values.get(name) for one in data_of(self.next()).papers if one.kind == kind
        )


class RollTests(RollingTestCase):
    def test_what_comes_over_and_how_it_is_marked(self):
        made = self.roll()
        return_ = self.next()
        self.assertEqual(
            (made.says, return_.pk, return_.stage, return_.preparer), ("made", made.return_.pk, "gather", self.preparer)
        )
        self.assertEqual((self.value("w2", "employer"), self.value("w2", "wages")), ("Kittiwake Boatworks LLC", None))
        self.assertEqual(self.value("capital-carryover", "long_term"), "6000")
        self.assertEqual(return_.summary["counts"], result_of(return_).counts)  # worked out without reading the papers again
        paper = return_.papers.get(kind="capital-carryover")
        self.assertEqual(paper.provenance["long_term"], {"how": "rolled", "by": "", "from": 2024})
        person = return_.papers.get(kind="person")
        self.assertEqual(person.person, self.client_person)
        self.assertTrue(Event.objects.for_firm(self.firm).filter(what="return rolled forward", of=return_).exists())

    def test_secrets_are_sealed_again(self):
        self.roll()
        paper = self.next().papers.get(kind="person")
        self.assertIn("sealed", paper.values["number"])
        self.assertEqual(self.value("person", "number"), "921-17-5580")

    def test_the_source_stays_as_it_was_and_twice_gives_the_same(self):
        self.earlier.refresh_from_db()
        before = (write(data_of(self.earlier)), self.earlier.version)
        self.roll()
        first = write(data_of(self.next(), look_back=False))
        self.roll("again")
        self.assertEqual(write(data_of(self.next(), look_back=False)), first)
        earlier = Return.objects.for_firm(self.firm).get(pk=self.earlier.pk)
        self.assertEqual((write(data_of(earlier)), earlier.version), before)

    def test_a_return_that_is_there_is_left_filled_or_kept_beside_a_new_one(self):
        first = self.roll().return_
        self.assertEqual(self.roll().says, "left: there is a return of 2025 already")
        self.assertEqual(self.roll("fill").says, "nothing was missing")
        again = self.roll("again")
        self.assertNotEqual(again.return_.pk, first.pk)
        first.refresh_from_db()
        self.assertEqual((first.stage, first.state_note), ("done", "replaced"))
        with self.assertRaisesRegex(Exception, "made in place of this one"):
            add_paper(self.preparer, first.pk, "w2")

    def test_filling_in_moves_nothing_that_stands_there(self):
        there = open_return(self.preparer, self.household.pk, 2025, [(self.client_person.pk, "taxpayer")])
        _, wages = add_paper(self.preparer, there.pk, "w2", "taxpayer", {"employer": "Kittiwake Boatworks LLC", "wages": "50000"})
        self.roll("fill")
        wages.refresh_from_db()
        self.assertEqual((wages.values["wages"], wages.values["employer_number"]), ("50000", "00-7140362"))
        self.assertEqual(self.next().papers.filter(kind="w2").count(), 1)
        self.assertEqual(self.value("capital-carryover", "long_term"), "6000")
        self.assertEqual(Origin.objects.for_firm(self.firm).get(of=there).source_id, self.earlier.pk)

    def test_who_may_and_what_cannot(self):
        with self.assertRaises(Refused):
            rolling.roll(self.reviewer, self.earlier.pk)
        with self.assertRaisesRegex(rolling.NotRolled, "law of 2027"):
            last = open_return(self.preparer, self.household.pk, 2026, [(self.client_person.pk, "taxpayer")])
            rolling.roll(self.preparer, last.pk)

    def test_a_locked_return_is_not_made_again(self):
        Return.objects.for_firm(self.firm).filter(pk=self.return_.pk).update(given_up_at=None)
        lock_figures(self.preparer, self.return_.pk)
        with self.assertRaisesRegex(rolling.NotRolled, "locked or filed already"):
            self.roll("again")

    def test_many_in_a_round(self):
        made = rounds.begin(self.preparer, "roll", [self.earlier.pk, self.return_.pk], there="leave")
        rounds.go_on(made.pk)
        items = {item.of.year: (item.worked, item.says, item.made) for item in made.items.all()}
        self.assertEqual(items[2024], (True, "made", self.next()))
        self.assertFalse(items[2025][0])

    def test_a_held_round_waits_and_goes_on(self):
        made = rounds.begin(self.preparer, "roll", [self.earlier.pk], there="leave")
        rounds.hold(self.preparer, made.pk)
        rounds.go_on(made.pk)
        self.assertFalse(Return.objects.for_firm(self.firm).filter(year=2025, given_up_at=None).exists())
        rounds.hold(self.preparer, made.pk, held=False)
        rounds.go_on(made.pk)
        self.assertEqual(self.next().year, 2025)


class ConfirmingTests(RollingTestCase):
    def codes(self):
        return {one.code for one in result_of(self.next()).findings if one.code.startswith("us.unconfirmed")}

    def test_by_field_paper_and_whole_return(self):
        return_ = self.roll().return_
        self.assertEqual(self.codes(), {"us.unconfirmed", "us.unconfirmed-tax"})
        carryover = return_.papers.get(kind="capital-carryover")
        version = self.next().version
        confirm(self.preparer, return_.pk, carryover.pk, "long_term")
        self.assertGreater(self.next().version, version)
        carryover.refresh_from_db()
        self.assertEqual(carryover.provenance["long_term"]["how"], "confirmed")
        confirm(self.preparer, return_.pk, return_.papers.get(kind="w2").pk)
        left = {paper.kind for paper, _ in unconfirmed(self.next())}
        self.assertTrue(left and not left & {"w2", "capital-carryover"}, left)
        confirm_many(self.preparer, return_.pk, {paper.pk for paper, _ in unconfirmed(self.next())})
        self.assertEqual((unconfirmed(self.next()), self.codes()), ([], set()))
        self.assertRegex(self.events("values confirmed").first().says, rf"^\d+ on {len(left)} papers$")

    def test_keying_confirms(self):
        return_ = self.roll().return_
        carryover = return_.papers.get(kind="capital-carryover")
        save_field(self.preparer, return_.pk, carryover.pk, "long_term", "6,100", "6000")
        carryover.refresh_from_db()
        self.assertEqual(carryover.provenance["long_term"]["how"], "keyed")


class TakingOverTests(RollingTestCase):
    def keyed_late(self):
        self.roll()
        save_field(self.preparer, self.earlier.pk, self.sold.pk, "sales.1.basis", "11000", "9000")
        add_paper(self.preparer, self.earlier.pk, "1099-int", "taxpayer", {"payer": "Tern Bank", "interest": "40"})
        return self.next()

    def test_what_the_source_says_otherwise_is_shown_and_taken_over(self):
        return_ = self.keyed_late()
        found = {(one.paper, one.label, one.here, one.now) for one in taking_over.differences(return_)}
        self.assertIn(("Capital loss carryover", "Long-term loss carryover from prior year", "6000", "8000"), found)
        self.assertIn(("Tern Bank", "Payer", "", "Tern Bank"), found)
        number = taking_over.take_over(self.preparer, return_.pk)
        self.assertEqual((number, taking_over.differences(self.next())), (len(found), []))
        self.assertEqual((self.value("capital-carryover", "long_term"), self.value("1099-int", "payer")), ("8000", "Tern Bank"))
        undo_last(self.preparer, return_.pk)
        self.assertEqual(self.value("capital-carryover", "long_term"), "6000")

    def test_of_a_paper_that_was_removed_here_nothing_is_offered(self):
        return_ = self.keyed_late()
        remove_paper(self.preparer, return_.pk, return_.papers.get(kind="capital-carryover").pk)
        self.assertNotIn("Capital loss carryover", {one.paper for one in taking_over.differences(self.next())})

    def test_secrets_in_rows_show_only_their_endings(self):
        self.roll()
        paid = [{"recipient": "Roe", "number": "916-20-1111", "since": "2015-01-01", "amount": "500"}]
        add_paper(self.preparer, self.earlier.pk, "adjustments", "taxpayer", {"alimony": paid})
        found = [one.now for one in taking_over.differences(self.next()) if one.label == "Alimony paid"]
        self.assertEqual(found, ["1 row: Roe •••-••-1111 2015-01-01"])

    def test_one_field_or_none_of_it(self):
        return_ = self.keyed_late()
        one = next(one for one in taking_over.differences(return_) if one.now == "8000")
        taking_over.take_over(self.preparer, return_.pk, [one.mark])
        self.assertEqual(self.value("capital-carryover", "long_term"), "8000")
        self.assertTrue(taking_over.differences(self.next()))
        taking_over.let_be(self.preparer, return_.pk)
        self.assertEqual(taking_over.differences(self.next()), [])
        self.assertFalse(self.next().papers.filter(kind="1099-int").exists())
