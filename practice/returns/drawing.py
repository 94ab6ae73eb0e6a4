"""Plain values for the templates of a return: index, fields, bottom line, ripple. Made from declarations and results."""

from dataclasses import dataclass, field
from decimal import Decimal
from functools import lru_cache
from itertools import pairwise

from practice.firm import dates
from practice.firm.crypto import masked
from practice.returns.computing import BROUGHT
from practice.returns.entry import fingerprint
from practice.returns.known_payers import offer
from taxcore.engine import Amount, Choice, Count, Day, Flag, Prose, Refer, Rows, cents
from taxcore.engine.amending import as_entered, read_as
from taxcore.engine.papers import OWNERS, Row

_KIND = (
    (Prose, "prose"),
    (Amount, "amount"),
    (Count, "count"),
    (Day, "date"),
    (Flag, "flag"),
    (Choice, "choice"),
    (Refer, "choice"),
)


@dataclass
class FieldView:
    """One field as it is drawn. `was` goes back with a save, so that a conflict is noticed."""

    id: str
    paper: int
    path: str
    number: str
    label: str
    kind: str
    value: str
    computed: str
    how: str
    was: str
    address: str
    list: str = ""
    code: str = ""
    short: str = ""  # what a narrow column of a table shows: a state by its letters
    instead: str = ""
    tape: str = ""
    by: str = ""
    help: str = ""
    worded: bool = False  # a choice whose codes are words: a column of a table needs room for them
    wide: bool = False
    secret: bool = False
    needed: bool = False
    begins: str = ""
    findings: list = field(default_factory=list)
    error: str = ""
    typed: str = ""
    conflict: object = None
    filed: str = ""  # what it had on the return that this one corrects, where that is something else
    issued: tuple = ()  # the return that issued it, and the line there
    celled: bool = False  # whether it stands in a table
    after: str = ""  # the field below which it appears: an answer called for it just now


@dataclass
class TableView:
    """A table inside a paper: heads and rows of fields."""

    name: str
    number: str
    label: str
    heads: list
    rows: list
    totals: list
    count: int = 0
    some: object = None
    fresh: tuple = ()
    imports: bool = False
    saves: bool = False

    @property
    def many(self):
        """Too long to draw every row as fields."""
        return self.some is not None


@dataclass
class SomeRows:
    """A stretch of a long table as text. `more` is where the next begins, 0 at the end."""

    name: str
    rows: list
    more: int


@dataclass
class PaperView:
    paper: object
    title: str
    name: str
    official: str
    owners: list
    owner: FieldView | None
    fields: list
    tables: list
    findings: list
    lists: dict = field(default_factory=dict)
    offer: object = None
    single: bool = False
    always: bool = False
    stands_for: str = ""  # the table of totals that a statement may stand behind
    grid: object = None
    another: str = ""  # what the next one of its kind has in common with it

    @property
    def parts(self):
        """(heading, fields) in the order of the paper; the first part has none unless its first field begins one."""
        parts = [("", [])]
        for shown in (one for one in self.fields if not one.celled):
            if shown.begins:
                parts.append((shown.begins, []))
            parts[-1][1].append(shown)
        return [part for part in parts if part[1]]

    @property
    def brought(self):
        """How many values came along when the return was made and were confirmed by nobody yet."""
        return sum(mark.get("how") == BROUGHT for mark in self.paper.provenance.values())

    @property
    def import_into(self):
        """What a file brought from this paper becomes: rows of its own table, where it has one that files are read into; else
        more papers of its kind. As the query of an address."""
        if rows := next((f"{self.paper.kind}.{table.name}" for table in self.tables if table.imports), ""):
            return f"?into={rows}&paper={self.paper.pk}"
        return f"?into={self.paper.kind}" if self.repeats else ""

    @property
    def repeats(self):
        """Whether there can be another paper of this kind, one that is no person."""
        return not self.single and self.paper.kind != "person"

    @property
    def may_go(self):
        """Taxpayer and what every return has belong to the return itself; everything else can be removed."""
        return not self.always and self.paper.values.get("role") != "taxpayer"


def paper_view(return_, paper, result, with_fields=True):
    """Everything the middle column shows of one paper; or only its head and findings."""
    node = node_of(paper, result)
    by_address = findings_by_address(result)
    declared = node.fields() if with_fields else {}
    fields = [
        field_view(return_, paper, node, name, name, by_address)
        for name, spec in declared.items()
        if _is_field(name, spec) and spec.applies(node)
    ]
    tables = [_table(return_, paper, node, name, spec, by_address) for name, spec in declared.items() if isinstance(spec, Rows)]
    owner = field_view(return_, paper, node, "owner", "owner", by_address) if "owner" in declared else None
    findings = [found for found in result.findings if any(_under(at, node.address_prefix) for at in found.at)]
    return PaperView(
        paper, node.title, node.name, node.official, _owners(result, node) if owner else [], owner, fields, tables, findings,
        lists_of(node) if with_fields else {}, offer(return_.firm, type(node), paper), node.single, node.always,
        node.stands_for, grid_view(return_, paper, result, fields) if with_fields and node.grid else None,
        "from this payer" if node.party else "of this kind",
    )  # fmt: skip


