"""What every list can do: sort by a column, leave as CSV or XLSX."""

import csv
import io
from datetime import date, datetime
from decimal import Decimal

from django.http import HttpResponse, StreamingHttpResponse
from django.utils import timezone


def sorted_by(rows, request, sorts, default):
    """Order a queryset by `?sort=`, one of `sorts`; a minus before the name turns it round."""
    wanted = request.GET.get("sort", default)
    turned, name = wanted.startswith("-"), wanted.lstrip("-")
    field = sorts.get(name, sorts[default])
    if turned:
        field = field[1:] if field.startswith("-") else f"-{field}"
    return rows.order_by(field, "-id")


def export(kind, name, heads, rows):
    """A list as a file; `kind` is csv or xlsx, `rows` any iterable. Amounts go as numbers; a CSV leaves row by row."""
    if kind == "xlsx":
        from openpyxl import Workbook  # takes as long to import as a tenth of all the rest

        book = Workbook(write_only=True)
        sheet = book.create_sheet(name[:31])
        for row in (heads, *rows):
            sheet.append([_cell(value) for value in row])
        made = io.BytesIO()
        book.save(made)
        response = HttpResponse(made.getvalue(), content_type="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
    else:
        kind = "csv"
        response = StreamingHttpResponse(_lines(heads, rows), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{name}.{kind}"'
    return response


def _lines(heads, rows):
    writer = csv.writer(_Echo())
    yield writer.writerow([_cell(value) for value in heads])
    block = []
    for row in rows:
        block.append(writer.writerow([_cell(value) for value in row]))
        if len(block) == 500:  # a chunk a row would cost more than the row
            yield "".join(block)
            block = []
    yield "".join(block)


class _Echo:
    """What the csv module writes to is what it returns."""

    def write(self, text):
        return text


def _cell(value):
    """Numbers as numbers, days as text, and text that a spreadsheet would run made harmless by an apostrophe."""
    if value is None:
        return ""
    if isinstance(value, datetime):
        return timezone.localtime(value).strftime("%Y-%m-%d %H:%M")
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, (int, float, Decimal)) and not isinstance(value, bool):
        return value
    text = str(value)
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text
