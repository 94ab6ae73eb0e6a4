"""Next year's return from this year's: made, filled where one is there already, or made again with the old one kept.

What comes over is the core's business (taxcore/engine/rolling.py). Every value that came is marked with its year until
somebody confirms it (confirming.py). What the source says otherwise later is seen and can be taken over (taking_over.py).
"""

import json
from dataclasses import dataclass
from typing import Any

from django.db import transaction
from django.utils import timezone

from practice.firm.crypto import digest
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns import last_year
from practice.returns.acts import Done, act
from practice.returns.changing import changed, forget, open_for_change, summarise
from practice.returns.computing import BROUGHT, computed_alone, computed_from, pack_of, result_of
from practice.returns.entry import next_position, stored
from practice.returns.models import How, Origin, Paper, Return, Stage, State
from practice.returns.opening import new_return, put_papers, spanned
from practice.returns.placing import marks_of
from practice.returns.stages import reach
from practice.returns.standing import filing_return, separate_returns, standing
from taxcore.engine import CannotRoll, roll_forward

LEAVE, FILL, AGAIN = "leave", "fill", "again"
THERE = {
    LEAVE: "leave it as it is",
    FILL: "fill in what is missing",
    AGAIN: "make it again, and keep the old one",
}


class NotRolled(Cannot):
    """There is no next year's return to make from this one; `says` tells why."""


@dataclass
class Made:
    """Next year's return; `says` what was done, `remarks` what did not come along."""

    return_: Any
    says: str
    remarks: tuple[str, ...] = ()


@transaction.atomic
def roll(actor, return_id, there=LEAVE):
    """Make next year's return; `there` says what happens where one exists. NotRolled where nothing can be made of this one."""
    source = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "open", source)
    if source.household.left_on:
        raise NotRolled("The client left the practice.")
    if source.is_separate:
        raise NotRolled("Both separate returns are rolled forward together, under the household.")
    if source.purpose != "filing" or source.apart_from_id or source.given_up_at:
        raise NotRolled("Only a filing return of the whole household is rolled forward.")
    if separate_returns(source):
        raise NotRolled("Separate returns were made from this one. Roll both forward under the household, or cancel them first.")
    source = standing(source)
    year, period = year_after(source)
    existing = filing_return(source.household, source.pack, year, period and period.end)
    if existing is not None and there == LEAVE:
        return Made(existing, f"left: there is a return of {existing.tax_year if period else existing.year} already")
    rolled = rolled_from(source)
    if existing is None:
        made = make(actor, source, rolled)
        return Made(made, "made" + _with(rolled.remarks), rolled.remarks)
    if there == FILL:
        filled = _fill(actor, source, existing, rolled)
        return Made(existing, f"{filled} fields filled in" if filled else "nothing was missing", rolled.remarks)
    set_aside(actor, existing, "made again from the year before")
    made = make(actor, source, rolled)
    return Made(made, "made again, the old one kept" + _with(rolled.remarks), rolled.remarks)


def _with(remarks):
    return f", with {len(remarks)} remark{'s' if len(remarks) > 1 else ''}: {remarks[0]}" if remarks else ""


def follows(return_):
    """Whether a return of this kind has one of the year after."""
    return not return_.ends or pack_of(return_).period_after is not None


def year_after(source):
    """(year, period) of the return that follows; no period where the year says it. NotRolled where none does."""
    if not source.ends:
        return source.year + 1, None
    pack = pack_of(source)
    if pack.period_after is None:
        raise NotRolled("A return of this kind is made anew each time.")
    period = pack.period_after(source.period)
    return pack.year_in(period), period


def rolled_from(source, parted=""):
    """What next year's return has from this one as it stands, which it may look back at; of a couple who part, that of the one
    with this role. NotRolled where there is none."""
    result = computed_alone(source)
    last_year.seen(source, result)
    try:
        return roll_forward(result, parted)
    except CannotRoll as cannot:
        raise NotRolled(cannot.says) from None
    finally:
        result.take_apart()  # a round works out thousands of them


