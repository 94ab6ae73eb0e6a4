"""What comes next on a return, as its household shows it."""

from django.urls import reverse

from practice.firm.models import Firm
from practice.returns.models import Stage
from practice.review.coming import coming
from practice.review.margin import add_note
from practice.tests.office import OfficeTestCase


class ComingTests(OfficeTestCase):
    def steps(self):
        return [(one.says, one.stops) for one in coming(self.again())]

    def test_what_stops_filing_comes_first_then_what_the_practice_wants(self):
        Firm.objects.filter(pk=self.firm.pk).update(lock_needs=["first", "points"])
        self.return_ = type(self.return_).objects.for_firm(self.firm).select_related("firm").get(pk=self.return_.pk)
        add_note(self.reviewer, self.return_.pk, "us.1040.1a", "All of it?", self.preparer.pk)
        self.key("employer_number", "")
        found = self.steps()
        self.assertEqual([stops for _, stops in found], [True, False, False])
        self.assertIn("The first review is not done", found[1][0])
        self.assertIn("All of it?", found[2][0])

    def test_with_nothing_left_it_is_locked_and_signed(self):
        self.assertEqual(self.steps(), [("Nothing stops filing: lock the return and request e-signatures.", False)])
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("household", args=[self.household.pk]))
        self.assertContains(page, "Next steps")
        self.assertContains(page, reverse("sign", args=[self.return_.pk]))

    def test_what_waits_for_others_says_so_and_what_is_done_is_silent(self):
        self.return_.stage, self.return_.state_note = Stage.SIGN, "1 of 2 signed"
        self.assertEqual([one.says for one in coming(self.return_)], ["Signatures: 1 of 2 signed"])
        self.return_.stage = Stage.DONE
        self.assertEqual(coming(self.return_), [])
