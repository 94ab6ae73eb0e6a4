"""Companies as clients: taken on, corrected, and who is what in them."""

from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.clients import entities, roles
from practice.clients.models import Household, Kind, Role
from practice.firm.permissions import fetch, require
from practice.firm.typed_values import day_of
from practice.web.household_form import CompanyForm
from practice.web.households import household
from taxcore.engine import BadValue


def new(request):
    """A new company."""
    require(request.user, "add clients")
    form = CompanyForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        try:
            return redirect("household", entities.add(request.user, **form.cleaned_data).pk)
        except entities.EntityErrors as wrong:
            _tell(form, wrong)
    return render(request, "clients/company.html", {"form": form}, status=422 if form.errors else 200)


def edit(request, household_id):
    """Its details."""
    found = fetch(Household.objects.select_related("entity"), request.user, pk=household_id, kind=Kind.ENTITY)
    require(request.user, "open", found)
    form = CompanyForm(request.POST or None, initial=_stands(found))
    if request.method == "POST" and form.is_valid():
        try:
            entities.correct(request.user, household_id, **form.cleaned_data)
            return redirect("household", household_id)
        except entities.EntityErrors as wrong:
            _tell(form, wrong)
    return render(request, "clients/company.html", {"form": form, "household": found}, status=422 if form.errors else 200)


def _stands(found):
    names = ("name", "trade", "street", "city", "state", "zip")
    details = ("form", "number", "formed_on", "email", "telephone")
    return {name: getattr(found, name) for name in names} | {name: getattr(found.entity, name) for name in details}


def _tell(form, wrong):
    for name, says in wrong.errors.items():
        form.add_error(name, says)


@require_POST
def give_role(request, household_id):
    """A role in a company; what cannot be is said where it was entered, and nothing typed is lost."""
    typed = {name: request.POST.get(name, "") for name in ("holder", "kind", "share", "since", "gets_mail", "signs")}
    try:
        share, since = roles.share_of(typed["share"]), day_of(typed["since"], "The day")
        marks = {name: typed[name] == "on" for name in ("gets_mail", "signs")}
        roles.give(request.user, household_id, typed["holder"], typed["kind"], share, since, **marks)
    except BadValue as bad:
        return household(request, household_id, 422, role_error=bad.says, typed_role=typed)
    return redirect("household", household_id)


@require_POST
def end_role(request, role_id):
    """It ends today."""
    found = fetch(Role.objects, request.user, pk=role_id)
    try:
        roles.end(request.user, role_id, request.user.firm.today())
    except BadValue as bad:
        return household(request, found.household_id, 422, role_error=bad.says)
    return redirect("household", found.household_id)
