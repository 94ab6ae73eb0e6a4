"""A result as it stood when its return was locked: plain data, drawn again without computing anything.

What was signed must not depend on today's program. `drawn` writes all that pages, packages and authorizations show of a result;
`Drawn` reads it back. Nothing here evaluates a line.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Any

from taxcore.engine.amending import Reworded, corrects, differing, reworded
from taxcore.engine.pack import PaymentToCome
from taxcore.engine.result import Result
from taxcore.engine.values import Amends


def drawn(result: Result) -> dict[str, Any]:
    """Everything shown of a result, as JSON: forms with lines, bottom lines, who files and signs, what is authorized."""
    return {
        "year": result.year,
        "forms": [_form(form, result) for form in result.forms],
        "people": [
            {"role": one.role, "first_name": one.short_name, "full_name": one.whole_name, "number": getattr(one, "number", "")}
            for one in result.run.people()
        ],
        "signers": list(result.run.pack.signers(result.run)),
        "represented": list(result.run.pack.represented(result.run)),
        "bottom_lines": list(_bottom_lines(result)),
        "to_come": [
            {
                "authority": one.authority,
                "name": one.name,
                "day": one.day.isoformat(),
                "amount": _plain(one.amount),
                "how": one.how,
            }
            for one in result.run.pack.to_come(result.run)
        ],
        **({"correction": _correction(result, result.run.amends)} if result.run.amends is not None else {}),
    }


def _correction(result: Result, amends: Amends) -> dict[str, Any]:
    """What a corrected return says of itself: which it is, why, what was entered otherwise, and which lines that moved."""
    run = result.run
    return {
        "number": amends.number,
        "superseding": amends.superseding,
        "explanation": run.pack.correcting.explanation(run) if run.pack.correcting else "",
        "filed": [
            {"name": line.authority.name, "day": filed.day.isoformat(), "receipt": filed.receipt}
            for line in result.bottom_lines
            if (filed := amends.filed.get(line.authority.code)) is not None
        ],
        "entries": [{"paper": one.paper, "label": one.label, "before": one.before, "after": one.after} for one in reworded(run)],
        "lines": [
            {
                "form": cell.node.title, "number": cell.number, "label": cell.label,
                "before": _plain(then), "after": _plain(cell.value),
            }
            for line in result.bottom_lines
            for cell, then in differing(run, line.authority)
        ],
    }  # fmt: skip


def _form(form: Any, result: Result) -> dict[str, Any]:
    return {
        "code": form.code(),
        "title": form.title,
        "name": form.name,
        "jurisdiction": form.jurisdiction,
        "worksheet": form.worksheet,
        "filed": form.jurisdiction not in result.not_filed,
        "columns": list(form.columns),
        "lines": [
            {
                "at": cell.address, "number": cell.number, "label": cell.label, "weight": cell.spec.weight,
                "value": _plain(cell.value),
            }
            for cell in form.lines()
        ],
    }  # fmt: skip


def _bottom_lines(result: Result) -> Iterator[dict[str, Any]]:
    for line in result.bottom_lines:
        authority = line.authority
        run = result.run
        stated = [(name, authority.cell(run, name), allowed) for name, allowed in authority.stated]
        yield {
            "code": authority.code,
            "name": authority.name,
            "after": authority.after,
            "declaration": authority.declaration,
            "how_to_pay": authority.paying(run) or authority.how_to_pay,
            "corrects": corrects(run, authority),
            "due": authority.to_pay_on(result.year, run.pack.home(run), run.period).isoformat(),
            "form": authority.settled_on(run).title,
            "amount": _plain(line.amount),
            "address": line.address,
            "income": _plain(authority.cell(run, authority.income).value),
            "tax": _plain(authority.cell(run, authority.tax).value),
            "stated": [
                {"name": name, "number": cell.number, "label": cell.label, "amount": _plain(cell.value), "allowed": allowed}
                for name, cell, allowed in stated
            ],
        }


def _plain(value: Any) -> Any:
    """Amounts as {"amount": text}, days as {"day": text}; words, yes and no as they are."""
    if isinstance(value, Decimal):
        return {"amount": f"{value:f}"}
    if isinstance(value, date):
        return {"day": value.isoformat()}
    return value if isinstance(value, (bool, str)) or value is None else str(value)


def _read(value: Any) -> Any:
    if isinstance(value, Mapping):
        return Decimal(value["amount"]) if "amount" in value else date.fromisoformat(value["day"])
    return value


@dataclass(frozen=True)
class DrawnLine:
    """A numbered line as it was: `weight` is "total" for the lines that matter most."""

    address: str
    number: str
    label: str
    weight: str
    value: Any
    form: str

    @property
    def is_amount(self) -> bool:
        return isinstance(self.value, Decimal)


@dataclass(frozen=True)
class ColumnRow:
    """One line of a form with columns: a place for each column, None where the line has none; a line without columns stands in
    the last."""

    number: str
    label: str
    weight: str
    places: tuple[Any, ...]

    @property
    def alone(self) -> Any:
        """The line itself where it has no columns: its label then takes their width. None for a line that has some."""
        return self.places[-1] if all(one is None for one in self.places[:-1]) else None


def in_columns(lines: Sequence[Any], columns: Sequence[str]) -> list[ColumnRow]:
    """The lines of a form whose columns are numbered 1-A, 1-B, 1-C, put together; or 1-b, 1-d, where officials call them so."""
    found: dict[str, list[Any]] = {}
    letters = sorted({line.number.partition("-")[2] for line in lines} - {""})
    at = {letter: place for place, letter in enumerate(letters)} if len(letters) == len(columns) else {}
    for line in lines:
        base, _, column = line.number.partition("-")
        places = found.setdefault(base, [None] * len(columns))
        places[at.get(column, ord(column) - ord("A")) if column else -1] = line
    return [_column_row(base, places) for base, places in found.items()]


def _column_row(number: str, places: list[Any]) -> ColumnRow:
    last = next(one for one in reversed(places) if one is not None)
    several = sum(one is not None for one in places) > 1 or places[-1] is None
    weight = last.weight if isinstance(last, DrawnLine) else last.spec.weight
    return ColumnRow(number, last.label.rpartition(", ")[0] if several else last.label, weight, tuple(places))


@dataclass(frozen=True)
class DrawnForm:
    """A form as it was. `filed` is false for forms that were only worked out for another return to read."""

    code: str
    title: str
    name: str
    jurisdiction: str
    worksheet: bool
    filed: bool
    lines: tuple[DrawnLine, ...]
    columns: tuple[str, ...] = ()

    @property
    def rows(self) -> list[ColumnRow]:
        """Of a form with columns, its lines put together."""
        return in_columns(self.lines, self.columns)


@dataclass(frozen=True)
class DrawnPerson:
    role: str
    first_name: str
    full_name: str
    number: str


@dataclass(frozen=True)
class Stated:
    """One figure of an authorization, and by how much it may differ before it must be signed again. `name` is its attribute on
    the authority's form."""

    name: str
    number: str
    label: str
    amount: Decimal
    allowed: Decimal


