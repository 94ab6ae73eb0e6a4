"""Return / Flow: the picture of the whole return."""

from django.shortcuts import redirect, render

from practice.returns.computing import pack_of, result_of
from practice.returns.flow import picture_of
from practice.returns.page import open_page
from practice.returns.ripple_bases import last_year


def flow(request, return_id):
    """Money from its sources to the bottom lines; last year's as outlines where there is a return of it."""
    return_, result, context = open_page(request, return_id)
    draw = pack_of(return_).flow
    if draw is None:  # a kind of return without such a picture
        return redirect("forms", return_id)
    before = last_year(return_)
    old = draw(result_of(before)) if before else None
    context |= {"tab": "flow", "picture": picture_of(draw(result), old), "before": before}
    return render(request, "returns/flow.html", context)
