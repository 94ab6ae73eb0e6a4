"""Signatures of the practice under a locked return: the paid preparer's (26 CFR 1.6695-1(b)), and a second one."""

import re

from django.db import transaction

from practice.firm.events import record
from practice.firm.models import Firm
from practice.firm.permissions import fetch, may, require
from practice.firm.refusals import Cannot
from practice.returns.computing import pack_of
from practice.returns.models import Return
from practice.signing.models import PreparerSignature
from taxcore.engine import BadValue
from taxcore.engine.filed import Preparer

Place = PreparerSignature.Place


@transaction.atomic
def set_number(actor, pack, text):
    """One's own number as a preparer; empty takes it away. BadValue where it is not written as the pack says."""
    text, outgoing = text.strip().upper(), pack.outgoing
    if text and not re.fullmatch(outgoing.preparer_shape or r".{1,20}", text):
        raise BadValue(f"A {outgoing.preparer_number} is written like P01234567.", text)
    actor.preparer_number = text
    actor.save(update_fields=["preparer_number"])
    record(actor, "preparer's number", firm=actor.firm, says=text or "none")


@transaction.atomic
def set_needed(actor, places):
    """Which signatures of the practice a return needs before it goes out."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.file_needs = [place for place in Place.values if place in places]
    firm.save(update_fields=["file_needs"])
    record(actor, "signatures before filing", firm=firm, says=", ".join(firm.file_needs) or "none of the practice")


@transaction.atomic
def sign(actor, return_id, place):
    """Sign what is locked. Cannot where nothing is locked, one's number is missing, or the same person signed already."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "view", return_)
    if place not in Place.values:
        raise Cannot("Choose as what you sign.")
    if not (may(actor, "key") or may(actor, "file") or (place == Place.SECOND and may(actor, "review"))):
        require(actor, "file", return_)
    if return_.snapshot_id is None:
        raise Cannot("Lock the return first: what is locked is signed.")
    if place == Place.PREPARER and not actor.preparer_number:
        raise Cannot(f"Enter your {pack_of(return_).outgoing.preparer_number or 'number'} on your account first.")
    there = list(return_.snapshot.preparer_signatures.select_related("by"))
    if any(one.place == place for one in there):
        return None
    if any(one.by_id == actor.pk for one in there):
        raise Cannot("You signed already. The second signature is somebody else's.")
    made = PreparerSignature.objects.create(
        firm=return_.firm, of=return_, snapshot=return_.snapshot, place=place, by=actor, number=actor.preparer_number
    )
    record(actor, "signed for the practice", return_, says=f"{made.get_place_display()}: {actor.name} {made.number}".strip())
    return made


def wanted(return_):
    """[(place, its name, signature or None)] of those that the practice wants, and those that are there besides."""
    there = {one.place: one for one in return_.snapshot.preparer_signatures.select_related("by")} if return_.snapshot_id else {}
    return [(code, name, there.get(code)) for code, name in Place.choices if code in return_.firm.file_needs or code in there]


def holds(return_):
    """Why a return waits for a signature of the practice; nothing where none is missing."""
    for _, name, found in wanted(return_):
        if found is None:
            return f"{name} is missing."
    return ""


def preparer_of(return_):
    """For the filed document: who prepares the return, where they have a number."""
    who, firm = return_.preparer, return_.firm
    return Preparer(who.name, who.preparer_number, firm.name, firm.efin) if who.preparer_number else None
