"""Locking, voiding, identity, signatures; what is frozen stays what was signed."""

from unittest import mock

import httpx
from django.core.files.storage import default_storage
from django.db import DatabaseError, transaction
from django.urls import reverse
from pypdf import PdfReader

from practice.dispatch.models import State, Submission
from practice.firm.crypto import unseal_bytes
from practice.returns import frozen
from practice.returns.changing import Settled
from practice.returns.models import Snapshot
from practice.signing import locking, needed, requesting
from practice.signing.comparing import corrections
from practice.signing.tasks import make_authorization
from practice.tests.office import SIGNATURE, OfficeTestCase


class SignersTests(OfficeTestCase):
    def test_nobody_who_must_sign_is_left_out(self):
        from django.urls import reverse

        from practice.returns.entry import add_spouse

        _, spouse = add_spouse(self.preparer, self.return_.pk)
        self.key("status", "joint", paper=self.return_.papers.get(kind="filing"))
        for name, value in {"first_name": "Wren", "number": "913228046", "birth_date": "1/5/1980"}.items():
            self.key(name, value, paper=spouse)
        spouse.refresh_from_db()
        spouse.person = None
        spouse.save()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        answer = self.client.post(reverse("ask-signature", args=[self.return_.pk]))
        self.assertContains(answer, "The spouse is not a client yet", status_code=409)


class LockingTests(OfficeTestCase):
    def test_a_locked_return_has_a_hash_of_what_was_frozen(self):
        snapshot = locking.lock_figures(self.signer, self.return_.pk)
        kept = frozen.content_of(snapshot)
        self.assertEqual(kept["result"]["lines"]["us.1040.16"], "5249")
        self.assertEqual(len(snapshot.hash), 64)
        self.assertNotIn(b"61480", bytes(snapshot.content))

    def test_locking_twice_is_one_snapshot(self):
        one, other = (locking.lock_figures(self.signer, self.return_.pk) for _ in range(2))
        self.assertEqual(one.pk, other.pk)

    def test_the_same_figures_have_the_same_hash(self):
        first = locking.lock_figures(self.signer, self.return_.pk).hash
        self.key("control_number", "7")
        self.key("control_number", "")
        self.assertEqual(locking.lock_figures(self.signer, self.return_.pk).hash, first)

    def test_what_stops_filing_stops_locking(self):
        self.key("employer_number", "")
        with self.assertRaises(locking.StillStopped) as caught:
            locking.lock_figures(self.signer, self.return_.pk)
        self.assertEqual(caught.exception.findings[0].code, "us.w2.employer-number-missing")

    def test_the_database_refuses_to_change_a_snapshot(self):
        locking.lock_figures(self.signer, self.return_.pk)
        with self.assertRaises(DatabaseError), transaction.atomic():
            Snapshot.objects.for_firm(self.firm).update(hash="0" * 64)

    def test_a_tampered_snapshot_is_noticed(self):
        snapshot = locking.lock_figures(self.signer, self.return_.pk)
        snapshot.hash = "0" * 64
        with self.assertRaises(ValueError):
            frozen.content_of(snapshot)


