"""The track as pages show it, and what changes it by hand."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.permissions import may, require
from practice.firm.refusals import Cannot
from practice.pages.back import back_or
from practice.returns.models import Purpose, Stage
from practice.track import keeping
from practice.track.steps import COLUMNS, OUT, PRACTICE, columns
from taxcore.engine import BadValue


def at_head(return_, result):
    """The head of the pages about a return's way."""
    if return_.purpose == Purpose.PLANNING:
        return {}
    return {"track": whole(return_, result)}


def whole(return_, result=None):
    """Everything that the pad draws."""
    found = keeping.track_of(return_, result)
    there = {one.code for one in found["steps"] if one.state != OUT}
    return found | {
        "columns": columns(found["steps"]),
        "may_go": [(code, name) for code, name in PRACTICE.items() if code in there],
        "stages": COLUMNS,
        "now": found["next"].stage if found["next"] else return_.stage,
        "done": return_.stage == Stage.DONE,
    }


def _doing(request, return_id, do):
    try:
        do()
    except (Cannot, BadValue) as refused:
        messages.error(request, refused.says)
    return redirect(back_or(request, reverse("sign", args=[return_id])))


def practice(request):
    """The steps that the practice asks of every return; those that no return can do without stand beside them."""
    require(request.user, "view")
    if request.method == "POST":
        keeping.set_steps(request.user, request.POST.getlist("step"))
        messages.success(request, "Kept. It holds for every return from now on.")
        return redirect("practice-steps")
    context = {"steps": PRACTICE, "firm": request.user.firm, "may_administer": may(request.user, "administer")}
    return render(request, "track/practice.html", context)


@require_POST
def leave_out(request, return_id):
    given = request.POST
    return _doing(
        request, return_id, lambda: keeping.leave_out(request.user, return_id, given.get("step", ""), given.get("why", ""))
    )


@require_POST
def take_back(request, return_id):
    return _doing(request, return_id, lambda: keeping.take_back(request.user, return_id, request.POST.get("step", "")))


@require_POST
def add_step(request, return_id):
    given = request.POST
    values = [given.get(name, "") for name in ("stage", "name", "why")]
    return _doing(request, return_id, lambda: keeping.add_step(request.user, return_id, *values))


@require_POST
def mark_step(request, return_id, step_id):
    does = request.POST.get("does", "done")
    return _doing(
        request, return_id, lambda: keeping.mark_step(request.user, return_id, step_id, does == "done", does == "remove")
    )
