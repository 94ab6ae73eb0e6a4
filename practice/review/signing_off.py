"""First and second review of a whole return: a reviewer's word that it was looked through. It lapses when a figure moves."""

import hashlib
import json
from dataclasses import dataclass

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.computing import result_of
from practice.returns.gathering import RowsOf
from practice.returns.models import Return


class AlreadyReviewed(Cannot):
    """The same person cannot be the first and the second reviewer; `says` tells so."""


@dataclass(frozen=True)
class Standing:
    """Reviews that still hold, oldest first, and those that lapsed since a figure moved."""

    holding: tuple
    lapsed: tuple

    @property
    def first(self):
        return self.holding[0] if self.holding else None

    @property
    def second(self):
        return self.holding[1] if len(self.holding) > 1 else None


def mark_of(result):
    """A fingerprint of every figure of the forms: what a reviewer has seen."""
    seen = {cell.address: str(cell.value) for cell in result.lines()}
    return hashlib.sha256(json.dumps(seen, sort_keys=True).encode()).hexdigest()


reviews_of = RowsOf("reviews", "by")


def standing(return_, result):
    rows = reviews_of(return_)
    now = mark_of(result) if rows else ""
    return Standing(tuple(row for row in rows if row.mark == now), tuple(row for row in rows if row.mark != now))


@transaction.atomic
def sign_off(actor, return_id):
    """The actor has reviewed the return as it stands: the first review, or the second where a colleague's holds.
    AlreadyReviewed where the actor's own holds."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "review", return_)
    result = result_of(return_)
    found = standing(return_, result)
    if any(row.by_id == actor.pk for row in found.holding):
        raise AlreadyReviewed("Your review stands. The second review is a colleague's.")
    row, _ = return_.reviews.update_or_create(
        by=actor, defaults={"firm": return_.firm, "mark": mark_of(result), "at": timezone.now()}
    )
    record(actor, "second review done" if found.holding else "first review done", return_)
    return row


@transaction.atomic
def take_back(actor, return_id):
    """The actor's review no longer stands."""
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    require(actor, "review", return_)
    if return_.reviews.filter(by=actor).delete()[0]:
        record(actor, "review withdrawn", return_)
