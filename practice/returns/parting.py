"""A couple who file separately from next year on: each becomes a client with a return of their own, from the one of both."""

from django.db import transaction

from practice.clients import groups
from practice.clients.keeping import follow_people
from practice.clients.models import Household
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.returns.models import Return
from practice.returns.rolling import NotRolled, make, rolled_from
from practice.returns.standing import filing_return, separate_returns, standing

_ROLES = ("taxpayer", "spouse")


@transaction.atomic
def part(actor, return_id):
    """Next year's returns of both, from this year's separate ones where there are two: the taxpayer's in the household that is
    there, the spouse's in a new one beside it in the same groups. NotRolled where no couple files this return, or next year's is
    there already."""
    asked = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "add clients", asked)
    source = standing(asked)
    if source.household.left_on:
        raise NotRolled("The client left the practice.")
    if source.is_separate:
        return part(actor, source.apart_from_id)
    if source.purpose == "planning" or source.apart_from_id or source.given_up_at:
        raise NotRolled("Only a filing return of the whole household is rolled forward.")
    if filing_return(source.household, source.pack, source.year + 1) is not None:
        raise NotRolled(
            f"There is a return of {source.year + 1} of both already. Set it aside first: roll forward and make it again."
        )
    alone = separate_returns(source)
    rolled = {role: rolled_from(alone[role]) if alone else rolled_from(source, role) for role in _ROLES}
    other = _household_of_their_own(actor, source)
    return tuple(
        make(actor, alone.get(role, source), rolled[role], household, parted="" if alone else role)
        for role, household in zip(_ROLES, (source.household, other), strict=True)
    )


def _household_of_their_own(actor, source):
    """For the spouse, with the address of both until somebody says otherwise."""
    paper = source.papers.filter(kind="person", key="spouse", removed_at=None).select_related("person").first()
    if paper is None or paper.person is None:
        raise NotRolled("The spouse is no client yet. Add the spouse to the return first.")
    old, person = source.household, paper.person
    address = {name: getattr(old, name) for name in ("street", "city", "state", "zip")}
    made = Household.objects.create(
        firm=old.firm, name=person.full_name, in_care_of=old.in_care_of, restricted=old.restricted, **address
    )
    for one in old.confidants.all():
        one.pk, one.household = None, made
        one.save()
    person.household = made
    person.save()
    follow_people(old)
    follow_people(made)
    for group in old.groups.for_firm(old.firm_id):
        groups.join(actor, made.pk, group.name)
    record(actor, "household added", household=made, says=f"{made.name}, from {old.name}")
    return made
