"""Files read into rows, and rows into open-format values with what is wrong about each. Nothing here knows the database."""

import csv
import hashlib
import io
import json
import re
from collections import Counter
from dataclasses import dataclass, field
from datetime import date, datetime
from decimal import Decimal
from zipfile import BadZipFile

from openpyxl import load_workbook
from openpyxl.utils.exceptions import InvalidFileException

from practice.returns.typed import read_typed
from taxcore.engine import BadValue, Rows

MOST_ROWS = 20_000
MOST_COLUMNS = 60


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


def read_sheet(form, content):
    """Rows of a CSV or XLSX file, the first row being headings. NotReadable with a reason."""
    rows = _of_workbook(content) if form == "xlsx" else _of_text(content)
    rows = [row for row in rows if any(cell.strip() for cell in row)]
    if len(rows) < 2:
        raise NotReadable("The file has no row below its headings.")
    if len(rows) - 1 > MOST_ROWS:
        raise NotReadable(f"The file has {len(rows) - 1:,} rows; {MOST_ROWS:,} can be read at once. Cut it in parts.")
    width = min(max(len(row) for row in rows), MOST_COLUMNS)
    even = [[*row, *[""] * width][:width] for row in rows]
    heads = [head.strip() or f"Column {place}" for place, head in enumerate(even[0], start=1)]
    return Sheet(heads, even[1:])


def _of_text(content):
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = content.decode("cp1252", "replace")
    if "\0" in text:
        raise NotReadable("This is not a text file. Save it as CSV or XLSX first.")
    try:
        dialect = csv.Sniffer().sniff(text[:8000], delimiters=",;\t|")
    except csv.Error:
        dialect = csv.excel
    try:
        return list(csv.reader(io.StringIO(text), dialect))
    except csv.Error as error:
        raise NotReadable(f"The file cannot be read as CSV: {error}.") from None


def _of_workbook(content):
    try:
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        return [[_cell_text(cell) for cell in row] for row in book.worksheets[0].iter_rows(values_only=True)]
    except (InvalidFileException, BadZipFile, KeyError, ValueError, IndexError, OSError):
        raise NotReadable("The file cannot be opened as a workbook (XLSX).") from None


def _cell_text(value):
    if isinstance(value, datetime | date):
        return value.strftime("%Y-%m-%d")
    if isinstance(value, float):
        return str(Decimal(str(value)))
    return "" if value is None else str(value)


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
    """One record of a file: values in the open format, its mark for recognising it again, what is wrong with it."""

    place: int
    values: dict
    mark: str = ""
    errors: list = field(default_factory=list)
    kind: str = ""
    there: bool = False


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
        _see_missing(target, one)
        one.mark = marked(one.values, seen)
        found.append(one)
        if told is not None and place % 500 == 0:
            told(place)
    return found


def _read_one(one, spec, name, text):
    try:
        value, _ = read_typed(spec, text, by_hand=False)
    except BadValue as bad:
        one.errors.append({"row": one.place, "field": spec.label, "given": text[:60], "says": bad.says})
        return
    if value != "":
        one.values[name] = value


def _see_missing(target, one):
    """A record without a single value, or a row without what tells where it belongs, cannot be taken in."""
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
    from ofxtools.Parser import OFXTree

    try:
        tree = OFXTree()
        tree.parse(io.BytesIO(content))
        statements = _statements(tree.convert())
    except Exception as error:  # the library raises many kinds for files that are not well made
        raise NotReadable(f"The file cannot be read as OFX: {error}"[:200]) from None
    found = [made for made in (pack.ofx(one) for one in statements) if made] if pack.ofx else []
    if not found:
        raise NotReadable("The file has no tax statement that there is a paper for. OFX with bank or card movements is not read.")
    return [_incoming(pack, place, kind, values) for place, (kind, values) in enumerate(found, start=1)]


def _statements(document):
    for answer in document.tax1099msgsrsv1 or ():
        yield from answer.tax1099rs  # the library keeps repeated aggregates as the items of the one they stand in


def read_document(pack, content):
    """Papers of a return in the open format, people left out. NotReadable with what to correct."""
    from taxcore.engine import document

    try:
        data = document.read(json.loads(content))
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
        one.errors.append({"row": place, "field": "", "given": str(kind)[:60], "says": "There is no such paper."})
        return one
    fields = declared.fields()
    for name, value in values.items():
        spec = fields.get(name)
        if spec is None:
            one.errors.append(
                {"row": place, "field": str(name)[:60], "given": str(value)[:60], "says": "There is no such field."}
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
