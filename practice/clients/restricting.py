"""Clients that only named staff may see: a colleague's family. Nobody else finds them, opens them or sees them counted."""

from django.db import transaction

from practice.clients.models import Confidant, Household
from practice.firm.events import record
from practice.firm.models import Staff
from practice.firm.permissions import fetch, require
from taxcore.engine import BadValue


def hidden_from(actor):
    """The households that this member of staff must not see, as a query of their ids."""
    restricted = Household.objects.for_firm(actor.firm).filter(restricted=True)
    return restricted.exclude(confidants__staff=actor).order_by().values("pk")


@transaction.atomic
def restrict(actor, household_id, staff_ids):
    """Only these see the client from now on; nobody named takes the restriction away. BadValue where none of them works here."""
    household = fetch(Household.objects.select_for_update(of=("self",)), actor, pk=household_id)
    require(actor, "restrict clients", household)
    named = list(Staff.objects.filter(firm=actor.firm, pk__in=staff_ids).order_by("name"))
    if named and not any(one.is_active for one in named):
        raise BadValue("Name somebody who still works here.", "")
    household.confidants.all().delete()
    Confidant.objects.bulk_create(Confidant(firm=actor.firm, household=household, staff=one, by=actor) for one in named)
    household.restricted = bool(named)
    household.save(update_fields=["restricted"])
    says = ", ".join(one.name for one in named) or "everybody"
    record(actor, "client restricted" if named else "restriction lifted", household=household, says=says)
    return household
