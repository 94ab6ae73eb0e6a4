"""Fields of papers, declared once: they drive entry, validation, import, schema and the filed document."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import TYPE_CHECKING, Any

from taxcore.engine.cells import Cell, Numbers, Spec
from taxcore.engine.characters import refused, within
from taxcore.engine.figures import ZERO, Figure, cents

if TYPE_CHECKING:
    from taxcore.engine.balances import Balance
    from taxcore.engine.run import Run

LARGEST = Decimal("99999999999.99")


class BadValue(ValueError):
    """An entered value that its field cannot take. `says` is for the person who entered it."""

    def __init__(self, says: str, given: Any):
        super().__init__(says)
        self.says = says
        self.given = given


class Field(Spec):
    """One box of a paper. `needed` is what to do when it is empty at filing; empty means it may stay so.

    `filed_as` writes it as the filed document takes it; `alike` says that a practice may answer it once for all its returns;
    `wide` asks for a whole row on screen; `secret`
    values are encrypted at rest and masked on screen; `begins` is the heading of the part of the paper that starts here;
    `kept`: next year's paper has the same until somebody says otherwise, of a table all its rows; `opens` is the balance that
    last year closed into it.
    """

    kind = "text"
    empty: Any = ""
    alone = True  # what it gives depends on nothing but what was entered in it

    def __init__(
        self,
        number: Numbers,
        label: str,
        *,
        needed: str = "",
        help: str = "",
        cites: str = "",
        wide: bool = False,
        secret: bool = False,
        pattern: str = "",
        pattern_says: str = "",
        longest: int = 120,
        shape: str = "",
        only: Callable[[Any], bool] | None = None,
        begins: str = "",
        alike: bool = False,
        filed_as: Callable[[str], str] | None = None,
        kept: bool = False,
        opens: Balance | None = None,
    ):
        super().__init__(number, label, cites=cites)
        self.needed = needed
        self.help = help
        self.wide = wide
        self.secret = secret
        self.pattern = re.compile(pattern, re.ASCII) if pattern else None
        self.pattern_says = pattern_says
        self.longest = longest
        self.shape = shape
        self.only = only
        self.begins = begins
        self.alike = alike
        self.filed_as = filed_as
        self.kept = kept
        self.opens = opens
        self.computed_by: Callable[[Any], Any] | None = None

    def __get__(self, node: Any, owner: type | None = None) -> Any:
        """As any place is read; but what is only entered needs no evaluation that others could wait for."""
        if node is None:
            return self
        cell = node.cells.get(self.name)
        if cell is None:
            if self.alone and self.computed_by is None and self.name not in node.doubted:
                cell = node.cells[self.name] = Cell(node, self)
                cell.verified = node.run.revision
                self.fill(cell)
            else:
                cell = node.run.evaluate(node, self)
        elif cell.pending:
            node.run.meet_again(cell)
        node.run.reading.append(cell)
        return cell.value

    def when_empty(self, method: Callable[[Any], Any]) -> Callable[[Any], Any]:
        """Decorator: what the field is computed from until somebody keys it; None where there is nothing to compute it from."""
        self.computed_by = method
        return method

    def applies(self, node: Any) -> bool:
        """Whether this node has the field at all: a spouse has no months at home."""
        return self.only is None or self.only(node)

    def parse(self, raw: Any) -> Any:
        """Value from its open-format text. BadValue where it does not fit."""
        text = str(raw).strip()
        if len(text) > self.longest:
            raise BadValue(f"{self.label} is longer than {self.longest} characters.", raw)
        if says := refused(text):
            raise BadValue(f"{self.label}: {says}.", raw)
        if self.pattern and not self.pattern.fullmatch(text):
            raise BadValue(self.pattern_says or f"{self.label} is not written as expected.", raw)
        return text

    def fits(self, raw: Any) -> bool:
        """Whether an entered value would be taken, asked without keeping anything."""
        try:
            self.parse(raw)
        except BadValue:
            return False
        return isinstance(raw, (str, int, Decimal, date))

    def tidy(self, text: str) -> str:
        """Digits put into the field's shape (000-00-0000) where their count fits it; anything else unchanged."""
        digits = [character for character in text if character in "0123456789"]
        if not self.shape or len(digits) != self.shape.count("0"):
            return text
        return "".join(digits.pop(0) if character == "0" else character for character in self.shape)

    def write(self, value: Any) -> Any:
        """The value as the open format holds it."""
        return str(value)

    def schema(self) -> dict[str, Any]:
        """JSON Schema of the value."""
        made: dict[str, Any] = {"type": "string", "maxLength": self.longest, "description": self.label}
        if self.pattern:
            made["pattern"] = f"^(?:{self.pattern.pattern})$"
        return made

    def fill(self, cell: Cell) -> None:
        node: Any = cell.node
        raw = node.entered.get(self.name)
        if raw is None or raw == "":
            if self.alike and self._answered(cell, node):
                return
            if self.computed_by is None:
                cell.how = "empty"
                self._keep(cell, self.empty)
                return
        else:
            try:
                if not isinstance(raw, (str, int, Decimal, date)):
                    raise BadValue(f"{self.label} cannot be read.", raw)
                cell.how = "keyed"
                self._keep(cell, self.parse(raw))
                return
            except BadValue as bad:
                node.run.refuse(cell, bad)
        found = self.computed_by(node) if self.computed_by is not None else None
        if found is not None:
            cell.how = "computed"
            self._settle(cell, found)
        else:
            cell.how = "empty"
            self._keep(cell, self.empty)

    def _answered(self, cell: Cell, node: Any) -> bool:
        """Whether the practice answers this on every return; the answer is then the value. One that does not fit is none."""
        answer = node.run.everything.answers.get(f"{node.jurisdiction}.{node.kind}.{self.name}")
        if not answer or not self.fits(answer):
            return False
        cell.how = "answered"
        self._keep(cell, self.parse(answer))
        return True

    def _keep(self, cell: Cell, value: Any) -> None:
        if isinstance(value, Decimal):
            figure = Figure(value)
            figure.cell = cell
            cell.value = figure
        else:
            cell.value = value


