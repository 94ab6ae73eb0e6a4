"""A return that corrects one which was accepted: made with the same papers, one at a time, each on top of the one before.

The figures as filed are those of the accepted snapshots. While the due date has not passed a correction takes the place of what
was filed (superseding) and is due with it; afterwards it is an amended return.
"""

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.changing import changed, closed_because, open_for_change, summarise
from practice.returns.computing import BROUGHT, pack_of, result_of
from practice.returns.copying import tell_copied
from practice.returns.entry import stored
from practice.returns.models import FILED, How, LineOverride, Origin, Paper, Purpose, Return, Stage, State
from practice.returns.opening import new_return, spanned
from practice.returns.stages import reach
from practice.returns.standing import correction_under_way, corrections_of, standing

ON_PAPER = "on paper"  # in place of the receipt of what was filed, where that was mailed


class NotAmended(Cannot):
    """There is nothing to correct, or not in this way; `says` tells why."""


@transaction.atomic
def amend(actor, return_id):
    """The correction of a return: a new one, or the one that is under way. NotAmended before every authority has accepted."""
    asked = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "open", asked)
    if under_way := correction_under_way(asked):
        return under_way
    source = Return.objects.for_firm(actor.firm).select_for_update(of=("self",)).get(pk=standing(asked).pk)
    _may_be_amended(source)
    accepted = _accepted(source)
    return_ = new_return(
        source.household, source.year, source.preparer if source.preparer.is_active else actor, pack=source.pack,
        purpose=Purpose.AMENDING, silenced=source.silenced, guide=source.guide, apart_from_id=source.apart_from_id,
        apart_role=source.apart_role, **spanned(source.period),
    )  # fmt: skip
    superseding = actor.firm.today() <= source.due
    Origin.objects.create(
        firm=return_.firm, of=return_, source=source, how=How.AMENDED, version=source.version, by=actor,
        amends={"number": corrections_of(source).count(), "superseding": superseding, "accepted": accepted},
    )  # fmt: skip
    _copy(source, return_)
    _begin(actor, return_)
    return_.due = source.due if superseding else _claimable_until(return_)
    reach(return_, Stage.PREPARE, "to correct")
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "correction made", return_, says=f"{return_.year}, {'superseding' if superseding else 'amended'}")
    return return_


def _may_be_amended(source):
    if source.household.left_on:
        raise NotAmended("The client left the practice. Take them back first.")
    if source.apart_state:
        raise NotAmended("A separate state return is not corrected here yet. Send the state's own form.")
    if source.purpose == Purpose.PLANNING:
        raise NotAmended("A plan is not filed, so there is nothing to correct.")
    if pack_of(source).correcting is None:
        raise NotAmended("Returns of this kind are not corrected here.")
    newest = {one.authority: one.state for one in source.submissions.order_by("pk")}
    if not set(FILED) & set(newest.values()) or not closed_because(source):
        raise NotAmended("Only an accepted return is corrected. Change this one as it is.")
    if {State.QUEUED, State.SENT, State.WAITING, State.TO_MAIL} & set(newest.values()):
        raise NotAmended("This return is being filed. Wait for the acknowledgment.")


def _accepted(source):
    """{authority: what of it is in force}: the newest accepted submission, of this return or one that it corrects."""
    found = dict(source.origin.amends["accepted"]) if source.purpose == Purpose.AMENDING else {}
    for one in source.submissions.filter(state__in=FILED).order_by("pk"):
        day = source.stages.get(Stage.FILE) or source.firm.today().isoformat()
        found[one.authority] = {"snapshot": one.snapshot_id, "receipt": one.receipt or ON_PAPER, "day": day}
    return found


def _copy(source, return_):
    """Papers as they are, with how each value came, and lines set by hand."""
    papers = [one for one in source.papers.order_by("position", "pk") if one.removed_at is None]
    begun = {paper.kind for paper in pack_of(source).papers if paper.corrects}
    names = ("key", "kind", "position", "values", "provenance", "person_id", "source", "attached")
    copies = {}
    for one in papers:
        if one.kind not in begun:
            plain = {name: getattr(one, name) for name in names}
            copies[one.pk] = Paper.objects.create(firm=return_.firm, of=return_, **plain)
    LineOverride.objects.bulk_create(
        LineOverride(firm=return_.firm, of=return_, address=row.address, amount=row.amount, reason=row.reason, by=row.by)
        for row in source.overrides.all()
    )
    tell_copied(return_, copies)


def _begin(actor, return_):
    """The papers that a correction has besides those that were filed; what is proposed on them waits to be confirmed."""
    pack = pack_of(return_)
    position = max((one.position for one in return_.papers.all()), default=0)
    for given in pack.correcting.begins(result_of(return_).run):
        mark = {"how": BROUGHT, "by": "", "from": return_.year}
        provenance = {path: dict(mark) for name in given.carried for path in _paths(name, given.values[name])}
        position += 1
        Paper.objects.create(
            firm=return_.firm, of=return_, kind=given.kind, key=given.id, position=position, provenance=provenance,
            values=stored(pack.paper(given.kind), given.values),
        )  # fmt: skip


def _paths(name, value):
    """Where a field's value lies, or each of a table's."""
    if isinstance(value, str):
        return [name]
    return [f"{name}.{row['id']}.{inner}" for row in value for inner in row if inner != "id"]


def _claimable_until(return_):
    """The soonest day on which a refund from one of the authorities cannot be claimed any more."""
    run, pack = result_of(return_).run, pack_of(return_)
    return min(pack.correcting.claimable_until(run, pack.authority(code)) for code in run.amends.filed)


@transaction.atomic
def no_longer_superseding(actor, return_id):
    """The due date has passed: the correction is an amended return from now on. Twice is harmless."""
    return_ = open_for_change(actor, return_id)
    origin = return_.origin if return_.purpose == Purpose.AMENDING else None
    if origin is None or not origin.amends["superseding"]:
        return return_
    before = result_of(return_)
    origin.amends["superseding"] = False
    origin.save(update_fields=["amends"])
    return_.due = _claimable_until(return_)
    changed(actor, return_, before)
    record(actor, "correction is an amended return", return_, says="the due date has passed")
    return return_


def too_late_to_supersede(return_):
    """Whether a correction that was made in time to take the place of what was filed is late by now."""
    superseding = return_.purpose == Purpose.AMENDING and return_.origin.amends["superseding"]
    return superseding and return_.firm.today() > return_.due


@transaction.atomic
def give_up(actor, return_id):
    """A correction that is not made after all; what was filed stands. NotAmended once something of it went out."""
    return_ = open_for_change(actor, return_id)
    require(actor, "open", return_)
    if return_.purpose != Purpose.AMENDING:
        raise NotAmended("This return corrects none.")
    if return_.submissions.exclude(state=State.WITHDRAWN).exists():
        raise NotAmended("It was sent already.")
    return_.given_up_at = timezone.now()
    reach(return_, Stage.DONE, "not made")
    return_.save()
    record(actor, "correction given up", return_, says=f"{return_.year}")
    return return_
