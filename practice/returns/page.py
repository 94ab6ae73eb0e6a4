"""What all pages of a return begin with."""

from django.utils import timezone

from practice.firm.permissions import fetch, may, require
from practice.returns.additions import additions_of
from practice.returns.changing import closed_because
from practice.returns.computing import result_of
from practice.returns.drawing import YES_NO
from practice.returns.gathering import known
from practice.returns.models import Purpose, Return, Stage
from practice.returns.presence import others_in
from practice.returns.what_moved import bottom_view

_ON_EVERY_PAGE = []


def on_every_page(function):
    """What another room shows on every page of a return: called with request, return, result and the others who are in it, it
    gives a part of the page's context."""
    _ON_EVERY_PAGE.append(function)


_AT_THE_HEAD = []


def at_the_head(function):
    """What a room further up shows at the head of the pages about a return's way: called with return and result, it gives a part
    of the page's context."""
    _AT_THE_HEAD.append(function)


def head_of(return_, result):
    """That part, for the pages that have such a head."""
    return {name: value for adds in _AT_THE_HEAD for name, value in adds(return_, result).items()}


def open_page(request, return_id, action="view"):
    """The return, its result and the context that every page of a return shares."""
    return_ = fetch(Return.objects.select_related("firm", "household", "preparer"), request.user, pk=return_id)
    require(request.user, action, return_)
    for name in ("papers", "submissions"):
        known(return_, name)
    result = result_of(return_)
    remembered = request.session.setdefault("opened", {})
    others = others_in(return_, request.user)
    if str(return_.pk) not in remembered:
        request.session.pop(f"put-away-{return_.pk}", None)
        remembered[str(return_.pk)] = {line.authority.code: str(line.amount) for line in result.bottom_lines}
        request.session.modified = True
    context = shared(request, return_, result) | {"others": others, "may_review": may(request.user, "review")}
    if not request.htmx:
        for adds in _ON_EVERY_PAGE:
            context |= adds(request, return_, result, others)
    return return_, result, context


def shared(request, return_, result, before=None):
    """Header and bottom line."""
    opened = request.session.get("opened", {}).get(str(return_.pk))
    closed = closed_because(return_)
    bottom = bottom_view(result, before, opened)
    if return_.stage in (Stage.DELIVER, Stage.DONE):
        bottom["counts"] = {}  # nothing is left to stop
    return {
        "return": return_,
        "is_plan": return_.purpose == Purpose.PLANNING,
        "corrects": _corrects(return_),
        "adds": additions_of(return_),
        "pack": result.run.pack,
        "issued_to": result.run.pack.issued_to,
        "has": {name: getattr(result.run.pack, name) is not None for name in ("flow", "issues", "ofx", "reads_tagged")},
        "household": return_.household,
        "bottom": bottom,
        "may_key": may(request.user, "key") and not closed,
        "closed": closed,
        "now": timezone.localtime(),
        "described": _described(return_, result),
        "yes_no": {YES_NO: (("yes", "yes"), ("no", "no"))},
    }


def _corrects(return_):
    """How a correction is called at the head of its pages; nothing for any other return."""
    if return_.purpose != Purpose.AMENDING:
        return ""
    return "Superseding" if return_.origin.amends["superseding"] else "Amended"


def _described(return_, result):
    described = additions_of(return_).described(return_, result) or result.run.pack.described(result)
    return f"{return_.tax_year} · {described}" if described else return_.tax_year


def live_papers(return_):
    return [paper for paper in return_.papers.all() if not paper.removed_at]