class Text(Field):
    pass


class Prose(Text):
    """Sentences: an explanation that goes out with the return. Line breaks become spaces."""

    kind = "prose"

    def parse(self, raw: Any) -> Any:
        return super().parse(" ".join(str(raw).split()))


class Amount(Field):
    """Money to the cent. May be negative only where the paper's box may."""

    kind = "amount"
    empty = ZERO

    def __init__(self, number: Numbers, label: str, *, negative: bool = False, **options: Any):
        super().__init__(number, label, **options)
        self.negative = negative

    def parse(self, raw: Any) -> Decimal:
        try:
            text = str(raw).strip()
            value = Decimal(text if text.isascii() else "none")  # Decimal reads the digits of every script
        except InvalidOperation:
            raise BadValue(f"{self.label} is not an amount.", raw) from None
        if not value.is_finite():
            raise BadValue(f"{self.label} is not an amount.", raw)
        if abs(value) > LARGEST:
            raise BadValue(f"{self.label} is larger than any amount a form can hold.", raw)
        if value < 0 and not self.negative:
            raise BadValue(f"{self.label} cannot be negative.", raw)
        return cents(value)

    def write(self, value: Any) -> str:
        return f"{cents(value):f}"

    def schema(self) -> dict[str, Any]:
        sign = "-?" if self.negative else ""
        return {"type": "string", "pattern": rf"^{sign}\d{{1,11}}(\.\d{{1,2}})?$", "description": self.label}


class Count(Field):
    """A whole number from nothing to `most`."""

    kind = "count"
    empty = None

    def __init__(self, number: Numbers, label: str, *, most: int, **options: Any):
        super().__init__(number, label, **options)
        self.most = most

    def parse(self, raw: Any) -> int:
        text = str(raw).strip()
        if not (text.isascii() and text.isdigit() and len(text) < 9 and int(text) <= self.most):
            raise BadValue(f"{self.label} takes a whole number from 0 to {self.most}.", raw)
        return int(text)

    def schema(self) -> dict[str, Any]:
        return {"type": "string", "pattern": r"^\d{1,8}$", "description": self.label}


class Flag(Field):
    """Yes or no; empty is None, which is neither."""

    kind = "flag"
    empty = None

    def parse(self, raw: Any) -> bool:
        if raw in (True, "yes", "true"):
            return True
        if raw in (False, "no", "false"):
            return False
        raise BadValue(f"{self.label} takes yes or no.", raw)

    def write(self, value: Any) -> str:
        return "yes" if value else "no"

    def schema(self) -> dict[str, Any]:
        return {"enum": ["yes", "no"], "description": self.label}


class Day(Field):
    """A date, in the open format as YYYY-MM-DD."""

    kind = "date"
    empty = None

    def parse(self, raw: Any) -> date:
        if isinstance(raw, date):
            return raw
        try:
            value = date.fromisoformat(str(raw).strip())
        except ValueError:
            raise BadValue(f"{self.label} is not a date.", raw) from None
        if not 1880 <= value.year <= 2200:
            raise BadValue(f"{self.label} is not a likely date.", raw)
        return value

    def write(self, value: Any) -> str:
        return value.isoformat()

    def schema(self) -> dict[str, Any]:
        return {"type": "string", "format": "date", "description": self.label}


