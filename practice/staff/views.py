"""Who works here, for administrators; the letterhead; what a practice sets up; what happened."""

from django.contrib import messages
from django.db.models import Q
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from practice.firm import certificates, passkeys, second_factor, sessions
from practice.firm.models import Certificate, Event, Factor, Role, Staff
from practice.firm.numbers import whole_number
from practice.firm.permissions import may, require
from practice.firm.refusals import Cannot
from practice.firm.typed_values import day_of
from practice.pages.lists import export
from practice.pages.refusing import said_on
from practice.staff import beginning, inviting, look, managing
from practice.staff.models import Invitation
from taxcore.engine import BadValue

_PAGE = 100
_MOST = 100_000  # events in a file
KINDS = {
    "access": ("signed in", "session ended", "second factor", "passkey", "recovery code", "password", "refused", "portal"),
    "staff": ("colleague", "invitation", "role changed", "leave", "work reassigned", "practice set up"),
    "sensitive": ("number shown", "document viewed", "document downloaded", "package", "authorization read", "return exported",
                  "client handed over", "client restricted", "restriction lifted", "clients merged",
                  "questionnaire printed", "letter printed", "set ", "documents deleted"),
    "practice": ("letter written", "price", "conditions for locking", "letterhead", "fees", "reminders", "practice",
                 "always asked", "no longer asked", "PDF certificate", "e-file numbers", "who takes on clients",
                 "words changed", "documents kept for", "signatures before filing"),
    "filing": ("return locked", "lock opened", "signed", "signature", "represented", "way of filing", "mailed", "attachment",
               "filed", "sent", "accepted", "rejected", "extension"),
}  # fmt: skip


def staff(request, status=200, **more):
    """Everybody with role, second factor, last seen; who is invited."""
    require(request.user, "view")
    firm = request.user.firm
    rows = list(Staff.objects.filter(firm=firm).order_by("-is_active", "name").prefetch_related("sessions"))
    with_factor = set(Factor.objects.filter(staff__firm=firm, confirmed_at__isnull=False).values_list("staff_id", flat=True))
    context = {
        "rows": [(one, one.pk in with_factor, max((s.seen_at for s in one.sessions.all()), default=None)) for one in rows],
        "invited": Invitation.objects.for_firm(firm).filter(used_at=None, withdrawn_at=None).select_related("by"),
        "roles": Role.choices, "firm": firm, "may_administer": may(request.user, "administer"),
    }  # fmt: skip
    return render(request, "staff/staff.html", context | more, status=status)


@said_on(staff)
def invite(request):
    given = request.POST
    values = [given.get(name, "") for name in ("email", "name", "initials", "role")]
    made = inviting.invite(request.user, *values)
    messages.success(request, f"{made.name} gets a link by email.")
    return redirect("staff")


@said_on(staff)
def withdraw(request, invitation_id):
    inviting.withdraw(request.user, invitation_id)
    return redirect("staff")


@said_on(staff)
def ask_of(request):
    second_factor.ask_of(request.user, request.POST.getlist("role"))
    return redirect("staff")


def colleague(request, staff_id, status=200, **more):
    """One colleague: role, leave, what lies with them, sessions."""
    require(request.user, "administer", request.user)
    found = Staff.objects.filter(firm=request.user.firm_id, pk=staff_id).first()
    if found is None:
        return redirect("staff")
    context = {
        "who": found, "roles": Role.choices, "numbers": managing.numbers_of(found), "sessions": sessions.open_of(found),
        "others": Staff.objects.filter(firm=found.firm_id, is_active=True).exclude(pk=found.pk).order_by("name"),
        "factor": second_factor.in_force(found), "wanted": second_factor.wanted(found),
    }  # fmt: skip
    return render(request, "staff/colleague.html", context | more, status=status)


@require_POST
def change(request, staff_id):
    """One thing about a colleague; `does` says which."""
    given = request.POST
    do = _CHANGES.get(given.get("does", ""))
    try:
        if do is None:
            raise BadValue("Choose what to change.", "")
        if says := do(request, staff_id, given):
            messages.success(request, says)
    except (Cannot, BadValue) as refused:
        return colleague(request, staff_id, 422, refused=refused.says)
    return redirect("colleague", staff_id)


def _away(request, staff_id, given):
    until = given.get("until", "").strip()
    managing.set_away(request.user, staff_id, day_of(until, "The day") if until else None)


def _hand_over(request, staff_id, given):
    moved = managing.hand_over(request.user, staff_id, whole_number(given.get("to", "")))
    says = ", ".join(f"{number} {name}" for name, number in moved.items() if number)
    return f"{says} reassigned." if says else "Nothing lay with them."


def _reset(request, staff_id, given):
    found = Staff.objects.filter(firm=request.user.firm_id, pk=staff_id).first()
    if found is None:
        raise Cannot("There is no such colleague.")
    second_factor.reset(request.user, found)
    passkeys.reset(request.user, found)
    return f"{found.name} sets up another one when they sign in next."


