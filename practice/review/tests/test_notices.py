"""Notices at the head of a return: each appears when its reason does, is put away, comes back when it is about something else."""

from django.urls import reverse

from practice.dispatch.models import State, Submission
from practice.returns.opening import open_return
from practice.returns.presence import note_presence
from practice.returns.tests.test_pages import PageTestCase
from practice.signing.locking import lock_figures
from practice.signing.needed import authorities_to_sign
from practice.signing.requesting import ask_for_signature, sign_in_office
from practice.tests.office import SIGNATURE


class NoticeTests(PageTestCase):
    def page(self):
        return self.get("papers")

    def put_away(self, key, **more):
        return self.client.post(reverse("put-notice-away", args=[self.return_.pk]), {"key": key, "back": "/"} | more)

    def test_a_quiet_return_has_none(self):
        self.assertNotContains(self.page(), "put away till")

    def test_somebody_else_in_it(self):
        note_presence(self.signer, self.return_)
        self.assertContains(self.page(), f"{self.signer.name} has this return open too")

    def test_a_newer_year_leads_there_and_can_be_put_away(self):
        newer = open_return(self.preparer, self.household.pk, 2026, [(self.client_person.pk, "taxpayer")])
        self.assertContains(self.page(), "There is already a 2026 return")
        self.assertContains(self.page(), reverse("papers", args=[newer.pk]))
        self.put_away(f"newer:{newer.pk}")
        self.assertNotContains(self.page(), "There is already a 2026 return")
        session = self.client.session
        session["opened"] = {}  # the next morning
        session.save()
        self.assertContains(self.page(), "There is already a 2026 return")

    def test_a_reviewers_initials_put_it_away_for_everybody(self):
        newer = open_return(self.preparer, self.household.pk, 2026, [(self.client_person.pk, "taxpayer")])
        self.assertEqual(self.put_away(f"newer:{newer.pk}", settle="1").status_code, 403)
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        self.put_away(f"newer:{newer.pk}", settle="1")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertNotContains(self.page(), "There is already a 2026 return")

    def test_signed_and_then_changed(self):
        ask_for_signature(self.signer, self.return_.pk)
        self.return_.refresh_from_db()
        for authority in authorities_to_sign(self.return_):
            sign_in_office(self.signer, self.return_.pk, self.client_person.pk, authority.code, SIGNATURE, "127.0.0.1", "41706")
        self.assertNotContains(self.page(), "signed and then changed")
        self.key("wages", "61000")
        self.assertContains(self.page(), "signed and then changed")

    def test_rejected_and_rejected_again(self):
        lock_figures(self.signer, self.return_.pk)
        snapshot = self.again().snapshot
        made = [
            Submission.objects.create(
                firm=self.firm, of=self.return_, authority="us", state=State.REJECTED, document=b"x", snapshot=snapshot,
                by=self.signer, receipt="R1",
            )
            for _ in range(2)
        ]  # fmt: skip
        self.assertContains(self.page(), "The IRS rejected this return")
        self.put_away(f"rejected:{made[0].pk}")
        self.assertContains(self.page(), "The IRS rejected this return")  # the newest is another one
        self.put_away(f"rejected:{made[1].pk}")
        self.assertNotContains(self.page(), "The IRS rejected this return")

    def test_law_that_was_updated_since_says_what_moved(self):
        self.return_.summary["law"] = "another"
        self.return_.summary["lines"][0]["amount"] = "500"
        self.return_.save()
        self.assertContains(self.page(), "Federal was 500, is 563")

    def test_another_firms_notices_are_not_there(self):
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.put_away("newer:1").status_code, 404)
