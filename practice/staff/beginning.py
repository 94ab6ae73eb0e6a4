"""A practice that begins: its first person, its letterhead, and what is still to be set up.

The first page is opened with a key that the start command shows, so that nobody else sets up a practice on a fresh machine.
"""

import hmac
from dataclasses import dataclass

from django.conf import settings
from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from practice.clients.models import Household
from practice.fees.prices import listed as prices_of
from practice.firm import second_factor
from practice.firm.events import record
from practice.firm.models import Firm, Role, Staff
from practice.firm.packs import usual_pack
from practice.firm.permissions import require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather import lettering, usual
from practice.staff.inviting import checked_person, set_password
from taxcore.engine import BadValue

_LETTERHEAD = (("name", "The practice’s name", 80), ("town", "The town", 60), ("address", "The address", 120),
               ("telephone", "The telephone", 20))  # fmt: skip


def opens(key):
    """Whether a practice can be set up here, with that key."""
    return hmac.compare_digest(key, settings.SET_UP_KEY) and not Firm.objects.exists()


@transaction.atomic
def begin(key, given, password):
    """The practice and its first person, a signer: somebody who prepares, files and administers. `given` maps the names of the
    letterhead and of the person to what was typed. BadValue where one does not fit."""
    if not opens(key):
        raise Cannot("A practice was set up here already. Sign in.")
    if len(password) == 0:
        raise BadValue("Choose a password.", "")
    head = _letterhead(given)
    email, person, initials = checked_person(
        None, given.get("email", ""), given.get("person", ""), given.get("initials", ""), Role.SIGNER
    )
    firm = Firm.objects.create(season=_season(), **head)
    staff = Staff(firm=firm, email=email, name=person, initials=initials, role=Role.SIGNER)
    set_password(staff, password)
    record(staff, "practice set up", firm=firm, says=firm.name)
    return staff


def _letterhead(given):
    return {name: written(given.get(name, ""), what, most, f"{what}: enter it." if name == "name" else "")
            for name, what, most in _LETTERHEAD}  # fmt: skip


def _season():
    """The year whose returns are due next, of those that the program knows."""
    years, last = usual_pack().years, timezone.localdate().year - 1
    return last if last in years else max(years)


@transaction.atomic
def set_letterhead(actor, given):
    """What stands above letters, invoices and packages."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    head = _letterhead(given)
    for name, text in head.items():
        setattr(firm, name, text)
    firm.save(update_fields=list(head))
    record(actor, "letterhead", firm=firm, says=f"{firm.name}, {firm.address}, {firm.telephone}")


@dataclass(frozen=True)
class ToDo:
    """One thing to set up: what, why, where, and whether it is done."""

    name: str
    why: str
    url: str
    done: bool


def to_do(actor):
    """What a practice sets up, in a good order."""
    firm, pack = actor.firm, usual_pack()
    here = reverse("firm-answers")
    staff = firm.staff.filter(is_active=True).count()
    return [
        ToDo("Letterhead", "Stands above letters, invoices and packages.", reverse("letterhead"),
             bool(firm.address and firm.telephone)),
        ToDo("Your second factor", "A code of your phone beside the password.", reverse("second-factor"),
             second_factor.in_force(actor)),
        ToDo("Colleagues", "Invited by email; each chooses a password.", reverse("staff"), staff > 1),
        ToDo("Filing identification", f"{usual_pack().outgoing.filing_number} and PIN to file under.", f"{here}#efile",
             bool(firm.efin and firm.originator_pin)),
        ToDo("Before locking a return", "Which reviews a return needs first.", f"{here}#locking", True),
        ToDo("Engagement letter", "Sent to each client and signed on their phone.", reverse("gather-practice") + "#engagement",
             "engagement" in lettering.texts(firm, pack.code)),
        ToDo("What you always ask", "On every request to a client.", reverse("gather-practice"),
             usual.listed(firm, pack.code).exists()),
        ToDo("Prices", "Invoices are drafted from them.", reverse("prices"), prices_of(firm, pack.code).exists()),
        ToDo("PDF signature", "What packages and invoices are signed with; your own certificate, if you have one.",
             reverse("pdf-certificate"), True),
        ToDo("Retention", "How long source documents are kept.", reverse("retention"), True),
        ToDo("Clients", "Add one, or bring them in from a list.", reverse("bring-clients"),
             Household.objects.for_firm(firm).exists()),
    ]  # fmt: skip
