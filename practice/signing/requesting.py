"""Asking clients to sign, checking who they are, and taking their signature."""

import re
from datetime import timedelta

from django.conf import settings
from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from practice.clients.identity import verified
from practice.firm import dates, outside
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.portal.drawn import NotDrawn, drawn_signature
from practice.portal.links import send_link
from practice.returns.computing import pack_of
from practice.returns.models import Return
from practice.signing.locking import lock_figures
from practice.signing.models import Signature, SignatureRequest
from practice.signing.needed import CannotSign, authorities_to_sign, cannot_sign, move_on, signers
from practice.signing.representing import of_return, signs_today

TRIES = 2
REQUEST_DAYS = 30  # after which a request to sign has to be made anew


class ServiceAway(Exception):
    """The identity service does not answer."""


@transaction.atomic
def ask_for_signature(actor, return_id):
    """Lock the figures if they are not, and send every signer a link. Asking again sends new links."""
    require(actor, "request e-signatures")
    snapshot = lock_figures(actor, return_id)
    return_ = snapshot.of
    asked, links, represented, gone = [], {}, of_return(return_), cannot_sign(return_)
    for client, role in signers(return_):
        if client.pk in gone:
            signs_today(return_, client)
        agent = represented[client.pk].person if client.pk in represented else None
        request, _ = return_.signature_requests.update_or_create(
            snapshot=snapshot, client=client, voided_at=None,
            defaults={"expires_on": return_.firm.today() + timedelta(days=REQUEST_DAYS), "agent": agent},
            create_defaults={
                "firm": return_.firm, "role": role, "asked_by": actor, "agent": agent,
                "expires_on": return_.firm.today() + timedelta(days=REQUEST_DAYS),
            },
        )  # fmt: skip
        asked.append(request)
        if not _all_signed_by(return_, client) and (client.pk not in represented or agent):
            links[(agent or client).pk] = agent or client
    for person in links.values():
        if person.email:
            send_link(return_, person, "signature")
    move_on(return_)
    record(actor, "e-signature requested", return_, says=", ".join(request.who_signs for request in asked))
    return asked


def requests_of(return_, person):
    """What a person in the portal is asked to sign: their own, and for whom they represent."""
    rows = return_.signature_requests.filter(_by(person), voided_at=None).select_related("snapshot", "client", "agent")
    represented = of_return(return_)
    return [row for row in rows.order_by("pk") if row.agent_id or row.client_id not in represented]


def _all_signed_by(return_, client):
    signed = return_.signatures.filter(client=client, voided_at=None).count()
    return signed >= len(authorities_to_sign(return_))


# Identity, checked by an outside service


def begin_identity_check(request_id, client):
    """Questions for this client. ServiceAway, or CannotSign when the service knows nobody like this."""
    asked = _request_of(request_id, client)
    if proved := _proved_beside(asked, client):
        asked.identity_proved_at = proved.identity_proved_at
        asked.save(update_fields=["identity_proved_at"])
        return asked
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


def _proved_beside(asked, person):
    """Another request of the same return for which this person answered already."""
    beside = SignatureRequest.objects.across_firms("the client's own").filter(_by(person), of=asked.of_id, voided_at=None)
    return beside.exclude(identity_proved_at=None).first()


def answer_identity_check(request_id, client, answers):
    """Whether the answers proved who the client is. A second wrong try closes the check for good."""
    reply = _call(f"/identity/checks/{_request_of(request_id, client).identity_check}", {"answers": answers})
    with transaction.atomic():
        rows = SignatureRequest.objects.across_firms("the client's own").select_for_update()
        asked = rows.get(_by(client), pk=request_id)
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
    rows = SignatureRequest.objects.across_firms("the client's own").select_related("of__firm")
    asked = rows.get(_by(client), pk=request_id, voided_at=None)
    if asked.expired:
        raise CannotSign(f"This request ended on {dates.long_day(asked.expires_on)}. Please ask the office for a new one.")
    return asked


def _by(person):
    """Requests that this person answers."""
    return Q(client=person, agent=None) | Q(agent=person)


def _call(path, body):
    try:
        reply = outside.call("POST", settings.IDENTITY_URL + path, json=body)
    except outside.Away as error:
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
    if asked.agent_id is None and client.pk in of_return(asked.of):
        raise CannotSign("A representative signs for you. If that is not so, please call the office.")
    return sign(asked.of_id, asked.client, asked.role, authority, image, "portal", None, address, asked.snapshot_id, pin)


@transaction.atomic
def sign_in_office(actor, return_id, client_id, authority, image, address, pin):
    """A signature drawn in the office before a member of staff, who is its witness."""
    return_ = fetch(Return.objects, actor, pk=return_id)
    require(actor, "take signatures in the office", return_)
    found = next(((client, role) for client, role in signers(return_) if client.pk == client_id), None)
    if found is None or return_.snapshot_id is None:
        raise CannotSign("Lock the return first; then choose who signs.")
    who = who_is_here(return_, found[0])
    if who is not None and verified(who, return_.firm.today()) is None:
        raise CannotSign(
            f"How did you verify {who.full_name}'s identity? Record it below; it is required before a signature here."
        )
    return sign(return_.pk, *found, authority, image, "office", actor, address, return_.snapshot_id, pin)


def who_is_here(return_, client):
    """Whose identity is verified before a signature in the office: the client's, or of who represents them. None where that was
    seen when they were named."""
    row = of_return(return_).get(client.pk)
    return row.person if row is not None else client


def sign(return_id, client, role, authority, image, manner, witness, address, snapshot_id, pin, scan=None, paper_day=None):
    """Keep one signature of whoever signs for the client today; on paper, `scan` is the attachment that shows it."""
    return_ = (
        Return.objects.across_firms("fetched for its client or firm before").select_for_update(of=("self",)).get(pk=return_id)
    )
    if return_.snapshot_id != snapshot_id:
        raise CannotSign("The return was changed in the meantime. The office will send you the new version.")
    if authority not in [known.code for known in authorities_to_sign(return_)]:
        raise CannotSign("This return is not filed there.")
    if return_.signatures.filter(authority=authority, client=client, voided_at=None).exists():
        raise CannotSign("This was signed already.")
    name, capacity = signs_today(return_, client)
    signature = Signature.objects.create(
        firm=return_.firm, of=return_, snapshot_id=snapshot_id, authority=authority, client=client, role=role, name=name,
        capacity=capacity, image="" if scan else _checked(image), pin=_checked_pin(pin), manner=manner, witness=witness,
        address=address, scan=scan, paper_day=paper_day,
    )  # fmt: skip
    return_.signed = return_.snapshot
    move_on(return_)
    says = f"{signature.signed_as}: {pack_of(return_).authority(authority).name}"
    record(witness, "signed", return_, says=says, by=name, manner=manner)
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
