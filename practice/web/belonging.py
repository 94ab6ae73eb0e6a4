"""Which group a client is in, who may see the client, and two records that are one person."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.clients import groups, restricting, roles
from practice.clients.finding import named
from practice.clients.models import Kind, Person
from practice.firm.numbers import whole_number
from practice.firm.permissions import fetch, may
from practice.returns import merging
from practice.returns.models import Purpose
from practice.web.households import household
from practice.web.templatetags.figures import of_hundred
from taxcore.engine import BadValue


def group(request, group_id):
    """A group's clients, their newest returns, and who is what in whom."""
    found, members = groups.members(request.user, group_id)
    rows = [(one, _newest(one), _who(request.user, one)) for one in members.prefetch_related("people")]
    years = [newest.year for _, newest, _ in rows if newest]
    context = {
        "group": found, "rows": rows, "together": sum(newest.together or 0 for _, newest, _ in rows if newest),
        "year": max(years, default=None), "may_open": may(request.user, "open"),
    }  # fmt: skip
    return render(request, "clients/group.html", context)


def _who(actor, one):
    """The people of a household; of a company who is what in it."""
    if one.kind == Kind.PEOPLE:
        return [person.first_name for person in one.people.all() if person.merged_into_id is None]
    standing = roles.roles_in(actor, one).filter(until=None)
    return [f"{role.named} ({role.get_kind_display().lower()}{_share(role)})" for role in standing]


def _share(role):
    return f" {of_hundred(role.share)}" if role.share is not None else ""


def _newest(one):
    rows = one.returns.for_firm(one.firm_id).exclude(purpose=Purpose.PLANNING).filter(given_up_at=None)
    return rows.order_by("-year", "-pk").first()


@require_POST
def join(request, household_id):
    name = request.POST.get("group", "")
    try:
        groups.join(request.user, household_id, name)
    except BadValue as bad:
        return household(request, household_id, 422, group_error=bad.says, typed_group=name)
    return redirect("household", household_id)


@require_POST
def leave(request, household_id, group_id):
    groups.leave(request.user, household_id, group_id)
    return redirect("household", household_id)


@require_POST
def restrict(request, household_id):
    """Only the chosen staff see the client from now on; without any, everybody does."""
    chosen = [pk for pk in map(whole_number, request.POST.getlist("staff")) if pk is not None]
    try:
        found = restricting.restrict(request.user, household_id, chosen)
    except BadValue as bad:
        return household(request, household_id, 422, restrict_error=bad.says)
    if found.restricted and not found.confidants.filter(staff=request.user).exists():
        messages.success(request, f"{found.name} is seen by those you named, and by you no more.")
        return redirect("households")
    return redirect("household", household_id)


@require_POST
def merge(request, person_id):
    """Another record of this person is found by its name and made one with it."""
    kept, words = fetch(Person.objects, request.user, pk=person_id), request.POST.get("same", "")
    try:
        gone = named(request.user, words, besides=kept)
        merging.merge(request.user, kept.pk, gone.pk)
    except BadValue as bad:
        return household(request, kept.household_id, 422, merge_error=bad.says, typed_same=words, merging=kept.pk)
    except merging.CannotMerge as cannot:
        return household(request, kept.household_id, 422, merge_error=cannot.says, typed_same=words, merging=kept.pk)
    messages.success(request, f"{gone.full_name} and {kept.full_name} are one client now.")
    return redirect("household", kept.household_id)
