"""Groups: clients that belong together, a family with its companies. A client may be in several."""

from django.db import transaction

from practice.clients.finding import clients
from practice.clients.models import Group, Household, Membership
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from taxcore.engine import BadValue


@transaction.atomic
def join(actor, household_id, name):
    """Put a client into the group of that name, which is made where there is none. BadValue for what cannot be a name."""
    household = fetch(Household.objects, actor, pk=household_id)
    require(actor, "open", household)
    name = written(" ".join(name.split()), "The name", 120)
    if not name:
        raise BadValue("Give the group a name.", "")
    group = Group.objects.for_firm(actor.firm).filter(name__iexact=name).first()
    group = group or Group.objects.create(firm=actor.firm, name=name)
    _, made = Membership.objects.for_firm(actor.firm).get_or_create(
        group=group, household=household, defaults={"firm": actor.firm, "by": actor}
    )
    if made:
        record(actor, "client in a group", household=household, says=group.name)
    return group


@transaction.atomic
def leave(actor, household_id, group_id):
    """Take a client out of a group; a group without clients is gone."""
    household = fetch(Household.objects, actor, pk=household_id)
    group = fetch(Group.objects, actor, pk=group_id)
    require(actor, "open", household)
    gone, _ = Membership.objects.for_firm(actor.firm).filter(group=group, household=household).delete()
    if gone:
        record(actor, "client out of a group", household=household, says=group.name)
    if not group.memberships.exists():
        group.delete()


def members(actor, group_id):
    """(group, the clients of it that somebody may see). NotOfThisFirm where they may see none."""
    group = fetch(Group.objects, actor, pk=group_id, households__in=clients(actor))
    return group, clients(actor).filter(groups=group).order_by("kind", "name")
