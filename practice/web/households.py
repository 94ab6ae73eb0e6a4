"""Households: the list, one household with its timeline, a new one."""

from django.contrib import messages
from django.db import IntegrityError
from django.db.models import Count
from django.http import FileResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.clients import keeping, roles
from practice.clients.finding import clients, households_like
from practice.clients.identity import IdentityErrors, record_identity
from practice.clients.models import Household, IdentityDocument, Person, RoleKind, form_of
from practice.delivery import handing_over, plan_sheets
from practice.delivery.retaining import keep_until
from practice.firm.events import record
from practice.firm.models import Event, Staff
from practice.firm.packs import pack_for, packs_for, usual_pack
from practice.firm.permissions import fetch, may, require
from practice.firm.refusals import Cannot
from practice.firm.typed_values import day as typed_day
from practice.intake import searching
from practice.pages.back import back_or
from practice.pages.lists import export, sorted_by
from practice.pages.timeline import by_day
from practice.returns import leaving, parting
from practice.returns.accounts import accounts_of
from practice.returns.computing import pack_of
from practice.returns.family import family_of
from practice.returns.models import Stage
from practice.returns.opening import open_household, open_return
from practice.returns.planning import plans_of
from practice.returns.rolling import follows
from practice.returns.standing import filing_return
from practice.review.coming import coming
from practice.track.views import whole
from practice.web.household_form import HouseholdForm
from taxcore.engine import BadValue, Day, Period

_LOOKED_INTO = 2  # of a household's returns: what comes next is computed


def _kinds_to_open(found, returns):
    """[(pack, years left)] of what can be opened for a client; the season's year first, a newer one is for planning."""
    kinds, firm = [], found.firm
    for pack in packs_for(found.kind, form_of(found)):
        there = {one.year for one in returns if one.pack == pack.code and one.purpose == "filing" and not one.given_up_at}
        left = () if pack.asks else (year for year in pack.years if year not in there)
        kinds.append((pack, sorted(left, key=lambda year: (year != firm.season, -year))))
    return kinds


def _period_asked(pack, given):
    """First and last day as they were typed, or the one day. BadValue with what is wrong."""
    last = typed_day(given.get("ends", ""), Day(None, "The last day" if pack.asks == "period" else "The day"))
    first = typed_day(given.get("begins", ""), Day(None, "The first day")) if pack.asks == "period" else last
    if last < first:
        raise BadValue("The period ends before it begins.", last)
    period = Period(first, last)
    if why := pack.refuses_period(period):
        raise BadValue(why, last)
    if pack.year_in(period) not in pack.years:
        raise BadValue(f"The law of {pack.shown_year(pack.year_in(period))} is not in this program.", last)
    return period


_SORTS = {"name": "name", "trade": "trade", "town": "city"}


def households(request):
    require(request.user, "view")
    words = request.GET.get("q", "").strip()
    rows = households_like(request.user, words) if words else clients(request.user)
    rows = rows.select_related("entity").prefetch_related("groups").annotate(number_of_returns=Count("returns"))
    rows = sorted_by(rows, request, _SORTS, "name")
    if kind := request.GET.get("as"):
        return export(kind, "households", ["Household", "Occupation", "City"], [[r.name, r.trade, r.city] for r in rows])
    context = {"rows": rows[:300], "q": words, "may_open": may(request.user, "add clients")}
    return render(request, "clients/_list.html" if request.htmx else "clients/households.html", context)


def household(request, household_id, status=200, **more):
    found = fetch(Household.objects.select_related("in_care_of", "entity", "merged_into"), request.user, pk=household_id)
    if found.merged_into:
        return redirect("household", found.merged_into_id)
    returns = list(found.returns.exclude(purpose="planning").select_related("preparer", "firm", "household").order_by("-year"))
    context = {
        "household": found,
        "people": found.people.filter(merged_into=None).prefetch_related("identities__by"),
        "groups": found.groups.for_firm(found.firm_id),
        "roles_in": list(roles.roles_in(request.user, found)),
        "roles_of": list(roles.roles_of(request.user, found)),
        "role_kinds": RoleKind.choices,
        "confidants": [one.staff_id for one in found.confidants.all()],
        "seen_by": [one.staff.name for one in found.confidants.select_related("staff")],
        "staff": Staff.objects.filter(firm=found.firm_id, is_active=True).order_by("name"),
        "documents": IdentityDocument.choices,
        "back": request.path,
        "returns": returns,
        "tracks": [(one, whole(one)) for one in returns if _under_way(one)][:_LOOKED_INTO],
        "steps": [(one, steps) for one in returns[:_LOOKED_INTO] if (steps := coming(one))],
        "days": by_day(_events(found)),
        "may_reveal": may(request.user, "reveal"),
        "may_let_go": may(request.user, "let clients go"),
        "may_hand_over": may(request.user, "reveal") and may(request.user, "deliver"),
        "may_open": may(request.user, "open") and not found.left_on,
        "may_restrict": may(request.user, "restrict clients"),
        "may_merge": may(request.user, "merge clients") and not found.left_on,
        "files_as": pack_for(found.kind, form_of(found)) is not None,
        "kinds": _kinds_to_open(found, returns),
        "rolls": (rolls := _rolls(returns)),
        "parts": rolls is not None and _is_of_two(rolls) and may(request.user, "add clients"),
        "family": family_of(found),
        "plans": plans_of(found).select_related("origin__by", "origin__source"),
        "sheets": plan_sheets.sheets_of(found),
        "may_deliver": may(request.user, "deliver"),
        "accounts": accounts_of(found, (pack_for(found.kind, form_of(found)) or usual_pack()).code),
    }
    return render(request, "clients/household.html", context | more, status=status)


