"""How a return goes: electronically, on paper with a reason and an address, held; and what follows from having mailed it."""

import io
import re
from collections import Counter
from datetime import date

from django.urls import reverse
from pypdf import PdfReader

from practice.delivery import packaging, printing
from practice.delivery.models import Printed
from practice.delivery.tasks import build, print_set
from practice.dispatch import filing, posting
from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import Answer
from practice.dispatch.models import Route, State, Submission
from practice.firm.permissions import Refused
from practice.returns import amending
from practice.returns.amending import amend
from practice.returns.changing import Settled
from practice.returns.computing import result_of
from practice.signing.tests.test_signing import SigningTestCase
from taxcore.engine import BadValue
from taxcore.packs.us.base import STATES
from taxcore.packs.us.outgoing import _mailing

PAPER = {
    "way": "paper",
    "reason": "chosen",
    "note": "Statement of February 10, 2026",
    "mail_to": "Internal Revenue Service\nKansas City, MO 64999-0002",
}


class PostingTestCase(SigningTestCase):
    def lay_out(self):
        super().lay_out()
        self.sign_all()

    def choose(self, code="us", actor=None, **given):
        return posting.choose(actor or self.signer, self.return_.pk, code, PAPER | given)

    def states(self):
        return dict(self.again().submissions.order_by("pk").values_list("authority", "state"))

    def mail(self, code="us", day="2/10/2026", how="certified 70191120"):
        row = self.return_.submissions.get(authority=code, state=State.TO_MAIL)
        return posting.mailed(self.signer, row.pk, day, how)

    def accept(self, code):
        row = Submission.objects.for_firm(self.firm).get(of=self.return_, authority=code, state=State.QUEUED)
        row.state, row.receipt = State.SENT, "R-1"
        row.save()
        settle(row.pk, Answer("accepted", (), {}))


class WayTests(PostingTestCase):
    def test_a_reason_of_the_law_with_what_it_needs_and_an_address(self):
        cases = [
            ({"way": "pigeon"}, "filing method"), ({"reason": "boredom"}, "reason for paper filing"),
            ({"reason": "rejected", "note": ""}, "code of the rejection"),
            ({"note": ""}, "signed statement"), ({"mail_to": " "}, "Where is it mailed"),
            ({"way": "held", "note": ""}, "Why is it held"), ({"note": "x" * 201}, "longer"),
        ]  # fmt: skip
        for given, says in cases:
            with self.subTest(says), self.assertRaises(BadValue) as refused:
                self.choose(**given)
            self.assertIn(says, refused.exception.says)
        with self.assertRaises(BadValue):
            self.choose("us-zz")
        with self.assertRaises(Refused):
            self.choose(actor=self.preparer)
        self.assertFalse(Route.objects.for_firm(self.firm).exists())

    def test_one_goes_on_paper_and_the_other_waits_for_it_and_goes_electronically(self):
        self.choose()
        filing.file_return(self.signer, self.return_.pk)
        self.assertEqual(self.states(), {"us": "to mail", "us-il": "waiting"})
        self.mail()
        self.assertEqual(self.states(), {"us": "mailed", "us-il": "queued"})
        self.accept("us-il")
        self.assertEqual(self.again().stage, "deliver")

    def test_the_day_of_mailing_is_checked_and_kept_once(self):
        self.choose()
        filing.file_return(self.signer, self.return_.pk)
        for day, says in (("", "Enter the day"), ("2/11/2026", "future"), ("2/9/2026", "not ready"), ("x", "")):
            with self.subTest(day), self.assertRaises(BadValue) as refused:
                self.mail(day=day)
            self.assertIn(says, refused.exception.says)
        row = self.mail()
        self.assertEqual((row.mailed_on, row.mailed_as), (date(2026, 2, 10), "certified 70191120"))
        posting.mailed(self.signer, row.pk, "2/10/2026", "again")
        row.refresh_from_db()
        self.assertEqual(row.mailed_as, "certified 70191120")
        with self.assertRaisesRegex(Settled, "on its way there already"):
            self.choose(way="electronic")
        with self.assertRaises(Settled):
            posting.mailed(self.signer, self.return_.submissions.get(authority="us-il").pk, "2/10/2026", "")

    def test_what_is_held_is_not_sent_and_keeps_the_return_from_being_delivered(self):
        self.choose("us-il", way="held", note="Waits for the part-year statement")
        filing.file_return(self.signer, self.return_.pk)
        self.assertEqual(self.states(), {"us": "queued"})
        self.accept("us")
        self.assertEqual(self.again().stage, "file")
        with self.assertRaisesRegex(Settled, "was accepted and would change"):
            self.key("wages", "62480.00")
        with self.assertRaisesRegex(filing.CannotFile, "US-IL is held: Waits for the part-year"):
            filing.file_return(self.signer, self.return_.pk)
        self.choose("us-il", way="electronic")
        filing.file_return(self.signer, self.return_.pk)
        self.accept("us-il")
        self.assertEqual(self.again().stage, "deliver")

    def test_another_way_makes_what_waited_behind_it_anew(self):
        self.choose()
        filing.file_return(self.signer, self.return_.pk)
        self.choose(way="electronic")
        self.assertEqual(set(self.states().values()), {"withdrawn"})
        self.assertEqual(self.return_.state_note, "to send")
        filing.file_return(self.signer, self.return_.pk)
        self.assertEqual(self.states(), {"us": "queued", "us-il": "waiting"})

    def test_a_printed_one_that_was_not_mailed_can_still_be_changed(self):
        self.choose()
        filing.file_return(self.signer, self.return_.pk)
        self.key("wages", "62480.00")
        self.assertEqual(set(self.states().values()), {"withdrawn"})

    def test_once_mailed_it_is_changed_by_a_correction_that_says_so(self):
        for code in ("us", "us-il"):
            self.choose(code)
        filing.file_return(self.signer, self.return_.pk)
        for code in ("us", "us-il"):
            self.mail(code)
        with self.assertRaisesRegex(Settled, "was mailed"):
            self.key("wages", "1")
        correction = amend(self.preparer, self.return_.pk)
        self.assertEqual(correction.origin.amends["accepted"]["us"]["receipt"], amending.ON_PAPER)

    def test_the_package_says_when_it_was_mailed(self):
        for code in ("us", "us-il"):
            self.choose(code)
        filing.file_return(self.signer, self.return_.pk)
        for code in ("us", "us-il"):
            self.mail(code)
        package = packaging.make_package(self.signer, self.return_.pk)
        build(package_id=package.pk)
        from practice.delivery.tasks import read_package

        package.refresh_from_db()
        words = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(read_package(package))).pages)
        self.assertIn("mailed February 10, 2026", re.sub(r"\s+", " ", words))

    def test_a_practice_without_its_numbers_files_nothing_electronically(self):
        self.firm.training = False
        self.firm.efin = self.firm.originator_pin = ""
        self.firm.save()
        with self.assertRaisesRegex(filing.CannotFile, "no EFIN"):
            filing.file_return(self.signer, self.return_.pk)