@dataclass
class GridView:
    """A worksheet's lines among fields of a paper. `rows` are a label and, column by column, a FieldView, a LineView or None."""

    title: str
    columns: tuple
    rows: list


@dataclass
class LineView:
    """A line or fact of a worksheet where it stands on a paper."""

    id: str
    address: str
    label: str
    amount: Decimal

    kind = "line"


def grid_view(return_, paper, result, fields):
    declared = node_of(paper, result).grid
    known = {field.path: field for field in fields}
    lines = _grid_lines(paper, result)
    rows = [(label, [known.get(name) or lines.get(name) for name in names]) for label, names in declared.rows]
    return GridView(declared.title, declared.columns, rows)


def grid_moved(paper, before, after):
    """Lines of a paper's grid whose amount is another one now."""
    if node_of(paper, after).grid is None:
        return []
    old = _grid_lines(paper, before) if before is not after else {}
    return [one for name, one in _grid_lines(paper, after).items() if name not in old or old[name].amount != one.amount]


def _grid_lines(paper, result):
    """{name: LineView} of the grid's lines; none where the result does not have the paper yet."""
    node = next((one for one in result.run.papers(paper.kind) if one.key == paper.key), None)
    if node is None:
        return {}
    form, entered = result.run.form(node.grid.form), {name for name, spec in node.fields().items() if _is_field(name, spec)}
    cells = {name: form.cell(name) for name in node.grid.names() if name not in entered}
    return {name: LineView(f"g-{paper.pk}-{name}", cell.address, cell.spec.label, cell.value) for name, cell in cells.items()}


def table_totals(return_, paper, result, path):
    """The table that a changed path lies in, for its row of totals; None for a field of the paper itself."""
    rows, _, inner = path.partition(".")
    if not inner:
        return None
    node = node_of(paper, result)
    return _table(return_, paper, node, rows, node.fields()[rows], {}, with_rows=False)


def differing_fields(return_, paper, before, after, path):
    """The field at `path`, and every other one of the paper that looks different after a change."""
    old = _looks(paper, before, path) if before is not after else {}
    by_address = findings_by_address(after)
    found, below = [], _below(paper, before, after) if old else {}
    for here, (node, name, look) in _looks(paper, after, path).items():
        if here == path or (old and (here not in old or old[here][2] != look)):
            shown = field_view(return_, paper, node, name, here, by_address)
            shown.after = below.get(here, "")
            found.append(shown)
    return found


def gone_fields(paper, before, after):
    """Ids of fields that the paper had and that an answer took away."""
    if before is after:
        return []
    now = set(_asked(paper, after))
    return [id_of(paper, name) for name in _asked(paper, before) if name not in now]


def _asked(paper, result):
    """Names of the fields that stand alone on a paper, in their order."""
    node = node_of(paper, result)
    return [name for name, spec in node.fields().items() if _is_field(name, spec) and spec.applies(node)]


def _below(paper, before, after):
    """{name: id of the field above it} of those that an answer called for."""
    old, now = set(_asked(paper, before)), _asked(paper, after)
    return {name: id_of(paper, above) for above, name in pairwise(now) if name not in old}


def id_of(paper, path):
    return f"f-{paper.pk}-{path.replace('.', '-')}"


def _looks(paper, result, changed):
    """{path: (node, name, what a reader would see of it)} of every field and row's field; of a long table only the row that
    was `changed`, since the others are shown as text."""
    node = node_of(paper, result)
    by_address = findings_by_address(result)
    looks = {}
    for name, spec in node.fields().items():
        if isinstance(spec, Rows):
            rows = node.cell(name).value
            if len(rows) > LONG:
                rows = [row for row in rows if changed.startswith(f"{name}.{row.key}.")]
            for row in rows:
                for inner in row.fields():
                    looks[f"{name}.{row.key}.{inner}"] = _look(row, inner, by_address)
        elif spec.applies(node):
            looks[name] = _look(node, name, by_address)
    return looks


def _look(node, name, by_address):
    cell = node.cell(name)
    return node, name, (cell.how, cell.value, by_address.get(cell.address) if by_address else None)


def node_of(paper, result):
    nodes = result.run.people() if paper.kind == "person" else result.run.papers(paper.kind)
    return next(node for node in nodes if node.key == paper.key)


def _is_field(name, spec):
    return name != "owner" and not isinstance(spec, Rows)


