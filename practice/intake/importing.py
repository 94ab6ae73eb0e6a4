"""A file's way into a return: brought, its columns chosen, read with a preview, imported whole or not at all."""

import hashlib
import json
import uuid
from collections import Counter
from decimal import Decimal

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction

from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.intake import reading, scanning
from practice.intake.attaching import plain_name
from practice.intake.models import Import, Layout
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import (
    keyed_paper,
    last_row_id,
    new_keys,
    next_position,
    note_change,
    note_paper,
    place_at,
    put_rows,
    put_value,
)
from practice.returns.models import FieldChange, Paper, Return
from taxcore.engine import Amount, BadValue, Choice

LARGEST = 20_000_000  # bytes of a file
_SHOWN, _MOST_ERRORS = 200, 500
FORMS = {"csv": "CSV", "txt": "CSV", "tsv": "CSV", "xlsx": "XLSX", "ofx": "OFX", "qfx": "OFX", "json": "open return format",
         "xhtml": "iXBRL", "html": "iXBRL", "htm": "iXBRL"}  # fmt: skip


@transaction.atomic
def bring(actor, return_id, name, content, target="", paper_id=None, in_background=True):
    """Keep a file that is to be read into a return. BadValue when it is empty, too large or of no known form. A worker opens it:
    what is in a file of a stranger's making holds no page and no lock."""
    from practice.intake.tasks import read_file

    return_ = open_for_change(actor, return_id)
    suffix = name.rsplit(".", 1)[-1].lower() if "." in name else ""
    if suffix not in FORMS:
        raise BadValue("Choose a CSV, XLSX or OFX file, or a return in the open format (JSON).", name)
    if not content:
        raise BadValue("The file is empty.", name)
    if len(content) > LARGEST:
        raise BadValue(f"The file has {len(content) / 1e6:.0f} MB; {LARGEST / 1e6:.0f} can be read at once.", name)
    form = {"txt": "csv", "tsv": "csv", "qfx": "ofx", "html": "xhtml", "htm": "xhtml"}.get(suffix, suffix)
    paper = keyed_paper(return_, paper_id) if paper_id else None
    kept = default_storage.save(f"imports/{uuid.uuid4().hex}.sealed", ContentFile(seal_bytes(content)))
    row = Import.objects.create(
        firm=return_.firm, of=return_, paper=paper, name=plain_name(name), form=form, state=Import.State.READING,
        target=target if reading.target_named(pack_of(return_), target) else "", file=kept, by=actor,
    )  # fmt: skip
    if in_background:
        read_file.ask(import_id=row.pk)
    record(actor, "file uploaded", return_, says=row.name)
    return row


def _open(row):
    """Open a file of columns: the rows as text beside it, so that it is opened once; headings and the first rows on the row
    itself. Then somebody says what the columns are."""
    ends = row.of.ends.isoformat() if row.of.ends else ""
    sheet = reading.read_sheet(row.form, _content(row), row.of.pack, ends)
    plain = json.dumps({"heads": sheet.heads, "rows": sheet.rows}).encode()
    default_storage.save(f"{row.file}.sheet", ContentFile(seal_bytes(plain)))
    row.rows = len(sheet.rows)
    row.sample = [[reading.veiled(cell[:200]) for cell in line] for line in (sheet.heads, *sheet.rows[:3])]
    row.state = Import.State.MAPPING
    _remember(row)
    row.save()


def sample_of(row):
    """(headings, first rows, how many rows) of a file of columns."""
    return row.sample[0], row.sample[1:], row.rows


def _sheet_of(row):
    with default_storage.open(f"{row.file}.sheet") as stored:
        return reading.Sheet(**json.loads(unseal_bytes(stored.read())))


def _content(row):
    with default_storage.open(row.file) as stored:
        return scanning.looked_through(unseal_bytes(stored.read()))


