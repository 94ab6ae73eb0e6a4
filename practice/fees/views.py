"""Fees: the price list, a return's invoice, and who owes what."""

from functools import wraps
from urllib.parse import urlencode

from django.contrib import messages
from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.fees import aging, billing, prices
from practice.fees.models import Invoice, Manner, Per
from practice.fees.tasks import read_invoice
from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.numbers import whole_number
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, may, require
from practice.firm.refusals import Cannot
from practice.firm.typed_values import day_of
from practice.pages.lists import export
from practice.pages.refusing import said_on
from practice.returns import rounds
from practice.returns.computing import pack_of
from practice.returns.models import Purpose
from practice.returns.page import head_of, open_page
from practice.returns.round_pages import with_round
from taxcore.engine import BadValue

_LISTED = 300

# One return


def of_return(request, return_id, status=200, **more):
    """Its draft with what can be changed, its invoices with what was paid, and hours."""
    return_, result, context = open_page(request, return_id)
    if return_.purpose == Purpose.PLANNING:
        return redirect("plan", return_.pk)
    rows = list(
        return_.invoices.select_related("to", "sent_by", "made_by", "voided_by").prefetch_related("lines", "payments__by")
    )
    draft = next((one for one in rows if not one.number and not one.voided_at), None)
    listed = prices.listed(return_.firm, return_.pack)
    context |= head_of(return_, result) | {
        "tab": "sign", "draft": draft, "invoices": [one for one in rows if one.number], "moved": draft and billing.moved(draft),
        "fixed": listed.filter(per__in=[Per.FIXED, Per.DISCOUNT]), "priced": listed.exists(), "pack": pack_of(return_),
        "hours": return_.hours.filter(removed_at=None).select_related("by", "invoice"), "manners": _manners(),
        "may_bill": may(request.user, "bill"), "today": return_.firm.today(), "days": billing.DAYS_TO_PAY,
    }  # fmt: skip
    return render(request, "fees/invoice.html", context | more, status=status)


def _manners():
    return [(code, name) for code, name in Manner.choices if code != Manner.GATEWAY]


def _refusing(view):
    """What cannot be done is said on the return's page, with what was typed still there."""

    @wraps(view)
    def inner(request, *args, **kwargs):
        try:
            return redirect("invoice", view(request, *args, **kwargs))
        except (Cannot, BadValue) as refused:
            return_id = kwargs.get("return_id") or _invoice(request, kwargs["invoice_id"]).of_id
            return of_return(request, return_id, 422, refused=refused.says, typed=request.POST)

    return require_POST(inner)


def _invoice(request, invoice_id):
    return fetch(Invoice.objects, request.user, pk=invoice_id)


def _day(text, what):
    return day_of(text, what) if text.strip() else None


@_refusing
def start(request, return_id):
    billing.drafted(request.user, return_id)
    return return_id


@_refusing
def add_hours(request, return_id):
    given = request.POST
    billing.add_hours(
        request.user, return_id, given.get("hours", ""), given.get("done", ""), _day(given.get("day", ""), "The day")
    )
    return return_id


@_refusing
def remove_hours(request, return_id, hours_id):
    billing.remove_hours(request.user, return_id, hours_id)
    return return_id


@_refusing
def add_line(request, invoice_id):
    given, chosen = request.POST, whole_number(request.POST.get("of", ""))
    values = [given.get(name, "") for name in ("text", "quantity", "price")]
    return billing.add_line(request.user, invoice_id, chosen, values[0], values[1] or "1", values[2]).of_id


@_refusing
def change_line(request, invoice_id, line_id):
    given = request.POST
    return billing.change_line(
        request.user, invoice_id, line_id, given.get("quantity", ""), given.get("price", ""), remove="remove" in given
    ).of_id


@_refusing
def count_again(request, invoice_id):
    return billing.count_again(request.user, invoice_id).of_id


@_refusing
def send(request, invoice_id):
    given = request.POST
    sent = billing.send(request.user, invoice_id, given.get("words", ""), _day(given.get("due", ""), "The due date"))
    messages.success(request, f"{sent.number} sent to {sent.to.full_name}." if sent.total else f"{sent.number} kept: no charge.")
    return sent.of_id


@_refusing
def remind(request, invoice_id):
    found = billing.remind(request.user, invoice_id)
    messages.success(request, f"{found.to.full_name} is reminded of {found.number}.")
    return found.of_id


@_refusing
def void(request, invoice_id):
    return billing.void(request.user, invoice_id, request.POST.get("why", ""), "again" in request.POST).of_id


