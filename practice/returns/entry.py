"""Entry: one field, one row, one paper at a time. Each is one transaction with its history."""

import re
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from itertools import islice
from typing import Any

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from practice.clients.keeping import keep_client_in_step
from practice.clients.models import Person
from practice.firm import dates
from practice.firm.crypto import CannotUnseal, digest, seal, seal_text, unseal
from practice.firm.events import record
from practice.firm.typed_values import read_typed
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.known_payers import learn
from practice.returns.models import FieldChange, Paper
from taxcore.engine import Amount, BadValue, Choice, Day, Refer, Result, Rows
from taxcore.engine.characters import within
from taxcore.engine.papers import OWNERS

ROWS_CAME = ("imported", "row added")  # how a change came that has the ids of new rows in `after`

_ISO = re.compile(r"\d{4}-\d{2}-\d{2}")


class Conflict(Exception):
    """Somebody else changed the field since it was read. Both values are shown; nothing is overwritten."""

    def __init__(self, field, yours, theirs, by, at):
        super().__init__(f"{field.label}: {theirs!r} meanwhile")
        self.field, self.yours, self.theirs, self.by, self.at = field, yours, theirs, by, at


class NoSuchField(Exception):
    """The paper has no field at that path."""


class FieldGone(NoSuchField):
    """The paper has the field no longer: something that was entered meanwhile took it away. `says` names it."""

    def __init__(self, label, typed):
        super().__init__(label)
        self.says = f"“{label}” is no longer on this paper: another entry removed it. Not saved: {typed[:120]}"


@dataclass
class Saved:
    """What a save did: results before and after, and what the ripple's head should say."""

    return_: Any
    paper: Paper
    before: Result
    after: Result
    says: str
    path: str = ""


@dataclass(frozen=True)
class Place:
    """One field of a paper: its declaration and where its value lies in the stored object."""

    declared: Any
    path: str
    values: dict
    name: str

    @property
    def stored(self):
        return self.values.get(self.name, "")

    @property
    def plain(self):
        """The open-format value; nothing where it is sealed and no key opens it, so that it can be typed anew."""
        try:
            return unseal(self.stored)
        except CannotUnseal:
            return ""


def place_at(pack, paper, path):
    """The place at `wages` or `states.2.withheld`. NoSuchField where the declarations know none."""
    declared = pack.paper(paper.kind).fields()
    parts = path.split(".")
    try:
        if len(parts) == 1 and not isinstance(declared[path], Rows):
            return Place(declared[path], path, paper.values, path)
        rows, row_id, name = parts
        row = next(row for row in paper.values.get(rows, []) if row["id"] == row_id)
        return Place(declared[rows].row.fields()[name], path, row, name)
    except (KeyError, ValueError, StopIteration, AttributeError):
        raise NoSuchField(path) from None


@transaction.atomic
def save_field(actor, return_id, paper_id, path, text, was):
    """Enter one field. `was` is the open-format value the form was drawn with. Conflict if it is another one by now;
    BadValue if the text cannot be read. Emptying a field that is computed when empty releases it."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    place = place_at(pack_of(return_), paper, path)
    before = result_of(return_)
    _still_there(before, paper, place, text)
    if isinstance(place.declared, Refer):
        text = place.declared.key_named(before.run, text)
    value, tape = read_typed(place.declared, text)
    if path == "owner":
        _refuse_stranger(return_, paper, before, value)
    _no_conflict(paper, place, was, value, text)
    if value == place.plain:
        return Saved(return_, paper, before, before, "", path)
    was_text = _shown(place, place.plain) or _computed_text(before, paper, place)
    keep_client_in_step(paper, place, value)
    note_change(actor, return_, paper, place, value, tape)
    put_value(paper, place, value, actor, tape)
    paper.save()
    declared = pack_of(return_).paper(paper.kind)
    if path in declared.party.values():
        learn(actor, declared, paper)
    after = changed(actor, return_, before)
    return Saved(return_, paper, before, after, _says(place, value, was_text), path)


def _refuse_stranger(return_, paper, result, owner):
    """BadValue where the owner is nobody of this return."""
    people = {person.role for person in result.run.people()} & {"taxpayer", "spouse"}
    declared = pack_of(return_).paper(paper.kind)
    allowed = people | ({"joint"} if declared.joint_owner and len(people) > 1 else set())
    if owner and owner not in allowed:
        raise BadValue(f"{OWNERS[owner]} cannot own this paper: choose someone on this return.", owner)


def _still_there(result, paper, place, text):
    """FieldGone where the paper's own entries say that it has no such field, or its row is gone. Emptying it is no harm."""
    if not text.strip():
        return
    node = next((one for one in (*result.run.people(), *result.run.papers(paper.kind)) if one.key == paper.key), None)
    if node is not None and "." in place.path:
        rows, key, _ = place.path.split(".")
        node = next((row for row in node.cell(rows).value if str(row.key) == key), None)
    if node is None or not place.declared.applies(node):
        raise FieldGone(place.declared.label, text)


