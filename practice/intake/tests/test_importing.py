"""A file's way into a return: columns remembered, preview without change, all or nothing, known again the second time."""

from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from practice.firm.permissions import Refused
from practice.intake import altering, importing
from practice.intake.models import Import
from practice.intake.tasks import read_file, take_file_in
from practice.intake.tests.test_reading import OFX
from practice.returns import entry, undoing
from practice.returns.computing import result_of
from practice.returns.tests.test_pages import PageTestCase
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue

HEADS = "Security,Date sold,Proceeds,Cost,Term"
SALES = f"{HEADS}\nAlder,3/4/2025,120.50,100,Short\nBirch,3/5/2025,50,80,Short\nCedar,3/6/2025,900,100,Long\n"


class ImportTestCase(OfficeTestCase):
    def brought(self, text=SALES, name="sales.csv", target="1099-b.sales", paper=None):
        content = text if isinstance(text, bytes) else text.encode()
        row = importing.bring(self.preparer, self.return_.pk, name, content, target, paper.pk if paper else None)
        return importing.read(row) if row.form in ("csv", "xlsx") else row  # a worker opens it

    def read(self, *args, **more):
        row = self.brought(*args, **more)
        if row.state == Import.State.MAPPING:
            columns = {int(at): name for at, name in row.columns["columns"].items()}
            row = importing.choose_columns(self.preparer, self.return_.pk, row.pk, columns, row.columns["fixed"])
        return importing.read(row)

    def taken(self, *args, **more):
        row = self.read(*args, **more)
        row.state = Import.State.TAKING
        row.save()
        return importing.take_in(row)

    def amount(self, address):
        return result_of(self.again())[address].amount


class SalesTests(ImportTestCase):
    def test_reading_changes_nothing_and_taking_in_computes(self):
        version = self.again().version
        row = self.read()
        self.assertEqual((row.outcome["new"], row.errors, self.again().version), (3, [], version))
        row.state = Import.State.TAKING
        row.save()
        done = importing.take_in(row)
        self.assertEqual(done.state, Import.State.DONE)
        self.assertEqual(
            (self.amount("us.sch-d.7"), self.amount("us.sch-d.15")), (-9, 800)
        )  # 121 less 100 and 50 less 80: whole dollars a row

    def test_one_bad_row_and_nothing_is_taken_in(self):
        row = self.read(SALES + "Dogwood,soon,1,1,Short\n")
        self.assertEqual(row.errors[0]["row"], 4)
        row.state = Import.State.TAKING
        row.save()
        with self.assertRaises(BadValue):
            importing.take_in(row)
        self.assertFalse(self.return_.papers.filter(kind="1099-b").exists())

    def test_a_second_time_everything_is_known_even_what_was_corrected(self):
        paper = self.taken().paper
        self.key("sales.1.proceeds", "130", was="120.50", paper=paper)
        again = self.read(SALES + "Dogwood,3/7/2025,5,4,Short\n", paper=paper)
        self.assertEqual((again.outcome["new"], again.outcome["there"]), (1, 3))
        again.state = Import.State.TAKING
        again.save()
        importing.take_in(again)
        paper.refresh_from_db()
        self.assertEqual(next((row["id"], row["proceeds"]) for row in paper.values["sales"]), ("1", "130.00"))
        self.assertEqual([row["id"] for row in paper.values["sales"]], ["1", "2", "3", "4"])

    def test_undo_takes_the_files_rows_out_and_it_can_come_again(self):
        paper = self.taken().paper
        undoing.undo_last(self.preparer, self.return_.pk)
        paper.refresh_from_db()
        self.assertEqual(paper.values["sales"], [])
        self.assertEqual(self.taken(paper=paper).outcome["new"], 3)
        paper.refresh_from_db()
        self.assertEqual([row["id"] for row in paper.values["sales"]], ["4", "5", "6"])  # an id is never used twice

    def test_a_row_keyed_after_an_undone_file_is_not_taken_for_one_of_its_rows(self):
        paper = self.taken().paper
        undoing.undo_last(self.preparer, self.return_.pk)
        entry.add_row(self.preparer, self.return_.pk, paper.pk, "sales")
        paper.refresh_from_db()
        self.assertEqual([row["id"] for row in paper.values["sales"]], ["4"])
        self.assertEqual(self.read(paper=paper).outcome["new"], 3)

    def test_what_was_taken_in_cannot_be_read_otherwise(self):
        row = self.taken()
        with self.assertRaisesRegex(BadValue, "was imported"):
            importing.choose_columns(self.preparer, self.return_.pk, row.pk, {0: "basis"}, {})

    def test_taking_in_twice_does_nothing_more(self):
        row = self.taken()
        importing.take_in(row)
        self.assertEqual(len(self.return_.papers.get(kind="1099-b").values["sales"]), 3)

    def test_imported_rows_carry_their_mark(self):
        from practice.returns.drawing import node_of, row_fields

        paper = self.taken().paper
        node = node_of(paper, result_of(self.again()))
        fields = row_fields(self.return_, paper, node.sales[0], "sales", {})
        self.assertEqual({field.how for field in fields if field.value}, {"imported"})

    def test_rows_of_a_file_did_not_come_from_last_years_return(self):
        self.taken()
        self.assertEqual([one.code for one in result_of(self.again()).findings if one.code.startswith("us.unconfirmed")], [])

    def test_a_long_table_comes_in_stretches(self):
        many = HEADS + "\n" + "".join(f"Fund {n},3/4/2025,{n}.00,1,Short\n" for n in range(1, 251))
        paper = self.taken(many).paper
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("paper", args=[self.return_.pk, paper.pk]))
        self.assertContains(page, "250 rows, shown as text")
        self.assertContains(page, "Fund 100")
        self.assertNotContains(page, "Fund 101")
        self.assertLess(
            len(
                self.client.post(
                    reverse("save-field", args=[self.return_.pk, paper.pk]),
                    {"path": "sales.250.basis", "value": "2", "was": "1.00"},
                    headers={"HX-Request": "true"},
                ).content
            ),
            30_000,
        )
        added = self.client.post(reverse("add-row", args=[self.return_.pk, paper.pk]), {"rows": "sales"})
        self.assertContains(added, f"f-{paper.pk}-sales-251-proceeds")
        more = self.client.get(reverse("some-rows", args=[self.return_.pk, paper.pk]), {"rows": "sales", "from": "200"})
        self.assertContains(more, "Fund 250")
        self.assertNotContains(more, "intersect")
        one = self.client.get(reverse("one-row", args=[self.return_.pk, paper.pk]), {"rows": "sales", "row": "250"})
        self.assertContains(one, f"f-{paper.pk}-sales-250-proceeds")


