"""A return for planning: made from another with its amounts, of the same year or the next. It is not due, not counted, not filed.

It becomes the filing return by an act that says what will be different; or what is other in it goes into the filing return field
by field.
"""

import uuid
from dataclasses import dataclass, replace

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.changing import changed, forget, open_for_change, summarise
from practice.returns.computing import open_values, pack_of, result_of
from practice.returns.drawing import as_read
from practice.returns.models import How, Purpose, Return
from practice.returns.opening import new_return, put_papers, spanned
from practice.returns.placing import by_hand, paper_at, put
from practice.returns.rolling import brought, note_origin, rolled_from, year_after
from practice.returns.standing import filing_return
from taxcore.engine import Rolled
from taxcore.whatif.columns import a_year_on


class NotPlanned(Cannot):
    """That cannot be done with this plan, or no plan can be made of this return; `says` tells why."""


@transaction.atomic
def plan(actor, return_id, years_on=0):
    """A plan from a return with all that is entered in it: of its own year, or of the next with what this one closes."""
    source = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    _may_plan(actor, source)
    return _planned(actor, source, _next_year(source) if years_on else _as_plan(source, result_of(source).run.everything))


def plan_with(actor, source, data, remarks=()):
    """A plan with these papers, of the source's year or the one after. NotPlanned for another, as for `plan`."""
    _may_plan(actor, source)
    if data.index is not None:
        raise NotPlanned(f"The law of {data.year} is not known yet: it stays a column.")
    if data.year not in (source.year, source.year + 1):
        raise NotPlanned("A plan is of this year or the next.")
    return _planned(actor, source, _as_plan(source, data, remarks))


def _may_plan(actor, source):
    require(actor, "open", source)
    if source.household.left_on:
        raise NotPlanned("The client left the practice.")
    if source.apart_from_id or source.given_up_at:
        raise NotPlanned("A plan is made from the return of the whole household.")


def _planned(actor, source, made):
    span = spanned(source.period if made.data.year == source.year else year_after(source)[1])
    return_ = new_return(source.household, made.data.year, actor, pack=source.pack, purpose=Purpose.PLANNING, **span)
    put_papers(return_, made.data.papers, lambda one: brought(source, one, one.carried))
    note_origin(actor, return_, source, How.PLANNED, made)
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "plan made", return_, says=f"{return_.year}, from {source.year}")
    return return_


def _as_plan(source, data, remarks=()):
    """All that is entered, less what makes it a correction. What waits to be confirmed waits here too."""
    corrects = {paper.kind for paper in pack_of(source).papers if paper.corrects}
    papers = tuple(replace(one, attached=0) for one in data.papers if one.kind not in corrects)
    data = data.but(papers=papers, overrides={}, last_year=None, amends=None)
    return Rolled(data, {one.id: one.id for one in papers}, (), tuple(remarks))


def _next_year(source):
    """The papers as they are, a year on; where they open what this year closes, with that."""
    return a_year_on(rolled_from(source), result_of(source))


def plans_of(household):
    """The household's plans, the newest year first."""
    return (
        household.returns.for_firm(household.firm_id).filter(purpose=Purpose.PLANNING, given_up_at=None).order_by("-year", "-pk")
    )


def filing_of(return_):
    """The filing return of a plan's year, or None."""
    return filing_return(return_.household, return_.pack, return_.year, return_.ends)


@transaction.atomic
def make_filing(actor, return_id):
    """The plan is the filing return from now on. NotPlanned where its year has one."""
    return_ = open_for_change(actor, return_id)
    require(actor, "open", return_)
    if return_.purpose != Purpose.PLANNING:
        raise NotPlanned("This return is no plan.")
    if filing_of(return_) is not None:
        raise NotPlanned(f"There is a filing return of {return_.year} already. Take over from the plan what should hold there.")
    clients = {paper.key: paper.person_id for paper in return_.origin.source.papers.filter(kind="person")}
    for paper in return_.papers.filter(kind="person", person=None):
        paper.person_id = clients.get(paper.key)
        paper.save(update_fields=["person"])
    return_.purpose = Purpose.FILING
    return_.version += 1
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "plan became the filing return", return_, says=f"{return_.year}")
    return return_


@dataclass(frozen=True)
class Other:
    """One field that the plan has otherwise than the filing return."""

    mark: str
    paper: str
    label: str
    planned: str
    filed: str


def others(plan_, filing):
    """What is other in the plan, paper by paper."""
    pack = pack_of(plan_)
    there = {(one.kind, one.key): open_values(one.values) for one in filing.papers.all() if not one.removed_at}
    for paper in plan_.papers.all():
        declared = pack.paper(paper.kind)
        if paper.removed_at or declared is None:
            continue
        here, then = open_values(paper.values), there.get((paper.kind, paper.key), {})
        title = str(here.get(declared.heading) or declared.name)
        for name, field in declared.fields().items():
            if (here.get(name) or "") != (then.get(name) or ""):
                mark, texts = f"{paper.kind}/{paper.key}/{name}", (as_read(field, values.get(name)) for values in (here, then))
                yield Other(mark, title, field.label, *texts)


@transaction.atomic
def take_into_filing(actor, plan_id, marks):
    """Put these fields of the plan into the filing return of its year, as one act. How many."""
    plan_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=plan_id)
    filing = filing_of(plan_)
    if plan_.purpose != Purpose.PLANNING or filing is None:
        raise NotPlanned("There is no filing return of that year to take anything into.")
    return_ = open_for_change(actor, filing.pk)
    wanted = [one.mark for one in others(plan_, return_) if one.mark in marks]
    if not wanted:
        return 0
    before, batch = result_of(return_), uuid.uuid4().hex
    planned = {(one.kind, one.key): open_values(one.values) for one in plan_.papers.all() if not one.removed_at}
    for mark in wanted:
        kind, key, name = mark.split("/")
        values = planned[kind, key]
        plain = {n: values[n] for n in ("owner", "role") if n in values}
        paper = paper_at(actor, return_, kind, key, batch, plain)
        put(actor, return_, paper, name, values.get(name), "from the plan", batch, by_hand(actor))
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "taken from the plan", return_, says=f"{len(wanted)} fields")
    return len(wanted)