def keyed_paper(return_, paper_id):
    """A paper of the return that was not removed, or NoSuchField."""
    found = next((paper for paper in return_.papers.all() if paper.pk == paper_id and not paper.removed_at), None)
    if found is None:
        raise NoSuchField(f"paper {paper_id}")
    return found


def _no_conflict(paper, place, was, value, text):
    if value == place.plain or was == fingerprint(paper.firm_id, place.declared, place.plain):
        return
    last = paper.changes.filter(path=place.path).select_related("by").first()
    raise Conflict(place.declared, text, place.plain, last.by if last else None, last.at if last else None)


def fingerprint(firm_id, declared, plain):
    """What a form is drawn with as `was`: the value itself, or for a secret one only a keyed digest."""
    return digest(firm_id, plain)[:20] if declared.secret and plain else plain


def note_change(actor, return_, paper, place, value, tape, batch=""):
    """A row of history for one field. Call before the value is put."""
    secret = place.declared.secret
    before, after = (seal_text(text) if secret else text for text in (place.plain or "", value))
    FieldChange.objects.create(
        firm=return_.firm, of=return_, paper=paper, path=place.path, before=before, after=after, sealed=secret,
        note=tape[:200], by=actor, batch=batch,
    )  # fmt: skip


def note_paper(actor, return_, paper, how, batch="", undoes=None):
    """A row of history for a paper as a whole: added, removed, restored."""
    FieldChange.objects.create(firm=return_.firm, of=return_, paper=paper, path="", how=how, by=actor, batch=batch, undoes=undoes)


def put_value(paper, place, value, actor, tape, how="keyed"):
    """Store one open-format value with its provenance; an empty one takes the field out."""
    if value == "":
        place.values.pop(place.name, None)
        paper.provenance.pop(place.path, None)
        return
    place.values[place.name] = seal(value) if place.declared.secret else value
    mark = {"how": how, "by": actor.initials, "at": timezone.now().isoformat(timespec="seconds")}
    paper.provenance[place.path] = mark | ({"tape": tape[:200]} if tape else {})


def stored(declared, values):
    """Open-format values of a paper or a row as they are kept: what is secret sealed, tables too."""
    fields = declared.fields()
    return {name: _stored(fields.get(name), value) for name, value in values.items()}


def _stored(field, value):
    if isinstance(field, Rows):
        return [stored(field.row, row) for row in value]
    return seal(value) if field is not None and field.secret and value else value


def put_rows(paper, declared, values, actor, how="keyed"):
    """Open-format values of a whole new paper, its tables included."""
    fields = declared.fields()
    for name, value in values.items():
        if not isinstance(value, list):
            put_value(paper, Place(fields[name], name, paper.values, name), value, actor, "", how)
            continue
        paper.values[name] = []
        for number, row in enumerate(value, start=1):
            kept = {"id": str(number)}
            paper.values[name].append(kept)
            for inner, text in row.items():
                if inner != "id":
                    place = Place(fields[name].row.fields()[inner], f"{name}.{number}.{inner}", kept, inner)
                    put_value(paper, place, text, actor, "", how)


