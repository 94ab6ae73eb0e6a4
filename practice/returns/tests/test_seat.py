"""Views of the seat: tables and paste, ripples since, what moves a figure, flow, guide, who changed what, exports."""

import io

from django.urls import reverse
from openpyxl import load_workbook

from practice.returns import entry, guiding
from practice.returns.computing import result_of
from practice.returns.entry import add_paper
from practice.returns.models import Sight
from practice.returns.opening import open_return
from practice.returns.ripple_bases import moved_since
from practice.returns.tests.test_pages import PageTestCase
from taxcore.engine import BadValue


class TableTests(PageTestCase):
    def paste(self, text, kind="w2"):
        return self.client.post(reverse("grid-paste", args=[self.return_.pk, kind]), {"rows": text}, follow=True)

    def test_each_paper_is_a_row_and_a_cell_saves_as_a_cell(self):
        self.assertContains(self.get("grid", "w2"), f'id="f-{self.paper.pk}-wages"')
        answer = self.save("wages", "62000", "61480.00", table="1").content.decode()
        self.assertIn(f'<td id="f-{self.paper.pk}-wages"', answer)
        self.assertIn(f'<td id="f-{self.paper.pk}-medicare_wages"', answer)
        self.assertIn('id="ripples" hx-swap-oob', answer)

    def test_a_refused_cell_keeps_what_was_typed(self):
        answer = self.save("wages", "many", "61480.00", table="1")
        self.assertContains(answer, 'value="many"', status_code=422)
        self.assertContains(answer, "<td id=", status_code=422)

    def test_rows_without_headings_go_by_the_tables_order(self):
        page = self.paste("Tern Ferry\t00-6127745\t1,000.00\t100\nMussel Row\t00-9927650\t2,000.00\t200")
        self.assertContains(page, "Import 2")
        self.assertContains(page, "1,000.00")

    def test_rows_with_headings_go_by_their_words(self):
        page = self.paste("Federal income tax withheld\tEmployer\tBox 1\n10\tTern Ferry\t1,500")
        self.assertContains(page, "Import 1")
        self.assertContains(page, "1,500.00")

    def test_a_bad_row_is_told_and_nothing_is_added(self):
        page = self.paste("Tern Ferry\t00-6127745\tlots\t100")
        self.assertContains(page, "takes an amount")
        self.assertNotContains(page, "Import 1")

    def test_an_empty_paste_says_so(self):
        self.assertContains(self.paste("  \n "), "Paste the rows first")

    def test_it_leaves_as_csv(self):
        self.assertIn("Kittiwake Boatworks LLC", self.get("grid", "w2", **{"as": "csv"}).getvalue().decode())

    def test_control_totals_are_keyed_there_and_refused_with_a_reason(self):
        url = reverse("control", args=[self.return_.pk])
        page = self.client.post(url, {"kind": "w2", "count": "2", "amount": "61,480"}, follow=True)
        self.assertContains(page, "1 of 2 papers")
        self.assertContains(self.client.post(url, {"kind": "w2", "count": "two"}, follow=True), "whole number")

    def test_a_kind_that_is_none_or_exists_once_is_not_there(self):
        for kind in ("nothing", "filing"):
            self.assertEqual(self.get("grid", kind).status_code, 404)


class NextTests(PageTestCase):
    """Pages on which something was just finished say what is still to be entered."""

    def test_the_table_of_a_kind_leads_to_the_papers_of_other_kinds_that_are_not_finished(self):
        _, other = add_paper(self.preparer, self.return_.pk, "1099-int", "taxpayer")
        page = self.client.get(reverse("grid", args=[self.return_.pk, "w2"])).content.decode()
        after = page.split("Next on this return")[1]
        self.assertIn(reverse("paper", args=[self.return_.pk, other.pk]), after)
        self.assertNotIn(reverse("paper", args=[self.return_.pk, self.paper.pk]) + '"', after.split("<aside")[0])
        of_that_kind = self.client.get(reverse("grid", args=[self.return_.pk, "1099-int"])).content.decode()
        self.assertNotIn(f'{reverse("paper", args=[self.return_.pk, other.pk])}">', of_that_kind.split("Next on this return")[1])

    def test_the_import_page_lists_them_too(self):
        _, other = add_paper(self.preparer, self.return_.pk, "1099-int", "taxpayer")
        page = self.client.get(reverse("import-file", args=[self.return_.pk]))
        self.assertContains(page, f'{reverse("paper", args=[self.return_.pk, other.pk])}">')


