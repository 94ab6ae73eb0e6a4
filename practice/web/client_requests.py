"""The client's part in the portal: what is asked, letters to sign, messages. Phone first."""

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST

from practice.firm.refusals import Cannot
from practice.gather import answering, lettering, messaging, printed, surveying
from practice.gather.models import Kind, Turn
from practice.intake import attaching
from practice.returns.frozen import drawn_of
from practice.web.client_pages import client_only, portal_page
from taxcore.engine import BadValue


@client_only
def asked(request, status=200, **more):
    """Everything that the office asks for, what is still open first."""
    items = list(answering.asked_of(request.link))
    open_ones = [one for one in items if one.turn == Turn.CLIENT]
    sent = items[-1].request if items else None
    context = portal_page(request.link) | {
        "open": open_ones, "done": [one for one in items if one.turn != Turn.CLIENT], "asked": sent, "all": len(items),
        "done_number": len(items) - len(open_ones), "largest": attaching.LARGEST // 1_000_000,
    }  # fmt: skip
    return render(request, "portal/asked.html", context | more, status=status)


@require_POST
@client_only
def reply(request, item_id):
    """Pages, an answer, "does not apply", or a question back. What is refused is said at the item, with what was typed."""
    given, does = request.POST, request.POST.get("does", "")
    try:
        if does == "not-so":
            answering.not_so(request.link, item_id, given.get("words", ""))
        elif does == "back":
            answering.ask_back(request.link, item_id, given.get("words", ""))
        elif does == "answer":
            answering.answer(request.link, item_id, given.get("words", ""))
        else:
            _take_files(request, item_id)
    except (Cannot, BadValue) as refused:
        return asked(request, 422, refused=refused.says, at=item_id, typed=given.get("words", ""), did=does)
    return redirect(reverse("portal-asked") + f"#i{item_id}")


@client_only
def survey(request, item_id):
    """The questionnaire: a tap an answer, each stored as it comes."""
    given, error = request.POST, ""
    try:
        if request.method == "POST":
            if "done" in given:
                surveying.finish(request.link, item_id)
                return redirect(reverse("portal-asked") + f"#i{item_id}")
            surveying.tell(request.link, item_id, given.get("key", ""), given.get("said", ""), given.get("words", ""))
            if not request.htmx:
                return redirect(reverse("portal-survey", args=[item_id]) + f"#q-{given.get('key', '')}")
        item = surveying.open_to(request.link, item_id)
    except (Cannot, BadValue) as refused:
        error = refused.says
        item = answering.asked_of(request.link).filter(pk=item_id, kind=Kind.SURVEY).first()
    if item is None:
        return redirect("portal-asked")
    rows = surveying.questions(request.link.of, item)
    context = portal_page(request.link) | {"item": item, "rows": rows, "error": error, "before": request.link.of.year - 1}
    if request.htmx and not error:
        context["row"] = next(one for one in rows if one.question.key == given.get("key"))
        return render(request, "portal/_question.html", context)
    return render(request, "portal/questions.html", context, status=422 if error else 200)


def _take_files(request, item_id):
    files = request.FILES.getlist("file")
    if not files:
        raise BadValue("Choose a file or take a picture first.", "")
    for file in files:
        if file.size > attaching.LARGEST:
            raise BadValue(f"{file.name} has {file.size / 1e6:.0f} MB; up to {attaching.LARGEST / 1e6:.0f} can be sent.", "")
        name, fresh = answering.upload(request.link, item_id, file.name, file.read())
        messages.success(request, f"{name}: {'received' if fresh else 'you sent this already'}.")


@client_only
def letter_pdf(request, letter_id):
    """A copy to keep."""
    found = lettering.letters_for(request.link).filter(pk=letter_id).first()
    if found is None:
        return redirect("portal")
    return HttpResponse(printed.letter_pdf(found), content_type="application/pdf")


@client_only
def letter(request, letter_id):
    """One letter to read, and to sign where it wants that."""
    found = lettering.letters_for(request.link).filter(pk=letter_id).first()
    if found is None:
        return redirect("portal")
    error = ""
    if request.method == "POST":
        try:
            if "decline" in request.POST:
                lettering.decline(request.link, letter_id)
            elif found.text.signed:
                lettering.sign(request.link, letter_id, request.POST.get("image", ""), request.META.get("REMOTE_ADDR"))
            else:
                lettering.note_read(request.link, letter_id)
            return redirect("portal")
        except Cannot as cannot:
            error = cannot.says
    context = portal_page(request.link) | {"letter": found, "error": error}
    return render(request, "portal/letter.html", context, status=422 if error else 200)


def _about(link, address):
    """How a question about a figure begins; nothing for a line that the return does not have."""
    snapshot = link.of.snapshot
    lines = (line for form in drawn_of(snapshot).forms for line in form.lines if line.address == address) if snapshot else ()
    found = next(iter(lines), None)
    return f"About {found.label.lower()} ({found.form}, line {found.number}): " if found else ""


@client_only
def write(request):
    """The messages with the office, and a new one."""
    context = portal_page(request.link)
    if request.method == "POST":
        try:
            messaging.write_back(request.link, request.POST.get("words", ""))
            return redirect("portal-messages")
        except (Cannot, BadValue) as refused:
            context |= {"error": refused.says, "typed": request.POST.get("words", "")}
    elif about := request.GET.get("about"):
        context["typed"] = _about(request.link, about)
    context["thread"] = list(messaging.thread(request.link.of.household))
    messaging.note_read(request.link.of.household, by_client=True)
    return render(request, "portal/messages.html", context, status=422 if "error" in context else 200)
