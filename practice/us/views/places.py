"""Places: where people lived and where income belongs, in one view; amounts shared out by days or by percent."""

from datetime import date

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.pages.lists import export
from practice.returns.page import live_papers, open_page
from practice.us import allocating, separate_returns, state_returns
from practice.us.state_tiles import tiles
from taxcore.engine import BadValue
from taxcore.packs.us import apart as couple
from taxcore.packs.us import places
from taxcore.packs.us.papers.places import WHERE

_WIDTH = 720


def show(request, return_id, status=200, **more):
    return_, result, context = open_page(request, return_id)
    run, stored = result.run, {(paper.kind, paper.key): paper for paper in live_papers(return_)}
    grid = places.belongs(run)
    states = list(dict.fromkeys(state for one in grid for state in one.by_state))
    if form := request.GET.get("as"):
        return _export(form, return_, grid, states)
    totals = {state: tuple(sum(one.by_state.get(state, (0, 0))[n] for one in grid) for n in (0, 1)) for state in states}
    most = max((income for income, _ in totals.values()), default=0) or 1
    context |= {
        "tab": "places",
        "timeline": [(person.title, list(_spans(run, person.role))) for person in run.form("us.1040").filers],
        "months": [(number * _WIDTH / 12, date(run.year, number + 1, 1)) for number in range(12)],
        "width": _WIDTH,
        "states": [(state, WHERE[state], *totals[state], int(100 * max(totals[state][0], 0) / most)) for state in states],
        "grid": [(one, stored.get((one.kind, one.key)), [one.by_state.get(state) for state in states]) for one in grid],
        "wanted": _wanted(return_, run),
        "both": return_.apart_from_id,
        "asked": set(run.pack.by_kind),
        "tiles": tiles(totals, {stay.state for stay in places.stays(run)}),
        "localities": _localities(run),
        "couple": len(run.form("us.1040").filers) > 1,
        "residency": next((paper for (kind, _), paper in stored.items() if kind == "residency"), None),
        "filing": stored.get(("filing", "filing")),
        "shareable": allocating.KINDS,
    }
    return render(request, "us/places.html", context | more, status=status)


def _spans(run, role):
    """Each stay as a bar: place, width, state and what a reader hears of it."""
    year = (date(run.year, 12, 31) - date(run.year, 1, 1)).days + 1
    for stay in places.stays(run):
        if stay.role == role:
            begins = (stay.first - date(run.year, 1, 1)).days
            place = {"x": begins * _WIDTH / year, "width": stay.days * _WIDTH / year, "days": stay.days}
            yield place | {"state": stay.state, "name": WHERE[stay.state], "first": stay.first, "last": stay.last}


def _wanted(return_, run):
    """Each return that a state wants: (it, the kind of its questions, what apart comes to or None, its returns apart)."""
    choices = {} if return_.apart_from_id else {one.state: one for one in couple.choices(run)}
    made = list(separate_returns.living(return_).select_related("household"))
    names = {person.role: person.title for person in run.form("us.1040").filers}
    return [
        (
            one,
            one.state.lower() + "-questions",
            choices.get(one.state),
            [(other, names.get(other.apart_role, other.apart_role)) for other in made if other.apart_state == one.state],
        )
        for one in places.wanted(run)
    ]


def _localities(run):
    """Boxes 18 to 20 of all W-2s: (statement, state, locality, wages, withheld)."""
    rows = ((wage, row) for wage in run.papers("w2") for row in wage.states if row.locality or row.local_withheld)
    return [(wage.title, row.state, row.locality, row.local_wages, row.local_withheld) for wage, row in rows]


def _export(form, return_, grid, states):
    heads = ["Paper", "What", "Amount", *(f"{state} {what}" for state in states for what in ("income", "withheld"))]
    rows = []
    for one in grid:
        amounts = (amount for state in states for amount in one.by_state.get(state, (0, 0)))
        rows.append([one.title, one.label, one.amount, *amounts, one.rest, one.rest_is])
    return export(form, f"places-{return_.pk}", [*heads, "Rest", "Rest is"], rows)


@require_POST
def share(request, return_id, paper_id):
    """Share a paper's amount out over states: by the days its owner lived there, or by percent."""
    try:
        way, percent = (request.POST.get(name, "") for name in ("way", "percent"))
        saved = allocating.share_out(request.user, return_id, paper_id, way, percent)
        messages.success(request, f"{saved.says}. Alt Z undoes it.")
    except BadValue as bad:
        return show(request, return_id, 422, refused=bad.says, refused_paper=paper_id, typed=request.POST.get("percent", ""))
    return redirect("places", return_id)


@require_POST
def decide(request, return_id):
    """Leave a state's return out, make one that nothing calls for, or take such a decision back."""
    typed = {name: request.POST.get(name, "") for name in ("state", "what", "reason")}
    try:
        state = state_returns.state_named(typed["state"])
        saved = state_returns.decide(request.user, return_id, state, typed["what"], typed["reason"])
        messages.success(request, f"{saved.says}. Alt Z undoes it.")
    except BadValue as bad:
        return show(request, return_id, 422, refused_decision=bad.says, decision=typed)
    return redirect("places", return_id)


@require_POST
def part(request, return_id):
    """File a state's return apart, or together again."""
    state, way = request.POST.get("state", ""), request.POST.get("way", "")
    try:
        state = state_returns.state_named(state)
        if way == "together":
            separate_returns.file_together(request.user, return_id, state)
            messages.success(request, "They file jointly again. The separate state returns are canceled and stay on record.")
        else:
            made = separate_returns.file_apart(request.user, return_id, state)
            many = "The separate state returns are" if len(made) > 1 else "The separate state return is"
            where = WHERE[state]
            messages.success(request, f"{many} made: see {where} at the right. Compare with this one, then continue there.")
    except BadValue as bad:
        return show(request, return_id, 422, refused_decision=bad.says, decision={"state": state, "what": "apart"})
    return redirect("places", return_id)


@require_POST
def move(request, return_id):
    """Somebody moved: the stays as one act."""
    typed = {name: request.POST.get(name, "") for name in ("who", "state", "day")}
    try:
        state = state_returns.state_named(typed["state"], WHERE)
        saved = state_returns.move(request.user, return_id, typed["who"], state, typed["day"])
        messages.success(request, f"{saved.says}. Everything entered stays; Alt Z undoes it.")
    except BadValue as bad:
        return show(request, return_id, 422, refused_move=bad.says, moving=typed)
    return redirect("places", return_id)
