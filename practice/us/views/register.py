"""The register of assets: what each cost, what is written off, what is left; as a page and as a file."""

from django.shortcuts import render

from practice.pages.lists import export
from practice.returns.page import open_page
from taxcore.packs.us.property.register import columns, over_years, register

_HEIGHT, _BAR = 96, 26  # of the picture


def show(request, return_id):
    return_, result, context = open_page(request, return_id)
    activities, named = register(result.run), columns(result.run)
    if (kind := request.GET.get("as", "")) in ("csv", "xlsx"):
        heads = ["Activity", "Description", "Kind", "Placed in service", "Recovery period", *(label for _, label in named)]
        rows = [
            [one.title, row.description, row.sort, row.in_service.isoformat() if row.in_service else "", row.method,
             *(row.amounts[name] for name, _ in named)]
            for one in activities for row in one.rows
        ]  # fmt: skip
        return export(kind, f"assets-{return_.year}", heads, rows)
    bars = _bars(over_years(result.run), return_.year)
    papers = {paper.key: paper.pk for paper in return_.papers.filter(kind="asset", removed_at=None)}
    context |= {
        "tab": "forms", "columns": [label for _, label in named],
        "activities": [
            (one, [(row, papers.get(row.key), [(row.amounts[name], row.at[name]) for name, _ in named]) for row in one.rows],
             [one.sums[name] for name, _ in named])
            for one in activities
        ],
        "bars": bars, "height": _HEIGHT, "width": 2 * _BAR * len(bars) + 4,
    }  # fmt: skip
    return render(request, "us/register.html", context)


def _bars(years, now):
    """Where the bars of a year stand: what was paid for what is in service, and of it what is left."""
    most = max((basis for _, basis, _ in years), default=0)
    if not most:
        return []
    return [
        {
            "year": year, "x": place * _BAR * 2, "middle": place * _BAR * 2 + _BAR * 0.75, "whole": round(_HEIGHT * basis / most),
            "left": round(_HEIGHT * left / most), "y_whole": _HEIGHT - round(_HEIGHT * basis / most),
            "y_left": _HEIGHT - round(_HEIGHT * left / most), "basis": basis, "rest": left, "is_now": year == now,
        }
        for place, (year, basis, left) in enumerate(years)
    ]  # fmt: skip
