"""Plans on the client's page and in the portal: kept as they were, sent once, read by whom they are for."""

from django.urls import reverse

from practice.delivery import plan_sheets
from practice.delivery.models import PlanSheet
from practice.firm.permissions import NotOfThisFirm, Refused
from practice.firm.refusals import Cannot
from practice.portal.models import PortalLink
from practice.tests.office import OfficeTestCase
from practice.whatif import keeping, working


class PlanSheetTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        working.forget()
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.column = keeping.add(self.preparer, self.return_.pk, "Full time")
        self.household = self.return_.household

    def post(self, name, key, **given):
        return self.client.post(reverse(name, args=[key]), given, follow=True)

    def test_kept_on_the_clients_page_as_it_was(self):
        self.assertContains(self.post("keep-plans", self.return_.pk), "kept for the client as they are now")
        (sheet,) = plan_sheets.sheets_of(self.household)
        self.assertEqual((sheet.name, sheet.shared_at), ("Full time", None))
        keeping.remove(self.preparer, self.return_.pk, self.column.pk)
        page = self.client.get(reverse("household", args=[self.household.pk]))
        self.assertContains(page, "Plans kept for the client")
        answer = self.client.get(reverse("read-plans", args=[sheet.pk]))
        self.assertEqual((answer.content[:5], answer["Content-Type"]), (b"%PDF-", "application/pdf"))
        self.assertEqual(self.events("plans read").count(), 1)
        self.assertContains(self.post("keep-plans", self.return_.pk), "Add a column first")

    def test_sent_to_the_portal_once_and_taken_there(self):
        self.post("keep-plans", self.return_.pk, share="yes")
        (sheet,) = plan_sheets.sheets_of(self.household)
        self.post("share-plans", sheet.pk)
        link = PortalLink.objects.for_firm(self.firm).get(of=self.return_, purpose="plans")
        self.client.logout()
        session = self.client.session
        session["portal"] = link.pk
        session.save()
        self.assertContains(self.client.get(reverse("portal")), "Nothing of it is filed")
        self.assertEqual(self.client.get(reverse("portal-plans", args=[sheet.pk])).content[:5], b"%PDF-")
        self.assertEqual(self.events("plans downloaded").count(), 1)
        self.assertEqual(self.client.get(reverse("portal-plans", args=[sheet.pk + 1])).status_code, 404)

    def test_what_was_not_sent_is_not_in_the_portal(self):
        sheet = plan_sheets.keep(self.preparer, self.return_.pk, b"%PDF-1")
        self.assertFalse(plan_sheets.shared_of(self.return_).filter(pk=sheet.pk).exists())
        self.client_person.email = ""
        self.client_person.save()
        with self.assertRaisesRegex(Cannot, "email address"):
            plan_sheets.share(self.preparer, sheet.pk)

    def test_who_may(self):
        with self.assertRaises(Refused):
            plan_sheets.keep(self.reviewer, self.return_.pk, b"%PDF-1")
        with self.assertRaises(NotOfThisFirm):
            plan_sheets.keep(self.stranger, self.return_.pk, b"%PDF-1")
        sheet = plan_sheets.keep(self.preparer, self.return_.pk, b"%PDF-1")
        with self.assertRaises(Refused):
            plan_sheets.share(self.reviewer, sheet.pk)
        with self.assertRaises(NotOfThisFirm):
            plan_sheets.share(self.stranger, sheet.pk)
        self.assertNotIn(b"%PDF", PlanSheet.objects.for_firm(self.firm).get().file.encode())
