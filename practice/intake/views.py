"""Attachments beside papers; files read into a return."""

from decimal import Decimal

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from practice.firm.events import record
from practice.firm.numbers import whole_number
from practice.firm.permissions import require
from practice.firm.refusals import Cannot
from practice.intake import altering, attaching, enclosing, importing, proposing, reading
from practice.intake.models import Import
from practice.returns.computing import pack_of
from practice.returns.drawing import node_of, paper_view
from practice.returns.index import coming_next, index_view
from practice.returns.kinds import kinds_of
from practice.returns.page import live_papers, open_page
from taxcore.engine import Amount, BadValue, Choice, Flag
from taxcore.engine.characters import within


@require_POST
def attach(request, return_id, paper_id):
    """Files dropped beside a paper."""
    for file in request.FILES.getlist("file"):
        try:
            attaching.attach(request.user, return_id, paper_id, *attaching.given(file))
        except BadValue as bad:
            messages.error(request, f"{file.name}: {bad.says}")
    return redirect(f"{reverse('paper', args=[return_id, paper_id])}?beside=1")


@require_GET
def attached(request, return_id, paper_id):
    """What lies beside a paper, asked for again while it is being read; nothing where it is as it was."""
    return_, result, context = open_page(request, return_id)
    listed = live_papers(return_)
    paper = next((paper for paper in listed if paper.pk == paper_id), None)
    if paper is None:
        return HttpResponse(headers={"HX-Redirect": reverse("papers", args=[return_id])})
    beside = attaching.attached_to(return_, paper)
    if beside["reading"] and beside["reading"] == request.GET.get("seen"):
        return HttpResponse(status=204)
    view = paper_view(return_, paper, result, with_fields=False)
    context |= beside | {"view": view, "groups": index_view(return_, listed, result), "again": True}
    return render(request, "intake/_attached.html", context)


@require_POST
def change_attachment(request, return_id, token):
    """Rotated, moved to another paper, removed, or read again."""
    turn, paper = request.POST.get("turn", ""), request.POST.get("paper", "")
    given = whole_number(paper) if "give" in request.POST else None
    row = attaching.change_attachment(
        request.user, return_id, token, turn=90 if turn == "90" else 0, paper_id=given, remove="remove" in request.POST,
        again="again" in request.POST,
    )  # fmt: skip
    beside = "" if "remove" in request.POST else "?beside=1"
    return redirect(
        f"{reverse('paper', args=[return_id, row.paper_id]) if row.paper_id else reverse('papers', args=[return_id])}{beside}"
    )


@require_POST
def take_over(request, return_id, token):
    """What a page says of some fields, or of all, into its paper."""
    try:
        paper, number = proposing.take_over(request.user, return_id, token, set(request.POST.getlist("field")))
        messages.success(request, f"{number} value{'s' if number > 1 else ''} taken from the page.")
    except Cannot as cannot:
        messages.error(request, cannot.says)
        paper = attaching.find(request.user, return_id, token).paper
    return redirect(f"{reverse('paper', args=[return_id, paper.pk])}?beside=1") if paper else redirect("papers", return_id)


@require_POST
def choose_statement(request, return_id, token):
    """The statement that goes with the filing, or no longer."""
    try:
        row = enclosing.choose_statement(request.user, return_id, token, "chosen" in request.POST)
        if row.doubt:
            messages.warning(request, f"Chosen. Check it again: {row.doubt}.")
    except BadValue as bad:
        messages.error(request, bad.says)
    row = attaching.find(request.user, return_id, token)
    return redirect("paper", return_id, row.paper_id) if row.paper_id else redirect("papers", return_id)


@require_GET
def page_picture(request, return_id, token, page):
    """One page as a picture; the first of a file is an event, since it may show anything."""
    row = attaching.find(request.user, return_id, token)
    try:
        picture = attaching.picture_of(row, page)
    except BadValue as bad:
        return render(request, "intake/undrawn.svg", {"says": bad.says}, content_type="image/svg+xml", status=422)
    if page == 1:
        record(request.user, "document viewed", row.of, says=row.name)
    return HttpResponse(picture, content_type="image/png")


