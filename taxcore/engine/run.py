"""One computation: evaluates each figure once, when first asked for, and records what it read."""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from typing import Any

from taxcore.engine import law as law_files
from taxcore.engine.cells import Cell, Node, Spec
from taxcore.engine.figures import ZERO, Figure
from taxcore.engine.forms import Form, Loop
from taxcore.engine.pack import Pack
from taxcore.engine.papers import BadValue, Paper, Rows
from taxcore.engine.values import PaperValues, ReturnData


class EngineError(Exception):
    """Base of the engine's errors: broken declarations, never bad input."""


class UndeclaredLoop(EngineError):
    """Figures that need each other with no declared Loop among them."""

    def __init__(self, members: list[str]):
        super().__init__("These figures need each other: " + " → ".join(members))
        self.members = members


_ENOUGH = 4


class _EnterLoop(Exception):
    """Unwinds to the figure that was met again, so that the loop is entered at its declared line instead."""

    def __init__(self, again: Cell, head: Cell):
        super().__init__()
        self.again, self.head = again, head


class _Laws(dict[str, law_files.Law]):
    """Law by jurisdiction, read from its files when first needed."""

    def __init__(self, pack: Pack, year: int):
        super().__init__()
        self._pack, self._year = pack, year

    def __missing__(self, jurisdiction: str) -> law_files.Law:
        found = law_files.load(self._pack.law[jurisdiction], self._year)
        self[jurisdiction] = found
        return found


class Run:
    """A return under computation, and the view of it that checks get."""

    def __init__(self, pack: Pack, data: ReturnData):
        self.pack = pack
        self.data = data
        self.year = data.year
        self.overrides = data.overrides
        self.laws = _Laws(pack, data.year)
        self.reading: list[Cell] = []
        self.bad_values: list[tuple[Cell, BadValue]] = []
        self.unknown: list[PaperValues] = []
        self.unsettled: list[Cell] = []
        self._pending: list[Cell] = []
        self._trail: list[tuple[Node, str]] = []
        self._rounds = 0
        self._idle: dict[str, bool] = {}
        self._forms: dict[tuple[str, str | None], Form] = {}
        self._papers: dict[str, list[Any]] = {}
        self._by_key: dict[str, Any] = {}
        self._people: list[Any] = []
        self._once: dict[Any, Any] = {}
        self._take_in(data)

    def _take_in(self, data: ReturnData) -> None:
        kinds = self.pack.by_kind
        for values in data.papers:
            paper = kinds.get(values.kind)
            if paper is None:
                self.unknown.append(values)
            elif paper is self.pack.people:
                self._people.append(paper(self, values.id, values.values))
            else:
                made = self._by_key[values.id] = paper(self, values.id, values.values)
                made.attached = values.attached
                self._papers.setdefault(values.kind, []).append(made)

    # What forms and checks ask for

    def papers(self, kind: str, owner: str | None = None) -> list[Any]:
        """Of a kind, or of one owner: until somebody says whose a paper is, it counts as the taxpayer's."""
        found = self._papers.get(kind, [])
        return found if owner is None else [paper for paper in found if (paper.owner or "taxpayer") == owner]

    def all_papers(self) -> list[Paper]:
        return [paper for kind in self._papers.values() for paper in kind]

    def single(self, kind: str) -> Any:
        """The one paper of a kind that exists once; an empty one where the return has none yet."""
        found = self._papers.get(kind)
        if not found:
            paper = self.pack.paper(kind)
            if paper is None:
                raise EngineError(f"{self.pack.code} has no paper {kind!r}")
            found = self._papers[kind] = [paper(self, kind, {})]
        return found[0]

    def people(self, role: str | None = None) -> list[Any]:
        return self._people if role is None else [person for person in self._people if person.role == role]

    def person(self, role: str) -> Any:
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
        found = self._idle.get(code)
        if found is None:
            found = self._idle[code] = self.declared(code).idle(self)
        return found

    def every(self, code: str) -> list[Any]:
        return [self.form(code, key) for key in self.keys_of(self.declared(code))]

    def keys_of(self, form: type[Form]) -> list[str | None]:
        if self.is_idle(form.code()):
            return []
        own = form.keys(self)
        if own is not None:
            return own
        if form.per == "return":
            return [None]
        if form.per == "person":
            return [person.role for person in self._people if person.role in ("taxpayer", "spouse")]
        if form.per == "dependant":
            return [person.key for person in self.people("dependant")]
        kinds = (form.per,) if isinstance(form.per, str) else form.per
        return [paper.key for kind in kinds for paper in self.papers(kind)]

    def by_key(self, kinds: tuple[str, ...], key: str) -> Any:
        """The paper of one of these kinds with that id, or None."""
        found = self._by_key.get(key)
        return found if found is not None and found.kind in kinds else None

    def papers_before(self, kind: str) -> list[PaperValues]:
        """Last year's papers of a kind as they were entered, less values that are neither text nor rows of it."""
        return self.once(_before_by_kind).get(kind, [])

    def once(self, make: Callable[[Run], Any]) -> Any:
        """What several checks need and one of them works out."""
        if make not in self._once:
            self._once[make] = make(self)
        return self._once[make]

    def line_before(self, name: str) -> Decimal | None:
        """Last year's amount of a line by its name; None where last year is not known, zero where the line was not there."""
        return self.data.last_year.lines.get(name, ZERO) if self.data.last_year is not None else None

    def otherwise(self, **changes: Any) -> Run:
        """The same return with something changed, computed apart: for rules that compare."""
        return Run(self.pack, self.data.but(**changes))

    def refuse(self, cell: Cell, bad: BadValue) -> None:
        self.bad_values.append((cell, bad))

    # Evaluation

    def evaluate(self, node: Node, spec: Spec) -> Cell:
        cell = Cell(node, spec)
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
            self.reading = []
            raised.head.node.cell(raised.head.spec.name)
            self.reading = outer
            return node.cell(spec.name)
        cell.pending = False
        self._pending.pop()
        self.reading = outer
        if self._rounds:
            self._trail.append((node, spec.name))
        return cell

    def _take_back(self, cell: Cell, outer: list[Cell]) -> None:
        """An evaluation that did not end leaves nothing behind."""
        cell.pending = False
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
        try:
            self._repeat(cell, spec, loop)
        finally:
            self._rounds -= 1

    def _repeat(self, cell: Cell, spec: Spec, loop: Loop) -> None:
        override = self.overrides.get(cell.address)
        guess = override.amount if override else loop.start
        near = 0  # rounds within the tolerance: figures in whole units may still come to rest exactly
        for number in range(loop.rounds):
            since = len(self._trail)
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
            for node, name in () if last else self._trail[since:]:
                node.cells.pop(name, None)
            if not last:
                del self._trail[since:]
            guess = found
        cell.how = "computed"
        self.unsettled.append(cell)


def _before_by_kind(run: Run) -> dict[str, list[PaperValues]]:
    """Nothing has parsed last year's values: checks may rely on text, and on rows of text where the field is a table."""
    found: dict[str, list[PaperValues]] = {}
    for paper in run.data.last_year.papers if run.data.last_year is not None else ():
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
