"""Dispatch: what was sent, what came back, and the way to mend it."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.dispatch import filing
from practice.dispatch.models import Asked, Extension, State, Submission
from practice.firm.permissions import may, require
from practice.returns.addresses import place_of
from practice.returns.computing import pack_of
from practice.signing.locking import result_of_snapshot
from practice.web.lists import export, sorted_by
from taxcore.engine.filed import address_at

_SORTS = {
    "household": "of__household__name",
    "authority": "authority",
    "state": "state",
    "made": "-id",
    "answered": "-answered_at",
}


def dispatch(request):
    """The list, with filter, search, sort and export."""
    require(request.user, "view")
    rows = Submission.objects.for_firm(request.user.firm).select_related("of__household", "snapshot", "by")
    sent = [Asked.QUEUED, Asked.SENT, Asked.ACCEPTED, Asked.REJECTED]
    requests = (
        Extension.objects.for_firm(request.user.firm).filter(state__in=sent).select_related("of__household").order_by("-id")
    )
    counts = {state: rows.filter(state=state).count() for state in State.values}
    if request.GET.get("state") in State.values:
        rows, requests = rows.filter(state=request.GET["state"]), requests.filter(state=request.GET["state"])
    if words := request.GET.get("q", "").strip():
        rows, requests = (found.filter(of__household__name__icontains=words) for found in (rows, requests))
    rows = sorted_by(rows, request, _SORTS, "made")
    if kind := request.GET.get("as"):
        heads = ["Household", "Year", "Authority", "What", "State", "Receipt", "Made", "Answered"]
        listed = [*((one, "return") for one in rows), *((one, f"more time, {one.form}") for one in requests)]
        return export(kind, "dispatch", heads, [_exported(one, what) for one, what in listed])
    context = {
        "rows": [_row(submission) for submission in rows[:200]],
        "requests": [(one, pack_of(one.of).authority(one.authority).name) for one in requests[:200]],
        "counts": counts,
        "state": request.GET.get("state", ""),
        "states": State.choices,
        "may_file": may(request.user, "file"),
        "under_way": counts["queued"] + counts["sent"] > 0
        or any(one.state in (Asked.QUEUED, Asked.SENT) for one in requests[:200]),
    }
    return render(request, "dispatch/_list.html" if request.htmx else "dispatch/dispatch.html", context)


def _exported(one, what):
    state = one.get_state_display()
    return [one.of.household.name, one.of.year, one.authority.upper(), what, state, one.receipt, one.made_at, one.answered_at]


def _row(submission):
    superseded = (
        submission.state == State.REJECTED
        and submission.of.submissions.filter(authority=submission.authority, pk__gt=submission.pk).exists()
    )
    return {
        "submission": submission,
        "authority": pack_of(submission.of).authority(submission.authority).name,
        "faults": [{**fault, "url": _fault_url(submission, fault)} for fault in submission.refused_rules],
        "superseded": superseded,
    }


def _fault_url(submission, fault):
    """Where the field at fault is mended: its paper, or the line on its form."""
    return_ = submission.of
    result = result_of_snapshot(submission.snapshot)
    address = address_at(result, fault.get("path", ""))
    if address is None:
        return reverse("review", args=[return_.pk])
    place = place_of(list(return_.papers.filter(removed_at=None)), result, address)
    if place is None:
        return f"{reverse('forms', args=[return_.pk])}?at={address}"
    paper, path, _ = place
    return f"{reverse('paper', args=[return_.pk, paper.pk])}#f-{paper.pk}-{path.replace('.', '-')}"


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