def _under(address, prefix):
    return address == prefix or address.startswith(prefix + ".")


def findings_by_address(result):
    """What is said at a field. That it came from last year is shown by how it is set, and said once for its paper."""
    found, pack = {}, result.run.pack
    quiet = (pack.unconfirmed.code, pack.unconfirmed_stops.code)
    for finding in (one for one in result.findings if one.code not in quiet):
        for at in finding.at:
            found.setdefault(at, []).append(finding)
    return found


_LONGEST_LETTERS = 2  # of a code that is letters of a form, not a word


def field_view(return_, paper, node, name, path, by_address):
    """One field. `node` is the paper's node or a row of it."""
    spec, cell = node.fields()[name], node.cell(name)
    keyed = node.is_keyed(name)
    plain = str(node.values.get(name, "")) if keyed else ""
    mark = paper.provenance.get(path) or paper.provenance.get(path.split(".")[0] if "." in path else "", {})
    return FieldView(
        id=id_of(paper, path),
        paper=paper.pk,
        path=path,
        number=_number(spec, node.year),
        label=spec.label,
        kind=next((kind for base, kind in _KIND if isinstance(spec, base)), "text"),
        value=_masked_if(spec, _display(spec, cell)) if keyed else "",
        computed="" if keyed or cell.how == "empty" else _masked_if(spec, _display(spec, cell)),
        how=mark.get("how", "keyed") if keyed else cell.how,
        was=fingerprint(return_.firm_id, spec, plain),
        address=cell.address,
        list=_list_of(spec, node),
        code=plain if isinstance(spec, Choice) else "",
        short=plain if isinstance(spec, Choice) and plain.isupper() and len(spec.options) > 40 else "",
        instead=_instead(spec, node, keyed),
        tape=mark.get("tape", ""),
        by=mark.get("by", ""),
        help=spec.help if cell.how != "answered" else _answered_by(return_, node, name),
        worded=isinstance(spec, Choice) and any(len(code) > _LONGEST_LETTERS for code in spec.options),
        wide=spec.wide,
        secret=spec.secret,
        needed=bool(spec.needed),
        begins=spec.begins,
        findings=by_address.get(cell.address, []),
        filed=_as_filed(paper, node, name, spec, plain),
        issued=(mark["return"], mark.get("at", "")) if mark.get("how") == "issued" and "return" in mark else (),
        celled="." in path or (bool(getattr(node, "grid", None)) and name in node.grid.names()),
    )


def _as_filed(paper, node, name, spec, plain):
    """On a correction, what a field that is otherwise now had when it was filed; "empty" where that was nothing."""
    then = as_entered(node.run, paper.kind, paper.key) if node.run.amends is not None else None
    if then is None:
        return ""
    before = str((_row_then(then, node) if isinstance(node, Row) else then).get(name) or "")
    return "" if before == plain else read_as(spec, before) or "empty"


def _row_then(then, row):
    """A row's values as they were filed."""
    name = row.address_prefix.rpartition(".")[2].partition("[")[0]
    return next((one for one in then.get(name) or () if one.get("id") == row.key), {})


def as_read(field, value):
    """A stored value in a list that compares two: rows of a table with their first cells, secrets by their endings."""
    if value in (None, "", []):
        return ""
    if isinstance(field, Rows):
        inner = field.row.fields()
        rows = (" ".join(as_read(spec, row[name]) for name, spec in inner.items() if row.get(name)) for row in value[:4])
        return f"{len(value)} row{'s' if len(value) != 1 else ''}: {'; '.join(rows)}"
    return masked(value) if field.secret else str(value)


def _answered_by(return_, node, name):
    """Who answered a field for the whole practice."""
    answer = return_.firm.answers.get(f"{node.jurisdiction}.{node.kind}.{name}", {})
    return f"The practice's answer ({answer.get('by', '')}, {answer.get('on', '')}). Enter another for this return."


def _number(spec, year):
    number = spec.number_in(year) or ""
    return "" if not number or (number[0].isalpha() and len(number) > 1) else number


def _display(spec, cell):
    if isinstance(spec, Amount):
        return f"{cell.value:,.2f}" if cell.value >= 0 else f"({-cell.value:,.2f})"
    if isinstance(spec, Day) and cell.value:
        return dates.in_figures(cell.value)
    if isinstance(spec, Flag):
        return "yes" if cell.value else "no"
    if isinstance(spec, Refer):
        return next((spec.called(one) for one in spec.candidates(cell.node) if one.key == cell.value), "")
    return spec.shown(cell.value) if isinstance(spec, Choice) and cell.value else str(cell.value)


def _masked_if(spec, text):
    return masked(text) if spec.secret and text else text


