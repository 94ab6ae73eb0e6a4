"""Return / Forms: the computed return, form by form, with the lineage of a line beside it."""

from django.shortcuts import render
from django.views.decorators.http import require_POST

from practice.firm.permissions import may
from practice.firm.typed_values import money
from practice.pages.recent import note_recent
from practice.returns import overriding
from practice.returns.accounts import account_at
from practice.returns.drawing import field_view, lists_of
from practice.returns.lineage import lineage_of
from practice.returns.page import live_papers, open_page, shared
from practice.review.margin import about_figure, initials_on
from taxcore.engine import BadValue
from taxcore.engine.amending import differing
from taxcore.engine.characters import within
from taxcore.engine.frozen import in_columns
from taxcore.engine.papers import Row


def forms(request, return_id, code=None):
    """The page. `?at=` opens a line's lineage; `?q=` finds lines by number or words."""
    return_, result, context = open_page(request, return_id)
    context |= {"tab": "forms", "q": request.GET.get("q", "")}
    if request.htmx and "q" in request.GET:
        return render(request, "returns/_lines_found.html", context | {"found": lines_found(result, context["q"])})
    if request.GET.get("lines") in ("all", "amounts"):
        request.session["lines_with_amounts"] = request.GET["lines"] == "amounts"
    context |= form_context(request, return_, result, code, request.GET.get("at", ""))
    if lineage := context["lineage"]:
        cell = lineage["cell"]
        note_recent(request, f"{cell.node.title} {cell.number or cell.label}, {return_.household.name}")
    return render(request, "returns/forms.html", context)


def lines_found(result, words, most=40):
    """Lines whose form and number begin like the words ("1040 16", "16") or whose label holds them all."""
    words = words.strip().lower().split()
    if not words:
        return []
    found = [cell for cell in result.lines() if _fits(cell, words)]
    return sorted(found, key=lambda cell: (cell.number.lower() != words[-1], not cell.value))[:most]


def _fits(cell, words):
    if all(word in cell.label.lower() for word in words):
        return True
    *form, number = words
    return cell.number.lower().startswith(number) and all(part in cell.node.title.lower() for part in form)


def form_context(request, return_, result, code, at):
    """Index of forms, the lines of one, the lineage of a line with its papers' fields ready to correct."""
    chosen = next((form for form in result.forms if form.address_prefix == code), None)
    chosen = chosen or next((form for form in result.forms if at.startswith(form.address_prefix + ".")), result.forms[0])
    lineage = lineage_of(result, at) if at else None
    lines, hiding = chosen.lines(), bool(request.session.get("lines_with_amounts"))
    shown = [cell for cell in lines if not hiding or not _is_nothing(cell) or cell.address == at]
    return {
        "forms": _by_authority(result),
        "form": chosen,
        "lines": shown,
        "rows": _rows(lines, shown, chosen.columns),
        "filed": _as_filed(result, chosen),
        "hiding": hiding,
        "hidden": sum(_is_nothing(cell) for cell in lines),
        "facts": [
            cell
            for name, cell in chosen.cells.items()
            if chosen.specs[name].number_in(chosen.year) is None and cell.is_amount and not (hiding and _is_nothing(cell))
        ],
        "at": at,
        "lineage": lineage,
        "fields": (fields := _fields_to_correct(return_, result, lineage) if lineage else []),
        "touched": _last_touched(return_, fields),
        "overrides": {row.address: row for row in return_.overrides.select_related("by")},
        "weights": _weights(result),
        "marks": _marks(return_, result),
        "may_override": may(request.user, "override"),
        "lists": _lists(lineage),
        "accounts": account_at(return_, result, at),
    } | about_figure(request.user, return_, result, at)


def _as_filed(result, form):
    """{address: amount as filed} of the lines of an authority's form that are other now."""
    authority = next((one for one in result.run.pack.authorities if isinstance(form, one.form)), None)
    return {cell.address: then for cell, then in differing(result.run, authority)} if authority is not None else {}


def _rows(lines, shown, columns):
    """The lines of a form with columns, of which at least one is shown."""
    if not columns:
        return []
    return [row for row in in_columns(lines, columns) if any(cell in shown for cell in row.places)]


