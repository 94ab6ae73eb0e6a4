"""A client leaves the practice: everything is kept and can be read, nothing is entered, signed or filed any more."""

from django.db import transaction

from practice.clients.models import Household
from practice.firm.compiled import Compiled
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.models import State

_ON_ITS_WAY = (State.QUEUED, State.SENT, State.WAITING)


class CannotLeave(Cannot):
    """The client cannot leave now; `says` tells why."""


@transaction.atomic
def leave(actor, household_id):
    """The household is served no more from today. CannotLeave while something of it is on its way to an authority."""
    household = fetch(Household.objects.select_for_update(of=("self",)), actor, pk=household_id)
    require(actor, "let clients go", household)
    for return_ in household.returns.for_firm(household.firm_id):
        if return_.submissions.filter(state__in=_ON_ITS_WAY).exists():
            raise CannotLeave(f"The {return_.year} return is on its way. Wait for the acknowledgment.")
    if household.left_on is None:
        household.left_on = actor.firm.today()
        household.save(update_fields=["left_on"])
        record(actor, "client left", household=household, says=household.name)
    return household


@transaction.atomic
def come_back(actor, household_id):
    """The household is a client again."""
    household = fetch(Household.objects.select_for_update(of=("self",)), actor, pk=household_id)
    require(actor, "let clients go", household)
    if household.left_on is not None:
        household.left_on = None
        household.save(update_fields=["left_on"])
        record(actor, "client came back", household=household, says=household.name)
    return household


_GONE = Compiled(lambda firm: Household.objects.for_firm(firm).exclude(left_on=None).values_list("pk", flat=True))


def without_left(rows, firm):
    """Of returns: those of clients whom the practice still serves. Few ever leave, so they are named and not joined."""
    gone = _GONE(firm.pk)
    return rows.exclude(household_id__in=gone) if gone else rows
