"""Documents that come by themselves: kept sealed, looked at by a worker, sorted to a return by a person."""

import hashlib
import re
import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction

from practice.clients.models import Person
from practice.firm.crypto import digest as digest_of
from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.intake import attaching, drawing, scanning
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Incoming
from practice.returns.models import Return, Stage
from taxcore.engine import BadValue

_State = Incoming.State
MOST_WAITING = 500  # of a practice; more stay in the mailbox or the folder until somebody has sorted
_NUMBERS = re.compile(r"(?<![0-9])[0-9]{3}-?[0-9]{2}-?[0-9]{4}(?![0-9])")
_READ = 2  # pages of a scan whose words are looked for


def receive(firm, source, name, content, sender="", subject=""):
    """Keep a document of a practice; the one that is there where the same file waits already. BadValue where it is none that can
    be attached."""
    from practice.intake.tasks import look_at_incoming

    attaching.kind_of(content)
    digest = hashlib.sha256(content).hexdigest()
    waiting = Incoming.objects.for_firm(firm).filter(digest=digest, state__in=[_State.READING, _State.WAITING])
    if there := waiting.first():
        return there
    file = default_storage.save(f"incoming/{uuid.uuid4().hex}.sealed", ContentFile(seal_bytes(content)))
    try:
        with transaction.atomic():
            made = Incoming.objects.create(
                firm=firm, source=source, name=attaching.plain_name(name), file=file, size=len(content), digest=digest,
                sender=sender, subject=_plain(subject),
            )  # fmt: skip
            record(None, "document came in", firm=firm, says=f"{made.name} {made.get_source_display()}", by=sender or "scanner")
            look_at_incoming.ask(incoming_id=made.pk)
    except IntegrityError:  # another worker was quicker
        default_storage.delete(file)
        return waiting.get()
    return made


def is_full(firm):
    """Whether nothing more is taken in for now."""
    rows = Incoming.objects.for_firm(firm).filter(state__in=[_State.READING, _State.WAITING, _State.REFUSED])
    return rows.count() >= MOST_WAITING


def _plain(text):
    return "".join(one for one in text if one.isprintable())[:200]


# Looked at by a worker


def look(row):
    """Scan it, count its pages, and suggest whose it is. False where the scanner is away: it waits."""
    content = drawing.kept(row.file)
    try:
        kind, pages = opened("look_into", scanning.looked_through(content))
        words = _words(content, kind)
    except scanning.ScannerAway:
        _note(row, says="The virus scanner does not answer; the file waits for it.")
        return False
    except (NotOpened, scanning.Infected) as error:
        return _note(row, state=_State.REFUSED, says=error.says[:300])
    household, why = whose(row, words)
    first = next((" ".join(line.split()) for line in words.splitlines() if len(line.split()) > 1), "")
    return _note(row, state=_State.WAITING, says="", pages=pages, line=_plain(first)[:160], household=household, why=why[:120])


def _note(row, **found):
    Incoming.objects.for_firm(row.firm_id).filter(pk=row.pk, state=_State.READING).update(**found)
    return True


def _words(content, kind):
    found = opened("text_of", content) if kind == "pdf" else ""
    pages = _READ if kind == "pdf" else 1
    for page in range(1, pages + 1) if not found.strip() else ():
        try:
            found += opened("words_in", opened("picture", content, kind=kind, page=page, turn=0), seconds=30) + "\n"
        except NotOpened:
            break
    return found


def whose(row, words):
    """(client, why) as far as the sender's address, a number or a name tells; (None, "") where they do not, or name several."""
    people = Person.objects.for_firm(row.firm_id).filter(merged_into=None).select_related("household")
    if row.sender and (found := _one(people.filter(email__iexact=row.sender))):
        return found, f"mailed from {row.sender}"
    digests = [digest_of(row.firm_id, re.sub("[^0-9]", "", number)) for number in _NUMBERS.findall(words)]
    if digests and (found := _one(people.filter(number_digest__in=digests))):
        return found, "shows a number of theirs"
    text = " ".join(words.lower().split())
    named = [one for one in people.only("first_name", "last_name", "household") if len(one.last_name) > 1 and _named(one, text)]
    if found := _one(named):
        return found, "shows their name"
    return None, ""