def _instead(spec, node, keyed):
    """What an entered field would hold if nobody had taken it over; empty where that is the same or nothing."""
    if not keyed or spec.computed_by is None or spec.secret:
        return ""
    value = spec.computed_by(node)
    if isinstance(value, Decimal):
        return "" if cents(value) == node.cell(spec.name).value else f"{cents(value):,.2f}"
    return "" if value in (None, "") or value == node.cell(spec.name).value else str(value)


YES_NO = "list-yes-no"


def _list_of(spec, node):
    """The id of the list a field is chosen from; empty for fields that are not."""
    if isinstance(spec, Flag):
        return YES_NO
    if isinstance(spec, Refer):
        return f"list-of-{'-'.join(spec.kinds)}"
    return f"list-{type(node).__name__.lower()}-{spec.name}" if isinstance(spec, Choice) else ""


def lists_of(node):
    """{list id: ((what is entered, what is read), ...)} of everything on a paper that is chosen from a list."""
    found = {}
    for spec in node.fields().values():
        if isinstance(spec, Rows):
            row = spec.row(node.run, "", f"{node.address_prefix}.{spec.name}", {})
            row.paper = node
            found |= lists_of(row)
        elif isinstance(spec, Refer):
            found[_list_of(spec, node)] = tuple((one.key, spec.called(one)) for one in spec.candidates(node))
        elif isinstance(spec, Choice):
            options = _options_of(spec)
            if spec.name == "owner" and "spouse" not in node.run.pack.people.adds:
                options = tuple(one for one in options if one[0] not in ("spouse", "joint"))
            found[_list_of(spec, node)] = options
    return found


@lru_cache(maxsize=1024)
def _options_of(spec):
    return tuple((code, spec.shown(code)) for code in spec.options)


LONG = 60  # rows from which a table is shown as text, fetched stretch by stretch
_STRETCH = 100


def _table(return_, paper, node, name, spec, by_address, with_rows=True):
    nodes = node.cell(name).value
    long = len(nodes) > LONG and with_rows
    rows = [] if long or not with_rows else [(row.key, row_fields(return_, paper, row, name, by_address)) for row in nodes]
    heads = [(_number(inner, node.year), inner.label, isinstance(inner, Amount)) for inner in spec.row.fields().values()]
    totals = [
        sum((row.cell(inner).value for row in nodes), Decimal(0)) if isinstance(declared, Amount) else None
        for inner, declared in spec.row.fields().items()
    ]
    return TableView(
        name, _number(spec, node.year), spec.label, heads, rows, totals if len(nodes) > 1 else [], len(nodes),
        some_rows(node, name, 0) if long else None,
        _fresh_row(return_, paper, nodes[-1], name, by_address) if long else (), bool(spec.row.known_as),
        bool(nodes) and bool(spec.row.known_as or spec.row.leaves),
    )  # fmt: skip


def _fresh_row(return_, paper, row, name, by_address):
    """(id, fields) of a long table's last row while nothing is entered in it; it stands on top, ready to key."""
    if any(value not in ("", None) for inner, value in row.values.items() if inner != "id"):
        return ()
    return row.key, row_fields(return_, paper, row, name, by_address)


def row_fields(return_, paper, row, name, by_address):
    return [field_view(return_, paper, row, inner, f"{name}.{row.key}.{inner}", by_address) for inner in row.fields()]


def some_rows(node, name, since):
    """A stretch of a long table from that place on, its cells as text."""
    nodes = node.cell(name).value
    shown = [
        {"key": row.key, "place": since + place, "cells": [_as_text(row, inner, spec) for inner, spec in row.fields().items()]}
        for place, row in enumerate(nodes[since : since + _STRETCH], start=1)
    ]
    more = since + _STRETCH
    return SomeRows(name, shown, more if more < len(nodes) else 0)


def _as_text(row, name, spec):
    """What stands in a row's field without making a cell for it: thousands of rows are only looked at."""
    raw = str(row.values.get(name, "") or "")
    if not raw:
        return "", isinstance(spec, Amount)
    if isinstance(spec, Choice):
        return raw, False
    if isinstance(spec, Day) and spec.fits(raw):
        day = spec.parse(raw)
        return dates.in_figures(day), False
    if isinstance(spec, Amount) and spec.fits(raw):
        value = spec.parse(raw)
        return (f"{value:,.2f}" if value >= 0 else f"({-value:,.2f})"), True
    return (masked(raw) if spec.secret else raw), False


def _owners(result, node):
    found = [("taxpayer", _first_name(result, "taxpayer")), ("spouse", _first_name(result, "spouse"))]
    found = [(role, name) for role, name in found if name]
    return [*found, ("joint", OWNERS["joint"])] if node.joint_owner and len(found) > 1 else found


def _first_name(result, role):
    person = result.run.person(role)
    return (person.first_name or role).split()[0] if person else ""
