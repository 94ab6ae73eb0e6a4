"""Clients from elsewhere: looked at, chosen, taken in; what is there is left, what is wrong says so at its row."""

import io
import json
import zipfile

from practice.clients.models import Household, Person
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.intake import arriving, arriving_in
from practice.intake.models import Arrival
from practice.returns import rolling
from practice.returns.computing import data_of, result_of
from practice.returns.models import Return
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue, document
from taxcore.packs.us.tests.returns import child, data, filing, person, w2

_LIST = (
    "First name,Last name,SSN,Date of birth,Spouse first name,Spouse SSN,Street address,City,State,ZIP code,AGI,Prior tax,Short-term loss\n"
    "Ada,Moor,921-30-4401,4/5/1971,Ben,921-30-4402,1 Quay,Galena,IL,61036,\"88,410\",7944,2210\n"
    "Cy,Fenn,921-30-4403,5/6/1980,,,2 Quay,Galena,IL,61036,40100,x,\n"
)  # fmt: skip


class ArrivingTestCase(OfficeTestCase):
    def bring(self, name, content):
        row = arriving.bring(self.preparer, name, content if isinstance(content, bytes) else content.encode())
        return arriving.read(row)

    def take(self, row, *places):
        row = arriving_in.ask_to_take_in(self.preparer, row.pk, set(places))
        arriving_in.take_in(row)
        return Arrival.objects.for_firm(self.firm).get(pk=row.pk)

    def document(self, *papers, year=2024, **options):
        return json.dumps(document.write(data(*papers, year=year, **options)))


class DocumentTests(ArrivingTestCase):
    def test_a_return_comes_with_its_client_and_is_rolled_forward(self):
        row = self.bring(
            "moor.json", self.document(person("taxpayer", first_name="Ada", last_name="Moor"), filing(), w2(50_000, 4_000))
        )
        item = row.items[0]
        self.assertEqual(
            (item["name"], item["ending"], item["year"], item["there"], item["errors"]), ("Moor, Ada", "3371", 2024, False, [])
        )
        done = self.take(row, 0)
        self.assertEqual((done.state, done.items[0]["says"]), ("done", "taken in"))
        made = Return.objects.for_firm(self.firm).get(pk=done.items[0]["made"])
        self.assertEqual((made.household.name, made.year, made.stage), ("Moor, Ada", 2024, "done"))
        self.assertEqual((made.household.street, made.papers.get(kind="person").person.number), ("1 Row", "912-04-3371"))
        self.assertIn("sealed", made.papers.get(kind="person").values["number"])
        self.assertEqual(made.papers.get(kind="w2").provenance["wages"]["how"], "imported")
        after = rolling.roll(self.preparer, made.pk).return_
        self.assertEqual(after.papers.get(kind="w2").values["employer"], "Kittiwake")

    def test_a_zip_of_many_with_one_that_is_none(self):
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as made:
            made.writestr("a/moor.json", self.document(person(first_name="Ada", last_name="Moor"), filing(), w2(50_000)))
            made.writestr("fenn.json", "{not json")
            made.writestr("real.json", self.document(person(first_name="Cy"), filing(), training=False))
            made.writestr("read.me", "nothing")
        row = self.bring("all.zip", packed.getvalue())
        found = {item["from"]: item["errors"] for item in row.items}
        self.assertEqual(found["moor.json"], [])
        self.assertEqual(found["fenn.json"], ["It is not JSON."])
        self.assertIn("takes only training returns", found["real.json"][0])
        with self.assertRaisesRegex(BadValue, "Choose at least one"):
            arriving_in.ask_to_take_in(self.preparer, row.pk, {1, 2})

    def test_a_client_who_is_known_is_met_and_a_return_that_is_there_is_left(self):
        known = {"first_name": "Lorna", "last_name": "Abernathy", "number": "921-17-5580"}
        row = self.bring("again.json", self.document(person(**known), filing(), w2(1), year=2025))
        self.assertEqual((row.items[0]["known"], row.items[0]["there"]), ("Abernathy, Lorna", True))
        row = self.bring("before.json", self.document(person(**known), filing(), w2(50_000), year=2024))
        done = self.take(row, 0)
        made = Return.objects.for_firm(self.firm).get(pk=done.items[0]["made"])
        self.assertEqual((made.household, Household.objects.for_firm(self.firm).count()), (self.household, 1))

    def test_what_a_field_cannot_take_is_said_before(self):
        row = self.bring("bad.json", self.document(person(birth_date="yesterday"), filing(), w2("many")))
        self.assertTrue(any("is not an amount" in says for says in row.items[0]["errors"]), row.items[0]["errors"])

    def test_what_is_not_known_here_is_said_and_not_lost(self):
        for change, says in ((("papers", 1, "bonus"), "no field 'bonus'"), (("papers", 1, "id"), "is not of small letters")):
            given = json.loads(self.document(person(), filing(), w2(50_000)))
            given[change[0]][change[1]][change[2]] = "W 1"
            self.assertIn(says, self.bring("odd.json", json.dumps(given)).items[0]["errors"][0])

    def test_lines_set_by_hand_come_along(self):
        given = json.loads(self.document(person(), filing(), w2(50_000)))
        given["overrides"] = [{"address": "us.1040.16", "amount": "1200", "reason": "the letter of 3 March"}]
        done = self.take(self.bring("set.json", json.dumps(given)), 0)
        made = Return.objects.for_firm(self.firm).get(pk=done.items[0]["made"])
        self.assertEqual(result_of(made)["us.1040.16"].value, 1200)
        self.assertEqual(made.summary["counts"], result_of(made).counts)

    def test_people_are_called_by_their_role_whatever_the_document_calls_them(self):
        given = document.write(data(person(), child("d1"), filing("head_of_household", kept_home="yes"), year=2024))
        given["people"][0]["id"] = "p-17"
        given["papers"].append({"id": "t1", "kind": "1098-t", "student": "p-17", "payer": "College", "paid": "900"})
        done = self.take(self.bring("roles.json", json.dumps(given)), 0)
        made = data_of(Return.objects.for_firm(self.firm).get(pk=done.items[0]["made"]))
        self.assertEqual({one.id for one in made.papers if one.kind == "person"}, {"taxpayer", "d1"})
        self.assertEqual(next(one.values["student"] for one in made.papers if one.kind == "1098-t"), "taxpayer")


