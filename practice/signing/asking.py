"""Asking clients to sign, checking who they are, and taking their signature."""

import base64
import io

import httpx
from django.conf import settings
from django.db import transaction
from django.utils import timezone
from PIL import Image, UnidentifiedImageError

from practice.clients.identity import verified
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.portal.links import send_link
from practice.returns.computing import pack_of, result_of
from practice.returns.models import Return, Stage
from practice.returns.stages import reach
from practice.signing.locking import lock_figures
from practice.signing.models import Signature, SignatureRequest

TRIES = 2
LARGEST_IMAGE = 300_000  # bytes of a drawn signature


class CannotSign(Exception):
    """The signature cannot be taken; `says` tells the person why and what to do."""

    def __init__(self, says):
        super().__init__(says)
        self.says = says


class ServiceAway(Exception):
    """The identity service does not answer."""


def signers(return_):
    """(client, role) of everyone who must sign, the taxpayer first. CannotSign rather than leaving anybody out."""
    papers = return_.papers.filter(kind="person", removed_at=None).select_related("person")
    by_role = {paper.values.get("role"): paper.person for paper in papers if paper.person_id}
    roles = pack_of(return_).signers(result_of(return_).run)
    missing = [role for role in roles if role not in by_role]
    if missing:
        raise CannotSign(f"The {missing[0]} is not a client yet, so nobody could sign. Add the {missing[0]} to the return.")
    return [(by_role[role], role) for role in roles]


def authorities_to_sign(return_):
    """Authorities of the locked return, in order."""
    codes = [line["code"] for line in return_.snapshot.bottom_lines] if return_.snapshot else []
    return [pack_of(return_).authority(code) for code in codes]


@transaction.atomic
def ask_for_signature(actor, return_id):
    """Lock the figures if they are not, and send every signer a link. Asking again sends new links."""
    require(actor, "ask for signature")
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
    _move_on(return_)
    record(actor, "signature asked for", return_, says=", ".join(client.full_name for client, _ in signers(return_)))
    return asked


def _all_signed_by(return_, client):
    signed = return_.signatures.filter(snapshot=return_.snapshot, client=client, voided_at=None).count()
    return signed >= len(authorities_to_sign(return_))


def missing_signatures(return_):
    """(client, role, authority) for every signature that is not there yet."""
    have = set(return_.signatures.filter(snapshot=return_.snapshot, voided_at=None).values_list("client_id", "authority"))
    return [
        (client, role, authority)
        for client, role in signers(return_)
        for authority in authorities_to_sign(return_)
        if (client.pk, authority.code) not in have
    ]


def _move_on(return_):
    """To the stage that the signatures allow."""
    needed, missing = len(signers(return_)) * len(authorities_to_sign(return_)), len(missing_signatures(return_))
    reach(return_, Stage.SIGN if missing else Stage.FILE, f"{needed - missing} of {needed} signed" if missing else "to send")
    return_.save()


# Identity, checked by an outside service


def begin_identity_check(request_id, client):
    """Questions for this client. ServiceAway, or CannotSign when the service knows nobody like this."""
    asked = _request_of(request_id, client)
    if asked.identity_failed_at:
        raise CannotSign("The questions were answered wrongly twice. Please call the office; you can sign there.")
    claim = {
        "number_end": "".join(c for c in client.number if c.isdigit())[-4:],
        "last_name": client.last_name,
        "birth_date": client.birth_date.isoformat() if client.birth_date else "",
    }
    reply = _call("/identity/checks", claim)
    if reply is None:
        raise CannotSign("We could not find questions for you. Please call the office; you can sign there.")
    asked.identity_check, asked.identity_questions = reply["id"], reply["questions"]
    asked.save(update_fields=["identity_check", "identity_questions"])
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
        record(None, "identity proved" if passed else "identity not proved", asked.of, by=client.full_name)
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
def sign_in_portal(client, request_id, authority, image, address):
    """The client's own signature for one authority, after proving identity."""
    asked = _request_of(request_id, client)
    if asked.identity_proved_at is None:
        raise CannotSign("First answer the questions that show it is you.")
    return _sign(asked.of_id, client, asked.role, authority, image, "portal", None, address, asked.snapshot_id)


@transaction.atomic
def sign_in_office(actor, return_id, client_id, authority, image, address):
    """A signature drawn in the office before a member of staff, who is its witness."""
    return_ = fetch(Return.objects, actor, pk=return_id)
    require(actor, "sign in office", return_)
    found = next(((client, role) for client, role in signers(return_) if client.pk == client_id), None)
    if found is None or return_.snapshot_id is None:
        raise CannotSign("Lock the figures first; then choose who signs.")
    if verified(found[0], return_.firm.today()) is None:
        raise CannotSign(
            f"How did you see who {found[0].full_name} is? Record it below; the law wants it before a signature here."
        )
    return _sign(return_.pk, *found, authority, image, "office", actor, address, return_.snapshot_id)


def _sign(return_id, client, role, authority, image, manner, witness, address, snapshot_id):
    return_ = (
        Return.objects.across_firms("fetched for its client or firm before").select_for_update(of=("self",)).get(pk=return_id)
    )
    if return_.snapshot_id != snapshot_id:
        raise CannotSign("The return was changed meanwhile. The office will send you the new figures.")
    if authority not in [known.code for known in authorities_to_sign(return_)]:
        raise CannotSign("This authority is not on the return.")
    if return_.signatures.filter(snapshot_id=snapshot_id, authority=authority, client=client, voided_at=None).exists():
        raise CannotSign("This was signed already.")
    signature = Signature.objects.create(
        firm=return_.firm, of=return_, snapshot_id=snapshot_id, authority=authority, client=client, role=role,
        name=client.full_name, image=_checked(image), manner=manner, witness=witness, address=address,
    )  # fmt: skip
    _move_on(return_)
    says = f"{client.full_name} for {pack_of(return_).authority(authority).name}"
    record(witness, "signed", return_, says=says, by=client.full_name, manner=manner)
    from practice.signing.tasks import make_authorisation

    transaction.on_commit(lambda: make_authorisation.defer(signature_id=signature.pk))
    return signature


def _checked(image):
    """The drawn signature as base64 of a PNG; CannotSign when it is empty, too large or no picture."""
    try:
        content = base64.b64decode(image.removeprefix("data:image/png;base64,"), validate=True)
        if not content or len(content) > LARGEST_IMAGE:
            raise CannotSign("The signature did not arrive. Please draw it again.")
        with Image.open(io.BytesIO(content), formats=["PNG"]) as picture:
            if picture.width * picture.height > 4_000_000:
                raise CannotSign("The signature is too large. Please draw it again.")
            low, high = picture.convert("RGBA").getchannel("A").getextrema()
    except (ValueError, UnidentifiedImageError, OSError):
        raise CannotSign("The signature did not arrive. Please draw it again.") from None
    if low == high:
        raise CannotSign("The field is empty. Please sign in it.")
    return base64.b64encode(content).decode()
