"""Cells, and the nodes (papers, people, forms) they stand on. A cell is one figure at one address with what it read."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from datetime import date
from decimal import Decimal
from typing import TYPE_CHECKING, Any, ClassVar

from taxcore.engine.figures import Because, Explained, Figure, cents

if TYPE_CHECKING:
    from taxcore.engine.law import Law
    from taxcore.engine.run import Run


class Cell:
    """One figure: its value, how it came to be, what it read while it was computed.

    `how` is keyed, empty, computed or overridden. `computed` keeps the value that an override or an entered amount
    stands in front of.
    """

    __slots__ = (
        "changed", "computed", "explained", "how", "look", "node", "pending", "reads", "reason", "spec", "stands", "value",
        "verified",
    )  # fmt: skip

    def __init__(self, node: Any = None, spec: Any = None):
        self.node: Node = node
        self.spec: Spec = spec
        self.value: Any = None
        self.how = "computed"
        self.reads: list[Cell] = []
        self.explained: Explained | None = None
        self.computed: Any = None
        self.reason = ""
        self.pending = False
        self.verified = 0  # the revision of the run in which it was last known to be right
        self.changed = 0  # the revision in which its value became another one
        self.stands = True  # not in doubt since a change
        self.look: Look | None = None

    @property
    def address(self) -> str:
        return f"{self.node.address_prefix}.{self.spec.place(self.node.year)}"

    @property
    def amount(self) -> Decimal:
        return self.value

    @property
    def number(self) -> str:
        return self.spec.number_in(self.node.year) or ""

    @property
    def label(self) -> str:
        return self.spec.label

    @property
    def because(self) -> Because | None:
        """How the amount came about, where a helper worked it out."""
        return self.explained.because if self.explained is not None else None

    @property
    def is_amount(self) -> bool:
        return isinstance(self.value, Decimal)

    def sources(self) -> list[Cell]:
        """What this figure read, each once, in the order it was read."""
        return list({id(cell): cell for cell in self.reads if type(cell) is Cell}.values())

    def __repr__(self) -> str:
        return f"<{self.address} {self.value} {self.how}>"


class Look:
    """A read that lineage does not show: somebody looked at a cell for more than its amount."""

    __slots__ = ("of",)

    def __init__(self, of: Cell):
        self.of = of


class _Unseen(Cell):
    """What a figure can depend on besides other figures. Stands on no node, and lineage does not show it."""

    __slots__ = ()


class Raw(_Unseen):
    """What was entered in a field, or in a whole paper, as it was entered."""

    __slots__ = ()


class Asked(_Unseen):
    """A question about the return as a whole, answered once: whether a form is idle, what a check finds."""

    __slots__ = ("key", "make")

    def __init__(self, key: Any, make: Callable[[Any], Any]):
        Cell.__init__(self)
        self.key, self.make = key, make


Numbers = str | None | Mapping[int, str | None]


class Spec:
    """A place on a node: a line, a fact or a paper's field. Reading it as an attribute evaluates it once."""

    name: str = ""
    loop: Any = None
    own_rounding: Any = "form"

    def __init__(self, number: Numbers, label: str, *, cites: str = ""):
        self.numbers = number
        self.label = label
        self.cites = cites
        self._by_year: dict[int, str | None] = {}

    def __set_name__(self, owner: type, name: str) -> None:
        self.name = name

    def __get__(self, node: Any, owner: type | None = None) -> Any:
        if node is None:
            return self
        cell = node.cells.get(self.name)
        if cell is None:
            cell = node.run.evaluate(node, self)
        elif cell.pending:
            node.run.meet_again(cell)
        node.run.reading.append(cell)
        return cell.value

    def number_in(self, year: int) -> str | None:
        """The official number in that year's form; None where the place is not on it."""
        if year not in self._by_year:
            numbers = self.numbers
            if isinstance(numbers, Mapping):
                since = max((first for first in numbers if first <= year), default=None)
                self._by_year[year] = None if since is None else numbers[since]
            else:
                self._by_year[year] = numbers
        return self._by_year[year]

    def place(self, year: int) -> str:
        return self.number_in(year) or self.name

    def fill(self, cell: Cell) -> None:
        """Put the value into a new cell. Each kind of place does it its own way."""
        raise NotImplementedError

    def _settle(self, cell: Cell, value: Any) -> None:
        if isinstance(value, Decimal):
            cell.explained = value if type(value) is Explained else None
            cell.computed = value
            rounding = cell.node.rounding_of(self)
            rounded = rounding(value) if rounding else value
            figure = Figure(rounded + 0)  # + 0 turns a negative zero into zero
            figure.cell = cell
            cell.value = figure
        else:
            cell.value = value


class Node:
    """Something that has cells: a paper, a row of it, a person, a form. Subclasses declare Specs as class attributes."""

    specs: ClassVar[dict[str, Spec]] = {}
    doubted: dict[str, Cell] = {}
    jurisdiction: ClassVar[str] = ""
    rounding: ClassVar[Any] = staticmethod(cents)  # papers hold cents; forms round by their own rule

    def __init_subclass__(cls, **kwargs: Any) -> None:
        super().__init_subclass__(**kwargs)
        cls.specs = {}
        for base in reversed(cls.__mro__):
            for name, value in vars(base).items():
                if isinstance(value, Spec):
                    cls.specs[name] = value

    def __init__(self, run: Run, key: str | None, address_prefix: str):
        self.run = run
        self.key = key
        self.address_prefix = address_prefix
        self.year = run.year
        self.cells: dict[str, Cell] = {}

    @property
    def law(self) -> Law:
        """The law of this node's jurisdiction for the return's year."""
        return self.run.laws[self.jurisdiction]

    def law_on(self, day: date) -> Law:
        """The law of this node's jurisdiction that governs a day: where a rule turns on the date of an event."""
        return self.run.law_in(self.jurisdiction, self.run.pack.law_year(day))

    def rounding_of(self, spec: Spec) -> Callable[[Decimal], Decimal] | None:
        """By the rule of a place, where it has one of its own; else by that of the node."""
        return self.rounding if spec.own_rounding == "form" else spec.own_rounding

    def cell(self, name: str) -> Cell:
        """The cell of that attribute, evaluated, without counting as a read."""
        found = self.cells.get(name)
        if found is None or found.pending:
            found = self.run.evaluate(self, self.specs[name])
        if found.look is None:
            found.look = Look(found)
        self.run.reading.append(found.look)  # type: ignore[arg-type]
        return found

    def address(self, name: str) -> str:
        """Address of a place by its attribute name or its official number."""
        spec = self.specs.get(name) or next((s for s in self.specs.values() if s.number_in(self.year) == name), None)
        if spec is None:
            raise KeyError(f"{type(self).__name__} has no place {name!r}")
        return f"{self.address_prefix}.{spec.place(self.year)}"

    @property
    def title(self) -> str:
        """What a reader calls this node."""
        return type(self).__name__
