"""The client's portal: a link, a code, a summary, a signature, a download. Phone first."""

from functools import wraps

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from practice.clients.models import News
from practice.delivery import plan_sheets, plan_views, printing, prints, stating, stating_views
from practice.delivery.chart import summary_chart
from practice.delivery.packaging import note_download
from practice.delivery.tasks import read_package
from practice.dispatch.models import State
from practice.fees import paying
from practice.gather import answering, lettering, messaging
from practice.gather.models import Turn
from practice.pages.calendar import Entry, calendar_file
from practice.portal import alerting, links
from practice.portal.models import PortalLink
from practice.returns.computing import pack_of, result_of
from practice.returns.frozen import drawn_of
from practice.returns.models import FILED
from practice.review import telling
from practice.signing import needed, requesting
from taxcore.engine import BadValue


def enter(request, token):
    """The page behind a mailed link. Opening it changes nothing; mail scanners open links too."""
    try:
        link = links.look_up(token)
    except links.LinkRefused as refused:
        return _refused(request, refused.says, 410)
    if request.method == "POST":
        try:
            link = links.open_link(token)
        except links.LinkRefused as refused:
            return _refused(request, refused.says, 410)
        request.session.pop("portal", None)
        request.session["portal_pending"] = link.pk
        return redirect("portal-code")
    return render(request, "portal/enter.html", {"link": link})


def _refused(request, says, status):
    return render(request, "portal/refused.html", {"says": says}, status=status)


def code(request):
    """The code from the second mail."""
    pending = request.session.get("portal_pending")
    if pending is None:
        return _refused(request, "Please open the link in the email from the office.", 403)
    error = ""
    if request.method == "POST":
        try:
            if "again" in request.POST:
                links.send_code_again(pending)
                return redirect("portal-code")
            link = links.enter_code(pending, request.POST.get("code", ""))
        except links.LinkRefused as refused:
            error = refused.says
        else:
            request.session.cycle_key()
            request.session.pop("portal_pending")
            request.session["portal"] = link.pk
            return redirect("portal")
    return render(request, "portal/code.html", {"error": error}, status=422 if error else 200)


_FOR_OWNERS = ("home", "statement")


def client_only(view):
    """Only with a proven link that is still open; an owner's opens their own statements alone."""

    @wraps(view)
    def inner(request, *args, **kwargs):
        rows = PortalLink.objects.across_firms("the session proves the client").select_related("of__household", "client", "firm")
        link = rows.filter(pk=request.session.get("portal"), closed_at=None, expires_at__gt=timezone.now()).first()
        if link is None:
            return _refused(request, "Please open the newest link in the email from the office.", 403)
        if link.purpose == links.OWNERS and view.__name__ not in _FOR_OWNERS:
            return redirect("portal")
        request.link = link
        return view(request, *args, **kwargs)

    return inner


def portal_page(link):
    """What every page of the portal begins with."""
    return {"link": link, "of": link.of, "client": link.client, "firm": link.firm, "pack": pack_of(link.of)}


@client_only
def home(request, status=200, **more):
    """The summary in plain words, what is to be signed, what can be downloaded."""
    link = request.link
    if link.purpose == links.OWNERS:
        return render(request, "portal/statements.html", portal_page(link) | {"statements": stating.shared_with(link.client)})
    return_, asked = link.of, _asked(link)
    delivered = _delivered(link)
    snapshot = _shown(asked, delivered)
    context = portal_page(link) | {"asked": asked, "package": delivered, "waits": waiting(link)}
    context["letters"] = list(lettering.letters_for(link))
    context["shared"] = link.of.printed.exclude(shared_at=None).filter(state="ready").select_related("set")
    context["statements"] = stating.shared_with(link.client)
    context["plans"] = plan_sheets.shared_of(link.of)
    context["invoices"] = list(paying.invoices_for(link))
    if snapshot:
        frozen = drawn_of(snapshot)
        first = next(form for form in frozen.forms if form.title == frozen.bottom_lines[0].form)
        context |= {
            "lines": frozen.bottom_lines, "chart": summary_chart(frozen), "result": frozen, "snapshot": snapshot,
            "facts": [line for line in first.lines if line.weight == "total" and line.value],
            "told": _told(return_, frozen), "to_pay": [line for line in frozen.bottom_lines if line.amount < 0],
        }  # fmt: skip
    if asked:
        context |= {"to_sign": _to_sign(link, asked), "sent": _sent(return_)}
        context["expired"] = asked.expired and any(signature is None for _, signature in context["to_sign"])
        context["others"] = next((client.full_name for client, *_ in needed.missing_signatures(return_)), "")
    return render(request, "portal/home.html", context | {"ways": News.choices} | more, status=status)


