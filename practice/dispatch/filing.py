"""Handing a signed return to its authorities: the federal one first, the others when it is accepted."""

from django.db import transaction

from practice.dispatch.models import LIVE, State, Submission, Way
from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.acts import Done, act
from practice.returns.amending import too_late_to_supersede
from practice.returns.frozen import document_of
from practice.returns.models import FILED, Return, Stage
from practice.returns.stages import reach
from practice.signing import on_paper, preparing
from practice.signing.needed import authorities_to_sign, missing_signatures

_HELD = []


def holds_filing(function):
    """Who else must agree before a return goes out: called with it, gives a sentence where it must wait, else nothing."""
    _HELD.append(function)
    return function


def holding():
    """Everybody who must agree."""
    return (on_paper.holds, preparing.holds, *_HELD)


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
    if says := next(filter(None, (held(return_) for held in holding())), ""):
        raise CannotFile(says)
    authorities, routes = authorities_to_sign(return_), routes_of(return_)
    if not (identified(return_.firm) or all(one.code in routes for one in authorities)):
        raise CannotFile(
            f"The practice has no {usual_pack().outgoing.filing_number} and PIN yet. "
            "They are entered under Practice's answers, Filing identification."
        )
    here = {authority.code for authority in authorities}
    made = [
        _submit(actor, return_, one, one.after in here, routes.get(one.code)) for one in authorities if _needs(return_, one.code)
    ]
    made = [one for one in made if one is not None]
    if not made and (
        kept := next((one for one in routes.values() if one.way == Way.HELD and _needs(return_, one.authority)), None)
    ):
        raise CannotFile(f"{kept.authority.upper()} is held: {kept.note}")
    if made:
        reach(return_, Stage.FILE, "on its way")
        return_.save()
        record(actor, "filed", return_, says=", ".join(s.authority.upper() for s in made))
    return made


def identified(firm):
    """Whether the practice can e-file: it has its numbers as an originator, or only trains."""
    return firm.training or bool(firm.efin and firm.originator_pin)


def routes_of(return_):
    """{authority's code: how the return goes there} where that is not electronically."""
    return {one.authority: one for one in return_.routes.exclude(way=Way.ELECTRONIC)}


def _needs(return_, code):
    return not return_.submissions.filter(authority=code, state__in=LIVE).exists()


def _submit(actor, return_, authority, waits, route):
    """`waits`: another authority of this return comes first. None where it is held."""
    if route is not None and route.way == Way.HELD:
        return None
    done = not waits or return_.submissions.filter(authority=authority.after, state__in=FILED).exists()
    state = State.TO_MAIL if route is not None else State.QUEUED if done else State.WAITING
    document = document_of(return_.snapshot, authority.code)
    submission = Submission.objects.create(
        firm=return_.firm, of=return_, snapshot=return_.snapshot, authority=authority.code, document=seal_bytes(document),
        state=state, by=actor,
    )  # fmt: skip
    if submission.state == State.QUEUED:
        queue(submission)
    return submission


@act("file", "File", "file")
def file_one(actor, return_id):
    made = file_return(actor, return_id)
    return Done(f"{', '.join(one.authority.upper() for one in made)} on the way" if made else "everything was sent already")


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