class PrintedTests(PostingTestCase):
    def printed(self, code):
        made = printing.ask_paper(self.signer, self.return_.pk, code)
        print_set(printed_id=made.pk)
        made = Printed.objects.for_firm(self.firm).select_related("set", "of").get(pk=made.pk)
        words = " ".join(page.extract_text() for page in PdfReader(io.BytesIO(printing.read(made))).pages)
        return re.sub(r"\s+", " ", words)

    def test_the_envelope_has_the_address_the_explanation_the_forms_and_a_page_to_sign(self):
        self.choose(reason="rejected", note="A-0301, three tries")
        words = self.printed("us")
        for said in ("Kansas City, MO 64999-0002", "921-17-5580", "In place of Form 8948", "A-0301, three tries", "Sign here",
                     "Lorna Abernathy", "Paid preparer", "postmark"):  # fmt: skip
            self.assertIn(said, words)
        self.assertNotIn("IL-1040", words)
        self.choose("us-il")
        state = self.printed("us-il")
        self.assertIn("IL-1040", state)
        self.assertNotIn("8948", state)

    def test_only_what_goes_on_paper_is_printed_so(self):
        from practice.firm.refusals import Cannot

        with self.assertRaisesRegex(Cannot, "on paper"):
            printing.ask_paper(self.signer, self.return_.pk, "us")
        self.assertNotIn(printing.PAPER, [one.name for one in printing.listed(self.firm)])


class PageTests(PostingTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.page = reverse("filing", args=[self.return_.pk])

    def test_what_each_wants_and_how_it_goes(self):
        self.assertContains(self.client.get(self.page), "1 of 1")
        requested = self.client.get(self.page)
        self.assertContains(requested, "Kansas City, MO 64999-0002")  # suggested for somebody in Illinois with nothing enclosed
        self.assertContains(requested, "Federal accepted first")
        way = reverse("filing-way", args=[self.return_.pk, "us"])
        refused = self.client.post(way, PAPER | {"of": "us", "mail_to": ""})
        self.assertContains(refused, "Where is it mailed", status_code=422)
        self.client.post(way, PAPER | {"of": "us"})
        self.assertContains(self.client.get(self.page), "The taxpayer chose to file on paper")
        self.client.post(reverse("file", args=[self.return_.pk]))
        self.assertContains(self.client.get(self.page), "Record mailing")
        self.client.post(reverse("print-paper", args=[self.return_.pk, "us"]))
        self.assertContains(self.client.get(reverse("print-sets", args=[self.return_.pk])), printing.PAPER)
        row = self.return_.submissions.get(authority="us")
        mailed = reverse("mailed", args=[self.return_.pk, row.pk])
        self.assertContains(self.client.post(mailed, {"day": "soon"}), "soon", status_code=422)
        self.client.post(mailed, {"day": "2/10/2026", "how": "certified"})
        self.assertContains(self.client.get(self.page), "Mailed Feb 10, 2026, certified")
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "mailed")

    def test_strangers_see_nothing(self):
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(self.page).status_code, 404)
        self.assertEqual(self.client.post(reverse("filing-way", args=[self.return_.pk, "us"]), PAPER).status_code, 404)

    def test_addresses_by_state_and_payment(self):
        mail_to = result_of(self.return_).run.pack.outgoing.mail_to
        self.assertIn("Austin", mail_to("us", "TX", False).lines[-1])
        self.assertIn("Louisville", mail_to("us", "IL", True).lines[-1])
        self.assertIsNone(mail_to("us", "GU", False))
        self.assertIsNone(mail_to("us-ga", "GA", False))

    def test_every_state_is_on_one_row(self):
        found = Counter(state for row in _mailing()["us"]["rows"] for state in row["regions"])
        self.assertEqual(set(found.values()), {1})
        self.assertLessEqual(set(found), set(STATES))
        self.assertEqual(len(found), 51)
