"""What a return issued follows it by itself, where the practice chose so: as a change of the other return with its author, its
history and an event, and only while nobody has locked either of the two."""

from contextlib import suppress

from django.db import transaction
from django.utils import timezone

from practice.firm.jobs import job
from practice.firm.permissions import Refused
from practice.firm.refusals import Cannot
from practice.returns.changing import closed_because, when_it_changes
from practice.returns.computing import pack_of
from practice.returns.issuing import follow_into
from practice.returns.models import HandedOut


@when_it_changes
def note(actor, return_):
    """Within the change: what it issued is to follow it."""
    if pack_of(return_).issues is None or not return_.firm.shares_follow:
        return
    rows = HandedOut.objects.for_firm(return_.firm_id).filter(source=return_, paper__removed_at=None)
    if rows.update(follows_at=timezone.now(), follows_by=actor):
        follow.ask(return_id=return_.pk)


def _lost(before):
    waiting = HandedOut.objects.across_firms("background work").filter(follows_at__lt=before)
    return [{"return_id": pk} for pk in waiting.order_by().values_list("source", flat=True).distinct()]


def _failed(says, return_id):
    """Both returns go on saying what differs."""
    HandedOut.objects.across_firms("background work").filter(source=return_id).update(follows_at=None, follows_by=None)


@job("follow", lost=_lost, failed=_failed)
def follow(return_id):
    """Into each return that has a paper of it; one that cannot be changed keeps what it has, and says that it differs."""
    rows = HandedOut.objects.across_firms("background work").filter(source=return_id).exclude(follows_at=None)
    for row in rows.select_related("source__firm", "source__household", "paper__of__household", "follows_by__firm"):
        if _is_open(row.source) and _is_open(row.paper.of) and not _comes_back(row):
            with suppress(Cannot, Refused):
                follow_into(row.follows_by, row.source, row.paper.of)
        with transaction.atomic():  # what changed meanwhile is followed by its own job
            rows.filter(pk=row.pk, follows_at=row.follows_at).update(follows_at=None, follows_by=None)


def _comes_back(row):
    """Whether the two own shares of each other: then each would move the other again and again, and somebody takes it over."""
    back = HandedOut.objects.for_firm(row.firm_id).filter(source=row.paper.of_id, paper__of=row.source_id)
    return back.filter(paper__removed_at=None).exists()


def _is_open(return_):
    return return_.snapshot_id is None and not closed_because(return_)
