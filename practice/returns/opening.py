"""New households and returns."""

from django.db import transaction

from practice.clients.models import Household, Person
from practice.firm.crypto import seal
from practice.firm.events import record
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.changing import summarise
from practice.returns.computing import BROUGHT, pack_of, result_of
from practice.returns.entry import stored
from practice.returns.models import Paper, Return, Stage
from practice.returns.stages import reach


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
def open_return(actor, household_id, year, people, preparer=None):
    """A filing return for a year. `people` are (person id, role) pairs; their details are copied as they are now."""
    household = fetch(Household.objects, actor, pk=household_id)
    require(actor, "open", household)
    if household.left_on:
        raise Cannot("The client left the practice. Take them back first.")
    if usual_pack().filer != household.kind:
        raise Cannot("Returns of companies are not made here yet.")
    return_ = new_return(household, year, preparer or actor)
    for position, (person_id, role) in enumerate(people):
        _copy_person(return_, fetch(Person.objects, actor, pk=person_id), role, position)
    _copy_address(return_, household, "joint" if any(role == "spouse" for _, role in people) else "single")
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "return added", return_, says=f"{year}")
    return return_


def new_return(household, year, preparer, **more):
    """A return without papers yet, due when its first authority wants it."""
    return_ = Return(firm=household.firm, household=household, year=year, preparer=preparer, **more)
    return_.due = pack_of(return_).authorities[0].due_on(year, household.state)
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


def _copy_person(return_, person, role, position):
    values = {
        "role": role,
        "first_name": person.first_name,
        "last_name": person.last_name,
        "number": seal(person.number),
        "birth_date": person.birth_date.isoformat() if person.birth_date else "",
        "occupation": person.occupation,
        "email": person.email,
    }
    kept = {name: value for name, value in values.items() if value}
    key = role if role in ("taxpayer", "spouse") else f"d{person.pk}"
    Paper.objects.create(
        firm=return_.firm, of=return_, kind="person", key=key, position=position, values=kept,
        provenance=_rolled(name for name in kept if name != "role"), person=person,
    )  # fmt: skip


def _copy_address(return_, household, status):
    values = {
        "status": status,
        "street": household.street,
        "city": household.city,
        "state": household.state,
        "zip": household.zip,
        "residence": household.state,  # proposed: shown as brought along until somebody confirms it
    }
    kept = {name: value for name, value in values.items() if value}
    Paper.objects.create(
        firm=return_.firm, of=return_, kind="filing", key="filing", position=10, values=kept,
        provenance=_rolled(name for name in kept if name != "status"),
    )  # fmt: skip


def _rolled(names):
    return {name: {"how": BROUGHT, "by": ""} for name in names}
