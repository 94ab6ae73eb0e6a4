"""The workbook computes what the engine computes: its formulas are worked out here by an evaluator of their own."""

import io
import re
from decimal import ROUND_DOWN, ROUND_HALF_UP, ROUND_UP, Decimal, DivisionByZero, InvalidOperation, localcontext
from unittest import TestCase

from openpyxl import load_workbook
from openpyxl.formula import Tokenizer
from openpyxl.formula.tokenizer import Token

from practice.demo.plain import demo_returns
from practice.returns.workbook import workbook_of
from taxcore.engine import compute
from taxcore.packs.us import PACK
from taxcore.packs.us.tests.returns import data, filing, interest, person, w2

_REFERENCE = re.compile(r"'([^']+)'!([A-Z]+\d+)(?::([A-Z]+\d+))?")


def _to(places, rounding):
    return lambda value, count: Decimal(value).quantize(Decimal(1).scaleb(-int(count)), rounding)


_FUNCTIONS = {
    "IF": lambda condition, yes, no: yes if condition else no, "MAX": lambda *parts: max(parts), "MIN": lambda *parts: min(parts), "SUM": lambda parts: sum(parts, Decimal(0)),
    "INT": lambda value: Decimal(value // 1), "ROUND": _to(0, ROUND_HALF_UP), "ROUNDUP": _to(0, ROUND_UP), "ROUNDDOWN": _to(0, ROUND_DOWN),
}  # fmt: skip


class Sheets:
    """A workbook under evaluation: its formulas become Python over Decimals."""

    def __init__(self, content):
        self.book = load_workbook(io.BytesIO(content))
        self.known = {}

    def value(self, sheet, place):
        key = (sheet, place)
        if key not in self.known:
            raw = self.book[sheet][place].value
            self.known[key] = self.work_out(raw[1:]) if isinstance(raw, str) and raw.startswith("=") else Decimal(str(raw or 0))
        return self.known[key]

    def work_out(self, formula):
        """The formula in Python, token by token. Both sides of an IF are worked out, so dividing by nothing must not raise."""
        text = "".join(self._token(token) for token in Tokenizer(f"={formula}").items)
        names = _FUNCTIONS | {"D": Decimal, "V": self.value, "R": self.range}
        with localcontext() as context:
            context.traps[DivisionByZero] = context.traps[InvalidOperation] = False
            return eval(text, {"__builtins__": {}}, names)  # noqa: S307 - our own formulas, in a test

    def _token(self, token):
        if token.subtype == Token.NUMBER:
            return f'D("{token.value}")'
        if token.subtype == Token.RANGE:
            sheet, first, last = _REFERENCE.fullmatch(token.value).groups()
            return f'R("{sheet}","{first}","{last}")' if last else f'V("{sheet}","{first}")'
        return "==" if token.value == "=" else token.value

    def range(self, sheet, first, last):
        return [self.value(sheet, cell.coordinate) for (cell,) in self.book[sheet][first:last]]

    def line(self, form, number):
        """The amount of a form's line, by the words of the sheet."""
        for row in self.book[form].iter_rows(min_row=2):
            if str(row[0].value or "") == number:
                return self.value(form, row[2].coordinate)
        raise KeyError((form, number))


class WorkbookTests(TestCase):
    def test_every_line_of_every_demo_return_comes_out_the_same(self):
        for entry, given in demo_returns():
            result = compute(PACK, given)
            sheets = Sheets(workbook_of(result, entry["name"]))
            titles = self._titles(sheets)
            for cell in result.lines():
                if cell.is_amount:
                    with self.subTest(f"{entry['name']}: {cell.address}"):
                        self.assertEqual(sheets.line(titles[cell.node.address_prefix], cell.number), cell.value)

    def _titles(self, sheets):
        """{form's address: sheet}, in the order in which sheets were made."""
        return {comment: name for name, comment in ((sheet.title, sheet["E1"].value) for sheet in sheets.book) if comment}

    def test_an_amount_changed_under_papers_moves_the_bottom_line_as_the_engine_does(self):
        given = data(person(), filing(), w2(250000, 48120, state_withheld="9000"), interest(800))
        result = compute(PACK, given)
        made = Sheets(workbook_of(result, "x"))
        papers = made.book["Papers"]
        row = next(row for row in papers.iter_rows(min_row=2) if row[2].value == "Interest" and row[3].value == 800)
        row[3].value = 4_000
        after = compute(PACK, data(person(), filing(), w2(250000, 48120, state_withheld="9000"), interest(4000)))
        titles = self._titles(made)
        for address in ("us.1040.2b", "us.1040.15", "us.1040.16", "us.1040.24", "us-il.il-1040.12"):
            cell = after[address]
            self.assertEqual(made.line(titles[cell.node.address_prefix], cell.number), cell.value, address)
        self.assertNotEqual(result["us.1040.16"].value, after["us.1040.16"].value)

    def test_below_the_tables_end_and_across_it_the_tax_follows_too(self):
        given = data(person(), filing(), w2(61480, 5812), interest(90))
        made = Sheets(workbook_of(compute(PACK, given), "x"))
        row = next(row for row in made.book["Papers"].iter_rows(min_row=2) if row[2].value == "Interest")
        for amount in (0, 777, 12_345, 80_000):
            row[3].value, made.known = amount, {}
            after = compute(PACK, data(person(), filing(), w2(61480, 5812), interest(amount)))
            self.assertEqual(made.line("1040", "16"), after["us.1040.16"].value)

    def test_most_lines_are_formulas_and_the_rest_say_why_not(self):
        result = compute(PACK, data(person(), filing(), w2(61480, 5812), interest(90)))
        book = load_workbook(io.BytesIO(workbook_of(result, "x")))
        rows = [row for sheet in book if sheet["E1"].value for row in sheet.iter_rows(min_row=2)]
        formulas = [row for row in rows if str(row[2].value).startswith("=")]
        self.assertGreater(len(formulas), len(rows) / 3)
        for row in rows:
            if not str(row[2].value).startswith("=") and row[2].value:
                self.assertTrue(row[3].value, row[1].value)

    def test_text_that_looks_like_a_formula_is_text(self):
        from taxcore.engine import PaperValues

        bank = PaperValues("i1", "1099-int", {"owner": "taxpayer", "payer": "=HYPERLINK(1)", "interest": "5"})
        book = load_workbook(io.BytesIO(workbook_of(compute(PACK, data(person(), filing(), bank)), "=1+1")))
        self.assertEqual(book["Bottom line"]["A1"].value, "'=1+1")
        self.assertIn("'=HYPERLINK(1)", [cell.value for cell in book["Papers"]["A"]])
