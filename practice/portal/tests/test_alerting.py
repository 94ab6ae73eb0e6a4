"""News for clients: only for those who asked, by mail or text, without an amount, once."""

from unittest import mock

import httpx
from django.core import mail
from django.urls import reverse

from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import State, Submission
from practice.portal import alerting, links
from practice.portal.models import Alert, PortalLink
from practice.portal.tasks import GatewayAway, alert
from practice.signing import locking
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


class AlertTests(OfficeTestCase):
    def setUp(self):
        super().setUp()
        self.snapshot = locking.lock_figures(self.signer, self.return_.pk)
        links.send_link(self.again(), self.client_person, "signature")
        self.link = PortalLink.objects.for_firm(self.firm).select_related("of", "client", "firm").get()

    def answered(self, state):
        row = Submission.objects.create(
            firm=self.firm, of=self.return_, snapshot=self.snapshot, authority="us", document=b"x", by=self.signer,
            state=State.SENT, receipt="R-1",
        )  # fmt: skip
        faults = [] if state == "accepted" else [{"rule": "A-0301", "message": "12,345 differs", "path": ""}]
        settle(row.pk, Answer(state, faults, {}))
        return Alert.objects.for_firm(self.firm)

    def test_who_asked_for_nothing_hears_nothing(self):
        self.assertEqual(self.answered("accepted").count(), 0)

    def test_by_mail(self):
        alerting.choose_news(self.link, "mail", "")
        row = self.answered("accepted").get()
        mail.outbox.clear()
        alert(alert_id=row.pk)
        alert(alert_id=row.pk)
        (sent,) = mail.outbox
        self.assertEqual(sent.body.strip(), "Larkspur Row Tax: the 2025 Federal return was accepted.")
        self.assertEqual(sent.to, ["lorna@abernathy.example"])

    def test_by_text_with_a_key_and_no_amount(self):
        alerting.choose_news(self.link, "text", "(815) 555-0142")
        row = self.answered("rejected").get()
        with mock.patch.object(httpx, "request", return_value=httpx.Response(200, json={"id": 1})) as post:
            alert(alert_id=row.pk)
            alert(alert_id=row.pk)
        self.assertEqual(post.call_count, 1)
        body = post.call_args.kwargs["json"]
        self.assertEqual((body["to"], body["text"]),
                         ("(815) 555-0142", "Larkspur Row Tax: the 2025 Federal return was sent back. We are looking into it."))  # fmt: skip
        self.assertIn(str(row.pk), body["key"])

    def test_a_gateway_that_is_away_or_refuses_is_tried_again(self):
        alerting.choose_news(self.link, "text", "8155550142")
        row = self.answered("accepted").get()
        for given in (
            {"side_effect": httpx.ConnectError("no")},
            {"return_value": httpx.Response(422, json={"error": "no number"})},
        ):
            with mock.patch.object(httpx, "request", **given), self.assertRaises(GatewayAway):
                alert(alert_id=row.pk)
        row.refresh_from_db()
        self.assertIsNone(row.sent_at)

    def test_what_cannot_be_chosen_says_why(self):
        for way, number, says in (("pigeon", "", "how"), ("text", "12", "mobile number"), ("text", "x" * 30, "mobile number")):
            with self.subTest(way), self.assertRaises(BadValue) as refused:
                alerting.choose_news(self.link, way, number)
            self.assertIn(says, refused.exception.says)
        self.client_person.email = ""
        self.client_person.save()
        with self.assertRaisesRegex(BadValue, "no email address"):
            alerting.choose_news(self.link, "mail", "")

    def test_in_the_portal(self):
        session = self.client.session
        session["portal"] = self.link.pk
        session.save()
        page = reverse("portal-news")
        self.assertContains(self.client.post(page, {"way": "text", "telephone": "12"}), "mobile number", status_code=422)
        self.client.post(page, {"way": "text", "telephone": "815-555-0142"})
        self.client_person.refresh_from_db()
        self.assertEqual((self.client_person.news, self.client_person.telephone), ("text", "815-555-0142"))
        self.assertEqual(self.events("news by").get().says, "by text message")
        self.client.post(page, {"way": ""})
        self.client_person.refresh_from_db()
        self.assertEqual(self.client_person.news, "")
