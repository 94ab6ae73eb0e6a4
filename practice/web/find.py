"""The command line: one key, then type. Finds clients, papers, fields and form lines; adds a paper; does an action."""

import re

from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_GET

from practice.clients.finding import households_like
from practice.firm.numbers import whole_number
from practice.firm.permissions import may, require
from practice.pages.recent import recent
from practice.returns.additions import additions_of
from practice.returns.changing import closed_because
from practice.returns.computing import pack_of, result_of
from practice.returns.kinds import kinds_of
from practice.returns.models import Purpose, Return
from practice.returns.page import live_papers

_MOST = 9
# What the trade says for short, and what stands on forms and papers
MEANS = {
    "eic": "earned income credit", "eitc": "earned income credit", "qbi": "qualified business", "ctc": "child",
    "actc": "additional child", "amt": "alternative minimum tax", "agi": "adjusted gross income", "se": "self-employment",
    "niit": "net investment", "ptc": "premium", "aotc": "american opportunity", "llc": "lifetime", "mfj": "filing status",
    "mfs": "filing status",
    "hoh": "filing status", "qss": "filing status", "withholding": "withheld", "efile": "sign and file",
    "e-file": "sign and file", "amend": "sign and file", "pin": "sign and file", "rmd": "distribution", "k1": "k-1", "w2": "w-2",
    "ssa": "ssa-1099", "estimates": "estimated",
}  # fmt: skip


@require_GET
def find(request):
    """Results for `?q=`; within a return (`?in=`) its papers, fields, lines and actions come first. Nothing typed: where one
    was last."""
    require(request.user, "view")
    words = request.GET.get("q", "").strip().lower()
    found = [] if words else recent(request)
    inside = whole_number(request.GET.get("in"))
    return_ = Return.objects.for_staff(request.user).filter(pk=inside).first() if inside else None
    if return_ is not None:
        found += _in_return(request, return_, words)
    found += _pages(words)
    if words:
        found += _households(request, words) + _returns(request, words)
    return render(request, "web/_found.html", {"found": found[:_MOST], "words": words})


def _in_return(request, return_, words):
    result = result_of(return_)
    found = [*_to_add(request, return_, words), *sorted(_lines(return_, result, words), key=lambda one: one["rank"])]
    pack = pack_of(return_)
    for paper in live_papers(return_):
        declared = pack.paper(paper.kind)
        title = str(paper.values.get(declared.heading, "") or declared.name)
        url = reverse("paper", args=[return_.pk, paper.pk])
        if words and _fits(words, f"{title} {declared.name} {declared.official}"):
            found.append({"url": url, "does": title, "note": declared.official})
        elif len(words) > 2:
            found += _fields(declared, title, url, paper, words)
    found += _actions(request, return_, words)
    return sorted(found, key=lambda one: _rank(one, words))


def _to_add(request, return_, words):
    """Papers that can be added, and people."""
    if not may(request.user, "key"):
        return
    pack, url = pack_of(return_), reverse("add-paper", args=[return_.pk])
    for role, name in pack.people.adds.items():
        if role != "spouse" and words and _fits(words, f"add {name} child person"):
            yield {"post": url, "kind": pack.people.kind, "does": f"Add: {name}", "note": "", "first": True}
    for kind in kinds_of(return_):
        if _fits(words, f"add {kind.name} {kind.official}") and not (kind.single and words == ""):
            yield {"post": url, "kind": kind.kind, "does": f"Add: {kind.name}", "note": kind.official}


def _fields(declared, title, url, paper, words):
    """Fields of a paper by label, or paper and label together ("kittiwake withheld")."""
    for name, spec in declared.fields().items():
        if spec.kind != "rows" and name != "owner" and _fits(words, f"{title} {spec.label} {declared.official}"):
            yield {"url": f"{url}#f-{paper.pk}-{name}", "does": spec.label, "note": f"field of {title}"}


def _actions(request, return_, words):
    """What can be done with the return, by name."""
    pages = {
        "Rolled forward, to confirm": "carried", "Correction": "correction",
        "Guided entry": "guide", "Import a file": "import-file", "History": "changes", "Flow": "flow",
        "Review and diagnostics": "review", "Sign and file": "sign", "Forms": "forms", "Save as a workbook": "download-workbook",
        "Save as a document": "download-return", "Save all lines": "download-lines",
    } | dict(additions_of(return_).found)  # fmt: skip
    for does, name in pages.items():
        if words and _fits(words, does):
            yield {"url": reverse(name, args=[return_.pk]), "does": does, "note": "do"}
    if words and may(request.user, "open") and closed_because(return_) and _fits(words, "amend this return correct"):
        yield {"post": reverse("make-correction", args=[return_.pk]), "kind": "", "does": "Amend this return", "note": "do"}
    if words and may(request.user, "key") and _fits(words, "undo my last change"):
        yield {"post": reverse("undo", args=[return_.pk]), "kind": "", "does": "Undo my last change", "note": "do"}
    for kind in {paper.kind for paper in live_papers(return_)}:
        declared = pack_of(return_).paper(kind)
        if words and not declared.single and kind != "person" and _fits(words, f"table {declared.name} {declared.official}"):
            yield {"url": reverse("grid", args=[return_.pk, kind]), "does": f"Table: {declared.name}", "note": "do"}


def _rank(one, words):
    """A paper of that very name comes first, then those that begin so, fields after lines, other papers to add come last."""
    if str(one.get("note", "")).startswith("field of"):
        return 1.5
    if "kind" not in one or not one["kind"] or not words:
        return 1
    called, given = one["does"].lower().removeprefix("add: "), words.removeprefix("add ")
    if called == given:
        return -1
    return 0 if one.get("first") or called.startswith(given) else 2


def _lines(return_, result, words):
    """`1040 16` or words of a label."""
    if len(words) < 2:
        return
    number = re.fullmatch(r"(?P<form>[\w-]+)\s+(?P<line>\w+)", words)
    for form in result.forms:
        code = form.address_prefix.split(".")[-1]
        for cell in form.lines():
            begins = number and number["form"] in code and cell.number.startswith(number["line"])
            if begins or (len(words) > 2 and _fits(words, f"{form.title} {cell.label}")):
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
    pages = (("Desk", "desk"), ("Clients", "households"), ("Dispatch", "dispatch"), ("Add a household", "new-household"),
             ("Add a company", "new-company"))  # fmt: skip
    return [{"url": reverse(name), "does": title, "note": "page"} for title, name in pages if _fits(words, title)]


def _returns(request, words):
    """Returns by household and year: "quist 2024", or a year alone within what is open."""
    *names, last = words.split()
    year = whole_number(last, most=2100)
    if not names or year is None:
        return []
    rows = Return.objects.for_staff(request.user).filter(year=year).select_related("household")
    for name in names:
        rows = rows.filter(household__name__icontains=name)
    return [
        {
            "url": reverse("papers", args=[row.pk]),
            "does": f"{row.household.name} {row.named}",
            "note": "plan" if row.purpose == Purpose.PLANNING else row.get_stage_display().lower(),
        }
        for row in rows[:_MOST]
    ]


def _households(request, words):
    rows = households_like(request.user, words).order_by("name")[:_MOST]
    return [{"url": reverse("household", args=[row.pk]), "does": row.name, "note": row.trade or "household"} for row in rows]


def _fits(words, text):
    """Whether every word stands in the text, as it is or as what it is short for."""
    text = text.lower()
    return all(word in text or (word in MEANS and MEANS[word] in text) for word in words.split())