@dataclass(frozen=True)
class DrawnBottomLine:
    """What one authority pays (positive) or is owed (negative), with the income and tax that a summary shows."""

    code: str
    name: str
    after: str
    declaration: str
    how_to_pay: str
    due: date
    form: str
    amount: Decimal
    address: str
    income: Decimal
    tax: Decimal
    stated: tuple[Stated, ...]
    corrects: bool = False


@dataclass(frozen=True)
class DrawnChange:
    """One line of a corrected return that is otherwise than it was filed."""

    form: str
    number: str
    label: str
    before: Decimal
    after: Decimal


@dataclass(frozen=True)
class DrawnFiled:
    """What one authority had accepted."""

    name: str
    day: date
    receipt: str


@dataclass(frozen=True)
class DrawnCorrection:
    """What a corrected return says of itself."""

    number: int
    superseding: bool
    explanation: str
    filed: tuple[DrawnFiled, ...]
    entries: tuple[Reworded, ...]
    lines: tuple[DrawnChange, ...]


class Drawn:
    """A frozen result. ValueError where the data is not what `drawn` wrote."""

    def __init__(self, data: Mapping[str, Any]):
        try:
            self.year: int = data["year"]
            self.forms = tuple(_drawn_form(form) for form in data["forms"])
            self.signers: tuple[str, ...] = tuple(data["signers"])
            self.represented: tuple[str, ...] = tuple(data.get("represented", ()))
            self.people = tuple(DrawnPerson(**person) for person in data["people"])
            self.bottom_lines = tuple(_drawn_bottom_line(line) for line in data["bottom_lines"])
            self.to_come = tuple(_drawn_to_come(one) for one in data.get("to_come", ()))
            self.correction = _drawn_correction(data["correction"]) if "correction" in data else None
        except (KeyError, TypeError) as wrong:
            raise ValueError(f"not a frozen result: {wrong}") from wrong

    def bottom_line(self, code: str) -> DrawnBottomLine | None:
        return next((line for line in self.bottom_lines if line.code == code), None)

    def lines(self) -> Iterator[DrawnLine]:
        for form in self.forms:
            yield from form.lines

    def amounts(self) -> dict[str, Decimal]:
        """Every amount by its address."""
        return {line.address: line.value for line in self.lines() if line.is_amount}


