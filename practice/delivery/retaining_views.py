"""How long documents are kept, and those whose time is over."""

from urllib.parse import urlencode

from django.contrib import messages
from django.shortcuts import redirect
from django.urls import reverse

from practice.delivery import retaining
from practice.firm.numbers import whole_number
from practice.firm.permissions import require
from practice.returns import rounds
from practice.returns.round_pages import with_round
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
    return with_round(request, "delivery/retention.html", context | more, reverse("retention"), "sign", status)


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
