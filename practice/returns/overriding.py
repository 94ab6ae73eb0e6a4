"""Lines set by hand, with a reason, and released again."""

from decimal import Decimal

from django.db import transaction

from practice.firm.events import record
from practice.firm.texts import written
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import result_of
from practice.returns.models import FieldChange
from taxcore.engine import BadValue
from taxcore.engine.forms import Line


@transaction.atomic
def set_override(actor, return_id, address, amount: Decimal, reason: str):
    """Set a line by hand. BadValue without a reason or where there is no such line."""
    return_ = open_for_change(actor, return_id, "override")
    before = result_of(return_)
    cell = before.get(address)
    if cell is None or not isinstance(cell.spec, Line) or not cell.is_amount:
        raise BadValue(f"There is no line {address} to override.", address)
    reason = written(reason, "The reason", 300, needed="Enter the reason for the override.")
    row, _ = return_.overrides.update_or_create(
        address=address, defaults={"firm": return_.firm, "amount": amount, "reason": reason, "by": actor}
    )
    _history(actor, return_, address, str(cell.value), str(amount), reason)
    forget(return_, "overrides")
    after = changed(actor, return_, before)
    record(actor, "line overridden", return_, says=f"{address} = {amount}: {reason}", address=address)
    return return_, row, before, after


@transaction.atomic
def release_override(actor, return_id, address):
    """Let the computed amount stand again."""
    return_ = open_for_change(actor, return_id, "override")
    before = result_of(return_)
    row = return_.overrides.filter(address=address).first()
    if row is None:
        return return_, before, before
    _history(actor, return_, address, str(row.amount), "", row.reason)
    row.delete()
    forget(return_, "overrides")
    after = changed(actor, return_, before)
    record(actor, "line released", return_, says=address, address=address)
    return return_, before, after


def _history(actor, return_, address, before, after, reason):
    FieldChange.objects.create(
        firm=return_.firm, of=return_, path=address, before=before, after=after, how="override", note=reason[:200], by=actor
    )
