"""Plans in columns: each holds only its differences from the one it is based on, of the same year or of the year after it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from taxcore.engine import (
    ZERO,
    CannotRoll,
    Day,
    PaperValues,
    Result,
    ReturnData,
    Rolled,
    Rows,
    compute,
    last_year_of,
    roll_forward,
)
from taxcore.whatif.differences import Difference, Place, with_differences

RETURN = ""  # the key of the return as it stands
USUAL_RATE = Decimal("2.5")


@dataclass(frozen=True, slots=True)
class Column:
    """`based_on` is the key of another column, or `RETURN`. `years_on` is 0 or 1: its year is that of its base, or the one after,
    with what the base closes. `rate` is the assumed rise of prices in percent, where that year's law is not known."""

    key: str
    based_on: str = RETURN
    years_on: int = 0
    differences: tuple[Difference, ...] = ()
    rate: Decimal = USUAL_RATE


@dataclass(frozen=True, slots=True)
class Outcome:
    """A column worked out, or why there is none: `says` is then a sentence, and `result` None. `remarks` say what did not come
    along into its year."""

    column: Column
    result: Result | None
    says: str = ""
    remarks: tuple[str, ...] = ()


def worked_out(result: Result, columns: Iterable[Column], known: Mapping[str, Outcome] | None = None) -> dict[str, Outcome]:
    """Every column by its key, in the order given. The result of the return itself is left as it is. `known`
    are outcomes of the same return from before, of no use afterwards: one serves again where neither the column nor what it is
    based on differs, any other at the cost of what differs."""
    given, known = {column.key: column for column in columns}, known or {}
    work = _Work(result, given)
    for key, outcome in known.items():
        if outcome.result is not None:
            (work.found if _stands(key, given, known) else work.spare)[key] = outcome
    found = {key: work.out(key, ()) for key in given}
    for left in work.spare.values():
        if left.result is not None:
            left.result.take_apart()
    return found


def _stands(key: str, given: Mapping[str, Column], known: Mapping[str, Outcome]) -> bool:
    """Whether a column and all that it is based on are what they were."""
    while key != RETURN:
        if key not in given or key not in known or known[key].column != given[key]:
            return False
        key = given[key].based_on
    return True


class _Work:
    """Columns being worked out, each after the one that it is based on."""

    def __init__(self, result: Result, given: Mapping[str, Column]):
        self.result, self.given = result, given
        self.found: dict[str, Outcome] = {}
        self.spare: dict[str, Outcome] = {}

    def out(self, key: str, on_the_way: tuple[str, ...]) -> Outcome:
        if key in self.found:
            return self.found[key]
        if key in on_the_way:
            return Outcome(self.given[key], None, "These columns are based on each other.")
        self.found[key] = self._out(self.given[key], (*on_the_way, key))
        return self.found[key]

    def _out(self, column: Column, on_the_way: tuple[str, ...]) -> Outcome:
        if column.based_on == RETURN:
            return self._upon(column, self.result)
        if column.based_on not in self.given:
            return Outcome(column, None, "The column it is based on was removed.")
        below = self.out(column.based_on, on_the_way)
        if below.result is None:
            return Outcome(column, None, f"What it is based on cannot be worked out. {below.says}")
        return self._upon(column, below.result)

    def _upon(self, column: Column, base: Result) -> Outcome:
        pack, data = base.run.pack, base.run.everything
        remarks: tuple[str, ...] = ()
        if column.years_on:
            try:
                rolled = rolled_on(base, column.rate)
            except CannotRoll as cannot:
                return Outcome(column, None, cannot.says)
            data = rolled.data.but(answers=data.answers, last_year=last_year_of(base))
            remarks = (*_assumption(pack, column, data), *rolled.remarks)
        return Outcome(column, self._result(column, with_differences(pack, data, column.differences)), "", remarks)

    def _result(self, column: Column, data: ReturnData) -> Result:
        """From the column's result before, where there is one that can take the new values in."""
        before = self.spare.pop(column.key, None)
        if before is not None and before.result is not None:
            if (changed := before.result.changed(data)) is not None:
                return changed
            before.result.take_apart()
        return compute(self.result.run.pack, data)


