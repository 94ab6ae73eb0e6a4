"""Who is what in an entity: owners with their shares, directors, trustees, whoever gets the mail."""

from decimal import Decimal, InvalidOperation

from django.db import transaction
from django.db.models import Q

from practice.clients.finding import named
from practice.clients.models import Household, Kind, Person, Role, RoleKind
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from taxcore.engine import BadValue

_HUNDRED = Decimal(100)


@transaction.atomic
def give(actor, household_id, holder, kind, share=None, since=None, gets_mail=False, signs=False):
    """A role in an entity for a client named as `holder`: a person's or an entity's whole name, with the last four digits of the
    number where two are called so. BadValue says what cannot be."""
    household = fetch(Household.objects, actor, pk=household_id, kind=Kind.ENTITY)
    require(actor, "open", household)
    if kind not in RoleKind.values:
        raise BadValue("Choose a role.", kind)
    found = named(actor, holder)
    if found == household:
        raise BadValue("A company has no role in itself.", holder)
    if signs and not isinstance(found, Person):
        raise BadValue("Only a person signs.", holder)
    of = {"person": found} if isinstance(found, Person) else {"holder": found}
    standing = household.roles.filter(kind=kind, until=None)
    if standing.filter(**of).exists():
        raise BadValue("That role is there already. End it first.", holder)
    if share is not None:
        _fits(standing, share)
    role = Role.objects.create(
        firm=actor.firm,
        household=household,
        kind=kind,
        share=share,
        since=since,
        gets_mail=gets_mail,
        signs=signs,
        by=actor,
        **of,
    )
    _record(actor, "role given", role)
    return role


def share_of(text):
    """A share in percent with up to four places, None for nothing. BadValue for anything else."""
    plain = text.strip().rstrip("% ")
    if not plain:
        return None
    try:
        share = Decimal(plain if plain.isascii() else "none")
    except InvalidOperation:
        raise BadValue("A share is a number of percent, such as 40 or 33.3333.", text) from None
    if not share.is_finite() or abs(share) > 999:  # a number of any length cannot be rounded
        raise BadValue("A share is more than 0 and at most 100 percent.", text)
    if share != round(share, 4):
        raise BadValue("A share has up to four places behind the point.", text)
    return share


def _fits(standing, share):
    """Shares of one kind are percent of a whole."""
    if not 0 < share <= _HUNDRED:
        raise BadValue("A share is more than 0 and at most 100 percent.", str(share))
    taken = sum((one.share for one in standing if one.share is not None), Decimal(0))
    if taken + share > _HUNDRED:
        raise BadValue(
            f"{taken.normalize():f}% are held by others already; {(_HUNDRED - taken).normalize():f}% are left.", str(share)
        )


@transaction.atomic
def end(actor, role_id, day):
    """The role ends on a day; it stays in the records. BadValue where that is before it began."""
    role = fetch(Role.objects.select_related("household"), actor, pk=role_id)
    require(actor, "open", role)
    if role.since and day < role.since:
        raise BadValue("That is before the role began.", str(day))
    if role.until is None:
        role.until = day
        role.save(update_fields=["until"])
        _record(actor, "role ended", role)
    return role


def _record(actor, what, role):
    share = f", {role.share.normalize():f}%" if role.share is not None else ""
    record(actor, what, household=role.household, says=f"{role.named}, {role.get_kind_display().lower()}{share}")


def hear_of(household):
    """The persons who hear of an entity: who gets its mail; where nobody does, who signs for it."""
    rows = household.roles.filter(until=None).exclude(person=None).filter(Q(gets_mail=True) | Q(signs=True))
    found = list(rows.select_related("person"))
    return list(dict.fromkeys(one.person for one in [one for one in found if one.gets_mail] or found))


def roles_in(actor, household):
    """Who is what in an entity, as far as somebody may see them: those that stand first."""
    return _visible(actor, household.roles.select_related("person__household", "holder"))


def roles_of(actor, household):
    """What a client and its people are in entities."""
    rows = Role.objects.for_staff(actor).filter(Q(person__household=household) | Q(holder=household))
    return _visible(actor, rows.select_related("household", "person__household", "holder"))


def _visible(actor, rows):
    seen = Household.objects.for_staff(actor).values("pk")
    return rows.filter(Q(person__household__in=seen) | Q(holder__in=seen))