def _told(return_, frozen):
    """What changed against last year, where the return still is as it was frozen."""
    result = result_of(return_)
    same = [(one.authority.code, one.amount) for one in result.bottom_lines] == [
        (one.code, one.amount) for one in frozen.bottom_lines
    ]
    return telling.told(return_, result) if same else []


@client_only
def dates(request):
    """What is to be paid and when, for a calendar."""
    link = request.link
    snapshot = _shown(_asked(link), _delivered(link))
    lines = [one for one in drawn_of(snapshot).bottom_lines if one.amount < 0] if snapshot else []
    currency = pack_of(link.of).currency
    days = [
        Entry(one.due, f"Pay {one.name} {currency}{-one.amount:,.0f}", one.how_to_pay, f"{link.of_id}-{one.code}")
        for one in lines
    ]
    to_come = drawn_of(snapshot).to_come if snapshot else ()
    days += [
        Entry(one.day, f"Pay {one.name} {currency}{one.amount:,.0f}", one.how, f"{link.of_id}-{one.authority}-{one.day}")
        for one in to_come
    ]
    days += [
        Entry(one.due, f"Pay invoice {one.number}, {currency}{one.open:,}", link.firm.name, f"invoice-{one.pk}")
        for one in paying.invoices_for(link) if one.open > 0
    ]  # fmt: skip
    return calendar_file(f"Taxes {link.of.year}", days, "tax-dates.ics")


def waiting(link):
    """What waits for this client: items asked for, letters, unread messages, as numbers; and how many items there are in all."""
    items = answering.asked_of(link)
    letters = sum(not one.done and not one.declined_at for one in lettering.letters_for(link))
    unread = messaging.thread(link.of.household).filter(client=None, read_at=None).count()
    return {"items": items.filter(turn=Turn.CLIENT).count(), "all": items.count(), "letters": letters, "unread": unread}


def _sent(return_):
    """The return as it left last, unless it came back: then it is sent again first."""
    gone = return_.submissions.exclude(sent_at=None).filter(state__in=[State.SENT, *FILED])
    return gone.order_by("-sent_at").first()


def _asked(link):
    """What this person signs next: their own, else for whom they represent; the last of them once all is signed."""
    rows = requesting.requests_of(link.of, link.client)
    open_ones = [row for row in rows if any(signature is None for _, signature in _to_sign(link, row))]
    return next(iter(open_ones), rows[-1] if rows else None)


def _delivered(link):
    return link.of.packages.exclude(delivered_at=None).order_by("-id").first()


def _shown(asked, delivered):
    """What a client sees of the return: what is to be signed, else what was delivered."""
    return asked.snapshot if asked else delivered.snapshot if delivered else None


def _to_sign(link, asked):
    signed = {s.authority: s for s in link.of.signatures.filter(client=asked.client_id, voided_at=None)}
    codes = [line["code"] for line in asked.snapshot.bottom_lines]
    return [(pack_of(link.of).authority(code), signed.get(code)) for code in codes]


@client_only
def identity(request):
    """Questions by the identity service. A wrong answer may be corrected once."""
    asked, error = _asked(request.link), ""
    if asked is None or asked.expired:
        return redirect("portal")
    try:
        if request.method == "POST":
            given = {key.removeprefix("q-"): value for key, value in request.POST.items() if key.startswith("q-")}
            asked = requesting.answer_identity_check(asked.pk, request.link.client, given)
            if asked.identity_proved_at:
                return redirect("portal-sign")
            if asked.identity_failed_at:
                return _refused(request, "Your answers do not match. Please call the office; you can sign there.", 403)
            error = "Some answers do not match. You can try once more."
        if not asked.identity_proved_at and not asked.identity_questions:
            asked = requesting.begin_identity_check(asked.pk, request.link.client)
    except requesting.CannotSign as cannot:
        return _refused(request, cannot.says, 403)
    except requesting.ServiceAway:
        says = "The verification service is not available. Nothing is lost; please try again in a few minutes."
        return _refused(request, says, 503)
    if asked.identity_proved_at:
        return redirect("portal-sign")
    context = {"asked": asked, "error": error, "firm": request.link.firm}
    return render(request, "portal/identity.html", context, status=422 if error else 200)


