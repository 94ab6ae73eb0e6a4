"""Statements go to their owners' portals."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_POST

from practice.delivery import stating
from practice.firm.refusals import Cannot


@require_POST
def deliver(request, return_id):
    try:
        count = stating.deliver(request.user, return_id, request.POST.getlist("statement"))
        messages.success(request, f"{count} being delivered: each owner is notified by email.")
    except Cannot as cannot:
        messages.error(request, cannot.says)
    return redirect("issued", return_id)


def given_out(statement):
    """The answer with its file."""
    response = HttpResponse(stating.read(statement), content_type="application/pdf")
    name = f"{statement.name}-{statement.of.year}.pdf".replace(" ", "-").replace(",", "")
    response["Content-Disposition"] = content_disposition_header(True, name)
    return response
