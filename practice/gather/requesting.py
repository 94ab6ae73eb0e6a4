"""Requests to clients: put together from last year's papers and what the practice always asks, sent, reminded of, settled.

An item is the client's turn until they reply and the office's until it is accepted or asked again. What is outstanding is what is
the client's turn; reminders stop by themselves once nothing is, after some, and where the client left.
"""

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from practice.firm import dates
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.models import Item, Kind, Reply, Request, Turn, Usual
from practice.gather.people import asked_first
from practice.portal.links import send_link
from practice.returns.acts import Done, act
from practice.returns.computing import pack_of, result_of
from practice.returns.drawing import node_of
from practice.returns.models import Purpose, Return, Stage
from practice.returns.page import live_papers

MOST_ITEMS = 80
MOST_REMINDERS = 4
TEXT, HELP, WORD = 160, 300, 600


def open_request(return_):
    """The one that is under way, draft or sent; None where there is none."""
    return return_.requests.filter(closed_at=None).first()


def _return(actor, return_id):
    rows = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(rows, actor, pk=return_id)
    require(actor, "ask clients", return_)
    return return_


def _no_more(return_):
    """Why nobody is asked for this return any more, or nothing."""
    if return_.household.left_on:
        return "The client left the practice."
    if return_.given_up_at or return_.purpose == Purpose.PLANNING:
        return "Only for a return that is filed can a client be asked."
    return "The return is done." if return_.stage == Stage.DONE else ""


@transaction.atomic
def drafted(actor, return_id):
    """The open request of a return with everything on it that last year's papers and the practice call for. What was there stays
    as it is; what was taken off is not put on again. Cannot where nobody is asked."""
    return_ = _return(actor, return_id)
    if says := _no_more(return_):
        raise Cannot(says)
    found = open_request(return_) or Request.objects.create(
        firm=actor.firm, of=return_, made_by=actor, every=return_.firm.reminds_every
    )
    known = set(found.items.values_list("mark", flat=True))
    place = found.items.count()
    fresh = [one for one in (*_survey(return_), *_expected(return_), *_usual(return_)) if one["mark"] not in known]
    if not any(one["kind"] == Kind.SURVEY for one in fresh) and not _asks_all(found):
        fresh = [one for one in fresh if not one.get("after")]  # nobody would ever say yes to what they wait for
    fresh = fresh[: MOST_ITEMS - place]
    Item.objects.bulk_create(
        Item(firm=actor.firm, of=return_, request=found, position=position, **one)
        for position, one in enumerate(fresh, start=place)
    )
    return found


def _asks_all(request):
    return request.items.filter(kind=Kind.SURVEY).exclude(turn=Turn.WITHDRAWN).exists()


def _survey(return_):
    """The questionnaire, where nobody has answered the guided entry's questions for this return yet."""
    if pack_of(return_).questions and not return_.guide.get("answers"):
        text = f"Questions about {'your year' if pack_of(return_).filer == 'people' else 'the year'} {return_.year}"
        yield {
            "kind": Kind.SURVEY,
            "text": text,
            "help": "Yes or no, a few minutes. You can stop and go on later.",
            "mark": "survey",
        }


def _expected(return_):
    """A document for each paper that is expected again and has nothing on it yet."""
    pack, result = pack_of(return_), result_of(return_)
    for paper in sorted(live_papers(return_), key=lambda one: (one.position, one.pk)):
        declared = pack.paper(paper.kind)
        if declared is None or not declared.again or not declared.main or paper.values.get(declared.main):
            continue
        node = node_of(paper, result)
        if node.comes_again() and not paper.attached:
            named = str(paper.values.get(declared.heading) or "")
            yield {
                "kind": Kind.DOCUMENT,
                "text": _of_paper(declared, named),
                "paper": paper,
                "mark": f"paper:{paper.kind}:{paper.key}",
            }


def _of_paper(declared, named):
    """How a client knows it: what it is, with the number of a form that somebody sends them, and who sends it."""
    number = declared.official if declared.party and declared.official not in declared.name else ""
    text = f"{declared.name} ({number})" if number else declared.name
    return (f"{text} from {named}" if named else text)[:TEXT]


