"""Entry: provenance, history, conflicts, tapes, rows, undo, secrets."""

from decimal import Decimal

from django.db import DatabaseError, connection, transaction

from practice.firm.models import Event
from practice.firm.typed_values import amount, read_typed
from practice.returns import entry, undoing
from practice.returns.computing import result_of
from practice.returns.models import FieldChange
from practice.tests.office import OfficeTestCase
from taxcore.engine import Amount, BadValue, Choice, Count, Day, Flag
from taxcore.engine.fields import Text


class SaveFieldTests(OfficeTestCase):
    def test_a_saved_field_moves_the_return_and_knows_who_keyed_it(self):
        saved = self.key("federal_withheld", "5,900")
        self.assertEqual(saved.after["us.1040.25a"].amount - saved.before["us.1040.25a"].amount, 88)
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["federal_withheld"], "5900.00")
        self.assertEqual(self.paper.provenance["federal_withheld"]["by"], self.preparer.initials)
        change = self.paper.changes.get(path="federal_withheld")
        self.assertEqual((change.before, change.after, change.by), ("5812.00", "5900.00", self.preparer))

    def test_the_summary_for_lists_follows(self):
        self.key("federal_withheld", "9000")
        lines = {line["code"]: line["amount"] for line in self.again().summary["lines"]}
        self.assertEqual(lines["us"], str(9000 - 5249))

    def test_a_tape_stays_with_the_amount(self):
        self.key("federal_withheld", "1200*4+350")
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["federal_withheld"], "5150.00")
        self.assertEqual(self.paper.provenance["federal_withheld"]["tape"], "1200*4+350")

    def test_a_computed_box_can_be_taken_over_and_released(self):
        box = lambda: result_of(self.again()).run.papers("w2")[0].cell("social_security_wages")  # noqa: E731
        self.key("social_security_wages", "60000")
        self.assertEqual((box().how, box().value), ("keyed", 60000))
        self.key("social_security_wages", "")
        self.assertEqual((box().how, box().value), ("computed", Decimal("61480.00")))

    def test_somebody_elses_newer_value_is_not_overwritten(self):
        self.key("wages", "62000", actor=self.signer)
        with self.assertRaises(entry.Conflict) as caught:
            self.key("wages", "63000", was="61480.00")
        self.assertEqual((caught.exception.theirs, caught.exception.by), ("62000.00", self.signer))
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["wages"], "62000.00")

    def test_the_same_save_sent_twice_is_harmless(self):
        self.key("wages", "62000")
        self.key("wages", "62000", was="61480.00")
        self.assertEqual(self.paper.changes.filter(path="wages").count(), 1)

    def test_two_fields_of_a_paper_do_not_conflict(self):
        self.key("wages", "62000", actor=self.signer)
        self.key("federal_withheld", "1", was="5812.00")

    def test_what_cannot_be_read_changes_nothing(self):
        version = self.return_.version
        for text in ("many", "1/0", "12**3", "-5", "99999999999999"):
            with self.subTest(text), self.assertRaises(BadValue):
                self.key("wages", text)
        self.assertEqual(self.again().version, version)

    def test_a_path_that_is_no_field_is_refused(self):
        for path in ("nothing", "states.9.wages", "states.1.nothing", "states", "owner.1"):
            with self.subTest(path), self.assertRaises(entry.NoSuchField):
                self.key(path, "1", was="")


class SecretTests(OfficeTestCase):
    def person(self):
        return self.return_.papers.get(kind="person")

    def test_numbers_are_encrypted_in_papers_history_and_clients(self):
        paper = self.person()
        was = entry.fingerprint(
            self.firm.pk, entry.place_at(result_of(self.return_).run.pack, paper, "number").declared, "921-17-5580"
        )
        self.key("number", "921175581", was=was, paper=paper)
        with connection.cursor() as cursor:
            for table, column in (
                ("returns_paper", "values"), ("returns_fieldchange", "before"), ("returns_fieldchange", "after"), ("clients_person", "number"),
            ):  # fmt: skip
                cursor.execute(f"select string_agg(\"{column}\"::text, ' ') from {table}")  # noqa: S608
                stored = cursor.fetchone()[0]
                self.assertNotIn("17-5580", stored)
                self.assertNotIn("175581", stored.replace("-", ""))
        self.assertEqual(result_of(self.again()).run.person("taxpayer").number, "921-17-5581")

    def test_a_stale_secret_conflicts_without_being_told(self):
        with self.assertRaises(entry.Conflict):
            self.key("number", "921175581", was="", paper=self.person())


