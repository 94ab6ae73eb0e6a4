"""Why a return comes out otherwise than last year's: the lines behind income, tax and payments that moved most.

The way goes down the lineage through sums and differences, as far as they are made of numbered lines that last year's return has
by the same names. What a rate, a choice or a worksheet made is one cause: its line.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from taxcore.engine.cells import Cell
from taxcore.engine.figures import ZERO, Figure
from taxcore.engine.forms import Form
from taxcore.engine.result import Result, line_name

_POINTS = re.compile(r"\b(lines?|box|boxes|that|above|below)\b|^\d")  # words that point at a place of the form


@dataclass(frozen=True)
class Cause:
    """One line, and by how much it moved what it is a cause of."""

    form: str
    number: str
    label: str
    address: str
    change: Decimal


@dataclass(frozen=True)
class Head:
    """`kind` is income, tax or paid; `change` against last year; the causes that moved most come first, none of them zero."""

    kind: str
    change: Decimal
    causes: tuple[Cause, ...]


def against_last_year(result: Result, last: Mapping[str, Decimal], most: int = 3) -> list[Head]:
    """What moved the first authority's outcome, given last year's lines by name (`line_name`). Nothing where last year's return
    does not have the lines of income and tax."""
    if not result.bottom_lines:
        return []
    authority, run = result.bottom_lines[0].authority, result.run
    income, tax = (authority.cell(run, name) for name in (authority.income, authority.tax))
    if line_name(income) not in last or line_name(tax) not in last:
        return []
    heads = [_head(kind, cell, last, most) for kind, cell in (("income", income), ("tax", tax))]
    refund, owed = authority.cell(run, authority.refund), authority.cell(run, authority.owed)
    before = last.get(line_name(refund), ZERO) - last.get(line_name(owed), ZERO) + last[line_name(tax)]
    now = refund.value - owed.value + tax.value
    leaves = list(_settling(owed, tax, -1) if owed.value else _settling(refund, tax, 1))
    return [*heads, Head("paid", now - before, _most(_of_payments(leaves, now, before, last), most))]


def _settling(cell: Cell, tax: Cell, sign: int) -> Iterator[tuple[Cell, int]]:
    """What is set against the tax in what is refunded or owed, with its sign: payments, and what is taken off them."""
    for part, minus in _parts(cell):
        turned = -sign if minus else sign
        if part is not tax and _holds(part, tax):
            yield from _settling(part, tax, turned)
        elif part is not tax:
            yield part, turned


def _holds(cell: Cell, tax: Cell) -> bool:
    return any(part is tax or _holds(part, tax) for part, _ in _parts(cell))


def _of_payments(leaves: list[tuple[Cell, int]], now: Decimal, before: Decimal, last: Mapping[str, Decimal]) -> list[Cause]:
    """Nothing where the lines do not make up the whole of it in both years: a penalty that is paid with the balance."""
    sums = [sum((sign * amount for amount, sign in of), ZERO) for of in (
        [(cell.value, sign) for cell, sign in leaves], [(last.get(line_name(cell), ZERO), sign) for cell, sign in leaves],
    )]  # fmt: skip
    if sums != [now, before]:
        return []
    seen: set[int] = set()
    return [one for cell, sign in leaves for one in _cause(cell, last, sign, seen)]


def _head(kind: str, cell: Cell, last: Mapping[str, Decimal], most: int) -> Head:
    causes = list(_below(cell, last, 1, set())) if _is_told_by_its_parts(cell, last) else []
    return Head(kind, _moved(cell, last), _most(causes, most))


def _most(causes: list[Cause], most: int) -> tuple[Cause, ...]:
    causes = [one for one in causes if one.change]
    return tuple(sorted(causes, key=lambda one: (-abs(one.change), one.address))[:most])


def _below(cell: Cell, last: Mapping[str, Decimal], sign: int, seen: set[int]) -> Iterator[Cause]:
    """The causes under a line. `seen` keeps lines from being counted twice."""
    for part, minus in _parts(cell):
        yield from _cause(part, last, -sign if minus else sign, seen)


def _cause(cell: Cell, last: Mapping[str, Decimal], sign: int, seen: set[int]) -> Iterator[Cause]:
    if id(cell) in seen:
        return
    seen.add(id(cell))
    if _is_told_by_its_parts(cell, last) and not _has_one_box(cell, last):
        yield from _below(cell, last, sign, seen)
    else:
        yield Cause(cell.node.title, cell.number, cell.label, cell.address, sign * _moved(cell, last))


def _moved(cell: Cell, last: Mapping[str, Decimal]) -> Decimal:
    return cell.value - last.get(line_name(cell), ZERO)


def _has_one_box(cell: Cell, last: Mapping[str, Decimal]) -> bool:
    """Whether all of it is one box of the same form whose words need the form beside them, and those of the total do not."""
    moved = [part for part, _ in _parts(cell) if _moved(part, last)]
    if len(moved) != 1 or moved[0].node is not cell.node or _is_told_by_its_parts(moved[0], last):
        return False
    return _POINTS.search(moved[0].label) is not None and _POINTS.search(cell.label) is None


def _is_told_by_its_parts(cell: Cell, last: Mapping[str, Decimal]) -> bool:
    """Whether last year's line was made of last year's parts in the same way: not where a schedule was not called for then, nor
    where a difference stopped at nothing. So the causes always add up to what they explain."""
    parts = _parts(cell)
    then = sum((-amount if minus else amount for part, minus in parts if (amount := last.get(line_name(part), ZERO))), ZERO)
    now = sum((-part.value if minus else part.value for part, minus in parts), ZERO)
    return bool(parts) and then == last.get(line_name(cell), ZERO) and now == cell.value


def _parts(cell: Cell) -> list[tuple[Cell, bool]]:
    """The numbered lines that a sum or a difference is made of, and which are taken off; empty where it is anything else. A form
    of which there are several, such as one of each business, is told by its result, and a worksheet by the line it is for."""
    if cell.how != "computed" or cell.node.key:
        return []
    if cell.because is None:
        found = [(one, False) for one in cell.sources() if _is_line(one)]  # another line, taken over as it is
        return found if len(cell.reads) == 1 and found and found[0][0].value == cell.value else []
    if cell.because.kind not in ("total", "excess"):
        return []
    cells = [(_cell_of(operand.value), operand.minus) for operand in cell.because.operands]
    found = [(one, minus) for one, minus in cells if one is not None]
    return found if len(found) == len(cells) else []


def _cell_of(value: Any) -> Cell | None:
    """The numbered line that an operand is, or None."""
    cell = value.cell if isinstance(value, Figure) else None
    return cell if cell is not None and _is_line(cell) else None


def _is_line(cell: Cell) -> bool:
    return isinstance(cell.node, Form) and bool(cell.number) and cell.is_amount and not cell.node.worksheet
