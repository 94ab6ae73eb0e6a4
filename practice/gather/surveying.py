"""The questionnaire: the guided entry's plain questions, answered by the client with a tap each, with last year's answers beside.

It is one item of a request: the client's turn until they say that they are done, then the office's, who take answers over one by
one or those that say no together. What a yes calls for is added by whoever takes it over, never by the client.
"""

from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.utils import timezone

from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.answering import mine, reply
from practice.gather.models import Kind, Reply, Told, Turn
from practice.returns.guiding import answer as keep_answer
from practice.returns.guiding import questions_of
from practice.returns.last_year import last_year
from practice.returns.models import Return
from taxcore.engine import BadValue

WORDS = 1000


@dataclass(frozen=True)
class Asked:
    """One question: its papers of this year (kind, name), how many of them last year's return had (None without one), and what
    the client told."""

    question: Any
    kinds: Any
    before: int | None
    told: Told | None

    @property
    def is_plain_no(self):
        return self.told is not None and self.told.yes is False and not self.told.taken_at and not self.before

    @property
    def is_otherwise(self):
        """Whether the client says no to what last year's return had: somebody should look before that is taken."""
        return self.told is not None and self.told.yes is False and bool(self.before)


def questions(return_, item=None):
    """All questions in their order, with the answers of an item."""
    before = last_year(return_)
    there = [paper.kind for paper in before.papers.filter(removed_at=None)] if before else []
    told = {one.key: one for one in item.told.select_related("client", "taken_by")} if item else {}
    return [
        Asked(
            question,
            [(kind.kind, kind.official or kind.name) for kind in kinds],
            sum(there.count(kind.kind) for kind in kinds) if before else None,
            told.get(question.key),
        )
        for question, kinds, _ in questions_of(return_)
    ]


def survey_of(return_):
    """The questionnaire of a return's newest request that has one, or None."""
    return return_.items.filter(kind=Kind.SURVEY).exclude(turn=Turn.WITHDRAWN).order_by("-pk").first()


@transaction.atomic
def open_to(link, item_id):
    """The questionnaire, as long as the client may answer it."""
    return _survey(link, item_id)


def _survey(link, item_id):
    item = mine(link, item_id)
    if item.kind != Kind.SURVEY:
        raise Cannot("This is no questionnaire.")
    return item


@transaction.atomic
def tell(link, item_id, key, said, words=""):
    """The client's answer to one question, stored as it comes: "yes", "no" or "unsure". BadValue for anything else."""
    item = _survey(link, item_id)
    if key not in {one.question.key for one in questions(link.of)}:
        raise BadValue("This is not asked any more.", key)
    if said not in ("yes", "no", "unsure"):
        raise BadValue("Choose yes, no, or not sure.", said)
    words = written(words, "The word", WORDS)
    yes = {"yes": True, "no": False}.get(said)
    kept, made = Told.objects.for_firm(link.firm_id).get_or_create(
        item=item, key=key, defaults={"firm": link.firm, "yes": yes, "words": words, "client": link.client}
    )
    if not made:
        kept.yes, kept.words, kept.client, kept.taken_by, kept.taken_at = yes, words or kept.words, link.client, None, None
        kept.save()
    return kept


@transaction.atomic
def finish(link, item_id):
    """The client is done. Cannot while a question is open. What was only for a yes that did not come is not asked."""
    item = _survey(link, item_id)
    asked = questions(link.of, item)
    left = [one for one in asked if one.told is None]
    if left:
        raise Cannot(
            f"{len(left)} question{'s are' if len(left) > 1 else ' is'} not answered yet, first: {left[0].question.text}"
        )
    said_yes = {one.question.key for one in asked if one.told.yes}
    for other in item.request.items.filter(turn=Turn.CLIENT).exclude(after=""):
        if other.after not in said_yes:
            other.turn = Turn.WITHDRAWN
            other.save(update_fields=["turn"])
    counted = [sum(one.told.yes is value for one in asked) for value in (True, False, None)]
    reply(link, item, Reply.ANSWER, f"{counted[0]} yes, {counted[1]} no, {counted[2]} not sure")
    return item


@transaction.atomic
def take(actor, return_id, key, counts):
    """One answer into the guided entry: a yes adds papers as `counts` says, a no is kept. BadValue where that does not fit."""
    told = _told(actor, return_id, key)
    if told.yes is None:
        raise Cannot("The client is not sure. Ask, and answer it in the guided entry.")
    keep_answer(actor, return_id, key, told.yes, counts)
    _taken(actor, told)
    return told


@transaction.atomic
def take_noes(actor, return_id):
    """Every no that waits and was a no last year, at once. How many."""
    return_ = fetch(Return.objects.select_related("household"), actor, pk=return_id)
    require(actor, "key", return_)
    waiting = [one.told for one in questions(return_, survey_of(return_)) if one.is_plain_no]
    for told in waiting:
        keep_answer(actor, return_id, told.key, False, {})
        _taken(actor, told)
    return len(waiting)


def _told(actor, return_id, key):
    rows = Told.objects.filter(item__of_id=return_id, item__kind=Kind.SURVEY, key=key).exclude(item__turn=Turn.WITHDRAWN)
    return fetch(rows.select_related("item").order_by("-pk"), actor)


def _taken(actor, told):
    told.taken_by, told.taken_at = actor, timezone.now()
    told.save(update_fields=["taken_by", "taken_at"])
