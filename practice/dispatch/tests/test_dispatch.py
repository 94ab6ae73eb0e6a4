"""Sending, polling, retries and answers, with the conversation itself replaced; the real one runs in ops/tests."""

import re
from datetime import timedelta
from unittest import mock

from django.db import IntegrityError, transaction
from django.urls import reverse
from django.utils import timezone

from practice.dispatch import filing, tasks
from practice.dispatch.authority_client import Answer, AuthorityAway
from practice.dispatch.models import State, Submission
from practice.firm.crypto import unseal_bytes
from practice.firm.jobs import make_lost_again
from practice.signing import locking, requesting
from practice.tests.office import SIGNATURE, OfficeTestCase

FAULT = {
    "rule": "E-0301",
    "message": "The employer number is not in the register.",
    "path": "/Return/Papers/WageStatement[@id='w1']/EmployerNumber",
}


class DispatchTestCase(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        requesting.ask_for_signature(self.signer, self.return_.pk)
        for authority in ("us", "us-il"):
            requesting.sign_in_office(
                self.administrator, self.return_.pk, self.client_person.pk, authority, SIGNATURE, None, "41706"
            )

    def file(self):
        return filing.file_return(self.signer, self.return_.pk)

    def state(self, authority):
        return self.return_.submissions.filter(authority=authority).order_by("-id").first()

    def send(self, submission, **how):
        with mock.patch.object(tasks, "hand_in", **(how or {"return_value": "R-1"})) as handed:
            tasks.send(submission.pk)
        return handed

    def answer(self, submission, answer):
        with mock.patch.object(tasks, "ask", return_value=answer):
            tasks.poll(submission.pk)


class FilingTests(DispatchTestCase):
    def test_the_federal_return_goes_first_and_the_state_waits(self):
        self.file()
        self.assertEqual((self.state("us").state, self.state("us-il").state), (State.QUEUED, State.WAITING))

    def test_filing_twice_files_once(self):
        self.file()
        self.assertEqual(self.file(), [])
        self.assertEqual(self.return_.submissions.count(), 2)

    def test_the_database_holds_one_live_submission(self):
        submission = self.file()[0]
        with self.assertRaises(IntegrityError), transaction.atomic():
            Submission.objects.create(
                firm=self.firm, of=self.return_, snapshot=submission.snapshot, authority="us", document=b"", by=self.signer
            )

    def test_nothing_goes_out_unsigned(self):
        self.key("federal_withheld", "1")
        with self.assertRaisesRegex(filing.CannotFile, "not locked"):
            self.file()
        requesting.ask_for_signature(self.signer, self.return_.pk)
        with self.assertRaisesRegex(filing.CannotFile, "has not signed for Federal"):
            self.file()

    def test_the_document_carries_the_signed_hash(self):
        submission = self.file()[0]
        document = unseal_bytes(submission.document).decode()
        self.assertIn(submission.snapshot.hash, document)
        self.assertNotIn("921-17", bytes(submission.document).decode())


class SendingTests(DispatchTestCase):
    def lay_out(self):
        super().lay_out()
        self.submission = self.file()[0]

    def test_a_lost_answer_is_tried_again_with_the_same_key(self):
        first = self.send(self.submission, side_effect=AuthorityAway("it answered 504"))
        self.submission.refresh_from_db()
        self.assertEqual((self.submission.state, self.submission.tries), (State.QUEUED, 1))
        self.assertIn("504", self.submission.trouble)
        second = self.send(self.submission)
        self.assertEqual(first.call_args.args[2], second.call_args.args[2])
        self.submission.refresh_from_db()
        self.assertEqual((self.submission.state, self.submission.receipt), (State.SENT, "R-1"))

    def test_sending_what_was_sent_does_nothing(self):
        self.send(self.submission)
        self.assertFalse(self.send(self.submission).called)

    def test_pauses_grow_and_end(self):
        self.assertEqual([tasks.pause(tries) for tries in (1, 2, 5, 30)], [2, 4, 32, 900])

    def test_jobs_that_died_with_their_worker_are_made_again(self):
        _submissions = Submission.objects.for_firm(self.firm)
        _submissions.filter(pk=self.submission.pk).update(made_at=timezone.now() - timedelta(minutes=2))
        with mock.patch.object(tasks.send, "ask") as asked:
            make_lost_again()
        asked.assert_called_once_with(submission_id=self.submission.pk, kind="return")


class AnswerTests(DispatchTestCase):
    def lay_out(self):
        super().lay_out()
        self.submission = self.file()[0]
        self.send(self.submission)

    def test_pending_changes_nothing(self):
        self.answer(self.submission, Answer("pending"))
        self.assertEqual(self.state("us").state, State.SENT)

    def test_accepted_lets_the_state_go_and_then_the_package(self):
        self.answer(self.submission, Answer("accepted", raw={"state": "accepted"}))
        state = self.state("us-il")
        self.assertEqual(state.state, State.QUEUED)
        self.send(state, return_value="R-2")
        self.answer(state, Answer("accepted", raw={}))
        self.assertEqual((self.again().stage, self.return_.state_note), ("deliver", "to deliver"))

    def test_an_answer_is_settled_once(self):
        for _ in range(2):
            self.answer(self.submission, Answer("accepted", raw={}))
        self.assertEqual(self.events("accepted").count(), 1)

    def test_rejected_leads_to_the_field_and_after_mending_goes_again(self):
        self.answer(self.submission, Answer("rejected", [FAULT], {}))
        self.assertEqual((self.state("us").state, self.state("us-il").state), (State.REJECTED, State.WITHDRAWN))
        self.assertEqual(self.again().state_note, "rejected")
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = self.client.get(reverse("dispatch")).content.decode()
        self.assertIn(f"/returns/{self.return_.pk}/at?at=us.w2%5Bw", page)
        where = self.client.get(re.search(r'href="([^"]*/at[?]at=[^"]*)"', page)[1])
        self.assertTrue(where.url.endswith(f"/papers/{self.paper.pk}#f-{self.paper.pk}-employer_number"), where.url)
        self.key("employer_number", "00-2905518")
        locking.lock_figures(self.signer, self.return_.pk)
        again = self.file()  # the corrected number moved no signed figure: both signatures stand
        self.assertEqual(len(again), 2)
        self.assertNotEqual(again[0].key, self.submission.key)

    def test_a_long_list_has_pages_that_keep_filter_and_order(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        with mock.patch("practice.dispatch.views._PAGE", 1):
            page = self.client.get(reverse("dispatch"), {"q": "Abernathy", "sort": "authority"}).content.decode()
            self.assertIn("1 to 1 of 2", page)
            following = re.search(r'href="([?][^"]*page=2[^"]*)"', page)[1].replace("&amp;", "&")
            self.assertEqual(following, "?q=Abernathy&sort=authority&page=2")
            self.assertContains(self.client.get(f"{reverse('dispatch')}{following}"), "2 to 2 of 2")

    def test_lists_leave_as_csv_and_xlsx(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.assertIn("Abernathy", self.client.get(reverse("dispatch"), {"as": "csv"}).getvalue().decode())
        self.assertEqual(self.client.get(reverse("dispatch"), {"as": "xlsx"}).content[:2], b"PK")