def _usual(return_):
    for one in Usual.objects.for_firm(return_.firm_id).filter(pack=return_.pack, ended_at=None):
        yield {"kind": one.kind, "text": one.text, "help": one.help, "mark": f"usual:{one.pk}", "after": one.after}


def _request(actor, return_id):
    return_ = _return(actor, return_id)
    found = open_request(return_)
    if found is None:
        raise Cannot("There is no open request for this return. Start one.")
    found.of = return_
    return found


@transaction.atomic
def add_item(actor, return_id, kind, text, help=""):
    """One more item. BadValue where it says nothing or too much."""
    request = _request(actor, return_id)
    text = written(text, "The item", TEXT, "Say what you need.")
    help = written(help, "The explanation", HELP)
    place = request.items.count()
    if place >= MOST_ITEMS:
        raise Cannot(f"A request has up to {MOST_ITEMS} items.")
    kind = kind if kind in (Kind.DOCUMENT, Kind.QUESTION) else Kind.DOCUMENT
    made = Item.objects.create(firm=actor.firm, of=request.of, request=request, kind=kind, text=text, help=help, position=place)
    if request.sent_on:
        _wait_again(request)
        record(actor, "client asked", request.of, says=text)
    return made


@transaction.atomic
def change_item(actor, return_id, item_id, text, help=""):
    """Other words for an item that the client has not replied to."""
    item = _item(actor, return_id, item_id)
    if item.reply:
        raise Cannot("The client has replied to it. Ask again instead.")
    item.text = written(text, "The item", TEXT, "Say what you need.")
    item.help = written(help, "The explanation", HELP)
    item.save(update_fields=["text", "help"])
    return item


@transaction.atomic
def withdraw(actor, return_id, item_id):
    """Not asked any more. It stays in the records, and is not put on again by itself."""
    item = _item(actor, return_id, item_id)
    item.turn, item.settled_by, item.settled_at = Turn.WITHDRAWN, actor, timezone.now()
    item.save(update_fields=["turn", "settled_by", "settled_at"])
    if item.kind == Kind.SURVEY:  # what waits for a yes waits for nothing now
        item.request.items.filter(turn=Turn.CLIENT).exclude(after="").update(turn=Turn.WITHDRAWN)
    record(actor, "item withdrawn", item.of, says=item.text)
    settle(item.request)
    return item


@transaction.atomic
def accept(actor, return_id, item_id):
    """What the client sent or said is taken: pages go beside the paper that they were asked for."""
    item = _item(actor, return_id, item_id)
    if item.turn != Turn.OFFICE:
        raise Cannot("There is nothing new on it.")
    if item.reply == Reply.BACK:
        raise Cannot("The client asks something. Answer, and ask again.")
    item.turn, item.settled_by, item.settled_at = Turn.DONE, actor, timezone.now()
    item.save(update_fields=["turn", "settled_by", "settled_at"])
    record(actor, "item accepted", item.of, says=item.text)
    settle(item.request)
    return item


@transaction.atomic
def ask_again(actor, return_id, item_id, why):
    """Back to the client with a word: what is wrong with it, or the answer to their question."""
    item = _item(actor, return_id, item_id)
    item.again = written(why, "The word to the client", HELP, "Say what is missing, or answer the question.")
    item.turn, item.settled_by, item.settled_at = Turn.CLIENT, None, None
    item.save(update_fields=["again", "turn", "settled_by", "settled_at"])
    record(actor, "asked again", item.of, says=f"{item.text}: {item.again}")
    if item.request.sent_on:
        _wait_again(item.request)
        _mail(item.request, "request")
    return item


def _item(actor, return_id, item_id):
    request = _request(actor, return_id)
    item = fetch(Item.objects.select_for_update(of=("self",)).filter(request=request), actor, pk=item_id)
    item.request, item.of = request, request.of
    return item


