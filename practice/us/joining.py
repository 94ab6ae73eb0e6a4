"""A joint return from two separate ones: of one couple's two, or of two clients. Both stay on record, closed."""

from django.db import transaction

from practice.clients.keeping import follow_people
from practice.firm.events import record
from practice.firm.permissions import require
from practice.firm.refusals import Cannot
from practice.returns.changing import open_for_change, summarise
from practice.returns.computing import result_of
from practice.returns.copying import tell_copied
from practice.returns.models import How, Origin, Paper, Purpose, Return, Stage
from practice.returns.opening import new_return, put_papers
from practice.returns.rolling import set_aside
from practice.returns.stages import reach
from practice.us.in_two import provenance
from taxcore.packs.us import joining as couple


class NotJoined(Cannot):
    """The two make no joint return; `says` tells why."""


@transaction.atomic
def join(actor, first_id, second_id):
    """The joint return of two: the first one's person is the taxpayer; of a couple's two, whoever was. NotJoined where they make
    none, NotRolled once one of them is locked or filed."""
    first, second = sorted((_opened(actor, one) for one in (first_id, second_id)), key=lambda one: one.apart_role != "taxpayer")
    if not first.apart_role and first.pk != first_id:
        first, second = second, first
    made = _joined(first, second)
    for one in (first, second, *_joint_of(first)):
        set_aside(actor, one, "made into a joint return")
    _move_in(actor, first, second)
    return_ = new_return(first.household, first.year, first.preparer if first.preparer.is_active else actor, pack=first.pack)
    _fill(actor, return_, made, first, second)
    Origin.objects.create(
        firm=return_.firm, of=return_, source=first, how=How.JOINED, version=first.version, by=actor,
        remarks=list(made.remarks), amends={"second": second.pk},
    )  # fmt: skip
    reach(return_, Stage.PREPARE, "made from two returns")
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "joint return made of two", return_, says=f"{return_.year}")
    return return_


def _opened(actor, return_id):
    return_ = open_for_change(actor, return_id)
    require(actor, "open", return_)
    if return_.purpose != Purpose.FILING or return_.apart_state:
        raise NotJoined("Only the returns that two people would file themselves become a joint one.")
    return return_


def _joined(first, second):
    if first.pk == second.pk or first.pack != second.pack:
        raise NotJoined("Choose the other person's return.")
    runs = [result_of(one).run for one in (first, second)]
    if says := couple.why_not(*runs):
        raise NotJoined(says)
    marks = [set(one.origin.marks) if one.is_separate else set() for one in (first, second)]
    return couple.joined(*runs, marks[0] & marks[1] if first.apart_from_id == second.apart_from_id else ())


def _joint_of(first):
    """The joint return from which the two were made."""
    return [Return.objects.for_firm(first.firm_id).get(pk=first.apart_from_id)] if first.is_separate else []


def _move_in(actor, first, second):
    """The second person joins the first one's household."""
    paper = second.papers.filter(kind="person", key="taxpayer").select_related("person").first()
    if first.household_id == second.household_id or paper is None or paper.person is None:
        return
    require(actor, "add clients")
    person = paper.person
    person.household = first.household
    person.save()
    follow_people(first.household)
    follow_people(second.household)
    record(actor, "joined a household", household=first.household, says=f"{person.full_name}, from {second.household.name}")


def _fill(actor, return_, made, first, second):
    """Papers with how each value came, who is a client, and the pages beside them, from whichever return they came."""
    there = {}
    for of in (second, first):
        for paper in of.papers.all():
            if not paper.removed_at:
                there[of.pk, paper.kind, paper.key] = paper

    def source(kind, key):
        mine = there.get((first.pk, kind, key)) if (kind, key) != ("person", "spouse") else None
        return mine or there.get((second.pk, kind, made.ids.get((kind, key), key)))

    papers = made.data.papers
    people = {one.id: source("person", one.id).person_id for one in papers if one.kind == "person"}
    put_papers(return_, papers, lambda one: provenance(actor, source(one.kind, one.id), one), people)
    copies = {}
    for paper in return_.papers.all():
        for one in {there.get((first.pk, paper.kind, paper.key)), source(paper.kind, paper.key)}:
            if one is not None and one.attached:
                copies[one.pk] = paper
                paper.attached += one.attached
        Paper.objects.for_firm(return_.firm_id).filter(pk=paper.pk).update(attached=paper.attached)
    tell_copied(return_, copies)
