"""How long documents are kept, and those whose time is over."""

from urllib.parse import urlencode

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse

from practice.delivery import retaining
from practice.firm.numbers import whole_number
from practice.firm.permissions import require
from practice.returns import rounds
from taxcore.engine import BadValue

_LISTED = 200


def retention(request, status=200, **more):
    require(request.user, "administer", request.user)
    if request.method == "POST" and status == 200:
        return _post(request)
    rows = retaining.over(request.user)
    context = {
        "rows": [(one, retaining.keep_until(one, request.user.firm)) for one in rows[:_LISTED]], "number": len(rows),
        "firm": request.user.firm, "least": retaining.LEAST, "most": retaining.MOST,
    }  # fmt: skip
    shown = whole_number(request.GET.get("round", ""))
    if shown is not None:
        context |= rounds.progress(request.user, shown) | {"here": reverse("retention"), "to": "sign"}
        if request.htmx:
            answer = render(request, "returns/_round.html", context)
            if context["percent"] == 100:
                answer["HX-Refresh"] = "true"
            return answer
    return render(request, "delivery/retention.html", context | more, status=status)


def _post(request):
    given = request.POST
    try:
        if "years" in given:
            retaining.keep_for(request.user, whole_number(given["years"]))
            messages.success(request, "Kept.")
            return redirect("retention")
        chosen = [pk for pk in map(whole_number, given.getlist("of")) if pk is not None]
        made = rounds.begin(request.user, "forget", chosen)
    except BadValue as bad:
        return retention(request, 422, refused=bad.says)
    return redirect(f"{reverse('retention')}?{urlencode({'round': made.pk})}")
