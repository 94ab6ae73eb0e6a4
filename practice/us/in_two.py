"""A couple's return in two: made from the joint return, each one person's and complete; made again later; given up.

The joint return stays as it is and is the origin of both. Which way is filed is decided by locking: while separate returns are
there, the joint one is not locked, and no separate one is once the joint return went its way.
"""

import uuid
from dataclasses import dataclass

from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from practice.clients.keeping import follow_people
from practice.clients.models import Person
from practice.dispatch.models import LIVE, State
from practice.firm.crypto import digest, plain_number
from practice.firm.events import record
from practice.firm.permissions import require
from practice.firm.refusals import Cannot
from practice.returns.changing import Settled, changed, forget, open_for_change, summarise
from practice.returns.computing import open_values, pack_of, result_of
from practice.returns.copying import tell_copied
from practice.returns.entry import note_paper
from practice.returns.gathering import known
from practice.returns.models import How, Origin, Paper, Purpose, Return, Stage
from practice.returns.opening import new_return, put_papers
from practice.returns.placing import by_hand, paper_at, put
from practice.returns.rolling import mark_of
from practice.returns.stages import reach
from practice.signing.voiding import void_signatures
from practice.us.dividing import division_of
from taxcore.packs.us import apart, both_ways
from taxcore.packs.us import dividing as couple
from taxcore.packs.us.dividing import ROLES

NEW, REPLACE = "new", "replace"
_PLAIN = ("role", "owner", "id")


class NotSplit(Cannot):
    """These are no two returns to make, or not in this way; `says` tells why."""


@dataclass(frozen=True)
class Edited:
    """A field that stands otherwise in a separate return than it was put there."""

    paper: str
    label: str


def why_not(both, result):
    """Why a return is not split; empty where it can be."""
    if both.apart_from_id:
        return "This return was made from a joint return: it is one person's already, and is not split again."
    if both.purpose != Purpose.FILING:
        return "Only the return that would be filed is split: neither a plan nor a correction."
    if both.given_up_at:
        return "Another return was made in place of this one."
    return both_ways.why_not(result.run)


@transaction.atomic
def split(actor, return_id, again=""):
    """The two separate returns, the taxpayer's first. Where they are there already, `again` says whether new versions are made
    and the old ones kept, or what they have is replaced. NotSplit, or Settled where the joint return is on its way."""
    both = open_for_change(actor, return_id)
    require(actor, "open", both)
    result = result_of(both)
    if says := why_not(both, result):
        raise NotSplit(says)
    there = {one.apart_role: one for one in living(both)}
    if there and again not in (NEW, REPLACE):
        raise NotSplit("The separate returns are there already: make new versions, or replace what they have.")
    _make_client(actor, both)
    for one in there.values():
        if _is_gone(one):
            raise Settled(f"{whose(one)} separate return was filed. Changes now belong in an amended return.")
        if again == NEW:
            _give_up(actor, one, "made again from the joint return")
    made = [_replaced(actor, there[role], result) if there and again == REPLACE else _made(actor, both, result, role)
            for role in ROLES]  # fmt: skip
    record(actor, "joint return split", both, says=f"{both.year}: {again or 'made'}")
    return made


def _make_client(actor, both):
    """The spouse becomes a client of the household where there is none yet."""
    paper = both.papers.filter(kind="person", key="spouse", removed_at=None).first()
    if paper is None or paper.person_id:
        return
    require(actor, "add clients")
    known = open_values(paper.values)
    fields = {name: known.get(name, "") for name in ("first_name", "last_name", "number", "occupation", "email")}
    digits = plain_number(fields["number"])
    if digits and Person.objects.for_firm(both.firm_id).filter(number_digest=digest(both.firm_id, digits)).exists():
        raise NotSplit("The spouse's number belongs to another client already. Merge the two, or correct the number, first.")
    born = known.get("birth_date") or None
    paper.person = Person.objects.create(firm=both.firm, household=both.household, birth_date=born, **fields)
    paper.save(update_fields=["person"])
    follow_people(both.household)
    forget(both, "papers")
    record(actor, "client added", both, says=paper.person.full_name)


