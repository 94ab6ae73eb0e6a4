"""What the practice asks its clients, its letters, and how far some clients are with their part."""

import io
from datetime import date, datetime, time
from pathlib import Path
from types import SimpleNamespace

from django.utils import timezone
from PIL import Image, ImageDraw, ImageFont

from practice.demo.building import drawn_name
from practice.gather import answering, lettering, messaging, requesting, surveying, usual
from practice.gather.models import Item, Letter, Message, Request
from practice.gather.people import people_of
from practice.returns.computing import pack_of
from practice.returns.models import Return
from taxcore.engine import Amount

_USUAL = (
    ("document", "Last year’s tax return, if another office prepared it", ""),
    ("question", "Did you move in 2025?", "If so: from where, to where, and on which day."),
    ("question", "Did anyone join or leave your household?", "A birth, a marriage, a divorce, a child who moved out, a death."),
    ("question", "Did you receive, sell or pay with digital assets?", "The IRS asks this of everyone."),
    ("question", "Did you have an account or income outside the United States?", ""),
    ("document", "Property tax bills that you paid in 2025", "Only for your own home and land."),
)
_LETTERS = Path(__file__).parent / "letters"
_SIGNED = ("prepare", "review", "sign", "file")


def lay_out(firm):
    """The practice's own texts, letters signed by clients who are well under way, and one client in the middle of a request."""
    staff = {person.initials: person for person in firm.staff.all()}
    for kind, text, help in _USUAL:
        usual.add(staff["SH"], "us", kind, text, help)
    for kind, signed in (("engagement", True), ("use", True), ("privacy", False)):
        lettering.write(staff["SH"], "us", kind, (_LETTERS / f"{kind}.txt").read_text(), signed)
    text = lettering.texts(firm, "us")["engagement"]
    rows = Return.objects.for_firm(firm).filter(year=2025, purpose="filing", stage__in=_SIGNED)
    for return_ in rows.select_related("firm", "household", "preparer"):
        for person in people_of(return_):
            _sign(return_, person, lettering.made_for(staff["AP"], return_, text, person))
    _in_the_middle(staff, Return.objects.for_firm(firm).get(household__name="Wetherby-Low, Sorrel", year=2025))
    _just_asked(staff, Return.objects.for_firm(firm).get(household__name="Roake, Tamsin", year=2025))


def _as(return_, person):
    """A client in the portal."""
    return SimpleNamespace(of=return_, of_id=return_.pk, client=person, firm=return_.firm, firm_id=return_.firm_id)


def _sign(return_, person, letter):
    lettering.sign(_as(return_, person), letter.pk, drawn_name(person.full_name), "127.0.0.1")
    day = _at(date(2026, 1, 14))
    Letter.objects.for_firm(return_.firm).filter(pk=letter.pk).update(sent_at=_at(date(2026, 1, 12)), signed_at=day)


def _at(day):
    return timezone.make_aware(datetime.combine(day, time(10, 12)))


def _in_the_middle(staff, return_):
    """Some of it is in, one thing does not apply, one is asked back."""
    actor = staff["AP"]
    person = people_of(return_)[0]
    _sign(return_, person, lettering.made_for(actor, return_, lettering.texts(return_.firm, "us")["engagement"], person))
    request = requesting.drafted(actor, return_.pk)
    requesting.send(actor, return_.pk, "Take your time with the questions; photos of the papers are fine.", date(2026, 2, 20), 7)
    client, items = _as(return_, person), list(request.items.order_by("position"))
    papers = [one for one in items if one.paper_id]
    _answer_all(client, items)
    answering.upload(client, papers[0].pk, "photo-0127.png", _photo(papers[0].paper, papers[0].text))
    answering.answer(client, _by(items, "move").pk, "No.")
    answering.answer(client, _by(items, "household").pk, "My daughter moved out in September.")
    answering.not_so(client, _by(items, "Property").pk, "I rent.")
    answering.ask_back(client, papers[-1].pk, "The bank changed its name, is that a problem?")
    requesting.accept(actor, return_.pk, _by(items, "move").pk)
    messaging.write_back(client, "Good morning. I will be away from the 20th on; can we finish before?")
    requested = Request.objects.for_firm(return_.firm).filter(pk=request.pk)
    requested.update(sent_on=date(2026, 1, 26), reminded=1, reminded_on=date(2026, 2, 2), remind_on=date(2026, 2, 13))
    Item.objects.for_firm(return_.firm).filter(request=request).exclude(replied_at=None).update(replied_at=_at(date(2026, 2, 9)))
    Message.objects.for_firm(return_.firm).filter(household=return_.household).update(at=_at(date(2026, 2, 9)))


def _answer_all(client, items):
    """The questionnaire of somebody with a job, a bank, and one doubt."""
    item = next(one for one in items if one.kind == "survey")
    said = {"wages": ("yes", ""), "interest": ("yes", "Two banks now"), "gifts": ("yes", ""),
            "energy": ("unsure", "New windows in June?")}  # fmt: skip
    for one in surveying.questions(client.of):
        answer, words = said.get(one.question.key, ("no", ""))
        surveying.tell(client, item.pk, one.question.key, answer, words)
    surveying.finish(client, item.pk)


def _by(items, word):
    return next(one for one in items if word in one.text)


def _just_asked(staff, return_):
    lettering.send(staff["AP"], return_.pk, ["engagement"])
    Letter.objects.for_firm(return_.firm).filter(of=return_).update(sent_at=_at(date(2026, 1, 30)))
    request = requesting.drafted(staff["AP"], return_.pk)
    requesting.send(staff["AP"], return_.pk, "", None, 7)
    requested = Request.objects.for_firm(return_.firm).filter(pk=request.pk)
    requested.update(sent_on=date(2026, 1, 30), remind_on=date(2026, 2, 12))


def _photo(paper, title):
    """A page as a phone takes it: the sender, and some boxes of its paper with made-up amounts."""
    declared = pack_of(paper.of).paper(paper.kind)
    boxes = [one for one in declared.fields().values() if isinstance(one, Amount) and one.number_in(paper.of.year)][:3]
    values = [paper.values.get(name, "") for name in declared.party.values()]
    lines = [*map(str, filter(None, values[:2])), *(f"{one.number_in(2025)} {one.label}" for one in boxes)]
    page = Image.new("RGB", (1400, 900), "#dcd8d0")
    pen = ImageDraw.Draw(page)
    pen.rectangle((60, 50, 1340, 850), fill="white", outline="#888888")
    pen.text((90, 80), title[:60], fill="black", font=ImageFont.load_default(30))
    for row, line in enumerate(lines):
        pen.text((90, 180 + row * 90), line[:60], fill="#222222", font=ImageFont.load_default(28))
    for row, amount in enumerate(("6,412.18", "288.40", "1,120.00")[: len(boxes)]):
        pen.text((1080, 180 + (len(lines) - len(boxes) + row) * 90), amount, fill="black", font=ImageFont.load_default(28))
    made = io.BytesIO()
    page.rotate(0.6, fillcolor="#dcd8d0").save(made, "PNG")
    return made.getvalue()
