"""Documents are kept as long as the practice says, never shorter than the law, and then let go of for good."""

from datetime import date

from django.core.files.storage import default_storage
from django.urls import reverse

from practice.delivery import retaining
from practice.delivery.tests.test_printing import PrintTestCase
from practice.firm.models import Firm
from practice.firm.permissions import Refused
from practice.firm.refusals import Cannot
from practice.intake import attaching
from practice.intake.models import Attachment
from practice.intake.tasks import draw_pages
from practice.intake.tests.test_attaching import pdf
from practice.returns import rounds
from practice.returns.models import Round
from taxcore.engine import BadValue


class RetentionTests(PrintTestCase):
    def setUp(self):
        super().setUp()
        self.row = attaching.attach(self.preparer, self.return_.pk, self.paper.pk, "a.pdf", pdf(2))
        draw_pages(attachment_id=self.row.pk)
        self.row.refresh_from_db()
        self.printed = self.made()

    def in_year(self, year):
        """The practice lives in another year."""
        Firm.objects.filter(pk=self.firm.pk).update(training_day=date(year, 2, 10))
        self.signer = type(self.signer).objects.get(pk=self.signer.pk)
        self.again()

    def test_until_the_end_of_a_year_after_it_was_last_worked_on(self):
        self.assertEqual(retaining.keep_until(self.again()), date(2033, 12, 31))
        retaining.keep_for(self.signer, 3)
        self.return_.firm.refresh_from_db()
        self.assertEqual(retaining.keep_until(self.return_), date(2029, 12, 31))
        self.return_.stages["file"] = "2028-06-01"
        self.assertEqual(retaining.keep_until(self.return_), date(2031, 12, 31))

    def test_never_shorter_than_the_law_and_only_by_who_administers(self):
        for years in (2, 31, None):
            with self.subTest(years), self.assertRaises(BadValue):
                retaining.keep_for(self.signer, years)
        with self.assertRaises(Refused):
            retaining.keep_for(self.preparer, 7)

    def test_before_that_day_nothing_goes_and_afterwards_everything_that_is_no_figure(self):
        with self.assertRaisesRegex(Cannot, "until December 31, 2033"):
            retaining.forget(self.signer, self.return_.pk)
        self.in_year(2033)
        self.assertEqual(retaining.over(self.signer), [])
        self.in_year(2034)
        self.assertEqual(retaining.over(self.signer), [self.return_])
        picture = f"{self.row.file}.0.1"
        files = [self.row.file, picture, self.printed.file]
        self.assertTrue(all(default_storage.exists(name) for name in files))
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(retaining.forget(self.signer, self.return_.pk).says, "1 documents deleted")
        self.assertFalse(any(default_storage.exists(name) for name in files))
        self.assertEqual(retaining.over(self.signer), [])
        self.assertIsNotNone(self.again().snapshot_id)
        self.assertEqual(self.events("documents deleted").count(), 1)

    def test_pages_that_another_return_shows_stay(self):
        other = Attachment.objects.for_firm(self.firm).get(pk=self.row.pk)
        other.pk, other.token = None, "11111111-1111-4111-8111-111111111111"
        other.of = type(self.return_).objects.create(
            firm=self.firm, household=self.household, year=2026, preparer=self.preparer, due=date(2027, 4, 15)
        )
        other.save()
        self.in_year(2034)
        with self.captureOnCommitCallbacks(execute=True):
            retaining.forget(self.signer, self.return_.pk)
        self.assertTrue(default_storage.exists(self.row.file))
        self.assertTrue(default_storage.exists(f"{self.row.file}.0.1"))

    def test_the_page(self):
        self.in_year(2034)
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("retention")
        self.assertContains(self.client.post(page, {"years": "2"}), "3 to 30", status_code=422)
        self.client.post(page, {"years": "4"})
        self.assertContains(self.client.get(page), "Abernathy, Lorna")
        self.client.post(page, {"of": [self.return_.pk]})
        rounds.go_on(Round.objects.for_firm(self.firm).latest("pk").pk)
        self.assertContains(self.client.get(page), "No return’s documents")
        self.assertContains(self.client.get(reverse("documents", args=[self.household.pk])), "Kept until")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(page).status_code, 403)
