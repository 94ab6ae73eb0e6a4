"""What a client does with a request, in the portal: sends pages, answers, says that something does not apply, asks back.

Every reply is stored as it comes and is the office's turn then. Nothing of it moves a figure.
"""

from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from practice.firm.events import record
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.models import Item, Kind, Reply, Told, Turn, Upload
from practice.gather.requesting import settle
from practice.intake import attaching
from taxcore.engine import BadValue

WORDS = 2000
MOST_FILES = 20


def asked_of(link):
    """The items that a client sees: of sent requests of the return that the link is for, those not withdrawn."""
    items = Item.objects.across_firms("the client's own").filter(of=link.of, request__sent_on__isnull=False)
    items = items.exclude(turn=Turn.WITHDRAWN).select_related("request", "paper").prefetch_related("uploads__attachment")
    return items.filter(_called_for(link.of)).order_by("request_id", "position", "id")


def _called_for(return_):
    """What is only for those who said yes to a question waits for that yes."""
    said = Told.objects.for_firm(return_.firm_id).filter(item__of=return_, yes=True).values("key")
    return Q(after="") | Q(after__in=said)


def mine(link, item_id):
    """The item, locked; Cannot where it is not (any more) the client's to reply to."""
    rows = (
        Item.objects.across_firms("the client's own").select_for_update(of=("self",)).select_related("request__of__firm", "paper")
    )
    item = rows.filter(of=link.of, request__sent_on__isnull=False, pk=item_id).first()
    if item is None or item.turn == Turn.WITHDRAWN:
        raise Cannot("The office does not ask for this any more.")
    if item.turn == Turn.DONE:
        raise Cannot("The office has this already. Thank you.")
    return item


@transaction.atomic
def upload(link, item_id, name, content):
    """A file for an item; gives (its name, whether it is new). The same file twice is one. BadValue where it cannot be taken."""
    item = mine(link, item_id)
    if item.kind != Kind.DOCUMENT:
        raise Cannot("This is a question. Answer it in words.")
    if item.uploads.count() >= MOST_FILES:
        raise BadValue(f"Up to {MOST_FILES} files can be sent for one item. Put the rest into one PDF, or bring them.", "")
    paper = item.paper_id if item.paper and item.paper.removed_at is None else None
    kept, _ = attaching.receive(link.of_id, paper, name, content, link.client)
    sent = Upload.objects.for_firm(link.firm_id).filter(attachment=kept).first()
    if sent is not None and sent.item_id == item.pk:
        return kept.name, False
    if sent is not None:
        raise BadValue(f"You sent this file already, for “{sent.item.text}”.", "")
    Upload.objects.create(firm=link.firm, item=item, attachment=kept, client=link.client)
    reply(link, item, Reply.FILES, item.words if item.reply == Reply.FILES else "")
    return kept.name, True


@transaction.atomic
def answer(link, item_id, words):
    """The answer to a question, or a line that goes with pages."""
    item = mine(link, item_id)
    words = written(words, "The answer", WORDS, "Please write an answer.")
    files = item.kind == Kind.DOCUMENT and item.uploads.exists()
    reply(link, item, Reply.FILES if files else Reply.ANSWER, words)


@transaction.atomic
def not_so(link, item_id, words):
    """It does not apply this year; a word says why."""
    item = mine(link, item_id)
    reply(link, item, Reply.NOT_SO, written(words, "The reason", WORDS, "Please say why in a few words."))


@transaction.atomic
def ask_back(link, item_id, words):
    item = mine(link, item_id)
    reply(link, item, Reply.BACK, written(words, "The question", WORDS, "Please write your question."))


def reply(link, item, reply, words):
    item.turn, item.reply, item.words, item.client, item.replied_at = Turn.OFFICE, reply, words, link.client, timezone.now()
    item.save(update_fields=["turn", "reply", "words", "client", "replied_at"])
    record(None, "client replied", link.of, says=f"{item.text}: {item.get_reply_display()}", by=link.client.full_name)
    settle(item.request)
