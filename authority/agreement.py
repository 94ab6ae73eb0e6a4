"""Whether a document agrees with itself: lines that are sums of others, schedules carried to their form, papers to their line.

What must agree stands in `agreements/<authority>.toml`, written from the official forms in their own line numbers, so that it
owes nothing to the programs that make documents. A statement reads

    9 = 1z + 2b + 3b                     lines of the same form
    15 = max(0, 11 - 14)                 not below zero; min(...) is the smallest
    8 = [Schedule 1].10                  a line of another form; of several of a kind, together
    25a = {WageStatement.FederalWithheld}    a field of every such paper, together; `Paper.Rows.Field` for a table's,
                                         `*.States[State=IL].Withheld` for any paper's rows of one state
    1-A = @[1040].11                     a line of the return as it was accepted, where this one corrects it
    2b = [Schedule B].4 when [Schedule B]    only where that form is attached; `unless` where it is not. `or` joins several, and
                                         {Paper.Field} is there where it is no amount of nothing

A line or form that is not on the document is an amount of nothing.
"""

import re
import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from pathlib import Path

FOLDER = Path(__file__).parent / "agreements"
_TOKEN = re.compile(
    r"\s*(@?\[[^\]]+\]\.[\w-]+|\{[^}]+\}|max\b|min\b|\d+(?:\.\d+)?[A-Za-z]*(?:-[A-Za-z]\w*)?|[A-Z]\d+\b|[A-Za-z]\b|[-+(),])"
)
_STATEMENT = re.compile(r"^(?P<left>.+?) = (?P<right>.+?)(?: (?P<cond>when|unless) (?P<turns>[\[{].+))?$")
_EVERY = "every"
_ROUNDING = Decimal(1)  # what cents on papers or worksheets may round to


class BadStatement(Exception):
    """A statement of the agreements cannot be read."""


@dataclass(frozen=True)
class Statement:
    """One agreement on forms of a number: both sides as token lists, and what it turns on."""

    form: str
    text: str
    left: tuple[str, ...]
    right: tuple[str, ...]
    condition: str
    turns: tuple[str, ...]

    @property
    def says(self) -> str:
        """The statement without what it turns on."""
        return self.text.partition(" when ")[0].partition(" unless ")[0]

    @property
    def code(self) -> str:
        if "{" in self.says:
            return "T-0402"
        return "T-0403" if "[" in self.says.partition(" = ")[2] else "T-0401"

    @property
    def first_line(self) -> str:
        return self.left[0]


@dataclass(frozen=True)
class Disagreement:
    """A statement that does not hold on one form: what the line is, what it should be, and the element at fault."""

    statement: Statement
    element: object
    found: Decimal
    expected: Decimal


@lru_cache(maxsize=64)
def statements(authority: str, year: int) -> tuple[Statement, ...]:
    """What must agree on this authority's documents of a year: its own file, and what all have."""
    files = [file for name in (authority, _EVERY) if (file := FOLDER / f"{name}.toml").is_file()]
    return tuple(
        _read(group["number"], text)
        for file in files
        for group in tomllib.loads(file.read_text())["form"]
        if group.get("from", 0) <= year <= group.get("to", 9999)
        for text in group["agree"]
    )


def _read(form: str, text: str) -> Statement:
    found = _STATEMENT.match(" ".join(text.split()))
    if found is None:
        raise BadStatement(text)
    return Statement(
        form,
        text,
        _tokens(found["left"]),
        _tokens(found["right"]),
        found["cond"] or "",
        tuple(found["turns"].split(" or ")) if found["turns"] else (),
    )


def _tokens(text: str) -> tuple[str, ...]:
    tokens, position = [], 0
    while position < len(text):
        found = _TOKEN.match(text, position)
        if found is None:
            raise BadStatement(text)
        tokens.append(found[1])
        position = found.end()
    return tuple(tokens)


