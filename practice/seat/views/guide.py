"""The guided entry to the papers of a return."""

from django.shortcuts import redirect, render

from practice.firm.numbers import whole_number
from practice.returns import guiding
from practice.returns.index import index_view
from practice.returns.page import live_papers, open_page
from taxcore.engine import BadValue


def guide(request, return_id):
    """The next question, what was answered, and how far the papers are that it led to."""
    error, typed = "", {}
    if request.method == "POST":
        key, yes = request.POST.get("key", ""), request.POST.get("answer") == "yes"
        counts = {
            name[2:]: whole_number(text)
            for name, text in request.POST.items()
            if name.startswith("n-") and whole_number(text) is not None
        }
        try:
            guiding.answer(request.user, return_id, key, yes, counts)
            return redirect("guide", return_id)
        except BadValue as bad:
            error, typed = bad.says, request.POST
    return_, result, context = open_page(request, return_id, "key")
    questions = guiding.questions_of(return_)
    wanted = typed.get("key") or request.GET.get("q")
    there = [paper.kind for paper in live_papers(return_) if paper.values.get("role") not in ("taxpayer", "spouse")]
    current = next((one for one in questions if one[0].key == wanted), None) or next(
        (one for one in questions if one[2] is None), None
    )
    items = [item for group in index_view(return_, live_papers(return_), result) for item in group.items]
    unfinished = [item for item in items if item.state != "complete"]
    context |= {
        "tab": "papers", "error": error, "questions": questions, "current": current,
        "kinds": _asked(current[1], there) if current else [],
        "answered": sum(answer is not None for _, _, answer in questions), "items": items, "unfinished": unfinished,
    }  # fmt: skip
    return render(request, "returns/guide.html", context, status=422 if error else 200)


def _asked(kinds, there):
    """What is asked of each kind of paper: how many there are, those that are on the return being said already."""
    return [
        {"kind": kind.kind, "name": kind.name, "official": kind.official, "once": kind.single,
         "count": there.count(kind.kind) or ("" if kinds[1:] else 1)}
        for kind in kinds
    ]  # fmt: skip
