"""What holds for the whole practice: the catalogue of diagnostics, answers given once, what matters to reviewers."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm.packs import usual_pack
from practice.firm.permissions import may, require
from practice.pages.lists import export
from practice.review import gate, practice_answers, silencing
from practice.review.listing import WEIGHTS
from taxcore.engine import KINDS, BadValue


def catalogue(request, status=200, **more):
    """Every diagnostic that a return can have; with htmx only the list."""
    require(request.user, "view")
    words, weight, kind = (request.GET.get(name, "") for name in ("q", "weight", "kind"))
    entries = silencing.catalogue(request.user.firm, words, weight, kind)
    if form := request.GET.get("as"):
        rows = [[e.of.code, e.of.weight, e.kind, e.of.title, e.of.cites, e.silenced.get("why", "")] for e in entries]
        return export(form, "diagnostics", ["Code", "Weight", "Kind", "About", "Rule", "Suppressed because"], rows)
    context = {
        "entries": entries, "q": words, "weight": weight, "kind": kind, "kinds": _kinds(), "weights": WEIGHTS,
        "may_administer": may(request.user, "administer"), "silenced": len(request.user.firm.silenced),
    }  # fmt: skip
    return render(request, "review/_catalogue.html" if request.htmx else "review/catalogue.html", context | more, status=status)


@require_POST
def silence(request):
    code = request.POST.get("code", "")
    try:
        if "again" in request.POST:
            silencing.hear_again_in_firm(request.user, code)
        else:
            silencing.silence_for_firm(request.user, code, request.POST.get("reason", ""))
    except BadValue as bad:
        return catalogue(request, 422, refused=bad.says, refused_code=code)
    return redirect("catalogue")


def answers(request, status=200, **more):
    require(request.user, "view")
    context = {
        "questions": practice_answers.questions(request.user.firm), "firm": request.user.firm, "conditions": gate.CONDITIONS,
        "lines": practice_answers.lines_always(request.user.firm), "may_administer": may(request.user, "administer"),
    }  # fmt: skip
    return render(request, "review/answers.html", context | more, status=status)


@require_POST
def answer(request):
    field, value = request.POST.get("field", ""), request.POST.get("value", "")
    try:
        practice_answers.answer(request.user, field, value)
        messages.success(request, "Saved. It shows as the practice's answer on every return that has none.")
    except BadValue as bad:
        return answers(request, 422, refused=bad.says, refused_field=field, typed=value)
    return redirect("firm-answers")


def _kinds():
    """Those of which the usual kind of return has any."""
    there = {one.kind for one in usual_pack().diagnostics.values()}
    return {code: name for code, name in KINDS.items() if code in there}


@require_POST
def locking(request):
    """What must be done before a return is locked, and whether reviewers may enter amounts."""
    practice_answers.set_locking(request.user, request.POST.getlist("needs"), "reviewers_correct" in request.POST)
    messages.success(request, "Saved. It applies to every return that is not locked yet.")
    return redirect("firm-answers")


@require_POST
def taking_on(request):
    """Whether preparers may take on clients."""
    practice_answers.set_taking_on(request.user, "preparers" in request.POST)
    messages.success(request, "Saved.")
    return redirect("firm-answers")


@require_POST
def following(request):
    """Whether what a return issued follows it by itself."""
    practice_answers.set_shares_follow(request.user, "follow" in request.POST)
    messages.success(request, "Saved. It applies to changes from now on.")
    return redirect("firm-answers")


@require_POST
def efile(request):
    efin, pin = request.POST.get("efin", ""), request.POST.get("pin", "")
    try:
        practice_answers.set_efile_numbers(request.user, efin, pin)
        messages.success(request, "Saved. Authorizations signed from now on show them.")
    except BadValue as bad:
        return answers(request, 422, refused=bad.says, refused_field="efile", typed=efin, typed_pin=pin)
    return redirect("firm-answers")


@require_POST
def matters(request):
    try:
        practice_answers.set_what_matters(request.user, request.POST.get("from", ""), request.POST.get("lines", ""))
        messages.success(request, "Saved. Progress is measured by it from now on.")
    except BadValue as bad:
        return answers(request, 422, refused=bad.says, refused_field="matters", typed=request.POST.get("lines", ""))
    return redirect("firm-answers")
