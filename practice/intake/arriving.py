"""Clients from elsewhere: returns in the open format (one, or a ZIP of many), or a list of clients with last year's key figures.

Looked at first and chosen here; taken in by `arriving_in.py`.
"""

import json
import logging
import re
import uuid
from dataclasses import replace

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction

from practice.clients.models import Person
from practice.firm.crypto import digest, plain_number, seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, require
from practice.firm.typed_values import read_typed
from practice.intake import reading, scanning
from practice.intake.attaching import plain_name
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Arrival, Layout
from practice.returns.opening import FILERS
from practice.returns.standing import filing_return
from taxcore.engine import BadValue, PaperValues, ReturnData, Rows, compute, document

LARGEST = 60_000_000  # bytes
FORMS = {"json": "json", "zip": "zip", "csv": "csv", "txt": "csv", "tsv": "csv", "xlsx": "xlsx"}
PERSONAL = ("first_name", "last_name", "number", "birth_date", "occupation", "email")
OF_ADDRESS = ("street", "city", "state", "zip")
_ID = re.compile(r"[a-z0-9][a-z0-9-]{0,39}")
_log = logging.getLogger(__name__)


@transaction.atomic
def bring(actor, name, content):
    """Keep a file of clients; a worker reads it. BadValue when it is empty, too large or of no known form."""
    from practice.intake.tasks import read_clients

    require(actor, "add clients")
    form = FORMS.get(name.rsplit(".", 1)[-1].lower() if "." in name else "")
    if form is None:
        raise BadValue("Choose returns in the open format (JSON, or a ZIP of them), or a list as CSV or XLSX.", name)
    if not content:
        raise BadValue("The file is empty.", name)
    if len(content) > LARGEST:
        raise BadValue(f"The file has {len(content) / 1e6:.0f} MB; {LARGEST / 1e6:.0f} can be read at once.", name)
    kept = default_storage.save(f"imports/{uuid.uuid4().hex}.sealed", ContentFile(seal_bytes(content)))
    row = Arrival.objects.create(firm=actor.firm, name=plain_name(name), form=form, file=kept, by=actor)
    read_clients.ask(arrival_id=row.pk)
    record(actor, "file of clients uploaded", says=row.name)
    return row


def find(actor, arrival_id):
    """One of the firm's arrivals, or NotOfThisFirm."""
    require(actor, "add clients")
    return fetch(Arrival.objects.select_related("firm", "by"), actor, pk=arrival_id)


# Reading


def columns_of(pack):
    """{name: (field, words)} of everything that a column of a list can be: people, address, and what last year closed."""
    fields = pack.people.fields()
    found = {
        f"{role}.{name}": (fields[name], f"{role.title()}: {fields[name].label}")
        for role in FILERS
        for name in PERSONAL
        if name in fields
    }
    if pack.standing is not None:
        asked, kind = pack.standing.fields(), pack.standing.kind
        names = (name for name in ("status", *OF_ADDRESS, "residence", "telephone") if name in asked)
        found |= {f"{kind}.{name}": (asked[name], asked[name].label) for name in names}
    for openings in pack.openings.values():
        for one in openings:
            if one.paper.single and one.field.kind != "rows":
                found[f"{one.paper.kind}.{one.field.name}"] = (one.field, f"{one.paper.name}: {one.field.label}")
    return found


def read(row):
    """See what the file holds, changing nothing else. A list waits the first time until its columns are known."""
    try:
        if row.form in ("csv", "xlsx"):
            if not row.sample:
                _open_list(row)
                return row
            given = _of_list(row)
        else:
            given = [_of_document(row, *one) for one in opened("documents", _content(row), seconds=30, form=row.form)]
    except (NotOpened, reading.NotReadable, scanning.Infected) as error:
        row.state, row.says = Arrival.State.FAILED, error.says[:300]
        row.save()
        return row
    _keep(row, [document.write(data) if data is not None else None for data, _, _ in given])
    row.items = [_item(row, place, *one) for place, one in enumerate(given)]
    row.state = Arrival.State.READ
    row.save()
    return row


