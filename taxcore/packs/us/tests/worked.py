"""Worked cases: return files of the open format, and beside them the figures somebody worked out by hand.

`cases/<topic>/<name>.json` is a return; `cases/<topic>/expected.toml` says of each why it is there, where its figures come from,
which stops it raises, and what each line must be: an amount, or the arithmetic that gives it. `tax(status, income)` there is the
yardstick's tax (tests/straight_line.py), `us(address)` another figure of the same return, used where the law goes in a circle.
"""

import ast
import json
import tomllib
from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal
from pathlib import Path

from taxcore.packs.us.tests import straight_line

FOLDER = Path(__file__).resolve().parents[1] / "cases"


@dataclass(frozen=True)
class Case:
    topic: str
    name: str
    why: str
    source: str
    lines: dict
    stops: tuple

    @property
    def document(self):
        return json.loads((FOLDER / self.topic / f"{self.name}.json").read_text())


def all_cases():
    """Every case, by topic and name."""
    for file in sorted(FOLDER.glob("*/expected.toml")):
        for name, entry in tomllib.loads(file.read_text()).items():
            yield Case(file.parent.name, name, entry["why"], entry["source"], entry["lines"], tuple(entry.get("stops", ())))


def worked_out(text, result):
    """The amount of an expectation: its arithmetic done in decimals."""

    def tax(status, income):
        return straight_line.tax_on(income, straight_line.schedule(result.year, status))

    names = {"tax": tax, "us": lambda address: result[address].value, "min": min, "max": max, "Decimal": Decimal}
    tree = ast.fix_missing_locations(_Exact().visit(ast.parse(text, mode="eval")))
    return Decimal(eval(compile(tree, text, "eval"), {"__builtins__": {}}, names))  # noqa: S307 - our own files, in tests


def rounded_as(cell, amount):
    """Whole dollars where the line is in whole dollars."""
    whole = cell.node.rounding_of(cell.spec) is not None
    return amount.quantize(Decimal(1), ROUND_HALF_UP) if whole else amount


class _Exact(ast.NodeTransformer):
    """Numbers become decimals as they are written: nothing here is a binary float."""

    def visit_Constant(self, node):
        if isinstance(node.value, (int, float)):
            written = ast.Constant(str(node.value))
            return ast.Call(ast.Name("Decimal", ast.Load()), [written], [])
        return node
