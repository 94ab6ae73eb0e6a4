"""Return / Sign and file: the track from locked figures to the delivered package."""

from django.contrib import messages
from django.core.files.storage import default_storage
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST

from practice.clients.identity import verified
from practice.clients.models import IdentityDocument
from practice.firm.crypto import unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import may
from practice.intake import enclosing
from practice.pages.timeline import by_day
from practice.portal.links import OWNERS
from practice.portal.models import PortalLink
from practice.returns import amending, frozen
from practice.returns.computing import pack_of
from practice.returns.models import FILED, Purpose, Stage
from practice.returns.page import head_of, open_page
from practice.returns.standing import correction_under_way
from practice.review import gate
from practice.signing import locking, needed, preparing, representing, requesting
from practice.signing.comparing import corrections


def track(request, return_id, status=200, **more):
    """The page; also its own fragment, which refreshes itself while something is under way."""
    return_, result, context = open_page(request, return_id)
    if return_.purpose == Purpose.PLANNING:
        return redirect("plan", return_.pk)
    context |= {"tab": "sign", "may_ask_clients": may(request.user, "ask clients")} | _track(request, return_, result)
    if not request.htmx:
        context |= head_of(return_, result)
    template = "signing/_track.html" if request.htmx else "signing/track.html"
    return render(request, template, context | more, status=status)


def _track(request, return_, result):
    snapshot = return_.snapshot
    submissions = list(return_.submissions.order_by("id"))
    return {
        "snapshot": snapshot,
        "voided": return_.signatures.exclude(voided_at=None).order_by("-voided_at").first() if not snapshot else None,
        "stopping": [finding for finding in result.findings if finding.weight == "stops"],
        "correction": return_.origin.amends if return_.purpose == Purpose.AMENDING else None,
        "late": amending.too_late_to_supersede(return_),
        "amends": _amends(request, return_),
        "ours": preparing.wanted(return_),
        "routes": return_.routes.exclude(way="electronic"),
        "days": by_day(return_.events.order_by("-id")[:80]),
        "enclosed": enclosing.going_along(return_),
        "in_turn": [line.authority.name for line in result.bottom_lines],
        "statements": pack_of(return_).outgoing.statements(result),
        "lacking": list(gate.lacking(return_, result)) if not snapshot else [],
        "corrections": corrections(return_) if snapshot and return_.signed_id not in (None, return_.snapshot_id) else None,
        "signers": _signers(return_) if snapshot else [],
        "gone": needed.cannot_sign(return_) if snapshot else set(),
        "missing": needed.missing_signatures(return_) if snapshot else [],
        "submissions": [(submission, pack_of(return_).authority(submission.authority)) for submission in submissions],
        "package": return_.packages.first(),
        "may_file": may(request.user, "file"),
        "may_lock": may(request.user, "lock"),
        "may_ask": may(request.user, "request e-signatures"),
        "may_office": may(request.user, "take signatures in the office"),
        "may_deliver": may(request.user, "deliver"),
        "under_way": any(s.state in ("queued", "sent", "waiting") for s in submissions) or _making(return_),
        "accepted_all": bool(snapshot)
        and {line["code"] for line in snapshot.bottom_lines} <= {s.authority for s in submissions if s.state in FILED},
    }


def _amends(request, return_):
    """What an accepted return offers: its correction under way, or "new" where one can be made; nothing otherwise."""
    if (
        return_.stage not in (Stage.DELIVER, Stage.DONE)
        or return_.given_up_at
        or return_.apart_state
        or pack_of(return_).correcting is None
    ):
        return None
    if under_way := correction_under_way(return_):
        return under_way
    return "new" if may(request.user, "open") and not return_.household.left_on else None


def _making(return_):
    newest = return_.packages.first()
    return newest is not None and newest.state == "making"