def _is_nothing(cell):
    return cell.value in (None, "") or (cell.is_amount and not cell.value)


def _weights(result):
    """{address: the gravest weight of what is said of it}. Findings come by weight, the gravest first."""
    return {place: finding.weight for finding in reversed(result.findings) for place in finding.at}


def _last_touched(return_, fields):
    """(change, label) of the last one among the fields that feed a line; None where nobody changed any since they came."""
    labels = {(field.paper, field.path): f"{owner.title}, {within(field.label)}" for owner, field in fields}
    if not labels:
        return None
    rows = return_.changes.filter(paper__in={paper for paper, _ in labels}, path__in={path for _, path in labels})
    found = next((row for row in rows.select_related("by")[:50] if (row.paper_id, row.path) in labels), None)
    return (found, labels[found.paper_id, found.path]) if found else None


def _marks(return_, result):
    """{address: (initials that hold, initials that lapsed, notes, open points)} for the margin of the lines."""
    found = {}
    for address, rows in initials_on(return_, result).items():
        good = [row.by.initials for row, why in rows if not why]
        found[address] = [good, [row.by.initials for row, why in rows if why], 0, 0]
    for note in return_.notes.all():
        mark = found.setdefault(note.address, [[], [], 0, 0])
        mark[3 if note.is_open else 2] += 1
    return found


def _lists(lineage):
    """Lists that the fields to correct are chosen from."""
    owners = {id(owner): owner for owner in (_owner(leaf.node) for leaf in (lineage["leaves"] if lineage else ()))}
    return {name: options for owner in owners.values() for name, options in lists_of(owner).items()}


def _owner(node):
    return node.paper if isinstance(node, Row) else node


def _by_authority(result):
    """(authority, forms) as the bottom line has them; what is only worked out and the worksheets after them."""
    names = {one.form.jurisdiction: one.name for one in result.run.pack.authorities}
    names |= {code: f"{name}, not filed from here" for code, name in names.items() if code in result.not_filed}
    groups = {names[line.authority.form.jurisdiction]: [] for line in result.bottom_lines}
    for form in result.forms:
        if form.worksheet:
            groups.setdefault("Worksheets", []).append(form)
        else:
            groups.setdefault(names.get(form.jurisdiction, form.jurisdiction), []).append(form)
    return sorted(((name, forms) for name, forms in groups.items() if forms), key=lambda group: group[0] == "Worksheets")


def _fields_to_correct(return_, result, lineage):
    """(where it stands, field) for each entered field that feeds the line, the first eight."""
    papers = {(paper.kind, paper.key): paper for paper in live_papers(return_)}
    found = []
    for leaf in lineage["leaves"]:
        node = leaf.node
        inside_row = isinstance(node, Row)
        owner = _owner(node)
        path = f"{_rows_name(node)}.{node.key}.{leaf.spec.name}" if inside_row else leaf.spec.name
        paper = papers.get((owner.kind, owner.key))
        if paper is not None and len(found) < 8:
            found.append((owner, field_view(return_, paper, node, leaf.spec.name, path, {})))
    return found


def _rows_name(row):
    return row.address_prefix.rsplit(".", 1)[1].split("[")[0]


@require_POST
def override(request, return_id):
    """Set a line by hand or release it; the form and the lineage are drawn again."""
    at, error = request.POST.get("at", ""), ""
    try:
        if "release" in request.POST:
            return_, before, after = overriding.release_override(request.user, return_id, at)
        else:
            value = money(request.POST.get("amount", ""), "The amount")
            return_, _, before, after = overriding.set_override(
                request.user, return_id, at, value, request.POST.get("reason", "")
            )
    except BadValue as bad:
        error = bad.says
        return_, after, _ = open_page(request, return_id)
        before = after
    context = shared(request, return_, after, before) | form_context(request, return_, after, request.POST.get("form", ""), at)
    context |= {"tab": "forms", "override_error": error, "typed": request.POST}
    return render(request, "returns/_corrected.html", context, status=422 if error else 200)