def _shown(place, plain):
    if place.declared.secret and plain and not plain.startswith("•"):
        return "••••"
    is_amount = isinstance(place.declared, Amount) and re.fullmatch(r"-?\d+(\.\d+)?", plain or "")
    return f"{Decimal(plain):,.2f}" if is_amount else plain


def _computed_text(result, paper, place):
    """What an empty amount of a paper was computed to, as a reader sees it."""
    if not isinstance(place.declared, Amount) or "." in place.path:
        return ""
    node = next((one for one in result.run.papers(paper.kind) if one.key == paper.key), None)
    cell = node.cell(place.name) if node is not None else None
    return f"= {cell.value:,.2f}" if cell is not None and cell.how == "computed" else ""


def _says(place, value, was):
    number = place.declared.numbers if isinstance(place.declared.numbers, str) else ""
    what = f"Box {number}, {within(place.declared.label)}," if number else place.declared.label
    if value == "":
        return f"{what} emptied: was {was}"
    return f"{what} entered: {_in_words(place, value)}, was {_in_words(place, was) or 'empty'}"


def _in_words(place, text):
    """A code with what it means, a day as people write it; anything else as it is shown."""
    declared = place.declared
    if isinstance(declared, Day) and _ISO.fullmatch(text):
        day = date.fromisoformat(text)
        return f"{dates.long(day)}"
    return declared.shown(text) if isinstance(declared, Choice) and text in declared.options else _shown(place, text)


@transaction.atomic
def add_paper(actor, return_id, kind, owner="", values=None):
    """A new paper of a kind, empty or with open-format values; a new person is a dependent. Returns (return, paper)."""
    return_ = open_for_change(actor, return_id)
    declared = pack_of(return_).paper(kind)
    if declared is None:
        raise NoSuchField(f"kind {kind}")
    if declared.single and (existing := return_.papers.filter(kind=kind).first()):
        return (return_, existing) if not existing.removed_at else (return_, restore_paper(actor, return_id, existing.pk).paper)
    before = result_of(return_)
    if owner and not any(one.role == owner for one in before.run.people()) and owner != "joint":
        owner = ""  # it is asked on the paper
    paper = Paper.objects.create(
        firm=return_.firm, of=return_, kind=kind, key=new_key(return_, declared), position=next_position(return_),
        values={"role": "dependant"} if declared is pack_of(return_).people else {"owner": owner} if owner else {},
    )  # fmt: skip
    put_rows(paper, declared, values or {}, actor)
    paper.save()
    learn(actor, declared, paper)
    note_paper(actor, return_, paper, "added")
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "paper added", return_, says=declared.name, paper=paper.pk)
    return return_, paper


@transaction.atomic
def add_spouse(actor, return_id):
    """The taxpayer's spouse: a client of the household and a person on the return. Returns (return, paper)."""
    return_ = open_for_change(actor, return_id)
    existing = return_.papers.filter(kind="person", key="spouse").first()
    if existing is not None:
        return (return_, existing) if not existing.removed_at else (return_, restore_paper(actor, return_id, existing.pk).paper)
    before = result_of(return_)
    taxpayer = return_.papers.filter(kind="person", key="taxpayer").first()
    last_name = taxpayer.values.get("last_name", "") if taxpayer else ""
    client = Person.objects.create(firm=return_.firm, household=return_.household, first_name="", last_name=last_name)
    values = {"role": "spouse"} | ({"last_name": last_name} if last_name else {})
    paper = Paper.objects.create(
        firm=return_.firm, of=return_, kind="person", key="spouse", position=1, values=values, person=client
    )
    note_paper(actor, return_, paper, "added")
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "spouse added", return_, paper=paper.pk)
    return return_, paper


