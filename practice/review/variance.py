"""This year against last year, line by line, with what explains it: papers that appeared, vanished or moved."""

from dataclasses import dataclass, field
from decimal import Decimal

from practice.returns.before import last_year
from practice.returns.computing import open_values, result_of
from taxcore.engine import Amount, figures, line_name

THRESHOLDS = (0, 5, 10, 25, 50)
_LEAST = Decimal(100)  # smaller differences are told by percent alone at "all"


@dataclass
class Difference:
    """One line. `percent` is None where last year had nothing; `bar` is its share of the largest difference, -100 to 100."""

    address: str
    form: str
    number: str
    label: str
    before: Decimal
    now: Decimal
    percent: Decimal | None
    bar: int = 0
    because: list = field(default_factory=list)

    @property
    def moved(self):
        return self.now - self.before


def against_last_year(return_, result, threshold=10, papers=()):
    """(last year's return, differences of at least so many percent and 100, papers that explain them); (None, [], []) without."""
    before = last_year(return_)
    if before is None:
        return None, [], []
    earlier = result_of(before)
    then, names = figures(earlier), {line_name(cell): cell for cell in result.lines() if cell.is_amount}
    found = []
    for name, cell in names.items():
        was, now = then.get(name, Decimal(0)), cell.value
        if _matters(was, now, threshold):
            percent = (now - was) * 100 / abs(was) if was else None
            found.append(Difference(cell.address, cell.node.title, cell.number, cell.label, was, now, percent))
    found += [
        _gone(name, was, earlier) for name, was in then.items() if name not in names and _matters(was, Decimal(0), threshold)
    ]
    largest = max((abs(one.moved) for one in found), default=Decimal(1))
    moved_papers = paper_changes(before, papers)
    for one in found:
        one.bar = int(one.moved * 100 / largest)
        one.because = [change for change in moved_papers if change.feeds(one.address, result)]
    return before, found, moved_papers


def _matters(was, now, threshold):
    if was == now:
        return False
    if not threshold:
        return True
    return abs(now - was) >= _LEAST and (not was or abs(now - was) * 100 / abs(was) >= threshold)


def _gone(name, was, earlier):
    cell = next(cell for cell in earlier.lines() if line_name(cell) == name)
    return Difference("", cell.node.title, cell.number, cell.label, was, Decimal(0), Decimal(-100))


@dataclass(frozen=True)
class PaperChange:
    """A paper that is new, gone or moved between the years, by its main amount."""

    title: str
    name: str
    before: Decimal | None
    now: Decimal | None
    prefix: str

    @property
    def says(self):
        if self.before is None:
            return "new"
        return "not here any more" if self.now is None else "moved"

    def feeds(self, address, result):
        """Whether the line reads this year's paper; one that is gone cannot be asked."""
        cell = result.get(address) if address and self.prefix else None
        return cell is not None and any(leaf.address.startswith(self.prefix) for leaf in _leaves(cell))


def _leaves(cell):
    from practice.returns.lineage import leaves_of

    return leaves_of(cell)


def paper_changes(before, papers):
    """Papers matched by kind and sender across the two years; those that did not move are left out."""
    from practice.returns.computing import pack_of

    pack, then = pack_of(before), {}
    for paper in before.papers.filter(removed_at=None):
        then.setdefault(_mark(pack, paper), []).append(paper)
    found = []
    for paper in papers:
        declared = pack.paper(paper.kind)
        if declared is None or declared.single or not declared.main:
            continue
        earlier = (then.get(_mark(pack, paper)) or [None]).pop(0)
        was, now = (_amount(earlier, declared) if earlier else None), _amount(paper, declared)
        if was != now:
            found.append(
                PaperChange(
                    _title(paper, declared), declared.name, was, now, f"{declared.jurisdiction}.{paper.kind}[{paper.key}]"
                )
            )
    for rest in then.values():
        for paper in rest:
            declared = pack.paper(paper.kind)
            if declared is not None and not declared.single and declared.main:
                found.append(PaperChange(_title(paper, declared), declared.name, _amount(paper, declared), None, ""))
    return found


def _mark(pack, paper):
    declared = pack.paper(paper.kind)
    heading = declared.heading if declared is not None else ""
    return paper.kind, str(paper.values.get(heading, "")).strip().lower()[:8], paper.values.get("owner", "")


def _amount(paper, declared):
    value = open_values({declared.main: paper.values.get(declared.main, "")})[declared.main]
    return Decimal(value or 0) if isinstance(declared.fields()[declared.main], Amount) else Decimal(0)


def _title(paper, declared):
    return str(paper.values.get(declared.heading) or declared.name)