def _open_list(row):
    sheet = reading.read_sheet(row.form, _content(row))
    default_storage.save(
        f"{row.file}.sheet", ContentFile(seal_bytes(json.dumps({"heads": sheet.heads, "rows": sheet.rows}).encode()))
    )
    row.sample = [[reading.veiled(cell[:120]) for cell in line] for line in (sheet.heads, *sheet.rows[:3])]
    layout = Layout.objects.for_firm(row.firm_id).filter(target="clients", heads=reading.heads_mark(sheet.heads)).first()
    row.columns = layout.columns if layout is not None else _suggested(sheet.heads)
    row.state = Arrival.State.MAPPING
    row.save()


def _suggested(heads):
    """{column's place: name} as far as headings tell: by a field's words, then by its initials or a part of its label."""
    known, found = columns_of(usual_pack()), {}
    for fits in (_by_words, _in_part):
        for place, head in enumerate(heads):
            words = [word.removesuffix("'s") for word in head.lower().split()]
            whose = "spouse" if "spouse" in words else "taxpayer"
            plain = " ".join(word for word in words if word not in FILERS)
            name = next((n for n, (field, _) in known.items() if n not in found.values() and fits(n, field, plain, whose)), None)
            if name is not None and str(place) not in found:
                found[str(place)] = name
    return found


def _by_words(name, field, plain, whose):
    role, _, attribute = name.partition(".")
    known = {attribute.replace("_", " "), attribute.replace("_", ""), field.label.lower()}
    return (role not in FILERS or role == whose) and (plain in known or (attribute == "number" and plain in ("ssn", "number")))


def _in_part(name, field, plain, whose):
    role, label = name.partition(".")[0], field.label.lower()
    initials = "".join(word[0] for word in label.split())
    standing = usual_pack().standing
    return (
        role not in (*FILERS, standing.kind if standing else "")
        and len(plain) > 2
        and (plain == initials or (len(plain) > 6 and plain in label))
    )


@transaction.atomic
def choose_columns(actor, arrival_id, columns):
    """Say which column is what; remembered for the next list with these headings. BadValue where no name is among them."""
    from practice.intake.tasks import read_clients

    row = find(actor, arrival_id)
    if row.state not in (Arrival.State.MAPPING, Arrival.State.READ) or not row.sample:
        raise BadValue("This file has no columns to map.", row.name)
    known = columns_of(usual_pack())
    chosen = {str(at): name for at, name in columns.items() if name in known and int(at) < len(row.sample[0])}
    if "taxpayer.last_name" not in chosen.values():
        raise BadValue("Map at least the taxpayer's last name.", "")
    if len(set(chosen.values())) < len(chosen):
        raise BadValue("Two columns are mapped to the same field. Choose one of them.", "")
    row.columns, row.state = chosen, Arrival.State.READING
    row.save()
    Layout.objects.for_firm(row.firm_id).update_or_create(
        target="clients", heads=reading.heads_mark(row.sample[0]), defaults={"firm": row.firm, "columns": chosen, "by": actor}
    )
    read_clients.ask(arrival_id=row.pk)
    return row


def _of_list(row):
    """[(the season's return with people and what last year closed, name of the row, errors)]."""
    with default_storage.open(f"{row.file}.sheet") as stored:
        rows = json.loads(unseal_bytes(stored.read()))["rows"]
    pack, known = usual_pack(), columns_of(usual_pack())
    return [_of_row(row, pack, known, place, cells) for place, cells in enumerate(rows, start=1)]


def _of_row(row, pack, known, place, cells):
    papers, errors = {}, []
    for at, name in row.columns.items():
        owner, _, attribute = name.partition(".")
        field, text = known[name][0], cells[int(at)] if int(at) < len(cells) else ""
        try:
            value = read_typed(field, text, by_hand=False)[0] if text.strip() else ""
        except BadValue as bad:
            errors.append(f"{known[name][1].partition(':')[0]}: {bad.says}")
            continue
        if value != "":
            papers.setdefault(owner, {})[attribute] = value
    people = [{"id": role, "role": role, **papers.pop(role)} for role in FILERS if role in papers]
    begun = [
        replace(one, values={**one.values, **papers.pop(one.kind, {})}, carried=()) for one in pack.papers_to_open(people, {})
    ]
    opened_ = [PaperValues(kind, kind, values, 0, tuple(values)) for kind, values in papers.items()]
    data = ReturnData(pack.code, row.firm.season, (*begun, *opened_), training=row.firm.training)
    return data, f"row {place}", errors