def new_key(return_, declared):
    return new_keys(return_, declared, 1)[0]


def new_keys(return_, declared, count):
    """Ids that no paper of the return has or had; the kind's own for papers that exist once."""
    if declared.single:
        return [declared.kind] * count
    taken = set(return_.papers.values_list("key", flat=True))
    stem = re.sub(r"[^a-z]", "", declared.kind) or "p"
    free = (key for key in (f"{stem}{n}" for n in range(1, len(taken) + count + 1)) if key not in taken)
    return list(islice(free, count))


def next_position(return_):
    return (return_.papers.aggregate(last=Max("position"))["last"] or 0) + 1


@transaction.atomic
def remove_paper(actor, return_id, paper_id):
    """Take a paper out. It stays in the records and can be restored."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    before = result_of(return_)
    paper.removed_at = timezone.now()
    paper.save()
    note_paper(actor, return_, paper, "removed")
    after = changed(actor, return_, before)
    name = pack_of(return_).paper(paper.kind).name
    record(actor, "paper removed", return_, says=name, paper=paper.pk)
    return Saved(return_, paper, before, after, f"{name} removed")


@transaction.atomic
def restore_paper(actor, return_id, paper_id):
    """Put a paper back that was removed."""
    return_ = open_for_change(actor, return_id)
    paper = return_.papers.filter(pk=paper_id).exclude(removed_at=None).first()
    if paper is None:
        raise NoSuchField(f"paper {paper_id}")
    before = result_of(return_)
    paper.removed_at = None
    paper.save()
    gone = paper.changes.filter(path="", how="removed", undone_by=None).first()
    note_paper(actor, return_, paper, "restored", undoes=gone)
    forget(return_, "papers")
    after = changed(actor, return_, before)
    record(actor, "paper restored", return_, paper=paper.pk)
    return Saved(return_, paper, before, after, "Paper restored")


@transaction.atomic
def add_row(actor, return_id, paper_id, rows):
    """An empty row at the end of a paper's table."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    declared = pack_of(return_).paper(paper.kind).fields().get(rows)
    if not isinstance(declared, Rows):
        raise NoSuchField(rows)
    before = result_of(return_)
    key = str(last_row_id(paper, rows) + 1)
    paper.values.setdefault(rows, []).append({"id": key})
    paper.save()
    FieldChange.objects.create(
        firm=return_.firm, of=return_, paper=paper, path=rows, after=key, how="row added", note="row added", by=actor
    )
    after = changed(actor, return_, before)
    return Saved(return_, paper, before, after, f"Row added to {within(declared.label)}")


def last_row_id(paper, rows):
    """The highest id that a row of the table has or ever had: none is used twice, so that history and addresses stay true."""
    keyed = paper.changes.filter(path__startswith=f"{rows}.").values_list("path", flat=True).distinct()
    brought = paper.changes.filter(path=rows, how__in=ROWS_CAME).values_list("after", flat=True)
    past = [path.split(".")[1] for path in keyed] + [key for keys in brought for key in keys.split(",") if key]
    return max((int(key) for key in [*(row["id"] for row in paper.values.get(rows, [])), *past]), default=0)


@transaction.atomic
def remove_row(actor, return_id, paper_id, rows, row_id):
    """Take a row out; each of its values goes into the history."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    pack = pack_of(return_)
    row = next((row for row in paper.values.get(rows, []) if row["id"] == row_id), None)
    if row is None:
        raise NoSuchField(f"{rows}.{row_id}")
    before = result_of(return_)
    for name in [name for name in row if name != "id"]:
        place = place_at(pack, paper, f"{rows}.{row_id}.{name}")
        note_change(actor, return_, paper, place, "", "row removed")
        paper.provenance.pop(place.path, None)
    paper.values[rows].remove(row)
    paper.save()
    after = changed(actor, return_, before)
    return Saved(return_, paper, before, after, "Row removed")