def _remember(row):
    """Columns as they were read last time from a file with these headings; else as far as headings tell."""
    target = reading.target_named(pack_of(row.of), row.target)
    if target is None:
        return
    heads = row.sample[0] if row.sample else []
    layout = Layout.objects.for_firm(row.firm_id).filter(target=row.target, heads=reading.heads_mark(heads)).first()
    if layout is not None:
        row.columns = layout.columns | {"remembered": True}
    else:
        row.columns = {"columns": {str(at): name for at, name in reading.suggest(target, heads).items()}, "fixed": {}}


def _still_open(row):
    """What was imported, or is on its way, keeps its marks: by them its records are known again."""
    if row.state not in (Import.State.MAPPING, Import.State.READ, Import.State.FAILED):
        raise BadValue("This file is being read or was imported. Upload it again to import it differently.", row.name)
    if not row.sample:
        raise BadValue("This file has no columns to map.", row.name)


@transaction.atomic
def choose_target(actor, return_id, import_id, code):
    """Say what the rows become; the columns are proposed anew."""
    row = find(actor, return_id, import_id)
    _still_open(row)
    if reading.target_named(pack_of(row.of), code) is None:
        raise BadValue("Choose what the rows are.", code)
    row.target, row.state = code, Import.State.MAPPING
    _remember(row)
    row.save()
    return row


@transaction.atomic
def choose_columns(actor, return_id, import_id, columns, fixed, paper_id=None, in_background=True):
    """Say which column is what, and what all rows have. The layout is remembered for the next file like it. BadValue where a
    field has two columns, or none is chosen."""
    from practice.intake.tasks import read_file

    row = find(actor, return_id, import_id)
    _still_open(row)
    target = reading.target_named(pack_of(row.of), row.target)
    known = target.columns() if target else {}
    columns = {str(at): name for at, name in columns.items() if name in known}
    if not columns:
        raise BadValue("Map at least one column.", "")
    twice = [name for name, count in Counter(columns.values()).items() if count > 1]
    if twice:
        raise BadValue(f"Two columns are mapped to “{known[twice[0]].label}”. Choose one of them.", twice[0])
    fixed = {name: text for name, text in fixed.items() if name in known and text and name not in columns.values()}
    row.columns, row.state, row.progress = {"columns": columns, "fixed": fixed}, Import.State.READING, 0
    if paper_id:
        row.paper = keyed_paper(row.of, paper_id)
    row.save()
    if in_background:
        read_file.ask(import_id=row.pk)
    Layout.objects.for_firm(row.firm_id).update_or_create(
        target=row.target, heads=reading.heads_mark(row.sample[0] if row.sample else []),
        defaults={"firm": row.firm, "columns": row.columns, "by": actor},
    )  # fmt: skip
    return row


def find(actor, return_id, import_id):
    """One of the return's imports, or NotOfThisFirm."""
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "key", return_)
    return fetch(Import.objects.select_related("of__firm", "of__household", "paper", "by"), actor, pk=import_id, of=return_)


def read(row):
    """Read the whole file without changing anything of the return; leaves preview, errors and counts on the row. A file of
    columns is only opened the first time, and waits then for what its columns are."""
    try:
        if row.form in ("csv", "xlsx", "xhtml") and not row.sample:
            _open(row)
            return row
        records = _records(row, told=lambda place: _progress(row, place))
    except (reading.NotReadable, scanning.Infected) as error:
        row.state, row.errors = Import.State.FAILED, [{"row": 0, "field": "", "given": "", "says": error.says}]
        row.save()
        return row
    look_over(row, records)
    return row


def look_over(row, records):
    """Preview, errors and counts of what was read, left on the row; the records are kept beside the file."""
    from practice.intake.altering import changes_in_words

    _see_what_is_there(row, records)
    _keep_records(row, records)
    errors = [error for one in records for error in one.errors]
    row.rows = row.progress = len(records)
    row.errors = errors[:_MOST_ERRORS]
    row.preview = [
        {
            "place": one.place,
            "kind": one.kind,
            "values": _shown(row, one),
            "there": one.there,
            "bad": bool(one.errors),
            "altered": bool(one.was),
        }
        for one in sorted(records, key=lambda one: not one.errors)[:_SHOWN]
    ]
    row.outcome = {
        "new": sum(not (one.there or one.errors or one.changes) for one in records), "there": sum(one.there for one in records),
        "bad": sum(bool(one.errors) for one in records), "errors": len(errors), "totals": _totals(row, records),
        "changes": [says for one in records for says in one.changes][:_MOST_ERRORS],
        "altered": changes_in_words(row, records)[:_MOST_ERRORS],
    }  # fmt: skip
    row.state = Import.State.READ
    row.save()


