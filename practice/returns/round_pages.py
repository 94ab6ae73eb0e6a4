"""A page with how far a round over many returns has come: above its list, and alone while that part asks again by itself."""

from django.shortcuts import render

from practice.firm.numbers import whole_number
from practice.returns import rounds


def with_round(request, template, context, here, to, status=200):
    """The answer with a page; of a round that its address names, what returns/_round.html takes. `here` is the page's address,
    `to` the name of the page that an item leads to. Once all are done the page is asked for anew: its list says what is there."""
    shown = whole_number(request.GET.get("round", ""))
    if shown is None:
        return render(request, template, context, status=status)
    context = context | rounds.progress(request.user, shown) | {"here": here, "to": to}
    if not request.htmx:
        return render(request, template, context, status=status)
    answer = render(request, "returns/_round.html", context)
    if context["percent"] == 100:
        answer["HX-Refresh"] = "true"
    return answer
