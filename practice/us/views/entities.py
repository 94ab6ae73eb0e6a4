"""One business as four kinds of entity beside each other, and a curve over its profit. Nothing in the return is touched."""

from decimal import Decimal

from django.shortcuts import render
from django.views.decorators.http import require_GET

from practice.firm.typed_values import amount
from practice.returns.page import open_page
from taxcore.engine import BadValue
from taxcore.packs.us import entity_choice as core

_WIDE, _TALL, _LEFT, _BASE = 560, 220, 54, 24
_ROWS = (
    ("Profit before pay to the owner", "profit", ""), ("Wages to the owner", "pay", ""),
    ("Self-employment tax", "self_employment", "in the tax of the owner’s return"),
    ("Payroll tax, employer and employee", "payroll", "with federal unemployment tax"),
    ("Tax of the entity, federal and state", "entity_tax", ""),
    ("Dividends to the owner", "dividends", "all that is left after tax"),
    ("Qualified business income deduction", "deduction", "IRC 199A"),
    ("Tax of the owner’s return", "owner_tax", "every authority, with all other income"),
    ("Taxes on the business, all together", "taxes", "less what the return owes without it"), ("Left of the profit", "left", ""),
    ("Room in a retirement plan", "room", "employer’s contribution"),
)  # fmt: skip


@require_GET
def show(request, return_id):
    """`profit`, `pay`, the `business` it is about, its `owner` and whether the spouse is the `partner`."""
    _, result, context = open_page(request, return_id)
    given, run = request.GET, result.run
    businesses = core.businesses(run)
    chosen = next((one for one in businesses if one.key == given.get("business")), businesses[0] if businesses else None)
    owners = [one for one in run.people() if one.role in ("taxpayer", "spouse")]
    owner = given.get("owner") or (chosen.owner if chosen is not None else "taxpayer")
    context |= {
        "tab": "what-if", "businesses": businesses, "chosen": chosen, "owners": owners, "owner": owner,
        "notes": list(core.notes(run)), "partner": given.get("partner", ""),
        "profit": given.get("profit") or _profit(chosen), "pay": given.get("pay") or _pay(chosen),
    }  # fmt: skip
    status = 200
    try:
        context |= _compared(result, chosen, context, owner if owner in [one.role for one in owners] else "taxpayer")
    except (BadValue, ValueError) as bad:
        context["refused"], status = getattr(bad, "says", str(bad)), 422
    return render(request, "us/entities.html", context, status=status)


def _profit(business):
    if business is None:
        return "100000"
    return f"{max(business.profit, Decimal(0)):.0f}"


def _pay(business):
    return f"{business.pay:.0f}" if business is not None and business.pay else ""


def _compared(result, business, context, owner):
    profit, _ = amount(context["profit"])
    pay = amount(context["pay"])[0] if context["pay"] else (profit / 2).quantize(Decimal(100))
    rest = core.without(result.run, business)
    asked = core.Asked(profit, pay, owner, "spouse" if context["partner"] == "spouse" and len(context["owners"]) > 1 else "")
    found = core.compared(result, rest, asked)
    rows = [(words, note, name, [getattr(one, name) for one in found]) for words, name, note in _ROWS]
    view = {"kinds": [core.KINDS[one.kind] for one in found], "rows": rows, "pay": f"{pay:f}"}
    return view | _curve(core.over_profit(result, rest, asked), profit)


def _curve(points, here):
    """Taxes over the profit, a path for each kind that has all of it."""
    high, most = (
        points[-1][0] or Decimal(1),
        max((one.taxes for _, found in points for one in found), default=Decimal(1)) or Decimal(1),
    )

    def x(profit):
        return round(_LEFT + float(profit / high) * (_WIDE - _LEFT - 8), 1)

    def y(taxes):
        return round(_TALL - _BASE - float(max(taxes, Decimal(0)) / most) * (_TALL - _BASE - 10), 1)

    lines = []
    for place, kind in enumerate(core.KINDS):
        there = [(profit, found[place]) for profit, found in points if found[place].profit == profit]
        if there:
            path = "M" + "L".join(f"{x(profit)} {y(one.taxes)}" for profit, one in there)
            lines.append(
                {
                    "kind": core.KINDS[kind],
                    "path": path,
                    "y": y(there[-1][1].taxes),
                    "number": place + 1,
                    "last": there[-1][1].taxes,
                }
            )
    return {
        "lines": lines,
        "wide": _WIDE,
        "tall": _TALL,
        "left": _LEFT,
        "base": _TALL - _BASE,
        "high": high,
        "top": most,
        "here": x(here),
    }
