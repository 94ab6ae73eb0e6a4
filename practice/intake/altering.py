"""A row of a file changed before it is taken in. What the file says stays known, with who changed it and why."""

from django.db import transaction

from practice.firm.events import record
from practice.firm.texts import written
from practice.firm.typed_values import read_typed
from practice.intake import importing, reading
from practice.intake.models import Import
from practice.returns.entry import note_change, place_at, put_value
from taxcore.engine import BadValue, Rows, Text


def alterable(row, one):
    """{name: field} of what can be changed of a record here: tables and secret numbers cannot."""
    target = importing.target_of(row)
    fields = target.node.fields() if target else importing.fields_of(row, one)
    return {name: spec for name, spec in fields.items() if not isinstance(spec, Rows) and not spec.secret}


@transaction.atomic
def alter(actor, return_id, import_id, place, given, why):
    """Give one row of a file that was read other values: `given` as typed, by field. What is as the file says again is no change
    any more. BadValue where a value does not fit, or nobody says why."""
    row = importing.find(actor, return_id, import_id)
    Import.objects.for_firm(row.firm_id).select_for_update().get(pk=row.pk)
    row.refresh_from_db()
    if row.state != Import.State.READ:
        raise BadValue("This file is on its way into the return, or is there already. Change it there.", "")
    records = importing.kept_records(row)
    one = next((one for one in records if one.place == place), None)
    if one is None:
        raise BadValue("There is no such row.", place)
    fields = alterable(row, one)
    typed = {name: _read(fields[name], text) for name, text in given.items() if name in fields}
    said = _said_by_file(one, fields)
    was = {name: said.get(name, "") for name, value in typed.items() if value != said.get(name, "")}
    why = written(why, "The reason", 160, "Say why it differs from the file.") if was else ""
    one.values = {name: value for name, value in (one.values | typed).items() if value != ""}
    target = importing.target_of(row)
    if target is not None and target.rows and one.errors:
        one.values = target.node.take_in(one.values)  # done at reading where nothing is wrong
    one.was, one.why, one.errors = was, f"{why} ({actor.initials})" if was else "", []
    if target is not None:
        reading.see_missing(target, one)
    importing.look_over(row, records)
    record(actor, "value changed before import", row.of, says=f"{row.name}, row {place}: {', '.join(was) or 'as the file says'}")
    return row


def _read(spec, text):
    try:
        return read_typed(spec, text)[0]
    except BadValue as bad:
        raise BadValue(f"{spec.label}: {bad.says}", text) from None


def _said_by_file(one, fields):
    """What the file says of each field, readable or not."""
    unread = {error["field"]: error["given"] for error in one.errors}
    wrong = {name: unread[spec.label] for name, spec in fields.items() if spec.label in unread}
    return one.values | wrong | one.was


def changes_in_words(row, records):
    """What is changed of a file here, a sentence each."""
    found = []
    for one in records:
        fields = importing.fields_of(row, one)
        named = (one.values.get(name, "") for name, spec in fields.items() if type(spec) is Text)
        title = next(filter(None, named), f"Row {one.place}")
        found += [
            f"{title}, {fields[name].label}: {said or 'empty'} in the file, {one.values.get(name) or 'empty'} here. {one.why}"
            for name, said in one.was.items()
        ]
    return found


def file_values(one):
    """As the file says it."""
    return {name: value for name, value in (one.values | one.was).items() if value != ""}


def put_altered(actor, return_, row, paper, one, prefix, batch):
    """Into a paper that holds what the file says: what was changed of it, as changes with their reason."""
    for name, said in one.was.items():
        place = place_at(importing.pack_of(return_), paper, f"{prefix}{name}")
        note_change(
            actor, return_, paper, place, one.values.get(name, ""), f"{row.name} says {said or 'nothing'}: {one.why}", batch
        )
        put_value(paper, place, one.values.get(name, ""), actor, "", "imported")