class LayoutTests(ImportTestCase):
    def test_columns_are_remembered_by_their_headings(self):
        row = self.brought("a,b\nAlder,3\n", target="1099-int")
        self.assertEqual(row.columns["columns"], {})
        importing.choose_columns(self.preparer, self.return_.pk, row.pk, {0: "payer", 1: "interest"}, {"owner": "taxpayer"})
        again = self.brought("A, B\nBirch,4\n", target="1099-int")
        self.assertEqual((again.columns["columns"], again.columns["remembered"]), ({"0": "payer", "1": "interest"}, True))

    def test_a_field_with_two_columns_and_no_column_at_all_are_refused(self):
        row = self.brought()
        for columns, words in (({0: "basis", 1: "basis"}, "Two columns"), ({0: "tulip"}, "at least one column")):
            with self.assertRaisesRegex(BadValue, words):
                importing.choose_columns(self.preparer, self.return_.pk, row.pk, columns, {})


class PaperFileTests(ImportTestCase):
    def test_each_row_is_a_paper_and_all_are_undone_together(self):
        self.taken("Payer,Interest,Owner\nRiver Bend,10,taxpayer\nLamplighters,20,taxpayer\n", "banks.csv", "1099-int")
        self.assertEqual(self.amount("us.1040.2b"), 30)
        undoing.undo_last(self.preparer, self.return_.pk)
        self.assertEqual(self.amount("us.1040.2b"), 0)

    def test_ofx_and_the_second_time(self):
        self.taken(OFX, "broker.ofx", "")
        self.assertEqual(self.amount("us.sch-d.7"), 0)  # 80 less 100, 20 of it a wash sale
        self.assertEqual(self.read(OFX, "broker.ofx", "").outcome["there"], 1)

    def test_the_open_format_fills_nothing_that_was_keyed(self):
        document = """{"format": "impuesto-return", "version": 1, "pack": "us", "year": 2025, "people": [], "papers": [
          {"id": "filing", "kind": "filing", "residence": "WI"}, {"id": "i", "kind": "1099-int", "owner": "taxpayer", "interest": "7"}]}"""
        self.taken(document, "return.json", "")
        self.assertEqual(self.amount("us.1040.2b"), 7)
        self.assertEqual(self.return_.papers.get(kind="filing").values["residence"], "IL")

    def test_files_that_cannot_be(self):
        for name, content, words in (
            ("a.exe", b"1", "Choose a CSV"),
            ("a.csv", b"", "is empty"),
            ("a.csv", b"1" * (importing.LARGEST + 1), "MB"),
        ):
            with self.subTest(words), self.assertRaisesRegex(BadValue, words):
                self.brought(content, name)

    def test_an_unreadable_file_fails_with_its_reason(self):
        row = self.read("not ofx at all", "broker.ofx", "")
        self.assertEqual(row.state, Import.State.FAILED)
        self.assertIn("cannot be read as OFX", row.errors[0]["says"])

    def test_who_may_not_key_may_not_bring(self):
        with self.assertRaises(Refused):
            importing.bring(self.reviewer, self.return_.pk, "a.csv", b"a,b\n1,2", "")