@require_GET
def original(request, return_id, token):
    """The file as it came, as a download."""
    row = attaching.find(request.user, return_id, token)
    require(request.user, "reveal", row)  # it shows the numbers that are masked elsewhere
    record(request.user, "document downloaded", row.of, says=row.name)
    types = {
        "pdf": "application/pdf",
        "png": "image/png",
        "jpeg": "image/jpeg",
        "xbrl": "application/octet-stream",
    }  # never a page of ours
    response = HttpResponse(attaching.content_of(row), content_type=types[row.kind])
    ending = "xhtml" if row.kind == "xbrl" else row.kind
    response["Content-Disposition"] = f'attachment; filename="{row.token}.{ending}"'
    return response


def import_file(request, return_id):
    """Choose a file; below it, the files that came before."""
    return_, result, context = open_page(request, return_id, "key")
    into, paper = request.POST.get("into", request.GET.get("into", "")), request.POST.get("paper", request.GET.get("paper", ""))
    error = ""
    if request.method == "POST":
        file = request.FILES.get("file")
        try:
            if file is None:
                raise BadValue("Choose a file first.", "")
            if file.size > importing.LARGEST:
                raise BadValue(f"The file has {file.size / 1e6:.0f} MB; {importing.LARGEST / 1e6:.0f} can be read at once.", "")
            row = importing.bring(request.user, return_id, file.name, file.read(), into, whole_number(paper))
            return redirect("import", return_id, row.pk)
        except BadValue as bad:
            error = bad.says
    inside = next((one for one in live_papers(return_) if one.pk == whole_number(paper)), None)
    context |= {
        "into_paper": node_of(inside, result).title if inside else "",
        "tab": "papers", "error": error, "into": into, "paper": paper, "targets": _targets(return_), "forms": importing.FORMS,
        "earlier": return_.imports.select_related("by")[:12],
    }  # fmt: skip
    context |= _next(return_, result)
    return render(request, "intake/choose.html", context, status=422 if error else 200)


def _next(return_, result):
    return coming_next(index_view(return_, live_papers(return_), result))


def _targets(return_):
    """(code, words) of all that a file of columns can become: papers of a kind, or rows of a long table."""
    found = []
    for kind in kinds_of(return_):
        if not kind.single:
            found.append((kind.kind, f"{kind.name}, one a row"))
        for name, spec in kind.fields().items():
            if hasattr(spec, "row") and len(spec.row.fields()) > 4 and spec.row.known_as:
                found.append((f"{kind.kind}.{name}", f"{kind.name}: {within(spec.label)}"))
    return found


def one_import(request, return_id, import_id):
    """The columns of a file, or how far it is read, or what it holds, or what became of it: one page after the other."""
    row = importing.find(request.user, return_id, import_id)
    return_, result, context = open_page(request, return_id, "key")
    context |= {"tab": "papers", "row": row, "percent": round(100 * row.progress / row.rows) if row.rows else 0}
    if row.state in (Import.State.READING, Import.State.TAKING):
        return render(request, "intake/_progress.html" if request.htmx else "intake/progress.html", context)
    if request.htmx:
        return HttpResponse(headers={"HX-Redirect": reverse("import", args=[return_id, import_id])})
    if row.state == Import.State.MAPPING:
        return _mapping(request, return_, row, context)
    return _read(request, return_, result, row, context, whole_number(request.GET.get("change")))


def _read(request, return_, result, row, context, place, typed=None, error="", status=200):
    """What a file holds; one row of it with fields where somebody changes it."""
    records = importing.kept_records(row) if place and row.state == Import.State.READ else []
    one = next((one for one in records if one.place == place), None)
    if one is not None:
        fields = altering.alterable(row, one)
        shown = typed if typed is not None else one.values
        context |= {
            "changing": place, "why": typed.get("why", "") if typed is not None else one.why.rpartition(" (")[0], "error": error,
            "fields": [
                (name, spec, shown.get(name, ""), [(code, spec.shown(code)) for code in getattr(spec, "options", {})])
                for name, spec in fields.items()
            ],
        }  # fmt: skip
    context["heads"], context["lines"] = _as_table(row)
    return render(request, "intake/read.html", context | _next(return_, result), status=status)


