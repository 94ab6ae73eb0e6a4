"""The practice's certificate: made by the program, or brought as a PKCS 12 file (RFC 7292) by somebody who administers."""

import base64
from datetime import UTC, datetime, timedelta

from cryptography import x509
from cryptography.hazmat.primitives import hashes
from cryptography.hazmat.primitives.asymmetric import ec, rsa
from cryptography.hazmat.primitives.serialization import Encoding, NoEncryption, pkcs12
from cryptography.x509.oid import NameOID
from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Certificate, Firm
from practice.firm.permissions import require
from taxcore.engine import BadValue

_LASTS = timedelta(days=5 * 365)
LARGEST = 100_000  # bytes of a file with a key and its certificates


def in_force(firm_id):
    """The certificate that PDFs are signed with today; one is made where there is none, or where it has run out."""
    if there := _good(firm_id):
        return there
    with transaction.atomic():
        firm = Firm.objects.select_for_update().get(pk=firm_id)
        return _good(firm_id) or _made(firm, None)


def _good(firm_id):
    return Certificate.objects.for_firm(firm_id).filter(ended_at=None, until__gt=timezone.localdate()).first()


@transaction.atomic
def make(actor):
    """A new one of the program's making takes the place of what is in force."""
    require(actor, "administer", actor)
    return _made(Firm.objects.select_for_update().get(pk=actor.firm_id), actor)


@transaction.atomic
def bring(actor, content, password):
    """The practice's own: `content` is a PKCS 12 file. BadValue with the reason where it cannot sign PDFs."""
    require(actor, "administer", actor)
    if not content or len(content) > LARGEST:
        raise BadValue("Choose a file with a key and its certificate (.p12 or .pfx).", "")
    try:
        key, certificate, others = pkcs12.load_key_and_certificates(content, password.encode() or None)
    except ValueError:
        raise BadValue("This file does not open. Is the password right?", "") from None
    if key is None or certificate is None:
        raise BadValue("The file must hold both a key and its certificate.", "")
    _check(key, certificate)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    return _kept(firm, actor, key, certificate, others, own=True)


def _check(key, certificate):
    now = datetime.now(UTC)
    if not isinstance(key, rsa.RSAPrivateKey | ec.EllipticCurvePrivateKey):
        raise BadValue("PDFs are signed with RSA or elliptic curve keys; this one is neither.", "")
    if isinstance(key, rsa.RSAPrivateKey) and key.key_size < 2048:
        raise BadValue(f"The key has {key.key_size} bits; RSA takes 2,048 or more.", "")
    if certificate.not_valid_before_utc > now:
        raise BadValue(f"The certificate is valid only from {certificate.not_valid_before_utc:%Y-%m-%d}.", "")
    if certificate.not_valid_after_utc <= now + timedelta(days=1):
        raise BadValue(f"The certificate expired on {certificate.not_valid_after_utc:%Y-%m-%d}.", "")
    try:
        usage = certificate.extensions.get_extension_for_class(x509.KeyUsage).value
    except x509.ExtensionNotFound:
        return
    if not (usage.digital_signature or usage.content_commitment):
        raise BadValue("The certificate is not made for signatures.", "")


def _made(firm, actor):
    key, now = ec.generate_private_key(ec.SECP256R1()), datetime.now(UTC)
    name = x509.Name([x509.NameAttribute(NameOID.ORGANIZATION_NAME, firm.name[:64]),
                      x509.NameAttribute(NameOID.COMMON_NAME, firm.name[:64])])  # fmt: skip
    usage = dict.fromkeys(("key_encipherment", "data_encipherment", "key_agreement", "key_cert_sign", "crl_sign"), False)
    certificate = (
        x509.CertificateBuilder(name, name, key.public_key(), x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + _LASTS)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(
            x509.KeyUsage(digital_signature=True, content_commitment=True, encipher_only=False, decipher_only=False, **usage),
            critical=True,
        )
        .sign(key, hashes.SHA256())
    )
    return _kept(firm, actor, key, certificate, [], own=False)


def _kept(firm, actor, key, certificate, others, own):
    Certificate.objects.for_firm(firm).filter(ended_at=None).update(ended_at=timezone.now())
    content = pkcs12.serialize_key_and_certificates(b"seal", key, certificate, others or None, NoEncryption())
    names = certificate.subject.get_attributes_for_oid(NameOID.COMMON_NAME) or list(certificate.subject)
    made = Certificate.objects.create(
        firm=firm, keys=base64.b64encode(content).decode(), subject=str(names[0].value)[:120] if names else "no name",
        fingerprint=certificate.fingerprint(hashes.SHA256()).hex(), until=certificate.not_valid_after_utc.date(),
        own=own, by=actor,
    )  # fmt: skip
    whose = "the practice's own" if own else "made by the program"
    record(actor, "PDF certificate", firm=firm, says=f"{made.subject}, {whose}, until {made.until}: {made.fingerprint[:16]}")
    return made


def opened(certificate):
    """(key, certificate, the certificates above it) of the cryptography library."""
    return pkcs12.load_key_and_certificates(base64.b64decode(certificate.keys), None)


def public(certificate):
    """The certificate without its key, in DER: what somebody else trusts."""
    return opened(certificate)[1].public_bytes(Encoding.DER)
