"""What the office does about a client's part: requests, letters, messages; and the list over all clients."""

from datetime import date, timedelta
from urllib.parse import urlencode

from django.contrib import messages
from django.db.models import Count, Max, Min, Q
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.events import record
from practice.firm.models import Staff
from practice.firm.numbers import whole_number
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, may, require
from practice.firm.refusals import Cannot
from practice.gather import lettering, messaging, people, printed, requesting, surveying, usual, wording
from practice.gather.models import Kind, Letter, LetterKind, Message, Reply, Turn, Wording
from practice.gather.suggesting import suggested
from practice.intake import incoming
from practice.pages.back import back_or
from practice.pages.lists import export
from practice.pages.refusing import said_on
from practice.returns import rounds
from practice.returns.computing import pack_of
from practice.returns.leaving import without_left
from practice.returns.models import Purpose, Return, Stage, counted
from practice.returns.page import head_of, live_papers, open_page
from practice.returns.round_pages import with_round
from taxcore.engine import BadValue

_LISTED = 300


def requests(request, return_id, status=200, **more):
    """A return's request with what came of it, its letters, and the messages with the client."""
    return_, result, context = open_page(request, return_id)
    if return_.purpose == Purpose.PLANNING:
        return redirect("plan", return_.pk)
    found = requesting.open_request(return_) or return_.requests.first()
    papers = live_papers(return_)
    context |= {"tab": "sign", "request_": found, "rows": (rows := _rows(found, papers) if found else [])} | head_of(
        return_, result
    )
    context |= {
        "papers": [(paper.pk, _named(return_, paper)) for paper in papers if not pack_of(return_).paper(paper.kind).single],
        "kinds": Kind.choices[:2], "may_ask": may(request.user, "ask clients"),
        "may_write": may(request.user, "write to clients"),
        "may_note": may(request.user, "note"), "to": people.asked_first(return_),
        "outstanding": found and requesting.outstanding(found),
        "thread": messaging.thread(return_.household), "staff": Staff.objects.filter(firm=return_.firm_id, is_active=True),
        "letters": return_.letters.filter(withdrawn_at=None).select_related("text", "person", "sent_by"),
        "first_new": next((one.pk for one, _ in rows if one.turn == Turn.OFFICE and one.reply != Reply.BACK), None),
        "texts": lettering.texts(return_.firm, return_.pack), "letter_kinds": LetterKind.choices,
    }  # fmt: skip
    messaging.note_read(return_.household, by_client=False)
    return render(request, "gather/requests.html", context | more, status=status)


def _rows(found, papers):
    """(item, its files with the paper that each may belong to)."""
    items = found.items.exclude(turn=Turn.WITHDRAWN).select_related("client", "paper", "settled_by")
    rows = []
    for item in items.prefetch_related("uploads__attachment__paper", "uploads__attachment__of"):
        files = [one.attachment for one in item.uploads.all() if one.attachment.removed_at is None]
        rows.append((item, [(file, suggested(file, papers) if file.paper_id is None else None) for file in files]))
    return rows


def _named(return_, paper):
    declared = pack_of(return_).paper(paper.kind)
    return str(paper.values.get(declared.heading) or declared.name)[:60]


def _back(return_id, part=""):
    return redirect(reverse("requests", args=[return_id]) + part)


@said_on(requests, "return_id")
def start(request, return_id):
    requesting.drafted(request.user, return_id)
    return _back(return_id)


@said_on(requests, "return_id")
def add(request, return_id):
    given = request.POST
    requesting.add_item(request.user, return_id, given.get("kind", ""), given.get("text", ""), given.get("help", ""))
    return _back(return_id)


@said_on(requests, "return_id")
def send(request, return_id):
    given = request.POST
    every = whole_number(given.get("every", ""), most=90)
    sent = requesting.send(request.user, return_id, given.get("word", ""), _day(given.get("due", "")), every)
    messages.success(request, f"Sent to {sent.sent_to.full_name}.")
    return _back(return_id)


def _day(text):
    """A day as the browser's own field gives it, or none."""
    try:
        return date.fromisoformat(text.strip()) if text.strip() else None
    except ValueError:
        raise BadValue("Enter a day such as 03/01/2026.", text) from None


@said_on(requests, "return_id")
def remind(request, return_id):
    sent = requesting.remind(request.user, return_id)
    messages.success(request, f"Reminder sent to {sent.sent_to.full_name}.")
    return _back(return_id)


@said_on(requests, "return_id")
def settle(request, return_id, item_id):
    """Accepted, asked again, worded otherwise, or not asked any more."""
    given, does = request.POST, request.POST.get("does", "")
    if does == "accept":
        requesting.accept(request.user, return_id, item_id)
    elif does == "again":
        requesting.ask_again(request.user, return_id, item_id, given.get("why", ""))
    elif does == "change":
        requesting.change_item(request.user, return_id, item_id, given.get("text", ""), given.get("help", ""))
    elif does == "withdraw":
        requesting.withdraw(request.user, return_id, item_id)
    return redirect(back_or(request, reverse("requests", args=[return_id])))