def _totals(row, records):
    """[column, total] of every amount in the rows, to be tied to the statement's own totals."""
    fields = target_of(row).columns() if row.target else {}
    found = {}
    for one in records:
        declared = pack_of(row.of).paper(one.kind)
        known = fields or (declared.fields() if declared else {})
        for name, value in one.values.items():
            if isinstance(known.get(name), Amount):
                label = known[name].label if row.target else f"{declared.name}, {known[name].label}"
                found[label] = found.get(label, Decimal(0)) + Decimal(value)
    return [[label, str(total)] for label, total in found.items()]


def _records(row, told=None):
    pack = pack_of(row.of)
    if row.form == "ofx":
        return reading.read_ofx(pack, _content(row))
    if row.form == "json":
        return reading.read_document(pack, _content(row))
    sheet = _sheet_of(row)
    if told is not None:
        Import.objects.for_firm(row.firm_id).filter(pk=row.pk).update(rows=len(sheet.rows))
    columns = {int(at): name for at, name in row.columns["columns"].items()}
    return reading.read_rows(reading.target_named(pack, row.target), columns, row.columns["fixed"], sheet.rows, told)


def _keep_records(row, records):
    """What was read stays beside the file, so that taking in needs no second reading."""
    plain = json.dumps([[one.place, one.values, one.mark, one.errors, one.kind, one.was, one.why] for one in records])
    name = f"{row.file}.read"
    default_storage.delete(name)
    default_storage.save(name, ContentFile(seal_bytes(plain.encode())))


def kept_records(row):
    with default_storage.open(f"{row.file}.read") as stored:
        return [reading.Incoming(*parts) for parts in json.loads(unseal_bytes(stored.read()))]


def _progress(row, place):
    Import.objects.for_firm(row.firm_id).filter(pk=row.pk).update(progress=place)


def fields_of(row, one):
    """{name: field} of what a record of the file may hold."""
    declared = pack_of(row.of).paper(one.kind)
    return target_of(row).columns() if row.target else declared.fields() if declared else {}


def _shown(row, one):
    """Values in the order of their fields; secrets masked, tables counted."""
    fields = fields_of(row, one)
    return [
        [fields[name].label, _in_words(fields[name], value)] for name, value in one.values.items() if name in fields
    ]  # fmt: skip


def _in_words(field, value):
    from practice.firm.crypto import masked

    if isinstance(value, list):
        return f"{len(value)} rows"
    return field.shown(value) if isinstance(field, Choice) else masked(value) if field.secret else value


def target_of(row):
    """What the rows of a file become; None where it says so itself."""
    return reading.target_named(pack_of(row.of), row.target)


def _see_what_is_there(row, records):
    """Mark the records that an earlier import brought and that are still on the return, edited since or not."""
    target = target_of(row) if row.target else None
    if target is not None and target.rows:
        there = _marks_of_rows(row, target)
    else:
        there = set(row.of.papers.filter(removed_at=None).exclude(source="").values_list("source", flat=True))
    kinds = {paper.kind for paper in row.of.papers.filter(removed_at=None)}
    for one in records:
        declared = pack_of(row.of).paper(one.kind)
        # What exists once and is on the return is left as it was keyed; rows join those of its table
        once = declared is not None and declared.single and not (target is not None and target.rows)
        one.there = _mark(one) in there or (once and one.kind in kinds)
    if target is not None and target.rows and target.node.same_by:
        _see_what_changes(row, target, records)


