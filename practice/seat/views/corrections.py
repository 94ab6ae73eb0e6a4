"""A correction: what it corrects, what is otherwise by now, until when a refund can be claimed."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm.permissions import may
from practice.firm.refusals import Cannot
from practice.returns import amending
from practice.returns.computing import pack_of
from practice.returns.family import family_of
from practice.returns.models import Purpose
from practice.returns.page import open_page
from taxcore.engine.amending import differing, reworded


def correction(request, return_id):
    """The page."""
    return_, result, context = open_page(request, return_id)
    if return_.purpose != Purpose.AMENDING:
        return redirect("sign", return_.pk)
    context |= {
        "tab": "sign",
        "origin": return_.origin,
        "authorities": _authorities(return_, result),
        "entries": list(reworded(result.run)),
        "explanation": pack_of(return_).correcting.explanation(result.run),
        "explained_on": return_.papers.filter(kind__in=_kinds(return_), removed_at=None).first(),
        "late": amending.too_late_to_supersede(return_),
        "family": family_of(return_.household, return_.pk),
        "may_open": may(request.user, "open") and not context["closed"],
    }
    return render(request, "returns/correction.html", context)


def _kinds(return_):
    return [paper.kind for paper in pack_of(return_).papers if paper.corrects]


def _authorities(return_, result):
    """(authority, what it accepted, its lines that moved as (cell, as filed), whether it is sent, last day for a refund)."""
    run, pack = result.run, pack_of(return_)
    sent = {line.authority.code for line in result.bottom_lines}
    return [
        (
            authority, filed, list(differing(run, authority)), code in sent,
            None if run.amends.superseding else pack.correcting.claimable_until(run, authority),
        )
        for code, filed in run.amends.filed.items()
        for authority in (pack.authority(code),)
    ]  # fmt: skip


@require_POST
def make(request, return_id):
    """The correction of this return; the one under way where there is one."""
    try:
        made = amending.amend(request.user, return_id)
    except Cannot as cannot:
        messages.error(request, cannot.says)
        return redirect("sign", return_id)
    return redirect("correction", made.pk)


@require_POST
def amended(request, return_id):
    """It is late for taking the place of what was filed."""
    try:
        amending.no_longer_superseding(request.user, return_id)
    except Cannot as cannot:
        messages.error(request, cannot.says)
    return redirect("correction", return_id)


@require_POST
def give_up(request, return_id):
    try:
        return_ = amending.give_up(request.user, return_id)
    except Cannot as cannot:
        messages.error(request, cannot.says)
        return redirect("correction", return_id)
    messages.success(request, "The correction was given up. What was filed stands.")
    return redirect("household", return_.household_id)