def _drawn_form(form: Mapping[str, Any]) -> DrawnForm:
    lines = tuple(
        DrawnLine(one["at"], one["number"], one["label"], one["weight"], _read(one["value"]), form["title"])
        for one in form["lines"]
    )
    return DrawnForm(
        form["code"], form["title"], form["name"], form["jurisdiction"], form["worksheet"], form["filed"], lines,
        tuple(form.get("columns", ())),
    )  # fmt: skip


def _drawn_bottom_line(line: Mapping[str, Any]) -> DrawnBottomLine:
    stated = tuple(
        Stated(one["name"], one["number"], one["label"], _read(one["amount"]), Decimal(one["allowed"])) for one in line["stated"]
    )
    return DrawnBottomLine(
        line["code"], line["name"], line["after"], line["declaration"], line["how_to_pay"],
        date.fromisoformat(line["due"]), line["form"],
        _read(line["amount"]), line["address"], _read(line["income"]), _read(line["tax"]), stated,
        line.get("corrects", False),
    )  # fmt: skip


def _drawn_to_come(one: Mapping[str, Any]) -> PaymentToCome:
    return PaymentToCome(one["authority"], one["name"], date.fromisoformat(one["day"]), _read(one["amount"]), one["how"])


def _drawn_correction(data: Mapping[str, Any]) -> DrawnCorrection:
    lines = (DrawnChange(one["form"], one["number"], one["label"], _read(one["before"]), _read(one["after"]))
             for one in data["lines"])  # fmt: skip
    filed = (DrawnFiled(one["name"], date.fromisoformat(one["day"]), one["receipt"]) for one in data["filed"])
    entries = tuple(Reworded(**one) for one in data["entries"])
    return DrawnCorrection(data["number"], data["superseding"], data["explanation"], tuple(filed), entries, tuple(lines))


def moved(before: Drawn, after: Result) -> list[tuple[DrawnLine, Decimal | None, Decimal | None]]:
    """(line, then, now) of every amount that a new computation of the same return gives otherwise."""
    old = {line.address: line for line in before.lines() if line.is_amount}
    new = {cell.address: _line(cell) for cell in after.lines() if cell.is_amount}
    found = []
    for address, line in (new | old).items():
        then, today = (lines[address].value if address in lines else None for lines in (old, new))
        if (then or 0) != (today or 0):
            found.append((line, then, today))
    return found


def _line(cell: Any) -> DrawnLine:
    return DrawnLine(cell.address, cell.number, cell.label, cell.spec.weight, cell.value, cell.node.title)
