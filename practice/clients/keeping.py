"""A client's own record follows what is entered about them on a return: their name, number, birth date, occupation and mail."""

from datetime import date

from django.db import transaction

from practice.clients.models import Household, Person
from practice.firm.crypto import digest, plain_number
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from taxcore.engine import BadValue

_FIELDS = ("first_name", "last_name", "number", "birth_date", "occupation", "email")


def keep_client_in_step(paper, place, value):
    """Write an entered field of a person through to the client. BadValue where the number is another client's."""
    if paper.person_id is None or place.path not in _FIELDS:
        return
    client = paper.person
    if place.path == "number" and value:
        _refuse_number_of_another(client, value, place.declared)
    setattr(client, place.path, _as_stored(place.path, value))
    client.save()
    if place.path in ("first_name", "last_name"):
        follow_people(client.household)


def follow_people(household):
    """A household is called by its people until somebody gives it a name of its own."""
    name = household.name_of_people[:120]
    if not household.own_name and name != household.name:
        household.name = name
        household.save(update_fields=["name"])


@transaction.atomic
def rename(actor, household_id, name):
    """A name of its own for a household; an empty one lets it follow its people again. BadValue for what cannot be a name."""
    household = fetch(Household.objects, actor, pk=household_id)
    require(actor, "open", household)
    name = written(" ".join(name.split()), "The name", 120)
    household.own_name = bool(name)
    household.name = name or household.name_of_people[:120]
    household.save(update_fields=["name", "own_name"])
    record(actor, "household renamed", household=household, says=household.name)
    return household


def _as_stored(path, value):
    if path == "birth_date":
        return date.fromisoformat(value) if value else None
    return value


def _refuse_number_of_another(client, value, declared):
    plain = plain_number(value)
    others = Person.objects.for_firm(client.firm_id).filter(number_digest=digest(client.firm_id, plain)).exclude(pk=client.pk)
    if other := others.select_related("household").first():
        raise BadValue(f"{declared.label} belongs to {other.full_name}, {other.household}. Check both cards.", value)
