"""A computed return as a workbook whose cells compute: every line of the main path is a formula over other cells.

Made from the record that each figure keeps of how it came about. What that record cannot say as a formula (an official table, a
count of days, a condition of the law) stands as an amount with a remark.
"""

import io
import re
from decimal import Decimal

from openpyxl import Workbook
from openpyxl.comments import Comment
from openpyxl.styles import Border, Font, Side
from openpyxl.utils import get_column_letter

from taxcore.engine.figures import Explained, Figure, LawFigure, cents, whole
from taxcore.engine.papers import Paper, Row

_LONGEST = 7_500  # characters of a formula; a workbook takes 8,192
_MOST_PARTS = 120
_BOLD, _RULE = Font(bold=True), Border(bottom=Side(style="double"))


class _Cannot(Exception):
    """A step that is no formula; its reason becomes the remark."""


def workbook_of(result, title):
    """The bytes of an XLSX file."""
    made = _Maker(result, title).make()
    kept = io.BytesIO()
    made.save(kept)
    return kept.getvalue()


class _Maker:
    def __init__(self, result, title):
        self.result, self.title = result, title
        self.book = Workbook()
        self.places = {}  # id of a figure's cell → "'Sheet'!C5"
        self.law = {}  # path of a law's amount → place
        self.next_row = {}
        self.names = set()
        self.sheets = {}

    def make(self):
        front = self.book.active
        front.title = "Bottom line"
        self.names.add("bottom line")
        cells = self._reached()
        self._sheet("Papers", ("Paper", "Box", "Field", "Amount"))
        for cell in cells:
            self._place(cell)
        self._sheet("Law", ("Amount of the law", "Value", "Source"))
        for cell in cells:
            self._fill(cell)
        self._front(front)
        for sheet in self.book.worksheets:
            self._set_widths(sheet)
        return self.book

    def _reached(self):
        """Everything with an amount that the printed lines rest on, lines in the order of their forms first."""
        found, queue = {}, [cell for cell in self.result.lines() if cell.is_amount]
        for cell in queue:
            if id(cell) not in found:
                found[id(cell)] = cell
                queue += [source for source in _operands_of(cell) if id(source) not in found]
        return list(found.values())

    def _sheet(self, name, heads):
        sheet = self.book.create_sheet(self._name(name))
        sheet.append(list(heads))
        for cell in sheet[1]:
            cell.font = _BOLD
        sheet.freeze_panes = "A2"
        self.sheets[name], self.next_row[name] = sheet, 2
        return sheet

    def _name(self, wanted):
        """A sheet's name as workbooks allow them: 31 characters, each once."""
        plain = re.sub(r"[\[\]:*?/\\']", " ", wanted)[:28].strip() or "Sheet"
        made, number = plain, 2
        while made.lower() in self.names:
            made, number = f"{plain[:26]} {number}", number + 1
        self.names.add(made.lower())
        return made

    def _place(self, cell):
        node = cell.node
        if isinstance(node, Paper | Row):
            name, words = "Papers", (node.title, cell.number, cell.label)
        else:
            name, words = node.address_prefix, (cell.number, cell.label)
            if name not in self.sheets:
                self._sheet_of(node)
        row = self.next_row[name]
        self.next_row[name] = row + 1
        sheet = self.sheets[name]
        for column, text in enumerate(words, start=1):
            sheet.cell(row, column, _harmless(text))
        self.places[id(cell)] = (sheet, row, len(words) + 1)
        if getattr(cell.spec, "weight", "") == "total":
            sheet.cell(row, 2).font = _BOLD
            sheet.cell(row, 3).border = _RULE

    def _sheet_of(self, node):
        words = f"{node.title} {node.key}" if node.key and node.key not in node.title else node.title
        sheet = self._sheet(node.address_prefix, ("Line", f"{node.title}, {node.name}", "Amount", "Remark", node.address_prefix))
        self.names.discard(sheet.title.lower())
        sheet.title = self._name(words)

    def _fill(self, cell):
        sheet, row, column = self.places[id(cell)]
        target = sheet.cell(row, column)
        remark = ""
        if cell.how in ("overridden", "keyed", "answered", "empty"):
            target.value = cell.value
            remark = f"Overridden: {cell.reason}" if cell.how == "overridden" else ""
        else:
            try:
                target.value = f"={self._rounded(cell)}"
            except _Cannot as reason:
                target.value, remark = cell.value, str(reason)
        target.number_format = "#,##0.00;(#,##0.00);0" if cell.value != whole(cell.value) else "#,##0;(#,##0);0"
        if remark and not isinstance(cell.node, Paper | Row):
            sheet.cell(row, column + 1, _harmless(remark))
        cites = cell.spec.cites
        if cites:
            target.comment = Comment(cites, "Impuesto")

    def _rounded(self, cell):
        if cell.spec.loop is not None:
            raise _Cannot("Goes round in a circle until it comes to rest; the amount it came to rest at")
        formula = self._of_value(cell.computed, top=True) if cell.because is None else self._of(cell.because)
        rounding = cell.node.rounding_of(cell.spec)
        if rounding in (whole, cents):
            formula = f"ROUND({formula},{0 if rounding is whole else 2})"
        if len(formula) > _LONGEST:
            raise _Cannot("Too many parts for one formula")
        return formula

    def _of(self, because):
        """The formula of one step. Excel's own functions, so that any spreadsheet can follow it."""
        kind, operands = because.kind, because.operands
        if kind in ("nothing", "absent"):
            raise _Cannot(f"Zero, because {because.note}")
        if kind == "total" and len(operands) > _MOST_PARTS:
            return self._long_sum(operands)
        parts = [self._of_value(operand.value) for operand in operands]
        if kind == "total":
            return (
                "+".join(f"-{part}" if one.minus else part for one, part in zip(operands, parts, strict=True)).replace("+-", "-")
                or "0"
            )
        make = _FORMULAS.get(kind)
        if hasattr(because.redo, "formula"):
            return because.redo.formula(*parts, self._of_value)
        if kind == "ratio" and because.redo.places is not None:
            return f"ROUND({make(*parts)},{because.redo.places})"
        if make is None:
            raise _Cannot(f"{kind}: {because.note}" if because.note else kind)
        return make(*parts)

    def _long_sum(self, operands):
        """Sums of many parts go over a sheet of their own, one part a row."""
        name = "Parts"
        if name not in self.sheets:
            self._sheet(name, ("Part",))
        sheet, first = self.sheets[name], self.next_row[name]
        for row, operand in enumerate(operands, start=first):
            part = self._of_value(operand.value)
            sheet.cell(row, 1, f"=-{part}" if operand.minus else f"={part}")
        self.next_row[name] = first + len(operands)
        return f"SUM('{sheet.title}'!A{first}:A{first + len(operands) - 1})"

    def _of_value(self, value, top=False):
        if isinstance(value, Figure):
            place = self.places.get(id(value.cell))
            if place is None:
                return f"{value:f}"
            sheet, row, column = place
            return f"'{sheet.title}'!{get_column_letter(column)}{row}"
        if isinstance(value, LawFigure):
            return self._of_law(value)
        if isinstance(value, Explained):
            return f"({self._of(value.because)})"
        if top:
            raise _Cannot("Worked out step by step; the amount it came to")
        return f"{value:f}" if value >= 0 else f"({value:f})"

    def _of_law(self, value):
        key = (value.path, str(value))
        if key not in self.law:
            sheet, row = self.sheets["Law"], self.next_row["Law"]
            sheet.cell(row, 1, value.path.replace("_", " "))
            sheet.cell(row, 2, Decimal(value))
            sheet.cell(row, 3, value.source)
            self.law[key], self.next_row["Law"] = f"'{sheet.title}'!B{row}", row + 1
        return self.law[key]

    def _front(self, sheet):
        sheet.append([_harmless(self.title)])
        sheet["A1"].font = _BOLD
        sheet.append(["Change an amount under Papers and every line that follows from it changes too."])
        sheet.append([])
        for line in self.result.bottom_lines:
            refund, owed = (
                self._of_value(line.authority.cell(self.result.run, name).value)
                for name in (line.authority.refund, line.authority.owed)
            )
            sheet.append([line.authority.name, f"={refund}-{owed}"])
            sheet.cell(sheet.max_row, 2).number_format = "#,##0.00;(#,##0.00);0"

    def _set_widths(self, sheet):
        for column, width in zip(
            "ABCD", (10, 52, 16, 60) if sheet.title not in ("Papers", "Law") else (34, 12, 40, 16), strict=True
        ):
            sheet.column_dimensions[column].width = width


