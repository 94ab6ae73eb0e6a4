"""Companies, partnerships, trusts as clients: taken on, and corrected."""

from django.db import transaction

from practice.clients.models import Entity, EntityForm, Household, Kind, Person
from practice.firm.crypto import digest, plain_number
from practice.firm.events import record
from practice.firm.permissions import fetch, require

_ADDRESS = ("street", "city", "state", "zip")


class EntityErrors(Exception):
    """What cannot be taken, by field."""

    def __init__(self, errors):
        super().__init__(errors)
        self.errors = errors


@transaction.atomic
def add(actor, **given):
    """A new client that is no person. `given` are name, trade, the address, and the fields of Entity. EntityErrors by field."""
    require(actor, "add clients")
    _check(actor, given)
    household = Household.objects.create(
        firm=actor.firm, kind=Kind.ENTITY, own_name=True, in_care_of=actor, name=given["name"], trade=given.get("trade", ""),
        **{name: given.get(name, "") for name in _ADDRESS},
    )  # fmt: skip
    Entity.objects.create(firm=actor.firm, household=household, **_details(given))
    record(actor, "client added", household=household, says=household.name)
    return household


@transaction.atomic
def correct(actor, household_id, **given):
    """Other details of a company. EntityErrors by field."""
    household = fetch(Household.objects.select_related("entity"), actor, pk=household_id, kind=Kind.ENTITY)
    require(actor, "open", household)
    _check(actor, given, household.entity)
    for name in ("name", "trade", *_ADDRESS):
        setattr(household, name, given.get(name, ""))
    household.save()
    for name, value in _details(given).items():
        setattr(household.entity, name, value)
    household.entity.save()
    record(actor, "company corrected", household=household, says=household.name)
    return household


def _details(given):
    return {
        "form": given["form"], "number": given.get("number", ""), "formed_on": given.get("formed_on"),
        "email": given.get("email", ""), "telephone": given.get("telephone", ""),
    }  # fmt: skip


def _check(actor, given, this=None):
    errors = {}
    if not given.get("name"):
        errors["name"] = "Enter its full name."
    if given.get("form") not in EntityForm.values:
        errors["form"] = "Choose what it is."
    plain = plain_number(given.get("number", ""))
    if given.get("number") and not plain:
        errors["number"] = "A number has digits or letters."
    elif plain and (other := _of_another(actor.firm_id, plain, this)):
        errors["number"] = f"{other} has this number. Open that client instead."
    if errors:
        raise EntityErrors(errors)


def _of_another(firm_id, plain, this):
    """Who has the number already. A client that the actor may not see is said without a name by whoever shows it."""
    mark = digest(firm_id, plain)
    entity = Entity.objects.for_firm(firm_id).filter(number_digest=mark).exclude(pk=this.pk if this else None).first()
    person = Person.objects.for_firm(firm_id).filter(number_digest=mark).first()
    return "Another client" if entity or person else ""
