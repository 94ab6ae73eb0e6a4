"""One's own account: password, second factor, sessions; and the pages for those who have none yet."""

import json

import segno
from django.conf import settings
from django.contrib import messages
from django.contrib.auth import update_session_auth_hash
from django.http import Http404, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.safestring import mark_safe
from django.views.decorators.http import require_POST

from practice.firm import passkeys, second_factor, sessions
from practice.firm.events import record
from practice.firm.models import Factor
from practice.firm.numbers import whole_number
from practice.firm.packs import usual_pack
from practice.firm.refusals import Cannot
from practice.firm.typed_values import day_of
from practice.firm.views import host_of
from practice.pages.calendar import calendar_file
from practice.signing import preparing
from practice.staff import beginning, calendars, inviting, managing
from practice.staff.models import CalendarLink
from taxcore.engine import BadValue


def account(request, status=200, **more):
    """Who I am here, my second factor, where I am signed in."""
    me = request.user
    context = {
        "factor": Factor.objects.filter(staff=me, confirmed_at__isnull=False).first(), "wanted": second_factor.wanted(me),
        "left": second_factor.codes_left(me), "calendar": CalendarLink.objects.for_firm(me.firm).filter(staff=me).first(),
        "sessions": sessions.open_of(me), "passkeys": me.passkeys.all(),
        "number_name": usual_pack().outgoing.preparer_number,
        "possible": passkeys.possible_at(host_of(request)),
        "this": request.session.get("signed_in"),
    }  # fmt: skip
    return render(request, "staff/account.html", context | more, status=status)


@require_POST
def number(request):
    """The number by which authorities know a paid preparer."""
    typed = request.POST.get("number", "")
    try:
        preparing.set_number(request.user, usual_pack(), typed)
    except BadValue as bad:
        return account(request, 422, refused=bad.says, at="number", typed=typed)
    return redirect("account")


@require_POST
def passkey_begin(request):
    """What the browser asks a device to make."""
    try:
        options, request.session["passkey"] = passkeys.begin_adding(request.user, host_of(request))
    except Cannot as refused:
        return JsonResponse({"says": refused.says}, status=422)
    return JsonResponse(options)


@require_POST
def passkey_finish(request):
    try:
        state, given = request.session.pop("passkey", None), json.loads(request.body)
        if not isinstance(state, dict) or not isinstance(given, dict):
            raise Cannot("This took too long. Try again.")
        passkeys.add(request.user, host_of(request), state, given.get("answer"), str(given.get("name", "")))
    except (Cannot, BadValue) as refused:
        return JsonResponse({"says": refused.says}, status=422)
    except ValueError:
        return JsonResponse({"says": "This is no answer of a device."}, status=422)
    messages.success(request, "The passkey is added. It signs you in by itself.")
    return JsonResponse({})


@require_POST
def passkey_remove(request, passkey_id):
    passkeys.remove(request.user, passkey_id)
    return redirect("account")


@require_POST
def password(request):
    """Another password; every other session ends."""
    given = request.POST
    if not request.user.check_password(given.get("now", "")):
        return account(request, 422, refused="That is not your password.", at="now")
    try:
        inviting.set_password(request.user, given.get("new", ""))
    except BadValue as bad:
        return account(request, 422, refused=bad.says, at="new")
    update_session_auth_hash(request, request.user)
    others = [one for one in sessions.open_of(request.user) if one.pk != request.session.get("signed_in")]
    sessions.end(request.user, others)
    _keep_key(request)
    record(request.user, "password changed", firm=request.user.firm)
    messages.success(request, "Your password is changed. You stay signed in here and nowhere else.")
    return redirect("account")


def _keep_key(request):
    """A session that got another key is still the same one."""
    row = request.session.get("signed_in")
    if row is not None:
        request.user.sessions.filter(pk=row).update(key=request.session.session_key)