@_refusing
def pay(request, invoice_id):
    given = request.POST
    made = billing.pay(
        request.user, invoice_id, given.get("amount", ""), given.get("manner", ""), _day(given.get("day", ""), "The day"),
        given.get("reference", ""),
    )  # fmt: skip
    return made.invoice.of_id


@_refusing
def take_back(request, invoice_id, payment_id):
    return billing.take_back(request.user, payment_id, request.POST.get("why", "")).invoice.of_id


def pdf(request, invoice_id):
    """The invoice as it was sent."""
    require(request.user, "view")
    found = _invoice(request, invoice_id)
    if not found.file:
        raise Http404
    response = HttpResponse(read_invoice(found), content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="invoice-{found.number}.pdf"'
    return response


# Over all clients


def everybody(request, status=200, **more):
    """What is to be invoiced, what is owed since when, what was paid; many at once."""
    require(request.user, "view")
    if request.method == "POST" and status == 200:
        return _many(request)
    actor, which = request.user, request.GET.get("which", "open")
    which = which if which in aging.WHICH else "open"
    rows = aging.to_invoice(actor) if which == "none" else aging.invoices(actor, which)
    if words := request.GET.get("q", "").strip():
        rows = rows.filter(household__name__icontains=words)
    if form := request.GET.get("as"):
        return _file(form, which, rows, actor)
    counted, owed = aging.numbers(actor)
    context = {
        "which": which, "whiches": [(code, words, counted[code]) for code, words in aging.WHICH.items()], "owed": owed,
        "q": request.GET.get("q", ""), "kept": urlencode({"which": which, "q": request.GET.get("q", "")}),
        "may_bill": may(actor, "bill"), "ages": [name for _, name in aging.AGES], "rows": rows[:_LISTED],
        "currency": usual_pack().currency,
    }  # fmt: skip
    if which in ("open", "late"):
        context["rows"], context["sums"] = aging.columns(rows[:_LISTED], actor.firm.today())
    return with_round(request, "fees/everybody.html", context | more, reverse("fees"), "invoice", status)


def _file(form, which, rows, actor):
    if which == "none":
        return export(form, "to-invoice", ["Client", "Year", "Stage"], ([r.household.name, r.year, r.stage] for r in rows))
    heads = ["Invoice", "Client", "Year", "To", "Sent", "Due", "Total", "Paid", "Owed", "Days overdue"]
    today = actor.firm.today()
    data = (
        [one.number, one.household.name, one.of.year, one.to and one.to.full_name, one.sent_on, one.due, one.total, one.paid,
         one.open, max((today - one.due).days, 0) if one.due and one.open > 0 else 0]
        for one in rows
    )  # fmt: skip
    return export(form, f"invoices-{which}", heads, data)


def _many(request):
    act = request.POST.get("act", "")
    try:
        if act not in ("invoice", "dun"):
            raise BadValue("Choose what to send.", act)
        chosen = [pk for pk in map(whole_number, request.POST.getlist("of")) if pk is not None]
        made = rounds.begin(request.user, act, chosen)
    except BadValue as bad:
        return everybody(request, 422, refused=bad.says)
    return redirect(f"{reverse('fees')}?{urlencode({'which': request.POST.get('which', ''), 'round': made.pk})}")


# The practice's prices


def prices_page(request, status=200, **more):
    """The price list, and whether returns wait for their fee."""
    require(request.user, "view")
    firm, pack = request.user.firm, usual_pack()
    things = prices.counted_things(pack)
    names = {code: name for known in things.values() for code, name in known}
    context = {
        "prices": [(one, names.get(one.code, "")) for one in prices.listed(firm, pack.code).select_related("by")],
        "kinds": Per.choices, "things": [(Per(per).label, known) for per, known in things.items()], "firm": firm,
        "may_administer": may(request.user, "administer"), "currency": pack.currency,
    }  # fmt: skip
    return render(request, "fees/prices.html", context | more, status=status)


@said_on(prices_page)
def add_price(request):
    given = request.POST
    values = [given.get(name, "") for name in ("per", "name", "amount", "code")]
    prices.add(request.user, usual_pack(), *values, included=whole_number(given.get("included", "") or "0"))
    return redirect("prices")


@said_on(prices_page)
def end_price(request, price_id):
    prices.end(request.user, price_id)
    return redirect("prices")


@said_on(prices_page)
def pay_first(request):
    """Whether nothing is filed before its invoice is paid."""
    require(request.user, "administer", request.user)
    with transaction.atomic():
        firm = Firm.objects.select_for_update().get(pk=request.user.firm_id)
        firm.pay_first = "first" in request.POST
        firm.save(update_fields=["pay_first"])
        record(request.user, "fees", firm=firm, says="paid before filing" if firm.pay_first else "filing does not wait")
    return redirect("prices")
