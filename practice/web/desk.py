"""Desk: the returns in my care by stage, what waits for whom, what is due, what happened."""

from datetime import timedelta
from urllib.parse import urlencode

from django.core.paginator import Paginator
from django.db.models import Count, Q
from django.shortcuts import render
from django.utils import timezone

from practice.firm.models import Event
from practice.firm.permissions import require
from practice.pages.lists import export, sorted_by
from practice.returns.leaving import without_left
from practice.returns.models import Return, Stage, counted

_SORTS = {"due": "due", "household": "household__name", "year": "year", "stage": "stage", "together": "together"}
_SORT_NAMES = (
    ("due", "by due date"), ("household", "by household"), ("stage", "by stage"),
    ("-together", "largest refund"), ("together", "largest balance"),
)  # fmt: skip
_SHOWN = [stage for stage in Stage if stage != Stage.DONE]
_NEWS = ["signed", "accepted", "rejected", "package downloaded", "identity not verified", "portal link refused",
         "signatures void", "package ready", "client replied", "letter signed", "message from the client"]  # fmt: skip
_PAGE = 60
_WAITS = {  # for whom a return waits
    "client": "waiting for the client", "week": "for the client, over a week", "office": "waiting for the office",
    "authority": "waiting for an authority",
}  # fmt: skip


def desk(request):
    """The page; with htmx only the list, for search as one types."""
    require(request.user, "view")
    everything = without_left(counted(Return.objects.for_staff(request.user)), request.user.firm)
    of_old = request.GET.get("years") == "all"
    if not of_old:  # finished returns of earlier seasons are nobody's work any more
        everything = everything.filter(Q(year__gte=request.user.firm.season) | ~Q(stage=Stage.DONE))
    scope = request.GET.get("of", "mine")
    totals = everything.aggregate(
        mine=Count("id", filter=Q(preparer=request.user)),
        waiting=Count("id", filter=Q(waiting_for=request.user)),
        everyone=Count("id"),
        clients=Count("id", filter=Q(track__waits="client")),
        rejected=Count("id", filter=Q(stage=Stage.FILE, state_note="rejected")),
        filed=Count("id", filter=Q(stage__in=[Stage.DELIVER, Stage.DONE])),
    )
    if scope == "mine" and not totals["mine"]:
        scope = "everyone"
    rows = _chosen(request, everything, scope)
    if kind := request.GET.get("as"):
        return _export(kind, rows)
    page = Paginator(sorted_by(rows, request, _SORTS, "due"), _PAGE).get_page(request.GET.get("page"))
    today, by_stage = request.user.firm.today(), dict(rows.order_by().values_list("stage").annotate(Count("id")))
    context = {
        "page": page,
        "rows": [_row(return_, today) for return_ in page],
        "stages": [(stage, by_stage.get(stage.value, 0)) for stage in _SHOWN],
        "totals": totals,
        "scope": scope,
        "q": request.GET.get("q", ""),
        "sort": request.GET.get("sort", "due"),
        "sorts": _SORT_NAMES,
        "stage": request.GET.get("stage", ""),
        "of_old": of_old,
        "waits": request.GET.get("waits", ""),
        "whom": _WAITS,
        "kept": urlencode({n: t for n in ("years", "q", "stage", "waits") if (t := request.GET.get(n))} | {"of": scope}),
        "today": request.user.firm.today(),
    }
    if request.htmx:
        return render(request, "web/_desk_list.html", context)
    context |= {"news": _news(request), "due": _due_chart(everything, request.user.firm.today())}
    return render(request, "web/desk.html", context)


def _chosen(request, everything, scope):
    rows = everything.select_related("household", "track")
    if scope == "mine":
        rows = rows.filter(preparer=request.user)
    elif scope == "waiting":
        rows = rows.filter(waiting_for=request.user)
    if words := request.GET.get("q", "").strip():
        rows = rows.filter(household__name__icontains=words)
    if request.GET.get("stage") in Stage.values:
        rows = rows.filter(stage=request.GET["stage"])
    if (waits := request.GET.get("waits", "")) in _WAITS:
        rows = rows.filter(track__waits="client" if waits == "week" else waits)
        if waits == "week":
            rows = rows.filter(track__since__lt=request.user.firm.today() - timedelta(days=7))
    return rows


def _row(return_, today):
    """One line of the pad: a cell for each stage with its day or what is going on."""
    cells = []
    for stage in _SHOWN:
        now = return_.stage == stage
        note = return_.state_note if now else ""
        css = "bad" if note == "rejected" else "now" if now else ""
        cells.append(
            {"day": return_.stages.get(stage.value, ""), "now": now, "note": note or ("to do" if now else ""), "css": css}
        )
    track = getattr(return_, "track", None)
    days = (today - track.since).days if track else 0
    return {"return": return_, "cells": cells, "done": return_.stage == Stage.DONE, "track": track, "days": days}


def _news(request):
    since = timezone.now() - timedelta(days=4)
    events = Event.objects.for_staff(request.user).filter(what__in=_NEWS, at__gt=since)
    folded = {}  # what a client did five times stands once
    for event in events.select_related("household", "of")[:60]:
        first = folded.setdefault((event.household_id, event.of_id, event.what), event)
        first.times = getattr(first, "times", 0) + 1
    return list(folded.values())[:8]


def _due_chart(everything, today):
    """Open returns by the week they are due, for the next ten weeks: bars ready to draw."""
    monday = today - timedelta(days=today.weekday())
    open_rows = everything.exclude(stage=Stage.DONE).filter(due__gte=monday, due__lt=monday + timedelta(weeks=10))
    counted = [0] * 10
    for due, number in open_rows.order_by().values_list("due").annotate(Count("id")):
        counted[(due - monday).days // 7] += number
    most = max([*counted, 1])
    late = everything.filter(due__lt=monday).exclude(stage__in=[Stage.DONE, Stage.DELIVER]).count()
    bars = [
        {"x": 14 + week * 27, "height": round(84 * number / most), "y": 120 - round(84 * number / most), "number": number,
         "day": monday + timedelta(weeks=week)}
        for week, number in enumerate(counted)
    ]  # fmt: skip
    return {"bars": bars, "late": late, "any": any(counted)}


def _export(kind, rows):
    heads = ["Household", "Year", "Authorities", "Stage", "Note", "Together", "Due", "Waits for", "Since"]
    names = dict(Stage.choices)
    fields = ("household__name", "year", "authorities", "stage", "state_note", "together", "due", "track__waits", "track__since")
    listed = rows.order_by("due", "household__name").values_list(*fields)  # thousands of them need no objects
    data = ((*row[:3], names[row[3]], *row[4:]) for row in listed.iterator(chunk_size=2000))
    return export(kind, "desk", heads, data)
