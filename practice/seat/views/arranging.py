"""Papers copied, repeated, moved about, filled from what is known; control totals."""

from django.contrib import messages
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.numbers import whole_number
from practice.firm.typed_values import money
from practice.returns import arranging, confirming
from practice.seat.views.save_response import go
from taxcore.engine import BadValue


@require_POST
def copy(request, return_id, paper_id):
    return _copied(request, return_id, paper_id, everything=True)


@require_POST
def repeat(request, return_id, paper_id):
    """Another paper from the same sender for the same person."""
    return _copied(request, return_id, paper_id, everything=False)


def _copied(request, return_id, paper_id, everything):
    try:
        return_, paper = arranging.copy_paper(request.user, return_id, paper_id, everything)
    except BadValue as bad:
        messages.error(request, bad.says)
        return go(request, reverse("paper", args=[return_id, paper_id]))
    return go(request, reverse("paper", args=[return_.pk, paper.pk]) + "#first-open")


@require_POST
def reorder(request, return_id, paper_id):
    arranging.reorder(request.user, return_id, paper_id, -1 if request.POST.get("by") == "-1" else 1)
    return redirect("paper", return_id, paper_id)


@require_POST
def confirm(request, return_id, paper_id):
    """What was brought along on this paper still holds."""
    confirming.confirm(request.user, return_id, paper_id)
    return redirect(reverse("paper", args=[return_id, paper_id]) + "#first-open")


@require_POST
def take_party(request, return_id, paper_id):
    try:
        arranging.take_party(request.user, return_id, paper_id)
    except BadValue as bad:
        messages.error(request, bad.says)
    return redirect(reverse("paper", args=[return_id, paper_id]) + "#first-open")


@require_POST
def control(request, return_id):
    """A control total as the client listed it."""
    kind = request.POST.get("kind", "")
    try:
        count, amount = _read_control(request.POST.get("count", ""), request.POST.get("amount", ""))
        arranging.set_control(request.user, return_id, kind, count, amount)
    except BadValue as bad:
        messages.error(request, bad.says)
    return redirect("grid", return_id, kind)


def _read_control(count, amount):
    number = whole_number(count, most=9999)
    if count.strip() and number is None:
        raise BadValue(f"How many papers there are is a whole number, not {count[:40]!r}.", count)
    return number, money(amount, "The control total") if amount.strip() else None
