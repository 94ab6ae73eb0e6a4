"""What goes with a return besides its lines."""

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render

from practice.firm.permissions import may
from practice.intake import attaching, enclosing
from practice.intake.drawn import drawn_for, pdf_of_drawn
from practice.pages.lists import export
from practice.pages.refusing import said_on
from practice.returns.computing import pack_of
from practice.returns.page import open_page
from taxcore.engine import BadValue


def attachments(request, return_id, status=200, **more):
    """Every document of the return: whether it goes along, as what, to whom."""
    return_, result, context = open_page(request, return_id)
    rows = list(return_.attachments.filter(removed_at=None).select_related("paper", "by"))
    outgoing = pack_of(return_).outgoing
    instead = {row.along: row.name for row in rows if row.along and row.kind == "xbrl"}
    context |= {
        "tab": "sign", "rows": [(row, outgoing.kind(row.along), _beside(return_, row)) for row in rows],
        "kinds": outgoing.attachable, "going": [row for row in rows if row.along],
        "authorities": [b.authority for b in result.bottom_lines],
        "may_key": may(request.user, "key") and not context["closed"], "largest": enclosing.LARGEST // 1_000_000,
        "drawn": [
            (line.authority, one, instead.get(one.code, ""))
            for line in result.bottom_lines for one in drawn_for(return_, result, line.authority)
        ],
        "takes_tagged": any(one.tagged for one in outgoing.attachable),
    }  # fmt: skip
    return render(request, "signing/attachments.html", context | more, status=status)


def _beside(return_, row):
    """What the paper is called that a document lies beside."""
    if row.paper is None:
        return ""
    declared = pack_of(return_).paper(row.paper.kind)
    return str(row.paper.values.get(declared.heading) or declared.name)


def look(request, return_id, code):
    """A document that follows from the figures, as it would go out now; or a statement for others, also as a file of its rows."""
    return_, result, _ = open_page(request, return_id)
    drawn = [one for line in result.bottom_lines for one in drawn_for(return_, result, line.authority)]
    for one in (*drawn, *pack_of(return_).outgoing.statements(result)):
        if one.code == code and (kind := request.GET.get("as", "")) in ("csv", "xlsx"):
            return export(kind, one.code, one.tables[0].heads, [row for table in one.tables for row in table.rows])
        if one.code == code:
            return HttpResponse(pdf_of_drawn(return_, one), content_type="application/pdf")
    raise Http404


@said_on(attachments, "return_id")
def choose(request, return_id, token):
    given = request.POST
    what = "" if "leave" in given else given.get("what", "")
    if not what and "leave" not in given:
        raise BadValue("Choose what kind of attachment it is.", "")
    enclosing.choose(request.user, return_id, token, what, given.get("name", ""), given.get("to", ""))
    return redirect("going-along", return_id)


@said_on(attachments, "return_id")
def add(request, return_id):
    """A document that lies beside no paper."""
    file = attaching.given(request.FILES.get("file"))
    if file is None:
        raise BadValue("Choose a file.", "")
    attaching.attach(request.user, return_id, None, *file)
    return redirect("going-along", return_id)
