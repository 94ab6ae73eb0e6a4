"""Jointly or separately: both ways of a couple beside each other. Nothing in the return is touched."""

from django.shortcuts import render
from django.views.decorators.http import require_GET

from practice.returns.page import open_page
from taxcore.packs.us import both_ways as couple


@require_GET
def show(request, return_id):
    """`holder` is who claims the dependents then."""
    _, result, context = open_page(request, return_id)
    holder = request.GET.get("holder", "")
    holder = holder if holder in couple.ROLES else couple.ROLES[0]
    context |= {"tab": "what-if", "holder": holder, "why_not": couple.why_not(result.run)}
    if not context["why_not"]:
        found = couple.both_ways(result, holder)
        names = {role: _first_name(result, role) for role in couple.ROLES}
        context |= {
            "found": found, "names": names, "cost": -found.saves, "has_dependents": bool(result.run.people("dependant")),
            "by_holder": _by_holder(result, found, holder, names),
            "divided": [(one.title, names.get(one.whose, "half each")) for one in found.divided],
        }  # fmt: skip
    return render(request, "us/both_ways.html", context)


def _by_holder(result, found, holder, names):
    """(role, name, what filing separately costs) for either of them claiming the dependents."""
    costs = {holder: -found.saves}
    for role in couple.ROLES:
        if role not in costs:
            costs[role] = -couple.both_ways(result, role).saves
    return [(role, names[role], costs[role]) for role in couple.ROLES]


def _first_name(result, role):
    person = result.run.person(role)
    return (person.first_name or role).split()[0]
