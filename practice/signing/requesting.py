"""Asking clients to sign, checking who they are, and taking their signature."""

import re

import httpx
from django.conf import settings
from django.db import transaction
from django.utils import timezone

from practice.clients.identity import verified
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.portal.drawn import NotDrawn, drawn_signature
from practice.portal.links import send_link
from practice.returns.computing import pack_of
from practice.returns.models import Return
from practice.signing.locking import lock_figures
from practice.signing.models import Signature, SignatureRequest
from practice.signing.needed import CannotSign, authorities_to_sign, move_on, signers

TRIES = 2


class ServiceAway(Exception):
    """The identity service does not answer."""


@transaction.atomic
def ask_for_signature(actor, return_id):
    """Lock the figures if they are not, and send every signer a link. Asking again sends new links."""
    require(actor, "request e-signatures")
    snapshot = lock_figures(actor, return_id)
    return_ = snapshot.of
    asked = []
    for client, role in signers(return_):
        request, _ = return_.signature_requests.get_or_create(
            snapshot=snapshot, client=client, voided_at=None, defaults={"firm": return_.firm, "role": role, "asked_by": actor}
        )
        asked.append(request)
        if client.email and not _all_signed_by(return_, client):
            send_link(return_, client, "signature")
    move_on(return_)
    record(actor, "e-signature requested", return_, says=", ".join(client.full_name for client, _ in signers(return_)))
    return asked


def _all_signed_by(return_, client):
    signed = return_.signatures.filter(client=client, voided_at=None).count()
    return signed >= len(authorities_to_sign(return_))


# Identity, checked by an outside service


def begin_identity_check(request_id, client):
    """Questions for this client. ServiceAway, or CannotSign when the service knows nobody like this."""
    asked = _request_of(request_id, client)
    if asked.identity_failed_at:
        raise CannotSign("The questions were answered incorrectly twice. Please call the office; you can sign there.")
    claim = {
        "number_end": "".join(c for c in client.number if c in "0123456789")[-4:],
        "last_name": client.last_name,
        "birth_date": client.birth_date.isoformat() if client.birth_date else "",
        "street": client.household.street.lstrip("0123456789 "),
    }
    reply = _call("/identity/checks", claim)
    if reply is None:
        _note_refusal(asked, client)
        raise CannotSign("We could not find questions for you. Please call the office; you can sign there.")
    asked.identity_check, asked.identity_questions, asked.identity_refused = reply["id"], reply["questions"], ""
    asked.save(update_fields=["identity_check", "identity_questions", "identity_refused"])
    return asked


def answer_identity_check(request_id, client, answers):
    """Whether the answers proved who the client is. A second wrong try closes the check for good."""
    reply = _call(f"/identity/checks/{_request_of(request_id, client).identity_check}", {"answers": answers})
    with transaction.atomic():
        asked = SignatureRequest.objects.across_firms("the client's own").select_for_update().get(pk=request_id, client=client)
        asked.identity_tries += 1
        if reply is None:
            asked.identity_check, asked.identity_questions = "", []
        elif reply["passed"]:
            asked.identity_proved_at = timezone.now()
        elif reply["tries_left"] == 0 or asked.identity_tries >= TRIES:
            asked.identity_failed_at = timezone.now()
        asked.save()
        passed = bool(reply and reply["passed"])
        record(None, "identity proved" if passed else "identity not verified", asked.of, by=client.full_name)
    return asked


@transaction.atomic
def _note_refusal(asked, client):
    """The office must see that its client stands before a closed door, and the way on."""
    asked.identity_refused = (
        f"The identity service cannot verify {client.full_name[:60]} by name, date of birth and "
        f"{pack_of(asked.of).identifier.short}. Compare them with the client's records and send new links, or have the client "
        "sign in the office."
    )
    asked.save(update_fields=["identity_refused"])
    record(None, "identity not verified by the service", asked.of, says=asked.identity_refused, by=client.full_name)