def _signers(return_):
    """(client, role, [(authority, signature or None)], request, newest link, who represents them) for each who must sign."""
    represented = representing.of_return(return_)
    signed = {(s.client_id, s.authority): s for s in return_.signatures.filter(voided_at=None)}
    requests = {r.client_id: r for r in return_.signature_requests.filter(voided_at=None)}
    sent = PortalLink.objects.for_firm(return_.firm).filter(of=return_).exclude(purpose=OWNERS)
    links = {one.client_id: one for one in sent.order_by("pk")}
    return [
        (
            client, role,
            [(authority, signed.get((client.pk, authority.code))) for authority in needed.authorities_to_sign(return_)],
            requests.get(client.pk),
            links.get((represented[client.pk].person_id if client.pk in represented else None) or client.pk),
            represented.get(client.pk),
        )
        for client, role in needed.signers(return_)
    ]  # fmt: skip


@require_POST
def lock(request, return_id):
    try:
        locking.lock_figures(request.user, return_id)
    except locking.StillStopped as stopped:
        messages.error(request, f"Not locked: {len(stopped.findings)} diagnostics stop filing. Fix them in Review first.")
    except gate.NotReviewed as unreviewed:
        messages.error(request, unreviewed.says)
    return redirect("sign", return_id)


@require_POST
def ask(request, return_id):
    try:
        asked = requesting.ask_for_signature(request.user, return_id)
        without = [one.client.full_name for one in asked if not one.client.email]
        messages.success(request, "Links are being emailed." if not without else f"No email address: {', '.join(without)}.")
    except locking.StillStopped as stopped:
        messages.error(request, f"Not locked: {len(stopped.findings)} diagnostics stop filing. Fix them in Review first.")
    except gate.NotReviewed as unreviewed:
        messages.error(request, unreviewed.says)
    return redirect("sign", return_id)


def office(request, return_id, client_id, authority):
    """A signature drawn at the desk, witnessed by whoever is signed in."""
    return_, result, context = open_page(request, return_id, "take signatures in the office")
    if request.method == "POST":
        try:
            image, address = request.POST.get("image", ""), request.META.get("REMOTE_ADDR")
            requesting.sign_in_office(request.user, return_id, client_id, authority, image, address, request.POST.get("pin", ""))
            return redirect("sign", return_id)
        except requesting.CannotSign as error:
            context |= {"error": error.says, "pin": request.POST.get("pin", "")}
    client = next((client for client, _ in needed.signers(return_) if client.pk == client_id), None)
    known = pack_of(return_).authority(authority)
    if client is None or known is None or return_.snapshot is None:
        return redirect("sign", return_id)
    line = next((line for line in result.bottom_lines if line.authority.code == authority), None)
    context |= {
        "tab": "sign",
        "firm": return_.firm,
        "client": client,
        "authority": known,
        "snapshot": return_.snapshot,
        "line": line,
    }
    who, row = requesting.who_is_here(return_, client), representing.of_return(return_).get(client_id)
    seen = verified(who, return_.firm.today()) if who else None
    context |= {"identity": seen, "documents": IdentityDocument.choices, "back": request.path, "who": who, "row": row}
    return render(request, "signing/office.html", context)


def copy(request, return_id):
    """The locked return as the client reads it before signing."""
    return_, _, context = open_page(request, return_id)
    if return_.snapshot is None:
        return redirect("sign", return_id)
    context |= {"tab": "sign", "snapshot": return_.snapshot, "result": frozen.drawn_of(return_.snapshot)}
    return render(request, "signing/copy.html", context)


@require_POST
def authorization_again(request, return_id, signature_id):
    """Ask once more for an authorization that could not be made."""
    requesting.make_authorization_again(request.user, return_id, signature_id)
    return redirect("sign", return_id)


def authorization(request, return_id, signature_id):
    """The signed authorization as PDF."""
    return_, _, _ = open_page(request, return_id)
    signature = get_object_or_404(return_.signatures, pk=signature_id)
    if not signature.pdf:
        return HttpResponse("The authorization is being made; try again in a moment.", status=503)
    record(request.user, "authorization read", return_)
    with default_storage.open(signature.pdf) as stored:
        return HttpResponse(unseal_bytes(stored.read()), content_type="application/pdf")
