"""PDFs that leave: signed by the practice, whole, and broken by any change; its certificate made, brought, renewed."""

import io
from datetime import UTC, datetime, timedelta

from asn1crypto import x509 as asn1
from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec, ed25519, rsa
from cryptography.hazmat.primitives.serialization import BestAvailableEncryption, pkcs12
from cryptography.x509.oid import NameOID
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from pyhanko.pdf_utils.reader import PdfFileReader
from pyhanko.sign.diff_analysis import ModificationLevel
from pyhanko.sign.validation import validate_pdf_signature
from pyhanko_certvalidator import ValidationContext
from pypdf import PdfReader, PdfWriter

from practice.firm import certificates
from practice.firm.models import Certificate
from practice.firm.permissions import Refused
from practice.pages.certifying import certified, joined, written
from practice.tests.office import OfficeTestCase
from taxcore.engine import BadValue


def blank(pages=1, password=""):
    writer = PdfWriter()
    for _ in range(pages):
        writer.add_blank_page(200, 200)
    if password:
        writer.encrypt(password, algorithm="AES-256")
    return written(writer)


def status_of(content, certificate, password=""):
    """What the library's validation says of the only signature, read anew from the bytes."""
    reader = PdfFileReader(io.BytesIO(content))
    if password:
        reader.decrypt(password)
    (signature,) = reader.embedded_signatures
    trusted = asn1.Certificate.load(certificates.public(certificate))
    return validate_pdf_signature(signature, ValidationContext(trust_roots=[trusted]))


def file_with(key, password=b"paper lantern", days=(-1, 400), usage=None):
    """A PKCS 12 file with a certificate of that key."""
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Larkspur Row Tax, signatures")])
    now = datetime.now(UTC)
    made = (
        x509.CertificateBuilder(name, name, key.public_key(), 7)
        .not_valid_before(now + timedelta(days=days[0]))
        .not_valid_after(now + timedelta(days=days[1]))
    )
    if usage:
        made = made.add_extension(usage, critical=True)
    signed = made.sign(key, None if isinstance(key, ed25519.Ed25519PrivateKey) else hashes.SHA256())
    return pkcs12.serialize_key_and_certificates(b"x", key, signed, None, BestAvailableEncryption(password))


class CertifyingTests(OfficeTestCase):
    def test_a_signed_pdf_is_whole_and_a_changed_one_is_not(self):
        content = certified(self.firm, blank(), "Package")
        certificate = certificates.in_force(self.firm.pk)
        status = status_of(content, certificate)
        self.assertTrue(status.bottom_line and status.valid and status.trusted)
        self.assertEqual(status.coverage.name, "ENTIRE_FILE")
        at = content.index(b"/MediaBox")
        self.assertFalse(status_of(content[:at] + b"/MediaBoy" + content[at + 9 :], certificate).intact)
        later = PdfWriter(io.BytesIO(content), incremental=True)
        later.add_blank_page(100, 100)
        self.assertEqual(status_of(written(later), certificate).modification_level, ModificationLevel.OTHER)

    def test_one_with_a_password_is_signed_too(self):
        content = certified(self.firm, blank(password="garden gate"), "Client's copy", "garden gate")
        self.assertTrue(PdfReader(io.BytesIO(content)).is_encrypted)
        self.assertTrue(status_of(content, certificates.in_force(self.firm.pk), "garden gate").bottom_line)

    def test_a_joined_one_has_no_broken_signature_of_its_parts(self):
        parts = [certified(self.firm, blank(), "one"), blank(2), certified(self.firm, blank(), "two")]
        writer = joined(parts, "Whole")
        self.assertEqual(len(writer.pages), 4)
        plain = written(writer)
        self.assertEqual(list(PdfFileReader(io.BytesIO(plain)).embedded_signatures), [])
        self.assertTrue(status_of(certified(self.firm, plain, "Whole"), certificates.in_force(self.firm.pk)).bottom_line)

    def test_one_is_made_once_and_again_when_it_has_run_out(self):
        first = certificates.in_force(self.firm.pk)
        self.assertEqual(first, certificates.in_force(self.firm.pk))
        Certificate.objects.for_firm(self.firm).update(until="2020-01-01")
        second = certificates.in_force(self.firm.pk)
        self.assertNotEqual(first.fingerprint, second.fingerprint)
        self.assertEqual(Certificate.objects.for_firm(self.firm).filter(ended_at=None).get(), second)
        self.assertEqual(self.events("PDF certificate").count(), 2)


