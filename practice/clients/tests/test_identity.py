"""How a client's identity was verified, and that nobody signs in the office without it."""

from practice.clients.identity import IdentityErrors, record_identity, verified
from practice.clients.models import IdentityRecord, Person
from practice.firm.permissions import NotOfThisFirm
from practice.signing import requesting
from practice.tests.office import SIGNATURE, OfficeTestCase

FITS = {"document": "passport", "ending": "77A1", "expires": "1/31/2031", "issued_by": "United States"}


class IdentityTests(OfficeTestCase):
    def wrong(self, **given):
        with self.assertRaises(IdentityErrors) as caught:
            record_identity(self.administrator, self.client_person.pk, **FITS | given)
        return set(caught.exception.errors)

    def test_each_field_says_what_is_wrong_with_it(self):
        self.assertEqual(self.wrong(document="a letter"), {"document"})
        self.assertEqual(self.wrong(ending="123456789"), {"ending"})  # never the whole number
        self.assertEqual(self.wrong(expires="soon"), {"expires"})
        self.assertEqual(self.wrong(expires="2/9/2026"), {"expires"})  # the practice lives on 10 February 2026
        self.assertEqual(self.wrong(ending="", issued_by="", expires=""), {"ending", "issued_by", "expires"})

    def test_what_was_seen_is_kept_with_who_saw_it(self):
        row = record_identity(self.administrator, self.client_person.pk, **FITS)
        self.assertEqual((row.ending, row.by, row.on), ("77A1", self.administrator, self.firm.today()))
        self.assertEqual(self.events("identity verified").last().household, self.household)
        record_identity(self.administrator, self.client_person.pk, "known")
        with self.assertRaises(NotOfThisFirm):
            record_identity(self.stranger, self.client_person.pk, **FITS)

    def test_nobody_signs_in_the_office_without_it(self):
        requesting.ask_for_signature(self.signer, self.return_.pk)
        IdentityRecord.objects.for_firm(self.firm).delete()
        sign = (self.administrator, self.return_.pk, self.client_person.pk, "us", SIGNATURE, "127.0.0.1", "41706")
        with self.assertRaisesRegex(requesting.CannotSign, "Lorna Abernathy"):
            requesting.sign_in_office(*sign)
        record_identity(self.administrator, self.client_person.pk, **FITS)
        self.assertEqual(requesting.sign_in_office(*sign).witness, self.administrator)

    def test_an_expired_document_is_not_enough(self):
        row = record_identity(self.administrator, self.client_person.pk, **FITS)
        IdentityRecord.objects.for_firm(self.firm).exclude(pk=row.pk).delete()
        person = Person.objects.for_firm(self.firm).get()
        self.assertEqual(verified(person, self.firm.today()), row)
        self.assertIsNone(verified(person, row.expires.replace(year=2032)))
