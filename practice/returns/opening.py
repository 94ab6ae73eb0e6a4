"""New households and returns."""

from django.db import transaction

from practice.clients.models import Household, Kind, Person, form_of
from practice.firm.events import record
from practice.firm.packs import pack_for
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.changing import summarise
from practice.returns.computing import BROUGHT, pack_of, result_of
from practice.returns.entry import stored
from practice.returns.models import Paper, Return, Stage
from practice.returns.stages import reach

FILERS = ("taxpayer", "spouse")  # who may sign, in this order


@transaction.atomic
def open_household(actor, name, people, **details):
    """A household with its people (dicts of Person's fields)."""
    require(actor, "add clients")
    household = Household.objects.create(firm=actor.firm, name=name, in_care_of=actor, **details)
    for person in people:
        Person.objects.create(firm=actor.firm, household=household, **person)
    record(actor, "household added", household=household, says=name)
    return household


@transaction.atomic
def open_return(actor, household_id, year, people, preparer=None, pack=None, period=None):
    """A filing return for a year, or for a period of its own where its kind asks for one. `people` are (person id, role) pairs;
    their details are copied as they are now. `pack` where the client files returns of several kinds."""
    household = fetch(Household.objects, actor, pk=household_id)
    require(actor, "open", household)
    if household.left_on:
        raise Cannot("The client left the practice. Take them back first.")
    pack = pack or pack_for(household.kind, form_of(household))
    if pack is None or pack.filer != household.kind:
        raise Cannot("Returns of companies are not made here yet.")
    return_ = new_return(household, year, preparer or actor, pack=pack.code, **spanned(period))
    clients = [(fetch(Person.objects, actor, pk=person_id), role) for person_id, role in people]
    ids = {_id_of(person, role): person.pk for person, role in clients}
    address = {name: getattr(household, name) for name in ("street", "city", "state", "zip")}
    filers = [_known_of_entity(household)] if household.kind == Kind.ENTITY else [_known_of(*one) for one in clients]
    given = pack.papers_to_open(filers, address)
    put_papers(return_, given, lambda one: {name: {"how": BROUGHT, "by": ""} for name in one.carried}, ids)
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "return added", return_, says=f"{year}")
    return return_


def _id_of(person, role):
    return role if role in FILERS else f"d{person.pk}"


def _known_of(person, role):
    """What the practice knows of a person, as the core takes it."""
    return {
        "id": _id_of(person, role), "role": role, "first_name": person.first_name, "last_name": person.last_name,
        "number": person.number, "birth_date": person.birth_date.isoformat() if person.birth_date else "",
        "occupation": person.occupation, "email": person.email,
    }  # fmt: skip


def _known_of_entity(household):
    """What the practice knows of an entity, which stands on its return where people stand on others."""
    entity = household.entity
    return {
        "id": "taxpayer", "role": "taxpayer", "name": household.name, "number": entity.number, "form": entity.form,
        "formed_on": entity.formed_on.isoformat() if entity.formed_on else "",
    }  # fmt: skip


def spanned(period):
    """A period as a return keeps it; nothing where the year says it."""
    return {"begins": period.start, "ends": period.end} if period else {}


def new_return(household, year, preparer, **more):
    """A return without papers yet, due when its first authority wants it."""
    return_ = Return(firm=household.firm, household=household, year=year, preparer=preparer, **more)
    return_.due = pack_of(return_).authorities[0].due_on(year, household.state, return_.period)
    reach(return_, Stage.GATHER, "")
    return_.save()
    return return_


def put_papers(return_, given, provenance, people=None):
    """Papers of a return that has none yet, as the core gave them. `provenance` says of each what its values are; `people` which
    client is behind a person's id."""
    pack = pack_of(return_)
    Paper.objects.bulk_create(
        Paper(
            firm=return_.firm, of=return_, kind=one.kind, key=one.id, position=position,
            values=stored(pack.paper(one.kind), one.values), provenance=provenance(one), person_id=(people or {}).get(one.id),
        )
        for position, one in enumerate(given)
    )  # fmt: skip
