"""Receiving a document and answering about it. Receiving the same key again is harmless."""

import hashlib
from datetime import timedelta

from django.conf import settings
from django.db import IntegrityError, transaction
from django.utils import timezone

from authority.models import Claim, Filing, Mood
from authority.registers import register
from authority.rules import Document, extension_faults, faults_of, learn, parse


class KeyReused(Exception):
    """The same key came with another document."""


@transaction.atomic
def receive(key, authority, year, document, kind="return"):
    """The filing of this key: new, or the one that was received before. KeyReused if its document differs."""
    digest = hashlib.sha256(document).hexdigest()
    filing, made = Filing.objects.select_for_update().get_or_create(
        key=key,
        defaults={
            "authority": authority,
            "year": year,
            "document": document,
            "digest": digest,
            "receipt": str(key)[:30],
            "kind": kind,
        },
    )
    if made:
        filing.receipt = f"{authority.upper()}-{year}-{filing.pk:06d}"
    elif filing.digest != digest or filing.authority != authority:
        raise KeyReused
    else:
        filing.times_received += 1
    filing.save()
    return filing


def answer(receipt):
    """The filing with that receipt, read and decided once its time has come; None if there is no such receipt."""
    with transaction.atomic():
        filing = Filing.objects.select_for_update().filter(receipt=receipt).first()
        ready = filing is not None and filing.received_at + timedelta(seconds=settings.WORKING_SECONDS) <= timezone.now()
        if filing is not None and filing.state == "pending" and ready:
            _decide(filing)
        return filing


def _decide(filing):
    check = faults_of if filing.kind == "return" else extension_faults
    filing.faults = [fault.as_dict() for fault in check(filing.authority, filing.year, filing.document)]
    if not filing.faults and filing.kind == "return":
        try:
            with transaction.atomic():
                _claim(filing)
        except IntegrityError:
            message = "A number on this return was used on another one a moment ago."
            filing.faults = [{"rule": "P-0201", "message": message, "path": "/Return/People"}]
    filing.state = "rejected" if filing.faults else "accepted"
    filing.answered_at = timezone.now()
    filing.save()


def _claim(filing):
    """A number belongs to the newest accepted return that has it: a correction takes over from what it corrects."""
    document = Document(parse(filing.document))
    Claim.objects.filter(authority=filing.authority, year=filing.year, filing__receipt=document.corrects).delete()
    persons = register(filing.authority, "person")
    Claim.objects.bulk_create(
        Claim(filing=filing, authority=filing.authority, year=filing.year, number=persons.number(document, person),
              role=person.get("role"), ends=document.ends)
        for person in (document.people() if persons is not None else ())
    )  # fmt: skip
    learn(document, filing.authority)


def lose_this_answer():
    """Whether the console asked for the next answer to be lost; counts down."""
    with transaction.atomic():
        mood = Mood.objects.select_for_update().get_or_create(pk=1)[0]
        if mood.answers_to_lose == 0:
            return False
        mood.answers_to_lose -= 1
        mood.save()
        return True
