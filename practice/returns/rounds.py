"""One act on many returns: begun with a list, done in the background one by one, each with a result of its own.

A round survives its worker: what is done is stored return by return, and the sweep goes on with what is left. It can be held and
goes on when somebody says so.
"""

import logging

from django.db import transaction
from django.utils import timezone

from practice.firm.permissions import fetch, require
from practice.returns.acts import ACTS, Done
from practice.returns.models import Return, Round, RoundItem
from taxcore.engine import BadValue

_log = logging.getLogger(__name__)


@transaction.atomic
def begin(actor, act, return_ids, **options):
    """A round over the practice's returns among these, the soonest due first. BadValue when there is none."""
    require(actor, ACTS[act].needs)
    found = list(Return.objects.for_staff(actor).filter(pk__in=return_ids).order_by("due", "household__name", "id"))
    if not found:
        raise BadValue("Choose at least one return.", "")
    made = Round.objects.create(firm=actor.firm, act=act, by=actor, options=options)
    RoundItem.objects.bulk_create(RoundItem(firm=actor.firm, round=made, of=return_) for return_ in found)
    _ask(made)
    return made


def _ask(of):
    from practice.returns.tasks import go_round  # which asks this module

    go_round.ask(round_id=of.pk)


def go_on(round_id):
    """Do what is not done yet. Each return is a transaction of its own; two workers never do the same one."""
    of = Round.objects.across_firms("background work").select_related("by__firm").get(pk=round_id)
    for pk in list(of.items.filter(done_at=None).values_list("pk", flat=True)):
        of.refresh_from_db(fields=["held_at"])
        if of.held_at:
            return
        with transaction.atomic():
            item = of.items.select_for_update(skip_locked=True, of=("self",)).filter(pk=pk, done_at=None).first()
            if item is not None:
                done, item.worked = _do(of, item.of_id)
                item.says, item.made, item.done_at = done.says[:300], done.made, timezone.now()
                item.save()
                of.save(update_fields=["touched_at"])


def _do(of, return_id):
    """(what happened, whether it worked). What is refused is a result, not an error."""
    act = ACTS[of.act]
    try:
        with transaction.atomic():
            return act.do(of.by, return_id, **of.options), True
    except act.refusals as refused:
        return Done(refused.says), False
    except Exception:  # one return must not hold up the others, nor come back every minute
        _log.exception("round: %s of return %s", of.act, return_id)
        return Done("failed because of a program error; it was logged, try it on the return itself"), False


@transaction.atomic
def hold(actor, round_id, held=True):
    """Stop after the return that is being done, or go on with what is left."""
    of = fetch(Round.objects.select_for_update(of=("self",)), actor, pk=round_id)
    require(actor, ACTS[of.act].needs)
    of.held_at = timezone.now() if held else None
    of.save()
    if not held:
        _ask(of)
    return of


def give_up(round_id, says):
    """What is left of a round is not done; each return of it says why."""
    of = Round.objects.across_firms("background work").get(pk=round_id)
    of.items.filter(done_at=None).update(done_at=timezone.now(), worked=False, says=says[:300])


def stopped(before):
    """Ids of rounds that nobody went on with since then."""
    idle = Round.objects.across_firms("background work").filter(items__done_at=None, held_at=None, touched_at__lt=before)
    return list(idle.distinct().values_list("pk", flat=True))


def progress(actor, round_id):
    """How far a round has come: its items in order, those that are done counted."""
    of = fetch(Round.objects, actor, pk=round_id)
    items = list(RoundItem.objects.for_staff(actor).filter(round=of).select_related("of__household", "made"))
    done = [item for item in items if item.done_at]
    percent = 100 * len(done) // (len(items) or 1)
    failed = sum(not item.worked for item in done)
    return {"round": of, "items": done, "all": len(items), "percent": percent, "failed": failed}