def _made(actor, both, result, role):
    data = apart.everywhere(result.run, role, division_of(both))
    return_ = new_return(both.household, both.year, both.preparer if both.preparer.is_active else actor, pack=both.pack,
                         apart_from=both, apart_role=role, silenced=both.silenced)  # fmt: skip
    old = _papers_of(both)
    people = {one.id: old[_there(one.kind, one.id, role)].person_id for one in data.papers if one.kind == "person"}
    put_papers(return_, data.papers, lambda one: provenance(actor, old.get(_there(one.kind, one.id, role)), one), people)
    reach(return_, Stage.PREPARE, "made from the joint return")
    _take_along(return_, old, role, return_.papers.all())
    Origin.objects.create(
        firm=both.firm, of=return_, source=both, how=How.SPLIT, version=both.version, by=actor, parted=role,
        marks=_marks(both.firm_id, data.papers), remarks=list(couple.doubts(result.run)),
    )  # fmt: skip
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "return added", return_, says=f"{both.year}, separate return from the joint one")
    return return_


def _papers_of(both):
    return {(one.kind, one.key): one for one in both.papers.all() if not one.removed_at}


def _there(kind, key, role):
    """Where a paper of the separate return stands on the joint one."""
    return (kind, role if (kind, key) == ("person", "taxpayer") else key)


def provenance(actor, paper, given):
    """How the values of a paper came that was `paper` on the return it is from. A value that is the same came as it did there; a
    part of one was put there by who divided."""
    if paper is None:
        return {name: by_hand(actor, "imported") for name in given.values if name not in _PLAIN}
    there = open_values(paper.values)
    same = {name for name, value in given.values.items() if there.get(name) == value}
    kept = {path: mark for path, mark in paper.provenance.items() if path.partition(".")[0] in same}
    divided = {
        path: by_hand(actor, "imported") for path in paper.provenance if path.partition(".")[0] in given.values.keys() - same
    }
    return kept | divided


def _take_along(return_, old, role, papers):
    """Pages beside these papers come along with them, on both returns where each has a part."""
    copies = {}
    for paper in papers:
        source = old.get(_there(paper.kind, paper.key, role))
        if source is not None and source.attached:
            copies[source.pk] = paper
            Paper.objects.for_firm(return_.firm_id).filter(pk=paper.pk).update(attached=source.attached)
    tell_copied(return_, copies)


def _marks(firm_id, papers):
    """{paper: {field: keyed fingerprint}} of everything that was put there. No client's number is kept in plain."""
    return {f"{one.kind}/{one.id}": {name: mark_of(firm_id, value) for name, value in one.values.items()} for one in papers}


def _replaced(actor, there, result):
    """What the joint return says now, put into a separate return field by field, as one act that its history keeps."""
    return_ = open_for_change(actor, there.pk)
    data = apart.everywhere(result.run, return_.apart_role, division_of(return_.apart_from))
    before, batch = result_of(return_), uuid.uuid4().hex
    given, known = {(one.kind, one.id): one for one in data.papers}, {one.pk for one in return_.papers.all()}
    for paper in return_.papers.all():
        if (paper.kind, paper.key) not in given and not paper.removed_at:
            _set_removed(actor, return_, paper, timezone.now(), "removed", batch)
    for mark, one in given.items():
        _put_paper(actor, return_, mark, dict(one.values), batch)
    forget(return_, "papers")
    _bring(return_, [one for one in return_.papers.all() if one.pk not in known])
    forget(return_, "papers")
    changed(actor, return_, before)
    origin = return_.origin
    origin.version, origin.marks = return_.apart_from.version, _marks(return_.firm_id, data.papers)
    origin.remarks = list(couple.doubts(result.run))
    origin.save()
    record(actor, "separate return replaced", return_, says="from the joint return as it is now")
    return return_


def _bring(return_, fresh):
    """Papers that came with a replacement: who the person is, and the pages beside."""
    old = _papers_of(return_.apart_from)
    for paper in fresh:
        source = old.get(_there(paper.kind, paper.key, return_.apart_role))
        if source is not None and source.person_id:
            Paper.objects.for_firm(return_.firm_id).filter(pk=paper.pk).update(person=source.person_id)
    _take_along(return_, old, return_.apart_role, fresh)


def _set_removed(actor, return_, paper, at, how, batch):
    paper.removed_at = at
    paper.save(update_fields=["removed_at"])
    note_paper(actor, return_, paper, how, batch)


def _put_paper(actor, return_, mark, values, batch):
    paper = paper_at(actor, return_, *mark, batch, {name: values[name] for name in ("role", "owner") if name in values})
    if paper.removed_at:
        _set_removed(actor, return_, paper, None, "restored", batch)
    declared, there = pack_of(return_).paper(paper.kind), open_values(paper.values)
    for name in declared.fields():
        if name not in _PLAIN and (values.get(name) or "") != (there.get(name) or ""):
            put(actor, return_, paper, name, values.get(name), "from the joint return", batch, by_hand(actor, "imported"))


