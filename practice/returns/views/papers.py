"""Return / Papers: the index, the paper being keyed, the ripple."""

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from practice.firm.crypto import unseal
from practice.firm.events import record
from practice.firm.permissions import require
from practice.returns import entry
from practice.returns.addresses import place_of
from practice.returns.computing import pack_of
from practice.returns.drawing import differing_fields, history_view, paper_view, ripple_view
from practice.returns.lineage import lineage_of
from practice.returns.presence import note_presence, others_in
from practice.returns.views.common import index_of, live_papers, open_page, shared
from taxcore.engine import BadValue


def papers(request, return_id, paper_id=None):
    """The page. Without a paper it opens the first one that can be keyed."""
    return_, result, context = open_page(request, return_id)
    note_presence(request.user, return_)
    listed = live_papers(return_)
    paper = next((paper for paper in listed if paper.pk == paper_id), None) if paper_id else _first(listed)
    if paper_id and paper is None:
        return redirect("papers", return_id)
    context |= {
        "tab": "papers",
        "groups": index_of(return_, result, paper),
        "view": paper_view(return_, paper, result) if paper else None,
        "kinds": _kinds(return_, listed),
        "taken_out": return_.papers.exclude(removed_at=None).order_by("-removed_at").first(),
    }
    if at := request.GET.get("at"):
        context["lineage"] = lineage_of(result, at)
    return render(request, "returns/papers.html", context)


def _first(listed):
    return next((paper for paper in listed if paper.kind not in ("person", "filing")), listed[0] if listed else None)


def _kinds(return_, listed):
    there = {paper.kind for paper in listed}
    of_year = [kind for kind in pack_of(return_).papers if kind.since <= return_.year <= kind.until]
    wanted = [kind for kind in of_year if not (kind.single and kind.kind in there)]
    people = [{"kind": pack_of(return_).people.kind, "name": "Dependant", "official": ""}]
    if not any(paper.values.get("role") == "spouse" for paper in listed):
        people.insert(0, {"kind": "spouse", "name": "Spouse", "official": ""})
    groups = {"people": people}
    for kind in wanted:
        groups.setdefault(kind.group, []).append({"kind": kind.kind, "name": kind.name, "official": kind.official})
    names = pack_of(return_).groups
    return [(names[code], groups[code]) for code in names if code in groups]


@require_POST
def save(request, return_id, paper_id):
    """One field, after it was left: the field again, all that it moved, or what is wrong with it."""
    path, typed, was = request.POST.get("path", ""), request.POST.get("value", ""), request.POST.get("was", "")
    try:
        saved = entry.save_field(request.user, return_id, paper_id, path, typed, was)
    except BadValue as bad:
        return _field_again(request, return_id, paper_id, path, typed, 422, error=bad.says)
    except entry.Conflict as conflict:
        return _field_again(request, return_id, paper_id, path, typed, 409, conflict=conflict)
    return _moved(request, saved)


def _field_again(request, return_id, paper_id, path, typed, status, error="", conflict=None):
    """The field alone, with what was typed kept in it."""
    return_, result, context = open_page(request, return_id)
    paper = get_object_or_404(return_.papers, pk=paper_id)
    field = _find(paper_view(return_, paper, result), path)
    field.error, field.typed, field.conflict = error, typed, conflict
    template = "returns/_cell.html" if "." in path else "returns/_field.html"
    return render(request, template, context | {"field": field}, status=status)


def _find(view, path):
    fields = [*view.fields, *([view.owner] if view.owner else [])]
    fields += [field for table in view.tables for _, row in table.rows for field in row]
    return next(field for field in fields if field.path == path)


def _moved(request, saved, whole=False):
    """After a change: the fields of this paper that look different now, index, ripple, bottom line."""
    context = shared(request, saved.return_, saved.after, saved.before)
    context |= {
        "groups": index_of(saved.return_, saved.after, saved.paper),
        "view": paper_view(saved.return_, saved.paper, saved.after, with_fields=whole),
        "ripple": ripple_view(saved.before, saved.after, saved.says),
        "whole": whole,
        "path": saved.path,
        "fields": [] if whole else differing_fields(saved.return_, saved.paper, saved.before, saved.after, saved.path),
    }
    if at := request.POST.get("at"):
        return _beside_form(request, saved, context, at)
    return render(request, "returns/_moved.html", context)


