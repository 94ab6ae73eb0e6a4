"""Two records of one person become one. The record that goes is kept, points at the other, and is shown nowhere.

What was signed and delivered under it stays as it was; everything that is still open is the other's from now on.
"""

from django.db import transaction

from practice.clients.models import Household, Person
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.models import Paper, originals


class CannotMerge(Cannot):
    """These are not made one; `says` tells why."""


@transaction.atomic
def merge(actor, kept_id, gone_id):
    """Make `gone` the same client as `kept`. Where nobody else is in its household, returns, groups and roles come along."""
    people = Person.objects.select_for_update(of=("self",)).select_related("household")
    kept, gone = (fetch(people, actor, pk=pk, merged_into=None) for pk in (kept_id, gone_id))
    require(actor, "merge clients", kept)
    _may_be_one(kept, gone)
    alone = kept.household_id != gone.household_id and not _others(gone).exists()
    if alone:
        _refuse_two_of_a_year(kept.household, gone.household)
    _complete(kept, gone)
    for paper in Paper.objects.for_firm(actor.firm).filter(person=gone, of__snapshot=None):
        paper.person = kept
        paper.save(update_fields=["person"])
    gone.roles.all().update(person=kept)
    gone.merged_into = kept
    gone.save()
    if alone:
        _move(kept.household, gone.household)
    record(actor, "clients merged", household=kept.household, says=f"{gone.full_name} is {kept.full_name}")
    return kept


def _may_be_one(kept, gone):
    if kept.pk == gone.pk:
        raise CannotMerge("That is one record already.")
    if kept.number_digest and gone.number_digest:
        raise CannotMerge("Both have a number, so they are two people. Correct the number that is wrong first.")
    if kept.birth_date and gone.birth_date and kept.birth_date != gone.birth_date:
        raise CannotMerge("Their dates of birth differ. Correct the one that is wrong first.")
    if kept.household.left_on or gone.household.left_on:
        raise CannotMerge("One of them left the practice. Take the client back first.")


def _others(person):
    return person.household.people.filter(merged_into=None).exclude(pk=person.pk)


def _refuse_two_of_a_year(kept, gone):
    rows = [set(originals(one.returns.for_firm(one.firm_id)).values_list("pack", "year")) for one in (kept, gone)]
    if both := rows[0] & rows[1]:
        years = ", ".join(str(year) for _, year in sorted(both))
        raise CannotMerge(f"Both have a return of {years}. Only one return of a year can be a client's.")


def _complete(kept, gone):
    """What the record that stays lacks. A number is one person's, so it leaves the other first."""
    number, gone.number = gone.number, ""
    gone.save()
    if number and not kept.number:
        kept.number = number
    for name in ("birth_date", "occupation", "email", "telephone"):
        if not getattr(kept, name):
            setattr(kept, name, getattr(gone, name))
    kept.save()


def _move(kept: Household, gone: Household):
    gone.returns.for_firm(gone.firm_id).update(household=kept)
    there = set(kept.memberships.values_list("group", flat=True))
    gone.memberships.exclude(group__in=there).update(household=kept)
    gone.memberships.all().delete()
    gone.holdings.all().update(holder=kept)
    gone.merged_into = kept
    gone.save(update_fields=["merged_into"])
