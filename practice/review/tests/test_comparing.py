"""Against last year, what matters and how much of it is looked at, mends seen before they are made."""

from practice.returns.computing import result_of
from practice.returns.entry import add_paper
from practice.returns.models import Return
from practice.returns.opening import open_return
from practice.returns.page import live_papers
from practice.review import margin, mending, practice_answers, variance
from practice.review.listing import fitting, grouped, lines_of
from practice.review.progress import lines_that_matter, progress_of
from practice.tests.office import WAGES, OfficeTestCase
from taxcore.engine import BadValue


class LastYearTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        self.before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        add_paper(self.preparer, self.before.pk, "w2", "taxpayer", WAGES | {"wages": "58210.00"})
        add_paper(self.preparer, self.before.pk, "1099-int", "taxpayer", {"payer": "River Bend", "interest": "842.00"})

    def differences(self, threshold=0):
        return_ = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        return variance.against_last_year(return_, result_of(return_), threshold, live_papers(return_))

    def test_lines_are_compared_and_papers_explain_them_to_the_dollar(self):
        before, found, papers = self.differences()
        self.assertEqual(before.year, 2024)
        lines = {(one.form, one.number): one for one in found}
        wages = lines["1040", "1a"]
        self.assertEqual((wages.before, wages.now, wages.moved), (58210, 61480, 3270))
        self.assertEqual([change.says for change in wages.because], ["moved"])
        interest = lines["1040", "2b"]
        self.assertEqual((interest.before, interest.now, interest.percent), (842, 0, -100))
        self.assertEqual([change.says for change in interest.because], ["not here any more"])
        self.assertEqual([one.because for one in found if one.label == "Tax"], [[]])  # papers do not explain tax to the dollar
        self.assertEqual({one.title for one in papers}, {"Kittiwake Boatworks LLC", "River Bend"})

    def test_the_threshold_leaves_small_ones_out(self):
        _, found, _ = self.differences(50)
        self.assertNotIn("1a", [one.number for one in found])
        self.assertIn("2b", [one.number for one in found])

    def test_a_line_that_last_years_form_did_not_have_is_no_difference(self):
        _, found, _ = self.differences()
        self.assertNotIn("11b", [one.number for one in found if one.form == "1040"])

    def test_diagnostics_look_back_and_a_mend_takes_over(self):
        return_ = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        result = result_of(return_)
        codes = {finding.code for finding in result.findings}
        self.assertIn("us.last-year.no-1099-int", codes)
        finding = next(one for one in result.findings if one.code == "us.carried.prior-agi")
        moved, gone, _ = mending.preview(return_, result, finding)
        self.assertEqual(moved, [])
        self.assertIn("us.carried.prior-agi", [one.code for one in gone])
        self.assertFalse(return_.papers.filter(kind="prior-year").exists())
        mending.make(self.preparer, return_, result, live_papers(return_), finding)
        self.assertEqual(return_.papers.get(kind="prior-year").values["adjusted_gross_income"], "59052")
        again = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        self.assertNotIn("us.carried.prior-agi", {one.code for one in result_of(again).findings})

    def test_last_years_changes_are_seen(self):
        first = {one.code for one in result_of(self.again()).findings}
        self.assertIn("us.last-year.no-1099-int", first)
        self.assertNotIn("us.last-year.no-1099-div", first)
        add_paper(self.preparer, self.before.pk, "1099-div", "taxpayer", {"payer": "Heron Fund", "dividends": "900.00"})
        self.assertIn("us.last-year.no-1099-div", {one.code for one in result_of(self.again()).findings})


class ProgressTests(OfficeTestCase):
    def progress(self):
        return_ = Return.objects.for_firm(self.firm).select_related("firm").get(pk=self.return_.pk)
        result = result_of(return_)
        return progress_of(return_.firm, result, margin.initials_on(return_, result))

    def test_counts_what_holds_by_one_and_by_two_reviewers(self):
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.1a")
        margin.set_initials(self.signer, self.return_.pk, "us.1040.1a")
        margin.set_initials(self.reviewer, self.return_.pk, "us.1040.16")
        now = self.progress()
        self.assertEqual((now.first, now.second), (2, 1))
        self.assertNotIn("us.1040.1a", [cell.address for cell in now.next])
        self.key("wages", "70000")
        self.assertEqual((self.progress().first, self.progress().second), (0, 0))

    def test_what_matters_is_by_amount_and_by_choice(self):
        result = result_of(self.again())
        practice_answers.set_what_matters(self.signer, "50,000", "1040 16\n")
        self.firm.refresh_from_db()
        found = {cell.address: cell.value for cell in lines_that_matter(self.firm, result)}
        self.assertIn("us.1040.16", found)
        self.assertTrue(all(value >= 50_000 for at, value in found.items() if at != "us.1040.16"))
        with self.assertRaisesRegex(BadValue, "1040 999"):
            practice_answers.set_what_matters(self.signer, "0", "1040 999")
        with self.assertRaisesRegex(BadValue, "amount"):
            practice_answers.set_what_matters(self.signer, "much", "")
        with self.assertRaisesRegex(BadValue, "amount"):
            practice_answers.set_what_matters(self.signer, "NaN", "")


class ListingTests(OfficeTestCase):
    def test_searched_filtered_and_grouped(self):
        self.key("employer_number", "")
        return_ = self.again()
        lines = lines_of(return_, result_of(return_), live_papers(return_))
        stops = fitting(lines, weight="stops")
        self.assertEqual({line.finding.weight for line in stops}, {"stops"})
        self.assertEqual([line.finding.code for line in fitting(lines, "EMPLOYER empty")], ["us.w2.employer-number-missing"])
        self.assertEqual(fitting(lines, "nothing has these words"), [])
        for by in ("weight", "place", "kind"):
            groups = grouped(lines, by)
            self.assertEqual(sum(len(group.lines) for group in groups), len(lines))
            self.assertEqual(len({group.name for group in groups}), len(groups))

    def test_pages_answer_and_files_carry_the_list(self):
        self.client.force_login(self.reviewer)
        for page in ("review", "review/since", "review/last-year", "review/diligence", "review/others", "review/print", "advice",
                     "advice/page"):  # fmt: skip
            with self.subTest(page):
                self.assertEqual(self.client.get(f"/returns/{self.return_.pk}/{page}").status_code, 200)
        answer = self.client.get(f"/returns/{self.return_.pk}/review?q=mail", headers={"hx-request": "true"})
        self.assertNotContains(answer, "<html")
        self.assertIn("Weight,Kind,Code", self.client.get(f"/returns/{self.return_.pk}/review?as=csv").getvalue().decode())
        self.assertIn("Code,Weight,Kind", self.client.get("/practice/diagnostics?as=csv").getvalue().decode())

    def test_taking_back_what_a_colleague_changed_since_says_so(self):
        self.key("control_number", "7")
        self.key("control_number", "8", actor=self.signer)
        self.client.force_login(self.preparer)
        answer = self.client.post(f"/returns/{self.return_.pk}/review/undo", follow=True)
        self.assertContains(answer, "a colleague changed it since")
        self.assertEqual(self.paper.of.papers.get(pk=self.paper.pk).values["control_number"], "8")
