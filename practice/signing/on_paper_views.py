"""Signatures on paper, who signs for somebody, and the practice's own."""

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm.permissions import may, require
from practice.firm.refusals import Cannot
from practice.intake import attaching
from practice.pages.refusing import said_on
from practice.returns.computing import pack_of
from practice.returns.page import open_page
from practice.signing import needed, on_paper, preparing, representing
from practice.signing.tasks import to_sign
from practice.signing.views import track
from taxcore.engine import BadValue


def _opened(request, return_id, client_id, action, authority=None):
    """(return, context) of a page about one signer; 404 where they do not sign."""
    return_, _, context = open_page(request, return_id, action)
    found = next(((client, role) for client, role in needed.signers(return_) if client.pk == client_id), None)
    known = pack_of(return_).authority(authority) if authority else None
    if found is None or (authority and (known is None or return_.snapshot_id is None)):
        raise Http404
    context |= {"tab": "sign", "client": found[0], "role": found[1], "authority": known, "snapshot": return_.snapshot}
    return return_, context


def paper(request, return_id, client_id, authority):
    """A scan of what was signed by hand, its date and PIN."""
    return_, context = _opened(request, return_id, client_id, "take signatures in the office", authority)
    if request.method == "POST":
        given = request.POST
        try:
            file = attaching.given(request.FILES.get("file"))
            on_paper.sign_on_paper(
                request.user, return_id, client_id, authority, file, given.get("day", ""), given.get("pin", "")
            )
            return redirect("sign", return_id)
        except (Cannot, BadValue) as refused:
            context |= {"refused": refused.says, "typed": given}
    context |= {
        "prepared": on_paper.prepared_on(return_, authority),
        "represented": representing.of_return(return_).get(client_id),
    }
    return render(request, "signing/paper.html", context, status=422 if "refused" in context else 200)


def blank(request, return_id, client_id, authority):
    """The authorization to print and sign."""
    return_, context = _opened(request, return_id, client_id, "view", authority)
    made = to_sign(return_.snapshot, authority, context["client"], context["role"])
    response = HttpResponse(made, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="authorization-{authority}.pdf"'
    return response


def represent(request, return_id, client_id):
    """Who signs for a client, as what, with which proof."""
    return_, context = _opened(request, return_id, client_id, "view")
    if request.method == "POST":
        try:
            file = attaching.given(request.FILES.get("file"))
            representing.represent(request.user, return_id, client_id, request.POST, file)
            return redirect("sign", return_id)
        except (Cannot, BadValue) as refused:
            context |= {"refused": refused.says, "typed": request.POST}
    outgoing = pack_of(return_).outgoing
    context |= {
        "row": representing.of_return(return_).get(client_id),
        "gone": client_id in needed.cannot_sign(return_),
        "people": representing.who_may(request.user, return_, context["client"]),
        "capacities": [(one, outgoing.kind(one.proof)) for one in outgoing.capacities],
        "may_ask": may(request.user, "request e-signatures"),
    }  # fmt: skip
    return render(request, "signing/represent.html", context, status=422 if "refused" in context else 200)


@require_POST
def end_representing(request, return_id, client_id):
    representing.end(request.user, return_id, client_id)
    return redirect("sign", return_id)


def _track(request, return_id, status=200, **more):
    require(request.user, "view")
    return track(request, return_id, status, **more)


@said_on(_track, "return_id")
def sign_as_preparer(request, return_id):
    preparing.sign(request.user, return_id, request.POST.get("place", ""))
    return redirect("sign", return_id)


@require_POST
def signatures_needed(request):
    """Which signatures of the practice a return needs before it goes out."""
    preparing.set_needed(request.user, request.POST.getlist("places"))
    messages.success(request, "Saved. It applies to every return that was not filed yet.")
    return redirect("firm-answers")


@said_on(_track, "return_id")
def take_back(request, return_id, signature_id):
    on_paper.take_back(request.user, return_id, signature_id, request.POST.get("why", ""))
    return redirect("sign", return_id)
