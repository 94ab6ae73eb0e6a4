"""A plan: made with its amounts, counted nowhere, never filed; turned into the filing return, or taken over field by field."""

from practice.clients.models import Person
from practice.returns import planning
from practice.returns.changing import Settled
from practice.returns.computing import data_of
from practice.returns.entry import save_field
from practice.returns.models import Return, counted
from practice.returns.undoing import undo_last
from practice.signing.locking import lock_figures
from practice.tests.office import OfficeTestCase
from practice.us import extending


class PlanningTests(OfficeTestCase):
    def plan(self, years_on=0):
        return planning.plan(self.preparer, self.return_.pk, years_on)

    def value(self, return_, kind, name):
        return next(
            one.values.get(name)
            for one in data_of(Return.objects.for_firm(self.firm).get(pk=return_.pk)).papers
            if one.kind == kind
        )

    def test_of_its_own_year_with_everything(self):
        made = self.plan()
        self.assertEqual((made.year, made.purpose, made.together), (2025, "planning", self.again().together or made.together))
        self.assertEqual(self.value(made, "w2", "wages"), "61480.00")
        self.assertEqual(counted(Return.objects.for_firm(self.firm)).count(), 1)

    def test_of_the_year_after_with_amounts_and_what_this_year_closed(self):
        made = self.plan(1)
        self.assertEqual((made.year, self.value(made, "w2", "wages")), (2026, "61480.00"))
        self.assertEqual(self.value(made, "prior-year", "adjusted_gross_income"), "61480")

    def test_it_is_neither_signed_nor_given_more_time(self):
        made = self.plan()
        with self.assertRaisesRegex(Settled, "This is a plan"):
            lock_figures(self.preparer, made.pk)
        with self.assertRaisesRegex(extending.CannotExtend, "This is a plan"):
            extending.ask(self.preparer, made.pk)

    def test_what_is_keyed_in_a_plan_leaves_the_client_alone(self):
        made = self.plan()
        paper = made.papers.get(kind="person")
        save_field(self.preparer, made.pk, paper.pk, "last_name", "Osei", "Abernathy")
        self.assertEqual(Person.objects.for_firm(self.firm).get(pk=self.client_person.pk).last_name, "Abernathy")

    def test_fields_go_into_the_filing_return_one_by_one(self):
        made = self.plan()
        wages = made.papers.get(kind="w2")
        save_field(self.preparer, made.pk, wages.pk, "wages", "70000", "61480.00")
        save_field(self.preparer, made.pk, wages.pk, "federal_withheld", "9000", "5812.00")
        made.refresh_from_db()
        found = {one.label: one for one in planning.others(made, self.return_)}
        self.assertEqual(set(found), {"Wages, tips, other compensation", "Federal income tax withheld"})
        one = found["Wages, tips, other compensation"]
        self.assertEqual((one.planned, one.filed), ("70000.00", "61480.00"))
        self.assertEqual(planning.take_into_filing(self.preparer, made.pk, {one.mark}), 1)
        self.assertEqual(
            (self.value(self.return_, "w2", "wages"), self.value(self.return_, "w2", "federal_withheld")), ("70000.00", "5812.00")
        )
        undo_last(self.preparer, self.return_.pk)
        self.assertEqual(self.value(self.return_, "w2", "wages"), "61480.00")

    def test_it_becomes_the_filing_return_where_there_is_none(self):
        with self.assertRaisesRegex(planning.NotPlanned, "filing return of 2025 already"):
            planning.make_filing(self.preparer, self.plan().pk)
        made = planning.make_filing(self.preparer, self.plan(1).pk)
        self.assertEqual((made.purpose, made.papers.get(kind="person").person_id), ("filing", self.client_person.pk))
        self.assertEqual(counted(Return.objects.for_firm(self.firm)).filter(year=2026).get(), made)

    def test_every_page_says_that_it_is_a_plan(self):
        self.client.force_login(self.preparer)
        made = self.plan()
        for path in ("papers", "forms", "review", "plan", "review/print", "flow"):
            page = self.client.get(f"/returns/{made.pk}/{path}").content.decode()
            self.assertIn('<body class="frame plan"', page, path)
            self.assertIn('<b class="planmark">Plan</b>', page, path)
        self.assertRedirects(self.client.get(f"/returns/{made.pk}/sign"), f"/returns/{made.pk}/plan")
        self.assertNotIn("planmark", self.client.get(f"/returns/{self.return_.pk}/papers").content.decode())
        self.assertIn("2025 plan</a>", self.client.get(f"/households/{self.household.pk}").content.decode())
        self.assertNotIn("planmark", self.client.get("/").content.decode())
