"""Letters and consents: the practice's own texts in versions, sent to each who must sign, frozen as they were sent."""

import hashlib
import re

from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from practice.firm import dates
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.gather.models import Letter, LetterKind, LetterText
from practice.gather.people import people_of
from practice.portal.drawn import drawn_signature
from practice.portal.links import send_link
from practice.returns.acts import Done, act
from practice.returns.gathering import RowsOf
from practice.returns.models import Return
from practice.review import gate
from taxcore.engine import BadValue

LONGEST = 12_000
FIELDS = {
    "client": "the name of who signs", "household": "the client as the practice lists it", "year": "the tax year",
    "practice": "the practice’s name", "town": "its town", "telephone": "its telephone", "preparer": "who prepares the return",
    "day": "the day it is sent",
}  # fmt: skip
_FIELD = re.compile(r"\{([^{}\n]{1,30})\}")


def texts(firm, pack):
    """The newest version of each of the practice's letters, by kind."""
    found = {}
    for text in (
        LetterText.objects.for_firm(firm)
        .filter(pack=pack, kind__in=LetterKind.values)
        .select_related("by")
        .order_by("kind", "version")
    ):
        found[text.kind] = text
    return found


@transaction.atomic
def write(actor, pack, kind, words, signed=True):
    """A new version of a letter. BadValue where it has a merge field that nobody fills. What was sent stays as it was sent."""
    require(actor, "administer", actor)
    if kind not in LetterKind.values:
        raise BadValue("There is no such letter.", kind)
    words = written(words.replace("\r\n", "\n"), "The letter", LONGEST, "Write the letter first.")
    for name in _FIELD.findall(words):
        if name not in FIELDS:
            raise BadValue(f"{{{name}}} is no merge field. There are {', '.join(f'{{{one}}}' for one in FIELDS)}.", words)
    before = texts(actor.firm, pack).get(kind)
    if before is not None and (before.words, before.signed) == (words, signed):
        return before
    version = before.version + 1 if before else 1
    made = LetterText.objects.create(firm=actor.firm, pack=pack, kind=kind, version=version, words=words, signed=signed, by=actor)
    record(actor, "letter written", firm=actor.firm, says=str(made))
    return made


def filled(text, return_, person):
    """The words of a letter for one person: their merge fields filled in."""
    return fill(text.words, return_, person)


def fill(words, return_, person=None, **more):
    """Words with their merge fields filled in, `more` of them given; without a return, the names of the fields that are used."""
    if return_ is None:
        return _FIELD.findall(words)
    firm, day = return_.firm, return_.firm.today()
    facts = {
        "client": person.full_name if person else return_.household.name, "household": return_.household.name,
        "year": str(return_.year), "practice": firm.name, "town": firm.town, "telephone": firm.telephone,
        "preparer": return_.preparer.name,
        "day": f"{dates.long(day)}",
    }  # fmt: skip
    facts |= more
    return _FIELD.sub(lambda found: facts.get(found[1], found[0]), words)


@transaction.atomic
def send(actor, return_id, kinds):
    """The chosen letters to each who must sign them, as links by mail; one that somebody signed is not sent again. Gives the
    letters made. Cannot where nobody can get them or the practice has not written one."""
    rows = Return.objects.select_for_update(of=("self",)).select_related("firm", "household", "preparer")
    return_ = fetch(rows, actor, pk=return_id)
    require(actor, "ask clients", return_)
    if return_.household.left_on:
        raise Cannot("The client left the practice.")
    known, people = texts(actor.firm, return_.pack), people_of(return_)
    if missing := [kind for kind in kinds if kind not in known]:
        raise Cannot(f"The practice has no text for this letter yet: {LetterKind(missing[0]).label}.")
    without = [one.full_name for one in people if not one.email]
    if without or not people:
        raise Cannot(f"No email address: {', '.join(without) or 'nobody on this return'}. Enter it on the client’s page.")
    made = [letter for kind in kinds for person in people if (letter := made_for(actor, return_, known[kind], person))]
    for person in dict.fromkeys(one.person for one in made):
        send_link(return_, person, "letter")
    if made:
        record(actor, "letter sent", return_, says=", ".join(dict.fromkeys(one.text.get_kind_display() for one in made)))
    return made


