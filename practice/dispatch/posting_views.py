"""How a return goes to each authority, what each still wants, and when it was mailed."""

from django.shortcuts import redirect, render

from practice.dispatch import posting
from practice.dispatch.filing import routes_of
from practice.dispatch.models import State, Way
from practice.firm.permissions import may
from practice.pages.refusing import said_on
from practice.returns.computing import pack_of
from practice.returns.page import open_page


def filing(request, return_id, status=200, **more):
    """A section for each authority."""
    return_, result, context = open_page(request, return_id)
    routes, outgoing = routes_of(return_), pack_of(return_).outgoing
    newest = {one.authority: one for one in return_.submissions.order_by("id").defer("document")}
    sections = []
    for line in result.bottom_lines:
        authority, route = line.authority, routes.get(line.authority.code)
        address, source = posting.suggested_address(return_, result, authority)
        typed = more.get("typed", {})
        kept = {
            "way": route.way if route else Way.ELECTRONIC, "reason": route.reason if route else "",
            "note": route.note if route else "", "mail_to": route.mail_to if route and route.mail_to else address,
        }  # fmt: skip
        sections.append({
            "authority": authority, "route": route, "line": line, "wants": list(posting.wants(return_, result, authority, route)),
            "submission": newest.get(authority.code), "open": _is_open(newest.get(authority.code)),
            "reason": outgoing.reason(route.reason) if route else None,
            "chosen": typed if typed.get("of") == authority.code else kept, "source": source,
        })  # fmt: skip
    context |= {
        "tab": "sign", "sections": sections, "ways": Way.choices, "reasons": outgoing.paper_reasons,
        "may_file": may(request.user, "file"), "states": State, "may_deliver": may(request.user, "deliver"),
    }  # fmt: skip
    return render(request, "dispatch/filing.html", context | more, status=status)


def _is_open(submission):
    """Whether one can still say how the return goes there."""
    return submission is None or submission.state in (State.WAITING, State.TO_MAIL, State.REJECTED, State.WITHDRAWN)


@said_on(filing, "return_id")
def choose(request, return_id, authority):
    posting.choose(request.user, return_id, authority, request.POST)
    return redirect("filing", return_id)


@said_on(filing, "return_id")
def mailed(request, return_id, submission_id):
    posting.mailed(request.user, submission_id, request.POST.get("day", ""), request.POST.get("how", ""))
    return redirect("filing", return_id)