def questionnaire(request, return_id, status=200, **more):
    """The client's answers on one page, what is to be taken over, last year's beside."""
    return_, _, context = open_page(request, return_id)
    item = surveying.survey_of(return_)
    if item is None:
        return redirect("requests", return_.pk)
    rows = surveying.questions(return_, item)
    waiting = [one for one in rows if one.told is not None and one.told.taken_at is None]
    context |= {
        "tab": "sign", "item": item, "rows": rows, "before": return_.year - 1, "may_key": may(request.user, "key"),
        "noes": sum(one.is_plain_no for one in waiting),
        "first": next((one.question.key for one in waiting if one.told.yes), ""),
    }  # fmt: skip
    return render(request, "gather/questionnaire.html", context | more, status=status)


def questionnaire_pdf(request, return_id):
    return_, _, _ = open_page(request, return_id)
    item = surveying.survey_of(return_)
    if item is None:
        return redirect("requests", return_.pk)
    record(request.user, "questionnaire printed", return_)
    return HttpResponse(printed.questionnaire_pdf(return_, item), content_type="application/pdf")


@require_POST
def take_told(request, return_id):
    """One answer, or every no, into the guided entry."""
    given = request.POST
    try:
        if "noes" in given:
            messages.success(request, f"{surveying.take_noes(request.user, return_id)} answers taken over.")
        else:
            numbers = {name[2:]: whole_number(text) for name, text in given.items() if name.startswith("n-")}
            counts = {kind: number for kind, number in numbers.items() if number is not None}
            surveying.take(request.user, return_id, given.get("key", ""), counts)
    except (Cannot, BadValue) as refused:
        return questionnaire(request, return_id, 422, refused=refused.says, at=given.get("key", ""))
    return redirect("questionnaire", return_id)


@said_on(requests, "return_id")
def send_letters(request, return_id):
    chosen = [kind for kind in request.POST.getlist("kind") if kind in LetterKind.values]
    if not chosen:
        raise BadValue("Choose a letter.", "")
    made = lettering.send(request.user, return_id, chosen)
    messages.success(request, f"{len(made)} sent." if made else "Sent or signed already.")
    return _back(return_id, "#letters")


def letter(request, return_id, letter_id):
    """A letter as it was sent, with what was signed under it."""
    return_, _, context = open_page(request, return_id)
    found = fetch(Letter.objects.select_related("text", "person", "sent_by").filter(of=return_), request.user, pk=letter_id)
    return render(request, "gather/letter.html", context | {"tab": "sign", "letter": found})


def letter_pdf(request, return_id, letter_id):
    return_, _, _ = open_page(request, return_id)
    found = fetch(Letter.objects.select_related("text", "person", "of__firm").filter(of=return_), request.user, pk=letter_id)
    record(request.user, "letter printed", return_, says=found.text.get_kind_display())
    return HttpResponse(printed.letter_pdf(found), content_type="application/pdf")


@said_on(requests, "return_id")
def write(request, return_id):
    messaging.write(request.user, return_id, request.POST.get("words", ""))
    return _back(return_id, "#messages")


@require_POST
def point(request, message_id):
    """A message becomes somebody's open point, or is closed."""
    if "close" in request.POST:
        found = messaging.close_point(request.user, message_id)
    else:
        found = messaging.make_point(request.user, message_id, whole_number(request.POST.get("for", "")))
    return redirect(back_or(request, reverse("requests", args=[found.of_id])))


# Over all clients


_WHICH = {
    "new": "new from clients", "waiting": "waiting for clients", "week": "waiting longer than a week",
    "none": "not asked yet", "points": "messages to answer",
}  # fmt: skip


def everybody(request, status=200, **more):
    """Who is asked for what, who waits how long, when the next reminder goes out; requests and reminders for many at once."""
    require(request.user, "view")
    if request.method == "POST" and status == 200:
        return _many(request)
    which = request.GET.get("which", "new")
    rows = _chosen(request, which)
    if form := request.GET.get("as"):
        heads = ["Client", "Year", "Asked", "Outstanding", "New", "Asked on", "Reminded", "Next reminder"]
        data = ([r.household.name, r.year, r.all_items, r.left, r.fresh, r.asked_on, r.reminded, r.next_on] for r in rows)
        return export(form, "requests", heads, data)
    numbers = {code: _chosen(request, code).count() for code in _WHICH}
    context = {
        "which": which, "whiches": [(code, words, numbers[code]) for code, words in _WHICH.items()], "rows": rows[:_LISTED],
        "number": numbers.get(which, 0), "q": request.GET.get("q", ""), "may_ask": may(request.user, "ask clients"),
        "kept": urlencode({"which": which, "q": request.GET.get("q", "")}), "firm": request.user.firm,
        "may_administer": may(request.user, "administer"), "came_in": incoming.waiting(request.user).count(),
    }  # fmt: skip
    return with_round(request, "gather/everybody.html", context | more, reverse("all-requests"), "requests", status)


