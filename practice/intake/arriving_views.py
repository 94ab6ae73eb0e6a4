"""Clients from elsewhere: a file brought, its columns named, looked at, and those who were chosen taken in."""

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm.numbers import whole_number
from practice.firm.packs import usual_pack
from practice.firm.permissions import require
from practice.intake import arriving, arriving_in
from practice.intake.models import Arrival
from taxcore.engine import BadValue


def bring(request):
    """The page to bring a file, and those that were brought lately."""
    require(request.user, "add clients")
    error = ""
    if request.method == "POST":
        file = request.FILES.get("file")
        try:
            if file is None:
                raise BadValue("Choose a file.", "")
            if file.size > arriving.LARGEST:
                raise BadValue(f"{file.name} is larger than {arriving.LARGEST / 1e6:.0f} MB.", "")
            return redirect("arrival", arriving.bring(request.user, file.name, file.read()).pk)
        except BadValue as bad:
            error = bad.says
    rows = Arrival.objects.for_firm(request.user.firm).select_related("by")[:20]
    return render(request, "intake/arrivals.html", {"rows": rows, "error": error}, status=422 if error else 200)


def arrival(request, arrival_id, status=200, error=""):
    """One file: its columns, what it holds, or what was taken in; asked again while a worker is at it."""
    row = arriving.find(request.user, arrival_id)
    under_way = row.state in (Arrival.State.READING, Arrival.State.TAKING)
    if request.htmx and under_way:
        done = sum(bool(item["says"]) for item in row.items)
        return HttpResponse(status=204) if request.GET.get("seen") == str(done) else _page(request, row, status, error)
    if request.htmx:
        return HttpResponse(headers={"HX-Refresh": "true"})
    return _page(request, row, status, error)


def _page(request, row, status, error):
    chosen = [item for item in row.items if item.get("chosen")]
    heads = row.sample[0] if row.sample else []
    known = arriving.columns_of(usual_pack()) if row.sample else {}
    context = {
        "row": row,
        "error": error,
        "under_way": row.state in (Arrival.State.READING, Arrival.State.TAKING),
        "columns": [
            {
                "at": at,
                "head": head,
                "chosen": row.columns.get(str(at), ""),
                "samples": [line[at] for line in row.sample[1:] if at < len(line)],
            }
            for at, head in enumerate(heads)
        ],
        "fields": [(name, words) for name, (_, words) in known.items()],
        "chosen": chosen,
        "done": sum(bool(item["says"]) for item in chosen),
        "fit": sum(not item["errors"] and not item["there"] for item in row.items),
        "bad": sum(bool(item["errors"]) for item in row.items),
        "made": [item["made"] for item in chosen if item["made"]],
    }
    template = "intake/_arrival.html" if request.htmx else "intake/arrival.html"
    return render(request, template, context, status=status)


@require_POST
def columns(request, arrival_id):
    """What each column of a list is."""
    given = {name.removeprefix("column-"): text for name, text in request.POST.items() if name.startswith("column-") and text}
    given = {at: name for at, name in given.items() if whole_number(at) is not None}
    try:
        row = arriving.choose_columns(request.user, arrival_id, given)
    except BadValue as bad:
        return arrival(request, arrival_id, 422, bad.says)
    return redirect("arrival", row.pk)


@require_POST
def take_in(request, arrival_id):
    places = {place for place in map(whole_number, request.POST.getlist("place")) if place is not None}
    try:
        row = arriving_in.ask_to_take_in(request.user, arrival_id, places)
    except BadValue as bad:
        return arrival(request, arrival_id, 422, bad.says)
    return redirect("arrival", row.pk)
