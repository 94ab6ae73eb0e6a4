"""Which fields move a figure most: each entered amount that feeds it is raised a little, and the return computed again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from taxcore.engine import Amount, Cell, Result, ReturnData, Row, Rows
from taxcore.engine.papers import Paper
from taxcore.engine.values import PaperValues
from taxcore.whatif.trials import Trials

STEP = Decimal(100)
_MOST_TRIED = 40


@dataclass(frozen=True, slots=True)
class Mover:
    """An entered field and what one unit more in it does to the figure. `address` is the field's."""

    address: str
    title: str
    label: str
    amount: Decimal
    per_unit: Decimal


def movers(result: Result, address: str, trials: Trials, most: int = 8) -> list[Mover]:
    """The fields that move the figure at `address` most, the strongest first; those that do not move it are left out.

    The largest forty entered amounts among its papers are tried, each `STEP` higher. ValueError where there is no such amount.
    """
    cell = result.get(address)
    if cell is None or not cell.is_amount:
        raise ValueError(f"{address} is no amount of this return")
    tried = sorted(_keyed_below(cell), key=lambda leaf: -abs(leaf.value))[:_MOST_TRIED]
    found, data = [], result.run.data
    for leaf in tried:
        after = trials.of(_raised(data, leaf)).get(address)
        moved = (after.value if after is not None else Decimal(0)) - cell.value
        if moved:
            found.append(Mover(leaf.address, leaf.node.title, leaf.label, leaf.value, moved / STEP))
    return sorted(found, key=lambda mover: -abs(mover.per_unit))[:most]


def _keyed_below(cell: Cell) -> Iterator[Cell]:
    """Entered amounts of papers and their rows that the figure reads, straight or through others, each once."""
    seen, queue = {id(cell)}, [cell]
    for here in queue:
        for source in here.sources():
            if id(source) not in seen:
                seen.add(id(source))
                queue.append(source)
        if isinstance(here.node, Paper | Row) and isinstance(here.spec, Amount) and here.how == "keyed":
            yield here


def _raised(data: ReturnData, leaf: Cell) -> ReturnData:
    """The same return with one field `STEP` higher."""
    node: Any = leaf.node
    paper = node.paper if isinstance(node, Row) else node
    papers = tuple(
        replace(one, values=_with(one, node, leaf)) if (one.id, one.kind) == (paper.key, paper.kind) else one
        for one in data.papers
    )
    return data.but(papers=papers)


def _with(paper: PaperValues, node: Any, leaf: Cell) -> dict[str, Any]:
    text = str(leaf.value + STEP)
    if not isinstance(node, Row):
        return {**paper.values, leaf.spec.name: text}
    name = _rows_of(node)
    rows = [{**row, leaf.spec.name: text} if str(row.get("id")) == node.key else row for row in paper.values[name]]
    return {**paper.values, name: rows}


def _rows_of(row: Row) -> str:
    fields = row.paper.fields()
    return next(
        name for name, spec in fields.items() if isinstance(spec, Rows) and row.address_prefix.endswith(f".{name}[{row.key}]")
    )
