"""Rows of a paper that exists once, entered by a service rather than at a field: one act, one batch, undone as one."""

from practice.returns.computing import pack_of
from practice.returns.entry import last_row_id, new_key, next_position, note_change, note_paper, place_at, put_value
from practice.returns.models import FieldChange, Paper


def paper_of(actor, return_, kind, batch):
    """The one paper of a kind, made or restored where it is not there."""
    paper = return_.papers.filter(kind=kind).first()
    if paper is None:
        declared = pack_of(return_).paper(kind)
        paper = Paper.objects.create(
            firm=return_.firm, of=return_, kind=kind, key=new_key(return_, declared), position=next_position(return_)
        )
        note_paper(actor, return_, paper, "added", batch)
    elif paper.removed_at:
        paper.removed_at = None
        paper.save()
        note_paper(actor, return_, paper, "restored", batch)
    return paper


def row_where(paper, **values):
    """The row of `rows` that has these values, or None."""
    rows = paper.values.get("rows", []) if paper is not None else []
    return next((row for row in rows if all(row.get(name) == value for name, value in values.items())), None)


def add_rows(actor, return_, paper, rows, batch):
    """New rows with open-format values; empty values are left out."""
    first = last_row_id(paper, "rows") + 1
    for key, values in enumerate(rows, first):
        paper.values.setdefault("rows", []).append({"id": str(key)})
        for name, value in values.items():
            put_value(paper, place_at(pack_of(return_), paper, f"rows.{key}.{name}"), value, actor, "", "imported")
    keys = ",".join(str(key) for key, _ in enumerate(rows, first))
    note = f"{len(rows)} rows" if len(rows) > 1 else "row"
    FieldChange.objects.create(
        firm=return_.firm, of=return_, paper=paper, path="rows", after=keys, how="imported", note=note, by=actor, batch=batch
    )
    paper.save()


def put(actor, return_, paper, path, value, batch, tape=""):
    """One field or one field of a row; nothing where it has that value already."""
    place = place_at(pack_of(return_), paper, path)
    if place.plain != value:
        note_change(actor, return_, paper, place, value, tape, batch)
        put_value(paper, place, value, actor, tape)
        paper.save()


def take_row(actor, return_, paper, row, batch):
    """Take a row out; each of its values goes into the history."""
    for name in [name for name in row if name != "id"]:
        place = place_at(pack_of(return_), paper, f"rows.{row['id']}.{name}")
        note_change(actor, return_, paper, place, "", "row removed", batch)
        paper.provenance.pop(place.path, None)
    paper.values["rows"].remove(row)
    paper.save()