def living(both):
    """The separate returns of two that were made from this one and not given up, the taxpayer's first."""
    rows = both.apart.for_firm(both.firm_id).filter(given_up_at=None, apart_state="", purpose=Purpose.FILING)
    return rows.select_related("firm", "household", "origin", "apart_from").order_by("-apart_role")


def edited(return_):
    """What was changed in a separate return since it was made from the joint one."""
    marks, pack, here = return_.origin.marks, pack_of(return_), {}
    for paper in return_.papers.all():
        if not paper.removed_at:
            here[f"{paper.kind}/{paper.key}"] = open_values(paper.values)
    for mark in dict.fromkeys((*marks, *here)):
        declared, values, was = pack.paper(mark.partition("/")[0]), here.get(mark), marks.get(mark)
        title = str((values or {}).get(declared.heading) or declared.name)
        if values is None or was is None:
            yield Edited(title, "removed" if values is None else "added")
            continue
        for name, field in declared.fields().items():
            now = mark_of(return_.firm_id, values[name]) if name in values else None
            if now != was.get(name):
                yield Edited(title, field.label)


def moved(return_):
    """Titles of papers of the joint return that are other than when this separate one was made from it."""
    both, origin = return_.apart_from, return_.origin
    if both.version == origin.version:
        return []
    result = result_of(both)
    if both_ways.why_not(result.run):
        return ["the filing status"]
    now = _marks(both.firm_id, apart.everywhere(result.run, return_.apart_role, division_of(both)).papers)
    titles = {f"{one.kind}/{one.key}": one.title for one in (*result.run.people(), *result.run.all_papers())}
    differing = (mark for mark in sorted({*now, *origin.marks}) if now.get(mark) != origin.marks.get(mark))
    return list(dict.fromkeys(titles.get(mark, "a paper that was removed") for mark in differing))


@transaction.atomic
def file_together(actor, return_id):
    """Give both separate returns up: the joint return is the one that goes on. Settled once one was filed."""
    both = open_for_change(actor, return_id)
    require(actor, "open", both)
    given_up = list(living(both))
    if not given_up:
        raise NotSplit("There are no separate returns of this couple.")
    for one in given_up:
        if _is_gone(one):
            raise Settled(f"{whose(one)} separate return was filed. Changes now belong in an amended return.")
    for one in given_up:
        _give_up(actor, one, "the couple files jointly")
    record(actor, "separate returns canceled", both, says=f"{both.year}: the couple files jointly")


def _is_gone(return_):
    return return_.submissions.filter(state__in=[*LIVE, State.ACCEPTED, State.MAILED]).exists()


def _give_up(actor, return_, why):
    if return_.snapshot_id:
        void_signatures(actor, return_, dict.fromkeys((line["code"] for line in return_.snapshot.bottom_lines), why))
        return_.snapshot = None
    return_.given_up_at = timezone.now()
    reach(return_, Stage.DONE, "canceled")
    return_.save()
    record(actor, "separate return canceled", return_, says=why)


def whose(return_):
    person = next((one for one in result_of(return_).run.people() if one.role == "taxpayer"), None)
    return f"{person.first_name}'s" if person is not None and person.first_name else f"The {return_.apart_role}'s"


def notices(return_):
    """A separate return and the joint one: which is filed, and whether they are the same facts still."""
    if return_.is_separate and return_.purpose == Purpose.FILING and not return_.given_up_at:
        if titles := moved(return_):
            says = (
                f"The joint return was changed since this one was made from it: {'; '.join(titles)}. Enter it here, or replace."
            )
            mark = f"{return_.apart_from.version}"
            yield "joint-moved", mark, "check", says, reverse("both-ways", args=[return_.apart_from_id]), "jointly or separately"
    elif not return_.apart_from_id and known(return_, "apart") and living(return_).exists():
        says = "Separate returns were made from this one. While they are there, this one is not locked."
        yield "in-two", "", "check", says, reverse("both-ways", args=[return_.pk]), "jointly or separately"


def not_locked(return_):
    """A couple is filed one way."""
    if return_.apart_from_id and not return_.apart_state:
        both = Return.objects.for_firm(return_.firm_id).get(pk=return_.apart_from_id)
        on_its_way = both.snapshot_id or both.submissions.exclude(state=State.WITHDRAWN).exists()
        return (
            "The joint return is locked or filed already. A couple is filed one way: unlock that one first." if on_its_way else ""
        )
    if not return_.apart_from_id and living(return_).exists():
        return "Separate returns were made from this one. File those, or cancel them under Jointly or separately."
    return ""