def _as_table(row):
    """(label, whether it is an amount) of each column of a preview, and (row, its values by columns); of a file whose records are
    of several kinds no columns, and each value with its label."""
    if not row.target:
        return [], [(one, one["values"]) for one in row.preview]
    fields = {spec.label: isinstance(spec, Amount) for spec in importing.target_of(row).columns().values()}
    there = {label for one in row.preview for label, _ in one["values"]}
    heads = [(label, is_amount) for label, is_amount in fields.items() if label in there]
    return heads, [(one, _cells(dict(one["values"]), heads)) for one in row.preview]


def _cells(values, heads):
    return [
        (Decimal(values[label]) if is_amount and label in values else values.get(label, ""), is_amount)
        for label, is_amount in heads
    ]


@require_POST
def alter(request, return_id, import_id, place):
    """Other values for one row of a file, before it is taken in."""
    given = {name[6:]: value for name, value in request.POST.items() if name.startswith("value-")}
    why = request.POST.get("why", "")
    try:
        altering.alter(request.user, return_id, import_id, place, given, why)
    except BadValue as bad:
        row = importing.find(request.user, return_id, import_id)
        return_, result, context = open_page(request, return_id, "key")
        context |= {"tab": "papers", "row": row}
        return _read(request, return_, result, row, context, place, given | {"why": why}, bad.says, 422)
    return redirect("import", return_id, import_id)


def _mapping(request, return_, row, context, error="", status=200):
    heads, lines, count = importing.sample_of(row)
    target = reading.target_named(pack_of(return_), row.target)
    known = target.columns() if target else {}
    chosen = request.POST if error else row.columns.get("columns", {})
    columns = [
        {"at": at, "head": head, "samples": [line[at] for line in lines],
         "chosen": chosen.get(f"column-{at}" if error else str(at), "")}
        for at, head in enumerate(heads)
    ]  # fmt: skip
    context |= {
        "columns": columns, "count": count, "target": row.target, "of_rows": bool(target and target.rows),
        "kind_name": target.kind.name if target else "", "targets": _targets(return_), "error": error,
        "fields": [(name, spec.label) for name, spec in known.items()], "remembered": row.columns.get("remembered"),
        "fixable": _fixable(target, row) if target else [],
        "papers": [paper for paper in live_papers(return_) if target and target.rows and paper.kind == target.kind.kind],
    }  # fmt: skip
    return render(request, "intake/columns.html", context, status=status)


def _fixable(target, row):
    """Fields that all rows may share: needed ones and whose they are, with their options."""
    fixed = row.columns.get("fixed", {})
    fields = target.columns()
    return [
        (name, spec, [(code, spec.shown(code)) for code in spec.options] if isinstance(spec, Choice) else [], fixed.get(name, ""))
        for name, spec in fields.items()
        if isinstance(spec, Choice | Flag) and (spec.needed or name in ("owner", "term", "reported"))
    ]


@require_POST
def choose_target(request, return_id, import_id):
    try:
        importing.choose_target(request.user, return_id, import_id, request.POST.get("into", ""))
    except BadValue as bad:
        messages.error(request, bad.says)
    return redirect("import", return_id, import_id)


@require_POST
def choose_columns(request, return_id, import_id):
    """The columns as said, then reading in the background."""
    row = importing.find(request.user, return_id, import_id)
    columns = {
        whole_number(name[7:]): value
        for name, value in request.POST.items()
        if name.startswith("column-") and whole_number(name[7:]) is not None
    }
    fixed = {name[6:]: value for name, value in request.POST.items() if name.startswith("fixed-")}
    try:
        paper = whole_number(request.POST.get("paper"))
        row = importing.choose_columns(request.user, return_id, import_id, columns, fixed, paper)
    except BadValue as bad:
        return_, _, context = open_page(request, return_id, "key")
        return _mapping(request, return_, row, context | {"tab": "papers", "row": row}, bad.says, 422)
    return redirect("import", return_id, import_id)


@require_POST
def columns_again(request, return_id, import_id):
    row = importing.find(request.user, return_id, import_id)
    if row.state in (Import.State.READ, Import.State.FAILED) and row.form in ("csv", "xlsx", "xhtml"):
        row.state = Import.State.MAPPING
        row.save()
    return redirect("import", return_id, import_id)


@require_POST
def take_in(request, return_id, import_id):
    """All of it, in the background."""
    importing.ask_to_take_in(request.user, return_id, import_id)
    return redirect("import", return_id, import_id)
