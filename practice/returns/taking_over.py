"""A return that was rolled forward and the one it came from: what the source says otherwise by now, and taking that over.

The source may be amended or keyed late. Nothing of it reaches next year's return unasked: the difference is shown, and somebody
takes it over, or says that it stays.
"""

import threading
import uuid
from collections import OrderedDict
from dataclasses import dataclass

from django.db import transaction

from practice.firm.compiled import Compiled
from practice.firm.events import record
from practice.firm.permissions import require
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import open_values, pack_of, result_of
from practice.returns.drawing import as_read
from practice.returns.entry import next_position, note_paper
from practice.returns.models import How, Origin
from practice.returns.placing import put
from practice.returns.rolling import NotRolled, mark_from, mark_of, new_paper, rolled_from
from practice.returns.standing import standing

_KEEP = 64
_seen = OrderedDict()  # {(origin, source, its version): what comes over now}: plain values, so that threads may share them
_guard = threading.Lock()


@dataclass(frozen=True)
class Difference:
    """One field that would come over otherwise today. `here` and `now` are as people read them; `now` is empty where nothing of
    it comes over any more."""

    mark: str
    paper: str
    label: str
    here: str
    now: str


def origin_of(return_):
    """How a return was rolled forward, or None."""
    return next(iter(_ROLLED(return_.firm_id, return_.pk)), None)


def _rolled(firm, of):
    return Origin.objects.for_firm(firm).filter(of=of, how=How.ROLLED).select_related("source__firm", "source__household")


_ROLLED = Compiled(_rolled)


def differences(return_):
    """What of the source is other than when this return was made, and other than what stands here."""
    origin = origin_of(return_)
    if origin is None:
        return []
    source = standing(origin.source)
    if source.pk == origin.source_id and source.version == origin.version:
        return []
    now = _now(origin)
    return [] if now is None else list(_differing(return_, origin, now))


def _now(origin):
    """What would come over today, from the source or what corrects it; None where nothing would."""
    source = standing(origin.source)
    mark = (origin.pk, source.pk, source.version)
    if mark not in _seen:
        try:
            made = rolled_from(source, origin.parted).data
        except NotRolled:
            made = None
        with _guard:
            _seen[mark] = made
            while len(_seen) > _KEEP:
                _seen.popitem(last=False)
    return _seen[mark]


def _differing(return_, origin, now):
    here = {f"{one.kind}/{one.key}": one for one in return_.papers.all()}
    given = {f"{one.kind}/{one.id}": one for one in now.papers}
    for paper in sorted({*given, *origin.marks}, key=lambda name: list(given).index(name) if name in given else len(given)):
        declared = pack_of(return_).paper(paper.partition("/")[0])
        if declared is None or (paper in here and here[paper].removed_at):  # what was removed here is settled
            continue
        known, fields = origin.marks.get(paper, {}), declared.fields()
        came = {name: given[paper].values[name] for name in given[paper].carried} if paper in given else {}
        stands = open_values(here[paper].values) if paper in here else {}
        title = str(came.get(declared.heading) or stands.get(declared.heading) or declared.name)
        for name in (name for name in dict.fromkeys((*came, *known)) if name in fields):
            now_marked = mark_of(origin.firm_id, came[name]) if name in came else None
            if known.get(name) != now_marked and came.get(name) != stands.get(name):
                texts = (as_read(fields[name], values.get(name)) for values in (stands, came))
                yield Difference(f"{paper}/{name}", title, fields[name].label, *texts)


@transaction.atomic
def take_over(actor, return_id, marks=None):
    """Put what the source says now into this return: these fields, or all that differ. How many. One act, undone as one."""
    return_ = open_for_change(actor, return_id)
    require(actor, "key", return_)
    origin = origin_of(return_)
    wanted = [one for one in differences(return_) if marks is None or one.mark in marks]
    if not wanted:
        return 0
    now, before, batch = _now(origin), result_of(return_), uuid.uuid4().hex
    given = {f"{one.kind}/{one.id}": one for one in now.papers}
    for mark in wanted:
        paper, _, name = mark.mark.rpartition("/")
        _take(actor, return_, origin, given.get(paper), paper, name, batch)
    forget(return_, "papers")
    changed(actor, return_, before)
    _note_taken(origin, wanted, given)
    record(actor, "taken over", return_, says=f"{len(wanted)} fields from {origin.source.year}")
    return len(wanted)


def _take(actor, return_, origin, given, paper, name, batch):
    kind, _, key = paper.partition("/")
    row = return_.papers.filter(kind=kind, key=key).first()
    if row is None:
        row = new_paper(origin.source, return_, given, next_position(return_))
        row.save()
        note_paper(actor, return_, row, "added", batch)
        return
    value = given.values[name] if given is not None and name in given.carried else None
    put(actor, return_, row, name, value, f"from the return of {origin.source.year}", batch, mark_from(origin.source))


def _note_taken(origin, taken, given):
    """What was taken over differs no more; the version moves on once nothing is left."""
    for one in taken:
        paper, _, name = one.mark.rpartition("/")
        marks = origin.marks.setdefault(paper, {})
        if paper in given and name in given[paper].carried:
            marks[name] = mark_of(origin.firm_id, given[paper].values[name])
        else:
            marks.pop(name, None)
    origin.save()


@transaction.atomic
def let_be(actor, return_id):
    """Say that what differs stays as it is here: nothing is taken over, and nobody is told again until the source moves."""
    return_ = open_for_change(actor, return_id)
    origin, left = origin_of(return_), differences(return_)
    if left:
        given = {f"{one.kind}/{one.id}": one for one in _now(origin).papers}
        _note_taken(origin, left, given)
        record(actor, "differences left", return_, says=f"{len(left)} fields from {origin.source.year}")
    return len(left)
