"""What every list can do: sort by a column, leave as CSV or XLSX."""

import csv
import io
from datetime import datetime

from django.http import HttpResponse
from django.utils import timezone
from openpyxl import Workbook


def sorted_by(rows, request, sorts, default):
    """Order a queryset by `?sort=`, one of `sorts`; a minus before the name turns it round."""
    wanted = request.GET.get("sort", default)
    turned, name = wanted.startswith("-"), wanted.lstrip("-")
    field = sorts.get(name, sorts[default])
    if turned:
        field = field[1:] if field.startswith("-") else f"-{field}"
    return rows.order_by(field, "-id")


def export(kind, name, heads, rows):
    """A list as a file. `kind` is csv or xlsx."""
    tidy = [[_plain(value) for value in row] for row in rows]
    if kind == "xlsx":
        book = Workbook(write_only=True)
        sheet = book.create_sheet(name)
        for row in [heads, *tidy]:
            sheet.append([_harmless(value) for value in row])
        made = io.BytesIO()
        book.save(made)
        response = HttpResponse(made.getvalue(), content_type="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
    else:
        text = io.StringIO()
        csv.writer(text).writerows([[_harmless(value) for value in row] for row in [heads, *tidy]])
        response = HttpResponse(text.getvalue(), content_type="text/csv; charset=utf-8")
        kind = "csv"
    response["Content-Disposition"] = f'attachment; filename="{name}.{kind}"'
    return response


def _plain(value):
    if isinstance(value, datetime):
        return timezone.localtime(value).strftime("%Y-%m-%d %H:%M")
    return "" if value is None else value


def _harmless(value):
    """Spreadsheets run text that begins like a formula; a leading apostrophe makes it text."""
    return f"'{value}" if isinstance(value, str) and value[:1] in ("=", "+", "-", "@", "\t", "\r") else value