class RowTests(OfficeTestCase):
    def test_rows_keep_their_ids_and_never_reuse_one(self):
        entry.add_row(self.preparer, self.return_.pk, self.paper.pk, "states")
        self.key("states.2.wages", "100", was="")
        entry.remove_row(self.preparer, self.return_.pk, self.paper.pk, "states", "2")
        entry.add_row(self.preparer, self.return_.pk, self.paper.pk, "states")
        self.paper.refresh_from_db()
        self.assertEqual([row["id"] for row in self.paper.values["states"]], ["1", "3"])
        self.assertEqual(self.paper.changes.filter(path="states.2.wages").count(), 2)


class PaperTests(OfficeTestCase):
    def test_a_paper_taken_out_counts_no_more_and_can_be_put_back(self):
        entry.remove_paper(self.preparer, self.return_.pk, self.paper.pk)
        self.assertEqual(result_of(self.again())["us.1040.1a"].amount, 0)
        entry.restore_paper(self.preparer, self.return_.pk, self.paper.pk)
        self.assertEqual(result_of(self.again())["us.1040.1a"].amount, 61480)

    def test_a_paper_that_exists_once_is_not_added_twice(self):
        _, one = entry.add_paper(self.preparer, self.return_.pk, "deposit")
        _, other = entry.add_paper(self.preparer, self.return_.pk, "deposit")
        self.assertEqual(one.pk, other.pk)


class UndoTests(OfficeTestCase):
    def test_takes_back_my_own_changes_one_after_the_other(self):
        self.key("wages", "1000")
        self.key("wages", "2000")
        self.key("federal_withheld", "7", actor=self.signer)
        undoing.undo_last(self.preparer, self.return_.pk)
        undoing.undo_last(self.preparer, self.return_.pk)
        self.paper.refresh_from_db()
        self.assertEqual((self.paper.values["wages"], self.paper.values["federal_withheld"]), ("61480.00", "7.00"))

    def test_does_not_undo_over_a_colleague(self):
        self.key("wages", "1000")
        self.key("wages", "2000", actor=self.signer)
        with self.assertRaises(entry.Conflict):
            undoing.undo_last(self.preparer, self.return_.pk)


class HistoryTests(OfficeTestCase):
    def test_the_database_refuses_to_change_or_delete_history(self):
        self.key("wages", "1000")
        for model in (FieldChange, Event):
            rows = model.objects.for_firm(self.firm)
            with self.subTest(model.__name__), self.assertRaises(DatabaseError), transaction.atomic():
                rows.delete()
            with self.subTest(model.__name__), self.assertRaises(DatabaseError), transaction.atomic():
                rows.update(firm=self.firm)


class TypedTests(OfficeTestCase):
    AMOUNTS = [
        ("1,250", "1250"), ("$3.10", "3.10"), ("(200)", "-200"), ("1200*12+350", "14750"), ("10-3-2", "5"), ("2*(3+4)", "14"),
        ("100÷8", "12.5"), ("-5+7", "2"), (".5", ".5"),
    ]  # fmt: skip

    def test_amounts_with_arithmetic(self):
        for text, expected in self.AMOUNTS:
            with self.subTest(text):
                self.assertEqual(amount(text)[0], Decimal(expected))

    TWO_WAYS = ["100,00", "12,34", "1,23", "1,2345", "12.345", "1,234,56", "2*1,5", "(12,5)", "1234,5678"]

    def test_what_may_be_read_in_two_ways_is_asked(self):
        for text in self.TWO_WAYS:
            with self.subTest(text), self.assertRaisesRegex(BadValue, "two ways"):
                read_typed(Amount(None, "Pay", negative=True), text)
        self.assertEqual(read_typed(Amount(None, "Pay"), "12.345", by_hand=False)[0], "12.35")  # a file means what it says

    def test_other_scripts_and_sizes_are_refused_with_a_sentence(self):
        for text in ("²", "٣٤", "1٣", "9" * 15, "1" * 700, "1e5", "١٢/٣/١٩٨٠"):
            for field in (Amount(None, "Pay"), Day(None, "Born"), Count(None, "Months", most=12)):
                with self.subTest(text, field=field.label), self.assertRaises(BadValue):
                    read_typed(field, text)

    def test_a_beginning_chooses_yes_where_there_is_one(self):
        listed = Choice(None, "Asked", {"not-asked": "Not asked", "yes": "Yes", "no": "No", "yesterday": "Yesterday"})
        self.assertEqual([read_typed(listed, text)[0] for text in ("y", "Y", "n")], ["yes", "yes", "no"])

    FIELDS = [
        (Day(None, "Born"), "8/9/80", "1980-08-09"),
        (Day(None, "Born"), "Aug 9, 1980", "1980-08-09"),
        (Day(None, "Born"), "3/14/80", "1980-03-14"),
        (Day(None, "Born"), "March 14, 1980", "1980-03-14"),
        (Day(None, "Born"), "14 mar 1980", "1980-03-14"),
        (Flag(None, "Blind"), "Y", "yes"),
        (Text(None, "Number", shape="00-0000000"), "007140362", "00-7140362"),
        (Amount(None, "Pay"), "0.125", "0.13"),
    ]  # fmt: skip

    def test_values_typed_any_common_way(self):
        for field, text, expected in self.FIELDS:
            with self.subTest(text):
                self.assertEqual(read_typed(field, text)[0], expected)


