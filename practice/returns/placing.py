"""A field of a return set from another one: last year's, a plan, whoever issued it. Noted, and undone as one act."""

from django.utils import timezone

from practice.returns.computing import pack_of
from practice.returns.entry import next_position, note_change, note_paper, place_at, stored
from practice.returns.models import FieldChange, Paper
from taxcore.engine import Rows

_PLAIN = ("id", "role", "owner")  # they say whose something is, and have no provenance


def paths_of(name, value):
    """Where the values of a field stand: its own name, or each field of a table's rows."""
    if isinstance(value, list):
        return [f"{name}.{row['id']}.{inner}" for row in value for inner in row if inner != "id"]
    return [] if name in _PLAIN else [name]


def marks_of(values, names, mark):
    """The same provenance for these fields of a paper."""
    return {path: mark for name in names for path in paths_of(name, values[name])}


def by_hand(actor, how="keyed"):
    """Provenance of what somebody put there."""
    return {"how": how, "by": actor.initials, "at": timezone.now().isoformat(timespec="seconds")}


def paper_at(actor, return_, kind, key, batch, plain):
    """The paper under that key, added with `plain` values where there is none."""
    paper = return_.papers.filter(kind=kind, key=key).first()
    if paper is None:
        paper = Paper.objects.create(
            firm=return_.firm, of=return_, kind=kind, key=key, position=next_position(return_), values=plain
        )
        note_paper(actor, return_, paper, "added", batch)
    return paper


def put(actor, return_, paper, name, value, says, batch, mark):
    """Set a field to an open-format value, or take it out where that is empty. Saves the paper. `says` is where it comes from."""
    declared = pack_of(return_).paper(paper.kind)
    if isinstance(declared.fields()[name], Rows):
        FieldChange.objects.create(
            firm=return_.firm, of=return_, paper=paper, path=name, how="taken over", note=says[:200], by=actor, batch=batch
        )
    else:
        note_change(actor, return_, paper, place_at(pack_of(return_), paper, name), value or "", says, batch)
    paper.values.pop(name, None)
    paper.provenance = {path: there for path, there in paper.provenance.items() if path.partition(".")[0] != name}
    if value not in (None, "", []):
        paper.values |= stored(declared, {name: value})
        paper.provenance |= marks_of({name: value}, [name], mark)
    paper.save()
