"""What a return states to its owners: in the portal of the one it is for, with nothing else of the return."""

from unittest import mock

from django.core import mail
from django.test import Client

from practice.clients import entities, restricting, roles
from practice.clients.models import Person
from practice.delivery import handing_over, packaging, retaining, stating
from practice.delivery.models import Package, Statement
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.gather.people import people_of
from practice.portal.models import PortalLink
from practice.portal.tasks import mail_link
from practice.returns import issuing
from practice.returns.computing import result_of
from practice.signing import locking, needed
from practice.tests.entities import OTHER, EntityTestCase


class StatementTests(EntityTestCase):
    def lay_out(self):
        super().lay_out()
        self.made = self.partnership()
        self.corin = Person.objects.create(
            firm=self.firm, household=self.made.household, first_name="Corin", last_name="Vale", number=OTHER["number"],
            email="corin@vale.example",
        )  # fmt: skip

    def locked(self):
        locking.lock_figures(self.signer, self.made.pk)
        self.made = self.fresh(self.made)

    def delivered(self, *codes):
        self.locked()
        stating.deliver(self.signer, self.made.pk, codes or None)
        for row in self.made.statements.filter(state="making"):
            stating.make(statement_id=row.pk)

    def standing(self, actor=None):
        return stating.statements_of(self.made, result_of(self.made), actor or self.signer)

    def portal(self, link):
        client = Client()
        session = client.session
        session["portal"] = link.pk
        session.save()
        return client

    def link_of(self, person, purpose="share"):
        return PortalLink.objects.for_firm(self.firm).filter(client=person, purpose=purpose, closed_at=None).latest("pk")

    def test_each_owner_finds_theirs_and_nothing_else(self):
        self.delivered()
        self.assertEqual(self.made.statements.count(), 2)
        self.assertEqual({one.client for one in self.made.statements.all()}, {self.corin, self.client_person})
        link = self.link_of(self.corin)
        mail_link(link_id=link.pk)
        (sent,) = mail.outbox
        self.assertEqual((sent.subject, sent.to), ("Your share of Quarry Road Kayaks for 2025", ["corin@vale.example"]))
        client = self.portal(link)
        page = client.get("/portal/")
        self.assertContains(page, "Schedule K-1, Corin Vale")
        self.assertNotContains(page, "Lorna")
        mine, other = (self.made.statements.get(client=one) for one in (self.corin, self.client_person))
        taken = client.get(f"/portal/statements/{mine.pk}")
        self.assertEqual((taken["Content-Type"], taken.content[:5]), ("application/pdf", b"%PDF-"))
        self.assertIn("Schedule-K-1-Corin-Vale-2025.pdf", taken["Content-Disposition"])
        self.assertEqual(client.get(f"/portal/statements/{other.pk}").status_code, 404)
        self.assertIsNotNone(Statement.objects.for_firm(self.firm).get(pk=mine.pk).taken_at)
        self.assertEqual(self.events("statement downloaded").get().says, "Schedule K-1, Corin Vale")

    def test_a_link_of_an_owner_opens_nothing_of_the_return(self):
        self.delivered()
        Package.objects.create(firm=self.firm, of=self.made, snapshot=self.made.snapshot, state="ready", asked_by=self.signer)
        packaging.deliver(self.signer, self.made.packages.get().pk)
        client = self.portal(self.link_of(self.corin))
        for path in (
            "package.pdf",
            "return",
            "sign",
            "identity",
            "messages",
            "asked",
            "dates.ics",
            "invoices/1",
            "documents/1",
            "plans/1",
        ):
            with self.subTest(path):
                self.assertRedirects(client.get(f"/portal/{path}"), "/portal/")
        self.assertNotContains(client.get("/portal/"), "Your package")

    def test_who_signs_and_owns_keeps_both_links(self):
        self.delivered()
        self.assertEqual([one.pk for one, _ in needed.signers(self.made)], [self.client_person.pk])
        share = self.link_of(self.client_person)
        Package.objects.create(firm=self.firm, of=self.made, snapshot=self.made.snapshot, state="ready", asked_by=self.signer)
        packaging.deliver(self.signer, self.made.packages.get().pk)
        self.assertEqual(self.link_of(self.client_person).pk, share.pk)
        self.assertContains(
            self.portal(self.link_of(self.client_person, "package")).get("/portal/"), "Schedule K-1, Lorna Abernathy"
        )

    def test_before_the_figures_are_locked_nobody_gets_any(self):
        with self.assertRaisesRegex(Cannot, "Lock the return first"):
            stating.deliver(self.signer, self.made.pk)
        page = self.client.post(f"/returns/{self.made.pk}/statements", {"statement": ["x"]}, follow=True)
        self.assertContains(page, "Lock the return first")

    def test_delivered_once_and_anew_when_it_says_something_else(self):
        self.delivered()
        with self.assertRaisesRegex(Cannot, "no statement to deliver"):
            stating.deliver(self.signer, self.made.pk)
        self.assertContains(self.client.get(f"/returns/{self.made.pk}/issued"), "delivered ")
        self.move(self.made, ("Shop rent", "25000"), ("Checking", "54000"))
        self.made = self.fresh(self.made)
        self.assertTrue(all(one.is_open and one.earlier for one in self.standing()))
        self.assertContains(self.client.get(f"/returns/{self.made.pk}/issued"), "says something else than what was delivered")
        self.delivered()
        self.assertFalse(any(one.is_open for one in self.standing()))
        self.assertEqual(len(stating.shared_with(self.corin)), 1)

    def test_figures_that_change_while_it_is_made_are_not_delivered(self):
        self.locked()
        stating.deliver(self.signer, self.made.pk)
        row = self.made.statements.first()
        with mock.patch.object(stating, "_mark", return_value="another"):
            stating.make(statement_id=row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, row.shared_at), ("failed", None))
        self.assertIn("Deliver it again", row.trouble)

    def test_who_is_no_client_or_has_no_address_is_said(self):
        self.corin.email = ""
        self.corin.save()
        self.assertEqual([one.says for one in self.standing()], ["", "Corin Vale has no email address."])
        self.corin.number = ""
        self.corin.save()
        self.assertEqual([one.says for one in self.standing()], ["", "No client that you see has that number."])
        self.assertEqual(stating.deliver_all(self.signer, self._lock()).says, "1 statement delivered")

    def test_of_an_entity_whoever_hears_of_it(self):
        self.corin.number = ""
        self.corin.save()
        owner = entities.add(self.preparer, name="Pier Co", form="company", number="90-0000104")
        self.assertEqual([one.says for one in self.standing()], ["", "Nobody in Pier Co gets mail or signs."])
        roles.give(self.preparer, owner.pk, "Lorna Abernathy", "director", signs=True)
        self.assertEqual([one.clients for one in self.standing()], [(self.client_person,)] * 2)
        roles.give(self.preparer, owner.pk, "Corin Vale", "director", gets_mail=True)
        self.assertEqual(self.standing()[1].clients, (self.corin,))
        self.assertEqual(people_of(self.made), [self.client_person])

    def _lock(self):
        self.locked()
        return self.made.pk

    def test_a_restricted_owner_is_nobody_to_others(self):
        """Whoever may see the client delivers it; to others no name, no address and no state of it is told."""
        self.delivered()
        restricting.restrict(self.administrator, self.client_person.household_id, [self.administrator.pk])
        hidden, theirs = self.standing()[0], self.standing(self.administrator)[0]
        self.assertEqual((hidden.says, hidden.given), ("No client that you see has that number.", ()))
        self.assertEqual((theirs.clients, len(theirs.given)), ((self.client_person,), 1))

    def test_who_may_not_deliver_is_refused(self):
        self.locked()
        for actor, refusal in ((self.reviewer, Refused), (self.stranger, NotOfThisFirm)):
            with self.assertRaises(refusal):
                stating.deliver(actor, self.made.pk)
        self.assertEqual(self.made.statements.count(), 0)

    def test_they_are_handed_over_and_deleted_with_the_rest(self):
        self.delivered()
        issuing.hand_out(self.preparer, self.made.pk)
        _, file = handing_over.hand_over(self.signer, self.made.household_id)
        self.assertIn(b"k-1-", file.read())
        with mock.patch.object(retaining, "keep_until", return_value=self.firm.today().replace(year=2020)):
            retaining.forget(self.administrator, self.made.pk)
        self.assertEqual(stating.shared_with(self.corin), [])
