"""What is ready to leave: to be filed, mailed, put together, delivered; each for many at once."""

from urllib.parse import urlencode

from django.db.models import Exists, OuterRef
from django.shortcuts import redirect
from django.urls import reverse

from practice.delivery import printing
from practice.delivery.models import Package
from practice.dispatch.models import LIVE, Submission
from practice.firm.numbers import whole_number
from practice.firm.permissions import may, require
from practice.returns import rounds
from practice.returns.models import FILED, Return, Stage, State
from practice.returns.round_pages import with_round
from taxcore.engine import BadValue

_WHICH = {"file": "to file", "mail": "to mail", "package": "to assemble", "deliver": "to deliver", "locked": "locked"}
_ACTS = ("file", "package", "deliver", "print")
_LISTED = 200


def ready(request, status=200, **more):
    """Returns that are signed, accepted or put together, and what can be done to those chosen."""
    require(request.user, "view")
    if request.method == "POST" and status == 200:
        return _many(request)
    which = request.GET.get("which") or request.POST.get("which") or "file"
    numbers = {code: _chosen(request, code).count() for code in _WHICH}
    context = {
        "which": which, "whiches": [(code, words, numbers[code]) for code, words in _WHICH.items()],
        "rows": _chosen(request, which)[:_LISTED], "number": numbers.get(which, 0), "listed": _LISTED,
        "sets": printing.listed(request.user.firm), "may_file": may(request.user, "file"),
        "may_deliver": may(request.user, "deliver"),
    }  # fmt: skip
    return with_round(request, "delivery/ready.html", context | more, reverse("ready"), "sign", status)


def _chosen(request, which):
    """The soonest due first."""
    rows = Return.objects.for_staff(request.user).filter(given_up_at=None, household__left_on=None)
    rows = rows.select_related("household", "preparer").order_by("due", "household__name", "pk")
    sent = Submission.objects.for_staff(request.user).filter(of=OuterRef("pk"))
    packages = Package.objects.for_staff(request.user).filter(of=OuterRef("pk"), state__in=["making", "ready"])
    if which == "mail":
        return rows.filter(Exists(sent.filter(state=State.TO_MAIL)))
    if which == "package":
        return rows.filter(stage=Stage.DELIVER).exclude(Exists(packages))
    if which == "deliver":
        return rows.filter(stage=Stage.DELIVER).filter(Exists(packages.filter(state="ready", delivered_at=None)))
    if which == "locked":
        return rows.filter(snapshot__isnull=False)
    under_way = sent.filter(state__in=set(LIVE) - set(FILED))
    as_rejected = sent.filter(state=State.REJECTED, snapshot=OuterRef("snapshot"))  # sent again as it is, it comes back again
    return rows.filter(stage=Stage.FILE, snapshot__isnull=False).exclude(Exists(under_way)).exclude(Exists(as_rejected))


def _many(request):
    given = request.POST
    act, options = given.get("act", ""), {}
    try:
        if act not in _ACTS:
            raise BadValue("Choose what to do.", act)
        if act == "print":
            options = {"set_id": _set(request)}
        chosen = [pk for pk in map(whole_number, given.getlist("of")) if pk is not None]
        made = rounds.begin(request.user, act, chosen, **options)
    except BadValue as bad:
        return ready(request, 422, refused=bad.says)
    return redirect(f"{reverse('ready')}?{urlencode({'which': given.get('which', ''), 'round': made.pk})}")


def _set(request):
    chosen = whole_number(request.POST.get("set", ""))
    if chosen is None or not printing.listed(request.user.firm).filter(pk=chosen).exists():
        raise BadValue("Choose a print set.", "")
    return chosen
