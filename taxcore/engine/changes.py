"""A change costs what it moves: a run takes new data, and only what read something of it is looked at again.

What a figure read is known from its lineage. Whatever else it can depend on is recorded too, unseen by lineage: whether a value
was entered, which forms a return calls for, what several checks share. After a change everything downstream of it is in doubt. A
figure in doubt that somebody asks for is verified read by read, in the order it read them, and evaluated again only if one of
them has another value; equal values stop there. A declared loop is worked out again as a whole.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date
from decimal import Decimal
from typing import TYPE_CHECKING, Any

from taxcore.engine.cells import Asked, Cell, Look, Raw
from taxcore.engine.fields import Rows
from taxcore.engine.values import PaperValues, ReturnData

if TYPE_CHECKING:
    from taxcore.engine.run import Run

_ALL = "*"
_NOBODY: frozenset[Cell] = frozenset()
_EMPTY = PaperValues("", "", {})
_PLAIN = (str, int, date, type(None))


def take(run: Run, data: ReturnData) -> bool:
    """Put new data in a run and everything it can move in doubt. False where the frame is another: then compute in full."""
    old = run.everything
    if not _same_frame(old, data):
        return False
    run.revision += 1
    moved = [] if _marks(old) == _marks(data) else _stood(run, data)
    moved += _keyed(run, data)
    if old.overrides != data.overrides:
        moved += _overridden(run, old.overrides, data.overrides)
    run.everything = data
    run.overrides = data.overrides
    if moved:
        moved.append(run.whole)
    for cell in moved:
        cell.verified, cell.changed = -1, run.revision if cell.node is None else cell.changed
    _put_in_doubt(run, moved)
    return True


def _same_frame(old: ReturnData, new: ReturnData) -> bool:
    """Whether at most papers and overrides differ. Of two papers under one id nobody could say which of them changed."""
    marks = [(one.pack, one.year, one.period, one.training, one.answers) for one in (old, new)]
    alike = marks[0] == marks[1]
    beside = ((old.last_year, new.last_year), (old.amends, new.amends))
    if not alike or not all(then is now or then == now for then, now in beside):
        return False
    return all(len({one.id for one in data.papers}) == len(data.papers) for data in (old, new))


def _marks(data: ReturnData) -> list[tuple[str, str]]:
    return [(one.kind, one.id) for one in data.papers]


def _stood(run: Run, data: ReturnData) -> list[Cell]:
    """Papers came, went or changed places: what that puts out of date."""
    before, stood = run.shape(), list(run.standing().values())
    run.take_in(data)
    after, stay = run.shape(), set(run.standing().values())
    differ = [kind for kind in {**before, **after} if before.get(kind) != after.get(kind)]
    gone = [node for node in stood if node not in stay] + run.filled()
    return [run.whole, *(run.shapes[kind] for kind in differ), *run.drop(gone)]


def _keyed(run: Run, data: ReturnData) -> list[Cell]:
    """What other values put out of date, other files beside a paper, and what was confirmed on it."""
    given = {(one.kind, one.id): one for one in data.papers}
    found: list[Cell] = []
    for mark, node in run.standing().items():
        now = given.get(mark, _EMPTY)
        if node.entered is not now.values and node.entered != now.values:
            found += _entered(run, node, now.values)
        if node.files != now.attached:
            node.files = now.attached
            found.append(node.raw("attached"))
        if node.brought != now.carried:
            node.brought = now.carried
            found.append(node.raw("carried"))
    return found


def _entered(run: Run, node: Any, values: Mapping[str, Any]) -> list[Cell]:
    """The cells that a paper's or a row's new values put out of date."""
    old, node.entered = node.entered, values
    names = [name for name in {**old, **values} if old.get(name) != values.get(name)]
    found: list[Cell] = [raw for name in (*names, _ALL) if (raw := node.raws.get(name)) is not None]
    for name in names:
        cell = node.cells.get(name) or node.doubted.get(name)
        if cell is None:
            continue
        rows = cell.value if isinstance(cell.spec, Rows) else ()
        given = values.get(name) or ()
        if rows and _same_rows(rows, given):
            for row, row_values in zip(rows, given, strict=True):
                if row.entered != row_values:
                    found += _entered(run, row, row_values)
        else:
            found.append(cell)
    return found


def _same_rows(rows: tuple[Any, ...], given: Any) -> bool:
    alike = isinstance(given, (list, tuple)) and all(isinstance(values, Mapping) for values in given)
    return alike and [row.key for row in rows] == [str(values.get("id", "")) for values in given]


def _overridden(run: Run, old: Mapping[str, Any], new: Mapping[str, Any]) -> list[Cell]:
    differ = {address for address in {**old, **new} if old.get(address) != new.get(address)}
    cells = [cell for form in run.forms() for cell in (*form.cells.values(), *form.doubted.values())]
    return [cell for cell in cells if cell.address in differ]


def _put_in_doubt(run: Run, moved: Iterable[Cell]) -> None:
    """Take everything downstream of these out of its place, to be verified when it is asked for. What is in doubt already has
    nothing that stands downstream of it: whatever was verified since then was verified with all that it reads."""
    readers = run.readers_of()
    queue = list(dict.fromkeys(moved))
    for cell in queue:
        cell.stands = False
    for cell in queue:
        for reader in readers.get(cell, _NOBODY):
            if reader.stands:
                reader.stands = False
                queue.append(reader)
        if cell in run.in_loops:
            for member in _forget_loop(run, run.in_loops[cell]):
                if member.stands:
                    member.stands = False
                    queue.append(member)
        _take_out(run, cell)


def _take_out(run: Run, cell: Any) -> None:
    node = cell.node
    if node is not None:
        name = cell.spec.name
        if node.cells.get(name) is cell:
            del node.cells[name]
            if not node.doubted:
                node.doubted = {}
            node.doubted[name] = cell
    elif type(cell) is Asked and run.asked.get(cell.key) is cell:
        del run.asked[cell.key]
        run.doubted[cell.key] = cell


def _forget_loop(run: Run, members: tuple[Cell, ...]) -> tuple[Cell, ...]:
    """A loop is worked out as a whole or not at all: its members are evaluated again whatever they read."""
    for member in members:
        run.in_loops.pop(member, None)
        member.verified = -1
    run.unsettled = [cell for cell in run.unsettled if cell not in members]
    return members


def holds(run: Run, cell: Cell) -> bool:
    """Whether everything that a figure in doubt read has the value it had."""
    if cell.verified < 0:
        return False
    verified = cell.verified
    for read in cell.reads:
        source: Any = read.of if type(read) is Look else read
        if not source.stands and not _brought(run, source):
            return False
        if source.changed > verified:
            return False
    cell.verified = run.revision
    return True


def _brought(run: Run, source: Any) -> bool:
    """Bring a source in doubt up to date. False where another cell has taken its place."""
    if source.node is not None:
        node, name = source.node, source.spec.name
        if node.doubted.get(name) is source:
            run.evaluate(node, source.spec)
        return node.cells.get(name) is source
    if type(source) is Raw:  # nothing to work out: it only says when it changed
        return True
    asked: Asked = source
    if asked.key in run.doubted:
        run.answer(asked.key, asked.make)
    return run.asked.get(asked.key) is asked


def differs(old: Any, new: Any) -> bool:
    """Whether a value is another one, to the last digit that is written: 1.0 is not 1.00."""
    if isinstance(old, Decimal) and isinstance(new, Decimal):
        return old.compare_total(new) != 0
    return type(old) is not type(new) or bool(old != new) or (not isinstance(new, _PLAIN) and repr(old) != repr(new))