_FORMULAS = {
    "as filed": lambda amount: amount,
    "least": lambda *parts: f"MIN({','.join(parts)})",
    "greatest": lambda *parts: f"MAX({','.join(parts)})",
    "excess": lambda first, *over: f"MAX(0,{first}{''.join(f'-{part}' for part in over)})",
    "share": lambda one, other: f"{one}*{other}",
    "times": lambda one, other: f"{one}*{other}",
    "steps": lambda value, step: f"MAX(0,ROUNDUP({value}/{step},0))",
    "full steps": lambda value, step: f"MAX(0,ROUNDDOWN({value}/{step},0))",
    "ratio": lambda part, over: f"IF({over}=0,0,{part}/{over})",
    "pro rata": lambda value, part, over: f"IF({over}=0,0,{value}*{part}/{over})",
}


def _operands_of(cell):
    """The figures that a cell's formula names, those of nested steps too."""
    if cell.how in ("overridden", "keyed", "answered", "empty"):
        return []
    if cell.because is None:
        return [cell.computed.cell] if isinstance(cell.computed, Figure) else []
    return list(_of_because(cell.because))


def _of_because(because):
    for operand in because.operands:
        if isinstance(operand.value, Figure):
            yield operand.value.cell
        elif isinstance(operand.value, Explained):
            yield from _of_because(operand.value.because)


def _harmless(text):
    """Text that a spreadsheet does not take for a formula."""
    text = str(text or "")
    return f"'{text}" if text[:1] in ("=", "+", "-", "@") else text
