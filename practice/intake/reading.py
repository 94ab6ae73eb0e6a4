"""Files read into rows, and rows into open-format values with what is wrong about each. Nothing here knows the database."""

import hashlib
import json
import re
from collections import Counter
from dataclasses import dataclass, field

from practice.firm.typed_values import read_typed
from practice.intake.confined import NotOpened, opened
from taxcore.engine import BadValue, Rows

_NUMBER = re.compile(r"(?<!\d)\d{3}-?\d{2}-?(\d{4})(?!\d)")


class NotReadable(Exception):
    """The file is not what it says. `says` is for the person who brought it."""

    def __init__(self, says):
        super().__init__(says)
        self.says = says


@dataclass(frozen=True)
class Sheet:
    """A file as text: headings and rows of the same length."""

    heads: list
    rows: list


def read_sheet(form, content, pack="", ends=""):
    """Rows of a CSV or XLSX file, the first row being headings, or of the facts of a tagged page; opened in a process of its own.
    NotReadable with a reason."""
    try:
        if form == "xhtml":
            return Sheet(**opened("tagged", content, seconds=20, pack=pack, ends=ends))
        return Sheet(**opened("sheet", content, seconds=20, form=form))
    except NotOpened as error:
        raise NotReadable(error.says) from None


@dataclass(frozen=True)
class Target:
    """What rows become: papers of a kind, or (with `rows`) the rows of a table on one paper."""

    kind: type
    rows: str = ""

    @property
    def code(self):
        return f"{self.kind.kind}.{self.rows}" if self.rows else self.kind.kind

    @property
    def node(self):
        return self.kind.fields()[self.rows].row if self.rows else self.kind

    def columns(self):
        """{name: field} of everything a column can be."""
        fields = {name: spec for name, spec in self.node.fields().items() if not isinstance(spec, Rows)}
        return fields | (dict(self.node.also_read) if self.rows else {})

    def known_as(self, name, spec):
        number = spec.numbers if isinstance(spec.numbers, str) else ""
        return [spec.label, name, f"box {number}", number, *(self.node.known_as.get(name, ()) if self.rows else ())]


def target_named(pack, code):
    """The target of `1099-b.sales` or `w2`; None where there is none."""
    kind, _, rows = code.partition(".")
    declared = pack.paper(kind)
    if declared is None or (rows and not isinstance(declared.fields().get(rows), Rows)):
        return None
    return Target(declared, rows)


def suggest(target, heads):
    """{column's place: field} as far as headings tell, each field once; words of the field first, then parts of them."""
    taken, found = set(), {}
    words = {name: {_plain(word) for word in target.known_as(name, spec) if word} for name, spec in target.columns().items()}
    for exact in (True, False):
        for place, head in enumerate(heads):
            if place in found:
                continue
            wanted = _plain(head)
            for name, known in words.items():
                fits = wanted in known if exact else any(len(word) > 4 and word in wanted for word in known)
                if name not in taken and wanted and fits:
                    found[place] = name
                    taken.add(name)
                    break
    return found


def _plain(text):
    return re.sub(r"[^a-z0-9]+", " ", str(text).lower()).strip()


def heads_mark(heads):
    """What a layout of columns is remembered by."""
    return hashlib.sha256(json.dumps([_plain(head) for head in heads]).encode()).hexdigest()


@dataclass
class Incoming:
    """One record of a file: values in the open format, its mark for recognizing it again (made of what the file says), what is
    wrong with it."""

    place: int
    values: dict
    mark: str = ""
    errors: list = field(default_factory=list)
    kind: str = ""
    was: dict = field(default_factory=dict)  # what the file says of fields that somebody changed before it is taken in
    why: str = ""
    there: bool = False
    changes: list = field(default_factory=list)


