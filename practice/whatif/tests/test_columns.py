"""Columns kept, keyed and shown; what comes of them. The return is never touched but by the act that says so."""

from django.urls import reverse

from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.returns.computing import data_of, result_of
from practice.returns.entry import add_paper, add_spouse
from practice.returns.models import Purpose, Return
from practice.returns.planning import NotPlanned
from practice.returns.undoing import undo_last
from practice.tests.office import OfficeTestCase
from practice.whatif import keeping, taking, working
from practice.whatif.models import PlanColumn
from taxcore.engine import BadValue
from taxcore.whatif.columns import together, total_tax, value_at
from taxcore.whatif.differences import Place


class WhatIfTestCase(OfficeTestCase):
    def setUp(self):
        super().setUp()
        working.forget()
        self.wages = Place("w2", self.paper.key, "wages")
        self.column = keeping.add(self.preparer, self.return_.pk, "Full time")

    def enter(self, text, place=None, column=None):
        return keeping.enter(self.preparer, self.return_.pk, (column or self.column).pk, (place or self.wages).mark, text)

    def outcome(self, column=None):
        rows = keeping.columns_of(self.return_)
        return working.results(self.return_, rows)[(column or self.column).key]

    def differences(self, column=None):
        return PlanColumn.objects.for_firm(self.firm).get(pk=(column or self.column).pk).differences


class KeepingTests(WhatIfTestCase):
    def test_a_value_differs_until_it_is_as_before_and_the_return_stays_as_it_was(self):
        before = data_of(self.return_)
        self.enter("80,000")
        self.assertEqual(self.differences(), {self.wages.mark: "80000.00"})
        self.assertGreater(total_tax(self.outcome().result), total_tax(result_of(self.return_)))
        self.enter("61480")
        self.assertEqual(self.differences(), {})
        self.enter("70000")
        self.enter("")
        self.assertEqual(self.differences(), {})
        self.assertEqual(data_of(self.again()), before)
        self.assertEqual(self.events("what-if changed").count(), 4)

    def test_a_column_on_another_moves_with_it(self):
        onto = keeping.add(self.preparer, self.return_.pk, "Next year", self.column.pk, 1)
        self.enter("80,000")
        self.assertEqual(value_at(self.outcome(onto).result.run.everything, self.wages), "80000.00")
        self.assertEqual(self.outcome(onto).result.year, 2026)
        with self.assertRaisesRegex(Cannot, "Next year"):
            keeping.remove(self.preparer, self.return_.pk, self.column.pk)
        keeping.remove(self.preparer, self.return_.pk, onto.pk)
        keeping.remove(self.preparer, self.return_.pk, self.column.pk)
        self.assertEqual(keeping.columns_of(self.return_), [])

    def test_what_does_not_fit_is_refused_with_its_reason(self):
        for place, text in ((self.wages, "12x"), (Place("w2", self.paper.key, "statutory_employee"), "perhaps")):
            with self.subTest(place), self.assertRaises(BadValue):
                self.enter(text, place)
        person = self.return_.papers.get(kind="person")
        for mark in (Place("person", person.key, "number").mark, "nonsense", "w2/x/no-such", "nothing/x/y", "w2/x/wages.1.x"):
            with self.subTest(mark), self.assertRaises(Cannot):
                keeping.enter(self.preparer, self.return_.pk, self.column.pk, mark, "1")
        self.assertEqual(self.differences(), {})

    def test_a_paper_that_only_the_column_has(self):
        place = keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, "1099-div")
        self.enter("900", place)
        self.assertEqual(value_at(self.outcome().result.run.everything, place), "900.00")
        hsa = keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, "ira")
        self.assertTrue(hsa.path)
        for kind in ("residency", "nothing"):
            with self.assertRaises(Cannot):
                keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, kind)

    def test_whose_a_new_paper_is(self):
        with self.assertRaisesRegex(Cannot, "whose it is"):
            keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, "business", "spouse")
        add_spouse(self.preparer, self.return_.pk)
        self.return_ = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        place = keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, "business", "spouse")
        made = next(one for one in self.outcome().result.run.everything.papers if one.id == place.paper)
        self.assertEqual(made.values["owner"], "spouse")
        self.enter("34000", place)
        self.assertEqual(taking.take(self.preparer, self.return_.pk, self.column.pk, {place.mark}), 1)
        self.assertEqual(self.return_.papers.get(kind="business").values["owner"], "spouse")

    def test_a_paper_is_left_out_and_back_again(self):
        mark = f"w2/{self.paper.key}/"
        self.enter("80000")
        self.assertTrue(keeping.leave_out(self.preparer, self.return_.pk, self.column.pk, mark))
        self.assertEqual(total_tax(self.outcome().result), 0)
        self.assertFalse(keeping.leave_out(self.preparer, self.return_.pk, self.column.pk, mark))
        self.assertEqual(value_at(self.outcome().result.run.everything, self.wages), "80000.00")
        place = keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, "1099-div")
        self.enter("900", place)
        keeping.leave_out(self.preparer, self.return_.pk, self.column.pk, f"1099-div/{place.paper}/")
        self.assertEqual(self.differences(), {self.wages.mark: "80000.00"})
        filing = self.return_.papers.get(kind="filing")
        for mark in (f"filing/{filing.key}/", "w2/nobody/", "x"):
            with self.subTest(mark), self.assertRaises(Cannot):
                keeping.leave_out(self.preparer, self.return_.pk, self.column.pk, mark)

    def test_copied_named_and_at_most_eight(self):
        self.enter("80000")
        made = keeping.copy(self.preparer, self.return_.pk, self.column.pk)
        self.assertEqual((made.name, made.differences), ("Full time, copy", {self.wages.mark: "80000.00"}))
        keeping.name(self.preparer, self.return_.pk, made.pk, "Half", "As she said in June")
        with self.assertRaises(BadValue):
            keeping.name(self.preparer, self.return_.pk, made.pk, " ", "")
        for _ in range(keeping.MOST - 2):
            keeping.add(self.preparer, self.return_.pk, "")
        with self.assertRaisesRegex(Cannot, "Remove one"):
            keeping.add(self.preparer, self.return_.pk, "One more")

    def test_who_may(self):
        with self.assertRaises(Refused):
            keeping.add(self.reviewer, self.return_.pk, "x")
        for call in (
            lambda: keeping.add(self.stranger, self.return_.pk, "x"),
            lambda: keeping.enter(self.stranger, self.return_.pk, self.column.pk, self.wages.mark, "1"),
            lambda: keeping.remove(self.stranger, self.return_.pk, self.column.pk),
        ):
            with self.assertRaises(NotOfThisFirm):
                call()

    def test_a_change_of_the_return_reaches_the_columns(self):
        self.enter("5000", Place("w2", self.paper.key, "federal_withheld"))
        before = total_tax(self.outcome().result)
        self.key("wages", "90000")
        self.return_ = Return.objects.for_firm(self.firm).get(pk=self.return_.pk)
        self.assertGreater(total_tax(self.outcome().result), before)


