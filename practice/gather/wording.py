"""The practice's own words where the program has some already: in mails to clients, on invoices, in the letter of a package.

Kept in versions like letters; an empty one goes back to the program's words. What was sent or made stays as it was.
"""

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import require
from practice.firm.texts import written
from practice.gather.lettering import FIELDS, fill
from practice.gather.models import LetterText, Wording
from taxcore.engine import BadValue

LONGEST = 4_000
_OF_MAILS = ("client", "year", "practice", "town", "telephone")  # mails name nothing confidential
OUTCOME = "outcome"


def fields_of(kind):
    """{merge field: what it is filled with} of a wording."""
    if kind.startswith("mail-"):
        return {name: FIELDS[name] for name in _OF_MAILS}
    return FIELDS | ({OUTCOME: "refund or balance due of each authority"} if kind == Wording.COVER else {})


def known(firm, pack):
    """The newest version of each wording that the practice has, by kind."""
    rows = LetterText.objects.for_firm(firm).filter(pack=pack, kind__in=Wording.values).select_related("by").order_by("version")
    return {row.kind: row for row in rows}


@transaction.atomic
def write(actor, pack, kind, words):
    """A new version; an empty one goes back to the program's words. BadValue for a merge field that is not filled there."""
    require(actor, "administer", actor)
    if kind not in Wording.values:
        raise BadValue("There are no such words.", kind)
    words = written(words.replace("\r\n", "\n"), "The text", LONGEST)
    for name in fill(words, None):
        if name not in fields_of(kind):
            there = ", ".join(f"{{{one}}}" for one in fields_of(kind))
            raise BadValue(f"{{{name}}} is not filled in there. There are {there}.", words)
    before = known(actor.firm, pack).get(kind)
    if (before.words if before else "") == words:
        return before
    version = before.version + 1 if before else 1
    made = LetterText.objects.create(firm=actor.firm, pack=pack, kind=kind, version=version, words=words, signed=False, by=actor)
    record(actor, "words changed", firm=actor.firm, says=f"{Wording(kind).label}, version {version}")
    return made


def words_for(return_, kind, person=None, **more):
    """The practice's words for a return, filled in; empty where the program's own are used."""
    text = known(return_.firm_id, return_.pack).get(kind)
    return fill(text.words, return_, person, **more) if text else ""


def of_mail(link, purpose):
    """For a mail with a link into the portal (practice/portal/tasks.py)."""
    kind = f"mail-{purpose}"
    return words_for(link.of, kind, link.client) if kind in Wording.values else ""
