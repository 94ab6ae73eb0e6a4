"""A client's own record follows what is keyed about them on a return: their name, number, birth date, occupation and mail."""

from datetime import date

from practice.clients.models import Person
from practice.firm.crypto import digest
from taxcore.engine import BadValue

_FIELDS = ("first_name", "last_name", "number", "birth_date", "occupation", "email")


def keep_client_in_step(paper, place, value):
    """Write a keyed field of a person through to the client. BadValue where the number is another client's."""
    if paper.person_id is None or place.path not in _FIELDS:
        return
    client = paper.person
    if place.path == "number" and value:
        _refuse_number_of_another(client, value, place.declared)
    setattr(client, place.path, _as_stored(place.path, value))
    client.save()


def _as_stored(path, value):
    if path == "birth_date":
        return date.fromisoformat(value) if value else None
    return value


def _refuse_number_of_another(client, value, declared):
    plain = "".join(character for character in value if character.isdigit())
    others = Person.objects.for_firm(client.firm_id).filter(number_digest=digest(client.firm_id, plain)).exclude(pk=client.pk)
    if other := others.select_related("household").first():
        raise BadValue(f"{declared.label} belongs to {other.full_name}, {other.household}. Compare both with their cards.", value)