def documents(request, household_id):
    """Everything that lies with a client's returns, and what its pages say."""
    found = fetch(Household.objects, request.user, pk=household_id)
    words = request.GET.get("q", "").strip()[:100]
    rows = searching.documents(request.user, found, words)
    until = {one.pk: keep_until(one) for one in {row.row.of for row in rows}}
    rows = [{"row": one.row, "line": one.line, "beside": one.beside, "until": until[one.row.of_id]} for one in rows]
    return render(request, "clients/documents.html", {"household": found, "rows": rows, "q": words})


def _under_way(return_):
    return not return_.given_up_at and return_.stage != Stage.DONE


def _is_of_two(return_):
    """Whether a couple files it that could part."""
    spouse = return_.papers.filter(kind="person", key="spouse", removed_at=None).exists()
    return spouse and pack_of(return_).parted is not None


def _events(found):
    """What happened with a client, under whatever record."""
    return Event.objects.for_firm(found.firm_id).filter(household__in=[found.pk, *_merged(found)]).select_related("of")[:120]


def _merged(found):
    return Household.objects.for_firm(found.firm_id).filter(merged_into=found).values_list("pk", flat=True)


def _rolls(returns):
    """The newest filing return, from which the year after can be made."""
    own = (one for one in returns if one.purpose == "filing" and not one.apart_from_id and not one.given_up_at)
    return next((one for one in own if follows(one)), None)


def new(request):
    """A new household with its first return."""
    require(request.user, "add clients")
    form = HouseholdForm(request.POST or None, initial={"year": request.user.firm.season})
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        try:
            made = open_household(
                request.user, form.household_name(), form.people(), **{n: data[n] for n in ("street", "city", "state", "zip")}
            )
        except IntegrityError:
            form.add_error("number", "This number belongs to a client already. Open that household instead.")
        else:
            people = zip(made.people.all(), ("taxpayer", "spouse"), strict=False)
            return_ = open_return(request.user, made.pk, data["year"], [(person.pk, role) for person, role in people])
            return redirect("papers", return_.pk)
    return render(request, "clients/new.html", {"form": form}, status=422 if form.errors else 200)


@require_POST
def rename(request, household_id):
    try:
        keeping.rename(request.user, household_id, request.POST.get("name", ""))
    except BadValue as bad:
        return household(request, household_id, 422, rename_error=bad.says, typed_name=request.POST.get("name", ""))
    return redirect("household", household_id)


@require_POST
def left(request, household_id):
    """The client leaves the practice, or comes back."""
    try:
        if request.POST.get("back") == "yes":
            leaving.come_back(request.user, household_id)
        else:
            leaving.leave(request.user, household_id)
    except leaving.CannotLeave as cannot:
        messages.error(request, cannot.says)
    return redirect("household", household_id)


@require_POST
def hand_over(request, household_id):
    """All that there is of a client, as a ZIP."""
    name, file = handing_over.hand_over(request.user, household_id)
    return FileResponse(file, as_attachment=True, filename=name)


@require_POST
def part_ways(request, return_id):
    """A couple files separately from next year on: each a client with a return of their own."""
    try:
        one, other = parting.part(request.user, return_id)
    except Cannot as cannot:
        messages.error(request, cannot.says)
        return redirect(back_or(request, reverse("papers", args=[return_id])))
    says = (
        f"{one.household.name} and {other.household.name} each have a {one.year} return. What was divided waits to be confirmed."
    )
    messages.success(request, says)
    return redirect("household", one.household_id)


@require_POST
def new_return(request, household_id):
    """Another year for the people of a household, or another period; what cannot be taken is said beside it."""
    found = fetch(Household.objects, request.user, pk=household_id)
    kinds = packs_for(found.kind, form_of(found))
    pack = next((one for one in kinds if one.code == request.POST.get("pack")), next(iter(kinds), usual_pack()))
    year, period = request.user.firm.season, None
    if pack.asks:
        try:
            period = _period_asked(pack, request.POST)
            year = pack.year_in(period)
        except BadValue as bad:
            return household(request, household_id, 422, period_error=bad.says, period_of=pack.code, typed=request.POST)
    elif request.POST.get("year") in map(str, pack.years):
        year = int(request.POST["year"])
    if existing := filing_return(found, pack.code, year, period and period.end):
        return redirect("papers", existing.pk)
    people = zip(found.people.filter(merged_into=None), ("taxpayer", "spouse"), strict=False)
    people = [(person.pk, role) for person, role in people]
    try:
        return_ = open_return(request.user, found.pk, year, people, pack=pack, period=period)
    except Cannot as cannot:
        messages.error(request, cannot.says)
        return redirect("household", household_id)
    return redirect("papers", return_.pk)


@require_POST
def identity(request, person_id):
    """Record how it was seen who a client is; what cannot be taken is said at its field, and nothing typed is lost."""
    person = fetch(Person.objects.select_related("household"), request.user, pk=person_id)
    given = {name: request.POST.get(name, "") for name in ("document", "ending", "expires", "issued_by")}
    back = back_or(request, reverse("household", args=[person.household_id]))
    try:
        record_identity(request.user, person_id, **given)
    except IdentityErrors as wrong:
        context = {"client": person, "typed": given, "errors": wrong.errors, "back": back, "documents": IdentityDocument.choices}
        return render(request, "clients/identity.html", context, status=422)
    return redirect(back)


@require_POST
def reveal(request, person_id):
    """A client's number in plain; asking for it is an event."""
    person = fetch(Person.objects.select_related("household"), request.user, pk=person_id)
    require(request.user, "reveal", person)
    record(request.user, "number shown", household=person.household, says=person.full_name)
    return render(request, "returns/_revealed.html", {"value": person.number})
