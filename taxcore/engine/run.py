"""One computation: evaluates each figure once, when first asked for, and records what it read."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from decimal import Decimal
from pathlib import Path
from typing import Any

from taxcore.engine import changes
from taxcore.engine import law as law_files
from taxcore.engine.assumed_law import assumed, last_known
from taxcore.engine.cells import Asked, Cell, Look, Node, Raw, Spec
from taxcore.engine.fields import BadValue, Rows
from taxcore.engine.figures import ZERO, Figure
from taxcore.engine.forms import Form, Loop
from taxcore.engine.pack import Pack
from taxcore.engine.papers import Paper
from taxcore.engine.periods import Part
from taxcore.engine.values import PaperValues, ReturnData


class EngineError(Exception):
    """Base of the engine's errors: broken declarations, never bad input."""


class UndeclaredLoop(EngineError):
    """Figures that need each other with no declared Loop among them."""

    def __init__(self, members: list[str]):
        super().__init__("These figures need each other: " + " → ".join(members))
        self.members = members


_ENOUGH = 4


class _Nowhere(list[Cell]):
    """Where reads go while no figure is being worked out."""

    def append(self, cell: Cell) -> None:
        pass


_NOWHERE = _Nowhere()


class _EnterLoop(Exception):
    """Unwinds to the figure that was met again, so that the loop is entered at its declared line instead."""

    def __init__(self, again: Cell, head: Cell):
        super().__init__()
        self.again, self.head = again, head


PEOPLE, ANY = "", "*"  # among the shapes: who is on the return, and which papers of whatever kind


class _Shapes(dict[Any, Raw]):
    """What stands among the reads for the papers of a kind: which there are, in which order. Under (id,) for one of them."""

    def __missing__(self, kind: Any) -> Raw:
        made = self[kind] = Raw()
        return made


class _Laws(dict[str, law_files.Law]):
    """Law by jurisdiction, read from its files when first needed."""

    def __init__(self, pack: Pack, year: int, index: Decimal | None):
        super().__init__()
        self._pack, self._year, self._index = pack, year, index

    def __missing__(self, jurisdiction: str) -> law_files.Law:
        found = _law(self._pack.law[jurisdiction], self._year, self._index)
        self[jurisdiction] = found
        return found


def _law(folder: Path, year: int, index: Decimal | None) -> law_files.Law:
    return law_files.load(folder, year) if index is None or year <= last_known(folder) else assumed(folder, year, index)


