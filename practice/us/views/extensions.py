"""Return / More time: what each authority wants for an extension, asked, paid, made ready and sent from one page."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.dispatch.models import Asked
from practice.firm.numbers import whole_number
from practice.firm.permissions import may, require
from practice.pages.lists import export
from practice.returns.changing import Settled
from practice.returns.leaving import without_left
from practice.returns.models import Return, Stage, counted
from practice.returns.page import open_page
from practice.returns.round_pages import with_round
from practice.returns.rounds import begin
from practice.us import extending
from taxcore.engine import BadValue
from taxcore.packs.us.extensions import state_of

_UNFILED = [Stage.GATHER, Stage.PREPARE, Stage.REVIEW, Stage.SIGN]


def show(request, return_id, status=200, **more):
    """The page; also its own fragment, which refreshes itself while something is under way."""
    return_, result, context = open_page(request, return_id)
    lines = extending.lines_of(return_, result)
    if form := request.GET.get("as"):
        return _export(form, return_, lines)
    requests = [line.request for line in lines if line.request]
    context |= {
        "tab": "sign",
        "lines": lines,
        "local": result.run.single("extension").local,
        "totals": [sum(getattr(line.one, name) for line in lines) for name in ("expected", "paid", "balance", "paying")],
        "open": [line for line in lines if line.request and line.request.state == Asked.OPEN],
        "any_ready": any(one.ready and one.state == Asked.OPEN for one in requests),
        "all_asked": all(line.request for line in lines if line.one.made),
        "may_extend": may(request.user, "extend"),
        "may_file": may(request.user, "file"),
        "under_way": any(one.state in (Asked.QUEUED, Asked.SENT) for one in requests),
    }
    template = "us/_extensions.html" if request.htmx else "us/extensions.html"
    return render(request, template, context | more, status=status)


def _export(form, return_, lines):
    heads = ["Authority", "Rule", "Expected tax", "Paid so far", "Balance", "Paying", "Goes", "Form", "Due", "Then", "State"]
    rows = [
        [line.one.name, line.one.rule, line.one.expected, line.one.paid, line.one.balance, line.one.paying, line.one.sends,
         line.one.form, line.one.due.isoformat(), line.one.until.isoformat() if line.one.until else "",
         line.request.get_state_display() if line.request else "not asked"]
        for line in lines
    ]  # fmt: skip
    return export(form, f"extensions-{return_.pk}", heads, rows)


def _refused(act):
    """A view around a service: what cannot be done is said on the page, and nothing that was typed is lost."""

    @require_POST
    def inner(request, return_id, **how):
        try:
            said = act(request, return_id, **how)
        except (extending.CannotExtend, Settled) as error:
            messages.error(request, error.says)
        except BadValue as bad:
            typed = {"refused": bad.says, "refused_code": how.get("code", "new"), "typed": next(iter(_typed(request)), "")}
            return show(request, return_id, 422, **typed)
        else:
            messages.success(request, said)
        return redirect("extensions", return_id)

    return inner


def _typed(request):
    return [value for name, value in request.POST.items() if name in ("amount", "state")]


_LISTED = 300


def many(request):
    """Returns of the practice that are not filed yet, the soonest due first: ask for more time for those chosen, or send."""
    require(request.user, "view")
    if request.method == "POST":
        return _begin(request)
    return _list(request)


def _begin(request):
    act = "send" if request.POST.get("act") == "send" else "ask"
    try:
        made = begin(request.user, act, _chosen(request))
    except BadValue as bad:
        return _list(request, 422, refused=bad.says)
    return redirect(f"{reverse('more-time')}?round={made.pk}")


def _chosen(request):
    return [pk for pk in map(whole_number, request.POST.getlist("of")) if pk is not None]


def _list(request, status=200, **more):
    rows = without_left(counted(Return.objects.for_staff(request.user)), request.user.firm).exclude(purpose="amending")
    rows = rows.select_related("household", "preparer").prefetch_related("extensions")
    rows = rows.filter(stage__in=_UNFILED, year=request.user.firm.season).order_by("due", "household__name")
    if words := request.GET.get("q", "").strip():
        rows = rows.filter(household__name__icontains=words)
    if form := request.GET.get("as"):
        heads = ["Household", "Year", "Stage", "Authorities", "Due", "Extensions"]
        return export(form, "more-time", heads, [
            [row.household.name, row.year, row.get_stage_display(), row.authorities, row.due.isoformat(), _asked_words(row)]
            for row in rows
        ])  # fmt: skip
    number = rows.count()
    context = {
        "rows": [(row, _asked_words(row)) for row in rows[:_LISTED]],
        "more": max(number - _LISTED, 0),
        "may_extend": may(request.user, "extend"),
        "may_file": may(request.user, "file"),
    }
    return with_round(request, "us/many_extensions.html", context | more, reverse("more-time"), "extensions", status)


def _asked_words(row):
    found = [f"{_letters(one.authority)} {one.get_state_display()}" for one in row.extensions.all()]
    return ", ".join(found)


def _letters(code):
    return state_of(code) or "US"


@_refused
def ask(request, return_id):
    """All of the return, one authority of the list, or a state by its name."""
    code = request.POST.get("code", "")
    state = None if code else request.POST.get("state")
    asked = extending.ask(request.user, return_id, [code] if code else None, state)
    return f"{len(asked)} extensions requested." if asked else "All extensions were requested already."


@_refused
def pay(request, return_id, code):
    value = extending.pay(request.user, return_id, code, request.POST.get("amount", ""))
    return f"{value or 0} is paid with the extension, and counts on the return."


@_refused
def ready(request, return_id):
    codes, on = request.POST.getlist("code") or None, request.POST.get("ready") == "yes"
    switched = extending.make_ready(request.user, return_id, codes, on)
    return f"{switched} {'ready to go' if on else 'held back'}."


@_refused
def take_back(request, return_id, code):
    extending.take_back(request.user, return_id, code)
    return "No extension is requested there."


@_refused
def send(request, return_id):
    sent = extending.send_ready(request.user, return_id)
    return f"{len(sent)} on their way." if sent else "Nothing had to be sent; the extended due dates apply."
