"""A plan: made from a return, held against the filing return, turned into it."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm.permissions import may
from practice.firm.refusals import Cannot
from practice.returns import planning
from practice.returns.family import family_of
from practice.returns.models import Purpose
from practice.returns.page import open_page


def plan(request, return_id):
    """What this plan is, what it would be as the filing return, what it has otherwise than the filing return."""
    return_, result, context = open_page(request, return_id)
    if return_.purpose != Purpose.PLANNING:
        return redirect("sign", return_.pk)
    filing = planning.filing_of(return_)
    waiting = sum(len(paper.carried) for paper in (*result.run.people(), *result.run.all_papers()))
    context |= {
        "tab": "sign",
        "filing": filing,
        "others": list(planning.others(return_, filing)) if filing is not None else [],
        "origin": return_.origin,
        "stopping": result.counts["stops"],
        "waiting": waiting,
        "family": family_of(return_.household, return_.pk),
        "may_open": may(request.user, "open"),
    }
    return render(request, "returns/plan.html", context)


@require_POST
def make(request, return_id):
    """A plan of this return's year, or of the next."""
    try:
        made = planning.plan(request.user, return_id, 1 if request.POST.get("year") == "next" else 0)
    except Cannot as cannot:
        messages.error(request, cannot.says)
        return redirect("papers", return_id)
    messages.success(request, f"A plan of {made.year}. Nothing in it is due, counted or filed.")
    return redirect("papers", made.pk)


@require_POST
def make_filing(request, return_id):
    try:
        return_ = planning.make_filing(request.user, return_id)
    except planning.NotPlanned as cannot:
        messages.error(request, cannot.says)
        return redirect("plan", return_id)
    messages.success(request, f"This is the filing return of {return_.year} now.")
    return redirect("papers", return_.pk)


@require_POST
def take(request, return_id):
    """Fields of the plan into the filing return."""
    try:
        count = planning.take_into_filing(request.user, return_id, set(request.POST.getlist("mark")))
    except planning.NotPlanned as cannot:
        messages.error(request, cannot.says)
    else:
        messages.success(request, f"{count} fields taken into the filing return." if count else "Choose what to take.")
    return redirect("plan", return_id)
