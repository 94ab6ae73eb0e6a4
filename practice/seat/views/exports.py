"""A return as files: the open format, a workbook that computes, its lines as a list."""

import json

from django.http import HttpResponse

from practice.firm.events import record
from practice.firm.permissions import require
from practice.pages.lists import export
from practice.returns.computing import data_of
from practice.returns.page import open_page
from taxcore.engine import document


def download(request, return_id):
    """The return as a document of the open format. Looked-at numbers are in it, so it is an event."""
    return_, _ = _opened(request, return_id, "document")
    made = json.dumps(document.write(data_of(return_, look_back=False)), indent=1, ensure_ascii=False)
    return _file(made, "application/json", f"return-{return_.pk}-{return_.year}.json")


def workbook(request, return_id):
    """Every line as a formula over the papers."""
    from practice.returns.workbook import workbook_of  # its library is loaded when somebody wants one

    return_, result = _opened(request, return_id, "workbook")
    made = workbook_of(result, f"{return_.household.name} {return_.year}")
    kind = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    return _file(made, kind, f"return-{return_.pk}-{return_.year}.xlsx")


def lines(request, return_id):
    """All numbered lines as CSV or XLSX."""
    return_, result = _opened(request, return_id, "lines")
    heads = ["Form", "Line", "Label", "Amount", "Address"]
    rows = [[cell.node.title, cell.number, cell.label, cell.value, cell.address] for cell in result.lines()]
    return export(request.GET.get("as", "csv"), f"lines-{return_.pk}-{return_.year}", heads, rows)


def _opened(request, return_id, what):
    return_, result, _ = open_page(request, return_id)
    require(request.user, "reveal", return_)
    record(request.user, "return exported", return_, says=what)
    return return_, result


def _file(content, kind, name):
    response = HttpResponse(content, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
