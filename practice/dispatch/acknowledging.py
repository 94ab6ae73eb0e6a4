"""What an authority's answer does to the return."""

from django.db import transaction
from django.utils import timezone

from practice.dispatch.filing import queue
from practice.dispatch.models import Acknowledgement, State, Submission
from practice.firm.events import record
from practice.portal.alerting import tell
from practice.returns.computing import pack_of, result_of
from practice.returns.models import FILED, Return, Stage
from practice.returns.stages import reach
from practice.signing.needed import CannotSign
from practice.signing.representing import written_to
from taxcore.engine.filed import address_at


@transaction.atomic
def settle(submission_id, answer):
    """Record an acknowledgment once: accepted lets the next authority go, rejected brings the return back to the desk."""
    objects = Submission.objects.across_firms("background work")
    submission = objects.select_for_update(of=("self",)).select_related("of__household", "firm").get(pk=submission_id)
    if submission.state != State.SENT:
        return
    return_ = Return.objects.for_firm(submission.firm).select_for_update(of=("self",)).get(pk=submission.of_id)
    accepted = answer.state == "accepted"
    submission.state = State.ACCEPTED if accepted else State.REJECTED
    submission.answered_at, submission.trouble, submission.next_try_at = timezone.now(), "", None
    submission.refused_rules = [{**fault, "at": _address(return_, fault)} for fault in answer.faults]
    submission.save()
    Acknowledgement.objects.create(firm=submission.firm, submission=submission, accepted=accepted, answer=answer.raw)
    if accepted:
        _accepted(return_, submission)
    else:
        _rejected(return_, submission)
    return_.save()


def _address(return_, fault):
    """The address of the entry or line that a fault names, found once, when it comes; empty where it names none."""
    return address_at(result_of(return_), fault.get("path", "")) or ""


def _accepted(return_, submission):
    record(None, "accepted", return_, says=f"{submission.authority.upper()} accepted, receipt {submission.receipt}")
    name = pack_of(return_).authority(submission.authority).name
    tell(return_, _clients(return_), f"the {return_.year} {name} return was accepted.")
    filed(return_, f"{submission.authority.upper()} accepted")


def _clients(return_):
    """Who signed; nobody where that can no longer be said: an answer is settled all the same."""
    try:
        return written_to(return_)
    except CannotSign:
        return []


def filed(return_, note):
    """One authority has its return: the next one's goes out; the return moves on once nothing is waited for. Does not save."""
    waiting = return_.submissions.filter(state=State.WAITING)
    for following in waiting:
        following.state = State.QUEUED
        following.save()
        queue(following)
    open_states = return_.submissions.filter(state__in=[State.WAITING, State.QUEUED, State.SENT, State.TO_MAIL]).exists()
    if not open_states and not _still_rejected(return_) and not _missing(return_):
        reach(return_, Stage.DELIVER, "to deliver")
    else:
        reach(return_, Stage.FILE, note)


def _missing(return_):
    """Authorities that have nothing yet, because theirs is held."""
    wanted = {line["code"] for line in return_.snapshot.bottom_lines} if return_.snapshot_id else set()
    return wanted - set(return_.submissions.filter(state__in=FILED).values_list("authority", flat=True))


def _still_rejected(return_):
    newest = {submission.authority: submission.state for submission in return_.submissions.order_by("id")}
    return State.REJECTED in newest.values()


def _rejected(return_, submission):
    """The others wait for nothing now; they are made again when the return is filed again."""
    first = submission.refused_rules[0] if submission.refused_rules else {"rule": "", "message": "no reason given"}
    says = f"{submission.authority.upper()} rejected: {first['rule']} {first['message']}"
    record(None, "rejected", return_, says=says, faults=submission.refused_rules)
    name = pack_of(return_).authority(submission.authority).name
    news = f"the {return_.year} {name} return was sent back. We are looking into it."
    tell(return_, _clients(return_), news)
    return_.submissions.filter(state=State.WAITING).update(state=State.WITHDRAWN)
    reach(return_, Stage.FILE, "rejected")