def rolled_on(base: Result, rate: Decimal) -> Rolled:
    """The papers a year on, with amounts; where that year's law is not known, under the last known law and prices that rise by
    `rate` percent a year. CannotRoll where there is none."""
    index = (base.run.everything.index or Decimal(1)) * (1 + rate / 100)
    return a_year_on(roll_forward(base, index=index), base)


def _assumption(pack: Any, column: Column, data: ReturnData) -> Iterator[str]:
    if data.index is not None:
        yield (
            f"The law of {data.year} is assumed. Amounts of {max(pack.years)} that follow prices rise by {_plain(column.rate)}%, "
            f"by {100 * (data.index - 1):.1f}% in all. What is enacted for {data.year} already is used; everything else stays."
        )


def _plain(rate: Decimal) -> str:
    return f"{rate.normalize():f}"


def a_year_on(rolled: Rolled, result: Result) -> Rolled:
    """What rolled forward, with this year's amounts: a plan begins with things as they are. Where a field opens what this year
    closes, with that. Sales and whatever else has a day in this year happened once, and do not come again."""
    pack, papers = result.run.pack, []
    then = {one.id: one for one in result.run.everything.papers}
    for one in rolled.data.papers:
        declared = pack.people if one.kind == pack.people.kind else pack.paper(one.kind)
        old = then.get(rolled.people.get(one.id, one.id))
        values = _as_it_was(declared, old.values, one.values, result.year) if old is not None and declared else dict(one.values)
        papers.append(replace(one, values=values, carried=tuple(name for name in values if name not in ("role", "owner"))))
    papers += _going_on(rolled, result)
    return Rolled(rolled.data.but(papers=tuple(papers)), rolled.people, rolled.opened, rolled.remarks)


def _going_on(rolled: Rolled, result: Result) -> Iterator[PaperValues]:
    """Papers that a return of the year after is asked anew, but for which nothing speaks otherwise in a plan."""
    there = {(one.kind, one.id) for one in rolled.data.papers}
    roles = {one.values.get("role") for one in rolled.data.papers if one.kind == result.run.pack.people.kind}
    for one in result.run.everything.papers:
        declared = result.run.pack.paper(one.kind)
        owner = one.values.get("owner") or "joint"
        if declared is not None and declared.goes_on and (one.kind, one.id) not in there and owner in {*roles, "joint"}:
            values = _as_it_was(declared, one.values, {}, result.year)
            yield replace(one, values=values, attached=0, carried=tuple(name for name in values if name != "owner"))


def _as_it_was(declared: Any, old: Mapping[str, Any], rolled: Mapping[str, Any], year: int) -> dict[str, Any]:
    """A paper's values a year on. Tables that repeat were rolled without their amounts: they are as they were."""
    fields, found = declared.fields(), dict(rolled)
    for name, value in old.items():
        if name not in fields or fields[name].opens is not None or (name in rolled and name not in declared.repeats):
            continue
        if not isinstance(fields[name], Rows):
            found[name] = value
        elif name != declared.stands_for and (rows := [row for row in value if not _happened(fields[name].row, row, year)]):
            found[name] = rows
    return found


def _happened(declared: Any, row: Mapping[str, Any], year: int) -> bool:
    """Whether a row has a day within that year."""
    days = (name for name, field in declared.fields().items() if isinstance(field, Day))
    return any(str(row.get(name) or "").startswith(f"{year}-") for name in days)


# What differs between columns, for whoever draws them


@dataclass(frozen=True, slots=True)
class Entered:
    """A field that some column has otherwise. `texts` are open-format values by column key, the return's under `RETURN`; a column
    without that paper has none. `own` are the columns that say so themselves."""

    place: Place
    texts: dict[str, str | None]
    own: frozenset[str]