def _of_document(row, name, given):
    """(its return or None, name of the file, what is wrong with it)."""
    if given is None:
        return None, name or row.name, ["It is not JSON."]
    pack = usual_pack()
    try:
        data = document.read(given)
        data = pack.earlier(data) if data.pack == pack.code else data
    except document.DocumentError as error:
        return None, name or row.name, [error.says]
    errors = []
    if data.pack != pack.code or data.year not in pack.years:
        errors.append(f"A return of {data.pack!r} for {data.year} is not of a kind and year that is computed here.")
    if unknown := {one.kind for one in data.papers} - set(pack.by_kind):
        errors.append(f"Unknown papers: {', '.join(sorted(map(str, unknown)))[:80]}.")
    if data.training != row.firm.training:
        errors.append(
            "It is a training return, and this is no training practice."
            if data.training
            else "This practice takes only training returns."
        )
    errors = errors or list(_strange(pack, data))[:3] or _bad_values(pack, data)
    return data, name or row.name, errors


def _strange(pack, data):
    """Ids and fields that this program does not know: left out silently they would be lost."""
    for one in data.papers:
        fields = pack.by_kind[one.kind].fields()
        if not _ID.fullmatch(one.id):
            yield f"The id {one.id[:40]!r} is not of small letters, digits and hyphens, 40 at most."
        for name, value in one.values.items():
            if name not in fields and name not in ("role", "owner"):
                yield f"{pack.by_kind[one.kind].name} has no field {name[:40]!r}."
            elif isinstance(fields.get(name), Rows) and isinstance(value, list):
                known = {"id", *fields[name].row.fields()}
                yield from (f"{fields[name].label} has no column {inner[:40]!r}." for row in value if isinstance(row, dict)
                            for inner in row if inner not in known)  # fmt: skip


def _bad_values(pack, data):
    """Values that their fields cannot take, as sentences: a few of them."""
    return [one.says for one in compute(pack, data).findings if one.code == pack.bad_value.code][:3]


def _item(row, place, data, name, errors):
    people = [one for one in data.papers if one.kind == "person"] if data is not None else []
    first = next((one.values for one in people if one.values.get("role") == "taxpayer"), {})
    called = f"{first.get('last_name', '')}, {first.get('first_name', '')}".strip(", ")
    if data is not None and not errors and not called:
        errors = ["There is no taxpayer with a name in it."]
    household = household_of(row.firm_id, first)
    year = data.year if data is not None else None
    there = household is not None and data is not None and not errors and is_there(household, data)
    return {
        "place": place, "from": reading.storable(name[:80]), "name": reading.storable(called[:80]), "year": year,
        "ending": str(first.get("number", ""))[-4:], "known": household.name if household else "", "there": bool(there),
        "errors": [reading.veiled(str(says)[:200]) for says in errors], "says": "", "made": None,
    }  # fmt: skip


def household_of(firm_id, values):
    """The household of the client with that number, or None."""
    plain = plain_number(values.get("number", ""))
    if not plain:
        return None
    found = Person.objects.for_firm(firm_id).filter(number_digest=digest(firm_id, plain)).select_related("household").first()
    return found.household if found else None


def is_there(household, data):
    return filing_return(household, data.pack, data.year, data.period and data.period.end) is not None


def _content(row):
    with default_storage.open(row.file) as stored:
        return scanning.looked_through(unseal_bytes(stored.read()))


def _keep(row, documents):
    name = f"{row.file}.read"
    default_storage.delete(name)
    default_storage.save(name, ContentFile(seal_bytes(json.dumps(documents).encode())))


__all__ = ["bring", "choose_columns", "columns_of", "find", "read"]
