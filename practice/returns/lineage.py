"""The way from a figure back to its papers and on to the bottom line: what the panel lists, and its SVG graph."""

from dataclasses import dataclass

from practice.returns.drawing import _number
from taxcore.engine import words
from taxcore.engine.papers import Paper, Row

_WIDTH, _HEIGHT, _GAP_X, _GAP_Y = 128, 36, 20, 9
_MOST = 7


@dataclass
class Box:
    """One node of the graph. `css` is leaf, step, here or goal."""

    x: int
    y: int
    title: str
    label: str
    amount: object
    address: str
    css: str

    @property
    def middle(self):
        return self.y + _HEIGHT // 2

    @property
    def right(self):
        return self.x + _WIDTH


@dataclass
class Graph:
    width: int
    height: int
    boxes: list
    curves: list
    more: int


def lineage_of(result, address):
    """What the panel shows for one figure, or None when the result has no figure there."""
    cell = result.get(address)
    if cell is None:
        return None
    way = result.way_up(cell)
    leaves = leaves_of(cell)
    return {
        "cell": cell,
        "sentences": words.sentences(cell),
        "leaves": leaves,
        "tree": tree_of(cell),
        "way": way[1:],
        "graph": _graph(cell, way, leaves),
        "cites": cell.spec.cites or (type(cell.node).__doc__ or "").split(". ", 1)[-1],
        "why_zero": words.why_zero(cell) if cell.is_amount and cell.value == 0 else "",
    }


@dataclass
class Branch:
    """A source in the indented list. `again`: what is below it was listed already."""

    cell: object
    below: list
    depth: int
    again: bool = False


_DEEPEST_BRANCH = 7


def tree_of(cell, depth=0, seen=None):
    """Sources of a figure that have an amount, each with its own below it, down to the papers."""
    seen = seen if seen is not None else {id(cell)}
    branches = []
    for source in cell.sources():
        if not source.is_amount or not source.value:
            continue
        again = id(source) in seen
        seen.add(id(source))
        below = [] if again or depth >= _DEEPEST_BRANCH else tree_of(source, depth + 1, seen)
        branches.append(Branch(source, below, depth, again and bool(source.sources())))
    return branches


def leaves_of(cell):
    """Fields of papers that feed a figure and have an amount, each once, in order of reading."""
    found, seen, queue = [], {id(cell)}, [cell]
    while queue:
        here = queue.pop(0)
        for source in here.sources():
            if id(source) in seen:
                continue
            seen.add(id(source))
            if isinstance(source.node, Paper | Row) and source.how in ("keyed", "computed") and source.is_amount and source.value:
                found.append(source)
            queue.append(source)
    return found


def _graph(cell, way, leaves):
    """Papers at the left, what was read directly, the figure itself, the bottom line at the right."""
    direct = [source for source in cell.sources() if source.is_amount and source.value and source not in leaves]
    columns = [leaves[:_MOST], direct[:_MOST], [cell], way[-1:] if len(way) > 1 else []]
    kinds = ["leaf", "step", "here", "goal"]
    shown = [(kind, cells) for kind, cells in zip(kinds, columns, strict=True) if cells]
    tallest = max(len(cells) for _, cells in shown)
    height = tallest * (_HEIGHT + _GAP_Y) + _GAP_Y
    boxes, by_cell = [], {}
    for position, (kind, cells) in enumerate(shown):
        x = 2 + position * (_WIDTH + _GAP_X)
        top = (height - len(cells) * (_HEIGHT + _GAP_Y)) // 2
        for row, one in enumerate(cells):
            box = Box(x, top + row * (_HEIGHT + _GAP_Y), *_words(one), one.value, one.address, kind)
            boxes.append(box)
            by_cell[id(one)] = box
    curves = [_curve(*pair) for pair in _links(cell, way, leaves[:_MOST], direct[:_MOST], by_cell)]
    return Graph(4 + len(shown) * (_WIDTH + _GAP_X), height, boxes, curves, max(len(leaves) - _MOST, 0))


def _links(cell, way, leaves, direct, by_cell):
    here = by_cell[id(cell)]
    for source in direct:
        yield by_cell[id(source)], here
    for leaf in leaves:
        through = [source for source in direct if leaf is source or leaf in leaves_of(source)]
        for source in through or [cell]:
            yield by_cell[id(leaf)], by_cell[id(source)]
    if len(way) > 1:
        yield here, by_cell[id(way[-1])]


def _curve(left, right):
    bend = (left.right + right.x) // 2
    return f"M{left.right} {left.middle} C{bend} {left.middle} {bend} {right.middle} {right.x} {right.middle}"


def _words(cell):
    """Upper and lower words of a box: a paper's name and its box, or a line's label and its number."""
    if isinstance(cell.node, Paper | Row):
        number = _number(cell.spec, cell.node.year)
        return _clip(cell.node.title, 20), f"box {number}" if number else _clip(cell.label, 9)
    return _clip(cell.label, 20), _clip(f"{cell.node.title} {cell.number}".strip().replace("Schedule ", "Sch. "), 12)


def _clip(text, most):
    return text if len(text) <= most else text[: most - 1].rstrip() + "…"
