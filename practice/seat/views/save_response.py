"""What a change answers: the fields that look different now, the parts of the index that changed, ripple, bottom line."""

from django.http import HttpResponse
from django.shortcuts import redirect, render

from practice.firm.permissions import may
from practice.gather.requesting import said_of
from practice.intake.attaching import attached_to
from practice.returns.drawing import differing_fields, gone_fields, grid_moved, paper_view, table_totals
from practice.returns.index import changed_parts, index_before, index_view, remember_index
from practice.returns.page import live_papers, shared
from practice.returns.ripple_bases import BASES, moved_since
from practice.returns.what_moved import moved_view, ripple_view


def base_of(request):
    """What this person measures ripples from; kept for the session."""
    base = request.session.get("ripple_base", "field")
    return base if base in BASES else "field"


def moved(request, saved, whole=False):
    """The answer to a change of one paper."""
    return_, paper = saved.return_, saved.paper
    in_table = request.POST.get("table") == "1"
    base = base_of(request)
    listed = live_papers(return_)
    groups = index_view(return_, listed, saved.after)
    before = index_before(return_, listed, saved.before) if _same_papers(saved) else None
    remember_index(saved.after, groups)
    context = shared(request, return_, saved.after, saved.before) | {
        "groups": groups,
        "index_parts": changed_parts(before, groups) if before is not None else None,
        "current": None if in_table else paper.pk,
        "view": paper_view(return_, paper, saved.after, with_fields=whole),
        "ripple": _ripple(request, saved, base),
        "base": base,
        "whole": whole,
        "in_table": in_table,
        "sum_of": None if whole or in_table else table_totals(return_, paper, saved.after, saved.path),
        "grid_lines": [] if whole or in_table else grid_moved(paper, saved.before, saved.after),
        "paper_id": paper.pk,
        "path": saved.path,
        "fields": [] if whole else differing_fields(return_, paper, saved.before, saved.after, saved.path),
        "gone": [] if whole or in_table else gone_fields(paper, saved.before, saved.after),
    }
    if whole:
        context |= attached_to(return_, paper) | {"said_here": said_of(paper), "may_ask": may(request.user, "ask clients")}
    if at := request.POST.get("at"):
        return _beside_form(request, saved, context, at)
    return render(request, "returns/_moved.html", context)


def _same_papers(saved):
    """Whether both results have the same papers, so that only what differs in the index needs drawing."""
    before, after = ([paper.id for paper in result.run.data.papers] for result in (saved.before, saved.after))
    return before == after


def _ripple(request, saved, base):
    if base == "field":
        return ripple_view(saved.before, saved.after, saved.says)
    lines, says = moved_since(request.user, saved.return_, saved.after, base)
    return moved_view(lines or [], saved.after, f"{says}: {len(lines)} lines moved" if lines is not None else says)


def _beside_form(request, saved, context, at):
    """A correction made from the lineage panel: the panel and the form are drawn again."""
    from practice.seat.views.forms import form_context

    context |= form_context(request, saved.return_, saved.after, request.POST.get("form", ""), at)
    return render(request, "returns/_corrected.html", context)


def go(request, url):
    """To another page, as htmx or the browser wants to hear it."""
    return HttpResponse(headers={"HX-Redirect": url}) if request.htmx else redirect(url)
