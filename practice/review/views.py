"""Return / Review: diagnostics by weight, overrides."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from practice.firm.permissions import fetch
from practice.returns import entry
from practice.returns.addresses import place_of
from practice.returns.models import Return, Stage
from practice.returns.views.changes import what
from practice.returns.views.common import live_papers, open_page
from practice.review import handing, margin, notices, seeing
from practice.web.lists import export
from taxcore.engine import BadValue

WEIGHTS = (("stops", "Stops filing"), ("check", "Check"), ("idea", "Idea"))


def review(request, return_id, status=200, **more):
    return_, result, context = open_page(request, return_id)
    papers = live_papers(return_)
    shown = [(finding, _where(return_, papers, result, finding)) for finding in result.findings]
    seen = seeing.seen_in(return_, result)
    open_ones = [pair for pair in shown if (pair[0].code, pair[0].at[0]) not in seen]
    if form := request.GET.get("as"):
        heads = ["Weight", "Code", "Says", "Rule", "Where"]
        rows = [[one.weight, one.code, one.says, one.cites, where["title"]] for one, where in shown]
        return export(form, f"diagnostics-{return_.pk}", heads, rows)
    context |= {
        "tab": "review",
        "weights": [(code, name, [pair for pair in open_ones if pair[0].weight == code]) for code, name in WEIGHTS],
        "seen": [(*pair, seen[key]) for pair in shown if (key := (pair[0].code, pair[0].at[0])) in seen],
        "overrides": [(row, result.get(row.address)) for row in return_.overrides.select_related("by")],
        "changes": [(one, ": ".join(what(result, one)[:2])) for one in return_.changes.select_related("by", "paper")[:12]],
        "nothing": not shown,
        "points": [(note, result.get(note.address)) for note in return_.notes.select_related("by", "asked") if note.is_open],
        "initialled": [(rows, result.get(at)) for at, rows in margin.initials_on(return_, result).items()],
        "colleagues": return_.firm.staff.filter(is_active=True).exclude(pk=request.user.pk).order_by("name"),
        "may_hand": return_.stage in (Stage.GATHER, Stage.PREPARE, Stage.REVIEW),
    }
    return render(request, "review/review.html", context | more, status=status)


def _where(return_, papers, result, finding):
    """Where the first place of a finding is mended: its url, or the kind of paper to add first."""
    at = finding.at[0]
    place = place_of(papers, result, at)
    if place is not None:
        paper, path, title = place
        url = f"{reverse('paper', args=[return_.pk, paper.pk])}#f-{paper.pk}-{path.replace('.', '-')}"
        return {"title": title, "url": url}
    for kind in result.run.pack.papers:
        if kind.single and at.startswith(f"{kind.jurisdiction}.{kind.kind}."):
            return {"title": kind.name, "kind": kind.kind}
    cell = result.get(at)
    title = f"{cell.node.title} {cell.number}".strip() if cell else at
    return {"title": title, "url": f"{reverse('forms', args=[return_.pk])}?at={at}"}


@require_POST
def hand(request, return_id):
    """Give the return to a colleague."""
    to = request.POST.get("to", "")
    try:
        return_ = handing.hand_over(request.user, return_id, int(to) if to.isdigit() else 0)
        messages.success(request, f"Handed to {return_.waiting_for.name}.")
    except handing.CannotHand as error:
        messages.error(request, error.says)
    return redirect("review", return_id)


@require_POST
def mend(request, return_id):
    """Make the change that a diagnostic offers, as an ordinary keyed change."""
    return_, result, _ = open_page(request, return_id)
    code, at = request.POST.get("code", ""), request.POST.get("at", "")
    finding = next((found for found in result.findings if found.code == code and found.at[0] == at and found.mend), None)
    place = place_of(live_papers(return_), result, finding.mend.address) if finding else None
    if place is not None:
        paper, path, _ = place
        now = entry.place_at(result.run.pack, paper, path).plain
        entry.save_field(request.user, return_id, paper.pk, path, finding.mend.value, now)
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
    back = request.POST.get("back", "")
    safe = url_has_allowed_host_and_scheme(back, {request.get_host()})
    return redirect(back if safe else reverse("papers", args=[return_id]))


@require_POST
def set_initials(request, return_id):
    return _margin(request, return_id, lambda at: margin.set_initials(request.user, return_id, at))


@require_POST
def take_initials(request, return_id):
    return _margin(request, return_id, lambda at: margin.take_initials_back(request.user, return_id, at))


@require_POST
def add_note(request, return_id):
    text, asked = request.POST.get("text", ""), request.POST.get("asked", "")
    return _margin(
        request, return_id, lambda at: margin.add_note(request.user, return_id, at, text, int(asked) if asked.isdigit() else None)
    )


@require_POST
def close_note(request, return_id, note_id):
    answer = request.POST.get("answer", "")
    return _margin(request, return_id, lambda at: margin.close_note(request.user, return_id, note_id, answer))


def _margin(request, return_id, act):
    """Do something in a figure's margin and draw it again, with what was refused."""
    at, error = request.POST.get("at", ""), ""
    try:
        act(at)
    except BadValue as bad:
        error = bad.says
    return_, result, context = open_page(request, return_id)
    context |= {"at": at, "margin_error": error, "margin_typed": request.POST.get("text", "") if error else ""}
    context |= margin.about_figure(request.user, return_, result, at)
    return render(request, "review/_margin.html", context, status=422 if error else 200)
