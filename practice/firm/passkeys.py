"""Passkeys (WebAuthn, W3C Recommendation, level 2): added by who is signed in, and enough to sign in.

The device verifies who holds it (a fingerprint, a PIN), so that a passkey is two factors. It is bound to the name in the address
bar: a page of somebody else that looks like this one gets nothing.
"""

import base64
import ipaddress

from cryptography.exceptions import InvalidSignature
from django.db import IntegrityError, transaction
from django.utils import timezone
from fido2.server import Fido2Server
from fido2.utils import websafe_encode
from fido2.webauthn import (
    AttestedCredentialData,
    AuthenticationResponse,
    PublicKeyCredentialRpEntity,
    PublicKeyCredentialUserEntity,
    RegistrationResponse,
    ResidentKeyRequirement,
    UserVerificationRequirement,
)

from practice.firm.events import record
from practice.firm.models import Passkey
from practice.firm.permissions import require
from practice.firm.refusals import Cannot
from practice.firm.texts import written

MOST = 10
_WANTED = UserVerificationRequirement.REQUIRED


class PasskeyRefused(Cannot):
    """It does not open; `says` is for who tried."""


def possible_at(host):
    """Whether passkeys work under that name: never for a bare address (WebAuthn binds them to a name)."""
    try:
        ipaddress.ip_address(host.strip("[]"))
    except ValueError:
        return True
    return False


def _server(host):
    return Fido2Server(PublicKeyCredentialRpEntity(id=host, name="Impuesto"))


def begin_adding(staff, host):
    """(options for the browser, state for the session) of a new passkey. Cannot where there are many already."""
    there = list(staff.passkeys.all())
    if len(there) >= MOST:
        raise Cannot(f"There are {MOST} passkeys already. Remove one first.")
    user = PublicKeyCredentialUserEntity(id=f"staff-{staff.pk}".encode(), name=staff.email, display_name=staff.name)
    options, state = _server(host).register_begin(
        user, [_credential(row) for row in there], resident_key_requirement=ResidentKeyRequirement.REQUIRED,
        user_verification=_WANTED,
    )  # fmt: skip
    return dict(options), state


@transaction.atomic
def add(staff, host, state, response, name):
    """Keep the passkey that a device made. PasskeyRefused where the answer is not to what was asked."""
    name = written(name, "The name", 40, "Name the passkey, so that you know it again.")
    try:
        made = _server(host).register_complete(state, RegistrationResponse.from_dict(response))
        data = made.credential_data
    except (ValueError, TypeError, KeyError, AttributeError, InvalidSignature) as error:
        raise PasskeyRefused("The device's answer does not fit. Try again.") from error
    try:
        with transaction.atomic():
            row = Passkey.objects.create(
                staff=staff, name=name, credential=websafe_encode(data.credential_id), counter=made.counter,
                data=base64.b64encode(bytes(data)).decode(),
            )  # fmt: skip
    except IntegrityError:
        raise PasskeyRefused("This passkey is known already.") from None
    record(staff, "passkey added", firm=staff.firm, says=name)
    return row


def begin_opening(host):
    """(options, state) of a sign-in: the device offers the passkeys that it has for this name."""
    options, state = _server(host).authenticate_begin(user_verification=_WANTED)
    return dict(options), state


def opened_by(host, state, response):
    """Who signs in. PasskeyRefused for a passkey that is not known, a wrong answer, or a copy of one: it counts no further."""
    try:
        answer = AuthenticationResponse.from_dict(response)
        credential = websafe_encode(answer.raw_id)
    except (ValueError, TypeError, KeyError, AttributeError) as error:
        raise PasskeyRefused("This is no answer of a passkey.") from error
    says = ""
    with transaction.atomic():
        row = Passkey.objects.select_for_update(of=("self",)).filter(credential=credential).select_related("staff__firm").first()
        if row is None or not row.staff.is_active:
            raise PasskeyRefused("This passkey is not known here. Sign in with your password.")
        try:
            _server(host).authenticate_complete(state, [_credential(row)], answer)
        except (ValueError, InvalidSignature):
            says = "The passkey's answer does not fit. Try again."
        counter = answer.response.authenticator_data.counter
        if not says and counter and counter <= row.counter:
            says = "This passkey was used elsewhere with the same number: it may have been copied. Sign in with your password."
        if says:
            record(row.staff, "passkey refused", firm=row.staff.firm, says=row.name)
        else:
            row.counter, row.used_at = counter, timezone.now()
            row.save(update_fields=["counter", "used_at"])
    if says:
        raise PasskeyRefused(says)
    return row.staff


def _credential(row):
    return AttestedCredentialData(base64.b64decode(row.data))


@transaction.atomic
def remove(staff, passkey_id):
    """One's own."""
    row = staff.passkeys.filter(pk=passkey_id).first()
    if row is not None:
        record(staff, "passkey removed", firm=staff.firm, says=row.name)
        row.delete()


@transaction.atomic
def reset(actor, staff):
    """By an administrator: all of somebody's."""
    require(actor, "administer", staff)
    if staff.passkeys.exists():
        staff.passkeys.all().delete()
        record(actor, "passkeys removed", firm=actor.firm, says=staff.name)
