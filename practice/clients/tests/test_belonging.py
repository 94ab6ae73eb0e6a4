"""Companies as clients, who is what in them, and groups."""

import json
import zipfile
from datetime import date
from decimal import Decimal

from django.db import connection

from practice.clients import entities, groups, restricting, roles
from practice.clients.finding import households_like
from practice.clients.models import Group
from practice.delivery.handing_over import hand_over
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.returns.opening import open_household, open_return
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue

QUARRY = {"name": "Quarry Road Kayaks LLC", "form": "llc", "number": "00-4471209", "email": "desk@kayaks.example"}


class Companies(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        self.company = entities.add(self.preparer, **QUARRY)

    def give(self, holder="Lorna Abernathy", kind="member", share="40", **more):
        return roles.give(self.preparer, self.company.pk, holder, kind, roles.share_of(share), **more)

    def test_found_by_name_number_and_email(self):
        for words in ("quarry", "00-4471209", "desk@kayaks"):
            self.assertEqual([one.name for one in households_like(self.preparer, words)], [QUARRY["name"]], words)

    def test_what_cannot_be_is_said_at_its_field(self):
        for change, field in (({"name": ""}, "name"), ({"form": "club"}, "form"), ({}, "number"), ({"number": "--"}, "number")):
            with self.subTest(field), self.assertRaises(entities.EntityErrors) as wrong:
                entities.add(self.preparer, **QUARRY | change)
            self.assertIn(field, wrong.exception.errors)

    def test_a_person_s_number_is_no_company_s(self):
        with self.assertRaises(entities.EntityErrors):
            entities.add(self.preparer, **QUARRY | {"name": "Other", "number": "921-17-5580"})

    def test_its_number_is_sealed_and_masked(self):
        self.assertEqual(self.company.entity.masked_number[-4:], "1209")
        with connection.cursor() as cursor:
            cursor.execute("select number from clients_entity")
            self.assertNotIn("4471209", cursor.fetchone()[0])

    def test_no_individual_return_is_opened_for_it(self):
        self.assertEqual(open_return(self.preparer, self.company.pk, 2025, []).pack, "us-1065")
        trust = entities.add(self.preparer, **QUARRY | {"name": "Wren Trust", "form": "trust", "number": "00-4471210"})
        with self.assertRaisesRegex(Cannot, "not made here yet"):
            open_return(self.preparer, trust.pk, 2025, [])

    def test_taking_on_clients_is_a_permission(self):
        self.firm.preparers_add_clients = False
        self.firm.save()
        self.preparer.firm.preparers_add_clients = False
        for act in (
            lambda: entities.add(self.preparer, **QUARRY | {"number": ""}),
            lambda: open_household(self.preparer, "X", []),
        ):
            with self.assertRaises(Refused):
                act()
        self.signer.firm.preparers_add_clients = False
        entities.add(self.signer, **QUARRY | {"number": ""})

    # Roles

    def test_a_share_of_any_length_is_refused_at_its_field(self):
        for text in ("99999999999999999999", "1e30", "33.33333", "none", "NaN", "-0.00001", "٣"):
            with self.subTest(text), self.assertRaises(BadValue):
                roles.share_of(text)
        self.assertEqual((roles.share_of("33.3333 %"), roles.share_of(" ")), (Decimal("33.3333"), None))

    def test_shares_of_a_kind_are_percent_of_a_whole(self):
        other = entities.add(self.preparer, name="Savanna Holdings Inc", form="company")
        self.give()
        self.give("Savanna Holdings Inc", share="60")
        self.assertEqual([(one.named, one.share) for one in roles.roles_in(self.preparer, self.company)],
                         [("Savanna Holdings Inc", Decimal(60)), ("Lorna Abernathy", Decimal(40))])  # fmt: skip
        self.assertEqual([one.household for one in roles.roles_of(self.preparer, other)], [self.company])
        entities.add(self.preparer, name="Third Co", form="company")
        with self.assertRaisesRegex(BadValue, "0% are left"):
            self.give("Third Co", share="1")

    def test_what_cannot_be_a_role(self):
        cases = [("Nobody Here", "member", "1", "No client is called"), ("Lorna Abernathy", "king", "1", "Choose a role"),
                 (QUARRY["name"], "member", "1", "in itself"), ("Lorna Abernathy", "member", "0", "more than 0"),
                 ("Lorna Abernathy", "member", "101", "at most 100"), ("Lorna Abernathy", "member", "half", "number of percent"),
                 ("Lorna Abernathy", "member", "1.23456", "four places")]  # fmt: skip
        for holder, kind, share, says in cases:
            with self.subTest(says), self.assertRaisesRegex(BadValue, says):
                self.give(holder, kind, share)

    def test_two_of_a_name_are_told_by_the_last_digits(self):
        open_household(
            self.preparer, "Abernathy, Lorna", [{"first_name": "Lorna", "last_name": "Abernathy", "number": "922-41-7716"}]
        )
        with self.assertRaisesRegex(BadValue, "add the last four digits"):
            self.give()
        self.assertEqual(self.give("Lorna Abernathy 7716").person.number, "922-41-7716")

    def test_a_role_that_ended_stays_in_the_records_and_frees_its_share(self):
        role = self.give(since=date(2024, 1, 1))
        with self.assertRaisesRegex(BadValue, "before the role began"):
            roles.end(self.preparer, role.pk, date(2023, 1, 1))
        roles.end(self.preparer, role.pk, date(2025, 6, 30))
        self.give(share="100")
        self.assertEqual(roles.roles_in(self.preparer, self.company).count(), 2)

    def test_who_is_restricted_is_not_named_in_a_company(self):
        self.give()
        restricting.restrict(self.signer, self.household.pk, [self.reviewer.pk])
        self.assertEqual(roles.roles_in(self.preparer, self.company).count(), 0)
        self.assertEqual(roles.roles_in(self.reviewer, self.company).count(), 1)

    # Groups

    def test_a_client_may_be_in_several_groups_and_an_empty_one_is_gone(self):
        family = groups.join(self.preparer, self.household.pk, "Abernathy family")
        groups.join(self.preparer, self.company.pk, "abernathy FAMILY")
        groups.join(self.preparer, self.household.pk, "Quarry Road")
        self.assertEqual(Group.objects.for_firm(self.firm).count(), 2)
        self.assertEqual([one.name for one in groups.members(self.preparer, family.pk)[1]],
                         [QUARRY["name"], "Abernathy, Lorna"])  # fmt: skip
        groups.leave(self.preparer, self.household.pk, family.pk)
        groups.leave(self.preparer, self.company.pk, family.pk)
        self.assertEqual([one.name for one in Group.objects.for_firm(self.firm)], ["Quarry Road"])

    def test_a_group_shows_nobody_who_is_restricted(self):
        family = groups.join(self.preparer, self.household.pk, "Abernathy family")
        restricting.restrict(self.signer, self.household.pk, [self.reviewer.pk])
        with self.assertRaises(NotOfThisFirm):
            groups.members(self.preparer, family.pk)
        with self.assertRaises(NotOfThisFirm):
            groups.members(self.stranger, family.pk)

    def test_pages(self):
        self.client.force_login(self.preparer)
        answer = self.client.post("/households/company", {"name": "", "form": "llc", "city": "Galena"})
        self.assertContains(answer, "This field is required", status_code=422)
        self.assertContains(answer, "Galena", status_code=422)
        answer = self.client.post(
            "/households/company", {"name": "Tern Trust", "form": "trust", "formed_on": "3/4/2020"}, follow=True
        )
        self.assertContains(answer, "Mar 4, 2020")
        here = f"/households/{self.company.pk}"
        answer = self.client.post(f"{here}/roles", {"holder": "Lorna Abernathy", "kind": "member", "share": "4O"})
        self.assertContains(answer, "number of percent", status_code=422)
        self.assertContains(answer, 'value="4O"', status_code=422)
        self.client.post(f"{here}/roles", {"holder": "Lorna Abernathy", "kind": "member", "share": "40%", "since": "1/1/2024"})
        self.client.post(f"{here}/groups", {"group": "Abernathy family"})
        self.client.post(f"/households/{self.household.pk}/groups", {"group": "Abernathy family"})
        self.assertContains(self.client.get(here), "40%")
        self.assertContains(self.client.get(f"/households/{self.household.pk}"), QUARRY["name"])
        group = Group.objects.for_firm(self.firm).get()
        self.assertContains(self.client.get(f"/households/groups/{group.pk}"), "2 clients that belong together")
        self.assertContains(self.client.get("/households/"), "Abernathy family")
        answer = self.client.post(f"{here}/company", QUARRY | {"name": "Quarry Kayaks LLC", "number": ""}, follow=True)
        self.assertContains(answer, "Quarry Kayaks LLC")

    def test_a_group_is_rolled_forward_together(self):
        family = groups.join(self.preparer, self.household.pk, "Abernathy family")
        self.client.force_login(self.preparer)
        self.assertContains(self.client.get(f"/households/groups/{family.pk}"), f"/next-year?year=2025&amp;group={family.pk}")
        self.assertContains(self.client.get(f"/next-year?year=2025&group={family.pk}"), "Abernathy, Lorna")
        self.assertNotContains(self.client.get(f"/next-year?year=2025&group={family.pk + 1}"), "Abernathy, Lorna")

    def test_a_company_is_handed_over_with_who_is_what_in_it(self):
        self.give()
        _, file = hand_over(self.signer, self.company.pk)
        with zipfile.ZipFile(file) as packed:
            about = json.loads(packed.read("contents.json"))
        self.assertEqual((about["company"]["number"], about["roles"][0]["who"], about["roles"][0]["share"]),
                         ("00-4471209", "Lorna Abernathy", "40"))  # fmt: skip