class RolledBackTests(OfficeTestCase):
    def test_a_change_that_rolls_back_leaves_no_figure_behind(self):
        with self.captureOnCommitCallbacks(execute=True), self.assertRaises(ZeroDivisionError), transaction.atomic():
            self.key("wages", "1000")
            raise ZeroDivisionError
        with self.captureOnCommitCallbacks(execute=True):
            self.key("wages", "2000")
        self.assertEqual(result_of(self.again())["us.1040.1a"].amount, 2000)


class ClientInStepTests(OfficeTestCase):
    def person(self):
        return self.return_.papers.get(kind="person")

    def test_what_is_keyed_about_a_client_reaches_the_clients_record(self):
        self.key("first_name", "Laura", paper=self.person())
        self.key("birth_date", "4/9/1979", paper=self.person())
        self.key("email", "laura@abernathy.example", paper=self.person())
        self.client_person.refresh_from_db()
        self.assertEqual((self.client_person.first_name, str(self.client_person.birth_date)), ("Laura", "1979-04-09"))
        self.assertEqual(self.client_person.email, "laura@abernathy.example")

    def test_a_number_of_another_client_is_refused_with_their_name(self):
        from practice.returns.opening import open_household

        open_household(self.preparer, "Tarn", [{"first_name": "Wren", "last_name": "Tarn", "number": "968-45-7703"}])
        paper = self.person()
        was = entry.fingerprint(
            self.firm.pk, entry.place_at(result_of(self.return_).run.pack, paper, "number").declared, "921-17-5580"
        )
        with self.assertRaisesRegex(BadValue, "belongs to Wren Tarn"):
            self.key("number", "968457703", was=was, paper=paper)

    def test_a_spouse_is_a_client_who_can_sign(self):
        from practice.signing.needed import signers

        _, paper = entry.add_spouse(self.preparer, self.return_.pk)
        self.key("first_name", "Wren", paper=paper)
        filing = self.return_.papers.get(kind="filing")
        self.key("status", "joint", paper=filing)
        self.assertEqual([(client.full_name, role) for client, role in signers(self.again())],
                         [("Lorna Abernathy", "taxpayer"), ("Wren Abernathy", "spouse")])  # fmt: skip

    def test_what_was_taken_out_and_exists_once_comes_back_when_it_is_added_again(self):
        _, paper = entry.add_spouse(self.preparer, self.return_.pk)
        entry.remove_paper(self.preparer, self.return_.pk, paper.pk)
        self.assertEqual(entry.add_spouse(self.preparer, self.return_.pk)[1].pk, paper.pk)
        _, deposit = entry.add_paper(self.preparer, self.return_.pk, "deposit")
        entry.remove_paper(self.preparer, self.return_.pk, deposit.pk)
        _, again = entry.add_paper(self.preparer, self.return_.pk, "deposit")
        self.assertEqual((again.pk, again.removed_at), (deposit.pk, None))


class NewPapersTests(OfficeTestCase):
    def test_a_surviving_spouse_signs_alone(self):
        from practice.signing.needed import signers

        _, spouse = entry.add_spouse(self.preparer, self.return_.pk)
        self.key("first_name", "Wren", paper=spouse)
        self.key("status", "joint", paper=self.return_.papers.get(kind="filing"))
        self.key("death_date", "5/5/2025", paper=self.return_.papers.get(kind="person", key="taxpayer"))
        self.assertEqual([role for _, role in signers(self.again())], ["spouse"])

    def test_a_secret_inside_a_table_is_stored_sealed_and_computed_open(self):
        row = {"recipient": "Edda Roe", "number": "916-20-1111", "since": "2017-05-01", "amount": "600.00"}
        _, paper = entry.add_paper(self.preparer, self.return_.pk, "adjustments", "taxpayer", {"alimony": [row]})
        paper.refresh_from_db()
        self.assertNotIn("916", str(paper.values))
        result = result_of(self.again())
        self.assertEqual(result.run.papers("adjustments")[0].alimony[0].number, "916-20-1111")
        self.assertEqual(result["us.sch-1.19a"].amount, 600)