class ListTests(ArrivingTestCase):
    def columns(self, row):
        wanted = ("taxpayer.first_name", "taxpayer.last_name", "taxpayer.number", "taxpayer.birth_date", "spouse.first_name", "spouse.number",
                  "filing.street", "filing.city", "filing.state", "filing.zip", "prior-year.adjusted_gross_income", "prior-year.tax",
                  "capital-carryover.short_term")  # fmt: skip
        row = arriving.choose_columns(self.preparer, row.pk, {str(at): name for at, name in enumerate(wanted)})
        return arriving.read(row)

    def test_key_figures_open_the_seasons_return_and_wait_to_be_confirmed(self):
        row = self.bring("clients.csv", _LIST)
        self.assertEqual((row.state, row.columns["0"], row.columns["2"], row.columns["5"]),
                         ("mapping", "taxpayer.first_name", "taxpayer.number", "spouse.number"))  # fmt: skip
        self.assertEqual(
            (row.columns["10"], row.columns["12"]), ("prior-year.adjusted_gross_income", "capital-carryover.short_term")
        )
        self.assertNotIn("921-30", json.dumps(row.sample))  # what is not sealed shows only endings
        row = self.columns(row)
        self.assertNotIn("921-30", json.dumps(row.items))
        self.assertEqual([(item["name"], item["errors"]) for item in row.items],
                         [("Moor, Ada", []), ("Fenn, Cy", ["Prior year return: Total tax takes an amount such as 1,250.00 or 1200*12+350."])])  # fmt: skip
        done = self.take(row, 0, 1)
        made = Return.objects.for_firm(self.firm).get(pk=done.items[0]["made"])
        self.assertEqual((made.year, made.stage, done.items[1]["made"]), (2025, "gather", None))
        self.assertEqual([one.first_name for one in made.household.people.all()], ["Ada", "Ben"])
        values = {one.kind: one.values for one in data_of(made).papers}
        self.assertEqual(values["filing"]["status"], "joint")
        self.assertEqual(
            (values["prior-year"]["adjusted_gross_income"], values["capital-carryover"]["short_term"]), ("88410.00", "2210.00")
        )
        waiting = {at for one in result_of(made).findings if one.code == "us.unconfirmed-tax" for at in one.at}
        self.assertIn("us.capital-carryover.6", waiting)

    def test_the_columns_are_remembered(self):
        self.columns(self.bring("clients.csv", _LIST))
        again = self.bring("more.csv", _LIST)
        self.assertEqual(again.columns["12"], "capital-carryover.short_term")

    def test_columns_that_say_nothing(self):
        row = self.bring("clients.csv", _LIST)
        for columns, says in (
            ({"0": "taxpayer.first_name"}, "last name"),
            ({"0": "taxpayer.last_name", "1": "taxpayer.last_name"}, "same field"),
        ):
            with self.assertRaisesRegex(BadValue, says):
                arriving.choose_columns(self.preparer, row.pk, columns)


