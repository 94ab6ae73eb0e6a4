"""Values brought along when a return was opened: until somebody confirms them, nobody has said that they still hold."""

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.returns.changing import open_for_change
from practice.returns.computing import pack_of
from practice.returns.entry import keyed_paper

BROUGHT, CONFIRMED = "rolled", "confirmed"


def unconfirmed(return_):
    """[(paper, labels of the fields nobody confirmed)], in the order of the papers."""
    pack, found = pack_of(return_), []
    for paper in return_.papers.filter(removed_at=None):
        brought = _brought(paper)
        if labels := [field.label for name, field in pack.paper(paper.kind).fields().items() if name in brought]:
            found.append((paper, labels))
    return found


@transaction.atomic
def confirm(actor, return_id, paper_id):
    """Say of everything brought along on a paper that it still holds. Moves no figure, so no new version is made."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    names = _brought(paper)
    mark = {"how": CONFIRMED, "by": actor.initials, "at": timezone.now().isoformat(timespec="seconds")}
    paper.provenance |= dict.fromkeys(names, mark)
    paper.save(update_fields=["provenance"])
    if names:
        record(
            actor, "values confirmed", return_, says=f"{len(names)} on {pack_of(return_).paper(paper.kind).name}", paper=paper.pk
        )
    return return_, paper


def _brought(paper):
    return [name for name, mark in paper.provenance.items() if mark.get("how") == BROUGHT]
