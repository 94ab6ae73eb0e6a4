"""What a return issued follows it by itself, where the practice chose so."""

from datetime import timedelta
from unittest import mock

from django.urls import reverse
from django.utils import timezone

from practice.clients import entities
from practice.firm.models import Firm
from practice.firm.permissions import Refused
from practice.returns import following, issuing
from practice.returns.computing import result_of
from practice.returns.entry import add_paper, remove_paper, save_field
from practice.returns.models import HandedOut, Return
from practice.review.practice_answers import set_shares_follow
from practice.signing import locking
from practice.tests.entities import LORNA, OTHER, EntityTestCase


class FollowingTests(EntityTestCase):
    def lay_out(self):
        super().lay_out()
        self.made = self.partnership()
        issuing.hand_out(self.preparer, self.made.pk)
        set_shares_follow(self.administrator, True)

    def rent(self, debit):
        """Rent and the bank move together, so that the books stay even; what waits for the worker is done."""
        self.move(self.made, ("Shop rent", str(debit)), ("Checking", str(79_000 - debit)))

    def waiting(self):
        return HandedOut.objects.for_firm(self.firm).exclude(follows_at=None)

    def share(self):
        return self.return_.papers.get(kind="k1-1065").values["ordinary"]

    def test_a_change_of_the_books_arrives_with_its_author(self):
        tax = result_of(self.fresh(self.return_)).run.form("us.1040").total_tax
        self.rent(25_000)
        self.assertEqual((self.share(), self.waiting().count()), ("30600", 2))
        following.follow(return_id=self.made.pk)
        self.assertEqual((self.share(), self.waiting().count()), ("30000", 0))
        changed = self.return_.changes.filter(paper__kind="k1-1065", path="ordinary").first()
        self.assertEqual((changed.by, changed.after), (self.signer, "30000"))
        self.assertEqual(self.events("paper issued").first().says, "by Quarry Road Kayaks, followed by itself")
        self.assertLess(result_of(self.fresh(self.return_)).run.form("us.1040").total_tax, tax)
        self.assertEqual(issuing.differing_on(self.fresh(self.return_)), [])

    def boats(self, code, form, sort, kind, **of_owner):
        """Corin Vale's share is a company's, whose only owner is Lorna: that company's return."""
        corin = next(one for one in self.made.papers.filter(kind="partner") if one.values["called"] == "Corin Vale")
        remove_paper(self.preparer, self.made.pk, corin.pk)
        partner = OTHER | {"called": "Vale Boats", "number": "00-5566771", "sort": sort, "general": "no"}
        add_paper(self.preparer, self.made.pk, "partner", "", partner | {"stakes": [{"profit": "40"}]})
        company = entities.add(self.preparer, name="Vale Boats", form=form, number="00-5566771")
        self.client.post(f"/households/{company.pk}/returns", {"pack": code, "year": "2025"})
        theirs = Return.objects.for_firm(self.firm).get(household=company)
        add_paper(self.preparer, theirs.pk, kind, "", LORNA | of_owner)
        return theirs

    def test_through_a_company_to_whoever_owns_that(self):
        theirs = self.boats("us-1120s", "s-corp", "s-corporation", "shareholder", stakes=[{"shares": "100"}])
        issuing.hand_out(self.preparer, self.made.pk)
        issuing.hand_out(self.preparer, theirs.pk)
        share = self.return_.papers.get(kind="k1-1120s")
        self.assertEqual(share.values["ordinary"], "20400")
        self.rent(25_000)
        following.follow(return_id=self.made.pk)
        self.assertEqual(theirs.papers.get(kind="k1-1065").values["ordinary"], "20000")
        following.follow(return_id=theirs.pk)
        share.refresh_from_db()
        self.assertEqual(share.values["ordinary"], "20000")

    def test_two_that_own_each_other_are_left_to_people(self):
        stakes = [{"profit": "50"}]
        theirs = self.boats("us-1065", "partnership", "partnership", "partner", stakes=stakes)
        kayaks = OTHER | {"called": "Quarry Road Kayaks", "number": "00-4471209", "sort": "partnership", "general": "no"}
        add_paper(self.preparer, theirs.pk, "partner", "", kayaks | {"stakes": stakes})
        issuing.hand_out(self.preparer, self.made.pk)
        issuing.hand_out(self.preparer, theirs.pk)
        before = theirs.papers.get(kind="k1-1065").values["ordinary"]
        self.rent(25_000)
        following.follow(return_id=self.made.pk)
        self.assertEqual(theirs.papers.get(kind="k1-1065").values["ordinary"], before)
        self.assertTrue(issuing.differing_on(self.fresh(theirs)))

    def test_nothing_follows_where_the_practice_did_not_choose_it(self):
        set_shares_follow(self.administrator, False)
        self.made = self.fresh(self.made)
        self.rent(25_000)
        self.assertEqual(self.waiting().count(), 0)
        self.assertTrue(issuing.differing_on(self.fresh(self.return_)))

    def test_a_return_that_is_locked_keeps_what_was_locked(self):
        share = self.return_.papers.get(kind="k1-1065")
        save_field(self.preparer, self.return_.pk, share.pk, "participates", "yes", "")
        locking.lock_figures(self.signer, self.return_.pk)
        self.rent(25_000)
        following.follow(return_id=self.made.pk)
        self.assertEqual((self.share(), self.waiting().count()), ("30600", 0))
        self.assertTrue(issuing.differing_on(self.fresh(self.return_)))

    def test_who_may_not_enter_there_moves_nothing(self):
        self.rent(25_000)
        with mock.patch.object(following, "follow_into", side_effect=Refused(self.reviewer, "key", None)):
            following.follow(return_id=self.made.pk)
        self.assertEqual((self.share(), self.waiting().count()), ("30600", 0))

    def test_a_worker_that_died_is_made_up_for(self):
        self.rent(25_000)
        later = timezone.now() + timedelta(minutes=5)
        self.assertEqual(following._lost(later), [{"return_id": self.made.pk}])
        self.assertEqual(following._lost(later - timedelta(days=1)), [])

    def test_a_change_meanwhile_is_not_forgotten(self):
        self.rent(25_000)

        def meanwhile(*given):
            self.waiting().update(follows_at=timezone.now() + timedelta(minutes=1))

        with mock.patch.object(following, "follow_into", side_effect=meanwhile):
            following.follow(return_id=self.made.pk)
        self.assertEqual(self.waiting().count(), 2)

    def test_the_administrator_chooses(self):
        self.client.force_login(self.administrator, "django.contrib.auth.backends.ModelBackend")
        self.client.post(reverse("shares-follow"), {})
        self.assertFalse(Firm.objects.get(pk=self.firm.pk).shares_follow)
        page = self.client.post(reverse("shares-follow"), {"follow": "on"}, follow=True)
        self.assertContains(page, "They follow that return by themselves")
        self.assertTrue(Firm.objects.get(pk=self.firm.pk).shares_follow)
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.post(reverse("shares-follow"), {}).status_code, 403)
