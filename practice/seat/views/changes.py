"""Who changed what since when."""

from datetime import timedelta

from django.core.paginator import Paginator
from django.shortcuts import render
from django.utils import timezone

from practice.firm.numbers import whole_number
from practice.pages.lists import export
from practice.returns.history import what
from practice.returns.page import open_page

SINCE = {"": "ever", "hour": "the last hour", "day": "the last day", "week": "the last week"}
_SPANS = {"hour": timedelta(hours=1), "day": timedelta(days=1), "week": timedelta(days=7)}


def changes(request, return_id):
    """Every change of this return, newest first; by whom and since when as asked, also as CSV or XLSX."""
    return_, result, context = open_page(request, return_id)
    rows = return_.changes.select_related("by", "paper")
    people = {row.by_id: row.by for row in return_.changes.select_related("by").order_by("by_id").distinct("by_id") if row.by}
    who, since, words = (request.GET.get(name, "") for name in ("who", "since", "q"))
    if whole_number(who) is not None:
        rows = rows.filter(by=int(who))
    if since in _SPANS:
        rows = rows.filter(at__gt=timezone.now() - _SPANS[since])
    if words:
        rows = rows.filter(path__icontains=words)
    if form := request.GET.get("as"):
        heads = ["At", "By", "Paper", "Field", "Before", "After", "How", "Note"]
        data = [_as_row(result, row) for row in rows[:20_000]]
        return export(form, "changes", heads, data)
    page = Paginator(rows, 100).get_page(request.GET.get("page"))
    context |= {
        "tab": "papers", "page": page, "people": people.values(), "who": who, "since": since, "spans": SINCE, "q": words,
        "rows": [(row, *what(result, row), *row.veiled) for row in page],
    }  # fmt: skip
    return render(request, "returns/changes.html", context)


def _as_row(result, row):
    paper, field, _ = what(result, row)
    return [row.at, row.by.name if row.by else "", paper, field, *row.veiled, row.how_said, row.note]