def _chosen(request, which):
    """Returns with the numbers of their open request, those that waited longest first."""
    open_ = Q(items__request__closed_at=None, items__request__sent_on__isnull=False)
    rows = without_left(counted(Return.objects.for_staff(request.user)), request.user.firm).exclude(stage=Stage.DONE)
    rows = rows.select_related("household", "preparer").annotate(
        all_items=Count("items", filter=open_ & ~Q(items__turn=Turn.WITHDRAWN)),
        left=Count("items", filter=open_ & Q(items__turn=Turn.CLIENT)),
        fresh=Count("items", filter=open_ & Q(items__turn=Turn.OFFICE)),
        asked_on=Min("items__request__sent_on", filter=open_),
        reminded=Max("items__request__reminded_on", filter=open_),
        next_on=Min("items__request__remind_on", filter=open_),
    )
    if words := request.GET.get("q", "").strip():
        rows = rows.filter(household__name__icontains=words)
    if which == "none":
        rows = rows.filter(stage=Stage.GATHER, asked_on=None)
    elif which == "waiting":
        rows = rows.filter(left__gt=0)
    elif which == "week":
        rows = rows.filter(left__gt=0, track__waits="client", track__since__lt=_week_ago(request.user.firm))
    elif which == "points":
        rows = rows.filter(household__messages__in=_to_answer(request.user)).distinct()
    else:
        rows = rows.filter(fresh__gt=0)
    return rows.order_by("asked_on", "household__name", "pk")


def _week_ago(firm):
    return firm.today() - timedelta(days=7)


def _to_answer(actor):
    """Messages of clients that nobody read, or that are somebody's open point."""
    waiting = Q(read_at=None) | Q(point_for__isnull=False, closed_at=None)
    return Message.objects.for_staff(actor).filter(waiting, staff=None)


def _many(request):
    act = request.POST.get("act", "")
    try:
        if act not in ("request", "remind", "letters"):
            raise BadValue("Choose what to send.", act)
        chosen = [pk for pk in map(whole_number, request.POST.getlist("of")) if pk is not None]
        made = rounds.begin(request.user, act, chosen)
    except BadValue as bad:
        return everybody(request, 422, refused=bad.says)
    return redirect(f"{reverse('all-requests')}?{urlencode({'which': request.POST.get('which', ''), 'round': made.pk})}")


# The practice's own


def practice(request, status=200, **more):
    """What the practice always asks, its letters, and how often it reminds."""
    require(request.user, "view")
    firm, pack = request.user.firm, usual_pack()
    known, ours = lettering.texts(firm, pack.code), wording.known(firm, pack.code)
    context = {
        "usuals": usual.listed(firm, pack.code), "kinds": Kind.choices[:2], "questions": pack.questions,
        "firm": firm, "fields": lettering.FIELDS,
        "letters": [(kind, name, known.get(kind)) for kind, name in LetterKind.choices],
        "wordings": [(kind, name, ours.get(kind), wording.fields_of(kind)) for kind, name in Wording.choices],
        "may_administer": may(request.user, "administer"),
    }  # fmt: skip
    return render(request, "gather/practice.html", context | more, status=status)


@said_on(practice)
def add_usual(request):
    given = request.POST
    values = [given.get(name, "") for name in ("kind", "text", "help", "after")]
    usual.add(request.user, usual_pack().code, *values)
    return redirect("gather-practice")


@said_on(practice)
def end_usual(request, usual_id):
    usual.end(request.user, usual_id)
    return redirect("gather-practice")


@said_on(practice)
def remind_every(request):
    usual.remind_every(request.user, whole_number(request.POST.get("every", ""), most=90))
    return redirect("gather-practice")


@said_on(practice)
def write_letter(request, kind):
    given = request.POST
    lettering.write(request.user, usual_pack().code, kind, given.get("words", ""), "signed" in given)
    messages.success(request, "Kept. Letters that were sent stay as they were.")
    return redirect(reverse("gather-practice") + f"#{kind}")


@said_on(practice)
def write_wording(request, kind):
    wording.write(request.user, usual_pack().code, kind, request.POST.get("words", ""))
    messages.success(request, "Kept. What was sent stays as it was.")
    return redirect(reverse("gather-practice") + f"#{kind}")


def preview(request, kind):
    """A letter as a client would read it, filled in with a return of the practice."""
    require(request.user, "view")
    text = lettering.texts(request.user.firm, usual_pack().code).get(kind)
    example = (
        Return.objects.for_staff(request.user).filter(pack=usual_pack().code).select_related("firm", "household", "preparer")
    )
    return_ = example.order_by("-year", "pk").first()
    persons = people.people_of(return_) if return_ else []
    if text is None or not persons:
        return redirect("gather-practice")
    words = lettering.filled(text, return_, persons[0])
    return render(request, "gather/preview.html", {"text": text, "words": words, "of": return_})