def _see_what_changes(row, target, records):
    """Rows of a table that has one for each account: what the file says otherwise now, in words; where nothing, it is there."""
    paper, fields, by = row.paper or _standing(row.of, target.kind), target.node.fields(), target.node.same_by
    rows = {str(one.get(by, "")).lower(): one for one in (paper.values.get(target.rows, []) if paper else ())}
    given = [name for name in row.columns["columns"].values() if name != by and name in fields]
    for one in records:
        known = rows.get(str(one.values.get(by, "")).lower())
        if known is None or one.errors:
            continue
        moved = [(name, known.get(name, ""), one.values.get(name, "")) for name in given]
        one.changes = [
            f"{one.values[by]}, {fields[name].label}: {was or 'empty'}, now {now or 'empty'}"
            for name, was, now in moved if not _same(fields[name], was, now)
        ]  # fmt: skip
        one.there = not one.changes


def _same(declared, was, now):
    return was == now or bool(was and now and declared.parse(was) == declared.parse(now))


def _standing(return_, declared):
    """The paper of a kind that exists once, where the return has it."""
    return return_.papers.filter(kind=declared.kind, removed_at=None).first() if declared.single else None


def _mark(one):
    return f"{one.kind}:{one.mark}"[:64]


def _marks_of_rows(row, target):
    """Marks of rows that earlier imports left on the paper and that nobody took out."""
    if row.paper is None:
        return set()
    ids = {one["id"] for one in row.paper.values.get(target.rows, [])}
    earlier = row.of.imports.filter(paper=row.paper, target=row.target, state=Import.State.DONE)
    return {mark for done in earlier for mark, key in done.outcome.get("marks", {}).items() if key in ids}


@transaction.atomic
def ask_to_take_in(actor, return_id, import_id):
    """Have a file that was read without an error imported; anything else is left as it is."""
    from practice.intake.tasks import take_file_in

    row = find(actor, return_id, import_id)
    if row.state == Import.State.READ and not row.errors:
        row.state, row.by = Import.State.TAKING, actor
        row.save()
        take_file_in.ask(import_id=row.pk)
    return row


@transaction.atomic
def take_in(row):
    """All of the file into the return, or nothing: BadValue while any row has an error. What is there already is left alone."""
    actor = row.by
    return_ = open_for_change(actor, row.of_id)
    row = Import.objects.for_firm(return_.firm).select_for_update(of=("self",)).get(pk=row.pk)
    if row.state == Import.State.DONE:
        return row
    row.of = return_
    row.paper = keyed_paper(return_, row.paper_id) if row.paper_id else None
    records = kept_records(row)
    if any(one.errors for one in records):
        raise BadValue("Some rows have errors; nothing was imported.", row.name)
    before = result_of(return_)
    target = target_of(row) if row.target else None
    if target is not None and target.rows:
        marks = _take_rows(actor, return_, row, target, records)
    else:
        marks = _take_papers(actor, return_, row, records)
    forget(return_, "papers")
    changed(actor, return_, before)
    row.state = Import.State.DONE
    row.outcome = {
        "new": len(marks), "there": len(records) - len(marks), "marks": marks, "paper": row.paper_id,
        "altered": row.outcome.get("altered", []),
    }  # fmt: skip
    row.save()
    record(actor, "file imported", return_, says=f"{row.name}: {len(marks)} new")
    return row


def _take_rows(actor, return_, row, target, records):
    """New rows below those that are there; {mark: id of the row}. What was changed of them before is a change of its own."""
    from practice.intake.altering import file_values, put_altered

    if row.paper is None:
        row.paper = _standing(return_, target.kind) or _new_paper(actor, return_, target.kind, {})
    _see_what_is_there(row, records)
    rows = row.paper.values.setdefault(target.rows, [])
    last = last_row_id(row.paper, target.rows)
    marks = {}
    batch = uuid.uuid4().hex
    for one in records:
        if one.changes:
            _change_row(actor, return_, row, target, one, batch)
        elif not one.there:
            last += 1
            rows.append({"id": str(last), **file_values(one)})
            marks[_mark(one)] = str(last)
    row.paper.provenance[target.rows] = {"how": "imported", "by": actor.initials, "from": row.name}
    row.paper.save()
    FieldChange.objects.create(
        firm=return_.firm, of=return_, paper=row.paper, path=target.rows, after=",".join(marks.values()), how="imported",
        note=f"{len(marks)} rows of {row.name}"[:200], by=actor, batch=batch,
    )  # fmt: skip
    for one in (one for one in records if one.was and _mark(one) in marks):
        put_altered(actor, return_, row, row.paper, one, f"{target.rows}.{marks[_mark(one)]}.", batch)
    row.paper.save()
    return marks


