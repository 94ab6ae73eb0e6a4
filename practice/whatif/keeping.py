"""Columns kept beside a return: added, keyed, copied, named, removed. Nothing here touches the return."""

import uuid
from decimal import Decimal

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.firm.typed_values import read_typed
from practice.returns.computing import pack_of
from practice.returns.models import Return
from practice.whatif.models import PlanColumn
from practice.whatif.working import base_data, results
from taxcore.engine import Amount, BadValue, Refer, Rows
from taxcore.whatif.columns import value_at
from taxcore.whatif.differences import ADDED, REMOVED, Place, place_of_mark

MOST = 8
_PERSON = "person:"


def columns_of(return_):
    return list(return_.plan_columns.for_firm(return_.firm_id).filter(removed_at=None).select_related("made_by"))


def _return(actor, return_id):
    """Locked, so that two who add at once do not pass the most."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "open", return_)
    if return_.household.left_on:
        raise Cannot("The client left the practice.")
    return return_


def column_at(actor, return_id, column_id):
    """(return, column). NotOfThisFirm where there is none."""
    return_ = _return(actor, return_id)
    return return_, fetch(PlanColumn.objects.filter(removed_at=None, of=return_), actor, pk=column_id)


@transaction.atomic
def add(actor, return_id, name, based_on=None, years_on=0):
    """A column without a difference. BadValue without a name; Cannot where there are as many as fit."""
    return_ = _return(actor, return_id)
    there = columns_of(return_)
    if len(there) >= MOST:
        raise Cannot(f"There are {MOST} columns already. Remove one first.")
    base = next((one for one in there if one.pk == based_on), None)
    if based_on and base is None:
        raise Cannot("The column it is to be based on was removed.")
    name = written(name, "The name", 40) or f"Plan {len(there) + 1}"
    made = PlanColumn.objects.create(
        firm=return_.firm, of=return_, name=name, based_on=base, years_on=1 if years_on else 0, made_by=actor
    )
    record(actor, "what-if added", return_, says=name)
    return made


@transaction.atomic
def copy(actor, return_id, column_id):
    """The same column once more, to be changed."""
    _, column = column_at(actor, return_id, column_id)
    made = add(actor, return_id, f"{column.name[:33]}, copy", column.based_on_id, column.years_on)
    made.differences, made.note, made.rate = column.differences, column.note, column.rate
    made.save(update_fields=["differences", "note", "rate"])
    return made


@transaction.atomic
def name(actor, return_id, column_id, called, note, rate=None):
    """Its name, a note, and the percent by which prices rise into a year whose law is assumed. BadValue for what is none."""
    return_, column = column_at(actor, return_id, column_id)
    column.name = written(called, "The name", 40, "Name the column.")
    column.note = written(note, "The note", 300)
    if rate is not None:
        column.rate = _percent(rate)
    column.save(update_fields=["name", "note", "rate"])
    record(actor, "what-if named", return_, says=column.name)


def _percent(text):
    try:
        rate = Decimal(text.strip().removesuffix("%").strip())
    except ArithmeticError:
        raise BadValue("Enter by how many percent prices rise in the year, such as 2.5.", text) from None
    if not 0 <= rate <= 20 or rate != round(rate, 2):
        raise BadValue("Enter a percent from 0 to 20, with two decimals at most.", text)
    return rate


@transaction.atomic
def remove(actor, return_id, column_id):
    return_, column = column_at(actor, return_id, column_id)
    if onto := column.onto.for_firm(return_.firm_id).filter(removed_at=None).first():
        raise Cannot(f"“{onto.name}” is based on it. Remove that one first.")
    column.removed_at = timezone.now()
    column.save(update_fields=["removed_at"])
    record(actor, "what-if removed", return_, says=column.name)


@transaction.atomic
def enter(actor, return_id, column_id, mark, text):
    """What a field has in this column; nothing, or what its base has, takes the difference away. BadValue where it does not
    fit the field; Cannot where the column's return has no such field."""
    return_, column = column_at(actor, return_id, column_id)
    place = place_read(return_, mark)
    field = field_at(pack_of(return_), place)
    outcomes = results(return_, columns_of(return_))
    outcome = outcomes[column.key]
    if outcome.result is None:
        raise Cannot(outcome.says)
    if isinstance(field, Refer):
        text = field.key_named(outcome.result.run, text)
    value, _ = read_typed(field, text)
    if not value or _is_same(field, value, value_at(base_data(return_, column, outcomes), place)):
        column.differences.pop(mark, None)
    else:
        column.differences[mark] = value
    column.save(update_fields=["differences"])
    record(actor, "what-if changed", return_, says=f"{column.name}: {field.label}, {value or 'as before'}"[:200])
    return column


def _is_same(field, value, base):
    """Whether it is what the base has: 61480 and 61480.00 are one amount."""
    return base is not None and (value == base or (field.fits(base) and field.parse(value) == field.parse(base) and base != ""))


