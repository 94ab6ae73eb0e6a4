"""Messages between the practice and a client. Mails only say that there is one. A client's message can be made an open point."""

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Staff
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.models import Message
from practice.gather.people import asked_first
from practice.portal.links import send_link
from practice.returns.models import Return
from taxcore.engine import BadValue

LONGEST = 4000
_EMPTY = "Write a message first."


@transaction.atomic
def write(actor, return_id, words):
    """To the client, who gets a link by mail."""
    return_ = fetch(Return.objects.select_related("household", "firm"), actor, pk=return_id)
    require(actor, "write to clients", return_)
    if return_.household.left_on:
        raise Cannot("The client left the practice.")
    words = written(words, "The message", LONGEST, _EMPTY)
    person = asked_first(return_)
    if person is None:
        raise Cannot("Nobody on this return has an email address. Enter one on the client’s page.")
    made = Message.objects.create(firm=actor.firm, household=return_.household, of=return_, staff=actor, words=words)
    thread(return_.household).filter(staff=None, read_at=None).update(read_at=timezone.now())
    send_link(return_, person, "message")
    record(actor, "message to the client", return_)
    return made


@transaction.atomic
def write_back(link, words):
    """From the client, in the portal."""
    words = written(words, "The message", LONGEST, _EMPTY)
    made = Message.objects.create(firm=link.firm, household=link.of.household, of=link.of, client=link.client, words=words)
    record(None, "message from the client", link.of, by=link.client.full_name)
    return made


def thread(household):
    """All messages with a client, the oldest first."""
    return Message.objects.for_firm(household.firm_id).filter(household=household).select_related("staff", "client", "point_for")


@transaction.atomic
def note_read(household, by_client):
    """What the other side wrote was seen now."""
    unread = thread(household).filter(read_at=None)
    (unread.filter(client=None) if by_client else unread.filter(staff=None)).update(read_at=timezone.now())


@transaction.atomic
def make_point(actor, message_id, staff_id):
    """Somebody of the staff must see to a client's message."""
    message = fetch(Message.objects.select_related("household", "of"), actor, pk=message_id)
    require(actor, "note", message)
    if message.client_id is None:
        raise Cannot("Only what a client wrote can be an open point.")
    who = Staff.objects.filter(firm=actor.firm, is_active=True, pk=staff_id).first()
    if who is None:
        raise BadValue("Choose a colleague.", staff_id)
    message.point_for, message.closed_at = who, None
    message.save(update_fields=["point_for", "closed_at"])
    record(actor, "open point", message.of, household=message.household, says=f"a message, for {who.name}")
    return message


@transaction.atomic
def close_point(actor, message_id):
    message = fetch(Message.objects.select_related("household", "of"), actor, pk=message_id)
    require(actor, "note", message)
    message.closed_at = timezone.now()
    message.save(update_fields=["closed_at"])
    record(actor, "open point closed", message.of, household=message.household)
    return message
