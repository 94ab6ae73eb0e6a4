"""One act on many returns: begun with a list, done in the background one by one, each with a result of its own.

A round survives its worker: what is done is stored return by return, and the sweep goes on with what is left.
"""

import logging

from django.db import transaction
from django.utils import timezone

from practice.dispatch.models import Act, Round, RoundItem
from practice.firm.permissions import Refused, require
from practice.returns.changing import Settled
from practice.returns.models import Return
from practice.us import extending
from taxcore.engine import BadValue

_log = logging.getLogger(__name__)
_NEEDS = {Act.ASK: "extend", Act.SEND: "file"}


@transaction.atomic
def begin(actor, act, return_ids):
    """A round over the practice's returns among these, the soonest due first. BadValue when there is none."""
    from practice.us.tasks import go_round

    require(actor, _NEEDS[Act(act)])
    found = list(Return.objects.for_firm(actor.firm).filter(pk__in=return_ids).order_by("due", "household__name", "id"))
    if not found:
        raise BadValue("Choose at least one return.", "")
    made = Round.objects.create(firm=actor.firm, act=act, by=actor)
    RoundItem.objects.bulk_create(RoundItem(firm=actor.firm, round=made, of=return_) for return_ in found)
    go_round.ask(round_id=made.pk)
    return made


def go_on(round_id):
    """Do what is not done yet. Each return is a transaction of its own; two workers never do the same one."""
    of = Round.objects.across_firms("background work").select_related("by__firm").get(pk=round_id)
    for pk in list(of.items.filter(done_at=None).values_list("pk", flat=True)):
        with transaction.atomic():
            item = of.items.select_for_update(skip_locked=True, of=("self",)).filter(pk=pk, done_at=None).first()
            if item is not None:
                item.says, item.worked = _do(of.act, of.by, item.of_id)
                item.done_at = timezone.now()
                item.save()
                of.save()  # touched_at


def _do(act, actor, return_id):
    """(what happened, whether it worked). What is refused is a result, not an error."""
    try:
        with transaction.atomic():
            return (_ask if act == Act.ASK else _send)(actor, return_id), True
    except (Settled, Refused, extending.CannotExtend, BadValue) as refused:
        return refused.says[:300], False
    except Exception:  # one return must not hold up the others, nor come back every minute
        _log.exception("round: %s of return %s", act, return_id)
        return "failed because of a program error; it was logged, try it on the return itself", False


def _ask(actor, return_id):
    asked = extending.ask(actor, return_id)
    extending.make_ready(actor, return_id)
    return f"requested from {', '.join(code.upper() for code in asked)}, ready" if asked else "was requested already"


def _send(actor, return_id):
    sent = extending.send_ready(actor, return_id)
    return f"{len(sent)} on their way" if sent else "nothing had to be sent; the extended due dates apply"


def give_up(round_id, says):
    """What is left of a round is not done; each return of it says why."""
    of = Round.objects.across_firms("background work").get(pk=round_id)
    of.items.filter(done_at=None).update(done_at=timezone.now(), worked=False, says=says[:300])


def stopped(before):
    """Ids of rounds that nobody went on with since then."""
    idle = Round.objects.across_firms("background work").filter(items__done_at=None, touched_at__lt=before)
    return list(idle.distinct().values_list("pk", flat=True))
