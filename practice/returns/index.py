"""The index of a return's papers in working order: amounts, how far each paper is entered, control totals."""

from dataclasses import dataclass
from decimal import Decimal
from weakref import WeakKeyDictionary

from practice.returns.arranging import control_state
from practice.returns.computing import pack_of
from practice.returns.drawing import node_of
from taxcore.engine import Choice, Flag, Refer, Rows

PROGRESS = {
    "empty": "not started",
    "carried": "rolled forward",
    "partly": "in progress",
    "complete": "complete",
    "question": "needs an answer",
}


@dataclass(frozen=True)
class IndexItem:
    """One paper. `state` is a key of PROGRESS; `weight` its heaviest finding."""

    paper: int
    title: str
    amount: Decimal | None
    weight: str
    note: str
    state: str

    @property
    def says(self):
        return PROGRESS[self.state]


@dataclass
class IndexGroup:
    code: str
    name: str
    total: Decimal | None
    items: list
    controls: list

    @property
    def open(self):
        """How many papers of the group are not finished."""
        return sum(item.state != "complete" for item in self.items)


def index_view(return_, papers, result):
    """Groups in working order, those that have papers."""
    pack = pack_of(return_)
    worst = _worst_by_prefix(result)
    missing = _missing_by_prefix(result)
    listed = [(pack.paper(paper.kind), paper, node_of(paper, result)) for paper in papers if pack.paper(paper.kind) is not None]
    controls = [(pack.paper(row.kind), row) for row in sorted(return_.controls.all(), key=lambda row: row.kind)]
    groups = []
    for code, name in pack.groups.items():
        of_group = [one for one in listed if one[0].group == code]
        wanted = [control_state(row, kind, result.run.papers(row.kind)) for kind, row in controls if kind.group == code]
        if of_group or wanted:
            items = [_item(*one, worst, missing) for one in of_group]
            amounts = [item.amount for item in items if item.amount is not None]
            groups.append(IndexGroup(code, name, sum(amounts) if amounts else None, items, wanted))
    return groups


MOST_NEXT = 12


def coming_next(groups, kind=None, papers=()):
    """What is still to be entered, for pages on which something was just finished: the papers that are not complete or have
    something to check, of other kinds than `kind`, as [(group's name, items)] up to MOST_NEXT; how many there are, and whether
    that is more."""
    here = {paper.pk for paper in papers if paper.kind == kind}
    unfinished = [
        (
            group.name,
            [
                item
                for item in group.items
                if (item.state != "complete" or item.weight in ("stops", "check")) and item.paper not in here
            ],
        )
        for group in groups
    ]
    left = MOST_NEXT
    shown = []
    for name, items in unfinished:
        if items and left > 0:
            shown.append((name, items[:left]))
            left -= len(items)
    count = sum(len(items) for _, items in unfinished)
    return {"next_up": shown, "next_count": count, "next_more": count > MOST_NEXT}


def _item(declared, paper, node, worst, missing):
    title = (
        f"{node.short or node.name} · {node.title}"
        if declared.heading and node.title != node.name and paper.kind != "person"
        else node.title
    )
    note = node.called if paper.kind == "person" else ""
    if declared.always and declared.said:
        note = str(getattr(node, declared.said) or "").replace("_", " ")
    amount = node.cell(declared.main).value if declared.main else None
    prefix = node.address_prefix
    return IndexItem(paper.pk, title, amount, worst.get(prefix, ""), note, _state(node, missing.get(prefix)))


def _state(node, missing):
    """empty, carried, question, partly or complete. `missing` are the declared fields that are needed and empty."""
    keyed = [name for name, value in node.values.items() if value not in ("", [], None) and name not in ("owner", "role")]
    if not keyed:
        return "empty"
    if not set(keyed) - set(node.carried):
        return "carried"
    if not missing:
        return "complete"
    return "question" if all(isinstance(spec, Flag | Choice | Refer) for spec in missing) else "partly"


def _missing_by_prefix(result):
    """{paper's address: declared fields that stop filing because they are empty}."""
    found = {}
    for finding in result.findings:
        if finding.weight == "stops" and finding.code.endswith("-missing"):
            cell = result.get(finding.at[0])
            if cell is not None and not isinstance(cell.spec, Rows):
                found.setdefault(".".join(finding.at[0].split(".")[:2]), []).append(cell.spec)
    return found


def _worst_by_prefix(result):
    """The heaviest finding of each paper, by jurisdiction and kind[key], however deep its place; heaviest come first."""
    worst = {}
    for finding in result.findings:
        for at in finding.at:
            worst.setdefault(".".join(at.split(".")[:2]), finding.weight)
    return worst


_drawn = WeakKeyDictionary()  # the index last drawn of a result, which the next change is compared with


def index_before(return_, papers, result):
    """The index of a result as it was drawn when that result was new; drawn now where it was not."""
    found = _drawn.get(result)
    return found if found is not None else index_view(return_, papers, result)


def remember_index(result, groups):
    _drawn[result] = groups


def changed_parts(before, after):
    """What of an index must be drawn again: None for all of it (papers came or went), else (items, groups) that differ."""
    if [(group.code, [item.paper for item in group.items]) for group in before] != [
        (group.code, [item.paper for item in group.items]) for group in after
    ]:
        return None
    old_items = {item.paper: item for group in before for item in group.items}
    items = [item for group in after for item in group.items if old_items[item.paper] != item]
    heads = [
        new for old, new in zip(before, after, strict=True)
        if (old.total, old.open, old.controls) != (new.total, new.open, new.controls)
    ]  # fmt: skip
    return items, heads
