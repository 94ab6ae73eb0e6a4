"""The event log: who did what, when. Written in the same transaction as the change it tells of."""

from practice.firm.models import Event

SYSTEM = "Impuesto"
_HEARD = []


def when_recorded(function):
    """Who wants to know that something happened to a return: called with it, before anything is committed."""
    _HEARD.append(function)


def record(actor, what, of=None, says="", household=None, by="", firm=None, **facts):
    """Add an event. `actor` is staff, or None when a client (`by` their name) or the program itself did it."""
    if of is not None and household is None:
        household = of.household
    for hears in _HEARD if of is not None else ():
        hears(of)
    firm = firm or (actor.firm if actor is not None else (of or household).firm)
    return Event.objects.create(
        firm=firm,
        staff=actor,
        by=actor.name if actor is not None else by or SYSTEM,
        what=what,
        says=says,
        household=household,
        of=of,
        facts=facts,
    )