@require_POST
def away(request):
    text = request.POST.get("until", "")
    try:
        managing.set_away(request.user, request.user.pk, day_of(text, "The day") if text.strip() else None)
    except BadValue as bad:
        return account(request, 422, refused=bad.says, at="until", typed=text)
    return redirect("account")


@require_POST
def end_sessions(request):
    """One of mine, or all but this one."""
    chosen, this = whole_number(request.POST.get("of", "")), request.session.get("signed_in")
    rows = [one for one in sessions.open_of(request.user) if (one.pk == chosen if chosen else one.pk != this)]
    messages.success(request, f"{sessions.end(request.user, rows)} ended.")
    return redirect("account")


def factor(request, status=200, **more):
    """Set up: a picture for the authenticator, then a code that proves it; then the recovery codes, once."""
    if second_factor.in_force(request.user) and "codes" not in more:
        return redirect("account")
    context = {"wanted": second_factor.wanted(request.user)}
    if "codes" not in more:
        made = second_factor.begin(request.user)
        if request.method == "POST" and status == 200:
            try:
                codes = second_factor.confirm(request.user, request.POST.get("code", ""))
            except second_factor.WrongCode as wrong:
                return factor(request, 422, error=wrong.says)
            request.session["needs_factor"] = False
            return factor(request, codes=codes)
        picture = segno.make(second_factor.address_of(made), error="m")
        drawn = picture.svg_inline(
            scale=5, border=2, dark="#14231b", light="#ffffff", omitsize=False, title="Picture for an authenticator app"
        )
        spaced = " ".join(made.secret[at : at + 4] for at in range(0, len(made.secret), 4))
        context |= {"picture": mark_safe(drawn), "secret": spaced}
    return render(request, "staff/second_factor.html", context | more, status=status)


@require_POST
def new_codes(request):
    try:
        return factor(request, codes=second_factor.new_codes(request.user, request.POST.get("code", "")))
    except second_factor.WrongCode as wrong:
        return account(request, 422, refused=wrong.says, at="codes")


@require_POST
def remove_factor(request):
    try:
        second_factor.remove(request.user, request.POST.get("code", ""))
    except second_factor.WrongCode as wrong:
        return account(request, 422, refused=wrong.says, at="remove")
    request.session["needs_factor"] = second_factor.wanted(request.user)
    return redirect("second-factor" if second_factor.wanted(request.user) else "account")


@require_POST
def calendar(request):
    """An address for a calendar, shown once; or none."""
    if "end" in request.POST:
        calendars.end(request.user)
        return redirect("account")
    token = calendars.make(request.user, "named" in request.POST)
    return account(request, feed=settings.PUBLIC_URL + reverse("calendar-feed", args=[token]))


# Nobody is signed in


def feed(request, token):
    """What is due, for a calendar that knows the address."""
    link = calendars.of_token(token)
    if link is None:
        raise Http404
    return calendar_file(f"Impuesto, {link.staff.initials}", calendars.entries(link), "due.ics")


def join(request, token):
    """A password for somebody who was invited, or who forgot theirs."""
    try:
        row = inviting.look_up(token)
        if request.method == "POST":
            inviting.accept(token, request.POST.get("password", ""))
            messages.success(request, "Your password is set. Sign in with it.")
            return redirect("sign-in")
    except Cannot as cannot:
        return render(request, "web/refused.html", {"title": "Not valid", "says": cannot.says}, status=410)
    except BadValue as bad:
        return render(request, "staff/join.html", {"row": row, "error": bad.says}, status=422)
    return render(request, "staff/join.html", {"row": row})


def set_up(request, key):
    """The first practice on this machine and its first person."""
    if not beginning.opens(key):
        return redirect("sign-in")
    error = ""
    if request.method == "POST":
        try:
            beginning.begin(key, request.POST, request.POST.get("password", ""))
            messages.success(request, "Your practice is set up. Sign in.")
            return redirect("sign-in")
        except BadValue as bad:
            error = bad.says
    context = {"error": error, "typed": request.POST}
    return render(request, "staff/set_up.html", context, status=422 if error else 200)
