"""Jointly or separately: both ways of a couple beside each other, how what is of both is divided, and the two returns made."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from practice.clients.models import Household
from practice.firm.permissions import may
from practice.firm.refusals import Cannot
from practice.returns.models import originals
from practice.returns.page import open_page
from practice.us import dividing, in_two, joining
from taxcore.engine import BadValue
from taxcore.packs.us import both_ways as couple
from taxcore.packs.us import dividing as core

_SHARE = "share "


@require_GET
def show(request, return_id):
    return _page(request, return_id)


def _page(request, return_id, status=200, **more):
    return_, result, context = open_page(request, return_id)
    context |= {
        "tab": "what-if",
        "why_not": couple.why_not(result.run),
        "siblings": _siblings(return_),
        "may_open": may(request.user, "open"),
        "other": "",
    }
    if not context["why_not"]:
        context |= _both_ways(return_, result)
        context |= _in_two(return_, result)
    return render(request, "us/both_ways.html", context | more, status=status)


def _both_ways(return_, result):
    division = dividing.division_of(return_)
    found = couple.both_ways(result, division)
    names = {role: _first_name(result, role) for role in core.ROLES}
    return {
        "found": found, "names": names, "cost": -found.saves, "division": division,
        "parts": [(one, _said(one, division)) for one in core.parts(result.run, division)],
        "by_holder": _by_holder(result, found, division, names) if result.run.people("dependant") else (),
        "divided": [(one.title, names[one.whose]) for one in found.divided if one.whose],
    }  # fmt: skip


def _said(part, division):
    """A share as its field shows it; nothing for what goes with the holder."""
    return "" if part.whole and part.mark not in division.shares else f"{part.percent.normalize():f}"


def _by_holder(result, found, division, names):
    """(role, name, what filing separately costs) for either of them holding the dependents."""
    other = next(role for role in core.ROLES if role != division.holder)
    costs = {division.holder: -found.saves, other: -couple.both_ways(result, core.Division(other, division.shares)).saves}
    return [(role, names[role], costs[role]) for role in core.ROLES]


def _first_name(result, role):
    person = result.run.person(role)
    return (person.first_name or role).split()[0]


def _in_two(return_, result):
    """The separate returns that there are, with what is other in them; and what could not be divided."""
    made = [(one, in_two.whose(one), list(in_two.edited(one)), in_two.moved(one)) for one in in_two.living(return_)]
    return {"made": made, "doubts": list(core.doubts(result.run)), "no_split": in_two.why_not(return_, result)}


def _siblings(return_):
    """Of a couple's separate returns: the other one's, to make one of both again."""
    if not return_.is_separate or return_.given_up_at:
        return []
    return [(one, in_two.whose(one)) for one in in_two.living(return_.apart_from) if one.pk != return_.pk]


@require_POST
def divide(request, return_id):
    """Keep who holds what and which shares."""
    shares = {name.removeprefix(_SHARE): text for name, text in request.POST.items() if name.startswith(_SHARE)}
    try:
        dividing.set_division(request.user, return_id, request.POST.get("holder", ""), shares)
    except dividing.NotDivided as bad:
        return _page(request, return_id, 422, refused=bad.says, refused_mark=bad.mark, typed_share=shares[bad.mark])
    except BadValue as bad:
        messages.error(request, bad.says)
    return redirect("both-ways", return_id)


@require_POST
def split(request, return_id):
    """Make the two returns, new versions of them, or replace what they have; or give them up."""
    way = request.POST.get("way", "")
    try:
        if way == "together":
            in_two.file_together(request.user, return_id)
            messages.success(request, "They file jointly. The separate returns are canceled and stay on record.")
        else:
            made = in_two.split(request.user, return_id, way)
            names = " and ".join(in_two.whose(one) for one in made)
            messages.success(request, f"{names} separate returns are ready to go on with. The joint return is as it was.")
    except (Cannot, BadValue) as refused:
        messages.error(request, refused.says)
    return redirect("both-ways", return_id)


@require_POST
def join(request, return_id):
    """One joint return of this one and the other's: the sibling's, or the return of a client by name."""
    other = request.POST.get("other", "")
    try:
        found = int(other) if other.isdigit() else _return_of(request, return_id, other)
        made = joining.join(request.user, return_id, found)
    except (Cannot, BadValue) as refused:
        return _page(request, return_id, 422, refused_join=refused.says, other=other)
    messages.success(request, "The joint return is made. Both separate returns stay on record, closed.")
    return redirect("papers", made.pk)


def _return_of(request, return_id, name):
    """The return of the same year of the client with that name. BadValue where there is none, or more than one."""
    return_, _, _ = open_page(request, return_id)
    homes = Household.objects.seen_by(request.user).filter(name__iexact=name.strip(), merged_into=None)
    found = list(originals(return_.__class__.objects.seen_by(request.user)).filter(
        household__in=homes, year=return_.year, pack=return_.pack).exclude(pk=return_.pk)[:2])  # fmt: skip
    if len(found) != 1:
        what = "More than one client is" if found else f"No client with a {return_.year} return is"
        raise BadValue(f"{what} called “{name.strip()}”. Enter the name as it stands under Households.", name)
    return found[0].pk
