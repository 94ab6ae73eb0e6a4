"""Signatures on paper, and by those who represent a client: what is asked for, checked, kept, filed, and taken back."""

import base64
import hashlib
import io
from datetime import date, timedelta
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.urls import reverse
from django.utils import timezone
from lxml import etree
from pypdf import PdfReader

from practice.clients.identity import record_identity
from practice.dispatch import posting
from practice.dispatch.filing import CannotFile, file_return
from practice.firm.crypto import unseal_bytes
from practice.intake import enclosing
from practice.intake.models import Attachment
from practice.intake.tasks import draw_pages
from practice.intake.tests.test_attaching import pdf, picture
from practice.portal.models import PortalLink
from practice.returns import frozen
from practice.returns.changing import Settled
from practice.returns.entry import add_paper, add_spouse
from practice.signing import locking, on_paper, representing, requesting
from practice.signing.models import Signature, SignatureRequest
from practice.signing.tasks import make_authorization
from practice.signing.tests.test_signing import SigningTestCase
from practice.tests.office import SIGNATURE, OfficeTestCase
from taxcore.engine import BadValue

POWER = ("power.pdf", pdf(2))


def opened(signature):
    """The words of an authorization, and how many pages it has."""
    from django.core.files.storage import default_storage

    with default_storage.open(signature.pdf) as stored:
        reader = PdfReader(io.BytesIO(unseal_bytes(stored.read())))
    return " ".join(" ".join(page.extract_text() for page in reader.pages).split()), len(reader.pages)


