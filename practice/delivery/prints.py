"""Print sets of one return, and those of the practice."""

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils.http import content_disposition_header
from django.views.decorators.http import require_POST

from practice.delivery import printing
from practice.delivery.models import Printed
from practice.firm.events import record
from practice.firm.numbers import whole_number
from practice.firm.permissions import fetch, may, require
from practice.firm.refusals import Cannot
from practice.returns.page import open_page
from taxcore.engine import BadValue


def sets(request, return_id, status=200, **more):
    """What was made of this return, and what can be."""
    return_, _, context = open_page(request, return_id)
    context |= {
        "tab": "sign", "made": return_.printed.select_related("set", "asked_by"), "sets": printing.listed(return_.firm),
        "parts": printing.PARTS, "may_deliver": may(request.user, "deliver"),
    }  # fmt: skip
    return render(request, "delivery/sets.html", context | more, status=status)


@require_POST
def make(request, return_id):
    given = request.POST
    try:
        printing.ask(
            request.user, return_id, whole_number(given.get("set", "")), given.get("recipient", ""), given.get("password", "")
        )
    except (Cannot, BadValue) as refused:
        return sets(request, return_id, 422, refused=refused.says, typed=given)
    return redirect("print-sets", return_id)


@require_POST
def paper(request, return_id, authority):
    try:
        printing.ask_paper(request.user, return_id, authority)
    except Cannot as refused:
        return sets(request, return_id, 422, refused=refused.says)
    return redirect("print-sets", return_id)


def preview(request, return_id):
    """A set before it is made; nothing is kept."""
    given = request.GET
    try:
        made = printing.preview(request.user, return_id, whole_number(given.get("set", "")), given.get("recipient", ""))
    except (Cannot, BadValue) as refused:
        return sets(request, return_id, 422, refused=refused.says, typed=given)
    return HttpResponse(made, content_type="application/pdf")


@require_POST
def share(request, printed_id):
    try:
        printed = printing.share(request.user, printed_id)
        messages.success(request, "It is in the portal, and the clients are notified by email.")
    except Cannot as refused:
        messages.error(request, refused.says)
        printed = fetch(Printed.objects, request.user, pk=printed_id)
    return redirect("print-sets", printed.of_id)


def read(request, printed_id):
    printed = fetch(Printed.objects.select_related("of__household", "of__firm", "set"), request.user, pk=printed_id)
    require(request.user, "reveal" if not printed.set.masked else "view", printed)
    if printed.state != "ready":
        raise Http404
    record(request.user, "set read", printed.of, says=printed.set.name)
    return given_out(printed)


def given_out(printed):
    """The answer with a set's file."""
    kind = "application/zip" if printed.set.apart else "application/pdf"
    response = HttpResponse(printing.read(printed), content_type=kind)
    response["Content-Disposition"] = content_disposition_header(printed.set.apart, printed.file_name)
    return response


def practice(request, status=200, **more):
    """The practice's sets, and a new one."""
    require(request.user, "view")
    if request.method == "POST" and status == 200:
        return _keep(request)
    context = {
        "sets": [(one, [printing.PARTS[part] for part in one.parts]) for one in printing.listed(request.user.firm)],
        "parts": printing.PARTS, "may_administer": may(request.user, "administer"),
    }  # fmt: skip
    return render(request, "delivery/practice_sets.html", context | more, status=status)


def _keep(request):
    given = request.POST
    try:
        if "usual" in given:
            printing.begin_with_usual(request.user)
        else:
            order = sorted(given.getlist("part"), key=lambda part: whole_number(given.get(f"at-{part}", "")) or 99)
            printing.keep_set(
                request.user,
                given.get("name", ""),
                order,
                "masked" in given,
                given.get("watermark", ""),
                "apart" in given,
                "discloses" in given,
            )
    except BadValue as bad:
        return practice(request, 422, refused=bad.says, typed=given)
    messages.success(request, "Kept. Sets that were made stay as they are.")
    return redirect("practice-sets")


@require_POST
def end(request, set_id):
    printing.end_set(request.user, set_id)
    return redirect("practice-sets")
