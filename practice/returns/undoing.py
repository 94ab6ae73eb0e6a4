"""Taking back one's own changes, the newest first, by the history that every change leaves."""

from django.db import transaction
from django.utils import timezone

from practice.clients.keeping import keep_client_in_step
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import ROWS_CAME, Conflict, NoSuchField, Saved, note_paper, place_at, put_value
from practice.returns.models import FieldChange
from taxcore.engine.characters import within


class SomebodyElse(Exception):
    """A colleague entered in a paper since it was added: taking it out would take their work out too."""


UNDOABLE = ("keyed", "added", "removed", *ROWS_CAME)


@transaction.atomic
def undo_last(actor, return_id):
    """Take back the actor's own newest change: a field, a paper added or removed, or all that was pasted or imported at once.

    None when there is none; Conflict or SomebodyElse when a colleague changed it since.
    """
    return_ = open_for_change(actor, return_id)
    mine = return_.changes.filter(by=actor, how__in=UNDOABLE, undone_by=None).exclude(paper=None).select_related("paper")
    last = mine.first()
    if last is None:
        return None
    before = result_of(return_)
    together = list(mine.filter(batch=last.batch)) if last.batch else [last]
    papers = {}
    for change in together:  # several changes of one paper must see each other's work
        change.paper = papers.setdefault(change.paper_id, change.paper)
    says = [_undo_one(actor, return_, change) for change in together]
    if not any(says):
        return None
    forget(return_, "papers")
    after = changed(actor, return_, before)
    words = says[0] if len(says) == 1 else f"{len(says)} changes made at once"
    return Saved(return_, last.paper, before, after, f"Undone: {words}", last.path)


def _undo_one(actor, return_, change):
    """Take one change back; what it was, in words, or nothing where the field is not there any more."""
    paper = change.paper
    declared = pack_of(return_).paper(paper.kind)
    if change.path == "":
        if change.how == "added" and paper.changes.filter(pk__gt=change.pk).exclude(by=actor).exists():
            raise SomebodyElse
        paper.removed_at = timezone.now() if change.how == "added" else None
        paper.save()
        note_paper(actor, return_, paper, "undone", undoes=change)
        return f"{within(declared.name)} {change.how}"
    if change.how in ROWS_CAME:
        return _undo_rows(actor, return_, change)
    try:
        place = place_at(pack_of(return_), paper, change.path)
    except NoSuchField:
        return ""
    was, became = change.plain
    if place.plain != became:
        raise Conflict(place.declared, was, place.plain, None, None)
    FieldChange.objects.create(
        firm=return_.firm, of=return_, paper=paper, path=change.path, before=change.after, after=change.before, how="undone",
        sealed=change.sealed, by=actor, undoes=change,
    )  # fmt: skip
    keep_client_in_step(paper, place, was)
    put_value(paper, place, was, actor, "")
    paper.save()
    return within(place.declared.label)


def _undo_rows(actor, return_, change):
    """Take out rows that a file or a hand added, those that somebody changed since included: the file can be imported again."""
    paper, brought = change.paper, set(change.after.split(","))
    rows = paper.values.get(change.path, [])
    paper.values[change.path] = [row for row in rows if row["id"] not in brought]
    paper.save()
    FieldChange.objects.create(
        firm=return_.firm, of=return_, paper=paper, path=change.path, before=change.after, how="undone", note=change.note,
        by=actor, undoes=change,
    )  # fmt: skip
    return change.note
