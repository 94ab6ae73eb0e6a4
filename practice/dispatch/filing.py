"""Handing a signed return to its authorities: the federal one first, the others when it is accepted."""

from django.db import transaction

from practice.dispatch.models import LIVE, State, Submission
from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.amending import too_late_to_supersede
from practice.returns.frozen import document_of
from practice.returns.models import Return, Stage
from practice.returns.stages import reach
from practice.signing import on_paper
from practice.signing.needed import authorities_to_sign, missing_signatures

_HELD = []


def holds_filing(function):
    """Who else must agree before a return goes out: called with it, gives a sentence where it must wait, else nothing."""
    _HELD.append(function)
    return function


class CannotFile(Cannot):
    """The return cannot go out; `says` tells why and what to do."""


@transaction.atomic
def file_return(actor, return_id):
    """Make submissions for every authority that has none alive. Asking twice makes none twice."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "file", return_)
    if return_.snapshot_id is None:
        raise CannotFile("The return is not locked. Lock it and have it signed first.")
    if too_late_to_supersede(return_):
        raise CannotFile("The due date has passed, so this cannot take the place of what was filed. Make it an amended return.")
    missing = missing_signatures(return_)
    if missing:
        client, _, authority = missing[0]
        raise CannotFile(f"{client.full_name} has not signed for {authority.name} yet.")
    if says := next(filter(None, (held(return_) for held in (on_paper.holds, *_HELD))), ""):
        raise CannotFile(says)
    authorities = authorities_to_sign(return_)
    here = {authority.code for authority in authorities}
    made = [_submit(actor, return_, one, one.after in here) for one in authorities if _needs(return_, one)]
    if made:
        reach(return_, Stage.FILE, "on its way")
        return_.save()
        record(actor, "filed", return_, says=", ".join(s.authority.upper() for s in made))
    return made


def _needs(return_, authority):
    return not return_.submissions.filter(authority=authority.code, state__in=LIVE).exists()


def _submit(actor, return_, authority, waits):
    """`waits`: another authority of this return comes first."""
    done = not waits or return_.submissions.filter(authority=authority.after, state=State.ACCEPTED).exists()
    document = document_of(return_.snapshot, authority.code)
    submission = Submission.objects.create(
        firm=return_.firm, of=return_, snapshot=return_.snapshot, authority=authority.code, document=seal_bytes(document),
        state=State.QUEUED if done else State.WAITING, by=actor,
    )  # fmt: skip
    if submission.state == State.QUEUED:
        queue(submission)
    return submission


def queue(submission):
    from practice.dispatch.tasks import send

    send.ask(submission_id=submission.pk, kind="return")


@transaction.atomic
def try_now(actor, submission_id):
    """Send or ask again at once instead of waiting for the next try."""
    from practice.dispatch.tasks import poll, send

    submission = fetch(Submission.objects, actor, pk=submission_id)
    require(actor, "file", submission)
    task = {State.QUEUED: send, State.SENT: poll}.get(submission.state)
    if task:
        task.ask(again=True, submission_id=submission.pk, kind="return")
    return submission
