"""Plain values for the templates of a return: index, fields, bottom line, ripple. Made from declarations and results."""

from dataclasses import dataclass, field
from decimal import Decimal
from functools import lru_cache
from itertools import groupby

from django.utils.html import format_html_join
from django.utils.safestring import mark_safe

from practice.firm.crypto import masked, unseal
from practice.returns.computing import pack_of
from practice.returns.entry import fingerprint
from taxcore.engine import Amount, Choice, Count, Day, Flag, Refer, Rows, ripple
from taxcore.engine.papers import OWNERS

_KIND = ((Amount, "amount"), (Count, "count"), (Day, "date"), (Flag, "flag"), (Choice, "choice"), (Refer, "choice"))


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
    options: str = ""
    tape: str = ""
    by: str = ""
    help: str = ""
    wide: bool = False
    secret: bool = False
    needed: bool = False
    begins: str = ""
    findings: list = field(default_factory=list)
    error: str = ""
    typed: str = ""
    conflict: object = None


@dataclass
class TableView:
    """A table inside a paper: heads and rows of fields."""

    name: str
    number: str
    label: str
    heads: list
    rows: list
    totals: list


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

    @property
    def parts(self):
        """(heading, fields) in the order of the paper; the first part has none unless its first field begins one."""
        parts = [("", [])]
        for shown in self.fields:
            if shown.begins:
                parts.append((shown.begins, []))
            parts[-1][1].append(shown)
        return [part for part in parts if part[1]]

    @property
    def may_go(self):
        """Taxpayer and status belong to the return itself; everything else can be taken out."""
        return self.paper.kind != "filing" and self.paper.values.get("role") != "taxpayer"


def paper_view(return_, paper, result, with_fields=True):
    """Everything the middle column shows of one paper; or only its head and findings."""
    node = node_of(paper, result)
    by_address = _findings_by_address(result)
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
        paper, node.title, node.name, node.official, _owners(result, node) if owner else [], owner, fields, tables, findings
    )


def differing_fields(return_, paper, before, after, path):
    """The field at `path`, and every other one of the paper that looks different after a change."""
    old = _looks(paper, before) if before is not after else {}
    by_address = _findings_by_address(after)
    found = []
    for here, (node, name, look) in _looks(paper, after).items():
        if here == path or (old and (here not in old or old[here][2] != look)):
            found.append(field_view(return_, paper, node, name, here, by_address))
    return found


def _looks(paper, result):
    """{path: (node, name, what a reader would see of it)} of every field and row's field."""
    node = node_of(paper, result)
    by_address = _findings_by_address(result)
    looks = {}
    for name, spec in node.fields().items():
        if isinstance(spec, Rows):
            for row in node.cell(name).value:
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


def _findings_by_address(result):
    found = {}
    for finding in result.findings:
        for at in finding.at:
            found.setdefault(at, []).append(finding)
    return found


def field_view(return_, paper, node, name, path, by_address):
    """One field. `node` is the paper's node or a row of it."""
    spec, cell = node.fields()[name], node.cell(name)
    keyed = node.is_keyed(name)
    plain = str(node.values.get(name, "")) if keyed else ""
    mark = paper.provenance.get(path, {})
    return FieldView(
        id=f"f-{paper.pk}-{path.replace('.', '-')}",
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
        options=_options(spec, node, _chosen(spec, cell) if keyed else ""),
        tape=mark.get("tape", ""),
        by=mark.get("by", ""),
        help=spec.help,
        wide=spec.wide,
        secret=spec.secret,
        needed=bool(spec.needed),
        begins=spec.begins,
        findings=by_address.get(cell.address, []),
    )


def _number(spec, year):
    number = spec.number_in(year) or ""
    return "" if not number or (number[0].isalpha() and len(number) > 1) else number


def _display(spec, cell):
    if isinstance(spec, Amount):
        return f"{cell.value:,.2f}" if cell.value >= 0 else f"({-cell.value:,.2f})"
    if isinstance(spec, Day) and cell.value:
        return f"{cell.value.month}/{cell.value.day}/{cell.value.year}"
    if isinstance(spec, Flag):
        return "yes" if cell.value else "no"
    if isinstance(spec, Refer):
        return next((one.title for one in spec.candidates(cell.node) if one.key == cell.value), "")
    return str(cell.value)


def _masked_if(spec, text):
    return masked(text) if spec.secret and text else text


def _chosen(spec, cell):
    return str(cell.value) if isinstance(spec, Refer) else _display(spec, cell)


def _options(spec, node, chosen):
    """The options of a list as HTML; made once for each list and value, since fifty states stand on most papers."""
    if isinstance(spec, Flag):
        return _option_list((("yes", "Yes"), ("no", "No")), chosen)
    if isinstance(spec, Refer):
        return _option_list(
            tuple((one.key, f"{one.title}, {getattr(one, 'role', one.name.lower())}") for one in spec.candidates(node)), chosen
        )
    if isinstance(spec, Choice):
        return _option_list(tuple(spec.options.items()), chosen)
    return ""