class Run:
    """A return under computation, and the view of it that checks get."""

    def __init__(self, pack: Pack, data: ReturnData):
        self.pack = pack
        self.everything = data
        self.year = data.year
        self.training = data.training
        self.last_year = data.last_year
        self.amends = data.amends
        self.overrides = data.overrides
        self.laws = _Laws(pack, data.year, data.index)
        self.period = data.period or pack.period(data.year)
        self.reading: list[Cell] = _NOWHERE
        self.refused: dict[Cell, BadValue] = {}
        self.unknown: list[PaperValues] = []
        self.unsettled: list[Cell] = []
        self._pending: list[Cell] = []
        self._trail: list[tuple[Node, str]] = []
        self._answered: list[Any] = []  # keys of what was asked in rounds of a circle
        self._rounds = 0
        self.revision = 0
        self.whole = Raw()
        self.shapes = _Shapes()
        self.asked: dict[Any, Asked] = {}
        self.doubted: dict[Any, Asked] = {}
        self.in_loops: dict[Cell, tuple[Cell, ...]] = {}
        self._readers: dict[Any, set[Cell]] | None = None
        self._noted = self._most_noted = 0
        self.settled: set[Form] = set()  # forms whose lines were all asked for
        self._forms: dict[tuple[str, str | None], Form] = {}
        self._papers: dict[str, list[Any]] = {}
        self._by_key: dict[str, Any] = {}
        self._people: list[Any] = []
        self._empty: dict[str, Any] = {}
        self.take_in(data)

    def take_in(self, data: ReturnData) -> None:
        """Stand the data's papers here, in their order. One that stood here already stays the same node."""
        standing = self.standing()
        self._papers, self._by_key, self._people, self.unknown = {}, {}, [], []
        for values in data.papers:
            paper = self.pack.by_kind.get(values.kind)
            if paper is None:
                self.unknown.append(values)
                continue
            made = standing.get((values.kind, values.id)) or paper(
                self, values.id, values.values, values.attached, values.carried
            )
            if paper is self.pack.people:
                self._people.append(made)
            else:
                self._by_key[values.id] = made
                self._papers.setdefault(values.kind, []).append(made)
        for paper in self.pack.papers:
            if paper.always and paper.kind not in self._papers:
                self._papers[paper.kind] = [standing.get((paper.kind, paper.kind)) or paper(self, paper.kind, {})]

    def standing(self) -> dict[tuple[str, str], Any]:
        """People and papers by kind and id."""
        papers = (paper for kind in self._papers.values() for paper in kind)
        return {(node.kind, node.key): node for node in (*self._people, *papers)}

    def shape(self) -> dict[Any, list[Any]]:
        """Who is on the return and which papers of each kind, under the names that `shapes` has."""
        papers = [paper for kind in self._papers.values() for paper in kind]
        by_id = {(key,): [paper] for key, paper in self._by_key.items()}
        return {**self._papers, **by_id, PEOPLE: self._people, ANY: [*self._people, *papers]}

    def filled(self) -> list[Any]:
        """Empty papers in whose place there is another now; they are not kept."""
        return [self._empty.pop(kind) for kind in list(self._empty) if kind in self._papers]

    def drop(self, gone: list[Any]) -> list[Cell]:
        """Forget nodes that are on the return no more, with their rows and the forms that stand on them; gives their cells."""
        keys = {node.key for node in gone}
        forms = {mark: form for mark, form in self._forms.items() if mark[1] in keys}
        cells: list[Cell] = []
        for mark in forms:
            del self._forms[mark]
        for node in (*gone, *forms.values()):
            cells += _taken_from(node)
        marks = {(node.kind, node.key) for node in gone} | {(form.address_prefix,) for form in forms.values()}
        for questions in (self.asked, self.doubted):
            for key in [key for key in questions if type(key) is tuple and key[1:] in marks]:
                del questions[key]
        self.settled -= set(forms.values())
        for cell in cells:
            cell.value = cell.explained = None  # a figure and its cell know each other
        left = set(cells)
        self.refused = {cell: bad for cell, bad in self.refused.items() if cell not in left}
        self.unsettled = [cell for cell in self.unsettled if cell not in left]
        return cells

    def parts(self) -> tuple[Part, ...]:
        """The parts of the return's period by the law's years."""
        return self.period.parts(self.pack.law_year)

    def law_in(self, jurisdiction: str, year: int) -> law_files.Law:
        """The law of another year than the return's. LawError where its file is not there."""
        if year == self.year:
            return self.laws[jurisdiction]
        return _law(self.pack.law[jurisdiction], year, self.everything.index)

    def has_law(self, folder: Path) -> bool:
        """Whether a jurisdiction has law for the return's year, or for the last known year where this one is assumed."""
        known = self.year if self.everything.index is None else min(self.year, max(self.pack.years))
        return known in law_files.years(folder)

    # What forms and checks ask for

    def papers(self, kind: str, owner: str | None = None) -> list[Any]:
        """Of a kind, or of one owner: until somebody says whose a paper is, it counts as the taxpayer's."""
        self.reading.append(self.shapes[kind])
        found = self._papers.get(kind, [])
        return found if owner is None else [paper for paper in found if (paper.owner or "taxpayer") == owner]

    @property
    def data(self) -> ReturnData:
        """The return itself, for what computes another one from it: that depends on everything."""
        self.reading.append(self.whole)
        return self.everything

    def all_papers(self) -> list[Paper]:
        self.reading.append(self.shapes[ANY])
        return [paper for kind in self._papers.values() for paper in kind]

    def unentered(self) -> list[Paper]:
        """Papers that exist once and in which nothing was entered, of those that somebody has asked for."""
        return list(self._empty.values())

    def single(self, kind: str) -> Any:
        """The one paper of a kind that exists once; an empty one where the return has none yet."""
        self.reading.append(self.shapes[kind])
        found = self._papers.get(kind)
        if found:
            return found[0]
        if kind not in self._empty:
            paper = self.pack.paper(kind)
            if paper is None:
                raise EngineError(f"{self.pack.code} has no paper {kind!r}")
            self._empty[kind] = paper(self, kind, {})
        return self._empty[kind]

    def people(self, role: str | None = None) -> list[Any]:
        self.reading.append(self.shapes[PEOPLE])
        return self._people if role is None else [person for person in self._people if person.role == role]

    def person(self, role: str) -> Any:
        self.reading.append(self.shapes[PEOPLE])
        return next((person for person in self._people if person.role == role), None)

    def title_of(self, key: str) -> str:
        for node in (*self._people, *self.all_papers()):
            if node.key == key or getattr(node, "role", None) == key:
                return node.title
        return key

    def form(self, code: str, key: str | None = None) -> Any:
        found = self._forms.get((code, key))
        if found is None:
            found = self._forms[code, key] = self.declared(code)(self, key)
        return found

    def declared(self, code: str) -> type[Form]:
        form = self.pack.form(code)
        if form is None:
            raise EngineError(f"{self.pack.code} has no form {code!r}")
        return form

    def is_idle(self, code: str) -> bool:
        """Whether nothing on the return calls for that form; asked often, answered once."""
        key = ("idle", code)
        cell = self.asked.get(key)
        if cell is None:
            cell = self.answer(key, self.declared(code).idle)
        self.reading.append(cell)
        return bool(cell.value)

    def every(self, code: str) -> list[Any]:
        return [self.form(code, key) for key in self.keys_of(self.declared(code))]

    def keys_of(self, form: type[Form]) -> list[str | None]:
        code = form.code()
        if self.is_idle(code):
            return []
        own: list[str | None] | None = self.ask(("keys", code), form.keys)
        if own is not None:
            return own
        if form.per == "return":
            return [None]
        if form.per == "person":
            return [person.role for person in self.people() if person.role in ("taxpayer", "spouse")]
        if form.per == "dependant":
            return [person.key for person in self.people("dependant")]
        kinds = (form.per,) if isinstance(form.per, str) else form.per
        return [paper.key for kind in kinds for paper in self.papers(kind)]

    def by_key(self, kinds: tuple[str, ...], key: str) -> Any:
        """The paper of one of these kinds with that id, or None."""
        self.reading.append(self.shapes[key,])
        found = self._by_key.get(key)
        return found if found is not None and found.kind in kinds else None

    def papers_before(self, kind: str) -> list[PaperValues]:
        """Last year's papers of a kind as they were entered, less values that are neither text nor rows of it."""
        return self.once(_before_by_kind).get(kind, [])

    def once(self, make: Callable[[Run], Any]) -> Any:
        """What several checks need and one of them works out."""
        return self.ask(make, make)

    def shared(self, make: Callable[[Run], Any]) -> Any:
        """As `once`; what it read counts as read by whoever asks, so that lineage shows it."""
        value = self.once(make)
        self.reading.extend(self.asked[make].reads)
        return value

    def ask(self, key: Any, make: Callable[[Run], Any]) -> Any:
        """An answer about the return as a whole, worked out once and again when something it read has changed."""
        cell = self.asked.get(key)
        if cell is None:
            cell = self.answer(key, make)
        self.reading.append(cell)
        return cell.value

    def answer(self, key: Any, make: Callable[[Run], Any]) -> Asked:
        old = self.doubted.pop(key, None) if self.doubted else None
        if old is not None and changes.holds(self, old):
            self.asked[key] = old
            old.stands = True
            if self._rounds:
                self._answered.append(key)
            return old
        cell = old or Asked(key, make)
        reads: list[Cell] = []
        outer, self.reading = self.reading, reads
        try:
            value = make(self)
        finally:
            self.reading = outer
        if old is not None and changes.differs(old.value, value):
            cell.changed = self.revision
        was, cell.reads = cell.reads, reads
        cell.value, cell.verified, cell.stands = value, self.revision, True
        self.asked[key] = cell
        if self._rounds:
            self._answered.append(key)
        if self._readers is not None and was != reads:
            self._note_readers(cell)
        return cell

    def line_before(self, name: str) -> Decimal | None:
        """Last year's amount of a line by its name; None where last year is not known, zero where the line was not there."""
        return self.last_year.lines.get(name, ZERO) if self.last_year is not None else None

    def take_apart(self) -> None:
        """Cut what goes in circles. The run is of no use afterwards."""
        for node in list(self.nodes()):
            for cell in _taken_from(node):
                cell.node = cell.value = cell.computed = cell.explained = cell.look = None  # type: ignore[assignment]
                cell.reads = []
            node.run = None
        self.__dict__.clear()

    def refuse(self, cell: Cell, bad: BadValue) -> None:
        self.refused[cell] = bad

    def bad_values(self, read_by: Callable[[], list[Cell]]) -> list[tuple[Cell, BadValue]]:
        """What was entered and its field cannot take, where these read it, straight or through others."""
        if not self.refused:
            return []
        reached, queue = set(), read_by()
        while queue:
            cell: Any = queue.pop()
            cell = cell.of if type(cell) is Look else cell
            if cell not in reached:
                reached.add(cell)
                queue += cell.reads
        return [(cell, bad) for cell, bad in self.refused.items() if cell in reached]

    def forms(self) -> list[Form]:
        """Every form that somebody has asked for."""
        return list(self._forms.values())

    def nodes(self) -> Iterator[Any]:
        """People, papers with their rows, and forms: everything that has cells."""
        for node in (*self._people, *self.all_papers(), *self.unentered()):
            yield node
            for cell in list(node.cells.values()):
                if isinstance(cell.value, tuple):
                    yield from cell.value
        yield from self._forms.values()

    # Evaluation

    def readers_of(self) -> dict[Any, set[Cell]]:
        """Who read what; kept up from the first change on, and made anew before what reads no more outgrows the rest."""
        if self._readers is None or self._noted > self._most_noted:
            self._readers, self._noted = {}, 0
            cells = [cell for node in self.nodes() for cell in (*node.cells.values(), *node.doubted.values())]
            for cell in (*cells, *self.asked.values(), *self.doubted.values()):
                self._note_readers(cell)
            self._most_noted = 4 * self._noted + 10_000
            standing = set(cells)
            self.refused = {cell: bad for cell, bad in self.refused.items() if cell in standing}
        return self._readers

    def _note_readers(self, cell: Cell) -> None:
        readers = self._readers
        if readers is None:
            return
        self._noted += len(cell.reads)
        for read in cell.reads:
            source = read.of if type(read) is Look else read
            found = readers.get(source)
            if found is None:
                readers[source] = {cell}
            else:
                found.add(cell)

    def evaluate(self, node: Node, spec: Spec) -> Cell:
        """The cell of a place: as it stood if it was in doubt and holds, else worked out."""
        if not node.doubted or (old := node.doubted.pop(spec.name, None)) is None:
            fresh = self._evaluated(node, spec, Cell(node, spec))
            if self._readers is not None:
                self._note_readers(fresh)
            return fresh
        held = changes.holds(self, old)
        again = node.cells.get(spec.name)
        if again is not None:  # met on the way, and worked out there
            return again
        if held:
            node.cells[spec.name] = old
            old.stands = True
            if self._rounds:
                self._trail.append((node, spec.name))
            return old
        was, how, changed, reads = old.value, old.how, old.changed, old.reads
        look = old.look
        self.refused.pop(old, None)
        Cell.__init__(old, node, spec)
        old.look = look
        found = self._evaluated(node, spec, old)
        if found.reads != reads:
            self._note_readers(found)
        found.changed = self.revision if changes.differs(was, found.value) or how != found.how else changed
        return found

    def _evaluated(self, node: Node, spec: Spec, cell: Cell) -> Cell:
        node.cells[spec.name] = cell
        loop = spec.loop
        outer = self.reading
        self._pending.append(cell)
        cell.pending = True
        self.reading = cell.reads
        try:
            if loop is None:
                spec.fill(cell)
            else:
                self._go_round(cell, spec, loop)
        except BaseException as raised:
            self._take_back(cell, outer)
            if not isinstance(raised, _EnterLoop) or raised.again is not cell:
                raise
            self.reading = _NOWHERE
            raised.head.node.cell(raised.head.spec.name)
            self.reading = outer
            return node.cell(spec.name)
        cell.pending = False
        cell.verified = self.revision
        self._pending.pop()
        self.reading = outer
        if self._rounds:
            self._trail.append((node, spec.name))
        return cell

    def _take_back(self, cell: Cell, outer: list[Cell]) -> None:
        """An evaluation that did not end leaves nothing behind."""
        cell.pending = cell.stands = False
        self._pending.pop()
        cell.node.cells.pop(cell.spec.name, None)
        self.reading = outer

    def meet_again(self, cell: Cell) -> None:
        """A figure that is still being worked out was read: in a declared loop its guess serves, elsewhere it is an error."""
        if cell.spec.loop:
            cell.how = "looped"
            return
        inside = self._pending[self._pending.index(cell) :]
        head = next((c for c in inside if c.spec.loop), None)
        if head is not None:
            raise _EnterLoop(cell, head)
        raise UndeclaredLoop([member.address for member in (*inside, cell)])

    def _go_round(self, cell: Cell, spec: Spec, loop: Loop) -> None:
        self._rounds += 1
        begin, asked = len(self._trail), len(self._answered)
        try:
            self._repeat(cell, spec, loop)
        finally:
            self._rounds -= 1
        inside = [node.cells.get(name) for node, name in self._trail[begin:]]
        inside += [self.asked.get(key) for key in self._answered[asked:]]
        members = (cell, *(one for one in inside if one is not None))
        for member in members:
            self.in_loops[member] = tuple({*members, *self.in_loops.get(member, ())})
        if not self._rounds:
            del self._trail[:], self._answered[:]

    def _repeat(self, cell: Cell, spec: Spec, loop: Loop) -> None:
        override = self.overrides.get(cell.address)
        guess = override.amount if override else loop.start
        near = 0  # rounds within the tolerance: figures in whole units may still come to rest exactly
        for number in range(loop.rounds):
            since, asked = len(self._trail), len(self._answered)
            cell.how, cell.reads[:] = "computed", []
            cell.value = Figure(guess)
            cell.value.cell = cell
            self.reading = cell.reads
            spec.fill(cell)
            met, found = cell.how == "looped", cell.value
            near = near + 1 if abs(found - guess) <= loop.tolerance else 0
            if not met or found == guess or near > _ENOUGH:
                cell.how = "computed" if met else cell.how
                return
            last = number == loop.rounds - 1
            if not last:
                self._forget_round(cell, since, asked)
            guess = found
        cell.how = "computed"
        self.unsettled.append(cell)

    def _forget_round(self, cell: Cell, since: int, asked: int) -> None:
        """What a round worked out from its guess: figures, and answers that read any of them."""
        gone: set[Cell] = {cell}
        for node, name in self._trail[since:]:
            if (old := node.cells.pop(name, None)) is not None:
                old.stands = False
                gone.add(old)
        for key in self._answered[asked:]:
            answer = self.asked.get(key)
            if answer is not None and any((read.of if type(read) is Look else read) in gone for read in answer.reads):
                del self.asked[key]
                answer.stands = False
                gone.add(answer)
        del self._trail[since:], self._answered[asked:]


