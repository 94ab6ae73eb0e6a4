"""Review against something: the value at my initials, last year; and all of it on paper."""

from django.shortcuts import render

from practice.pages.lists import export
from practice.returns.page import live_papers, open_page
from practice.returns.ripple_bases import moved_since
from practice.review import margin, variance
from practice.review.listing import grouped, lines_of
from practice.review.progress import progress_of
from practice.review.telling import told


def since(request, return_id):
    """What moved since the actor last initialed something, and which initials lapsed."""
    return_, result, context = open_page(request, return_id)
    moved, words = moved_since(request.user, return_, result, "initials")
    mine = {
        at: [pair for pair in rows if pair[0].by_id == request.user.pk]
        for at, rows in margin.initials_on(return_, result).items()
    }
    lapsed = [(row, why, result.get(at)) for at, rows in mine.items() for row, why in rows if why]
    context |= {"tab": "review", "sub": "since", "moved": moved, "words": words, "lapsed": lapsed}
    return render(request, "review/since.html", context)


def last_year(request, return_id):
    return_, result, context = open_page(request, return_id)
    given = request.GET.get("from", "10")
    threshold = int(given) if given in map(str, variance.THRESHOLDS) else 10
    before, differences, papers = variance.against_last_year(return_, result, threshold, live_papers(return_))
    if form := request.GET.get("as"):
        heads = ["Form", "Line", "What", "Last year", "This year", "Difference", "Percent"]
        rows = [[d.form, d.number, d.label, d.before, d.now, d.moved, d.percent and round(d.percent, 1)] for d in differences]
        return export(form, f"against-last-year-{return_.pk}", heads, rows)
    context |= {
        "tab": "review", "sub": "last-year", "before": before, "told": told(return_, result),
        "differences": differences, "papers_moved": papers,
        "threshold": threshold, "thresholds": variance.THRESHOLDS,
    }  # fmt: skip
    return render(request, "review/last_year.html", context)


def printed(request, return_id):
    """All that a reviewer wants on paper, on one page."""
    return_, result, context = open_page(request, return_id)
    initials = margin.initials_on(return_, result)
    before, differences, _ = variance.against_last_year(return_, result, 10, live_papers(return_))
    context |= {
        "tab": "review", "sub": "print", "groups": grouped(lines_of(return_, result, live_papers(return_))),
        "progress": progress_of(return_.firm, result, initials),
        "initialed": [(rows, result.get(at)) for at, rows in initials.items()],
        "notes": [(note, result.get(note.address)) for note in return_.notes.select_related("by", "asked", "closed_by")],
        "overrides": [(row, result.get(row.address)) for row in return_.overrides.select_related("by")],
        "before": before, "differences": differences,
    }  # fmt: skip
    return render(request, "review/print.html", context)