@client_only
def whole_return(request):
    """Every form as the package will have it. Who goes on from here has examined the return."""
    asked = _asked(request.link)
    if asked is None or asked.expired:
        return redirect("portal")
    if request.method == "POST":
        requesting.note_read(asked.pk, request.link.client)
        return redirect("portal-sign")
    context = {
        "of": request.link.of, "firm": request.link.firm, "asked": asked, "result": drawn_of(asked.snapshot),
        "may_sign": any(signature is None for _, signature in _to_sign(request.link, asked)),
    }  # fmt: skip
    return render(request, "portal/return.html", context)


@client_only
def sign(request):
    """One canvas after the other, an authority each."""
    asked, error = _asked(request.link), ""
    if asked is None or asked.expired:
        return redirect("portal")
    if asked.read_at is None:
        return redirect("portal-return")
    if asked.identity_proved_at is None:
        return redirect("portal-identity")
    if request.method == "POST":
        try:
            requesting.sign_in_portal(
                request.link.client, asked.pk, request.POST.get("authority", ""), request.POST.get("image", ""),
                request.META.get("REMOTE_ADDR"), request.POST.get("pin", ""),
            )  # fmt: skip
            return redirect("portal-sign")
        except requesting.CannotSign as cannot:
            error = cannot.says
    remaining = [authority for authority, signature in _to_sign(request.link, asked) if signature is None]
    if not remaining:
        return redirect("portal")
    line = next(line for line in asked.snapshot.bottom_lines if line["code"] == remaining[0].code)
    context = {
        "asked": asked, "pin": request.POST.get("pin", ""), "authority": remaining[0], "left": len(remaining),
        "line": line, "error": error, "pack": pack_of(request.link.of),
        "client": request.link.client, "firm": request.link.firm, "of": request.link.of,
    }  # fmt: skip
    return render(request, "portal/sign.html", context, status=422 if error else 200)


@client_only
def download(request):
    """The delivered package; taking it is recorded."""
    package = request.link.of.packages.exclude(delivered_at=None).filter(state="ready").order_by("-id").first()
    if package is None:
        raise Http404
    content = read_package(package)
    note_download(package, request.link.client)
    response = HttpResponse(content, content_type="application/pdf")
    response["Content-Disposition"] = f'attachment; filename="tax-return-{package.of.year}.pdf"'
    return response


@client_only
def printed(request, printed_id):
    """A set that the office shared; taking it is recorded."""
    row = request.link.of.printed.exclude(shared_at=None).filter(pk=printed_id, state="ready").select_related("set", "of").first()
    if row is None:
        raise Http404
    printing.note_taken(row, request.link.client)
    return prints.given_out(row)


@client_only
def statement(request, statement_id):
    """What a return states to this client; taking it is recorded."""
    row = next((one for one in stating.shared_with(request.link.client) if one.pk == statement_id), None)
    if row is None:
        raise Http404
    stating.note_taken(row)
    return stating_views.given_out(row)


@client_only
def plans(request, sheet_id):
    """Plans that the office sent; taking them is recorded."""
    sheet = plan_sheets.shared_of(request.link.of).filter(pk=sheet_id).select_related("of").first()
    if sheet is None:
        raise Http404
    plan_sheets.note_taken(sheet, request.link.client)
    return plan_views.given_out(sheet)


@require_POST
@client_only
def news(request):
    """How the client wants to hear what becomes of the return."""
    try:
        alerting.choose_news(request.link, request.POST.get("way", ""), request.POST.get("telephone", ""))
    except BadValue as bad:
        return home(request, 422, refused=bad.says, typed=request.POST)
    return redirect(reverse("portal") + "#news")


@require_POST
def leave(request):
    request.session.pop("portal", None)
    return render(request, "portal/refused.html", {"says": "You are signed out. Use a new link to come back.", "calm": True})