class Forms:
    """A document's forms by official number, each line's amount by official line number; papers by path. `earlier` are those of
    the return that it corrects."""

    def __init__(self, root, earlier=None):
        self.earlier = Forms(earlier) if earlier is not None else None
        space = root.tag.partition("}")[0] + "}"
        self._space = space
        self._papers = root.find(f"{space}Papers")
        self.by_number: dict[str, list] = {}
        forms = root.find(f"{space}Forms")
        for form in [] if forms is None else forms:
            self.by_number.setdefault(form.get("number"), []).append(form)
        self._lines = {form: {line.get("line"): line for line in form} for found in self.by_number.values() for form in found}

    def amount(self, form, line: str) -> Decimal:
        element = self._lines[form].get(line)
        return _decimal(element.text) if element is not None else Decimal(0)

    def element(self, form, line: str):
        return self._lines[form].get(line, form)

    def all_of(self, number: str, line: str) -> Decimal:
        return sum((self.amount(form, line) for form in self.by_number.get(number, [])), Decimal(0))

    def of_papers(self, path: str) -> Decimal:
        found = [self._papers]
        for step in path.split("."):
            found = [child for element in found for child in self._step(element, step)]
        return sum((_decimal(element.text) for element in found), Decimal(0))

    def has(self, named: str) -> bool:
        """Whether a [form] is attached, or a {paper's field} is some amount."""
        inner = named[1:-1]
        return inner in self.by_number if named.startswith("[") else bool(self.of_papers(inner))

    def _step(self, element, step: str) -> list:
        name, _, where = step.rstrip("]").partition("[")
        children = list(element) if name == "*" else element.findall(f"{self._space}{name}")
        if not where:
            return children
        field, _, wanted = where.partition("=")
        return [child for child in children if child.findtext(f"{self._space}{field}") == wanted]


def _decimal(text: str | None) -> Decimal:
    try:
        return Decimal(text or 0)
    except ArithmeticError:
        return Decimal(0)


def disagreements(root, authority: str, year: int, earlier=None) -> Iterator[Disagreement]:
    """Everything on the document that does not agree with the rest of it, or with the `earlier` one that it corrects."""
    forms = Forms(root, earlier)
    for statement in statements(authority, year):
        attached = any(forms.has(one) for one in statement.turns)
        if statement.condition and attached != (statement.condition == "when"):
            continue
        for form in forms.by_number.get(statement.form, []):
            found, expected = (_Side(side, forms, form).value() for side in (statement.left, statement.right))
            if abs(found - expected) > _allowed(statement, found, expected):
                yield Disagreement(statement, forms.element(form, statement.first_line), found, expected)


def _allowed(statement: Statement, found: Decimal, expected: Decimal) -> Decimal:
    whole = found == found.to_integral_value() and expected == expected.to_integral_value()
    return Decimal(0) if whole and "{" not in statement.says else _ROUNDING


class _Side:
    """One side of a statement, worked out on one form."""

    def __init__(self, tokens, forms: Forms, form):
        self._left, self._forms, self._form = list(tokens), forms, form

    def value(self) -> Decimal:
        value = self._sum()
        if self._left:
            raise BadStatement(" ".join(self._left))
        return value

    def _sum(self) -> Decimal:
        value = self._term()
        while self._left and self._left[0] in "+-":
            value = value + self._term() if self._left.pop(0) == "+" else value - self._term()
        return value

    def _term(self) -> Decimal:
        token = self._left.pop(0)
        if token == "-":
            return -self._term()
        if token in ("max", "min", "("):
            return self._group(token)
        if token.startswith(("[", "@[")):
            number, _, line = token.lstrip("@[").partition("].")
            forms = self._forms.earlier if token.startswith("@") else self._forms
            return forms.all_of(number, line) if forms is not None else Decimal(0)
        if token.startswith("{"):
            return self._forms.of_papers(token[1:-1])
        return Decimal(0) if token == "0" else self._forms.amount(self._form, token)

    def _group(self, token: str) -> Decimal:
        if token != "(":
            self._left.pop(0)  # the opening bracket
        values = [self._sum()]
        while self._left.pop(0) == ",":
            values.append(self._sum())
        return {"max": max, "min": min, "(": sum}[token](values)