class ImportPageTests(PageTestCase):
    def post(self, name, *args, **body):
        return self.client.post(reverse(name, args=[self.return_.pk, *args]), body, follow=True)

    def test_from_the_file_to_the_return_through_the_pages(self):
        page = self.post("import-file", file=SimpleUploadedFile("sales.csv", SALES.encode()), into="1099-b.sales")
        self.assertContains(page, "being read")
        read_file(import_id=self.return_.imports.get().pk)
        row = self.return_.imports.get()
        self.assertContains(self.get("import", row.pk), "3 rows. Map each column")
        columns = {f"column-{at}": name for at, name in row.columns["columns"].items()}
        self.assertContains(self.post("import-columns", row.pk, **columns), "being read")
        read_file(import_id=row.pk)
        self.assertContains(self.get("import", row.pk), "Import 3")
        self.assertContains(self.post("import-take-in", row.pk), "being imported")
        take_file_in(import_id=row.pk)
        self.assertContains(self.get("import", row.pk), "<b>3</b> imported", html=False)
        self.assertContains(self.get("import-file"), "sales.csv")

    def test_from_inside_a_paper_its_kind_and_its_table_are_kept(self):
        _, sales = entry.add_paper(self.preparer, self.return_.pk, "1099-b", "taxpayer", {})
        links = {self.paper: '?into=w2"', sales: f'?into=1099-b.sales&amp;paper={sales.pk}"'}
        for paper, link in links.items():
            self.assertContains(self.get("paper", paper.pk), reverse("import-file", args=[self.return_.pk]) + link)

    def test_no_page_opens_a_file(self):
        with mock.patch("practice.intake.reading.opened", side_effect=AssertionError("opened by a page")):
            self.post("import-file", file=SimpleUploadedFile("sales.csv", SALES.encode()), into="1099-b.sales")
            row = self.return_.imports.get()
            self.assertContains(self.get("import", row.pk), "being read")
        importing.read(row)
        going_on = self.client.get(reverse("import", args=[self.return_.pk, row.pk]), headers={"HX-Request": "true"})
        self.assertEqual(going_on["HX-Redirect"], reverse("import", args=[self.return_.pk, row.pk]))

    def test_what_is_wrong_with_the_columns_keeps_what_was_chosen(self):
        self.post("import-file", file=SimpleUploadedFile("sales.csv", SALES.encode()), into="1099-b.sales")
        row = importing.read(self.return_.imports.get())
        page = self.post("import-columns", row.pk, **{"column-0": "basis", "column-1": "basis"})
        self.assertContains(page, "Two columns", status_code=422)
        self.assertContains(page, '<option value="basis" selected>', status_code=422)

    def test_another_firms_import_is_not_there(self):
        self.post("import-file", file=SimpleUploadedFile("sales.csv", SALES.encode()), into="1099-b.sales")
        row = self.return_.imports.get()
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.get("import", row.pk).status_code, 404)

    def test_a_file_is_stored_sealed(self):
        from django.core.files.storage import default_storage

        self.post("import-file", file=SimpleUploadedFile("sales.csv", SALES.encode()), into="1099-b.sales")
        with default_storage.open(self.return_.imports.get().file) as stored:
            self.assertNotIn(b"Alder", stored.read())