def _change_row(actor, return_, row, target, one, batch):
    """What the file says otherwise now, field by field with its history; what the file has no column for stays."""
    by, paper = target.node.same_by, row.paper
    rows = paper.values[target.rows]
    known = next(there for there in rows if str(there.get(by, "")).lower() == str(one.values[by]).lower())
    for name in row.columns["columns"].values():
        if name in target.node.fields() and not _same(target.node.fields()[name], known.get(name, ""), one.values.get(name, "")):
            place = place_at(pack_of(return_), paper, f"{target.rows}.{known['id']}.{name}")
            said = f"{row.name} says {one.was[name] or 'nothing'}: {one.why}" if name in one.was else row.name
            note_change(actor, return_, paper, place, one.values.get(name, ""), said, batch)
            put_value(paper, place, one.values.get(name, ""), actor, "", "imported")


def _take_papers(actor, return_, row, records):
    """A paper for each new record."""
    from practice.intake.altering import file_values, put_altered

    _see_what_is_there(row, records)
    batch = uuid.uuid4().hex
    marks = {}
    for one in records:
        if one.there:
            continue
        made = _new_paper(actor, return_, pack_of(return_).paper(one.kind), file_values(one), batch, _mark(one))
        put_altered(actor, return_, row, made, one, "", batch)
        if one.was:
            made.save()
        marks[_mark(one)] = made.key
    return marks


def _new_paper(actor, return_, declared, values, batch="", source=""):
    made = Paper(
        firm=return_.firm, of=return_, kind=declared.kind, key=new_keys(return_, declared, 1)[0],
        position=next_position(return_), source=source,
    )  # fmt: skip
    put_rows(made, declared, values, actor, "imported")
    made.save()
    note_paper(actor, return_, made, "added", batch=batch)
    return made


def paste(actor, return_id, kind, text):
    """Rows copied from a spreadsheet as a file of their own: headings where the first row names fields, else the columns in
    the order of `columns_of`. Returns the Import, read and ready to look at."""
    return_ = fetch(Return.objects.select_related("firm"), actor, pk=return_id)
    require(actor, "key", return_)
    target = reading.target_named(pack_of(return_), kind)
    if target is None:
        raise BadValue("There is no such paper.", kind)
    lines = [line for line in text.replace("\r", "").split("\n") if line.strip()]
    if not lines:
        raise BadValue("Paste the rows first.", "")
    named = reading.suggest(target, lines[0].split("\t"))
    if len(named) < 2 and len(named) < len(lines[0].split("\t")):
        heads = [spec.label for spec in columns_of(target).values()]
        lines.insert(0, "\t".join(heads[: max(line.count("\t") + 1 for line in lines)]))
    name = f"pasted {hashlib.sha256(text.encode('utf-8', 'replace')).hexdigest()[:6]}.tsv"
    row = bring(actor, return_id, name, "\n".join(lines).encode("utf-8", "replace"), kind, in_background=False)
    row = read(row)
    if row.state == Import.State.FAILED:
        return row
    columns = row.columns.get("columns", {})
    row = choose_columns(actor, return_id, row.pk, columns, {}, in_background=False)
    return read(row)


def columns_of(target):
    """The fields a grid shows of a kind, in its order: who sent it, then needed fields and amounts."""
    fields = target.columns()
    first = [name for name in (target.kind.heading, target.kind.party.get("number", "")) if name in fields]
    rest = [
        name for name, spec in fields.items()
        if name not in first and not spec.secret and (isinstance(spec, Amount) or spec.needed)
        and name not in target.kind.party.values()
    ]  # fmt: skip
    return {name: fields[name] for name in [*first, *rest]}
