"""Sending and polling in the background, with growing pauses. The submission's row is the truth; a lost job is made again."""

from datetime import timedelta

from django.conf import settings
from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from practice.dispatch.acknowledging import settle
from practice.dispatch.authority_client import AuthorityAway, AuthorityRefuses, ask, hand_in
from practice.dispatch.models import Extension, State, Submission
from practice.firm.crypto import unseal_bytes
from practice.firm.events import record
from practice.firm.jobs import job

LONGEST_PAUSE = 15 * 60  # seconds
_SETTLED_BY = {"return": settle}


def settles(kind, function):
    """Who takes the answer to what else is sent: `function` gets the row's id and the answer."""
    _SETTLED_BY[kind] = function


def pause(tries):
    """Seconds to wait after so many failed tries: 2, 4, 8 ... up to a quarter of an hour."""
    return min(2**tries, LONGEST_PAUSE)


def _all(kind="return"):
    """What is sent is a return or a request for more time; both go the same way."""
    return {"return": Submission, "extension": Extension}[kind].objects.across_firms("background work")


def _lost(state):
    def lost(before):
        due = Q(next_try_at__lt=before) | Q(next_try_at=None, made_at__lt=before)
        return [
            {"submission_id": pk, "kind": kind}
            for kind in ("return", "extension")
            for pk in _all(kind).filter(due, state=state).values_list("pk", flat=True)
        ]

    return lost


def _failed(says, submission_id, kind="return"):
    """It stays where it is, with the reason, and is tried again each quarter of an hour."""
    later = timezone.now() + timedelta(seconds=LONGEST_PAUSE)
    _all(kind).filter(pk=submission_id).update(trouble=f"Not sent: {says}"[:200], next_try_at=later)


@job("send", lost=_lost(State.QUEUED), failed=_failed)
def send(submission_id, kind="return"):
    """Hand a document in. Safe to run twice or after a lost answer: the key files once."""
    submission = _all(kind).select_related("of").get(pk=submission_id)
    if submission.state != State.QUEUED:
        return
    try:
        document = unseal_bytes(submission.document)
        receipt = hand_in(submission.authority, submission.of.year, submission.key, document, f"{kind}s")
    except (AuthorityAway, AuthorityRefuses) as away:
        _try_later(submission_id, State.QUEUED, send, away, kind)
        return
    with transaction.atomic():
        submission = _all(kind).select_for_update(of=("self",)).select_related("of__household").get(pk=submission_id)
        if submission.state != State.QUEUED:
            return
        submission.state, submission.receipt, submission.sent_at = State.SENT, receipt, timezone.now()
        submission.tries, submission.trouble = 0, ""
        submission.next_try_at = timezone.now() + timedelta(seconds=settings.POLL_SECONDS)
        submission.save()
        record(None, "sent", submission.of, says=f"{submission.authority.upper()}, receipt {receipt}")
        poll.ask(settings.POLL_SECONDS, submission_id=submission_id, kind=kind)


@job("poll", lost=_lost(State.SENT), failed=_failed)
def poll(submission_id, kind="return"):
    """Ask what became of a document, and settle the answer."""
    submission = _all(kind).get(pk=submission_id)
    if submission.state != State.SENT:
        return
    try:
        answer = ask(submission.receipt)
    except (AuthorityAway, AuthorityRefuses) as away:
        _try_later(submission_id, State.SENT, poll, away, kind)
        return
    if answer.state == "pending":
        wait = settings.POLL_SECONDS
        _all(kind).filter(pk=submission_id).update(next_try_at=timezone.now() + timedelta(seconds=wait), trouble="")
        poll.ask(wait, submission_id=submission_id, kind=kind)
        return
    _SETTLED_BY[kind](submission_id, answer)


def _try_later(submission_id, state, task, away, kind):
    with transaction.atomic():
        submission = _all(kind).select_for_update().get(pk=submission_id)
        if submission.state != state:
            return
        submission.tries += 1
        wait = pause(submission.tries)
        submission.trouble = f"Try {submission.tries}: {away}"[:200]
        submission.next_try_at = timezone.now() + timedelta(seconds=wait)
        submission.save()
        task.ask(wait, submission_id=submission_id, kind=kind)
