"""This year against last year, line by line, with what explains it: papers that appeared, vanished or moved."""

from dataclasses import dataclass, field
from decimal import Decimal

from practice.returns.computing import open_values, pack_of, result_of
from practice.returns.last_year import last_year
from practice.returns.lineage import leaves_of
from taxcore.engine import Amount, line_name

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
    """(last year's return, differences of at least so many percent and 100, papers that moved); (None, [], []) without.

    A line that last year's form did not have is left out: it is new on paper only.
    """
    before = last_year(return_)
    if before is None:
        return None, [], []
    earlier = result_of(before)
    then = {line_name(cell): cell for cell in earlier.lines() if cell.is_amount}
    now = {line_name(cell): cell for cell in result.lines() if cell.is_amount}
    moved_papers = paper_changes(before, papers)
    found = [_difference(then.get(name), now.get(name), moved_papers) for name in dict.fromkeys([*now, *then])]
    found = [one for one in found if one is not None and _matters(one.before, one.now, threshold)]
    largest = max((abs(one.moved) for one in found), default=Decimal(1))
    for one in found:
        one.bar = int(one.moved * 100 / largest)
    return before, found, moved_papers


def _difference(then, now, papers):
    cell = now or then
    if then is None and cell.spec.number_in(cell.node.year - 1) is None:
        return None
    was, is_now = (then.value if then else Decimal(0)), (now.value if now else Decimal(0))
    percent = (is_now - was) * 100 / abs(was) if was else None
    made = Difference(now.address if now else "", cell.node.title, cell.number, cell.label, was, is_now, percent)
    feeding = [(change, change.part_in(then, now)) for change in papers] if was != is_now else []
    if abs(sum((part for _, part in feeding), Decimal(0)) - made.moved) <= 1:  # they explain it to the dollar
        made.because = [change for change, part in feeding if part]
    return made


def _matters(was, now, threshold):
    if was == now:
        return False
    if not threshold:
        return True
    return abs(now - was) >= _LEAST and (not was or abs(now - was) * 100 / abs(was) >= threshold)


@dataclass(frozen=True)
class PaperChange:
    """A paper that is new, gone or moved between the years, by its main amount."""

    title: str
    name: str
    before: Decimal | None
    now: Decimal | None
    prefix_before: str
    prefix: str

    @property
    def says(self):
        if self.before is None:
            return "new"
        return "not here any more" if self.now is None else "moved"

    def part_in(self, then, now):
        """By how much the fields of this paper that a line reads moved."""
        return _read_by(now, self.prefix) - _read_by(then, self.prefix_before)


def _read_by(cell, prefix):
    """What a line reads of a paper, added up; nothing where there is no line or no paper."""
    if cell is None or not prefix:
        return Decimal(0)
    return sum((leaf.value for leaf in leaves_of(cell) if leaf.address.startswith((f"{prefix}.", f"{prefix}["))), Decimal(0))


def paper_changes(before, papers):
    """Papers matched by kind and sender across the two years; those that did not move are left out."""
    pack, then = pack_of(before), {}
    for paper in before.papers.filter(removed_at=None):
        then.setdefault(_mark(pack, paper), []).append(paper)
    pairs = [(_next(then, _mark(pack, paper)), paper) for paper in papers]
    pairs += [(paper, None) for rest in then.values() for paper in rest]
    found = []
    for earlier, paper in pairs:
        declared = pack.paper((paper or earlier).kind)
        if declared is None or declared.single or not declared.main:
            continue
        was, now = (_amount(one, declared) if one else None for one in (earlier, paper))
        if was != now:
            prefixes = (f"{declared.jurisdiction}.{declared.kind}[{one.key}]" if one else "" for one in (earlier, paper))
            found.append(PaperChange(_title(paper or earlier, declared), declared.name, was, now, *prefixes))
    return found


def _next(then, mark):
    """Last year's next paper of the same sender, taken once."""
    rest = then.get(mark)
    return rest.pop(0) if rest else None


def _mark(pack, paper):
    declared = pack.paper(paper.kind)
    heading = declared.heading if declared is not None else ""
    return paper.kind, str(paper.values.get(heading, "")).strip().lower()[:8], paper.values.get("owner", "")


def _amount(paper, declared):
    value = open_values({declared.main: paper.values.get(declared.main, "")})[declared.main]
    return Decimal(value or 0) if isinstance(declared.fields()[declared.main], Amount) else Decimal(0)


def _title(paper, declared):
    return str(paper.values.get(declared.heading) or declared.name)