class Choice(Field):
    """One of a list of codes, each with its meaning."""

    kind = "choice"
    empty = ""

    def __init__(self, number: Numbers, label: str, options: Mapping[str, str], **rest: Any):
        super().__init__(number, label, **rest)
        self.options = dict(options)

    def shown(self, code: str) -> str:
        """A code as people read it: short ones keep their letter before the meaning."""
        meaning = self.options.get(code, code)
        return f"{code} {meaning}" if code.isupper() and len(code) < 3 and meaning != code else meaning

    def parse(self, raw: Any) -> str:
        text = str(raw).strip()
        if text not in self.options:
            raise BadValue(f"{self.label}: {text!r} is not one of its codes.", raw)
        return text

    def schema(self) -> dict[str, Any]:
        return {"enum": list(self.options), "description": self.label}


class Refer(Field):
    """Another paper or person of the return, by its id. Where only one can be meant it is that one, unless `optional`."""

    kind = "refer"
    alone = False

    def __init__(self, number: Numbers, label: str, kinds: tuple[str, ...], *, optional: bool = False, **options: Any):
        super().__init__(number, label, longest=40, pattern=r"[a-z0-9][a-z0-9-]{0,39}", **options)
        self.pattern_says = f"{label} is not one of this return's."
        self.kinds = kinds
        self.optional = optional

    def fits(self, raw: Any) -> bool:
        """Only the return knows what can be meant."""
        return False

    def candidates(self, node: Any) -> list[Any]:
        """The papers and people that can be meant."""
        return self.among(node.run)

    def among(self, run: Run) -> list[Any]:
        people = run.people() if "person" in self.kinds else []
        return [*people, *(paper for kind in self.kinds for paper in run.papers(kind))]

    @staticmethod
    def called(one: Any) -> str:
        """What people read and choose: a title, and what it is; once where it is called by its title."""
        what = str(getattr(one, "called", within(one.name)))
        return one.title if what == one.title else f"{one.title}, {what}"

    def key_named(self, run: Run, text: str) -> str:
        """The id of what was chosen by its words, or by a title that only one has; any other text unchanged."""
        wanted = text.strip().lower()
        found = [one for one in self.among(run) if wanted in (self.called(one).lower(), one.title.lower())]
        return found[0].key if len(found) == 1 else text

    def fill(self, cell: Cell) -> None:
        super().fill(cell)
        node: Any = cell.node
        keys = [one.key for one in self.candidates(node)]
        if cell.value and cell.value not in keys:
            node.run.refuse(cell, BadValue(self.pattern_says, cell.value))
            cell.how, cell.value = "empty", ""
        elif not cell.value and len(keys) == 1 and not self.optional:
            cell.how, cell.value = "computed", keys[0]


class Rows(Field):
    """A small table inside a paper. The value is a tuple of row nodes, each with an id that stays with it."""

    kind = "rows"

    def __init__(self, number: Numbers, label: str, row: type[Any], **options: Any):
        super().__init__(number, label, **options)
        self.row = row

    def fill(self, cell: Cell) -> None:
        node: Any = cell.node
        raw = node.entered.get(self.name) or ()
        if not _is_rows(raw):
            node.run.refuse(cell, BadValue(f"{self.label} is not a list of rows, each with an id of its own.", raw))
            raw = ()
        cell.how = "keyed" if raw else "empty"
        cell.value = tuple(self._row(node, values) for values in raw)

    def _row(self, node: Any, values: Mapping[str, Any]) -> Any:
        key = str(values.get("id", ""))
        row = self.row(node.run, key, f"{node.address_prefix}.{self.name}[{key}]", values)
        row.paper = node
        return row

    def schema(self) -> dict[str, Any]:
        properties = {"id": {"type": "string", "maxLength": 12}} | schemas_of(self.row)
        item = {"type": "object", "properties": properties, "required": ["id"], "additionalProperties": False}
        return {"type": "array", "items": item, "description": self.label}


def _is_rows(raw: Any) -> bool:
    if not isinstance(raw, (list, tuple)) or not all(isinstance(values, Mapping) for values in raw):
        return False
    ids = [str(values.get("id", "")) for values in raw]
    return len(ids) == len(set(ids))


def schemas_of(node: Any) -> dict[str, Any]:
    """JSON Schemas of a paper's or a row's fields, by name."""
    return {name: field.schema() for name, field in node.fields().items()}
