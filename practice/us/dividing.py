"""What a preparer says of a couple: who has what cannot be halved, and the share of each in what is of both. It moves no figure
of the joint return."""

from decimal import Decimal

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.returns.computing import result_of
from practice.returns.models import Return
from practice.us.models import CoupleDivision
from taxcore.engine import BadValue
from taxcore.packs.us import dividing as couple
from taxcore.packs.us.dividing import ROLES, Division


class NotDivided(BadValue):
    """One share is none; `mark` says of which paper."""

    def __init__(self, bad, mark):
        super().__init__(bad.says, bad.given)
        self.mark = mark


def division_of(return_):
    """As it was said; half each and the taxpayer holding where nobody said anything."""
    row = CoupleDivision.objects.for_firm(return_.firm_id).filter(of=return_).first()
    if row is None:
        return Division()
    return Division(row.holder, {mark: Decimal(share) for mark, share in row.shares.items()})


@transaction.atomic
def set_division(actor, return_id, holder, shares):
    """`holder` claims the dependents and has what cannot be halved, where nothing else is said of one; `shares` are the
    taxpayer's percents by paper, as typed, an empty one for what is usual. NotDivided for what is none: nothing is kept."""
    found = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(found, actor, pk=return_id)
    require(actor, "key", return_)
    if holder not in ROLES:
        raise BadValue("Choose one of the couple.", holder)
    parts = {one.mark: one for one in couple.parts(result_of(return_).run, Division(holder))}
    kept = {mark: _read(parts[mark], text) for mark, text in shares.items() if mark in parts and text.strip()}
    said = {mark: share for mark, share in kept.items() if Decimal(share) != parts[mark].percent}
    CoupleDivision.objects.for_firm(return_.firm_id).update_or_create(
        firm=return_.firm, of=return_, defaults={"holder": holder, "shares": said, "by": actor}
    )
    record(actor, "division of a couple changed", return_, says=f"held by the {holder}, {len(said)} shares")


def _read(part, text):
    try:
        return f"{couple.read_share(part, text).normalize():f}"
    except BadValue as bad:
        raise NotDivided(bad, part.mark) from None
