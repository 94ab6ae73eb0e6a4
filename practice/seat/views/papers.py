"""Return / Papers: the index, the paper being entered, the ripple."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from practice.firm.events import record
from practice.firm.numbers import whole_number
from practice.firm.permissions import may, require
from practice.gather.requesting import said_of
from practice.intake.attaching import attached_to
from practice.pages.recent import note_recent
from practice.returns import entry, undoing
from practice.returns.additions import own_pages
from practice.returns.computing import pack_of
from practice.returns.drawing import node_of, paper_view, row_fields, some_rows
from practice.returns.index import index_view
from practice.returns.kinds import kinds_of
from practice.returns.lineage import lineage_of
from practice.returns.page import live_papers, open_page
from practice.returns.presence import note_presence, others_in
from practice.returns.ripple_bases import BASES, note_opening
from practice.seat.views.save_response import base_of, go, moved
from taxcore.engine import BadValue, Rows


def papers(request, return_id, paper_id=None):
    """The page. Without a paper it opens the first one that can be entered."""
    return_, result, context = open_page(request, return_id)
    note_presence(request.user, return_)
    note_opening(request.user, return_, result)
    listed = live_papers(return_)
    paper = next((paper for paper in listed if paper.pk == paper_id), None) if paper_id else _first(listed)
    if paper_id and paper is None:
        return redirect("papers", return_id)
    if paper is not None:
        note_recent(request, f"{node_of(paper, result).title}, {return_.household.name}")
    context |= {
        "tab": "papers",
        "groups": index_view(return_, listed, result),
        "current": paper.pk if paper else None,
        "view": paper_view(return_, paper, result) if paper else None,
        "kinds": _kinds(return_, listed),
        "bases": BASES,
        "base": base_of(request),
        "said_here": said_of(paper),
        "may_ask": may(request.user, "ask clients"),
    } | attached_to(return_, paper)
    if at := request.GET.get("at"):
        context["lineage"] = lineage_of(result, at)
    return render(request, "returns/papers.html", context)


def _first(listed):
    known = {kind.kind: kind for kind in pack_of(listed[0].of).papers if not kind.always} if listed else {}
    return next((paper for paper in listed if paper.kind in known), listed[0] if listed else None)


def _kinds(return_, listed):
    there = {paper.kind for paper in listed}
    wanted = [kind for kind in kinds_of(return_) if not (kind.single and kind.kind in there)]
    declared = pack_of(return_).people
    coupled = any(paper.values.get("role") == "spouse" for paper in listed)
    people = [
        {"kind": "spouse" if role == "spouse" else declared.kind, "name": name, "official": ""}
        for role, name in declared.adds.items()
        if role != "spouse" or not coupled
    ]
    groups = {"people": people} if people else {}
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
    return moved(request, saved)


def _field_again(request, return_id, paper_id, path, typed, status, error="", conflict=None):
    """The field alone, with what was typed kept in it."""
    return_, result, context = open_page(request, return_id)
    paper = get_object_or_404(return_.papers, pk=paper_id)
    field = _find(return_, paper, result, path, typed)
    field.error, field.typed, field.conflict = error, typed, conflict
    in_table = request.POST.get("table") == "1"
    template = "returns/_cell.html" if in_table or field.celled else "returns/_field.html"
    return render(request, template, context | {"field": field, "in_table": in_table}, status=status)


def _find(return_, paper, result, path, typed):
    """The field as a page draws it; FieldGone where the page would not draw it any more."""
    node = node_of(paper, result)
    if "." in path:
        rows, key, _ = path.split(".")
        row = next((row for row in node.cell(rows).value if row.key == key), None)
        fields = row_fields(return_, paper, row, rows, {}) if row is not None else ()
    else:
        view = paper_view(return_, paper, result)
        fields = (*view.fields, view.owner)
    found = next((field for field in fields if field is not None and field.path == path), None)
    if found is None:
        raise entry.FieldGone(path, typed)
    return found


@require_POST
def add(request, return_id):
    kind, owner = request.POST.get("kind", ""), request.POST.get("owner", "")
    if kind == "spouse":
        return_, paper = entry.add_spouse(request.user, return_id)
    else:
        return_, paper = entry.add_paper(request.user, return_id, kind, owner)
    return go(request, reverse("paper", args=[return_.pk, paper.pk]) + "#first-open")


@require_POST
def remove(request, return_id, paper_id):
    saved = entry.remove_paper(request.user, return_id, paper_id)
    messages.success(request, f"{saved.says}.", extra_tags=f"restore:{paper_id}")
    return go(request, reverse("papers", args=[return_id]))


@require_POST
def restore(request, return_id, paper_id):
    entry.restore_paper(request.user, return_id, paper_id)
    return go(request, reverse("paper", args=[return_id, paper_id]))


@require_POST
def undo(request, return_id):
    """Take back my last change and go to it, or stay on the page that asked."""
    back = request.POST.get("back", "")
    papers = reverse(back if back in own_pages() else "papers", args=[return_id])
    try:
        saved = undoing.undo_last(request.user, return_id)
    except (entry.Conflict, undoing.SomebodyElse):
        messages.error(request, "A colleague changed it since, so it was not undone. See History.")
        return go(request, papers)
    if saved is None:
        messages.error(request, "You have nothing to undo.")
        return go(request, papers)
    messages.success(request, f"{saved.says}.")
    if back or saved.paper.removed_at:
        return go(request, papers)
    field = f"#f-{saved.paper.pk}-{saved.path.replace('.', '-')}" if saved.path else ""
    # The version makes it another address: a browser that is there already would only jump to the field and show what was
    return go(request, f"{reverse('paper', args=[return_id, saved.paper.pk])}?undone={saved.return_.version}{field}")


@require_POST
def add_row(request, return_id, paper_id):
    return moved(request, entry.add_row(request.user, return_id, paper_id, request.POST.get("rows", "")), whole=True)


@require_POST
def remove_row(request, return_id, paper_id):
    rows, row = request.POST.get("rows", ""), request.POST.get("row", "")
    return moved(request, entry.remove_row(request.user, return_id, paper_id, rows, row), whole=True)


@require_GET
def rows(request, return_id, paper_id):
    """The next stretch of a long table."""
    _, paper, node, name, context = _table_of(request, return_id, paper_id)
    since = request.GET.get("from", "")
    some = some_rows(node, name, whole_number(since) or 0)
    return render(request, "returns/_some_rows.html", context | {"some": some, "view": {"paper": paper}})


@require_GET
def one_row(request, return_id, paper_id):
    """One row of a long table as fields that can be entered."""
    return_, paper, node, name, context = _table_of(request, return_id, paper_id)
    row = next((row for row in node.cell(name).value if row.key == request.GET.get("row")), None)
    if row is None:
        raise entry.NoSuchField(name)
    fields = row_fields(return_, paper, row, name, {})
    return render(
        request, "returns/_one_row.html", context | {"key": row.key, "fields": fields, "name": name, "view": {"paper": paper}}
    )


def _table_of(request, return_id, paper_id):
    return_, result, context = open_page(request, return_id)
    paper = entry.keyed_paper(return_, paper_id)
    node, name = node_of(paper, result), request.GET.get("rows", "")
    if not isinstance(node.fields().get(name), Rows):
        raise entry.NoSuchField(name)
    return return_, paper, node, name, context


@require_POST
def reveal(request, return_id, paper_id):
    """A secret value in plain, once, and an event that it was looked at."""
    return_, _, _ = open_page(request, return_id)
    require(request.user, "reveal", return_)
    paper = get_object_or_404(return_.papers, pk=paper_id)
    place = entry.place_at(pack_of(return_), paper, request.POST.get("path", ""))
    record(request.user, "number shown", return_, says=f"{place.declared.label}", path=place.path, paper=paper.pk)
    return render(request, "returns/_revealed.html", {"value": place.plain})


@require_GET
def presence(request, return_id):
    """Renewed by the page while it is open."""
    return_, _, _ = open_page(request, return_id)
    note_presence(request.user, return_)
    return render(request, "returns/_presence.html", {"others": others_in(return_, request.user), "return": return_})