class PaperTests(SigningTestCase):
    def on_paper(self, day="2/10/2026", content=None, pin="41706", authority="us", actor=None):
        file = ("signed.pdf", pdf(1)) if content is None else content
        return on_paper.sign_on_paper(
            actor or self.administrator, self.return_.pk, self.client_person.pk, authority, file, day, pin
        )

    def read(self, row):
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()

    def test_a_scan_with_its_day_is_a_signature_and_its_page_is_kept_behind_the_authorization(self):
        signature = self.on_paper()
        self.assertEqual((signature.manner, signature.paper_day, signature.image), ("paper", date(2026, 2, 10), ""))
        make_authorization(signature.pk)
        signature.refresh_from_db()
        self.assertEqual(signature.pdf, "")  # the scan is still being read
        self.read(signature.scan)
        make_authorization(signature.pk)
        signature.refresh_from_db()
        words, pages = opened(signature)
        self.assertIn("signed on paper on February 10, 2026", words)
        self.assertEqual(pages, 2)

    def test_the_day_is_neither_before_the_return_was_nor_to_come(self):
        self.assertEqual(self.firm.today(), date(2026, 2, 10))
        for day, says in (("2/9/2026", "locked on February 10"), ("2/11/2026", "future"), ("", "Enter the date"), ("soon", "")):
            with self.subTest(day), self.assertRaises(BadValue) as refused:
                self.on_paper(day)
            self.assertIn(says, refused.exception.says)
        self.assertEqual(Signature.objects.for_firm(self.firm).count(), 0)
        self.assertEqual(Attachment.objects.for_firm(self.firm).count(), 0)

    def test_figures_that_stay_count_from_their_first_lock(self):
        self.firm.training_day = None
        self.firm.save()
        locked = self.again().snapshot.made_at
        later = locked + timedelta(days=9)
        with mock.patch("django.utils.timezone.now", return_value=later):
            self.key("employer_street", "5 Slipway")
            locking.lock_figures(self.signer, self.return_.pk)
            self.assertEqual(on_paper.prepared_on(self.again(), "us"), timezone.localtime(locked).date())
            self.key("wages", "62480.00")
            locking.lock_figures(self.signer, self.return_.pk)
            self.assertEqual(on_paper.prepared_on(self.again(), "us"), timezone.localtime(later).date())

    def test_no_scan_no_pin_no_right(self):
        from practice.firm.permissions import Refused

        with self.assertRaisesRegex(BadValue, "Attach the scan"):
            on_paper.sign_on_paper(self.administrator, self.return_.pk, self.client_person.pk, "us", None, "2/10/2026", "41706")
        with self.assertRaisesRegex(requesting.CannotSign, "five digits"):
            self.on_paper(pin="00000")
        with self.assertRaises(BadValue):
            self.on_paper(content=("x.exe", b"MZ"))
        with self.assertRaises(Refused):
            self.on_paper(actor=self.reviewer)

    def test_nothing_goes_out_before_the_scan_is_read_and_none_that_was_refused(self):
        for code in ("us", "us-il"):
            signature = self.on_paper(authority=code, content=(f"{code}.png", picture(size=(60, 30 + len(code)))))
        with self.assertRaisesRegex(CannotFile, "still being read"):
            file_return(self.signer, self.return_.pk)
        for row in Attachment.objects.for_firm(self.firm):
            self.read(row)
        signature.scan.refresh_from_db()
        signature.scan.state, signature.scan.says = "refused", "It holds a virus."
        signature.scan.save()
        with self.assertRaisesRegex(CannotFile, "holds a virus"):
            file_return(self.signer, self.return_.pk)
        on_paper.take_back(self.administrator, self.return_.pk, signature.pk, "wrong scan")
        self.assertEqual(self.again().state_note, "1 of 2 signed")
        self.on_paper(authority=signature.authority, content=("again.pdf", pdf(3)))
        for row in Attachment.objects.for_firm(self.firm):
            self.read(row)
        self.assertEqual(len(file_return(self.signer, self.return_.pk)), 2)
        with self.assertRaises(Settled):
            on_paper.take_back(self.administrator, self.return_.pk, signature.pk, "too late")

    def test_what_waits_does_not_leave_without_the_signature_that_was_taken_back(self):
        self.sign_all()
        paper = {"way": "paper", "reason": "chosen", "note": "February 10", "mail_to": "Internal Revenue Service"}
        posting.choose(self.signer, self.return_.pk, "us", paper)
        file_return(self.signer, self.return_.pk)
        row = self.return_.signatures.get(authority="us-il")
        on_paper.take_back(self.administrator, self.return_.pk, row.pk, "the wrong person")
        states = set(self.return_.submissions.values_list("state", flat=True))
        self.assertEqual(states, {"withdrawn"})

    def test_taking_back_wants_a_reason_and_is_written_down(self):
        signature = self.on_paper()
        with self.assertRaisesRegex(BadValue, "reason"):
            on_paper.take_back(self.administrator, self.return_.pk, signature.pk, " ")
        on_paper.take_back(self.administrator, self.return_.pk, signature.pk, "the other year's paper")
        self.assertIn("the other year's paper", self.events("signature voided").get().says)
        self.assertIsNone(self.again().signed_id)

    def test_the_page_prints_takes_and_says_what_is_wrong(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("sign-paper", args=[self.return_.pk, self.client_person.pk, "us"])
        self.assertContains(self.client.get(page), "locked since")
        blank = self.client.get(reverse("blank-authorization", args=[self.return_.pk, self.client_person.pk, "us"]))
        words = " ".join(PdfReader(io.BytesIO(blank.content)).pages[0].extract_text().split())
        self.assertIn("My PIN, five digits", words)
        refused = self.client.post(page, {"day": "1/1/2026", "pin": "41706", "file": SimpleUploadedFile("a.pdf", pdf(1))})
        self.assertContains(refused, "Signed before the return was", status_code=422)
        self.assertContains(refused, 'value="1/1/2026"', status_code=422)
        self.client.post(page, {"day": "2/10/2026", "pin": "41706", "file": SimpleUploadedFile("a.pdf", pdf(1))})
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "on paper Feb 10, 2026")
        back = reverse("take-back-signature", args=[self.return_.pk, self.return_.signatures.get().pk])
        self.assertContains(self.client.post(back, {"why": ""}), "Enter the reason for voiding", status_code=422)


class RequestTests(SigningTestCase):
    def test_a_request_ends_and_is_made_anew(self):
        self.assertEqual(self.asked.expires_on, self.firm.today() + timedelta(days=requesting.REQUEST_DAYS))
        SignatureRequest.objects.for_firm(self.firm).update(expires_on=self.firm.today() - timedelta(days=1))
        with self.assertRaisesRegex(requesting.CannotSign, "ended on February 9"):
            requesting.note_read(self.asked.pk, self.client_person)
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "send new links")
        requesting.ask_for_signature(self.signer, self.return_.pk)
        requesting.note_read(self.asked.pk, self.client_person)
        self.assertEqual(self.return_.signature_requests.filter(voided_at=None).count(), 1)


