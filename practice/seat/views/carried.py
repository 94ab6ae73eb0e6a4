"""What a return has from the one of the year before: what waits to be confirmed, what that one says otherwise now, what was left
behind."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.numbers import whole_number
from practice.returns import confirming, taking_over
from practice.returns.computing import BROUGHT, pack_of
from practice.returns.drawing import paper_view
from practice.returns.family import family_of
from practice.returns.page import live_papers, open_page
from practice.seat.views.save_response import moved


def carried(request, return_id):
    """The page."""
    return_, result, context = open_page(request, return_id)
    origin = taking_over.origin_of(return_)
    groups = _waiting(return_, result)
    context |= {
        "tab": "papers",
        "origin": origin,
        "groups": groups,
        "count": sum(len(fields) for _, _, papers in groups for _, fields in papers),
        "differences": taking_over.differences(return_),
        "family": family_of(return_.household, return_.pk),
    }
    return render(request, "returns/carried.html", context)


def _waiting(return_, result):
    """[(code and name of a group, ids of its papers, [(paper as drawn, its fields that wait)])] in working order."""
    pack, found = pack_of(return_), {}
    for paper in live_papers(return_):
        if not confirming.brought_paths(paper):
            continue
        view = paper_view(return_, paper, result)
        fields = [field for field in view.fields if field.how == BROUGHT]
        fields += [field for table in view.tables for _, row in table.rows for field in row if field.how == BROUGHT]
        found.setdefault(pack.paper(paper.kind).group, []).append((view, fields))
    return [
        (name, [view.paper.pk for view, _ in found[code]], found[code]) for code, name in pack.groups.items() if code in found
    ]


@require_POST
def confirm_field(request, return_id, paper_id):
    """One field still holds."""
    return moved(request, confirming.confirm(request.user, return_id, paper_id, request.POST.get("path", "")))


@require_POST
def confirm_some(request, return_id):
    """Papers that were chosen, a group, or all that was shown."""
    papers = {pk for pk in map(whole_number, request.POST.getlist("paper")) if pk is not None}
    count = confirming.confirm_many(request.user, return_id, papers)
    messages.success(request, f"{count} values confirmed." if count else "Nothing waited there.")
    return redirect("carried", return_id)


@require_POST
def take(request, return_id):
    """What the year before says now: taken over, all or what was chosen; or left as it is here."""
    if request.POST.get("leave") == "yes":
        count = taking_over.let_be(request.user, return_id)
        messages.success(request, f"{count} differences left as they are here.")
    else:
        marks = request.POST.getlist("mark") or None
        count = taking_over.take_over(request.user, return_id, marks)
        messages.success(request, f"{count} fields taken over.")
    return redirect(reverse("carried", args=[return_id]))