class OwnCertificateTests(OfficeTestCase):
    def test_the_practice_brings_its_own(self):
        for key in (rsa.generate_private_key(65537, 2048), ec.generate_private_key(ec.SECP384R1())):
            mine = certificates.bring(self.signer, file_with(key), "paper lantern")
            self.assertTrue(mine.own)
            self.assertEqual(mine.subject, "Larkspur Row Tax, signatures")
            self.assertTrue(status_of(certified(self.firm, blank(), "x"), mine).valid)

    def test_what_cannot_sign_is_refused_with_the_reason(self):
        good, no = ec.generate_private_key(ec.SECP256R1()), dict.fromkeys(
            ("digital_signature", "content_commitment", "data_encipherment", "key_agreement", "key_cert_sign", "crl_sign",
             "encipher_only", "decipher_only"), False)  # fmt: skip
        cases = {
            "does not open": (file_with(good), "wrong"),
            "Choose a file": (b"", ""),
            "expired": (file_with(good, days=(-9, 0)), "paper lantern"),
            "valid only from": (file_with(good, days=(5, 9)), "paper lantern"),
            "2,048": (file_with(rsa.generate_private_key(65537, 1024)), "paper lantern"),  # noqa: S505 - what is refused
            "neither": (file_with(ed25519.Ed25519PrivateKey.generate()), "paper lantern"),
            "not made for": (file_with(good, usage=x509.KeyUsage(key_encipherment=True, **no)), "paper lantern"),
            "both a key": (pkcs12.serialize_key_and_certificates(
                b"x", None, x509.load_der_x509_certificate(certificates.public(certificates.in_force(self.firm.pk))), None,
                BestAvailableEncryption(b"pw")), "pw"),
        }  # fmt: skip
        for says, (content, password) in cases.items():
            with self.subTest(says), self.assertRaises(BadValue) as refused:
                certificates.bring(self.signer, content, password)
            self.assertIn(says, refused.exception.says)
        with self.assertRaises(Refused):
            certificates.bring(self.preparer, file_with(good), "paper lantern")

    def test_the_key_is_never_readable_in_the_database(self):
        made = certificates.in_force(self.firm.pk)
        from django.db import connection

        with connection.cursor() as cursor:
            cursor.execute("select keys from firm_certificate where id = %s", [made.pk])
            self.assertNotIn(made.keys[:40], cursor.fetchone()[0])

    def test_the_page_shows_takes_and_hands_out_the_public_part(self):
        self.client.force_login(self.signer, "django.contrib.auth.backends.ModelBackend")
        page = reverse("pdf-certificate")
        self.assertContains(self.client.get(page), "made by the program")
        content = file_with(ec.generate_private_key(ec.SECP256R1()))
        refused = self.client.post(page, {"file": SimpleUploadedFile("mine.p12", content), "password": "no"})
        self.assertContains(refused, "does not open", status_code=422)
        self.client.post(page, {"file": SimpleUploadedFile("mine.p12", content), "password": "paper lantern"})
        self.assertContains(self.client.get(page), "Larkspur Row Tax, signatures")
        given = self.client.get(reverse("pdf-certificate-file")).content
        self.assertEqual(x509.load_der_x509_certificate(given).serial_number, 7)
        self.client.post(page, {"anew": "1"})
        self.assertContains(self.client.get(page), "made by the program")
        self.client.force_login(self.preparer, "django.contrib.auth.backends.ModelBackend")
        self.assertEqual(self.client.get(page).status_code, 403)