def entered(result: Result, outcomes: Sequence[Outcome], places: Iterable[Place] = ()) -> list[Entered]:
    """A row for every place that is named in a column, or among `places`, in the order of the return's papers."""
    named = {one.place for outcome in outcomes for one in outcome.column.differences if one.place.path} | set(places)
    datas = {RETURN: result.run.everything}
    datas |= {outcome.column.key: outcome.result.run.everything for outcome in outcomes if outcome.result is not None}
    order = {(paper.kind, paper.id): number for number, paper in enumerate(result.run.everything.papers)}
    pack, rows = result.run.pack, []

    def as_on_paper(one: Place) -> tuple[Any, ...]:
        declared = pack.people if one.kind == pack.people.kind else pack.paper(one.kind)
        fields = list(declared.fields()) if declared is not None else []
        name = one.path.partition(".")[0]
        place = fields.index(name) if name in fields else len(fields)
        return order.get((one.kind, one.paper), len(order)), one.kind, one.paper, place, one.path

    for place in sorted(named, key=as_on_paper):
        own = frozenset(
            outcome.column.key for outcome in outcomes if any(one.place == place for one in outcome.column.differences)
        )
        rows.append(Entered(place, {key: value_at(data, place) for key, data in datas.items()}, own))
    return rows


def value_at(data: ReturnData, place: Place) -> str | None:
    """What stands in a field, empty where nothing does; None where the return has no such paper."""
    paper = next((one for one in data.papers if (one.kind, one.id) == (place.kind, place.paper)), None)
    if paper is None:
        return None
    name, _, inner = place.path.partition(".")
    if not inner:
        return _text(paper.values.get(name, ""))
    key, _, field = inner.partition(".")
    rows = paper.values.get(name)
    for row in rows if isinstance(rows, (list, tuple)) else ():
        if str(row.get("id")) == key:
            return _text(row.get(field, ""))
    return ""


def _text(value: Any) -> str:
    return value if isinstance(value, str) else ""


@dataclass(frozen=True, slots=True)
class Line:
    """A line of a form by column key; a column whose return has no such form has none."""

    address: str
    number: str
    label: str
    form: str
    weight: str
    amounts: dict[str, Decimal | None]

    @property
    def moves(self) -> bool:
        """Whether the columns differ in it."""
        return len({amount or ZERO for amount in self.amounts.values()}) > 1


def lines(results: dict[str, Result], only_totals: bool = True) -> list[Line]:
    """Lines with an amount somewhere, of the forms that are filed, in official order; of all forms, or the totals of each
    authority's own form. The forms are those of whichever column has them first."""
    found: dict[str, Line] = {}
    for key, result in results.items():
        heads = {type(authority.settled_on(result.run)) for authority in _authorities(result)}
        for form in result.forms:
            if only_totals and type(form) not in heads:
                continue
            for name in form.numbered(result.year):
                cell = form.cells.get(name)
                weight = getattr(form.specs[name], "weight", "")
                if cell is None or not cell.is_amount or (only_totals and weight != "total"):
                    continue
                mark = f"{form.address_prefix}:{name}"  # a line keeps its name when a year's form numbers it anew
                if mark not in found:
                    found[mark] = Line(cell.address, cell.number, cell.label, form.title, weight, {})
                found[mark].amounts[key] = cell.value
    for line in found.values():
        line.amounts.update({key: None for key in results if key not in line.amounts})
    return [line for line in found.values() if any(line.amounts.values())]


def _authorities(result: Result) -> list[Any]:
    return [line.authority for line in result.bottom_lines]


def total_tax(result: Result) -> Decimal:
    """The tax of a return with every authority that it goes to."""
    return sum((authority.cell(result.run, authority.tax).value for authority in _authorities(result)), ZERO)


def together(result: Result) -> Decimal:
    """What is refunded (positive) or owed, all authorities together."""
    return sum((line.amount for line in result.bottom_lines), ZERO)


__all__ = [
    "RETURN",
    "USUAL_RATE",
    "Column",
    "Entered",
    "Line",
    "Outcome",
    "a_year_on",
    "entered",
    "lines",
    "rolled_on",
    "together",
    "total_tax",
    "worked_out",
]