class SigningTestCase(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        self.asked = requesting.ask_for_signature(self.signer, self.return_.pk)[0]

    def sign(self, authority="us", image=SIGNATURE):
        return requesting.sign_in_office(
            self.administrator, self.return_.pk, self.client_person.pk, authority, image, "127.0.0.1", "41706"
        )

    def sign_all(self):
        self.sign("us")
        return self.sign("us-il")


class SignatureTests(SigningTestCase):
    def test_each_authority_has_its_own_signature_and_the_last_one_moves_the_return_on(self):
        self.sign("us")
        self.assertEqual(self.again().state_note, "1 of 2 signed")
        self.sign("us-il")
        self.assertEqual((self.again().stage, self.return_.state_note), ("file", "to send"))

    def test_a_signature_is_taken_once(self):
        self.sign()
        with self.assertRaisesRegex(requesting.CannotSign, "signed already"):
            self.sign()

    BAD_IMAGES = [("nothing", ""), ("no picture", "data:image/png;base64,aGVsbG8="), ("not base64", "data:image/png;base64,***")]

    def test_an_image_that_is_none_is_refused(self):
        for why, image in self.BAD_IMAGES:
            with self.subTest(why), self.assertRaises(requesting.CannotSign):
                self.sign(image=image)

    def test_an_empty_canvas_is_refused(self):
        import base64
        import io

        from PIL import Image

        made = io.BytesIO()
        Image.new("RGBA", (300, 100), (0, 0, 0, 0)).save(made, "PNG")
        with self.assertRaisesRegex(requesting.CannotSign, "empty"):
            self.sign(image="data:image/png;base64," + base64.b64encode(made.getvalue()).decode())

    def test_the_authorisation_carries_the_hash_and_is_kept_encrypted(self):
        signature = self.sign()
        make_authorization(signature.pk)
        signature.refresh_from_db()
        with default_storage.open(signature.pdf) as stored:
            content = stored.read()
        self.assertNotIn(b"%PDF", content)
        import io

        text = PdfReader(io.BytesIO(unseal_bytes(content))).pages[0].extract_text()
        self.assertIn(signature.snapshot.hash, text.replace("\n", ""))
        self.assertIn("witnessed by Amos Pell", text)

    def test_any_change_voids_signatures_and_says_so(self):
        self.sign_all()
        self.key("wages", "62480.00")
        self.again()
        self.assertIsNone(self.return_.snapshot_id)
        self.assertEqual(self.return_.signatures.filter(voided_at=None).count(), 0)
        self.assertEqual((self.return_.stage, self.return_.state_note), ("prepare", "changed after signing"))
        self.assertEqual(self.events("signatures void").count(), 1)

    def test_only_the_authority_whose_figure_moved_is_signed_again(self):
        self.sign_all()
        self.key("federal_withheld", "5912.00")
        self.assertEqual([one.authority for one in self.again().signatures.filter(voided_at=None)], ["us-il"])
        requesting.ask_for_signature(self.signer, self.return_.pk)
        self.assertEqual([one.code for *_, one in needed.missing_signatures(self.again())], ["us"])

    NOT_SIGNED_FIGURES = [("employer_street", "5 Slipway"), ("employer_number", "00-2905518"), ("federal_withheld", "5819.00")]

    def test_what_moves_no_signed_figure_voids_nothing_and_is_shown(self):
        signed = self.sign_all().snapshot
        for path, value in self.NOT_SIGNED_FIGURES:  # 7 more withheld is within the 14 of Pub. 1345
            with self.subTest(path):
                self.key(path, value)
                self.assertEqual(self.again().signatures.filter(voided_at=None).count(), 2)
                self.assertEqual((self.return_.snapshot_id, self.return_.state_note), (None, "changed, signatures stand"))
                locking.lock_figures(self.signer, self.return_.pk)
                self.assertEqual(self.again().stage, "file")
        found = corrections(self.again())
        self.assertEqual((found.signed, found.locked), (signed.hash, self.return_.snapshot.hash))
        self.assertEqual([after for _, _, after in found.changes], ["00-2905518", "5 Slipway", "5819.00"])
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "no signed amount changed")

    def test_who_examined_the_return_examines_it_again_when_its_words_changed(self):
        requesting.note_read(self.asked.pk, self.client_person)
        self.key("employer_street", "5 Slipway")
        self.assertIsNotNone(type(self.asked).objects.for_firm(self.firm).get(pk=self.asked.pk).read_at)
        locking.lock_figures(self.signer, self.return_.pk)
        self.asked.refresh_from_db()
        self.assertEqual((self.asked.voided_at, self.asked.read_at), (None, None))

    def test_small_moves_add_up_to_one_that_voids(self):
        self.sign_all()
        for withheld in ("5822.00", "5832.00"):
            self.key("federal_withheld", withheld)
        self.assertEqual([one.authority for one in self.again().signatures.filter(voided_at=None)], ["us-il"])

    def test_a_save_that_changes_nothing_voids_nothing(self):
        self.sign_all()
        self.key("federal_withheld", "5812.00")
        self.assertIsNotNone(self.again().snapshot_id)

    def test_an_old_request_cannot_sign_new_figures(self):
        self.key("wages", "62480.00")
        locking.lock_figures(self.signer, self.return_.pk)
        with self.assertRaises(requesting.SignatureRequest.DoesNotExist):
            requesting.sign_in_portal(self.client_person, self.asked.pk, "us", SIGNATURE, None, "41706")


