"""A couple who file separately from next year on: two clients, two returns, everything divided and nothing lost."""

from datetime import date

from practice.clients import groups, restricting
from practice.clients.models import Person
from practice.returns import parting, rolling, taking_over
from practice.returns.entry import add_paper, add_spouse, save_field
from practice.returns.models import Return
from practice.tests.office import OfficeTestCase


class PartingTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        _, paper = add_spouse(self.preparer, self.return_.pk)
        for path, text in (("first_name", "Bram"), ("number", "922-41-7716"), ("birth_date", "1981-02-03")):
            save_field(self.preparer, self.return_.pk, paper.pk, path, text, "")
        filing = self.return_.papers.get(kind="filing")
        save_field(self.preparer, self.return_.pk, filing.pk, "status", "joint", "single")
        add_paper(self.preparer, self.return_.pk, "w2", "spouse", {"employer": "Tern Press", "wages": "40000.00"})
        self.sale("taxpayer", "17000"), self.sale("spouse", "8000")

    def sale(self, owner, cost):
        row = {
            "description": "Birch Fund",
            "acquired": "2025-01-02",
            "sold": "2025-03-04",
            "proceeds": "5000",
            "basis": cost,
            "box": "A",
        }
        return add_paper(self.preparer, self.return_.pk, "1099-b", owner, {"payer": f"Broker of {owner}", "sales": [row]})

    def value(self, return_, kind, name):
        return return_.papers.get(kind=kind).values.get(name)

    def test_each_has_a_household_and_a_return_with_their_own(self):
        """12,000 and 3,000 lost, 3,000 deducted, 12,000 left: 9,600 and 2,400."""
        one, other = parting.part(self.preparer, self.return_.pk)
        self.assertEqual((one.household, one.year, other.year), (self.household, 2026, 2026))
        self.assertEqual((other.household.name, other.household.city), ("Abernathy, Bram", "Galena"))
        self.assertEqual([self.value(each, "capital-carryover", "short_term") for each in (one, other)], ["9600", "2400"])
        self.assertEqual([self.value(each, "w2", "employer") for each in (one, other)], ["Kittiwake Boatworks LLC", "Tern Press"])
        bram = Person.objects.for_firm(self.firm).get(first_name="Bram")
        self.assertEqual((bram.household, other.papers.get(kind="person").person), (other.household, bram))
        self.household.refresh_from_db()
        self.assertEqual(self.household.name, "Abernathy, Lorna")
        self.assertEqual((one.origin.parted, other.origin.parted, other.origin.source), ("taxpayer", "spouse", self.return_))

    def test_what_moves_later_is_offered_to_each_as_divided(self):
        one, other = parting.part(self.preparer, self.return_.pk)
        for each in (one, other):
            self.assertEqual(taking_over.differences(self.fresh(each)), [])
        paper = self.return_.papers.get(kind="1099-b", values__owner="spouse")
        save_field(self.preparer, self.return_.pk, paper.pk, "sales.1.basis", "11000", "8000")
        found = {each.label: each.now for each in taking_over.differences(self.fresh(other))}
        self.assertEqual(found["Short-term loss carryover from prior year"], "5000")  # 6,000 of 18,000, of 15,000 left

    def fresh(self, return_):
        return Return.objects.for_firm(self.firm).get(pk=return_.pk)

    def test_groups_and_restrictions_hold_for_both(self):
        groups.join(self.preparer, self.household.pk, "Abernathy family")
        restricting.restrict(self.signer, self.household.pk, [self.signer.pk])
        _, other = parting.part(self.signer, self.return_.pk)
        self.assertEqual([one.name for one in other.household.groups.for_firm(self.firm)], ["Abernathy family"])
        self.assertFalse(Return.objects.for_staff(self.preparer).filter(pk=other.pk).exists())

    def test_not_where_next_year_is_there(self):
        rolling.roll(self.preparer, self.return_.pk)
        with self.assertRaisesRegex(rolling.NotRolled, "of both already"):
            parting.part(self.preparer, self.return_.pk)

    def test_not_where_one_has_died(self):
        paper = self.return_.papers.get(kind="person", key="spouse")
        save_field(self.preparer, self.return_.pk, paper.pk, "death_date", date(2025, 5, 5).isoformat(), "")
        with self.assertRaisesRegex(rolling.NotRolled, "Only a couple"):
            parting.part(self.preparer, self.return_.pk)
        self.assertEqual(Person.objects.for_firm(self.firm).get(first_name="Bram").household, self.household)

    def test_from_the_client_s_page(self):
        self.client.force_login(self.preparer)
        page = self.client.get(f"/households/{self.household.pk}")
        self.assertContains(page, "they file separately from 2026 on")
        answer = self.client.post(f"/households/returns/{self.return_.pk}/part", follow=True)
        self.assertContains(answer, "each have a 2026 return")
