"""Review: findings lead to their place, mends are ordinary changes, returns are handed over."""

from django.urls import reverse

from practice.firm.permissions import Refused
from practice.returns.entry import add_paper
from practice.review import handing
from practice.tests.office import WAGES, OfficeTestCase


class ReviewPageTests(OfficeTestCase):
    def page(self, actor=None):
        self.client.force_login(actor or self.preparer, "django.contrib.auth.backends.ModelBackend")
        return self.client.get(reverse("review", args=[self.return_.pk]))

    def test_a_finding_leads_to_its_field(self):
        self.key("employer_number", "")
        self.assertContains(self.page(), f"/papers/{self.paper.pk}#f-{self.paper.pk}-employer_number")

    def test_a_finding_about_a_paper_that_is_not_there_offers_to_add_it(self):
        self.assertContains(self.page(), 'name="kind" value="il-questions"')

    def test_diagnostics_leave_as_csv(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        listed = self.client.get(reverse("review", args=[self.return_.pk]), {"as": "csv"}).getvalue().decode()
        self.assertIn("Illinois questions", listed)

    def test_a_mend_is_an_ordinary_keyed_change(self):
        _, paper = add_paper(self.preparer, self.return_.pk, "w2", "taxpayer", WAGES | {"wages": "5.00"})
        paper.values["owner"] = "spouse"  # as a spouse leaves it who was taken off the return
        paper.save()
        type(self.return_).objects.for_firm(self.firm).filter(pk=self.return_.pk).update(version=99)
        self.assertContains(self.page(), "Give it to the taxpayer")
        form = {"code": "us.owner-not-on-return", "at": f"us.w2[{paper.key}].owner"}
        self.client.post(reverse("mend", args=[self.return_.pk]), form)
        paper.refresh_from_db()
        self.assertEqual(paper.values["owner"], "taxpayer")
        self.assertEqual(paper.changes.get(path="owner").by, self.preparer)

    def test_an_override_is_listed_with_its_reason(self):
        from practice.returns.overriding import set_override

        set_override(self.preparer, self.return_.pk, "us.1040.16", 5_200, "letter of 3 March")
        self.assertContains(self.page(), "letter of 3 March")


class HandingTests(OfficeTestCase):
    def test_to_a_reviewer_it_goes_to_be_looked_at_and_back_to_be_keyed(self):
        handing.hand_over(self.preparer, self.return_.pk, self.reviewer.pk)
        self.assertEqual((self.again().stage, self.return_.waiting_for), ("review", self.reviewer))
        handing.hand_over(self.reviewer, self.return_.pk, self.preparer.pk)
        self.assertEqual((self.again().stage, self.return_.state_note), ("prepare", "handed back"))

    def test_not_by_those_who_neither_key_nor_review_and_not_to_strangers(self):
        with self.assertRaises(Refused):
            handing.hand_over(self.administrator, self.return_.pk, self.reviewer.pk)
        with self.assertRaises(handing.CannotHand):
            handing.hand_over(self.preparer, self.return_.pk, self.stranger.pk)