class RefusedTests(ArrivingTestCase):
    def test_files_that_are_none(self):
        for name, content, says in (("a.pdf", b"x", "Choose returns"), ("a.json", b"", "is empty")):
            with self.assertRaisesRegex(BadValue, says):
                arriving.bring(self.preparer, name, content)
        row = self.bring("a.zip", b"not a zip")
        self.assertEqual((row.state, row.says), ("failed", "The file cannot be opened as a ZIP."))

    def test_who_may(self):
        with self.assertRaises(Refused):
            arriving.bring(self.reviewer, "a.json", b"{}")
        row = self.bring("moor.json", self.document(person(), filing()))
        with self.assertRaises(NotOfThisFirm):
            arriving.find(self.stranger, row.pk)

    def test_one_that_fails_does_not_hold_up_the_others(self):
        row = self.bring("moor.json", self.document(person(first_name="Ada", last_name="Moor"), filing()))
        row = arriving_in.ask_to_take_in(self.preparer, row.pk, {0})
        Person.objects.create(firm=self.firm, household=self.household, first_name="A", last_name="B", number="912-04-3371")
        Return.objects.create(
            firm=self.firm, household=self.household, year=2024, preparer=self.preparer, due="2025-04-15"
        )  # somebody opened it meanwhile
        arriving_in.take_in(row)
        self.assertEqual(
            (row.state, row.items[0]["says"], row.items[0]["made"]), ("done", "There is a return of 2024 already.", None)
        )


class PageTests(ArrivingTestCase):
    def test_from_the_file_to_the_return(self):
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get("/clients/bring"), "Nothing yet")
        self.assertContains(self.client.post("/clients/bring"), "Choose a file.", status_code=422)
        file = io.BytesIO(_LIST.encode())
        file.name = "clients.csv"
        answer = self.client.post("/clients/bring", {"file": file}, follow=True)
        self.assertContains(answer, "Being read")
        row = arriving.read(Arrival.objects.for_firm(self.firm).get())
        page = self.client.get(f"/clients/bring/{row.pk}")
        self.assertContains(page, "Say what each column is")
        self.assertContains(page, "Capital loss carryover: Short-term loss")
        given = {f"column-{at}": name for at, name in row.columns.items()}
        self.client.post(f"/clients/bring/{row.pk}/columns", given)
        row = arriving.read(Arrival.objects.for_firm(self.firm).get())
        page = self.client.get(f"/clients/bring/{row.pk}")
        self.assertContains(page, "Moor, Ada")
        self.assertNotContains(page, "921-30-4401")
        self.client.post(f"/clients/bring/{row.pk}/take-in", {"place": ["0"]})
        arriving_in.take_in(Arrival.objects.for_firm(self.firm).get())
        self.assertContains(self.client.get(f"/clients/bring/{row.pk}"), "Moor, Ada 2025")