@transaction.atomic
def note_read(request_id, client):
    """The client looked through the whole return and says so."""
    asked = _request_of(request_id, client)
    if asked.read_at is None:
        asked.read_at = timezone.now()
        asked.save(update_fields=["read_at"])
        record(None, "return examined", asked.of, by=client.full_name)
    return asked


def _request_of(request_id, client):
    return SignatureRequest.objects.across_firms("the client's own").get(pk=request_id, client=client, voided_at=None)


def _call(path, body):
    try:
        reply = httpx.post(settings.IDENTITY_URL + path, json=body, timeout=settings.OUTSIDE_TIMEOUT)
    except httpx.HTTPError as error:
        raise ServiceAway from error
    return reply.json() if reply.status_code == 200 else None


# Signatures


@transaction.atomic
def sign_in_portal(client, request_id, authority, image, address, pin):
    """The client's own signature for one authority, after examining the return and proving identity."""
    asked = _request_of(request_id, client)
    if asked.identity_proved_at is None:
        raise CannotSign("First answer the questions that verify your identity.")
    if asked.read_at is None:
        raise CannotSign("Review the whole return first; then sign it.")
    return _sign(asked.of_id, client, asked.role, authority, image, "portal", None, address, asked.snapshot_id, pin)


@transaction.atomic
def sign_in_office(actor, return_id, client_id, authority, image, address, pin):
    """A signature drawn in the office before a member of staff, who is its witness."""
    return_ = fetch(Return.objects, actor, pk=return_id)
    require(actor, "take signatures in the office", return_)
    found = next(((client, role) for client, role in signers(return_) if client.pk == client_id), None)
    if found is None or return_.snapshot_id is None:
        raise CannotSign("Lock the return first; then choose who signs.")
    if verified(found[0], return_.firm.today()) is None:
        raise CannotSign(
            f"How did you verify {found[0].full_name}'s identity? Record it below; it is required before a signature here."
        )
    return _sign(return_.pk, *found, authority, image, "office", actor, address, return_.snapshot_id, pin)


def _sign(return_id, client, role, authority, image, manner, witness, address, snapshot_id, pin):
    return_ = (
        Return.objects.across_firms("fetched for its client or firm before").select_for_update(of=("self",)).get(pk=return_id)
    )
    if return_.snapshot_id != snapshot_id:
        raise CannotSign("The return was changed in the meantime. The office will send you the new version.")
    if authority not in [known.code for known in authorities_to_sign(return_)]:
        raise CannotSign("This return is not filed there.")
    if return_.signatures.filter(authority=authority, client=client, voided_at=None).exists():
        raise CannotSign("This was signed already.")
    signature = Signature.objects.create(
        firm=return_.firm, of=return_, snapshot_id=snapshot_id, authority=authority, client=client, role=role,
        name=client.full_name, image=_checked(image), pin=_checked_pin(pin), manner=manner, witness=witness, address=address,
    )  # fmt: skip
    return_.signed = return_.snapshot
    move_on(return_)
    says = f"{client.full_name} for {pack_of(return_).authority(authority).name}"
    record(witness, "signed", return_, says=says, by=client.full_name, manner=manner)
    from practice.signing.tasks import make_authorization

    make_authorization.ask(signature_id=signature.pk)
    return signature


@transaction.atomic
def make_authorization_again(actor, return_id, signature_id):
    """Ask once more for the PDF of an authorization that failed."""
    from practice.signing.tasks import make_authorization

    return_ = fetch(Return.objects, actor, pk=return_id)
    require(actor, "request e-signatures", return_)
    if return_.signatures.filter(pk=signature_id, pdf="").update(trouble=""):
        make_authorization.ask(signature_id=signature_id)


def _checked_pin(pin):
    """The five digits that a client chose as part of the signature; CannotSign for anything else. Pub. 1345: not all zeros."""
    pin = pin.strip()
    if not re.fullmatch(r"[0-9]{5}", pin) or pin == "00000":
        raise CannotSign("The PIN has five digits, not all zeros.")
    return pin


def _checked(image):
    try:
        return drawn_signature(image)
    except NotDrawn as wrong:
        raise CannotSign(wrong.says) from None
