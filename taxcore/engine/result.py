"""A return in, a result out: every line of every form, what the return says about itself, and how results differ."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import Any

from taxcore.engine import changes
from taxcore.engine.amending import goes_out
from taxcore.engine.cells import Cell, Look
from taxcore.engine.checks import CHECK, IDEA, STOPS, Check, Finding, finding, findings_of
from taxcore.engine.fields import Field, Rows
from taxcore.engine.forms import Form
from taxcore.engine.pack import Authority, BottomLine, Pack, missing
from taxcore.engine.papers import Paper
from taxcore.engine.run import Run
from taxcore.engine.values import LastYear, ReturnData

_ORDER = {STOPS: 0, CHECK: 1, IDEA: 2}


def compute(pack: Pack, data: ReturnData) -> Result:
    """Compute a return in full. The same data always gives the same result; bad input becomes findings."""
    return _settled(Run(pack, pack.earlier(data)))


def _settled(run: Run) -> Result:
    """Every line of every form that goes with the return, as the run's data have it."""
    forms: tuple[Form, ...] = run.once(_called_for)
    used = [form for form in forms if run.ask(("required", form.address_prefix), _Required(form))]
    for form in used:
        if form.doubted or form not in run.settled:
            run.settled.add(form)
            for name in form.numbered(run.year):
                if name not in form.cells:
                    form.cell(name)
    return Result(run, tuple(used))


def _called_for(run: Run) -> tuple[Form, ...]:
    return tuple(run.form(declared.code(), key) for declared in run.pack.forms for key in run.keys_of(declared))


class _Required:
    __slots__ = ("form",)

    def __init__(self, form: Form):
        self.form = form

    def __call__(self, run: Run) -> bool:
        return bool(self.form.required())


