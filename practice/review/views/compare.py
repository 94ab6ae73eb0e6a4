"""Review against something: the value at my initials, last year, other businesses; the checklist's questions; all on paper."""

from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.returns.sights import moved_since
from practice.returns.views.common import live_papers, open_page
from practice.review import margin, recording, variance
from practice.review.asking import OF_THE_RECORD, diligence_of
from practice.review.listing import grouped, lines_of
from practice.review.progress import progress_of
from practice.web.lists import export
from taxcore.engine import BadValue
from taxcore.packs.us.papers.diligence import MANNERS
from taxcore.packs.us.peers import comparisons


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
        "tab": "review", "sub": "last-year", "before": before, "differences": differences, "papers_moved": papers,
        "threshold": threshold, "thresholds": variance.THRESHOLDS,
    }  # fmt: skip
    return render(request, "review/last_year.html", context)


def diligence(request, return_id, status=200, **more):
    """Every question on one page, answered there."""
    return_, result, context = open_page(request, return_id)
    context |= {
        "tab": "review",
        "sub": "diligence",
        "asked": diligence_of(return_, result, live_papers(return_)),
        "manners": MANNERS,
    }
    return render(request, "review/diligence.html", context | more, status=status)


@require_POST
def add_diligence(request, return_id):
    """All questions that the claims call for, empty: nothing is answered in advance."""
    recording.open_all(request.user, return_id)
    return redirect("review-diligence", return_id)


@require_POST
def record_diligence(request, return_id):
    """Who was asked, when and how, on every sheet that says nothing else."""
    given = {name: request.POST.get(name, "") for name in OF_THE_RECORD}
    try:
        recording.record_for_all(request.user, return_id, given)
    except BadValue as bad:
        return diligence(request, return_id, 422, refused=bad.says, typed=given)
    return redirect("review-diligence", return_id)


def peers(request, return_id):
    """Each business's shares of receipts against a table of what is usual."""
    _, result, context = open_page(request, return_id)
    context |= {"tab": "review", "sub": "peers", "businesses": comparisons(result)}
    return render(request, "review/peers.html", context)


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