class RippleSinceTests(PageTestCase):
    def test_since_opened_counts_from_the_first_look_of_the_day(self):
        self.get("papers")
        self.key("wages", "62000")
        self.key("wages", "63000")
        lines, says = moved_since(self.preparer, self.again(), result_of(self.return_), "opened")
        wages = next(line for line in lines if line.address == "us.1040.1a")
        self.assertEqual((wages.before, wages.after), (61480, 63000))
        self.get("papers")
        self.assertEqual(Sight.objects.for_firm(self.firm).count(), 1)
        self.assertIn("Since", says)

    def test_a_save_answers_with_the_base_that_was_chosen(self):
        self.get("papers")
        self.get("ripple", base="opened")
        self.save("wages", "62000", "61480.00")
        page = self.save("wages", "63000", "62000.00").content.decode()
        self.assertIn("<s>61,480</s><b>63,000</b>", page)

    def test_since_last_year_compares_lines_whose_number_moved(self):
        before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        entry.add_paper(self.preparer, before.pk, "w2", "taxpayer", {"wages": "50000.00"})
        lines, _ = moved_since(self.preparer, self.again(), result_of(self.return_), "year")
        income = next(line for line in lines if line.address == "us.1040.11a")  # line 11 in 2024
        self.assertEqual((income.before, income.after), (50000, 61480))

    def test_a_base_that_is_not_there_says_why(self):
        for base, words in (("initials", "not initialed anything"), ("year", "no return of 2024")):
            self.assertContains(self.get("ripple", base=base), words)


class FigureTests(PageTestCase):
    def test_which_fields_move_it_most(self):
        page = self.get("most-moving", at="us.1040.16")
        self.assertContains(page, "Kittiwake Boatworks LLC")
        self.assertContains(page, "+0.12")

    def test_an_address_that_is_no_amount_is_no_error(self):
        self.assertContains(self.get("most-moving", at="us.1040.999"), "leaves this amount unchanged")

    def test_a_lineage_lists_its_sources_as_a_tree(self):
        page = self.get("forms", at="us.1040.15").content.decode()
        self.assertIn('<ul class="tree">', page)
        self.assertIn("Kittiwake Boatworks LLC 1", page)

    def test_last_years_amount_stands_beside(self):
        before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        entry.add_paper(self.preparer, before.pk, "w2", "taxpayer", {"wages": "50000.00"})
        self.assertContains(self.get("forms", at="us.1040.1a"), "last year 50,000")

    def test_a_line_says_who_last_changed_what_is_below_it(self):
        self.assertNotContains(self.get("forms", at="us.1040.25a"), "Last changed below it")
        self.key("federal_withheld", "5900", actor=self.signer)
        self.assertContains(self.get("forms", at="us.1040.25a"), f"5812.00 → 5900.00, {self.signer.name}")

    def test_lines_are_found_by_number_and_by_words(self):
        for words, found in (("1040 16", "1040 16"), ("16", "1040 16"), ("standard dedu", "1040 12e")):
            page = self.client.get(reverse("forms", args=[self.return_.pk]), {"q": words}, headers={"HX-Request": "true"})
            self.assertContains(page, found)


class FlowPageTests(PageTestCase):
    def test_the_picture_names_sources_and_bottom_lines_with_their_lineage(self):
        page = self.get("flow").content.decode()
        for words in ("Wages", "Taxable income", "Federal, refund", "?at=us.1040.1z"):
            self.assertIn(words, page)

    def test_last_year_is_a_ghost(self):
        self.assertNotContains(self.get("flow"), 'class="ghost"')
        before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        entry.add_paper(self.preparer, before.pk, "w2", "taxpayer", {"wages": "50000.00"})
        self.assertContains(self.get("flow"), 'class="ghost"')