class Result:
    """Cells by address, forms in official order, findings by weight, a bottom line for each authority."""

    def __init__(self, run: Run, forms: tuple[Form, ...]):
        self.run = run
        self.forms = forms
        self.year = run.year
        self.hushed: frozenset[str] = frozenset()  # codes that somebody does not want to hear here
        self._heard: tuple[frozenset[str], tuple[Finding, ...]] | None = None
        self._listed = 0  # how many cells were evaluated when they were listed

    def changed(self, data: ReturnData) -> Result | None:
        """The result of other data of the same return, at the cost of what differs; this result is of no use afterwards.
        None where more than values and overrides differ: then it is computed in full."""
        run = self.run
        return _settled(run) if changes.take(run, run.pack.earlier(data)) else None

    def take_apart(self) -> None:
        """Let go of everything, for whoever knows that nobody looks at it any more. Figures, forms and the run know each other in
        circles; so they go at once, and nobody has to search for them later."""
        self.run.take_apart()
        self.__dict__.clear()

    @cached_property
    def bottom_lines(self) -> tuple[BottomLine, ...]:
        return tuple(self._bottom_lines())

    @cached_property
    def not_filed(self) -> frozenset[str]:
        """Jurisdictions whose forms are only worked out here, for others to read."""
        return frozenset(one.form.jurisdiction for one in self.run.pack.authorities if not _sends(self.run, one))

    def _bottom_lines(self) -> Iterator[BottomLine]:
        pack = self.run.pack
        applying = [one for one in pack.authorities if one.applies(self.run) and goes_out(self.run, one)]
        for authority in sorted(applying, key=lambda one: pack.rank(self.run, one)):
            refund, owed = authority.cell(self.run, authority.refund), authority.cell(self.run, authority.owed)
            cell = owed if owed.value else refund
            yield BottomLine(authority, refund.value - owed.value, cell.address)

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What the return says, by weight, less what was hushed; what stops filing is never hushed."""
        if self._heard is None or self._heard[0] != self.hushed:
            heard = tuple(one for one in self.all_findings if one.weight == STOPS or one.code not in self.hushed)
            self._heard = (self.hushed, heard)
        return self._heard[1]

    @cached_property
    def all_findings(self) -> tuple[Finding, ...]:
        return tuple(sorted(self._findings(), key=lambda found: (_ORDER[found.weight], found.code, found.at, found.says)))

    @property
    def counts(self) -> dict[str, int]:
        """How many findings of each weight."""
        return {weight: sum(found.weight == weight for found in self.findings) for weight in _ORDER}

    def _findings(self) -> Iterator[Finding]:
        for paper in (*self.run.people(), *self.run.all_papers()):
            yield from self.run.ask(("declared", paper.kind, paper.key), _Declared(paper))
        pack = self.run.pack
        for values in self.run.unknown:
            says = f"A paper of kind {values.kind!r} is not supported yet. Remove it or file this return elsewhere."
            yield finding(pack.unknown_paper, f"{pack.code}.{values.kind}[{values.id}]", says)
        checked = [found for one in pack.checks for found in self.run.ask(one, _Checked(one))]
        yield from self.run.ask("unconfirmed", _unconfirmed)
        for cell, bad in self.run.bad_values(self._roots):
            yield finding(pack.bad_value, cell.address, bad.says)
        for cell in self.run.unsettled:
            says = f"{cell.label} and the lines it depends on do not settle. Override one of them, with the reason."
            yield finding(pack.unsettled, cell.address, says)
        yield from checked

    def _roots(self) -> list[Cell]:
        """What a computation in full asks for by itself: the lines that go out, and every question about the whole."""
        asked, pack = self.run.asked, self.run.pack
        keys: list[tuple[Any, ...]] = [(word, form.code()) for form in pack.forms for word in ("idle", "keys")]
        keys += [("required", form.address_prefix) for form in self.run.forms()]
        keys += [("declared", paper.kind, paper.key) for paper in (*self.run.people(), *self.run.all_papers())]
        return [*self.lines(), *(asked[key] for key in (*keys, *pack.checks) if key in asked)]

    @cached_property
    def cells(self) -> dict[str, Cell]:
        """Every cell that was evaluated so far, by address: lines, facts, papers' fields."""
        evaluated = [cell for node in self.run.nodes() for cell in node.cells.values()]
        self._listed = len(evaluated)
        return {cell.address: cell for cell in evaluated}

    def __getitem__(self, address: str) -> Cell:
        found = self.get(address)
        if found is None:
            raise KeyError(address)
        return found

    def get(self, address: str) -> Cell | None:
        """The cell at an address, also one that was evaluated after the others had been listed; None where there is none."""
        found = self.cells.get(address)
        if found is None and sum(len(node.cells) for node in self.run.nodes()) > self._listed:
            del self.cells
            found = self.cells.get(address)
        return found

    def lines(self) -> tuple[Cell, ...]:
        """Numbered lines of the forms that go with the return."""
        return self._lines

    @cached_property
    def _lines(self) -> tuple[Cell, ...]:
        return tuple(cell for form in self.forms for cell in form.lines())

    @cached_property
    def _readers(self) -> dict[int, list[Cell]]:
        readers: dict[int, list[Cell]] = {}
        for cell in self.cells.values():
            for source in cell.sources():
                readers.setdefault(id(source), []).append(cell)
        return readers

    def readers(self, cell: Cell) -> list[Cell]:
        """The figures that read this one."""
        return self._readers.get(id(cell), [])

    def way_up(self, cell: Cell) -> list[Cell]:
        """The shortest way from a figure to a bottom line, the figure first; only itself when nothing reads it.

        A way through figures that have an amount comes before a shorter one through zeros.
        """
        return self._way(cell, through_zeros=False) or self._way(cell, through_zeros=True) or [cell]

    def _way(self, cell: Cell, through_zeros: bool) -> list[Cell]:
        goals = {line.address for line in self.bottom_lines}
        came_from: dict[int, Cell | None] = {id(cell): None}
        queue = [cell]
        for here in queue:
            if here.address in goals and here is not cell:
                return _walk_back(here, came_from)
            for reader in self.readers(here):
                if id(reader) not in came_from and (through_zeros or (reader.is_amount and reader.value)):
                    came_from[id(reader)] = here
                    queue.append(reader)
        return []


