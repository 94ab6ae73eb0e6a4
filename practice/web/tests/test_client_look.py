"""The client's look: what changed and why, what to do and when, a question about a figure."""

from django.core import mail
from django.urls import reverse

from practice.fees import billing
from practice.portal.models import PortalLink
from practice.portal.tasks import mail_code, mail_link
from practice.returns import computing
from practice.returns.entry import add_paper
from practice.returns.opening import open_return
from practice.review.telling import told
from practice.signing import locking
from practice.signing.requesting import ask_for_signature
from practice.tests.office import WAGES, OfficeTestCase


class ClientLookTests(OfficeTestCase):
    """This year 61,480 of wages; last year 51,480, with as much withheld."""

    def setUp(self):
        super().setUp()
        before = open_return(self.preparer, self.household.pk, 2024, [(self.client_person.pk, "taxpayer")])
        add_paper(self.preparer, before.pk, "w2", "taxpayer", WAGES | {"wages": "51480.00"})
        self.return_.refresh_from_db()
        if hasattr(self.return_, "mark_of_last_year"):
            del self.return_.mark_of_last_year
        computing.forget()

    def in_portal(self):
        link = PortalLink.objects.for_firm(self.firm).latest("pk")
        mail_link(link_id=link.pk)
        client = self.client_class()
        client.post(f"/portal/enter/{mail.outbox[-1].body.split('/portal/enter/')[1].split()[0]}")
        mail_code(link_id=link.pk)
        client.post("/portal/code", {"code": "".join(one for one in mail.outbox[-1].body if one.isdigit())[:6]})
        return client

    def test_three_sentences_from_the_lines_that_moved(self):
        says = {one.kind: one for one in told(self.again(), computing.result_of(self.return_))}
        self.assertEqual(says["income"].says, "Your income is $10,000 higher than in 2024.")
        self.assertEqual([(one.number, one.change) for one in says["income"].causes], [("1z", 10000)])
        self.assertTrue(says["tax"].says.startswith("The tax on it is $1,"))
        self.assertEqual(says["paid"].says, "What was withheld, paid and credited is the same as in 2024.")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("review-last-year", args=[self.return_.pk]))
        self.assertContains(page, "Your income is $10,000 higher than in 2024.")

    def test_the_portal_says_what_changed_and_takes_a_question_about_a_figure(self):
        locking.lock_figures(self.signer, self.return_.pk)
        ask_for_signature(self.preparer, self.return_.pk)
        client = self.in_portal()
        page = client.get("/portal/")
        self.assertContains(page, "Your income is $10,000 higher than in 2024.")
        self.assertLess(len(page.content), 150_000)
        asked = client.get(reverse("portal-messages"), {"about": "us.1040.24"})
        self.assertContains(asked, "About total tax (1040, line 24):")
        self.assertNotContains(client.get(reverse("portal-messages"), {"about": "us.1040.<b>"}), "About")

    def test_dates_for_the_clients_calendar(self):
        self.key("federal_withheld", "1000.00")
        locking.lock_figures(self.signer, self.return_.pk)
        draft = billing.drafted(self.preparer, self.return_.pk)
        billing.add_line(self.preparer, draft.pk, None, "The return", "1", "300")
        billing.send(self.preparer, draft.pk)
        ask_for_signature(self.preparer, self.return_.pk)
        client = self.in_portal()
        self.assertContains(client.get("/portal/"), "By April 15, 2026:")
        file = client.get(reverse("portal-dates")).content.decode()
        self.assertIn("DTSTART;VALUE=DATE:20260415", file)
        self.assertIn("SUMMARY:Pay Federal $4\\,", file)
        self.assertIn("SUMMARY:Pay invoice 2026-0001", file)

    def test_nothing_is_said_of_a_change_without_a_year_before(self):
        other = open_return(self.preparer, self.household.pk, 2023, [(self.client_person.pk, "taxpayer")])
        self.assertEqual(told(other, computing.result_of(other)), [])
