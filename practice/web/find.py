"""The command line: one key, then type. Finds clients, papers, fields and form lines; adds a paper; does an action."""

import re

from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_GET

from practice.clients.models import Household
from practice.firm.permissions import may, require
from practice.returns.computing import pack_of, result_of
from practice.returns.models import Return
from practice.returns.views.common import live_papers

_MOST = 9


@require_GET
def find(request):
    """Results for `?q=`; within a return (`?in=`) its papers, lines and actions come first."""
    require(request.user, "view")
    words = request.GET.get("q", "").strip().lower()
    found = []
    inside = request.GET.get("in", "")
    return_ = Return.objects.for_firm(request.user.firm).filter(pk=inside).first() if inside.isdigit() else None
    if return_ is not None:
        found += _in_return(request, return_, words)
    found += _pages(words)
    if words:
        found += _households(request, words)
    return render(request, "web/_found.html", {"found": found[:_MOST], "words": words})


def _in_return(request, return_, words):
    found = []
    pack = pack_of(return_)
    if may(request.user, "key"):
        if words and _fits(words, "add dependant child person"):
            found.append(
                {"post": reverse("add-paper", args=[return_.pk]), "kind": pack.people.kind, "does": "Add: Dependant", "note": ""}
            )
        for kind in (kind for kind in pack.papers if kind.since <= return_.year <= kind.until):
            if _fits(words, f"add {kind.name} {kind.official}") and not (kind.single and words == ""):
                found.append({"post": reverse("add-paper", args=[return_.pk]), "kind": kind.kind, "does": f"Add: {kind.name}",
                              "note": kind.official})  # fmt: skip
    result = result_of(return_)
    found += sorted(_lines(return_, result, words), key=lambda one: one["rank"])
    for paper in live_papers(return_):
        declared = pack.paper(paper.kind)
        title = str(paper.values.get(declared.heading, "") or declared.name)
        if words and _fits(words, f"{title} {declared.name} {declared.official}"):
            found.append({"url": reverse("paper", args=[return_.pk, paper.pk]), "does": title, "note": declared.official})
    return sorted(found, key=lambda one: _rank(one, words))


def _rank(one, words):
    """A paper whose name begins with the words comes first, other papers to add come last."""
    if "post" not in one or not words:
        return 1
    return 0 if one["does"].lower().removeprefix("add: ").startswith(words.removeprefix("add ")) else 2


def _lines(return_, result, words):
    """`1040 16` or words of a label."""
    if len(words) < 2:
        return
    number = re.fullmatch(r"(?P<form>[\w-]+)\s+(?P<line>\w+)", words)
    for form in result.forms:
        code = form.address_prefix.split(".")[-1]
        for cell in form.lines():
            begins = number and number["form"] in code and cell.number.startswith(number["line"])
            if begins or (len(words) > 3 and words in cell.label.lower()):
                url = f"{reverse('forms', args=[return_.pk])}?at={cell.address}"
                rank = (0 if begins and code == number["form"] else 1, 0 if begins and cell.number == number["line"] else 1)
                yield {
                    "url": url,
                    "does": f"{form.title} line {cell.number}",
                    "note": cell.label,
                    "amount": cell.value,
                    "rank": rank,
                }


def _pages(words):
    pages = (("Desk", "desk"), ("Households", "households"), ("Dispatch", "dispatch"))
    return [{"url": reverse(name), "does": title, "note": "page"} for title, name in pages if _fits(words, title)]


def _households(request, words):
    rows = Household.objects.for_firm(request.user.firm).filter(name__icontains=words)[:_MOST]
    return [{"url": reverse("household", args=[row.pk]), "does": row.name, "note": row.trade or "household"} for row in rows]


def _fits(words, text):
    return all(word in text.lower() for word in words.split())
