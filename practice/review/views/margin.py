"""Initials and notes in a figure's margin."""

from django.shortcuts import render
from django.views.decorators.http import require_POST

from practice.firm.numbers import whole_number
from practice.returns.page import open_page
from practice.review import handing, margin
from taxcore.engine import BadValue


@require_POST
def set_initials(request, return_id):
    return _margin(request, return_id, lambda at: margin.set_initials(request.user, return_id, at))


@require_POST
def take_initials(request, return_id):
    return _margin(request, return_id, lambda at: margin.take_initials_back(request.user, return_id, at))


@require_POST
def add_note(request, return_id):
    text, asked = request.POST.get("text", ""), request.POST.get("asked", "")
    if "back" in request.POST:
        return _margin(request, return_id, lambda at: handing.send_back(request.user, return_id, at, text))
    return _margin(request, return_id, lambda at: margin.add_note(request.user, return_id, at, text, whole_number(asked)))


@require_POST
def close_note(request, return_id, note_id):
    answer = request.POST.get("answer", "")
    return _margin(request, return_id, lambda at: margin.close_note(request.user, return_id, note_id, answer))


def _margin(request, return_id, act):
    """Do something in a figure's margin and draw it again, with what was refused."""
    at, error = request.POST.get("at", ""), ""
    try:
        act(at)
    except (BadValue, handing.CannotHand) as bad:
        error = bad.says
    return_, result, context = open_page(request, return_id)
    context |= {"at": at, "margin_error": error, "margin_typed": request.POST.get("text", "") if error else ""}
    context |= margin.about_figure(request.user, return_, result, at)
    return render(request, "review/_margin.html", context, status=422 if error else 200)
