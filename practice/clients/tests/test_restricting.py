"""A client restricted to named staff: nobody else finds it, opens it or sees it counted, whatever their role."""

import io

from django.core.management import call_command
from django.core.management.base import CommandError

from practice.clients import restricting
from practice.clients.models import Household, Person
from practice.firm.permissions import NotOfThisFirm, Refused, fetch
from practice.returns.models import Return
from practice.returns.rounds import begin, progress
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class RestrictingTests(OfficeTestCase):
    def restrict(self, *staff):
        return restricting.restrict(self.signer, self.household.pk, [one.pk for one in staff])

    def test_others_do_not_find_open_or_count_it(self):
        self.restrict(self.reviewer)
        for model, pk in ((Household, self.household.pk), (Return, self.return_.pk), (Person, self.client_person.pk)):
            for somebody in (self.preparer, self.signer, self.administrator):
                self.assertEqual(model.objects.for_staff(somebody).count(), 0)
                with self.assertRaises(NotOfThisFirm):
                    fetch(model.objects, somebody, pk=pk)
            self.assertEqual(fetch(model.objects, self.reviewer, pk=pk).pk, pk)

    def test_pages_lists_and_searches_of_others(self):
        self.restrict(self.signer)
        for somebody, there in ((self.administrator, False), (self.signer, True)):
            self.client.force_login(somebody)
            for page in ("/?of=everyone&years=all", "/households/?q=Lorna", "/households/?q=921-17-5580", "/find?q=Abernathy",
                         "/find?q=abernathy 2025", "/next-year?year=2025", "/more-time"):  # fmt: skip
                found = "Abernathy" in self.client.get(page, follow=True).content.decode().replace("“Abernathy", "")
                self.assertEqual(found, there, f"{somebody.role} {page}")
            for page in (f"/households/{self.household.pk}", f"/returns/{self.return_.pk}/papers"):
                self.assertEqual(self.client.get(page).status_code, 200 if there else 404, page)

    def test_nothing_of_it_can_be_done_by_others(self):
        self.restrict(self.reviewer)
        with self.assertRaises(NotOfThisFirm):
            self.key("wages", "1", "61480.00")
        with self.assertRaises(BadValue):
            begin(self.preparer, "roll", [self.return_.pk])

    def test_a_round_begun_before_shows_it_no_more(self):
        made = begin(self.preparer, "roll", [self.return_.pk])
        self.assertEqual(progress(self.preparer, made.pk)["all"], 1)
        self.restrict(self.reviewer)
        self.assertEqual(progress(self.preparer, made.pk)["all"], 0)

    def test_lifted_again_by_somebody_who_sees_it(self):
        self.restrict(self.signer)
        self.assertEqual(self.events("client restricted").get().says, self.signer.name)
        with self.assertRaises(NotOfThisFirm):
            restricting.restrict(self.administrator, self.household.pk, [])
        self.restrict()
        self.assertTrue(Household.objects.for_staff(self.preparer).exists())

    def test_who_may(self):
        with self.assertRaises(Refused):
            restricting.restrict(self.preparer, self.household.pk, [self.preparer.pk])
        self.reviewer.is_active = False
        self.reviewer.save()
        with self.assertRaisesRegex(BadValue, "still works here"):
            self.restrict(self.reviewer)

    def test_from_the_page(self):
        self.client.force_login(self.signer)
        answer = self.client.post(f"/households/{self.household.pk}/seen-by", {"staff": [self.reviewer.pk]}, follow=True)
        self.assertContains(answer, "and by you no more")
        self.client.force_login(self.reviewer)
        self.assertContains(self.client.get(f"/households/{self.household.pk}"), f"Seen by {self.reviewer.name} alone.")

    def test_an_operator_lifts_it_where_nobody_named_works_here_any_more(self):
        self.restrict(self.reviewer)
        with self.assertRaisesRegex(CommandError, "somebody who works here"):
            call_command("lift_restriction", self.household.pk)
        self.reviewer.is_active = False
        self.reviewer.save()
        listed = io.StringIO()
        call_command("lift_restriction", stdout=listed)
        self.assertIn("Abernathy, Lorna", listed.getvalue())
        call_command("lift_restriction", self.household.pk, stdout=listed)
        self.assertTrue(Household.objects.for_staff(self.preparer).exists())
        self.assertEqual(self.events("restriction lifted").get().by, "Impuesto")