@transaction.atomic
def add_paper(actor, return_id, column_id, kind, owner=""):
    """A paper (of `owner`) or person that only this column has; its first amount, or the day of birth, is the row to key."""
    return_, column = column_at(actor, return_id, column_id)
    if kind.startswith(_PERSON):
        return _add_person(actor, return_, column, kind.removeprefix(_PERSON))
    declared = pack_of(return_).paper(kind)
    if declared is None or not first_amount(declared):
        raise Cannot("Choose a paper of the list.")
    if owner and owner not in owners_of(_result_of(return_, column), declared):
        raise Cannot(f"Choose whose it is: {declared.name} cannot be of that one.")
    key = kind if declared.single else f"whatif-{uuid.uuid4().hex[:8]}"
    place = Place(kind, key)
    if not declared.single:
        column.differences[place.mark] = ADDED
        if owner:
            column.differences[Place(kind, key, "owner").mark] = owner
    column.save(update_fields=["differences"])
    record(actor, "what-if changed", return_, says=f"{column.name}: {declared.name} added")
    return Place(kind, key, first_amount(declared))


def _result_of(return_, column):
    """The column's result. Cannot where it cannot be worked out."""
    outcome = results(return_, columns_of(return_))[column.key]
    if outcome.result is None:
        raise Cannot(outcome.says)
    return outcome.result


def _add_person(actor, return_, column, role):
    """Somebody who is on this column's return alone, with what that brings along."""
    people, run = pack_of(return_).people, _result_of(return_, column).run
    if role not in people.adds:
        raise Cannot("Choose a paper of the list.")
    if role == "spouse" and run.person("spouse") is not None:
        raise Cannot("There is a spouse already.")
    key = "spouse" if role == "spouse" else f"whatif-{uuid.uuid4().hex[:8]}"
    column.differences |= {Place(people.kind, key).mark: ADDED, Place(people.kind, key, "role").mark: role}
    column.differences |= people.planned_with.get(role, {})
    column.save(update_fields=["differences"])
    record(actor, "what-if changed", return_, says=f"{column.name}: {people.adds[role].lower()} added")
    return Place(people.kind, key, "birth_date")


def people_to_add(pack):
    """(words, kind as `add_paper` takes it) of whom a plan may have besides."""
    return [(words, f"{_PERSON}{role}") for role, words in pack.people.adds.items()] if pack.people.planned else []


@transaction.atomic
def leave_out(actor, return_id, column_id, mark):
    """The column is without a paper from now on, or has it again: whether it is without it now. Cannot where there is none."""
    return_, column = column_at(actor, return_id, column_id)
    outcomes = results(return_, columns_of(return_))
    if outcomes[column.key].result is None:
        raise Cannot(outcomes[column.key].says)
    base = {f"{one.kind}/{one.id}/": one for one in base_data(return_, column, outcomes).papers}
    declared = pack_of(return_).paper(base[mark].kind) if mark in base else None
    if mark not in base and column.differences.get(mark) == ADDED:  # it is the column's own: with all that was keyed in it
        column.differences = {one: value for one, value in column.differences.items() if not one.startswith(mark)}
    elif declared is None or declared.always:
        raise Cannot("Choose a paper of the list.")
    elif column.differences.pop(mark, None) is None:
        column.differences[mark] = REMOVED
    column.save(update_fields=["differences"])
    out = column.differences.get(mark) == REMOVED
    record(actor, "what-if changed", return_, says=f"{column.name}: a paper {'left out' if out else 'as before'}")
    return out


def owners_of(result, declared):
    """Roles that may own a paper of a kind; none where it is nobody's own."""
    if "owner" not in declared.fields():
        return ()
    people = tuple(person.role for person in result.run.people() if person.role in ("taxpayer", "spouse"))
    return (*people, "joint") if declared.joint_owner and len(people) > 1 else people


def first_amount(declared):
    """The field of a paper that is keyed first in a plan; empty where it has no amount of its own."""
    return declared.main or next((name for name, field in declared.fields().items() if isinstance(field, Amount)), "")


def place_read(return_, mark):
    """The place that a mark means. Cannot where the return's declarations know none, or where it is secret."""
    try:
        place = place_of_mark(mark)
        field = field_at(pack_of(return_), place)
    except (ValueError, KeyError):
        raise Cannot("There is no such field.") from None
    if field.secret:
        raise Cannot("A client's number is no part of a plan.")
    return place


def field_at(pack, place):
    """The declaration behind a place. KeyError where there is none."""
    declared = pack.people if place.kind == pack.people.kind else pack.paper(place.kind)
    if declared is None:
        raise KeyError(place.kind)
    name, _, inner = place.path.partition(".")
    field = declared.fields()[name]
    if isinstance(field, Rows):
        return field.row.fields()[inner.partition(".")[2]]
    if inner:
        raise KeyError(place.path)
    return field
