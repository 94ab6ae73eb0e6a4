"""What the practice asks of every client, and how often it reminds."""

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.gather.models import Kind, Usual
from practice.gather.requesting import HELP, TEXT
from taxcore.engine import BadValue
from taxcore.packs import pack_named

MOST = 40


def listed(firm, pack):
    return Usual.objects.for_firm(firm).filter(pack=pack, ended_at=None)


@transaction.atomic
def add(actor, pack, kind, text, help="", after=""):
    """One more item on every request from now on. BadValue where it says nothing, is there already, or there are too many."""
    require(actor, "administer", actor)
    text = written(text, "The item", TEXT, "Say what you always need.")
    help = written(help, "The explanation", HELP)
    there = listed(actor.firm, pack)
    if there.filter(text__iexact=text).exists():
        raise BadValue("That is asked already.", text)
    if there.count() >= MOST:
        raise BadValue(f"There are {MOST} already. Remove one first.", text)
    kind = kind if kind in (Kind.DOCUMENT, Kind.QUESTION) else Kind.DOCUMENT
    if after and after not in {one.key for one in pack_named(pack).questions}:
        raise BadValue("Choose a question of the questionnaire.", after)
    made = Usual.objects.create(firm=actor.firm, pack=pack, kind=kind, text=text, help=help, after=after, position=there.count())
    record(actor, "always asked", firm=actor.firm, says=text)
    return made


@transaction.atomic
def end(actor, usual_id):
    """No longer on new requests. Those that were sent keep it."""
    row = fetch(Usual.objects, actor, pk=usual_id)
    require(actor, "administer", row)
    row.ended_at = timezone.now()
    row.save(update_fields=["ended_at"])
    record(actor, "no longer asked", firm=actor.firm, says=row.text)


@transaction.atomic
def remind_every(actor, days):
    """How many days lie between reminders; 0 sends none. BadValue where it is no such number."""
    require(actor, "administer", actor)
    if days is None:
        raise BadValue("Enter a number of days from 0 to 90.", "")
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.reminds_every = days
    firm.save(update_fields=["reminds_every"])
    record(actor, "reminders", firm=firm, says=f"every {days} days" if days else "none")
