"""Due diligence on one page: every question opened at once, and who was asked, when and how, entered once for all of them."""

import uuid

from django.db import transaction

from practice.firm.events import record
from practice.firm.typed_values import read_typed
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import Place, add_paper, note_change, put_value
from practice.us.diligence import KINDS, OF_THE_RECORD, missing_of

_ABOUT = {"diligence-child": "child", "diligence-student": "student"}


@transaction.atomic
def open_all(actor, return_id):
    """Every sheet of questions that the return's claims call for and that is not there. How many were added."""
    added = 0
    return_ = open_for_change(actor, return_id)
    for one in list(missing_of(result_of(return_))):
        field = _ABOUT.get(one.kind)
        add_paper(actor, return_id, one.kind, "", {field: one.key} if field and one.key else {})
        added += 1
    return added


@transaction.atomic
def record_for_all(actor, return_id, given):
    """Who was asked, when, how and what was seen, on every sheet that has nothing else there: a sheet that was answered otherwise
    keeps its own. `given` is {field: text}. BadValue for what cannot be read. How many entries were made."""
    return_ = open_for_change(actor, return_id)
    before, batch, made = result_of(return_), uuid.uuid4().hex, 0
    sheets = [paper for paper in return_.papers.all() if paper.kind in KINDS and not paper.removed_at]
    common = {name: _common(sheets, name) for name in OF_THE_RECORD}
    for paper in sheets:
        fields = pack_of(return_).paper(paper.kind).fields()
        for name in OF_THE_RECORD:
            value, tape = read_typed(fields[name], given.get(name, ""))
            place = Place(fields[name], name, paper.values, name)
            if value and place.plain in ("", common[name]) and place.plain != value:
                note_change(actor, return_, paper, place, value, tape, batch)
                put_value(paper, place, value, actor, tape)
                made += 1
        paper.save()
    if made:
        forget(return_, "papers")
        changed(actor, return_, before)
        record(actor, "due diligence recorded", return_, says=f"{made} entries")
    return made


def _common(sheets, name):
    """What all sheets that say anything say alike; a text that no sheet has where they differ."""
    said = {paper.values.get(name, "") for paper in sheets} - {""}
    return said.pop() if len(said) == 1 else "\0"