def _sends(run: Run, authority: Authority) -> bool:
    return goes_out(run, authority) if authority.applies(run) else authority.files(run)


def _unconfirmed(run: Run) -> tuple[Finding, ...]:
    """What came from last year and nobody looked at: of each paper what the bottom lines depend on, and the rest."""
    waiting = [(node, node.carried) for node in (*run.people(), *run.all_papers())]
    waiting = [(node, names) for node, names in waiting if names]
    if not waiting:
        return ()
    run.reading.append(run.whole)  # which figures depend on what can change with anything
    reached = _below(_ends(run))
    return tuple(found for node, names in waiting for found in _to_confirm(run.pack, node, names, reached))


def _to_confirm(pack: Pack, node: Any, names: tuple[str, ...], reached: set[Any]) -> Iterator[Finding]:
    fields = node.fields()
    known = [name for name in names if name in fields]
    moving = [name for name in known if node.cells.get(name) in reached]
    resting = [name for name in known if name not in moving]
    for diagnostic, some in ((pack.unconfirmed_stops, moving), (pack.unconfirmed, resting)):
        if some:
            says = f"{node.title}: confirm {', '.join(fields[name].label for name in some)}."
            yield finding(diagnostic, tuple(node.address(name) for name in some), says)


def _ends(run: Run) -> list[Cell]:
    """The cells of the bottom lines."""
    sent = [one for one in run.pack.authorities if one.applies(run) and goes_out(run, one)]
    return [one.cell(run, name) for one in sent for name in (one.refund, one.owed)]


def _below(ends: list[Cell]) -> set[Any]:
    """Everything that these cells depend on."""
    reached: set[Any] = set()
    queue: list[Any] = list(ends)
    while queue:
        cell = queue.pop()
        cell = cell.of if type(cell) is Look else cell
        if cell not in reached:
            reached.add(cell)
            queue += cell.reads
    return reached


def _walk_back(cell: Cell, came_from: dict[int, Cell | None]) -> list[Cell]:
    way: list[Cell] = []
    here: Cell | None = cell
    while here is not None:
        way.append(here)
        here = came_from[id(here)]
    return way[::-1]


class _Declared:
    __slots__ = ("paper",)

    def __init__(self, paper: Paper):
        self.paper = paper

    def __call__(self, run: Run) -> tuple[Finding, ...]:
        run.reading.append(self.paper.raw("*"))
        return tuple(_of_paper(self.paper))


class _Checked:
    __slots__ = ("check",)

    def __init__(self, check: Check):
        self.check = check

    def __call__(self, run: Run) -> tuple[Finding, ...]:
        return tuple(findings_of(self.check, run))


def _of_paper(paper: Paper) -> Iterator[Finding]:
    """What the declarations alone can say: needed fields that are empty, values that do not fit."""
    for cell, field in _worth_looking(paper):
        if isinstance(field, Rows):
            for row in cell.value:
                for row_cell, row_field in _of_row(row):
                    yield _missing(paper, row_cell, row_field)
        elif cell.how == "empty":
            yield _missing(paper, cell, field)


def _worth_looking(node: Any) -> Iterator[tuple[Cell, Field]]:
    """Fields that are needed, tables, and entered ones, whose values may not fit; nothing can be said about the rest."""
    fields = node.fields()
    for name in dict.fromkeys((*node.needed(), *node.entered)):
        field = fields.get(name)
        if field is None or not field.applies(node):
            continue
        if field.needed or isinstance(field, Rows):
            yield node.cell(name), field
        elif not _is_blank(node.entered[name]) and _is_refused(node, name, field):
            node.cell(name)  # it is refused there; what fits and nobody reads needs no cell