def _taken_from(node: Any) -> list[Cell]:
    """The cells of a node and of its rows, which it has no longer."""
    found = [*node.cells.values(), *node.doubted.values(), *getattr(node, "raws", {}).values()]
    rows = [row for cell in found if isinstance(cell.value, tuple) for row in cell.value if isinstance(row, Node)]
    node.cells, node.doubted = {}, {}
    return found + [cell for row in rows for cell in _taken_from(row)]


def _before_by_kind(run: Run) -> dict[str, list[PaperValues]]:
    """Nothing has parsed last year's values: checks may rely on text, and on rows of text where the field is a table."""
    found: dict[str, list[PaperValues]] = {}
    for paper in run.last_year.papers if run.last_year is not None else ():
        declared = run.pack.paper(paper.kind)
        if declared is not None:
            fields = declared.fields()
            sane = {name: value for name, value in paper.values.items() if _is_sane(fields.get(name), value)}
            found.setdefault(paper.kind, []).append(PaperValues(paper.id, paper.kind, sane))
    return found


def _is_sane(field: Any, value: Any) -> bool:
    if not isinstance(field, Rows):
        return isinstance(value, str)
    rows = isinstance(value, (list, tuple)) and all(isinstance(row, dict) for row in value)
    return rows and all(isinstance(one, str) for row in value for one in row.values())
