"""A return waits for Schedules K-1 of entities that are clients here: which, and until when they are due."""

from django.urls import reverse

from practice.clients.models import Role, RoleKind
from practice.firm import dates
from practice.firm.compiled import Compiled
from practice.firm.crypto import plain_number
from practice.firm.packs import packs_for
from practice.returns.computing import open_values, pack_of
from practice.returns.models import Purpose
from practice.returns.standing import filing_return
from taxcore.packs.us.papers.shares import KINDS

_OWNERS = (RoleKind.OWNER, RoleKind.PARTNER, RoleKind.MEMBER, RoleKind.SHAREHOLDER)


def waits_for(return_):
    """Returns of the year of entities whose owner somebody of the client is, and of which there is no Schedule K-1 yet."""
    if return_.purpose != Purpose.FILING:
        return []
    entities = dict.fromkeys(role.household for role in _ROLES(return_.firm_id, return_.household_id))
    there = _numbers_there(return_) if entities else ()
    found = []
    for household in entities:
        codes = (pack.code for pack in packs_for("entity") if pack.issues is not None)
        source = next((one for code in codes if (one := filing_return(household, code, return_.year)) is not None), None)
        if source is not None and plain_number(household.entity.number) not in there:
            found.append(source)
    return found


def _roles(firm, household):
    roles = Role.objects.for_firm(firm).filter(person__household=household, kind__in=_OWNERS, until=None)
    return roles.select_related("household__entity")


_ROLES = Compiled(_roles)


def _numbers_there(return_):
    kept = [one for one in return_.papers.all() if one.kind in KINDS and not one.removed_at]
    return {plain_number(str(open_values(one.values).get("entity_number") or "")) for one in kept}


def notices(return_):
    for source in waits_for(return_):
        title = pack_of(source).called.lower()
        named = "a restricted client" if source.household.restricted else source.household.name
        says = (
            f"Schedule K-1 of {named} has not arrived. Its {title} is due {dates.long(source.due)}, "
            f"now in {source.get_stage_display().lower()}."
        )
        yield "waits-for", f"{source.pk}", "check", says, reverse("issued", args=[source.pk]), "Hand it out"