class AlteringTests(ImportTestCase):
    """Birch was sold for 60, not for 50: 180 of proceeds short term, less 180."""

    def alter(self, row, place=2, why="Broker's letter", **given):
        values = {"security": "Birch", "sold": "2025-03-05", "proceeds": "50", "cost": "80", "term": "short"} | given
        return altering.alter(self.preparer, self.return_.pk, row.pk, place, values, why)

    def taking(self, row):
        row.state, row.by = Import.State.TAKING, self.preparer
        row.save()
        return importing.take_in(row)

    def test_a_value_changed_before_is_taken_in_with_what_the_file_says_and_why(self):
        row = self.alter(self.read(), proceeds="60")
        says = ["Birch, Proceeds: 50.00 in the file, 60.00 here. Broker's letter (BT)"]
        self.assertEqual(row.outcome["altered"], says)
        done = self.taking(row)
        self.assertEqual(self.amount("us.sch-d.7"), 1)  # 121 and 60, less 180
        self.assertEqual(done.outcome["altered"], row.outcome["altered"])
        change = self.return_.changes.filter(path="sales.2.proceeds").get()
        self.assertEqual((change.after, change.note), ("60.00", "sales.csv says 50.00: Broker's letter (BT)"))
        undoing.undo_last(self.preparer, self.return_.pk)
        self.assertEqual(self.return_.papers.get(kind="1099-b").values["sales"], [])

    def test_as_the_file_says_again_is_no_change(self):
        row = self.alter(self.read(), proceeds="60")
        row = self.alter(row, proceeds="50", why="")
        self.assertEqual(row.outcome["altered"], [])

    def test_nobody_changes_without_saying_why_and_what_does_not_fit_stays_typed(self):
        row = self.read()
        with self.assertRaisesMessage(BadValue, "Say why it differs from the file."):
            self.alter(row, proceeds="60", why=" ")
        self.client.force_login(self.preparer)
        address = reverse("import-alter", args=[self.return_.pk, row.pk, 2])
        page = self.client.post(address, {"value-proceeds": "sixty", "why": "Letter"})
        self.assertContains(page, "Proceeds: ", status_code=422)
        self.assertContains(page, 'value="sixty"', status_code=422)
        self.assertContains(page, 'value="Letter"', status_code=422)

    def test_a_row_with_an_error_can_be_mended_here(self):
        row = self.read(SALES + "Dogwood,soon,1,1,Short\n")
        page = reverse("import", args=[self.return_.pk, row.pk])
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get(f"{page}?change=4"), 'name="value-sold"')
        given = {"security": "Dogwood", "sold": "3/8/2025", "proceeds": "1", "cost": "1", "term": "short"}
        self.client.post(reverse("import-alter", args=[self.return_.pk, row.pk, 4]),
                         {f"value-{name}": text for name, text in given.items()} | {"why": "Confirmed"})  # fmt: skip
        row.refresh_from_db()
        self.assertEqual((row.errors, row.outcome["new"]), ([], 4))
        self.taking(row)
        self.assertEqual(self.return_.papers.get(kind="1099-b").values["sales"][3]["sold"], "2025-03-08")

    def test_a_second_file_knows_the_row_that_was_changed(self):
        done = self.taking(self.alter(self.read(), proceeds="60"))
        self.assertEqual(self.read(paper=done.paper).outcome["there"], 3)

    def test_of_papers_too(self):
        row = self.read("Payer,Interest\nElm Bank,100\n", "interest.csv", "1099-int")
        row = altering.alter(self.preparer, self.return_.pk, row.pk, 1, {"interest": "120"}, "Statement")
        self.taking(row)
        self.assertEqual(self.return_.papers.get(kind="1099-int").values["interest"], "120.00")

    def test_nobody_else_can_and_not_once_it_is_in(self):
        row = self.read()
        with self.assertRaises(Refused):
            altering.alter(self.reviewer, self.return_.pk, row.pk, 2, {"proceeds": "60"}, "x")
        self.taking(row)
        with self.assertRaisesMessage(BadValue, "on its way into the return"):
            self.alter(row, proceeds="60")
