"""Return / Review: what the return says about itself, what is initialed, open points, overrides; and what to do about it."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.numbers import whole_number
from practice.firm.permissions import fetch, may
from practice.pages.back import back_or
from practice.pages.lists import export
from practice.returns.entry import Conflict
from practice.returns.history import what
from practice.returns.models import Return, Stage
from practice.returns.page import live_papers, open_page
from practice.returns.undoing import SomebodyElse, undo_last
from practice.review import handing, margin, mending, notices, seeing, signing_off, silencing
from practice.review.listing import GROUPS, WEIGHTS, fitting, grouped, lines_of
from practice.review.progress import progress_of
from taxcore.engine import KINDS, BadValue


def review(request, return_id, status=200, **more):
    """The page; with htmx only the list, for search as one types."""
    return_, result, context = open_page(request, return_id)
    lines = lines_of(return_, result, live_papers(return_))
    if form := request.GET.get("as"):
        return _export(form, return_, lines)
    words, weight, by = (request.GET.get(name, "") for name in ("q", "weight", "by"))
    by = by if by in GROUPS else "weight"
    open_ones = [line for line in lines if not line.seen]
    context |= {
        "tab": "review",
        "sub": "review",
        "groups": grouped(fitting(open_ones, words, weight), by),
        "counts": {name: sum(line.finding.weight == name for line in open_ones) for name in WEIGHTS},
        "weights": WEIGHTS,
        "weight": weight,
        "ways": GROUPS,
        "by": by,
        "q": words,
        "seen": [line for line in lines if line.seen],
        "silenced": _silenced(return_, result),
        "nothing": not lines,
        "may_silence": may(request.user, "silence"),
        "may_administer": may(request.user, "administer"),
    }
    if request.htmx:
        return render(request, "review/_diagnostics.html", context | more, status=status)
    return render(request, "review/review.html", context | _beside(request, return_, result) | more, status=status)


def _beside(request, return_, result):
    """What stands beside the list: progress, open points, overrides, initials, last changes."""
    initials = margin.initials_on(return_, result)
    return {
        "reviews": signing_off.standing(return_, result),
        "progress": progress_of(return_.firm, result, initials),
        "overrides": [(row, result.get(row.address)) for row in return_.overrides.select_related("by")],
        "changes": [(one, ": ".join(what(result, one)[:2])) for one in return_.changes.select_related("by", "paper")[:8]],
        "points": [(note, result.get(note.address)) for note in return_.notes.select_related("by", "asked") if note.is_open],
        "initialed": [(rows, result.get(at)) for at, rows in initials.items()],
        "colleagues": return_.firm.staff.filter(is_active=True).exclude(pk=request.user.pk).order_by("name"),
        "may_hand": return_.stage in (Stage.GATHER, Stage.PREPARE, Stage.REVIEW),
    }


def _silenced(return_, result):
    """What the return would say were it not suppressed: (finding, who said so, for the whole practice or here)."""
    heard = set(result.findings)
    for one in result.all_findings:
        if one not in heard:
            here = return_.silenced.get(one.code)
            yield one, here or return_.firm.silenced.get(one.code, {}), bool(here)


def _export(form, return_, lines):
    heads = ["Weight", "Kind", "Code", "Says", "Rule", "Where", "Seen by", "Reason"]
    rows = [
        [line.finding.weight, KINDS.get(line.finding.kind, ""), line.finding.code, line.finding.says, line.finding.cites,
         line.where["title"], ", ".join(row.by.initials for row in line.seen), "; ".join(row.reason for row in line.seen)]
        for line in lines
    ]  # fmt: skip
    return export(form, f"diagnostics-{return_.pk}", heads, rows)


@require_POST
def sign_off(request, return_id):
    """The first or second review is done, or (`back`) is not after all."""
    try:
        if "back" in request.POST:
            signing_off.take_back(request.user, return_id)
        else:
            signing_off.sign_off(request.user, return_id)
    except signing_off.AlreadyReviewed as already:
        messages.info(request, already.says)
    return redirect("review", return_id)


@require_POST
def hand(request, return_id):
    """Give the return to a colleague."""
    to = request.POST.get("to", "")
    try:
        return_ = handing.hand_over(request.user, return_id, whole_number(to) or 0)
        messages.success(request, f"Assigned to {return_.waiting_for.name}.")
    except handing.CannotHand as error:
        messages.error(request, error.says)
    return redirect("review", return_id)


def mend(request, return_id):
    """A mend before it is made; with POST it is made, as an ordinary entered change that can be undone."""
    return_, result, context = open_page(request, return_id)
    given = request.POST if request.method == "POST" else request.GET
    finding = mending.finding_at(result, given.get("code", ""), given.get("at", ""))
    if finding is None:
        messages.info(request, "This diagnostic no longer applies.")
        return redirect("review", return_id)
    if request.method == "POST":
        if mending.make(request.user, return_, result, live_papers(return_), finding) is not None:
            messages.success(request, f"Done: {finding.mend.label}. Alt Z, or the button beside it, undoes it.")
        return redirect(f"{reverse('review', args=[return_id])}?made={finding.code}")
    moved, gone, come = mending.preview(return_, result, finding)
    context |= {"tab": "review", "sub": "review", "finding": finding, "moved": moved, "gone": gone, "come": come}
    return render(request, "review/mend.html", context)


@require_POST
def undo(request, return_id):
    """Take back the actor's own last change, from Review."""
    try:
        saved = undo_last(request.user, return_id)
        messages.success(request, saved.says + "." if saved else "You have nothing to undo.")
    except (Conflict, SomebodyElse):
        messages.error(request, "Not undone: a colleague changed it since. See History.")
    return redirect("review", return_id)


@require_POST
def silence(request, return_id):
    """Not to be heard on this return, or (`firm`) anywhere in the practice; or heard again."""
    code, why = request.POST.get("code", ""), request.POST.get("reason", "")
    try:
        if "again" in request.POST:
            silencing.hear_again_on_return(request.user, return_id, code)
        elif "firm" in request.POST:
            silencing.silence_for_firm(request.user, code, why)
            messages.success(request, "Suppressed for the whole practice. See the diagnostics catalog.")
        else:
            silencing.silence_on_return(request.user, return_id, code, why)
    except BadValue as bad:
        return review(request, return_id, 422, seen_error=bad.says, seen_at=(code, request.POST.get("at", "")), seen_typed=why)
    return redirect("review", return_id)


@require_POST
def mark_seen(request, return_id):
    """A reviewer puts a diagnostic aside, with a reason."""
    code, place, reason = (request.POST.get(name, "") for name in ("code", "at", "reason"))
    try:
        seeing.mark_seen(request.user, return_id, code, place, reason)
    except BadValue as bad:
        return review(request, return_id, 422, seen_error=bad.says, seen_at=(code, place), seen_typed=reason)
    return redirect("review", return_id)


@require_POST
def put_notice_away(request, return_id):
    """Until the return is opened again, or (with a reviewer's initials) for good."""
    key = request.POST.get("key", "")
    if "settle" in request.POST:
        notices.settle(request.user, return_id, key)
    else:
        fetch(Return.objects.all(), request.user, pk=return_id)
        away = request.session.get(f"put-away-{return_id}", [])
        request.session[f"put-away-{return_id}"] = [*away[-20:], key[:80]]
    return redirect(back_or(request, reverse("papers", args=[return_id])))