def make(actor, source, rolled, household=None, parted=""):
    """Next year's return as the core rolled it; in another household where two part."""
    preparer = source.preparer if source.preparer.is_active else actor
    year, period = year_after(source)
    return_ = new_return(household or source.household, year, preparer, pack=source.pack, **spanned(period))
    clients = {paper.key: paper.person_id for paper in source.papers.all() if paper.kind == "person"}
    people = {new: clients.get(old) for new, old in rolled.people.items()}
    put_papers(return_, rolled.data.papers, lambda one: brought(source, one, one.carried), people)
    note_origin(actor, return_, source, How.ROLLED, rolled, parted)
    result = computed_from(return_, rolled.data, last_year.of(source))
    summarise(return_, result)
    result.take_apart()
    return_.save()
    record(actor, "return rolled forward", return_, says=f"{return_.year}, from {source.year}")
    return return_


def new_paper(source, return_, given, position):
    """A paper of what came over; not saved."""
    declared = pack_of(return_).paper(given.kind)
    return Paper(
        firm=return_.firm, of=return_, kind=given.kind, key=given.id, position=position, values=stored(declared, given.values),
        provenance=brought(source, given, given.carried),
    )  # fmt: skip


def brought(source, given, names):
    """Provenance of values that came from another year's return; of a table, of each field of its rows."""
    return marks_of(given.values, names, mark_from(source))


def mark_from(source):
    """Provenance of a value that came from another year's return and waits to be confirmed."""
    return {"how": BROUGHT, "by": "", "from": source.year}


def note_origin(actor, return_, source, how, rolled, parted=""):
    """Keep from which return, as it was then, this one was made."""
    return Origin.objects.create(
        firm=return_.firm, of=return_, source=source, how=how, version=source.version, by=actor, remarks=list(rolled.remarks),
        parted=parted, marks=fingerprints(source.firm_id, rolled.data),
    )  # fmt: skip


def fingerprints(firm_id, data):
    """{paper: {field: keyed fingerprint}} of what came over. No client's number is kept in plain."""
    came = [one for one in data.papers if one.carried]
    return {f"{one.kind}/{one.id}": {name: mark_of(firm_id, one.values[name]) for name in one.carried} for one in came}


def mark_of(firm_id, value):
    return digest(firm_id, json.dumps(value, sort_keys=True))[:16]


def _fill(actor, source, existing, rolled):
    """Put what is missing into a return that is there already; nothing that stands there moves. How many fields."""
    return_ = open_for_change(actor, existing.pk)
    before = result_of(return_)
    here = {(paper.kind, paper.key): paper for paper in return_.papers.all()}
    filled = 0
    for given in rolled.data.papers:
        paper = here.get((given.kind, given.id)) or _same_sender(return_, given)
        if paper is None:
            new_paper(source, return_, given, next_position(return_)).save()
            filled += len(given.carried)
        elif not paper.removed_at and (names := [name for name in given.carried if name not in paper.values]):
            declared = pack_of(return_).paper(given.kind)
            paper.values |= stored(declared, {name: given.values[name] for name in names})
            paper.provenance |= brought(source, given, names)
            paper.save()
            filled += len(names)
    forget(return_, "papers")
    if filled:
        changed(actor, return_, before)
        record(actor, "return filled in", return_, says=f"{filled} fields from {source.year}")
    if not Origin.objects.for_firm(return_.firm).filter(of=return_).exists():
        note_origin(actor, return_, source, How.ROLLED, rolled)
    return filled


def _same_sender(return_, given):
    """A paper that was keyed here under another id: of the same kind, owner and sender."""
    declared = pack_of(return_).paper(given.kind)
    name = declared.party.get("name") or declared.heading
    if not name or not given.values.get(name):
        return None
    marks = ("owner", name)
    alike = (one for one in return_.papers.all() if one.kind == given.kind and not one.removed_at)
    return next((one for one in alike if all(one.values.get(mark) == given.values.get(mark) for mark in marks)), None)


def set_aside(actor, existing, why):
    """The return of which another is made: it stays in the records, closed. NotRolled once something of it went out."""
    if existing.snapshot_id or existing.submissions.exclude(state=State.WITHDRAWN).exists():
        raise NotRolled(f"The return of {existing.year} is locked or filed already.")
    existing.given_up_at = timezone.now()
    reach(existing, Stage.DONE, "replaced")
    existing.save()
    record(actor, "return set aside", existing, says=why)


@act("roll", "Roll forward", "open")
def _roll_one(actor, return_id, there=LEAVE):
    made = roll(actor, return_id, there)
    return Done(made.says, made.return_)
