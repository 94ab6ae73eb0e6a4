"""What was locked does not depend on the program of the day: a law that changes between signing and sending changes nothing."""

import hashlib
import json
from decimal import Decimal
from unittest import mock

from django.urls import reverse

from practice.dispatch import filing
from practice.dispatch.models import State
from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.returns import computing, frozen
from practice.returns.computing import result_of
from practice.returns.models import Snapshot
from practice.signing import requesting
from practice.tests.office import SIGNATURE, OfficeTestCase
from taxcore.packs.us.federal.standard_deduction import StandardDeduction


class LaterLawTests(OfficeTestCase):
    def lay_out(self):
        super().lay_out()
        requesting.ask_for_signature(self.signer, self.return_.pk)
        for code in ("us", "us-il"):
            requesting.sign_in_office(self.administrator, self.return_.pk, self.client_person.pk, code, SIGNATURE, None, "41706")
        self.again()

    def later_law(self):
        """The law's file as if its standard deduction had been 100 higher all along."""
        spec = StandardDeduction.specs["of_status"]
        once = spec.method
        computing.forget()
        return mock.patch.object(spec, "method", lambda form: once(form) + Decimal(100))

    def test_it_is_sent_as_it_was_signed(self):
        before = frozen.document_of(self.return_.snapshot, "us")
        with self.later_law():
            self.assertEqual(result_of(self.again())["us.1040.15"].amount, Decimal(45_630))  # the premise: it would differ
            submission = filing.file_return(self.signer, self.return_.pk)[0]
        self.assertEqual((submission.authority, submission.state), ("us", State.QUEUED))
        self.assertEqual(unseal_bytes(submission.document), before)
        self.assertIn(b">45730<", before)

    def test_pages_and_papers_show_what_was_signed_and_a_notice_says_what_differs(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        with self.later_law():
            page = self.client.get(reverse("sign", args=[self.return_.pk]))
            self.assertContains(page, "The program has changed since this return was locked")
            self.assertContains(page, "1040 line 12e was 15,750 and would be 15,850")
            self.assertContains(self.client.get(reverse("locked-copy", args=[self.return_.pk])), "45,730")
            self.assertEqual(frozen.drawn_of(self.return_.snapshot).amounts()["us.1040.15"], Decimal(45_730))

    def test_locked_by_an_earlier_program_it_can_still_be_drawn_and_sent(self):
        new = self.return_.snapshot
        kept = frozen.content_of(new)
        kept.pop("drawn")
        old = json.dumps(kept, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode()
        digest = hashlib.sha256(old).hexdigest()
        earlier = Snapshot.objects.create(
            firm=self.firm,
            of=self.return_,
            hash=digest,
            content=seal_bytes(old),
            bottom_lines=new.bottom_lines,
            version=1,
            made_by=self.signer,
        )
        self.assertEqual(frozen.drawn_of(earlier).amounts(), frozen.drawn_of(new).amounts())
        self.assertIn(b">45730<", frozen.document_of(earlier, "us"))
