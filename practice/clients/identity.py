"""How each client's identity was verified, and whether that is enough for a signature in the office. Pub. 1345."""

from django.db import transaction

from practice.clients.models import IdentityDocument, IdentityRecord, Person
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.typed_values import day as typed_day
from taxcore.engine import BadValue, Day

_EXPIRES = Day(None, "Expires")


class IdentityErrors(Exception):
    """What is wrong, by field."""

    def __init__(self, errors):
        super().__init__("; ".join(errors.values()))
        self.errors = errors


@transaction.atomic
def record_identity(actor, person_id, document, ending="", expires="", issued_by=""):
    """Keep what was seen. IdentityErrors with a message for each field that cannot be taken."""
    person = fetch(Person.objects.select_related("household"), actor, pk=person_id)
    require(actor, "verify identity", person)
    errors, day = {}, None
    if document not in IdentityDocument.values:
        errors["document"] = "Choose what was shown."
    known = document == IdentityDocument.KNOWN
    if not known and not (2 <= len(ending.strip()) <= 4 and ending.strip().isalnum()):
        errors["ending"] = "Enter only the last 2 to 4 characters of its number."
    if not known and not issued_by.strip():
        errors["issued_by"] = "Enter the issuing state or country."
    try:
        day = typed_day(expires.strip(), _EXPIRES) if expires.strip() else None
    except BadValue as bad:
        errors["expires"] = bad.says
    if not known and day is None and "expires" not in errors:
        errors["expires"] = "Enter the expiration date."
    if day is not None and day < actor.firm.today():
        errors["expires"] = "It has expired. Ask for another document."
    if errors:
        raise IdentityErrors(errors)
    row = IdentityRecord.objects.create(
        firm=person.firm, person=person, document=document, ending="" if known else ending.strip().upper(), by=actor,
        issued_by=issued_by.strip()[:40], expires=day, on=actor.firm.today(),
    )  # fmt: skip
    record(actor, "identity verified", household=person.household, says=f"{person.full_name}: {row.get_document_display()}")
    return row


def verified(person, day):
    """The newest record that holds on a day, or None."""
    return next((row for row in person.identities.all() if row.holds_on(day)), None)
