"""Handing a return to a colleague: to be looked at, or back to be entered."""

from django.db import transaction

from practice.firm.events import record
from practice.firm.models import Staff
from practice.firm.permissions import Refused, fetch, may, require
from practice.firm.refusals import Cannot
from practice.returns.models import Return, Stage
from practice.returns.stages import reach
from practice.review.margin import add_note


class CannotHand(Cannot):
    """The return cannot go to that person or from this stage; `says` tells why."""


@transaction.atomic
def send_back(actor, return_id, address, question):
    """A reviewer's question about a figure goes to the preparer, and the return with it. BadValue without a question."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "review", return_)
    if return_.stage not in (Stage.GATHER, Stage.PREPARE, Stage.REVIEW):
        raise CannotHand("The return is locked or sent. Ask for the change without sending it back.")
    note = add_note(actor, return_id, address, question, return_.preparer_id)
    reach(return_, Stage.PREPARE, "sent back")
    return_.waiting_for = return_.preparer
    return_.save()
    record(actor, "sent back", return_, says=question.strip()[:100], address=address)
    return note


@transaction.atomic
def hand_over(actor, return_id, to_id):
    """Give the return to a colleague. Somebody who reviews gets it to review, anybody else to prepare."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    if not (may(actor, "key") or may(actor, "review")):
        raise Refused(actor, "key", return_)
    require(actor, "view", return_)
    colleague = Staff.objects.filter(firm=actor.firm, is_active=True, pk=to_id).first()
    if colleague is None:
        raise CannotHand("Choose a colleague of your practice.")
    if return_.stage not in (Stage.GATHER, Stage.PREPARE, Stage.REVIEW):
        raise CannotHand("The return is locked or filed; there is nothing left to review.")
    if may(colleague, "review"):
        reach(return_, Stage.REVIEW, "to review")
    else:
        reach(return_, Stage.PREPARE, "handed back")
        return_.preparer = colleague
    return_.waiting_for = colleague
    return_.save()
    record(actor, "handed over", return_, says=f"to {colleague.name}")
    return return_
