"""What a return issues to others, and what others issued to it and say otherwise by now."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.delivery import stating
from practice.firm.permissions import may
from practice.firm.refusals import Cannot
from practice.returns import issuing
from practice.returns.page import open_page


def issued(request, return_id):
    """The page."""
    return_, result, context = open_page(request, return_id)
    handings = issuing.handings_of(return_, result, request.user)
    statements = stating.statements_of(return_, result, request.user)
    context |= {
        "tab": "issued",
        "handings": handings,
        "moved": issuing.moved_by(handings),
        "differing": issuing.differing_on(return_),
        "any_open": any(one.is_open for one in handings),
        "statements": statements,
        "any_statement_open": any(one.is_open for one in statements),
        "may_deliver": may(request.user, "deliver"),
    }
    return render(request, "returns/issued.html", context)


@require_POST
def hand_out(request, return_id):
    try:
        count = issuing.hand_out(request.user, return_id, request.POST.getlist("paper"))
        messages.success(request, f"{count} handed out.")
    except Cannot as cannot:
        messages.error(request, cannot.says)
    return redirect("issued", return_id)


@require_POST
def take(request, return_id):
    try:
        count = issuing.take(request.user, return_id)
        messages.success(request, f"{count} taken over.")
    except Cannot as cannot:
        messages.error(request, cannot.says)
    return redirect("issued", return_id)