@lru_cache(maxsize=4096)
def _option_list(options, chosen):
    rows = (
        (code, mark_safe(" selected") if code == chosen else "", f"{code} {text}" if code.isupper() and len(code) < 3 else text)
        for code, text in options
    )  # fmt: skip
    return format_html_join("", '<option value="{}"{}>{}</option>', rows)


def _table(return_, paper, node, name, spec, by_address):
    rows = [
        (row.key, [field_view(return_, paper, row, inner, f"{name}.{row.key}.{inner}", by_address) for inner in row.fields()])
        for row in node.cell(name).value
    ]
    heads = [(_number(inner, node.year), inner.label, isinstance(inner, Amount)) for inner in spec.row.fields().values()]
    totals = [
        sum((row.cell(inner).value for row in node.cell(name).value), Decimal(0)) if isinstance(declared, Amount) else None
        for inner, declared in spec.row.fields().items()
    ]
    return TableView(name, _number(spec, node.year), spec.label, heads, rows, totals if len(rows) > 1 else [])


def _owners(result, node):
    found = [("taxpayer", _first_name(result, "taxpayer")), ("spouse", _first_name(result, "spouse"))]
    found = [(role, name) for role, name in found if name]
    return [*found, ("joint", OWNERS["joint"])] if node.joint_owner and len(found) > 1 else found


def _first_name(result, role):
    person = result.run.person(role)
    return (person.first_name or role).split()[0] if person else ""


# The index


@dataclass
class IndexItem:
    paper: object
    title: str
    amount: Decimal | None
    weight: str
    note: str
    on: bool


def index_view(return_, papers, result, current=None):
    """Groups in working order: (name, total, items)."""
    pack = pack_of(return_)
    worst = _worst_by_prefix(result)
    items = [(pack.paper(paper.kind), paper) for paper in papers if pack.paper(paper.kind) is not None]
    groups = []
    for code, name in pack.groups.items():
        listed = [_item(declared, paper, result, worst, current) for declared, paper in items if declared.group == code]
        if listed:
            amounts = [item.amount for item in listed if item.amount is not None]
            groups.append((name, sum(amounts) if amounts else None, listed))
    return groups


def _item(declared, paper, result, worst, current):
    node = node_of(paper, result)
    amount = node.cell(declared.main).value if declared.main else None
    title = (
        f"{node.short or node.name} · {node.title}"
        if declared.heading and node.title != node.name and paper.kind != "person"
        else node.title
    )
    note = node.role if paper.kind == "person" else ""
    if paper.kind == "filing":
        note = (node.status or "").replace("_", " ")
    return IndexItem(
        paper, title, amount, worst.get(node.address_prefix, ""), note, current is not None and paper.pk == current.pk
    )


def _worst_by_prefix(result):
    """The heaviest finding of each paper, by jurisdiction and kind[key], however deep its place; heaviest come first."""
    worst = {}
    for finding in result.findings:
        for at in finding.at:
            worst.setdefault(".".join(at.split(".")[:2]), finding.weight)
    return worst


# Bottom line and ripple


@dataclass
class BottomView:
    name: str
    amount: Decimal
    word: str
    moved: Decimal
    address: str = ""


def bottom_view(after, before=None, opened=None):
    """What the strip at the bottom edge shows. `opened` are amounts by authority when the return was opened."""
    old = {line.authority.code: line.amount for line in before.bottom_lines} if before else {}
    lines = [
        BottomView(
            line.authority.name, line.amount, "refund" if line.amount > 0 else "due" if line.amount < 0 else "even",
            line.amount - old.get(line.authority.code, Decimal(0)) if before else Decimal(0), line.address,
        )
        for line in after.bottom_lines
    ]  # fmt: skip
    together = sum((line.amount for line in lines), Decimal(0))
    start = sum((Decimal(amount) for amount in opened.values()), Decimal(0)) if opened is not None else together
    return {"lines": lines, "together": together, "since_opened": together - start, "counts": after.counts}


def ripple_view(before, after, says):
    """Lines that moved by form, bottom line first."""
    moved = ripple(before, after)
    old = {line.authority.code: line for line in before.bottom_lines}
    bottom = [
        {"name": line.authority.name, "before": old[line.authority.code].amount if line.authority.code in old else None,
         "after": line.amount, "address": line.address}
        for line in after.bottom_lines
        if line.authority.code not in old or old[line.authority.code].amount != line.amount
    ]  # fmt: skip
    forms = [(form, list(lines)) for form, lines in groupby(moved, key=lambda one: one.form)]
    untouched = [form.title for form in after.forms if form.title not in {name for name, _ in forms}]
    return {"says": says, "bottom": bottom, "forms": forms, "still": untouched}


def history_view(paper, path):
    """Newest change first: who, when, from what to what. Secrets stay masked."""
    rows = paper.changes.filter(path=path).select_related("by")[:20]
    return [
        {"by": row.by, "at": row.at, "before": _veiled(row.before), "after": _veiled(row.after), "how": row.how, "note": row.note}
        for row in rows
    ]


def _veiled(stored):
    plain = unseal(stored)
    return masked(plain) if plain != stored else plain
