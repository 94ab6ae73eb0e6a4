"""The guided entry: plain questions, their answers kept with the return, and the papers that they call for."""

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import require
from practice.returns.changing import open_for_change
from practice.returns.computing import pack_of
from practice.returns.entry import add_paper
from taxcore.engine import BadValue

MOST = 60


def questions_of(return_):
    """(question, kinds of papers of this year, answer or None) in their order; those without papers this year are left out."""
    pack, answers = pack_of(return_), return_.guide.get("answers", {})
    found = []
    for question in pack.questions:
        kinds = [kind for kind in map(pack.paper, question.kinds) if kind and kind.since <= return_.year <= kind.until]
        if kinds:
            found.append((question, kinds, answers.get(question.key)))
    return found


@transaction.atomic
def answer(actor, return_id, key, yes, counts):
    """Keep an answer. A yes adds empty papers until there are as many of each kind as `counts` says; none is ever removed.

    BadValue for a yes that calls for nothing, or for more papers of a kind than anybody has.
    """
    require(actor, "key")
    return_ = open_for_change(actor, return_id)
    found = next(((question, kinds) for question, kinds, _ in questions_of(return_) if question.key == key), None)
    if found is None:
        raise BadValue("There is no such question.", key)
    question, kinds = found
    wanted = {kind.kind: 1 if kind.single and counts.get(kind.kind) else counts.get(kind.kind, 0) for kind in kinds}
    if yes and not any(wanted.values()):
        raise BadValue("Enter how many there are of at least one kind.", key)
    if any(count > MOST for count in wanted.values()):
        raise BadValue(f"Up to {MOST} papers of a kind can be added here; use the table for more.", key)
    return_.guide.setdefault("answers", {})[key] = {"yes": yes, "by": actor.initials}
    return_.save(update_fields=["guide"])
    for kind in kinds if yes else []:
        there = sum(_counts(paper, kind) for paper in return_.papers.filter(kind=kind.kind, removed_at=None))
        for _ in range(wanted[kind.kind] - there):
            add_paper(actor, return_id, kind.kind)
    record(actor, "guide answered", return_, says=f"{question.topic}: {'yes' if yes else 'no'}")
    return return_


def _counts(paper, kind):
    """People are asked for beyond taxpayer and spouse."""
    return kind.kind != "person" or paper.values.get("role") == "dependant"