def made_for(actor, return_, text, person):
    """A letter of a text for one person, not mailed; None where they have it or signed an earlier one."""
    there = return_.letters.filter(person=person, text__kind=text.kind, withdrawn_at=None).select_related("text").first()
    if there is not None and (there.done or there.text_id == text.pk):
        return None
    if there is not None:  # an older version that nobody signed
        there.withdrawn_at = timezone.now()
        there.save(update_fields=["withdrawn_at"])
    words = filled(text, return_, person)
    return Letter.objects.create(
        firm=return_.firm, of=return_, text=text, person=person, words=words, hash=hash_of(words), sent_by=actor
    )


def hash_of(words):
    return hashlib.sha256(words.encode()).hexdigest()


@act("letters", "Send engagement letters", "ask clients")
def send_one(actor, return_id):
    made = send(actor, return_id, [LetterKind.ENGAGEMENT])
    if not made:
        return Done("left: sent or signed already")
    return Done(f"sent to {', '.join(letter.person.full_name for letter in made)}")


def letters_for(link):
    """What a client has to read and sign, or has signed."""
    rows = Letter.objects.across_firms("the client's own").filter(of=link.of, person=link.client, withdrawn_at=None)
    return rows.select_related("text", "of__firm")


def _mine(link, letter_id):
    letter = letters_for(link).select_for_update(of=("self",)).filter(pk=letter_id).first()
    if letter is None:
        raise Cannot("This letter was replaced. Please open the newest one.")
    return letter


@transaction.atomic
def note_read(link, letter_id):
    """A letter that only wants to be read was read."""
    letter = _mine(link, letter_id)
    if letter.read_at is None:
        letter.read_at = timezone.now()
        letter.save(update_fields=["read_at"])
        record(None, "letter read", link.of, says=letter.text.get_kind_display(), by=link.client.full_name)
    return letter


@transaction.atomic
def sign(link, letter_id, image, address):
    """The client's drawn signature under the letter as it was sent. NotDrawn where it is none."""
    letter = _mine(link, letter_id)
    if letter.done:
        raise Cannot("You have signed this already. Thank you.")
    if hash_of(letter.words) != letter.hash:
        raise Cannot("This letter is not what was sent. Please call the office.")
    letter.image, letter.signed_at, letter.address = drawn_signature(image), timezone.now(), address
    letter.declined_at = None
    letter.save(update_fields=["image", "signed_at", "address", "declined_at"])
    says = f"{letter.text.get_kind_display()}, {letter.hash[:16]}"
    record(None, "letter signed", link.of, says=says, by=link.client.full_name)
    return letter


@transaction.atomic
def decline(link, letter_id):
    """A consent may be refused: the practice serves them all the same."""
    letter = _mine(link, letter_id)
    if letter.kind not in (LetterKind.USE, LetterKind.DISCLOSE):
        raise Cannot("Please call the office about this letter.")
    if not letter.done:
        letter.declined_at = timezone.now()
        letter.save(update_fields=["declined_at"])
        record(None, "consent declined", link.of, says=letter.text.get_kind_display(), by=link.client.full_name)
    return letter


standing_letters = RowsOf("letters", "text", "person", withdrawn_at=None)


def unsigned(return_, kind):
    """Who of a return has not signed a letter of that kind yet."""
    done = {letter.person_id for letter in standing_letters(return_) if letter.text.kind == kind and letter.done}
    return [person for person in people_of(return_) if person.pk not in done]


@gate.condition("engagement", "Engagement letter signed")
def _engagement(return_):
    for person in unsigned(return_, LetterKind.ENGAGEMENT)[:1]:
        says = f"{person.full_name} has not signed the engagement letter."
        yield gate.Lacking("engagement", says, reverse("requests", args=[return_.pk]))
