"""Explanations in words, made from the record that the helpers left. Screens draw the same parts with mark-up."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from taxcore.engine.cells import Cell
from taxcore.engine.characters import within
from taxcore.engine.figures import Because, Explained, Figure, LawFigure, Operand


@dataclass(frozen=True, slots=True)
class Part:
    """One operand as it is shown: where it is, what it is called, whether it decided the outcome."""

    name: str
    amount: Decimal
    address: str = ""
    source: str = ""
    minus: bool = False
    won: bool = False
    rate: bool = False


@dataclass(frozen=True, slots=True)
class Sentence:
    """One step of an explanation: what was done, with which parts, and what came of it."""

    doing: str
    parts: tuple[Part, ...]
    outcome: Decimal
    note: str = ""
    bands: tuple[tuple[Decimal, Decimal, Decimal], ...] = ()


DOING = {
    "total": "Sum of",
    "least": "The smallest of",
    "greatest": "The largest of",
    "excess": "What is above",
    "share": "Rate times amount",
    "times": "Number times amount",
    "steps": "Steps, part steps counting whole",
    "full steps": "Whole steps alone",
    "ratio": "The first over the second",
    "pro rata": "As much of the first as the second is of the third",
    "bands": "By bands",
    "nothing": "Nothing, because",
    "absent": "Nothing, because",
    "as filed": "As filed",
}


def sentences(cell: Cell) -> list[Sentence]:
    """The explanation of a cell, the last step first, nested steps after it."""
    if cell.how == "overridden":
        return [Sentence("Overridden", (), cell.value, cell.reason)]
    if cell.how == "answered":
        return [Sentence("The practice's answer", (), cell.value)] if cell.is_amount else []
    if cell.how == "keyed":
        return [Sentence("Entered", (), cell.value)] if cell.is_amount else []
    if cell.because is not None:
        return list(_steps(cell.because, cell.computed if cell.computed is not None else cell.value))
    given = cell.computed
    if isinstance(given, (Figure, LawFigure)):
        return [Sentence("The same as", (_part(Operand(given), False),), cell.value)]
    return []


def _steps(because: Because, outcome: Decimal) -> Iterator[Sentence]:
    parts = tuple(_part(operand, position == because.winner) for position, operand in enumerate(because.operands))
    if carried := _carried(because, outcome):
        yield carried
        return
    yield Sentence(DOING.get(because.kind, because.kind), parts, outcome, because.note, because.table)
    for operand in because.operands:
        if isinstance(operand.value, Explained):
            yield from _steps(operand.value.because, operand.value)


def _carried(because: Because, outcome: Decimal) -> Sentence | None:
    """A line that only takes over another says which; there is nothing to add up."""
    if because.kind != "total" or len(because.operands) != 1 or because.operands[0].minus:
        return None
    value = because.operands[0].value
    if not isinstance(value, Figure) or value != outcome:
        return None
    cell = _numbered(value.cell)
    form = f"Form {cell.node.title}" if cell.node.title[:1].isdigit() else cell.node.title
    where = f"{form}, line {cell.number}" if cell.number and hasattr(cell.node, "worksheet") else _name(cell)
    return Sentence("From", (Part(where, value, cell.address),), outcome)


def _numbered(cell: Cell) -> Cell:
    """The line behind a step without a number, where the step only takes it over."""
    for _ in range(_DEEPEST):
        below = cell.sources()
        alike = [one for one in below if one.is_amount and one.value == cell.value and one.value]
        if cell.number or not hasattr(cell.node, "worksheet") or len(alike) != 1 or cell.because is None:
            break
        cell = alike[0]
    return cell


def parts_of(because: Because) -> list[Part]:
    """The operands of one step, named."""
    return [_part(operand, False) for operand in because.operands]


def _part(operand: Operand, won: bool) -> Part:
    value = operand.value
    rate = operand.name == "rate"
    if isinstance(value, Figure):
        cell = value.cell
        name = operand.name or _name(cell)
        return Part(name, value, cell.address, "", operand.minus, won, rate)
    if isinstance(value, LawFigure):
        name = operand.name or value.path.replace("_", " ").replace(".", ", ")
        return Part(name, value, "", value.source, operand.minus, won, rate)
    if isinstance(value, Explained):
        return Part(operand.name or DOING.get(value.because.kind, "a step").lower(), value, "", "", operand.minus, won)
    return Part(operand.name or "fixed", value, "", "", operand.minus, won, rate)


def _name(cell: Cell) -> str:
    number = f"{cell.number} " if cell.number else ""
    return f"{cell.node.title} {number}{cell.label}"


def plain(cell: Cell) -> str:
    """The explanation as text, one step a line."""
    lines = []
    for sentence in sentences(cell):
        parts = [f"{'less ' if part.minus else ''}{part.name} {part.amount:,f}" for part in sentence.parts]
        text = f"{sentence.doing} {' · '.join(parts)}".strip()
        if sentence.doing == "From":
            lines.append(f"From {sentence.parts[0].name} = {sentence.outcome:,f}")
            continue
        lines.append(f"{text}{' ' if parts and sentence.note else ''}{sentence.note} = {sentence.outcome:,f}")
    return "\n".join(lines)


def why_zero(cell: Cell) -> str:
    """The condition that made a figure zero: its own, or that of what decided it. Empty for a figure that has an amount."""
    return _why_cell(cell, 0)[1] if cell.is_amount and cell.value == 0 else ""


# How telling a reason is: a condition of the law, an amount that is not above another, nothing keyed at all
_CONDITION, _AMOUNT, _ABSENT, _UNKNOWN = 3, 2, 1, 0
_DEEPEST = 14


def _why_cell(cell: Cell, depth: int) -> tuple[int, str]:
    if depth > _DEEPEST:
        return _UNKNOWN, ""
    cell = cell.node.cells.get(cell.spec.name, cell)  # a member of a loop that was repeated since stands there anew
    if cell.because is not None:
        return _why(cell.because, depth)
    given = cell.computed
    if isinstance(given, Figure) and given.cell is not cell:
        return _why_cell(given.cell, depth + 1)
    return (_ABSENT, f"{cell.node.title} has nothing entered at {within(cell.label)}") if cell.how == "empty" else (_UNKNOWN, "")


def _why(because: Because, depth: int) -> tuple[int, str]:
    operands = because.operands
    if because.kind in ("nothing", "absent"):
        return (_CONDITION if because.kind == "nothing" else _ABSENT), because.note
    if because.kind == "excess" and operands[0].value > 0:
        first, over = (part.name for part in parts_of(because)[:2])
        return _AMOUNT, f"{first} {operands[0].value:,.0f} is not above {over} {operands[1].value:,.0f}"
    zeros = [operand.value for operand in operands if operand.value == 0]
    if because.winner is not None:
        zeros = [operands[because.winner].value, *zeros]
    best = (_UNKNOWN, "nothing that it reads has an amount" if depth == 0 else "")
    for value in zeros:
        found = (_UNKNOWN, "")
        if isinstance(value, Explained):
            found = _why(value.because, depth + 1)
        elif isinstance(value, Figure) and value == 0:
            found = _why_cell(value.cell, depth + 1)
        if found[0] > best[0]:
            best = found
    return best
