"""A couple's state returns apart: made from the joint return, known as such, given up again.

The return of both stays as it is, and leaves the state out with the reason. A return apart is worked out whole, as if its one
filer had filed separately everywhere; only the state's return goes out (`filing.only_state`).
"""

import hashlib
import json

from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from practice.dispatch.models import LIVE, State
from practice.firm.crypto import digest
from practice.firm.events import record
from practice.firm.permissions import require
from practice.returns.changing import Settled, open_for_change, summarise
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import put_rows
from practice.returns.gathering import known
from practice.returns.models import How, Origin, Paper, Return, Stage
from practice.returns.stages import reach
from practice.signing.voiding import void_signatures
from practice.us.state_returns import LEAVE_OUT, decide
from taxcore.engine import BadValue
from taxcore.packs.us import apart, places
from taxcore.packs.us.base import STATES
from taxcore.packs.us.papers.places import WHERE

_PLAIN = ("role", "owner")  # not fields of a paper's declaration


@transaction.atomic
def file_apart(actor, return_id, state):
    """Make the state's return of each who has one; returns them. BadValue where the state wants one return of both."""
    return_ = open_for_change(actor, return_id)
    require(actor, "open", return_)
    result = result_of(return_)
    if return_.apart_from_id or not places.calls(result.run, state) or not apart.may(result.run, state):
        raise BadValue(f"As far as known here, {STATES[state]} requires one return of this couple.", state)
    choice = apart.comparison(result.run, state)
    made = [_made(actor, return_, result, role, state) for role in choice.each]
    names = " and ".join(choice.names.values())
    decide(actor, return_id, state, LEAVE_OUT, f"{names} {'file' if len(made) > 1 else 'files'} separately")
    record(actor, "separate state returns made", return_, says=f"{STATES[state]}: {names}")
    return made


def _made(actor, both, result, role, state):
    data = apart.of_one(result.run, role, state)
    return_ = Return(
        firm=both.firm, household=both.household, year=both.year, pack=both.pack, preparer=both.preparer,
        due=pack_of(both).authority(f"us-{state.lower()}").due_on(both.year), apart_from=both, apart_role=role, apart_state=state,
    )  # fmt: skip
    reach(return_, Stage.PREPARE, "made from the joint return")
    return_.save()
    Origin.objects.create(
        firm=both.firm, of=return_, source=both, how=How.APART, version=both.version, marks=_marks(both, data), by=actor
    )
    people = {(paper.kind, paper.key): paper.person for paper in both.papers.all()}
    for position, paper in enumerate(data.papers):
        _copy(actor, return_, paper, position, people.get((paper.kind, role if paper.id == "taxpayer" else paper.id)))
    summarise(return_, result_of(return_))
    return_.save()
    record(actor, "return added", return_, says=f"{both.year}, {STATES[state]}, separate return")
    return return_


def _copy(actor, return_, given, position, person):
    declared = pack_of(return_).paper(given.kind)
    plain = {name: given.values[name] for name in _PLAIN if name in given.values and name not in declared.fields()}
    paper = Paper.objects.create(
        firm=return_.firm, of=return_, kind=given.kind, key=given.id, position=position, values=plain, person=person
    )
    rest = {name: value for name, value in given.values.items() if name not in plain}
    put_rows(paper, declared, rest, actor, "imported")
    paper.save()


def _marks(both, data):
    """{paper: a keyed fingerprint of what it had}. No client's number is kept in plain."""
    written = {f"{one.kind}/{one.id}": json.dumps(dict(one.values), sort_keys=True) for one in data.papers}
    return {name: digest(both.firm_id, text)[:20] for name, text in written.items()}


def differences(return_):
    """What of the joint return is other than when this one was made: (titles of papers, a mark of what they are now)."""
    both = Return.objects.for_firm(return_.firm_id).select_related("firm").get(pk=return_.apart_from_id)
    origin = return_.origin
    if both.version == origin.version:
        return [], ""
    result = result_of(both)
    now = _marks(both, apart.of_one(result.run, return_.apart_role, return_.apart_state))
    differing = sorted(name for name in {*now, *origin.marks} if now.get(name) != origin.marks.get(name))
    titles = {f"{one.kind}/{one.key}": one.title for one in (*result.run.people(), *result.run.all_papers())}
    mark = hashlib.sha256(json.dumps([(name, now.get(name, "")) for name in differing]).encode()).hexdigest()[:20]
    return list(dict.fromkeys(titles.get(name, "a paper that was removed") for name in differing)), mark


def living(return_):
    """The states' returns apart that were made from this one and not given up."""
    rows = return_.apart.for_firm(return_.firm_id).filter(given_up_at=None)
    return rows.exclude(apart_state="").order_by("apart_state", "pk")


def twice(return_):
    """States that would be filed on the joint return and apart."""
    states = {one.apart_state for one in living(return_)} if not return_.apart_from_id else set()
    return sorted(state for state in states if places.calls(result_of(return_).run, state))


@transaction.atomic
def file_together(actor, return_id, state):
    """Give the returns apart of a state up. Settled when one of them is on its way or was accepted."""
    return_ = open_for_change(actor, return_id)
    require(actor, "open", return_)
    given_up = list(living(return_).filter(apart_state=state).select_for_update(of=("self",)))
    if not given_up:
        raise BadValue(f"No separate {STATES[state]} return is open.", state)
    if any(one.submissions.filter(state__in=[*LIVE, State.ACCEPTED]).exists() for one in given_up):
        raise Settled(f"A separate {STATES[state]} return was filed. Changes now belong in an amended return.")
    for one in given_up:
        _give_up(actor, one)
    return decide(actor, return_id, state, "", "")


def _give_up(actor, return_):
    if return_.snapshot_id:
        codes = [line["code"] for line in return_.snapshot.bottom_lines]
        void_signatures(actor, return_, dict.fromkeys(codes, "the couple files jointly"))
        return_.snapshot = None
    return_.given_up_at = timezone.now()
    reach(return_, Stage.DONE, "canceled")
    return_.save()
    record(actor, "separate state return canceled", return_, says=f"{STATES[return_.apart_state]}: the couple files together")


def described(return_, result):
    """What a return apart is, at the head of its pages."""
    if not return_.apart_from_id:
        return ""
    who = next((one.title for one in result.run.form("us.1040").filers), "nobody")
    if return_.is_separate:
        return f"{who}, separate return"
    return f"{WHERE[return_.apart_state]} only: {who}, separate from the joint return"


def not_locked(return_):
    """A state is filed once."""
    state = next(iter(twice(return_)), None)
    if state is None:
        return ""
    return f"{STATES[state]} is on this return and on a separate state return. Decide under Places which one is filed."


def notices(return_):
    """A return apart and the joint return: filed twice, or no longer the same facts."""
    if return_.given_up_at and return_.apart_from_id:
        says = "Canceled. Nothing is filed from here."
        yield "given-up", str(return_.pk), "check", says, reverse("papers", args=[return_.apart_from_id]), "the joint return"
    elif return_.apart_state:
        differing, mark = differences(return_)
        if differing:
            says = f"The joint return was changed since this one was made from it: {'; '.join(differing)}. Enter it here too."
            yield "apart-differs", mark, "check", says, reverse("papers", args=[return_.apart_from_id]), "look there"
    for state in twice(return_) if known(return_, "apart") else ():
        says = f"{STATES[state]} is on this return and on a separate state return. File jointly again, or do not prepare it here."
        yield "twice", state, "stops", says, reverse("places", args=[return_.pk]), "Places"