class TakingTests(WhatIfTestCase):
    def test_values_are_entered_in_the_return_as_one_act_and_undone_as_one(self):
        state = Place("w2", self.paper.key, f"states.{self.paper.values['states'][0]['id']}.withheld")
        new = keeping.add_paper(self.preparer, self.return_.pk, self.column.pk, "1099-div")
        for place, text in ((self.wages, "80000"), (state, "3500"), (new, "900")):
            self.enter(text, place)
        planned = self.outcome().result
        count = taking.take(self.preparer, self.return_.pk, self.column.pk, {self.wages.mark, state.mark, new.mark})
        self.assertEqual(count, 3)
        there = result_of(self.again())
        self.assertEqual(total_tax(there), total_tax(planned))
        undo_last(self.preparer, self.return_.pk)
        self.paper.refresh_from_db()
        self.assertEqual(self.paper.values["wages"], "61480.00")

    def test_only_what_is_chosen_and_of_the_same_year(self):
        with self.assertRaisesRegex(Cannot, "Choose"):
            taking.take(self.preparer, self.return_.pk, self.column.pk, {self.wages.mark})
        onto = keeping.add(self.preparer, self.return_.pk, "Next year", None, 1)
        self.enter("80000", column=onto)
        with self.assertRaisesRegex(Cannot, "same year"):
            taking.take(self.preparer, self.return_.pk, onto.pk, {self.wages.mark})

    def test_a_column_becomes_a_planning_return(self):
        onto = keeping.add(self.preparer, self.return_.pk, "Next year", self.column.pk, 1)
        self.enter("80000")
        for column, year in ((self.column, 2025), (onto, 2026)):
            made = taking.make_return(self.preparer, self.return_.pk, column.pk)
            self.assertEqual((made.year, made.purpose), (year, Purpose.PLANNING))
            self.assertEqual(total_tax(result_of(made)), total_tax(self.outcome(column).result))