@transaction.atomic
def send(actor, return_id, word="", due=None, every=None):
    """The request goes to the client, by mail with a link. Cannot where there is nothing to ask or nobody to ask."""
    request = _request(actor, return_id)
    if not outstanding(request):
        raise Cannot("There is nothing to ask. Add an item first.")
    request.word = written(word, "The line above the items", WORD)
    today = request.of.firm.today()
    if due is not None and due < today:
        raise Cannot("That day is over. Choose a later one, or none.")
    request.due, request.every = due, request.every if every is None else min(every, 90)
    request.sent_on = today
    _wait_again(request)
    _mail(request, "request")
    record(actor, "client asked", request.of, says=f"{outstanding(request)} items, to {request.sent_to.full_name}")
    return request


def _mail(request, purpose):
    person = asked_first(request.of)
    if person is None:
        raise Cannot("Nobody on this return has an email address. Enter one on the client’s page.")
    request.sent_to = person
    request.save(update_fields=["sent_to"])
    send_link(request.of, person, purpose)


def _wait_again(request):
    """Somebody must do something: the next reminder counts from today."""
    request.reminded = 0
    request.remind_on = request.of.firm.today() + timedelta(days=request.every) if request.every and request.sent_on else None
    request.save()


def outstanding(request):
    """How many items are the client's turn."""
    return request.items.filter(turn=Turn.CLIENT).count()


def said_of(paper):
    """What the client said about a paper and nobody settled yet: items with words, the newest first."""
    if paper is None:
        return []
    rows = Item.objects.for_firm(paper.of.firm_id).filter(paper=paper, turn=Turn.OFFICE, request__closed_at=None)
    return list(rows.exclude(reply=Reply.FILES).select_related("client").order_by("-replied_at"))


def settle(request):
    """Once nothing is outstanding nobody is reminded; once all is settled, the request is closed."""
    left = request.items.filter(turn__in=[Turn.CLIENT, Turn.OFFICE])
    if not left.filter(turn=Turn.CLIENT).exists():
        request.remind_on = None
    if request.sent_on and not left.exists():
        request.closed_at = timezone.now()
        record(None, "everything is in", request.of, says=f"{request.items.filter(turn=Turn.DONE).count()} items")
    request.save(update_fields=["remind_on", "closed_at"])


@transaction.atomic
def remind(actor, return_id):
    """A reminder now, by somebody."""
    request = _request(actor, return_id)
    if request.sent_on is None:
        raise Cannot("The request was not sent yet.")
    if not outstanding(request):
        raise Cannot("Nothing is outstanding.")
    _remind(request)
    record(actor, "client reminded", request.of, says=f"{outstanding(request)} items")
    return request


def _remind(request):
    today = request.of.firm.today()
    request.reminded += 1
    request.reminded_on = today
    follows = request.every and request.reminded < MOST_REMINDERS
    request.remind_on = today + timedelta(days=request.every) if follows else None
    request.save()
    _mail(request, "reminder")


@transaction.atomic
def remind_if_due(request_id):
    """What the clock does: remind of a request whose day has come, or stop where that makes no sense any more."""
    rows = Request.objects.across_firms("background work").select_for_update(of=("self",), skip_locked=True)
    request = rows.select_related("of__firm", "of__household").filter(pk=request_id, closed_at=None).first()
    if request is None or request.remind_on is None or request.remind_on > request.of.firm.today():
        return False
    if _no_more(request.of) or request.of.snapshot_id or not outstanding(request) or asked_first(request.of) is None:
        request.remind_on = None
        request.save(update_fields=["remind_on"])
        return False
    _remind(request)
    record(None, "client reminded", request.of, says=f"{outstanding(request)} items, reminder {request.reminded}")
    return True


@act("request", "Send requests", "ask clients")
def ask_one(actor, return_id):
    """One of many: put together and sent, unless it was sent already."""
    found = drafted(actor, return_id)
    if found.sent_on:
        return Done(f"left: asked on {dates.short_day(found.sent_on)} already")
    number = found.items.filter(turn=Turn.CLIENT).count()
    sent = send(actor, return_id, found.word, found.due, found.every)
    return Done(f"asked {sent.sent_to.full_name} for {number} item{'s' if number != 1 else ''}")


@act("remind", "Send reminders", "ask clients")
def remind_one(actor, return_id):
    request = remind(actor, return_id)
    return Done(f"reminded {request.sent_to.full_name} of {outstanding(request)}")
