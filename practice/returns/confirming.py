"""Values brought along when a return was made: until somebody confirms them, nobody has said that they still hold.

What came from last year's return counts (a Check, or it stops filing where the tax depends on it); what came from the client's
own record when a return was opened is only shown.
"""

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.returns.changing import open_for_change, refreshed
from practice.returns.computing import BROUGHT, pack_of, result_of
from practice.returns.entry import NoSuchField, Saved, keyed_paper

CONFIRMED = "confirmed"


def unconfirmed(return_):
    """[(paper, labels of the fields nobody confirmed)], in the order of the papers."""
    pack, found = pack_of(return_), []
    for paper in return_.papers.filter(removed_at=None):
        brought = {path.partition(".")[0] for path in brought_paths(paper)}
        if labels := [field.label for name, field in pack.paper(paper.kind).fields().items() if name in brought]:
            found.append((paper, labels))
    return found


@transaction.atomic
def confirm(actor, return_id, paper_id, path=""):
    """Say of everything brought along on a paper, or of one field, that it still holds. Moves no figure. NoSuchField where
    nothing waits at the path. Gives Saved."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    before = after = result_of(return_)
    paths = [one for one in brought_paths(paper) if not path or one == path]
    if path and not paths:
        raise NoSuchField(path)
    if paths:
        _confirm(actor, paper, paths)
        record(
            actor, "values confirmed", return_, says=f"{len(paths)} on {pack_of(return_).paper(paper.kind).name}", paper=paper.pk
        )
        after = refreshed(return_, before)
    return Saved(return_, paper, before, after, "Confirmed", path)


@transaction.atomic
def confirm_many(actor, return_id, paper_ids):
    """The same for several papers as one act: a group of the index, or the whole return. How many values."""
    return_ = open_for_change(actor, return_id)
    chosen = [paper for paper in return_.papers.all() if paper.pk in paper_ids and not paper.removed_at]
    waiting = [(paper, paths) for paper in chosen if (paths := brought_paths(paper))]
    count = sum(len(paths) for _, paths in waiting)
    for paper, paths in waiting:
        _confirm(actor, paper, paths)
    if count:
        record(actor, "values confirmed", return_, says=f"{count} on {len(waiting)} papers")
        refreshed(return_)
    return count


def _confirm(actor, paper, paths):
    mark = {"how": CONFIRMED, "by": actor.initials, "at": timezone.now().isoformat(timespec="seconds")}
    paper.provenance |= dict.fromkeys(paths, mark)
    paper.save(update_fields=["provenance"])


def brought_paths(paper):
    """Where values stand that came along and wait."""
    return [path for path, mark in paper.provenance.items() if mark.get("how") == BROUGHT]
