"""Roles, leave, handing work over, and leaving."""

from django.db import transaction
from django.utils import timezone

from practice.clients.models import Household
from practice.firm import dates, sessions
from practice.firm.events import record
from practice.firm.models import Role, Staff
from practice.firm.permissions import MAY, require
from practice.firm.refusals import Cannot
from practice.gather.models import Message
from practice.returns.models import Return, Stage
from practice.review.models import MarginNote
from taxcore.engine import BadValue


def _colleague(actor, staff_id):
    """Somebody of the actor's firm, held. Every change of staff holds the firm's administrators, so that the last one stays."""
    require(actor, "administer", actor)
    rows = list(Staff.objects.select_for_update(of=("self",)).filter(firm=actor.firm).order_by("pk"))
    found = next((one for one in rows if one.pk == staff_id), None)
    if found is None:
        raise Cannot("There is no such colleague.")
    return found, rows


def _keeps_an_administrator(rows, without):
    if not any(one.is_active and one.role in MAY["administer"] and one.pk != without.pk for one in rows):
        raise Cannot("Somebody must be left who can change the practice’s settings: a signer or an administrator.")


@transaction.atomic
def change_role(actor, staff_id, role):
    staff, rows = _colleague(actor, staff_id)
    if role not in Role.values:
        raise BadValue("Choose a role.", role)
    if role not in MAY["administer"]:
        _keeps_an_administrator(rows, staff)
    before, staff.role = staff.get_role_display(), role
    staff.save(update_fields=["role"])
    record(actor, "role changed", firm=actor.firm, says=f"{staff.name}: {before.lower()}, now {staff.get_role_display().lower()}")
    return staff


@transaction.atomic
def set_away(actor, staff_id, until):
    """The last day of a leave, or none. Somebody may say it of themselves."""
    if staff_id != actor.pk:
        _colleague(actor, staff_id)
    if until is not None and until < actor.firm.today():
        raise BadValue("That day is over. Leave it empty for nobody away.", str(until))
    Staff.objects.filter(pk=staff_id, firm=actor.firm).update(away_until=until)
    name = Staff.objects.get(pk=staff_id).name
    record(actor, "leave", firm=actor.firm, says=f"{name}: {f'until {dates.long_day(until)}' if until else 'back'}")


def work_of(staff):
    """What lies with somebody: {name of it: query}."""
    firm = staff.firm_id
    return {
        "returns prepared": Return.objects.for_firm(firm).filter(preparer=staff).exclude(stage=Stage.DONE),
        "returns waiting": Return.objects.for_firm(firm).filter(waiting_for=staff),
        "clients": Household.objects.for_firm(firm).filter(in_care_of=staff, left_on=None),
        "open points": MarginNote.objects.for_firm(firm).filter(asked=staff, closed_at=None),
        "points from messages": Message.objects.for_firm(firm).filter(point_for=staff, closed_at=None),
    }


_FIELDS = {
    "returns prepared": "preparer", "returns waiting": "waiting_for", "clients": "in_care_of", "open points": "asked",
    "points from messages": "point_for",
}  # fmt: skip


def numbers_of(staff):
    return {name: rows.count() for name, rows in work_of(staff).items()}


@transaction.atomic
def hand_over(actor, staff_id, to_id):
    """Everything that lies with somebody goes to a colleague; who prepared finished returns stays as it is. Gives the numbers."""
    staff, rows = _colleague(actor, staff_id)
    to = next((one for one in rows if one.pk == to_id and one.is_active), None)
    if to is None or to.pk == staff.pk:
        raise BadValue("Choose a colleague who takes it.", to_id)
    moved = {name: of.update(**{_FIELDS[name]: to}) for name, of in work_of(staff).items()}
    says = ", ".join(f"{number} {name}" for name, number in moved.items() if number) or "nothing"
    record(actor, "work reassigned", firm=actor.firm, says=f"{staff.name} to {to.name}: {says}")
    return moved


@transaction.atomic
def let_go(actor, staff_id):
    """Somebody who left can no longer sign in. Cannot while work lies with them."""
    staff, rows = _colleague(actor, staff_id)
    if staff.pk == actor.pk:
        raise Cannot("Ask a colleague: nobody removes themselves.")
    _keeps_an_administrator(rows, staff)
    left = {name: number for name, number in numbers_of(staff).items() if number}
    if left:
        raise Cannot(f"Reassign first what lies with {staff.name}: {', '.join(f'{n} {what}' for what, n in left.items())}.")
    staff.is_active = False
    staff.save(update_fields=["is_active"])
    sessions.end(actor, sessions.open_of(staff))
    record(actor, "colleague left", firm=actor.firm, says=staff.name)


@transaction.atomic
def take_back(actor, staff_id):
    staff, _ = _colleague(actor, staff_id)
    staff.is_active = True
    staff.save(update_fields=["is_active"])
    record(actor, "colleague came back", firm=actor.firm, says=f"{staff.name}, {timezone.localdate()}")