class GuideTests(PageTestCase):
    def answer(self, key, answer, **counts):
        return self.client.post(reverse("guide", args=[self.return_.pk]), {"key": key, "answer": answer} | counts)

    def test_a_yes_adds_as_many_papers_as_are_missing_and_a_no_none(self):
        self.answer("wages", "yes", **{"n-w2": "3"})
        self.answer("dividends", "no", **{"n-1099-div": "2"})
        kinds = [paper.kind for paper in self.return_.papers.all()]
        self.assertEqual((kinds.count("w2"), kinds.count("1099-div")), (3, 0))
        self.assertEqual(set(self.again().guide["answers"]), {"wages", "dividends"})

    def test_answering_again_with_fewer_takes_nothing_out(self):
        self.answer("wages", "yes", **{"n-w2": "3"})
        self.answer("wages", "yes", **{"n-w2": "1"})
        self.assertEqual(self.return_.papers.filter(kind="w2", removed_at=None).count(), 3)

    def test_a_yes_to_nothing_says_what_is_missing(self):
        answer = self.answer("wages", "yes", **{"n-w2": "0"})
        self.assertContains(answer, "Enter how many", status_code=422)

    def test_dependants_are_counted_without_taxpayer_and_spouse(self):
        self.answer("family", "yes", **{"n-person": "2"})
        self.assertEqual(self.return_.papers.filter(kind="person").count(), 3)

    def test_progress_is_kept_and_the_end_leads_to_the_papers(self):
        self.answer("family", "no")
        self.assertContains(self.get("guide"), "1 of ")
        for question, _, _ in guiding.questions_of(self.again()):
            guiding.answer(self.preparer, self.return_.pk, question.key, False, {})
        self.assertContains(self.get("guide"), "Every question is answered")

    def test_an_unknown_question_and_too_many_papers_are_refused(self):
        for key, counts in (("nothing", {}), ("wages", {"w2": 61})):
            with self.assertRaises(BadValue):
                guiding.answer(self.preparer, self.return_.pk, key, True, counts)


class ChangesTests(PageTestCase):
    def test_who_changed_what_by_person_and_field(self):
        self.key("wages", "62000")
        self.key("federal_withheld", "1", actor=self.signer)
        page = self.get("changes", who=self.signer.pk, since="hour").content.decode()
        self.assertIn("Federal income tax withheld", page)
        self.assertNotIn("61480.00", page)
        self.assertContains(self.get("changes", q="wages"), "61480.00")

    def test_secrets_stay_masked_on_screen_and_in_files(self):
        person = self.return_.papers.get(kind="person")
        self.key(
            "number",
            "921175581",
            was=entry.fingerprint(self.firm.pk, result_of(self.return_).run.pack.people.fields()["number"], "921-17-5580"),
            paper=person,
        )
        for page in (self.get("changes"), self.get("changes", **{"as": "csv"})):
            text = page.getvalue().decode()
            self.assertNotIn("17-5581", text)
            self.assertIn("5581", text)


class ExportTests(PageTestCase):
    def test_a_workbook_leaves_with_live_formulas_and_is_an_event(self):
        book = load_workbook(io.BytesIO(self.get("download-workbook").content))
        self.assertTrue(str(book["Bottom line"]["B4"].value).startswith("='1040'!"))
        self.assertEqual(self.events("return exported").count(), 1)

    def test_all_lines_leave_as_csv(self):
        self.assertIn("us.1040.24", self.get("download-lines").getvalue().decode())

    def test_reviewers_see_what_they_may_and_strangers_nothing(self):
        self.client.force_login(self.administrator, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.get("download-workbook").status_code, 403)


class CommandLineTests(PageTestCase):
    def find(self, words):
        return self.client.get(reverse("find"), {"q": words, "in": self.return_.pk}).content.decode()

    def test_fields_and_actions_are_found(self):
        self.assertIn(f"#f-{self.paper.pk}-federal_withheld", self.find("kittiwake withheld"))
        self.assertIn("Guided entry", self.find("guided"))
        self.assertIn("Table: Wage statement", self.find("table wage"))

    def test_nothing_typed_shows_where_one_was_lately(self):
        self.get("paper", self.paper.pk)
        self.get("forms", at="us.1040.16")
        page = self.find("")
        self.assertIn("Kittiwake Boatworks LLC, Abernathy, Lorna", page)
        self.assertLess(page.index("lately"), page.index("Add:"))
