"""Next year for many returns: choose, see what is there already, roll forward in the background. And for one."""

from urllib.parse import urlencode

from django.contrib import messages
from django.shortcuts import redirect
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.numbers import whole_number
from practice.firm.permissions import require
from practice.pages.back import back_or
from practice.pages.lists import export
from practice.returns import rolling, rounds
from practice.returns.leaving import without_left
from practice.returns.models import Return, Stage, originals
from practice.returns.round_pages import with_round
from taxcore.engine import BadValue

_LISTED = 300
_WHICH = {"": "every return", "new": "without a return of the year after", "there": "with one already"}


def many(request):
    """The returns of a year, with what the year after has of each; roll those chosen, or all that the filter shows."""
    require(request.user, "open")
    if request.method == "POST":
        return _begin(request)
    return _list(request)


def _begin(request):
    there = request.POST.get("there", rolling.LEAVE)
    if request.POST.get("all") == "yes":
        chosen = list(_rows(request, request.POST).values_list("pk", flat=True))
    else:
        chosen = [pk for pk in map(whole_number, request.POST.getlist("of")) if pk is not None]
    try:
        made = rounds.begin(request.user, "roll", chosen, there=there if there in rolling.THERE else rolling.LEAVE)
    except BadValue as bad:
        return _list(request, 422, refused=bad.says)
    return redirect(f"{reverse('next-year')}?year={_year(request, request.POST)}&round={made.pk}")


def _year(request, given):
    return whole_number(given.get("year", ""), most=9999) or request.user.firm.season - 1


def _rows(request, given):
    """What the filter shows, the soonest names first."""
    year = _year(request, given)
    rows = without_left(originals(Return.objects.for_staff(request.user)), request.user.firm).filter(year=year)
    if words := given.get("q", "").strip():
        rows = rows.filter(household__name__icontains=words)
    if (group := whole_number(given.get("group", ""))) is not None:
        rows = rows.filter(household__groups=group)
    if given.get("stage") in Stage.values:
        rows = rows.filter(stage=given["stage"])
    if given.get("mine") == "yes":
        rows = rows.filter(preparer=request.user)
    if given.get("which") in ("new", "there"):
        households = _next(request, year).values("household")
        rows = rows.filter(household__in=households) if given["which"] == "there" else rows.exclude(household__in=households)
    return rows.order_by("household__name", "pk")


def _next(request, year):
    return originals(Return.objects.for_staff(request.user)).filter(year=year + 1)


def _list(request, status=200, **more):
    given = request.POST if request.method == "POST" else request.GET
    year, rows = _year(request, given), _rows(request, given)
    there = {one.household_id: one for one in _next(request, year)}
    listed = rows.select_related("household", "preparer")
    if form := request.GET.get("as"):
        heads = ["Household", "Year", "Stage", "Preparer", "Year after"]
        data = ([row.household.name, row.year, row.get_stage_display(), row.preparer.name, _words(there.get(row.household_id))]
                for row in listed)  # fmt: skip
        return export(form, f"roll-forward-{year}", heads, data)
    number = rows.count()
    years = sorted(set(originals(Return.objects.for_staff(request.user)).order_by().values_list("year", flat=True).distinct()))
    context = {
        "year": year, "after": year + 1, "years": years, "which": given.get("which", ""), "whiches": _WHICH,
        "q": given.get("q", ""), "group": given.get("group", ""),
        "stage": given.get("stage", ""), "stages": Stage.choices, "mine": given.get("mine", ""), "theres": rolling.THERE,
        "rows": [(row, there.get(row.household_id)) for row in listed[:_LISTED]],
        "kept": urlencode({n: t for n in ("which", "stage", "mine", "q", "group") if (t := given.get(n))} | {"year": year}),
        "number": number, "more": max(number - _LISTED, 0),
    }  # fmt: skip
    return with_round(request, "web/next_year.html", context | more, reverse("next-year"), "papers", status)


def _words(return_):
    return f"{return_.get_stage_display()}" if return_ is not None else "none"


@require_POST
def one(request, return_id):
    """Next year's return from this one; where there is one already, it is opened."""
    try:
        made = rolling.roll(request.user, return_id)
    except rolling.NotRolled as cannot:
        messages.error(request, cannot.says)
        return redirect("papers", return_id)
    messages.success(request, f"{made.return_.year} {made.says}.")
    return redirect("carried", made.return_.pk)


@require_POST
def hold(request, round_id):
    """Stop a round after the return that is being done, or let it go on."""
    of = rounds.hold(request.user, round_id, request.POST.get("held") == "yes")
    return redirect(back_or(request, f"{reverse('next-year')}?round={of.pk}"))
