"""Documents that came by themselves: looked at, sorted to returns, or discarded."""

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET

from practice.firm.events import record
from practice.firm.numbers import whole_number
from practice.firm.permissions import may, require
from practice.firm.refusals import Cannot
from practice.intake import fetching, incoming
from practice.pages.refusing import said_on
from practice.returns.models import Return, Stage

_NAMES = 400  # clients that are offered while typing


def listed(request, status=200, **more):
    """What waits, each with its first page and whose it may be."""
    require(request.user, "view")
    rows = list(incoming.waiting(request.user)[:60])
    names = Return.objects.for_staff(request.user).exclude(stage=Stage.DONE).values_list("household__name", "year")
    context = {
        "rows": [(row, incoming.returns_of(request.user, row)) for row in rows],
        "names": names.order_by("household__name")[:_NAMES],
        "address": fetching.address_of(request.user.firm), "firm": request.user.firm, "may_key": may(request.user, "key"),
        "reading": any(row.state == "reading" for row in rows),
    }  # fmt: skip
    return render(request, "intake/incoming.html", context | more, status=status)


@said_on(listed)
def sort(request, token):
    given = request.POST
    chosen = whole_number(given.get("return", ""))
    if chosen is None:
        chosen = incoming.named(request.user, given.get("client", "")).pk
    incoming.sort(request.user, token, chosen)
    return redirect("incoming")


@said_on(listed)
def discard(request, token):
    incoming.discard(request.user, token, request.POST.get("why", ""))
    return redirect("incoming")


@require_GET
def picture(request, token):
    """The first page; seeing it is recorded, since it may show anything."""
    try:
        made = incoming.picture_of(request.user, token)
    except Cannot as cannot:
        return render(request, "intake/undrawn.svg", {"says": cannot.says}, content_type="image/svg+xml", status=422)
    record(request.user, "document viewed", firm=request.user.firm, says="came in, not sorted yet")
    return HttpResponse(made, content_type="image/png")
