"""Review of what only American returns have: the due diligence checklist, and businesses against what is usual."""

from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.returns.page import live_papers, open_page
from practice.us import diligence_record
from practice.us.diligence import OF_THE_RECORD, diligence_of
from taxcore.engine import BadValue
from taxcore.packs.us.papers.diligence import MANNERS
from taxcore.packs.us.peers import comparisons


def diligence(request, return_id, status=200, **more):
    """Every question on one page, answered there."""
    return_, result, context = open_page(request, return_id)
    context |= {
        "tab": "review",
        "page": "review-diligence",
        "asked": diligence_of(return_, result, live_papers(return_)),
        "manners": MANNERS,
    }
    return render(request, "us/diligence.html", context | more, status=status)


@require_POST
def add_diligence(request, return_id):
    """All questions that the claims call for, empty: nothing is answered in advance."""
    diligence_record.open_all(request.user, return_id)
    return redirect("review-diligence", return_id)


@require_POST
def record_diligence(request, return_id):
    """Who was asked, when and how, on every sheet that says nothing else."""
    given = {name: request.POST.get(name, "") for name in OF_THE_RECORD}
    try:
        diligence_record.record_for_all(request.user, return_id, given)
    except BadValue as bad:
        return diligence(request, return_id, 422, refused=bad.says, typed=given)
    return redirect("review-diligence", return_id)


def peers(request, return_id):
    """Each business's shares of receipts against a table of what is usual."""
    _, result, context = open_page(request, return_id)
    context |= {"tab": "review", "page": "review-peers", "businesses": comparisons(result)}
    return render(request, "us/peers.html", context)
