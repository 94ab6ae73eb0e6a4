"""The advice page: items computed by the core, switched on or off by whoever looks after the client."""

from dataclasses import dataclass

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.returns.computing import result_of
from practice.returns.models import Return
from practice.review.models import AdviceChoice
from taxcore.engine import Advice, BadValue


@dataclass(frozen=True)
class Item:
    """An item and whether it is on the client's page; `by` switched it, or nobody."""

    of: Advice
    shown: bool
    by: str = ""


def items_of(return_, result):
    chosen = {row.item: row for row in return_.advice_choices.select_related("by")}
    found = []
    for one in result.run.pack.advice(result):
        row = chosen.get(one.key)
        found.append(Item(one, row.shown if row else one.shown, row.by.initials if row else ""))
    return found


@transaction.atomic
def choose(actor, return_id, item, shown):
    """Switch an item. BadValue for one that this return does not have."""
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "note", return_)
    result = result_of(return_)
    if item not in {one.key for one in result.run.pack.advice(result)}:
        raise BadValue("This advice no longer applies.", item)
    AdviceChoice.objects.for_firm(actor.firm).update_or_create(
        of=return_, item=item, defaults={"firm": actor.firm, "shown": shown, "by": actor}
    )
    record(actor, "advice switched", return_, says=f"{item}: {'on' if shown else 'off'}")


def page_of(return_, result):
    """What the client's page needs."""
    shown = [one.of for one in items_of(return_, result) if one.shown]
    return {"of": return_, "firm": return_.firm, "items": shown, "next_year": return_.year + 1}
