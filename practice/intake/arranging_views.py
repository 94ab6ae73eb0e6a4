"""Every page of a return's documents, and new documents made of them."""

from uuid import UUID

from django.contrib import messages
from django.shortcuts import redirect, render

from practice.firm.numbers import whole_number
from practice.firm.permissions import may
from practice.firm.refusals import Cannot
from practice.intake import arranging
from practice.returns.index import index_view
from practice.returns.page import live_papers, open_page
from taxcore.engine import BadValue

_LISTED = 240  # pages that are shown at once


def pages(request, return_id):
    """Small pictures of all pages; those chosen become a document of their own, in the order of their numbers."""
    return_, result, context = open_page(request, return_id)
    if request.method == "POST":
        given = request.POST
        try:
            made = arranging.put_together(
                request.user,
                return_id,
                _picks(given),
                given.get("name", ""),
                whole_number(given.get("paper", "")),
                "replace" in given,
            )
            messages.success(request, f"{made.name} is being read.")
            return redirect("pages", return_id)
        except (BadValue, Cannot) as refused:
            context |= {"refused": refused.says, "typed": given, "chosen": given.getlist("page")}
    rows = list(return_.attachments.filter(removed_at=None).select_related("paper"))
    context |= {
        "tab": "papers", "rows": _within(rows), "groups": index_view(return_, live_papers(return_), result),
        "may_key": may(request.user, "key"), "reading": any(row.state == "reading" for row in rows),
    }  # fmt: skip
    return render(request, "intake/pages.html", context, status=422 if "refused" in context else 200)


def _within(rows):
    """The rows whose pages fit on one page of ours."""
    shown, number = [], 0
    for row in rows:
        number += row.drawn
        if number > _LISTED and shown:
            break
        shown.append(row)
    return shown


def _picks(given):
    """The pages that are ticked, in the order of the numbers beside them where there are some."""
    found = []
    for place, value in enumerate(given.getlist("page")):
        token, _, page = value.partition(".")
        try:
            pick = arranging.Pick(UUID(token), int(page))
        except ValueError:
            raise BadValue("Choose pages of this return.", value) from None
        order = whole_number(given.get(f"at-{value}", ""))
        found.append((order if order is not None else 10_000, place, pick))
    return [pick for _, _, pick in sorted(found, key=lambda one: one[:2])]
