"""The sheet of plans kept for a client, read and sent to the portal."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from practice.delivery import plan_sheets
from practice.delivery.models import PlanSheet
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.whatif.views import drawn


@require_POST
def keep(request, return_id):
    """Kept on the client's page; sent to the portal at once where that is asked."""
    try:
        sheet = plan_sheets.keep(request.user, return_id, drawn(request, return_id)[1])
        if "share" in request.POST:
            plan_sheets.share(request.user, sheet.pk)
        sent = ", and the clients are notified by email" if "share" in request.POST else ""
        messages.success(request, f"The plans are kept for the client as they are now{sent}.")
    except Cannot as cannot:
        messages.error(request, cannot.says)
    return redirect("what-if", return_id)


@require_POST
def share(request, sheet_id):
    try:
        sheet = plan_sheets.share(request.user, sheet_id)
        messages.success(request, "It is in the portal, and the clients are notified by email.")
    except Cannot as cannot:
        messages.error(request, cannot.says)
        sheet = fetch(PlanSheet.objects, request.user, pk=sheet_id)
    return redirect("household", sheet.of.household_id)


def read(request, sheet_id):
    sheet = fetch(PlanSheet.objects.select_related("of"), request.user, pk=sheet_id)
    require(request.user, "view", sheet)
    record(request.user, "plans read", sheet.of, says=sheet.name)
    return given_out(sheet)


def given_out(sheet):
    """The answer with the sheet."""
    response = HttpResponse(plan_sheets.read(sheet), content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="plans-{sheet.of.year}-{sheet.made_at:%Y-%m-%d}.pdf"'
    return response