class PageTests(WhatIfTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")

    def url(self, name="what-if", *more):
        return reverse(name, args=[self.return_.pk, *more])

    def test_the_page_with_and_without_columns(self):
        keeping.remove(self.preparer, self.return_.pk, self.column.pk)
        self.assertContains(self.client.get(self.url()), "Add a column: the return once more")
        answer = self.client.post(self.url("what-if-add"), {"name": "Ada retires", "on": "+1"}, follow=True)
        self.assertContains(answer, "2026, from the return")
        answer = self.client.post(self.url("what-if-add"), {"name": "Later", "on": f"{self.column.pk}+1"}, follow=True)
        self.assertContains(answer, "based on was removed")

    def test_a_value_is_keyed_and_refused_at_its_field(self):
        url, htmx = self.url("what-if-enter", self.column.pk), {"HX-Request": "true"}
        self.assertContains(self.client.post(url, {"mark": self.wages.mark, "value": "80000"}, headers=htmx), 'value="80,000"')
        refused = self.client.post(url, {"mark": self.wages.mark, "value": "12x"}, headers=htmx)
        self.assertContains(refused, 'value="12x"', status_code=422)
        self.assertContains(refused, 'role="alert"', status_code=422)

    def test_rows_are_found_by_words(self):
        self.assertContains(self.client.get(self.url(), {"rows": "medicare kittiwake"}), "Medicare wages and tips")
        self.assertContains(self.client.get(self.url(), {"rows": "employee ssn"}), "No paper has a field")
        self.assertContains(self.client.get(self.url(), {"rows": "birth"}), "Date of birth")

    def test_years_beyond_the_law_are_assumed_and_say_so(self):
        row = self.column
        for year in range(2026, 2032):
            row = keeping.add(self.preparer, self.return_.pk, f"In {year}", row.pk, 1)
        page = self.client.get(self.url())
        self.assertContains(page, "2.5%), from")
        self.assertContains(page, "prices rise by 2.5%, by 2.5% in all")
        self.assertContains(page, "The law of 2031 is not in this program yet.")
        later = next(one for one in keeping.columns_of(self.return_) if one.name == "In 2027")
        act, named = self.url("what-if-act", later.pk), {"act": "name", "name": "Dear", "note": ""}
        self.assertContains(self.client.post(act, named | {"rate": "4"}, follow=True), "prices rise by 4%, by 4.0% in all")
        for wrong in ("much", "30", "-1"):
            self.assertContains(self.client.post(act, named | {"rate": wrong}, follow=True), "percent")
        with self.assertRaisesRegex(NotPlanned, "stays a column"):
            taking.make_return(self.preparer, self.return_.pk, later.pk)

    def test_married_in_a_plan_with_a_child(self):
        act = self.url("what-if-act", self.column.pk)
        for role in ("spouse", "dependant"):
            answer = self.client.post(act, {"act": "paper", "kind": f"person:{role}"}, follow=True)
            self.assertContains(answer, "Date of birth, Full time")
        again = self.client.post(act, {"act": "paper", "kind": "person:spouse"}, follow=True)
        self.assertContains(again, "There is a spouse already")
        self.client.post(act, {"act": "paper", "kind": "w2", "owner": "spouse"})
        self.column.refresh_from_db()
        child = next(mark for mark in self.column.differences if mark.startswith("person/whatif") and mark.endswith("/"))
        self.client.post(self.url("what-if-enter", self.column.pk), {"mark": f"{child}birth_date", "value": "3/3/2025"})
        found = self.outcome(self.column).result.run.form("us.1040")
        self.assertEqual((found.status, found.child_credit, found.standard_deduction), ("joint", 2_200, 31_500))
        made = taking.make_return(self.preparer, self.return_.pk, self.column.pk)
        self.assertNotIn("number", made.papers.get(kind="person", key="spouse").values)
        self.column.refresh_from_db()
        with self.assertRaisesRegex(Cannot, "under People first"):
            taking.take(self.preparer, self.return_.pk, self.column.pk, {f"{child}birth_date"})

    def test_what_can_be_done_with_a_column(self):
        act = self.url("what-if-act", self.column.pk)
        answer = self.client.post(act, {"act": "paper", "kind": "1099-div"}, follow=True)
        self.assertContains(answer, "Dividends")
        self.client.post(self.url("what-if-enter", self.column.pk), {"mark": self.wages.mark, "value": "80000"})
        self.assertContains(
            self.client.post(act, {"act": "take", "mark": self.wages.mark}, follow=True), "1 value entered in the return"
        )
        self.assertContains(self.client.post(act, {"act": "return"}, follow=True), "A plan of 2025")
        self.client.post(act, {"act": "name", "name": "More hours", "note": "From July"})
        self.assertContains(self.client.get(self.url()), "From July")
        self.client.post(act, {"act": "leave", "paper": f"w2/{self.paper.key}/"})
        self.assertContains(self.client.get(self.url()), ", left out")
        self.client.post(act, {"act": "copy"})
        self.client.post(act, {"act": "remove"})
        self.assertEqual([row.name for row in keeping.columns_of(self.return_)], ["More hours, copy"])

    def test_curve_and_goal(self):
        asked = {"mark": self.wages.mark, "column": ""}
        drawn = self.client.get(self.url("what-if-curve"), asked | {"to": "300000"})
        self.assertContains(drawn, "Tax (1040, line 16)")
        self.assertContains(drawn, "the next dollar costs")
        self.enter("5000", Place("w2", self.paper.key, "federal_withheld"))
        withheld = Place("w2", self.paper.key, "federal_withheld").mark
        found = self.client.get(
            self.url("what-if-find"), {"mark": withheld, "column": self.column.key, "of": "together", "wanted": "0"}
        )
        self.assertContains(found, "put it into “Full time”")
        none = self.client.get(self.url("what-if-find"), {"mark": withheld, "column": "", "of": "tax", "wanted": "1"})
        self.assertContains(none, "does not move it")
        for wrong in ({"mark": "x"}, asked | {"to": "pear"}, asked | {"from": "5000", "to": "20"}, asked | {"column": "999"},
                      {"mark": Place("w2", self.paper.key, "employer").mark}):  # fmt: skip
            with self.subTest(wrong):
                self.assertContains(self.client.get(self.url("what-if-curve"), wrong), 'role="alert"', status_code=422)

    def test_an_amount_is_divided_over_two_columns(self):
        asked = {"mark": self.wages.mark, "column": "", "other": self.column.key, "most": "24000"}
        drawn = self.client.get(self.url("what-if-divided"), asked)
        self.assertContains(drawn, "of <b>24,000</b>, best")
        self.assertContains(drawn, "In steps of 2,000")
        for wrong in (asked | {"other": ""}, asked | {"most": "pear"}, asked | {"most": "0"}, asked | {"column": "999"}):
            with self.subTest(wrong):
                self.assertContains(self.client.get(self.url("what-if-divided"), wrong), 'role="alert"', status_code=422)

    def test_printed(self):
        self.enter("80000")
        self.assertEqual(self.client.get(self.url("what-if-pdf")).content[:5], b"%PDF-")
        self.assertEqual(self.events("what-if printed").count(), 1)

    def test_a_reviewer_looks_and_keys_nothing(self):
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(self.url())
        self.assertNotContains(page, "hx-post")
        self.assertEqual(
            self.client.post(self.url("what-if-enter", self.column.pk), {"mark": self.wages.mark, "value": "1"}).status_code, 403
        )


class ChoicesTests(WhatIfTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        paid = {"payer": "Galena College", "student": "taxpayer", "paid": "2000.00", "half_time": "yes", "degree": "yes",
                "four_years_done": "yes", "convicted": "no", "credit": "none"}  # fmt: skip
        add_paper(self.preparer, self.return_.pk, "1098-t", "", paid)

    def url(self, name):
        return reverse(name, args=[self.return_.pk])

    def test_what_is_best_is_entered_as_one_act_and_undone_as_one(self):
        page = self.client.get(self.url("what-if-choices"))
        self.assertContains(page, "Education credit, Lorna")
        self.assertContains(page, "▲ 400")  # 20% of 2,000; IRC 25A(c)(1)
        before = together(result_of(self.again()))
        self.assertContains(self.client.post(self.url("what-if-take-choices"), {"way": "enter"}, follow=True), "1 value entered")
        self.assertEqual(together(result_of(self.again())) - before, 400)
        self.assertContains(self.client.get(self.url("what-if-choices")), "is the best of")
        again = self.client.post(self.url("what-if-take-choices"), {"way": "enter"}, follow=True)
        self.assertContains(again, "is the best of these choices")
        undo_last(self.preparer, self.return_.pk)
        self.assertEqual(together(result_of(self.again())), before)

    def test_a_column_of_it(self):
        self.client.post(self.url("what-if-take-choices"), {"way": "column"})
        made = keeping.columns_of(self.return_)[-1]
        self.assertEqual((made.name, list(made.differences.values())), ("Best of choices", ["lifetime"]))

    def test_a_reviewer_looks_and_enters_nothing(self):
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.assertNotContains(self.client.get(self.url("what-if-choices")), "Enter the best")
        self.assertEqual(self.client.post(self.url("what-if-take-choices"), {"way": "enter"}).status_code, 403)