def _end_sessions(request, staff_id, given):
    found = Staff.objects.filter(firm=request.user.firm_id, pk=staff_id).first()
    ended = sessions.end(request.user, sessions.open_of(found)) if found else 0
    return f"{ended} ended."


def _password(request, staff_id, given):
    return f"{inviting.send_password_link(request.user, staff_id).name} gets a link by email."


_CHANGES = {
    "role": lambda request, staff_id, given: managing.change_role(request.user, staff_id, given.get("role", "")) and "",
    "away": _away, "hand-over": _hand_over, "reset": _reset, "end": _end_sessions, "password": _password,
    "leave": lambda request, staff_id, given: managing.let_go(request.user, staff_id),
    "back": lambda request, staff_id, given: managing.take_back(request.user, staff_id),
}  # fmt: skip


def letterhead(request, status=200, **more):
    """What stands above letters, invoices and packages."""
    require(request.user, "administer", request.user)
    error = more.get("refused", "")
    if request.method == "POST" and not error:
        try:
            beginning.set_letterhead(request.user, request.POST)
            messages.success(request, "Kept. Letters and packages that were made stay as they were.")
            return redirect("letterhead")
        except BadValue as bad:
            error = bad.says
    firm = request.user.firm
    typed = (
        request.POST if error and not more else {name: getattr(firm, name) for name in ("name", "town", "address", "telephone")}
    )
    context = {"typed": typed, "error": error, "firm": firm, "color": request.POST.get("color", firm.color)}
    return render(request, "staff/letterhead.html", context, status=422 if error else 200)


@said_on(letterhead)
def set_look(request):
    """Picture and color."""
    file = request.FILES.get("picture")
    look.set_look(
        request.user, request.POST.get("color", ""), file.read(look.LARGEST + 1) if file else None, "remove" in request.POST
    )
    messages.success(request, "Kept. It stands on what clients see from now on.")
    return redirect("letterhead")


def certificate(request, status=200, **more):
    """What PDFs that leave are signed with; another one."""
    require(request.user, "administer", request.user)
    if request.method == "POST" and status == 200:
        return _another_certificate(request)
    rows = Certificate.objects.for_staff(request.user).exclude(ended_at=None)[:20]
    context = {"certificate": certificates.in_force(request.user.firm_id), "earlier": rows}
    return render(request, "staff/certificate.html", context | more, status=status)


def _another_certificate(request):
    try:
        if "anew" in request.POST:
            certificates.make(request.user)
        else:
            file = request.FILES.get("file")
            content = file.read(certificates.LARGEST + 1) if file else b""
            certificates.bring(request.user, content, request.POST.get("password", ""))
    except BadValue as bad:
        return certificate(request, 422, refused=bad.says)
    messages.success(request, "PDFs are signed with it from now on. Those that were made stay as they are.")
    return redirect("pdf-certificate")


def certificate_file(request):
    """The public part, as DER."""
    require(request.user, "view")
    response = HttpResponse(
        certificates.public(certificates.in_force(request.user.firm_id)), content_type="application/pkix-cert"
    )
    response["Content-Disposition"] = 'attachment; filename="practice.cer"'
    return response


def begin(request):
    """What is set up and what is not."""
    require(request.user, "administer", request.user)
    rows = beginning.to_do(request.user)
    return render(request, "staff/begin.html", {"rows": rows, "done": sum(one.done for one in rows)})


def log(request):
    """What happened in the practice, the newest first: by kind, by whom, by words; as a file too."""
    require(request.user, "see the log")
    rows, kind = _events(request)
    if form := request.GET.get("as"):
        heads = ["When", "Who", "What", "Says", "Client", "Year"]
        data = (
            [e.at, e.by, e.what, e.says, e.household and e.household.name, e.of and e.of.year] for e in rows[:100_000].iterator()
        )
        return export(form, "log", heads, data)
    before = whole_number(request.GET.get("before", ""))
    shown = list((rows.filter(pk__lt=before) if before else rows)[: _PAGE + 1])
    context = {
        "rows": shown[:_PAGE], "more": shown[_PAGE - 1].pk if len(shown) > _PAGE else None, "kind": kind, "kinds": list(KINDS),
        "who": request.GET.get("who", ""), "q": request.GET.get("q", ""), "kept": _kept(request),
        "people": Staff.objects.filter(firm=request.user.firm_id).order_by("name"),
    }  # fmt: skip
    return render(request, "staff/log.html", context)


def _kept(request):
    given = request.GET.copy()
    given.pop("before", None)
    given.pop("as", None)
    return given.urlencode()


def _events(request):
    rows = Event.objects.for_staff(request.user).select_related("household", "of").order_by("-pk")
    kind = request.GET.get("kind", "")
    if kind in KINDS:
        of_kind = Q()
        for word in KINDS[kind]:
            of_kind |= Q(what__startswith=word)
        rows = rows.filter(of_kind)
    if (who := whole_number(request.GET.get("who", ""))) is not None:
        rows = rows.filter(staff=who)
    if words := request.GET.get("q", "").strip():
        rows = rows.filter(Q(what__icontains=words) | Q(says__icontains=words) | Q(household__name__icontains=words))
    return rows, kind
