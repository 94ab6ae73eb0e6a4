"""Dispatch: what was sent, what came back, and the way to fix it."""

from urllib.parse import quote

from django.contrib import messages
from django.core.paginator import Paginator
from django.db.models import Count, Max
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.dispatch import filing
from practice.dispatch.models import Asked, Extension, State, Submission
from practice.firm.packs import usual_pack
from practice.firm.permissions import may, require
from practice.pages.lists import export, sorted_by
from practice.returns.additions import additions_of, of_pack
from practice.returns.computing import pack_of
from practice.returns.models import Purpose

_SORTS = {
    "household": "of__household__name",
    "authority": "authority",
    "state": "state",
    "made": "-id",
    "answered": "-answered_at",
}
_PAGE = 60


def _states():
    """Nothing is held where no authority waits for another one."""
    follows = any(authority.after for authority in usual_pack().authorities)
    return [(code, name) for code, name in State.choices if follows or code != State.WAITING]


def dispatch(request):
    """The list, with filter, search, sort and export."""
    require(request.user, "view")
    rows = Submission.objects.for_staff(request.user).select_related("of__household")
    sent = [Asked.QUEUED, Asked.SENT, Asked.ACCEPTED, Asked.REJECTED]
    requests = Extension.objects.for_staff(request.user).filter(state__in=sent).select_related("of__household").order_by("-id")
    counts = dict.fromkeys(State.values, 0) | dict(rows.order_by().values_list("state").annotate(Count("id")))
    if request.GET.get("state") in State.values:
        rows, requests = rows.filter(state=request.GET["state"]), requests.filter(state=request.GET["state"])
    if words := request.GET.get("q", "").strip():
        rows, requests = (found.filter(of__household__name__icontains=words) for found in (rows, requests))
    rows = sorted_by(rows, request, _SORTS, "made")
    if kind := request.GET.get("as"):
        heads = ["Household", "Year", "Authority", "What", "State", "Receipt", "Made", "Answered"]
        return export(kind, "dispatch", heads, _listed(rows, requests))
    page = Paginator(rows.defer("document"), _PAGE).get_page(request.GET.get("page"))
    listed = list(requests.defer("document")[:_PAGE])
    context = {
        "page": page,
        "rows": _rows(list(page)),
        "requests_in_all": requests.count() if len(listed) == _PAGE else len(listed),
        "requests": [(one, pack_of(one.of).authority(one.authority).name, additions_of(one.of).extends) for one in listed],
        "counts": counts,
        "state": request.GET.get("state", ""),
        "states": _states(),
        "may_file": may(request.user, "file"),
        "extends_many": of_pack(usual_pack().code).extends_many,
        "under_way": counts["queued"] + counts["sent"] > 0 or any(one.state in (Asked.QUEUED, Asked.SENT) for one in listed),
    }
    return render(request, "dispatch/_list.html" if request.htmx else "dispatch/dispatch.html", context)


def _listed(rows, requests):
    for one in rows.defer("document").iterator(chunk_size=2000):
        yield _exported(one, "amended return" if one.of.purpose == Purpose.AMENDING else "return")
    for one in requests.defer("document").iterator(chunk_size=2000):
        yield _exported(one, f"extension, {one.form}")


def _exported(one, what):
    state = one.get_state_display()
    return [one.of.household.name, one.of.year, one.authority.upper(), what, state, one.receipt, one.made_at, one.answered_at]


def _rows(submissions):
    """What the list shows of each; nothing is computed, and the newest of each return and authority is asked for once."""
    newest = dict.fromkeys(((one.of_id, one.authority) for one in submissions), 0)
    found = Submission.objects.across_firms("of the selected submissions").filter(of__in={of for of, _ in newest})
    newest |= {(of, code): last for of, code, last in found.order_by().values_list("of", "authority").annotate(Max("pk"))}
    return [
        {
            "submission": one,
            "authority": pack_of(one.of).authority(one.authority).name,
            "faults": [{**fault, "url": _fault_url(one, fault)} for fault in one.refused_rules],
            "superseded": one.state == State.REJECTED and newest[one.of_id, one.authority] > one.pk,
        }
        for one in submissions
    ]


def _fault_url(submission, fault):
    """Where the entry or line at fault is: its address was found when the answer came; Review where it names none."""
    at = fault.get("at")
    return f"{reverse('at', args=[submission.of_id])}?at={quote(at)}" if at else reverse("review", args=[submission.of_id])


@require_POST
def file_return(request, return_id):
    try:
        made = filing.file_return(request.user, return_id)
        messages.success(request, f"{len(made)} documents are on their way." if made else "Everything was sent already.")
    except filing.CannotFile as error:
        messages.error(request, error.says)
    return redirect("sign", return_id)


@require_POST
def try_now(request, submission_id):
    submission = filing.try_now(request.user, submission_id)
    messages.success(request, f"Trying {submission.authority.upper()} again now.")
    return redirect("dispatch")
