"""What-if: plans in columns beside a return, a curve over one amount, and the amount to enter for a goal."""

from decimal import ROUND_CEILING, Decimal

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from practice.firm.events import record
from practice.firm.permissions import may
from practice.firm.refusals import Cannot
from practice.firm.typed_values import amount
from practice.pages.certifying import certified
from practice.pages.pdf import pdf_of
from practice.returns.computing import result_of
from practice.returns.page import open_page
from practice.whatif import drawing, keeping, taking
from practice.whatif.working import column_of, results
from taxcore.engine import Amount, BadValue, CannotRoll
from taxcore.whatif.columns import RETURN, together, total_tax, value_at
from taxcore.whatif.curves import curve as curve_of
from taxcore.whatif.frontier import Side, frontier
from taxcore.whatif.seeking import seek
from taxcore.whatif.trials import Trials

_MEASURES = {"together": together, "tax": total_tax}


def page(request, return_id):
    return_, result, context = open_page(request, return_id)
    return render(request, "whatif/page.html", context | _context(request, return_, result))


def _context(request, return_, result, refused=None):
    rows = keeping.columns_of(return_)
    outcomes = results(return_, rows)
    places = [keeping.place_read(return_, mark) for mark in request.GET.getlist("row") if mark]
    words = request.GET.get("rows", "").strip()[:80]
    all_results = [result, *(one.result for one in outcomes.values() if one.result is not None)]
    places += (found := drawing.found_rows(all_results, words))
    view = drawing.plan_view(return_, result, rows, outcomes, places, refused)
    shown = [keeping.place_read(return_, row.mark) for row in view["entered"]]
    amounts = [
        row for row, place in zip(view["entered"], shown, strict=True)
        if isinstance(keeping.field_at(result.run.pack, place), Amount)
    ]  # fmt: skip
    people = {one.role: one for each in reversed(all_results) for one in each.run.people()}
    owners = [people[role] for role in ("taxpayer", "spouse") if role in people]
    return view | {
        "tab": "what-if", "columns": rows, "may_plan": may(request.user, "open"), "may_deliver": may(request.user, "deliver"),
        "lists": drawing.options_of(result, shown),
        "amounts": drawing.by_effect(return_, result, amounts), "measures": drawing.measures(),
        "owners": [(one.role, (one.first_name or one.role).split()[0]) for one in owners],
        "words": words, "none_found": bool(words) and not found, "kinds": keeping.people_to_add(result.run.pack) + sorted(
            (", ".join(filter(None, (one.name, one.official))), one.kind)
            for one in result.run.pack.papers if keeping.first_amount(one) and not one.corrects
        ),
    }  # fmt: skip


def _table(request, return_id, refused=None):
    return_, result, context = open_page(request, return_id)
    context |= _context(request, return_, result, refused)
    return render(request, "whatif/_table.html", context, status=422 if refused else 200)


@require_POST
def add(request, return_id):
    """A column based on the return or another one, of its year or the next; `on` is "key" or "key+1"."""
    base, _, later = request.POST.get("on", "").partition("+")
    try:
        made = keeping.add(
            request.user, return_id, request.POST.get("name", ""), int(base) if base.isdigit() else None, 1 if later else 0
        )
        if result := results(made.of, keeping.columns_of(made.of))[made.key].says:
            messages.error(request, result)
    except (BadValue, Cannot) as cannot:
        messages.error(request, cannot.says)
    return redirect("what-if", return_id)


@require_POST
def enter(request, return_id, column_id):
    mark, text = request.POST.get("mark", ""), request.POST.get("value", "")
    try:
        keeping.enter(request.user, return_id, column_id, mark, text)
    except (BadValue, Cannot) as bad:
        return _table(request, return_id, refused=(str(column_id), mark, text, bad.says))
    return _table(request, return_id)


@require_POST
def act(request, return_id, column_id):
    """Copy, name, remove a column; add a paper in it or leave one out; make a return for planning of it, or take its values into
    the return."""
    what, given, extra = request.POST.get("act", ""), request.POST, ""
    try:
        if what == "copy":
            keeping.copy(request.user, return_id, column_id)
        elif what == "remove":
            keeping.remove(request.user, return_id, column_id)
        elif what == "name":
            keeping.name(request.user, return_id, column_id, given.get("name", ""), given.get("note", ""), given.get("rate"))
        elif what == "paper":
            place = keeping.add_paper(request.user, return_id, column_id, given.get("kind", ""), given.get("owner", ""))
            extra = f"?row={place.mark}"
        elif what == "leave":
            keeping.leave_out(request.user, return_id, column_id, given.get("paper", ""))
        elif what == "return":
            made = taking.make_return(request.user, return_id, column_id)
            messages.success(request, f"A plan of {made.year}. Nothing in it is due, counted or filed.")
            return redirect("papers", made.pk)
        elif what == "take":
            count = taking.take(request.user, return_id, column_id, set(given.getlist("mark")))
            messages.success(request, f"{count} {'value' if count == 1 else 'values'} entered in the return.")
    except (BadValue, Cannot) as cannot:
        messages.error(request, cannot.says)
    response = redirect("what-if", return_id)
    response["Location"] += extra
    return response


