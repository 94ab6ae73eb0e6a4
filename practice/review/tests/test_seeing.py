"""Diagnostics put aside by reviewers: with a reason, apart from each other, back when what they are about changes."""

from django.urls import reverse

from practice.firm.permissions import Refused
from practice.returns.computing import result_of
from practice.returns.tests.test_pages import PageTestCase
from practice.review import seeing
from taxcore.engine import BadValue


class SeenTests(PageTestCase):
    def lay_out(self):
        super().lay_out()
        self.key("wages", "61500")  # the state wages stay at 61,480
        self.finding = next(one for one in result_of(self.again()).findings if "state wages" in one.says)

    def see(self, actor=None, reason="corrected statement to come"):
        return seeing.mark_seen(actor or self.reviewer, self.return_.pk, self.finding.code, self.finding.at[0], reason)

    def held(self):
        return_ = self.again()
        return [row.by.initials for rows in seeing.seen_in(return_, result_of(return_)).values() for row in rows]

    def test_it_is_put_aside_until_its_figures_change(self):
        self.see()
        self.key("federal_withheld", "5")
        self.assertEqual(self.held(), [self.reviewer.initials])
        self.key("wages", "61501")
        self.assertEqual(self.held(), [])

    def test_two_reviewers_see_apart(self):
        self.see()
        self.see(self.signer, "asked the client")
        self.assertEqual(set(self.held()), {self.reviewer.initials, self.signer.initials})

    def test_a_preparer_may_not_and_a_reason_is_needed(self):
        with self.assertRaises(Refused):
            self.see(self.preparer)
        with self.assertRaises(BadValue):
            self.see(reason=" ")

    def test_what_stops_filing_can_never_be_put_aside(self):
        self.key("employer_number", "")
        stop = next(one for one in result_of(self.again()).findings if one.weight == "stops")
        with self.assertRaisesRegex(BadValue, "cannot be set aside"):
            seeing.mark_seen(self.reviewer, self.return_.pk, stop.code, stop.at[0], "never mind")

    def test_review_lists_it_apart_with_who_and_why_and_keeps_what_was_refused(self):
        self.client.force_login(self.reviewer, "django.contrib.auth.backends.ModelBackend")
        url, body = reverse("mark-seen", args=[self.return_.pk]), {"code": self.finding.code, "at": self.finding.at[0]}
        self.assertContains(self.client.post(url, body | {"reason": " "}), "Enter a reason", status_code=422)
        page = self.client.post(url, body | {"reason": "corrected statement to come"}, follow=True)
        self.assertContains(page, "Set aside")
        self.assertContains(page, "corrected statement to come")
