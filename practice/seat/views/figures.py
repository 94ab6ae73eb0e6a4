"""One figure at a time: its lineage, what moves it most, and ripples measured from another day."""

from urllib.parse import quote

from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET

from practice.returns.accounts import account_at
from practice.returns.addresses import place_of
from practice.returns.computing import trials_of
from practice.returns.lineage import lineage_of
from practice.returns.page import live_papers, open_page
from practice.returns.ripple_bases import BASES, moved_since
from practice.returns.what_moved import history_view, moved_view
from practice.review.margin import about_figure
from taxcore.whatif.sensitivity import movers


@require_GET
def lineage(request, return_id):
    """The side panel for one figure: its lineage, and for a paper's field who entered it when."""
    return_, result, context = open_page(request, return_id)
    at = request.GET.get("at", "")
    context |= {"lineage": lineage_of(result, at), "fields": [], "history": None, "at": at, "narrow": True}
    context |= about_figure(request.user, return_, result, at) | {"accounts": account_at(return_, result, at)}
    if place := place_of(live_papers(return_), result, at):
        paper, path, _ = place
        keyed_by = paper.provenance.get(path, {}).get("by", "")
        context |= {"history": history_view(paper, path), "keyed_by": keyed_by, "back_to": paper.pk, "back_path": path}
    return render(request, "returns/_lineage.html", context)


@require_GET
def at(request, return_id):
    """Where an address is corrected: the field of its paper, or its line on the form."""
    return_, result, _ = open_page(request, return_id)
    address = request.GET.get("at", "")
    place = place_of(live_papers(return_), result, address)
    if place is None:
        return redirect(f"{reverse('forms', args=[return_.pk])}?at={quote(address)}")
    paper, path, _ = place
    return redirect(f"{reverse('paper', args=[return_.pk, paper.pk])}#f-{paper.pk}-{path.replace('.', '-')}")


@require_GET
def most_moving(request, return_id):
    """Which entered fields move a figure most, by computing the return again with each a little higher."""
    return_, result, context = open_page(request, return_id)
    at = request.GET.get("at", "")
    try:
        with trials_of(return_) as trials:
            found = movers(result, at, trials)
    except ValueError:
        found = []
    papers = live_papers(return_)
    rows = [(mover, place_of(papers, result, mover.address)) for mover in found]
    return render(request, "returns/_movers.html", context | {"movers": rows})


@require_GET
def ripple(request, return_id):
    """The ripple measured from a base that the person chooses; the choice stays for the session."""
    return_, result, context = open_page(request, return_id)
    base = request.GET.get("base", "field")
    request.session["ripple_base"] = base if base in BASES else "field"
    context |= {"bases": BASES, "base": base, "ripple": None}
    if base in BASES and base != "field":
        lines, says = moved_since(request.user, return_, result, base)
        words = f"{says}: {len(lines)} line{'' if len(lines) == 1 else 's'} differ" if lines is not None else says
        context["ripple"] = moved_view(lines or [], result, words)
    return render(request, "returns/_ripple.html", context)