def _asked(request, return_id):
    """(context, the column's result, what stands there, the place) of a question about one column and field."""
    return_, result, context = open_page(request, return_id)
    rows, key = keeping.columns_of(return_), request.GET.get("column", RETURN)
    outcomes = results(return_, rows)
    if key == RETURN:
        asked = result
    elif key in outcomes and outcomes[key].result is not None:
        asked = outcomes[key].result
    else:
        raise Cannot("That column was removed, or cannot be worked out.")
    place = keeping.place_read(return_, request.GET.get("mark", ""))
    if not isinstance(field := keeping.field_at(result.run.pack, place), Amount):
        raise Cannot("Choose an amount.")
    text = value_at(asked.run.everything, place)
    if text is None:
        raise Cannot("That column has no such paper.")
    here = amount(text)[0] if text else Decimal(0)
    named = next((row.name for row in rows if row.key == key), "As it stands")
    context |= {"field": field, "here": here, "column": key, "named": named, "mark": place.mark}
    context["may_plan"] = may(request.user, "open")
    return context, asked, here, place, outcomes


@require_GET
def curve(request, return_id):
    """Total tax over a field's amount, with the rate of the next unit and what makes each bend."""
    try:
        context, asked, here, place, outcomes = _asked(request, return_id)
        least, most = _range(request, here)
        drawn = curve_of(asked, Trials(asked.run.pack), place, least, most)
        behind = outcomes.get(request.GET.get("behind", ""))
        if behind is not None and behind.result is not None and behind.result is not asked:
            behind = curve_of(behind.result, Trials(asked.run.pack), place, least, most)
        else:
            behind = None
    except (BadValue, Cannot, ValueError) as bad:
        return render(request, "whatif/_answer.html", {"says": getattr(bad, "says", str(bad))}, status=422)
    return render(request, "whatif/_curve.html", context | drawing.curve_view(drawn, here, behind))


def _range(request, here):
    least = amount(request.GET["from"])[0] if request.GET.get("from") else Decimal(0)
    most = amount(request.GET["to"])[0] if request.GET.get("to") else max(2 * here, here + 50_000)
    return least // 1, (most / 1000).to_integral_value(ROUND_CEILING) * 1000


@require_GET
def find(request, return_id):
    """The amount to enter so that a measure comes out as wanted."""
    try:
        context, asked, here, place, _ = _asked(request, return_id)
        asked_of = request.GET.get("of", "") if request.GET.get("of", "") in _MEASURES else "together"
        words, measure = drawing.measures()[asked_of], _MEASURES[asked_of]
        wanted = amount(request.GET.get("wanted", "") or "0")[0]
        found = seek(asked, Trials(asked.run.pack), place, measure, wanted, Decimal(0), max(10 * here, Decimal(500_000)), here)
    except (BadValue, Cannot, ValueError) as bad:
        return render(request, "whatif/_answer.html", {"says": getattr(bad, "says", str(bad))}, status=422)
    return render(request, "whatif/_answer.html", context | {"found": found, "words": words, "wanted": wanted})


@require_GET
def divided(request, return_id):
    """An amount divided over two columns so that it costs least, for each total up to one."""
    try:
        context, _, _, place, _ = _asked(request, return_id)
        rows, result = keeping.columns_of(context["return"]), result_of(context["return"])
        sides = [Side(request.GET.get(name, RETURN), place) for name in ("column", "other")]
        most = amount(request.GET.get("most") or "50000")[0]
        found = frontier(result, [column_of(row) for row in rows], *sides, most)
    except (BadValue, Cannot, CannotRoll, ValueError) as bad:
        return render(request, "whatif/_answer.html", {"says": getattr(bad, "says", str(bad))}, status=422)
    names = {RETURN: "As it stands"} | {row.key: row.name for row in rows}
    context |= {"first": names.get(sides[0].column, ""), "second": names.get(sides[1].column, "")}
    return render(request, "whatif/_divided.html", context | drawing.frontier_view(found))


@require_GET
def choices(request, return_id):
    """What the law leaves open on this return, what each way would bring or cost, and why."""
    return_, _, context = open_page(request, return_id)
    context |= {"tab": "what-if", "best": taking.best_of_choices(return_), "may_plan": may(request.user, "open")}
    return render(request, "whatif/choices.html", context)


@require_POST
def take_choices(request, return_id):
    """The best of the choices entered in the return as one act, or made a column."""
    try:
        if request.POST.get("way") == "column":
            taking.column_of_best(request.user, return_id)
            return redirect("what-if", return_id)
        count = taking.take_best(request.user, return_id)
        messages.success(request, f"{count} {'value' if count == 1 else 'values'} entered in the return. Alt Z undoes it.")
    except (BadValue, Cannot) as cannot:
        messages.error(request, cannot.says)
    return redirect("what-if-choices", return_id)


def drawn(request, return_id):
    """(return, its plans as a PDF)."""
    return_, result, context = open_page(request, return_id)
    return return_, certified(
        return_.firm, pdf_of("whatif/plans_pdf.html", context | _context(request, return_, result)), "What-if"
    )


def as_pdf(request, return_id):
    return_, made = drawn(request, return_id)
    record(request.user, "what-if printed", return_)
    response = HttpResponse(made, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="what-if-{return_.pk}.pdf"'
    return response