def _named(person, text):
    first, last = person.first_name.lower().split()[:1], person.last_name.lower()
    return bool(first) and any(name in text for name in (f"{first[0]} {last}", f"{last}, {first[0]}"))


def _one(people):
    """The household of all of them, where they are of one."""
    households = {one.household_id: one.household for one in people}
    return next(iter(households.values())) if len(households) == 1 else None


# Sorted by a person


def waiting(actor):
    rows = Incoming.objects.for_staff(actor).filter(state__in=[_State.READING, _State.WAITING, _State.REFUSED])
    return rows.select_related("household").order_by("pk")


def returns_of(actor, row):
    """Returns of the client that is suggested, the newest first."""
    if row.household_id is None:
        return []
    return list(Return.objects.for_staff(actor).filter(household=row.household_id).order_by("-year", "-pk")[:6])


def named(actor, text):
    """The return that somebody means by "client" or "client, year": the newest that is not done. BadValue where none or several
    clients have that name."""
    text = text.strip()
    year = re.search(r"\b(20[0-9]{2})$", text)
    name = text[: year.start()].rstrip(" ,") if year else text
    if not name:
        raise BadValue("No return is named. Choose one, or type the client's name.", text)
    rows = Return.objects.for_staff(actor).filter(household__name__icontains=name)
    rows = rows.filter(year=int(year[1])) if year else rows.exclude(stage=Stage.DONE)
    found = list(rows.order_by("-year", "-pk").select_related("household")[:50])
    exact = [one for one in found if one.household.name.lower() == name.lower()]
    chosen = exact or found
    if len({one.household_id for one in chosen}) != 1:
        says = f"Several clients are named like that: {', '.join(sorted({one.household.name for one in found})[:4])}."
        raise BadValue(says if found else "No return of a client of that name.", text)
    return chosen[0]


@transaction.atomic
def sort(actor, token, return_id):
    """Attach it to a return, beside no paper yet: pages and values are suggested there as for any document."""
    row = _open(actor, token)
    content = drawing.kept(row.file)
    made = attaching.attach(actor, return_id, None, row.name, content)
    _settle(row, actor, _State.SORTED, attachment=made, household=made.of.household)
    record(actor, "document sorted", made.of, says=f"{row.name}, {row.get_source_display()}")
    transaction.on_commit(lambda: default_storage.delete(row.file))  # the attachment has a copy of its own
    return made


@transaction.atomic
def discard(actor, token, why):
    """It belongs to nobody here. The file is removed; that it came is not."""
    row = _open(actor, token, _State.WAITING, _State.REFUSED)
    why = written(why, "The reason", 200, "Why is it discarded?")
    _settle(row, actor, _State.DISCARDED, says=why)
    record(actor, "document discarded", firm=actor.firm, says=f"{row.name}: {why}")
    transaction.on_commit(lambda: default_storage.delete(row.file))


def _open(actor, token, *states):
    row = fetch(Incoming.objects.select_for_update(of=("self",)), actor, token=token)
    require(actor, "key", row)
    if row.state not in (states or (_State.WAITING,)):
        raise Cannot("This document was sorted already, or is still being read.")
    return row


def _settle(row, actor, state, **more):
    row.state, row.by = state, actor
    for name, value in more.items():
        setattr(row, name, value)
    row.save()


def picture_of(actor, token):
    """Its first page as PNG; Cannot while nobody looked for viruses yet, or where one was found."""
    row = fetch(Incoming.objects, actor, token=token)
    require(actor, "view", row)
    if row.state != _State.WAITING:
        raise Cannot("It cannot be shown.")
    content = drawing.kept(row.file)
    try:
        return opened("picture", content, kind=attaching.kind_of(content), page=1, turn=0)
    except NotOpened as error:
        raise Cannot(error.says) from None
