"""All papers of a kind in one table: entered across, pasted from a spreadsheet, counted against the client's list."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.intake import importing, reading
from practice.pages.lists import export
from practice.returns.arranging import control_state
from practice.returns.computing import pack_of
from practice.returns.drawing import field_view, findings_by_address, lists_of, node_of
from practice.returns.entry import NoSuchField, add_paper
from practice.returns.index import coming_next, index_view
from practice.returns.page import live_papers, open_page
from practice.returns.ripple_bases import BASES
from practice.seat.views.save_response import base_of
from taxcore.engine import Amount, BadValue, Choice, Rows

_FIRST = 8  # columns that are shown though nobody has used them


def grid(request, return_id, kind):
    """The table. `?all=1` shows every column; `?as=csv` or xlsx takes it along."""
    return_, result, context = open_page(request, return_id)
    target = reading.target_named(pack_of(return_), kind)
    if target is None or target.rows or target.kind.single:
        raise NoSuchField(kind)
    papers = [paper for paper in live_papers(return_) if paper.kind == kind]
    nodes = [node_of(paper, result) for paper in papers]
    columns = _columns(target, nodes, "all" in request.GET)
    if form := request.GET.get("as"):
        return _export(form, kind, target, nodes)
    by_address = findings_by_address(result)
    control = return_.controls.filter(kind=kind).first()
    context |= {
        "tab": "papers", "declared": _named(target.kind), "in_table": True, "columns": columns,
        "bases": BASES, "base": base_of(request),
        "rows": [
            (paper, [field_view(return_, paper, node, name, name, by_address) for name in columns])
            for paper, node in zip(papers, nodes, strict=True)
        ],
        "sums": [
            sum(node.cell(name).value for node in nodes) if isinstance(spec, Amount) else None for name, spec in columns.items()
        ],
        "lists": _lists(nodes), "all": "all" in request.GET,
        "control": control_state(control, target.kind, nodes) if control else None, "listed": control,
    }  # fmt: skip
    listed = live_papers(return_)
    context |= coming_next(index_view(return_, listed, result), kind, listed)
    return render(request, "returns/grid.html", context)


def _columns(target, nodes, everything):
    """{name: field}: whose it is where there are several people, then those of a pasted table that anybody uses, or all."""
    fields = importing.columns_of(target)
    if not everything:
        used = {name for node in nodes for name in fields if node.is_keyed(name)}
        fields = {name: spec for place, (name, spec) in enumerate(fields.items()) if place < _FIRST or name in used}
    several = bool(nodes) and nodes[0].run.person("spouse") is not None
    owner = {"owner": target.kind.fields()["owner"]} if several and "owner" in target.kind.fields() else {}
    return owner | fields


def _named(kind):
    """What the page says of a kind of paper; templates would call the class itself."""
    return {"kind": kind.kind, "name": kind.name, "official": kind.official, "main": kind.main}


def _lists(nodes):
    """Of every row: what a reference can mean differs from paper to paper."""
    found = {}
    for node in nodes:
        found |= lists_of(node)
    return found


def _export(form, kind, target, nodes):
    columns = {name: spec for name, spec in target.columns().items() if not spec.secret}
    heads = [spec.label for spec in columns.values()]
    data = [[_plain(node, name, spec) for name, spec in columns.items()] for node in nodes]
    return export(form, kind, heads, data)


def _plain(node, name, spec):
    value = node.cell(name).value
    if isinstance(spec, Amount):
        return f"{value:.2f}"
    return spec.shown(value) if isinstance(spec, Choice) and value else spec.write(value) if value not in (None, "") else ""


def rows_of(request, return_id, kind, name):
    """Every row of a table of a kind of paper as CSV or XLSX, with what its paper says besides: a trial balance, a journal."""
    return_, result, _ = open_page(request, return_id)
    declared = next((one for one in pack_of(return_).papers if one.kind == kind), None)
    table = declared.fields().get(name) if declared is not None else None
    if not isinstance(table, Rows):
        raise NoSuchField(name)
    nodes = [node_of(paper, result) for paper in live_papers(return_) if paper.kind == kind]
    own = {key: spec for key, spec in declared.fields().items() if any(node.is_keyed(key) for node in nodes)}
    own = {key: spec for key, spec in own.items() if not isinstance(spec, Rows) and not spec.secret and key != "owner"}
    inner = {key: spec for key, spec in table.row.fields().items() if not spec.secret}
    data = [
        [*(_plain(node, *one) for one in own.items()), *(_plain(row, *one) for one in inner.items())]
        for node in nodes
        for row in getattr(node, name)
    ]
    return export(request.GET.get("as", "csv"), kind, [spec.label for spec in (*own.values(), *inner.values())], data)


@require_POST
def add_to_grid(request, return_id, kind):
    """One more row."""
    add_paper(request.user, return_id, kind)
    return redirect("grid", return_id, kind)


@require_POST
def paste(request, return_id, kind):
    """Rows from the clipboard: looked at first, then imported together."""
    try:
        row = importing.paste(request.user, return_id, kind, request.POST.get("rows", ""))
    except (BadValue, reading.NotReadable) as bad:
        messages.error(request, bad.says)
        return redirect("grid", return_id, kind)
    return redirect("import", return_id, row.pk)
