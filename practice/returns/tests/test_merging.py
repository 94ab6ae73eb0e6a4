"""Two records of one person become one; nothing is lost, and what was signed stays where it was."""

from datetime import date

from practice.clients import groups
from practice.clients.finding import clients
from practice.clients.models import Person
from practice.firm.permissions import Refused
from practice.returns import merging
from practice.returns.models import Return
from practice.returns.opening import open_household, open_return
from practice.signing.locking import lock_figures
from practice.tests.office import OfficeTestCase


class MergingTests(OfficeTestCase):
    def another(self, year=2024, people=({},), **values):
        """Another household with a Lorna, who has a return of that year."""
        given = [{"first_name": "Lorna", "last_name": "Abernathy"} | values, *({"first_name": "Bram", "last_name": "Tern"} | one
                 for one in people[1:])]  # fmt: skip
        household = open_household(self.preparer, "Abernathy, Lorna", given)
        person = household.people.order_by("pk").first()
        return person, open_return(self.preparer, household.pk, year, [(person.pk, "taxpayer")])

    def test_returns_groups_and_what_the_other_knew_come_along(self):
        gone, return_ = self.another(occupation="Miller", telephone="815-555-0142", birth_date=date(1979, 3, 8))
        groups.join(self.preparer, gone.household_id, "Abernathy family")
        kept = merging.merge(self.signer, self.client_person.pk, gone.pk)
        return_.refresh_from_db()
        self.assertEqual(return_.household, self.household)
        self.assertEqual(return_.papers.get(kind="person").person, kept)
        self.assertEqual((kept.number, kept.telephone), ("921-17-5580", "815-555-0142"))
        self.assertEqual([one.name for one in self.household.groups.for_firm(self.firm)], ["Abernathy family"])
        self.assertEqual(list(clients(self.preparer)), [self.household])
        self.client.force_login(self.preparer)
        self.assertRedirects(self.client.get(f"/households/{gone.household_id}"), f"/households/{self.household.pk}")

    def test_the_number_goes_to_the_one_that_stays(self):
        gone, _ = self.another(number="922-41-7716")
        Person.objects.for_firm(self.firm).filter(pk=self.client_person.pk).update(number="", number_digest="")
        kept = merging.merge(self.signer, self.client_person.pk, gone.pk)
        self.assertEqual(kept.number, "922-41-7716")

    def test_who_is_not_alone_leaves_the_household_and_its_returns_there(self):
        gone, return_ = self.another(people=({}, {}))
        merging.merge(self.signer, self.client_person.pk, gone.pk)
        return_.refresh_from_db()
        self.assertNotEqual(return_.household, self.household)
        self.assertEqual(return_.papers.get(kind="person").person, self.client_person)

    def test_what_was_locked_stays_under_the_record_it_was_locked_with(self):
        gone, other = self.another()
        lock_figures(self.signer, self.return_.pk)
        merging.merge(self.signer, gone.pk, self.client_person.pk)
        paper = Return.objects.for_firm(self.firm).get(pk=self.return_.pk).papers.get(kind="person")
        self.assertEqual(paper.person, self.client_person)
        self.assertEqual(Person.objects.for_firm(self.firm).get(pk=self.client_person.pk).merged_into, gone)
        self.assertEqual(other.household, gone.household)

    def test_what_cannot_be_one(self):
        cases = (
            ("Both have a number", {"number": "922-41-7716"}),
            ("dates of birth differ", {"birth_date": date(1980, 1, 1)}),
            ("Both have a return of 2025", {"year": 2025}),
        )
        for says, values in cases:
            gone, _ = self.another(**values)
            with self.subTest(says), self.assertRaisesRegex(merging.CannotMerge, says):
                merging.merge(self.signer, self.client_person.pk, gone.pk)
        with self.assertRaisesRegex(merging.CannotMerge, "one record already"):
            merging.merge(self.signer, self.client_person.pk, self.client_person.pk)

    def test_who_may(self):
        gone, _ = self.another()
        with self.assertRaises(Refused):
            merging.merge(self.preparer, self.client_person.pk, gone.pk)

    def test_from_the_page(self):
        self.another()
        self.client.force_login(self.signer)
        here = f"/households/people/{self.client_person.pk}/same"
        answer = self.client.post(here, {"same": "Bram Nobody"})
        self.assertContains(answer, "No client is called Bram Nobody", status_code=422)
        self.assertContains(answer, 'value="Bram Nobody"', status_code=422)
        self.assertContains(self.client.post(here, {"same": "Lorna Abernathy"}, follow=True), "are one client now")