class RepresentedTests(OfficeTestCase):
    """A couple; she signs for him."""

    def lay_out(self):
        super().lay_out()
        _, spouse = add_spouse(self.preparer, self.return_.pk)
        self.key("status", "joint", paper=self.return_.papers.get(kind="filing"))
        values = {"first_name": "Wren", "last_name": "Abernathy", "number": "913228046", "birth_date": "1/5/1980"}
        for name, value in values.items():
            self.key(name, value, paper=spouse)
        spouse.refresh_from_db()
        self.wren = spouse.person
        locking.lock_figures(self.signer, self.return_.pk)
        self.again()

    def represent(self, file=POWER, **given):
        given = {"capacity": "agent", "person": str(self.client_person.pk)} | given
        return representing.represent(self.signer, self.return_.pk, self.wren.pk, given, file)

    def read_and_lock(self):
        for row in Attachment.objects.for_firm(self.firm).filter(state="reading"):
            draw_pages(attachment_id=row.pk)
        locking.lock_figures(self.signer, self.return_.pk)
        self.again()

    def test_the_proof_opens_the_lock_and_goes_along_as_what_it_is(self):
        row = self.represent()
        self.assertIsNone(self.again().snapshot_id)
        with self.assertRaisesRegex(Settled, "still being read"):
            locking.lock_figures(self.signer, self.return_.pk)
        self.read_and_lock()
        (one,) = etree.fromstring(frozen.document_of(self.return_.snapshot, "us")).findall(".//{*}Attachment")
        self.assertEqual((one.get("what"), one.get("paper")), ("power-of-attorney", ""))
        self.assertEqual(base64.b64decode(one.text), POWER[1])
        representing.end(self.signer, self.return_.pk, self.wren.pk)
        row.proof.refresh_from_db()
        self.assertEqual(row.proof.along, "")
        self.assertIsNone(self.again().snapshot_id)

    def test_what_is_missing_is_named(self):
        cases = [
            ({"capacity": "friend"}, ("p.pdf", pdf(1)), "capacity"),
            ({}, None, "Form 2848"),
            ({"person": str(self.wren.pk)}, ("p.pdf", pdf(1)), "Choose who signs"),
            ({"person": ""}, ("p.pdf", pdf(1)), "Who signs"),
            ({"person": "", "name": "Odo Fenn"}, ("p.pdf", pdf(1)), "identity"),
            ({"until": "1/1/2026"}, ("p.pdf", pdf(1)), "has expired"),
            ({"until": "someday"}, ("p.pdf", pdf(1)), ""),
        ]
        for given, file, says in cases:
            with self.subTest(says), self.assertRaises(BadValue) as refused:
                self.represent(file, **given)
            self.assertIn(says, refused.exception.says)
        with self.assertRaises(requesting.CannotSign):
            representing.represent(self.signer, self.return_.pk, 10**9, {"capacity": "agent"}, ("p.pdf", pdf(1)))

    def test_who_represents_signs_in_the_office_under_their_own_identity_and_name(self):
        self.represent(until="12/31/2026")
        self.read_and_lock()
        sign = lambda: requesting.sign_in_office(  # noqa: E731
            self.administrator, self.return_.pk, self.wren.pk, "us", SIGNATURE, None, "41706"
        )
        signature = sign()
        self.assertEqual(signature.signed_as, "Lorna Abernathy, agent with a power of attorney for Wren Abernathy")
        make_authorization(signature.pk)
        signature.refresh_from_db()
        self.assertIn("agent with a power of attorney for Wren Abernathy", opened(signature)[0])

    def test_a_power_that_ended_signs_nothing(self):
        row = self.represent(until="2/10/2026")
        self.read_and_lock()
        type(row).objects.for_firm(self.firm).update(until=date(2026, 2, 9))
        with self.assertRaisesRegex(requesting.CannotSign, "expired on February 9"):
            requesting.sign_in_office(self.administrator, self.return_.pk, self.wren.pk, "us", SIGNATURE, None, "41706")

    def test_a_stranger_who_was_identified_signs_in_the_office_and_no_link_goes_to_anybody(self):
        self.represent(person="", name="Odo Fenn", seen="Iowa license, ends 4417")
        self.read_and_lock()
        self.wren.email = "wren@abernathy.example"
        self.wren.save()
        requesting.ask_for_signature(self.signer, self.return_.pk)
        asked = set(PortalLink.objects.for_firm(self.firm).filter(of=self.return_).values_list("client__first_name", flat=True))
        self.assertEqual(asked, {"Lorna"})
        self.assertEqual(requesting.requests_of(self.return_, self.wren), [])
        made = requesting.sign_in_office(self.administrator, self.return_.pk, self.wren.pk, "us", SIGNATURE, None, "41706")
        self.assertEqual(made.name, "Odo Fenn")

    def test_in_the_portal_she_signs_her_own_and_then_his(self):
        self.represent(("statement.pdf", pdf(1)), capacity="spouse")
        self.read_and_lock()
        requesting.ask_for_signature(self.signer, self.return_.pk)
        self.assertEqual(PortalLink.objects.for_firm(self.firm).filter(of=self.return_).count(), 1)
        own, his = requesting.requests_of(self.return_, self.client_person)
        own.identity_proved_at = own.asked_at
        own.save()
        requesting.begin_identity_check(his.pk, self.client_person)  # asked once, not twice
        for one in (own, his):
            requesting.note_read(one.pk, self.client_person)
        phone, link = Client(), PortalLink.objects.for_firm(self.firm).get(of=self.return_)
        session = phone.session
        session["portal"] = link.pk
        session.save()
        heads = []
        for _ in range(4):
            page = " ".join(phone.get(reverse("portal-sign")).content.decode().split())
            heads.append(page[page.index("<h1>") + 4 : page.index("</h1>")])
            code = page[page.index('name="authority" value="') + 24 :].split('"')[0]
            phone.post(reverse("portal-sign"), {"authority": code, "image": SIGNATURE, "pin": "41706"})
        self.assertEqual(
            heads,
            ["Sign your Federal return", "Sign your Illinois return", "Sign for Wren Abernathy: Federal return",
             "Sign for Wren Abernathy: Illinois return"],
        )  # fmt: skip
        self.assertEqual(self.again().stage, "file")
        self.assertEqual(self.return_.signatures.filter(client=self.wren, name="Lorna Abernathy").count(), 2)

    def test_an_agent_without_a_verified_identity_signs_nothing(self):
        self.client_person.identities.all().delete()
        self.represent()
        self.read_and_lock()
        with self.assertRaisesRegex(requesting.CannotSign, "verify Lorna Abernathy's identity"):
            requesting.sign_in_office(self.administrator, self.return_.pk, self.wren.pk, "us", SIGNATURE, None, "41706")
        record_identity(self.signer, self.client_person.pk, "licence", "4417", "6/30/2029", "Illinois")
        requesting.sign_in_office(self.administrator, self.return_.pk, self.wren.pk, "us", SIGNATURE, None, "41706")

    def test_the_page(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("represent", args=[self.return_.pk, self.wren.pk])
        self.assertContains(self.client.get(page), "signs in person")
        refused = self.client.post(page, {"capacity": "guardian", "person": str(self.client_person.pk)})
        self.assertContains(refused, "Court certificate", status_code=422)
        self.client.post(page, {"capacity": "parent", "person": str(self.client_person.pk)})
        self.assertContains(self.client.get(page), "■ Lorna Abernathy")
        self.client.post(reverse("represent-end", args=[self.return_.pk, self.wren.pk]))
        self.assertContains(self.client.get(page), "Wren Abernathy signs in person")
        self.client.force_login(self.stranger, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(page).status_code, 404)


class DecedentTests(OfficeTestCase):
    """A client who died: whoever is charged with the property files and signs, and nothing is sent to the client."""

    def lay_out(self):
        super().lay_out()
        self.key("death_date", "11/5/2025", paper=self.return_.papers.get(kind="person"))
        _, paper = add_paper(self.preparer, self.return_.pk, "decedent")
        given = {"capacity": "claimant", "representative": "Odo Fenn", "street": "1 Weir", "city": "Galena", "state": "IL",
                 "zip": "61036", "will": "no", "appointed": "no", "to_be_appointed": "no", "pays_out": "yes"}  # fmt: skip
        for name, value in given.items():
            self.key(name, value, paper=paper)
        self.client_person.email = "lorna@abernathy.example"
        self.client_person.save()

    def sign(self):
        return requesting.sign_in_office(
            self.administrator, self.return_.pk, self.client_person.pk, "us", SIGNATURE, None, "41706"
        )

    def test_nobody_is_asked_to_sign_who_has_died(self):
        with self.assertRaisesRegex(requesting.CannotSign, "has died"):
            requesting.ask_for_signature(self.signer, self.return_.pk)
        locking.lock_figures(self.signer, self.return_.pk)
        self.again()
        with self.assertRaisesRegex(requesting.CannotSign, "has died"):
            self.sign()
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "has died: choose who signs")
        page = reverse("represent", args=[self.return_.pk, self.client_person.pk])
        self.assertContains(self.client.get(page), "has died: somebody else signs")

    def test_whoever_is_charged_with_the_property_signs_and_nobody_is_written_to(self):
        locking.lock_figures(self.signer, self.return_.pk)
        self.again()
        given = {"capacity": "charged", "person": "", "name": "Odo Fenn", "seen": "Iowa license, ends 4417"}
        representing.represent(self.signer, self.return_.pk, self.client_person.pk, given)
        requesting.ask_for_signature(self.signer, self.return_.pk)
        self.assertEqual(PortalLink.objects.for_firm(self.firm).filter(of=self.return_).count(), 0)
        self.assertEqual(representing.written_to(self.again()), [])
        signature = self.sign()
        self.assertEqual(signature.signed_as, "Odo Fenn, person charged with the decedent's property for Lorna Abernathy")
        document = etree.fromstring(frozen.document_of(self.return_.snapshot, "us"))
        self.assertEqual([one.text for one in document.findall(".//{*}DeceasedRefund/*")], ["no", "no", "no", "yes"])


