"""Forms and their lines. A form is a class, a line is a method with its official number and a label of our own."""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from typing import TYPE_CHECKING, Any, ClassVar

from taxcore.engine import amending
from taxcore.engine.cells import Cell, Node, Numbers, Spec
from taxcore.engine.characters import within
from taxcore.engine.explain import absent, total
from taxcore.engine.figures import Figure
from taxcore.engine.papers import Paper

if TYPE_CHECKING:
    from taxcore.engine.balances import Balance
    from taxcore.engine.run import Run


ALL = "*"


class Loop:
    """A circle that the law contains, declared on the line where it is cut. Solved by repeating until it holds still."""

    def __init__(self, tolerance: Decimal, start: Decimal = Decimal(0), rounds: int = 80):
        self.tolerance = tolerance
        self.start = start
        self.rounds = rounds


class Line(Spec):
    """A line or a fact of a form, made by the decorators below.

    `closes` is the balance whose end of the year it is; `by_origin` names the method of the form that gives it in rows of the
    field that opens it, where the law asks from which year each part is. `used` and `expired` name what left it this year: an
    attribute of the form, or ALL where what was opened is always used up.
    """

    def __init__(
        self,
        numbers: Numbers,
        label: str,
        method: Callable[[Any], Any],
        *,
        cites: str = "",
        weight: str = "",
        loop: Loop | None = None,
        rounding: Any = "form",
        text: bool = False,
        closes: Balance | None = None,
        by_origin: str = "",
        used: str = "",
        expired: str = "",
    ):
        super().__init__(numbers, label, cites=cites)
        self.text = text
        self.closes = closes
        self.by_origin = by_origin
        self.used = used
        self.expired = expired
        self.method = method
        self.weight = weight
        self.loop = loop
        self.own_rounding = rounding
        self.__doc__ = method.__doc__

    def fill(self, cell: Cell) -> None:
        value = self.method(cell.node)
        self._settle(cell, Decimal(value) if type(value) is int else value)
        if not cell.node.run.overrides:
            return
        override = cell.node.run.overrides.get(cell.address)
        if override is not None and isinstance(cell.value, Decimal):
            cell.computed = cell.value
            cell.value = Figure(override.amount)
            cell.value.cell = cell
            cell.how, cell.reason = "overridden", override.reason


def line(number: Numbers, label: str, **options: Any) -> Callable[[Callable[[Any], Any]], Any]:
    """A numbered line. `number` may be {first year: number, ...}. `weight="total"` sets it in the heavier face; `text` is for
    lines that hold words."""
    return lambda method: Line(number, label, method, **options)


def fact(label: str, **options: Any) -> Callable[[Callable[[Any], Any]], Any]:
    """Something a form works out that has no number: a status, a count, a step of a worksheet. Not rounded."""
    options.setdefault("rounding", None)
    return lambda method: Line(None, label, method, **options)


class linked:
    """Another form of the same return: `federal = linked("us.1040")`, then `self.federal.adjusted_gross_income`."""

    def __init__(self, code: str):
        self.code = code

    def __get__(self, form: Any, owner: type | None = None) -> Any:
        return self if form is None else form.run.form(self.code)


class Form(Node):
    """Base of every form and worksheet.

    `per` says how many there are: "return" (one), "person" (taxpayer and spouse), "dependant", or a kind of
    paper or several kinds (one for each paper; ids are unique within a return).
    `needs` are the kinds of papers without which there is nothing to work out.
    `columns` names those of a form that has columns, whose lines are numbered 1-A, 1-B, 1-C.
    `number` is the official one; the address is made from jurisdiction and number: us.sch-b, us-il.il-1040.
    """

    number: ClassVar[str] = ""
    name: ClassVar[str] = ""
    per: ClassVar[str | tuple[str, ...]] = "return"
    needs: ClassVar[tuple[str, ...]] = ()
    worksheet: ClassVar[bool] = False
    rounding: ClassVar[Any] = None
    columns: ClassVar[tuple[str, ...]] = ()

    def __init__(self, run: Run, key: str | None = None):
        suffix = f"[{key}]" if key else ""
        super().__init__(run, key, f"{self.code()}{suffix}")

    @classmethod
    def code(cls) -> str:
        made = cls.__dict__.get("_code")
        if made is None:
            slug = cls.number.lower().replace("schedule ", "sch-").replace(" ", "-")
            made = cls._code = f"{cls.jurisdiction}.{slug}"
        return made

    _code: ClassVar[str]

    @classmethod
    def idle(cls, run: Run) -> bool:
        """Nothing on the return calls for this form: none of the papers it `needs` is there. Then nobody evaluates it."""
        return bool(cls.needs) and not any(run.papers(kind) for kind in cls.needs)

    @classmethod
    def keys(cls, run: Run) -> list[str | None] | None:
        """Which of them there are, where none of the words of `per` says it. None: `per` does."""
        return None

    def required(self) -> bool:
        """Whether this form goes with the return. Lines are computed when read, whether it goes or not."""
        return True

    def lines(self) -> list[Cell]:
        """The numbered lines of this year's form, in order."""
        return [self.cell(name) for name in self.numbered(self.year)]

    @classmethod
    def numbered(cls, year: int) -> tuple[str, ...]:
        """The attribute names of the lines that have a number in that year's form."""
        known: dict[int, tuple[str, ...]] = cls.__dict__.get("_numbered") or {}
        if year not in known:
            known[year] = tuple(name for name, spec in cls.specs.items() if spec.number_in(year) is not None)
            cls._numbered = known
        return known[year]

    _numbered: ClassVar[dict[int, tuple[str, ...]]]

    def papers(self, kind: str, owner: str | None = None) -> list[Any]:
        return self.run.papers(kind, owner)

    def paper(self, kind: str) -> Any:
        """The one paper of a kind that exists once a return."""
        return self.run.single(kind)

    def person(self, role: str) -> Any:
        """Taxpayer or spouse, or None."""
        return self.run.person(role)

    def brought(self, code: str, name: str, key: str | None = None) -> Any:
        """A line of another form, or nothing because no paper calls for that form."""
        if self.run.is_idle(code):
            called = self.run.declared(code)
            return absent(f"nothing on this return calls for {called.number}, {within(called.name)}")
        return total(getattr(self.run.form(code, key), name))

    def as_filed(self, name: str) -> Any:
        """A line of this form as its authority has it, where the return corrects one that was filed."""
        return amending.as_filed(self, name)

    def every(self, code: str) -> list[Any]:
        """All instances of a form that exists more than once."""
        return self.run.every(code)

    @property
    def title(self) -> str:
        owner = self.run.title_of(self.key) if self.key else ""
        return f"{self.number} · {owner}" if owner else self.number


__all__ = ["Form", "Line", "Loop", "Paper", "fact", "line", "linked"]