def read_rows(target, columns, fixed, rows, told=None):
    """Each row as an Incoming. `columns` maps places to fields, `fixed` holds what every row has; `told` hears progress."""
    specs = target.columns()
    seen = Counter()
    found = []
    for place, row in enumerate(rows, start=1):
        one = Incoming(place, {}, kind=target.kind.kind)
        for name, text in [*fixed.items(), *((name, row[at]) for at, name in columns.items())]:
            if text.strip():
                _read_one(one, specs[name], name, text)
        if target.rows and not one.errors:
            one.values = target.node.take_in(one.values)
        see_missing(target, one)
        one.mark = marked(one.values, seen)
        found.append(one)
        if told is not None and place % 500 == 0:
            told(place)
    return found


def _read_one(one, spec, name, text):
    try:
        value, _ = read_typed(spec, text, by_hand=False)
    except BadValue as bad:
        one.errors.append({"row": one.place, "field": spec.label, "given": storable(text[:60]), "says": bad.says})
        return
    if value != "":
        one.values[name] = value


def storable(text):
    """What a file holds, as the database can keep it: shown, never taken over."""
    return text.replace("\0", "␀").encode("utf-8", "replace").decode()


def veiled(text):
    """What may stand unsealed on a row and be shown: of a person's number only its ending."""
    return storable(_NUMBER.sub(r"•••-••-\1", text))


def see_missing(target, one):
    """A record without a single value, or a row without what tells where it belongs, cannot be imported."""
    if not one.values and not one.errors:
        one.errors.append({"row": one.place, "field": "", "given": "", "says": "Nothing in this row could be read."})
        return
    needed = [(name, spec) for name, spec in target.node.fields().items() if target.rows and spec.needed]
    for name, spec in needed:
        if not one.values.get(name) and not one.errors:
            one.errors.append(
                {"row": one.place, "field": spec.label, "given": "", "says": f"{spec.label} is missing. {spec.needed}"}
            )


def marked(values, seen):
    """A mark of a record's values; the second one that is just the same gets another mark."""
    plain = hashlib.sha256(json.dumps(values, sort_keys=True).encode()).hexdigest()[:40]
    seen[plain] += 1
    return f"{plain}-{seen[plain]}"


def read_ofx(pack, content):
    """Papers of an OFX file with tax statements. NotReadable where it is not one."""
    try:
        found = opened("ofx", content, seconds=20, pack=pack.code)
    except NotOpened as error:
        raise NotReadable(error.says) from None
    return [_incoming(pack, place, kind, values) for place, (kind, values) in enumerate(found, start=1)]


def read_document(pack, content):
    """Papers of a return in the open format, people left out. NotReadable with what to correct."""
    from taxcore.engine import document

    try:
        data = pack.earlier(document.read(json.loads(content)))
    except (ValueError, RecursionError):
        raise NotReadable("The file is not JSON.") from None
    except document.DocumentError as error:
        raise NotReadable(error.says) from None
    papers = [paper for paper in data.papers if paper.kind != pack.people.kind]
    return [_incoming(pack, place, paper.kind, dict(paper.values)) for place, paper in enumerate(papers, start=1)]


def _incoming(pack, place, kind, values):
    """One paper as a record: every field and row checked by its declaration."""
    one = Incoming(place, {}, kind=kind)
    declared = pack.paper(kind)
    if declared is None:
        one.errors.append({"row": place, "field": "", "given": storable(str(kind)[:60]), "says": "There is no such paper."})
        return one
    fields = declared.fields()
    for name, value in values.items():
        spec = fields.get(name)
        if spec is None:
            one.errors.append(
                {
                    "row": place,
                    "field": storable(str(name)[:60]),
                    "given": storable(str(value)[:60]),
                    "says": "There is no such field.",
                }
            )
        elif isinstance(spec, Rows):
            one.values[name] = [_row(one, spec.row, row) for row in value if isinstance(row, dict)]
        else:
            _read_one(one, spec, name, str(value))
    one.mark = marked(one.values, Counter())
    return one


def _row(one, row, values):
    read = Incoming(one.place, {})
    specs = row.fields() | row.also_read
    for name, value in values.items():
        if name in specs and value not in (None, ""):
            _read_one(read, specs[name], name, str(value))
    one.errors += read.errors
    return row.take_in(read.values)