def _is_refused(node: Any, name: str, field: Field) -> bool:
    cell = node.cells.get(name)
    return not field.fits(node.entered[name]) if cell is None else cell in node.run.refused


def _is_blank(raw: Any) -> bool:
    return raw is None or raw == ""


def _of_row(row: Any) -> Iterator[tuple[Cell, Field]]:
    """Needed fields of a row that are empty. What is entered is only parsed: thousands of rows need no cell for every text."""
    for name, field in row.fields().items():
        raw = row.entered.get(name)
        if _is_blank(raw):
            if field.needed and field.applies(row):
                cell = row.cell(name)
                if cell.how == "empty":
                    yield cell, field
        elif _is_refused(row, name, field):
            row.cell(name)


def _missing(paper: Paper, cell: Cell, field: Field) -> Finding:
    says = f"{paper.title}: “{field.label}” is empty. {field.needed}"
    return finding(missing(type(paper), field), cell.address, says)


@dataclass(frozen=True, slots=True)
class Moved:
    """One line before and after a change; None where the line was not there."""

    address: str
    number: str
    label: str
    form: str
    before: Decimal | None
    after: Decimal | None


def line_name(cell: Cell) -> str:
    """What a line is called in every year, whatever its number: `us.1040:total_tax`, `us.sch-c[shop]:net_profit`."""
    return f"{cell.node.address_prefix}:{cell.spec.name}"


def figures(result: Result) -> dict[str, Decimal]:
    """Every numbered amount line by its name: small enough to keep, enough to say later what moved."""
    return {line_name(cell): cell.value for cell in result.lines() if cell.is_amount}


def last_year_of(result: Result) -> LastYear:
    """What next year's return looks back at: papers as entered, numbered lines, and what lines close, whether their form goes
    with the return or not."""
    closed = {
        closing.name(form.key): Decimal(value)
        for closing in result.run.pack.closings.values()
        for form in result.run.every(closing.form.code())
        if isinstance(value := getattr(form, closing.line.name), Decimal)
    }
    return LastYear(result.year, result.run.everything.papers, figures(result) | closed)


def ripple_since(old: Mapping[str, Decimal], after: Result) -> list[Moved]:
    """Every line that differs from figures kept earlier. A line that is gone is told under the name of its form."""
    new = {line_name(cell): cell for cell in after.lines() if cell.is_amount}
    found = [
        Moved(cell.address, cell.number, cell.label, cell.node.title, old.get(name), cell.value)
        for name, cell in new.items()
        if (old[name] != cell.value if name in old else cell.value)
    ]
    gone = [(name, amount) for name, amount in old.items() if name not in new and amount]
    return found + [moved for name, amount in gone for moved in _gone(name, amount, after)]


def _gone(name: str, amount: Decimal, after: Result) -> Iterator[Moved]:
    prefix, _, attribute = name.partition(":")
    form = after.run.pack.form(prefix.partition("[")[0])
    spec = form.specs.get(attribute) if form is not None else None
    if form is not None and spec is not None:
        place = spec.number_in(after.year) or ""
        yield Moved(f"{prefix}.{place or attribute}", place, spec.label, form.number, amount, None)


def ripple(before: Result, after: Result) -> list[Moved]:
    """Every numbered amount line that differs between two results, in the order of the forms."""
    old = {cell.address: cell for cell in before.lines() if cell.is_amount}
    new = {cell.address: cell for cell in after.lines() if cell.is_amount}
    moved = []
    for address in dict.fromkeys([*new, *old]):
        was, now = old.get(address), new.get(address)
        shown = now or was
        assert shown is not None
        if (was.value if was else 0) != (now.value if now else 0):  # a line that comes or goes with nothing on it is no news
            moved.append(
                Moved(
                    address,
                    shown.number,
                    shown.label,
                    shown.node.title,
                    was.value if was else None,
                    now.value if now else None,
                )
            )
    return moved