def _beside_form(request, saved, context, at):
    """A correction made from the lineage panel: the panel and the form are drawn again."""
    from practice.returns.views.forms import form_context

    context |= form_context(saved.return_, saved.after, request.POST.get("form", ""), at)
    return render(request, "returns/_corrected.html", context)


@require_POST
def add(request, return_id):
    kind, owner = request.POST.get("kind", ""), request.POST.get("owner", "")
    if kind == "spouse":
        return_, paper = entry.add_spouse(request.user, return_id)
    else:
        return_, paper = entry.add_paper(request.user, return_id, kind, owner)
    return _go(request, reverse("paper", args=[return_.pk, paper.pk]))


@require_POST
def remove(request, return_id, paper_id):
    entry.remove_paper(request.user, return_id, paper_id)
    return _go(request, reverse("papers", args=[return_id]))


@require_POST
def restore(request, return_id, paper_id):
    entry.restore_paper(request.user, return_id, paper_id)
    return _go(request, reverse("paper", args=[return_id, paper_id]))


@require_POST
def undo(request, return_id):
    """Take back my last keyed field and go to it."""
    try:
        saved = entry.undo_last(request.user, return_id)
    except entry.Conflict:
        return HttpResponse("Somebody changed that field since; look at its history.", status=409)
    if saved is None:
        return HttpResponse(status=204)
    return _go(request, reverse("paper", args=[return_id, saved.paper.pk]))


def _go(request, url):
    if not request.htmx:
        return redirect(url)
    return HttpResponse(headers={"HX-Redirect": url})


@require_POST
def add_row(request, return_id, paper_id):
    return _moved(request, entry.add_row(request.user, return_id, paper_id, request.POST.get("rows", "")), whole=True)


@require_POST
def remove_row(request, return_id, paper_id):
    rows, row = request.POST.get("rows", ""), request.POST.get("row", "")
    return _moved(request, entry.remove_row(request.user, return_id, paper_id, rows, row), whole=True)


@require_POST
def reveal(request, return_id, paper_id):
    """A secret value in plain, once, and an event that it was looked at."""
    return_, _, _ = open_page(request, return_id)
    require(request.user, "reveal", return_)
    paper = get_object_or_404(return_.papers, pk=paper_id)
    place = entry.place_at(pack_of(return_), paper, request.POST.get("path", ""))
    record(request.user, "number shown", return_, says=f"{place.declared.label}", path=place.path, paper=paper.pk)
    return render(request, "returns/_revealed.html", {"value": unseal(place.stored)})


@require_GET
def presence(request, return_id):
    """Renewed by the page while it is open."""
    return_, _, _ = open_page(request, return_id)
    note_presence(request.user, return_)
    return render(request, "returns/_presence.html", {"others": others_in(return_, request.user), "return": return_})


@require_GET
def lineage(request, return_id):
    """The side panel for one figure: its lineage, and for a paper's field who keyed it when."""
    return_, result, context = open_page(request, return_id)
    at = request.GET.get("at", "")
    context |= {"lineage": lineage_of(result, at), "fields": [], "history": None}
    if place := place_of(live_papers(return_), result, at):
        paper, path, _ = place
        keyed_by = paper.provenance.get(path, {}).get("by", "")
        context |= {"history": history_view(paper, path), "keyed_by": keyed_by, "narrow": True}
    return render(request, "returns/_lineage.html", context)


def download(request, return_id):
    """The return as a document of the open format. Looked-at numbers are in it, so it is an event."""
    from practice.returns.computing import data_of
    from taxcore.engine import document

    return_, _, _ = open_page(request, return_id)
    require(request.user, "reveal", return_)
    record(request.user, "return exported", return_)
    response = HttpResponse(_json(document.write(data_of(return_))), content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="return-{return_.pk}-{return_.year}.json"'
    return response


def _json(value):
    import json

    return json.dumps(value, indent=1, ensure_ascii=False)