class IdentityTests(SigningTestCase):
    def answer(self, *replies):
        return mock.patch.object(httpx, "request", side_effect=[httpx.Response(200, json=reply) for reply in replies])

    def test_nobody_signs_in_the_portal_before_proving_identity(self):
        with self.assertRaisesRegex(requesting.CannotSign, "questions"):
            requesting.sign_in_portal(self.client_person, self.asked.pk, "us", SIGNATURE, None, "41706")

    def test_right_answers_open_the_canvas(self):
        with self.answer({"id": "c", "questions": []}, {"passed": True, "tries_left": 0}):
            requesting.begin_identity_check(self.asked.pk, self.client_person)
            requesting.answer_identity_check(self.asked.pk, self.client_person, {})
        with self.assertRaisesRegex(requesting.CannotSign, "Review the whole return"):
            requesting.sign_in_portal(self.client_person, self.asked.pk, "us", SIGNATURE, "127.0.0.1", "41706")
        requesting.note_read(self.asked.pk, self.client_person)
        for pin in ("", "1234", "00000", "1234x", "١٢٣٤٥"):
            with self.assertRaisesRegex(requesting.CannotSign, "five digits"):
                requesting.sign_in_portal(self.client_person, self.asked.pk, "us", SIGNATURE, "127.0.0.1", pin)
        requesting.sign_in_portal(self.client_person, self.asked.pk, "us", SIGNATURE, "127.0.0.1", "41706")
        self.assertEqual(self.return_.signatures.get().pin, "41706")
        self.assertEqual(self.return_.signatures.get().manner, "portal")

    def test_a_second_wrong_answer_ends_it(self):
        replies = ({"id": "c", "questions": []}, {"passed": False, "tries_left": 1}, {"passed": False, "tries_left": 0})
        with self.answer(*replies):
            requesting.begin_identity_check(self.asked.pk, self.client_person)
            self.assertIsNone(requesting.answer_identity_check(self.asked.pk, self.client_person, {}).identity_failed_at)
            self.assertIsNotNone(requesting.answer_identity_check(self.asked.pk, self.client_person, {}).identity_failed_at)
        with self.assertRaisesRegex(requesting.CannotSign, "call the office"):
            requesting.begin_identity_check(self.asked.pk, self.client_person)
        self.assertEqual(self.events("identity not verified").count(), 2)

    def test_a_service_that_is_away_loses_nothing(self):
        with mock.patch.object(httpx, "request", side_effect=httpx.ConnectError("no")), self.assertRaises(requesting.ServiceAway):
            requesting.begin_identity_check(self.asked.pk, self.client_person)


class SettledTests(SigningTestCase):
    def submission(self, state, authority="us"):
        return Submission.objects.create(
            firm=self.firm, of=self.return_, snapshot=self.again().snapshot, authority=authority, document=b"x", by=self.signer,
            state=state, receipt="R-1",
        )  # fmt: skip

    def test_a_return_on_its_way_cannot_be_changed(self):
        self.submission(State.SENT)
        with self.assertRaisesRegex(Settled, "being filed"):
            self.key("wages", "1")

    def test_an_accepted_return_wants_an_amended_one(self):
        self.submission(State.ACCEPTED)
        with self.assertRaisesRegex(Settled, "amended"):
            self.key("wages", "1")

    def test_while_the_state_is_mended_the_accepted_federal_figures_stay(self):
        self.submission(State.ACCEPTED)
        self.submission(State.REJECTED, "us-il")
        with self.assertRaisesRegex(Settled, "was accepted and would change"):
            self.key("wages", "62000")
        self.key("states.1.withheld", "3000.00", was="3043.26")