class AttachmentsTests(SigningTestCase):
    """What goes along beside statements (practice/intake/tests/test_statements.py)."""

    def attach(self, content=None, name="election.pdf"):
        from practice.intake import attaching

        row = attaching.attach(self.preparer, self.return_.pk, None, name, content or pdf(1))
        draw_pages(attachment_id=row.pk)
        row.refresh_from_db()
        return row

    def test_a_chosen_document_goes_to_the_authority_that_was_said_with_its_kind_and_name(self):
        row, other = self.attach(picture()), self.attach(pdf(2))
        enclosing.choose(self.preparer, self.return_.pk, row.token, "election", "Election under section 1.263(a)-1(f)")
        enclosing.choose(self.preparer, self.return_.pk, other.token, "computation", "Credit for tax paid", "us-il")
        self.assertIsNone(self.again().snapshot_id)
        locking.lock_figures(self.signer, self.return_.pk)
        found = {}
        for code in ("us", "us-il"):
            root = etree.fromstring(frozen.document_of(self.again().snapshot, code))
            found[code] = [(one.get("what"), one.get("name")) for one in root.findall(".//{*}Attachment")]
            for one in root.findall(".//{*}Attachment"):
                content = base64.b64decode(one.text)
                self.assertTrue(content.startswith(b"%PDF-"))
                self.assertEqual(hashlib.sha256(content).hexdigest(), one.get("sha256"))
        self.assertEqual(found, {"us": [("election", "Election under section 1.263(a)-1(f)")],
                                 "us-il": [("computation", "Credit for tax paid")]})  # fmt: skip

    def test_a_signature_stands_when_only_what_goes_along_changed(self):
        self.sign_all()
        enclosing.choose(self.preparer, self.return_.pk, self.attach().token, "explanation", "Explanation")
        self.assertEqual(self.again().signatures.filter(voided_at=None).count(), 2)
        locking.lock_figures(self.signer, self.return_.pk)
        self.assertEqual(self.again().stage, "file")

    def test_what_cannot_go_is_refused(self):
        row = self.attach()
        for what, name, to, says in (("banana", "x", "", "kind"), ("election", "", "", "Name it"), ("election", "x", "us-zz", "where"),
                                     ("statement", "x", "", "beside the paper"), ("election", "x" * 61, "", "longer")):  # fmt: skip
            with self.subTest(says), self.assertRaises(BadValue) as refused:
                enclosing.choose(self.preparer, self.return_.pk, row.token, what, name, to)
            self.assertIn(says, refused.exception.says)
        for number in range(5):
            big = self.attach(pdf(number + 2), f"{number}.pdf")
            Attachment.objects.for_firm(self.firm).filter(pk=big.pk).update(size=4_900_000)
            if number < 4:
                enclosing.choose(self.preparer, self.return_.pk, big.token, "election", f"E{number}")
        with self.assertRaisesRegex(BadValue, "Together"):
            enclosing.choose(self.preparer, self.return_.pk, big.token, "election", "E5")

    def test_the_page(self):
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("going-along", args=[self.return_.pk])
        self.assertContains(self.client.get(page), "no documents yet")
        self.client.post(reverse("going-along-add", args=[self.return_.pk]), {"file": SimpleUploadedFile("a.pdf", pdf(1))})
        row = Attachment.objects.for_firm(self.firm).get()
        self.assertContains(self.client.get(page), f'hx-select="#document-{row.pk}"')  # a row that is being read asks again
        draw_pages(attachment_id=row.pk)
        self.assertNotContains(self.client.get(page), "hx-select")
        choose = reverse("going-along-choose", args=[self.return_.pk, row.token])
        self.assertContains(self.client.post(choose, {"what": "", "name": "x"}), "Choose what kind", status_code=422)
        self.client.post(choose, {"what": "explanation", "name": "Why", "to": "us"})
        self.assertContains(self.client.get(page), "“Why”")
        self.assertContains(self.client.get(reverse("sign", args=[self.return_.pk])), "Attached: Why")
        self.client.post(choose, {"leave": "1"})
        self.assertContains(self.client.get(page), "0 of 1 document attached")
