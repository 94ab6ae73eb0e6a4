"""More time to file: asked of each authority, made ready one by one or all at once, sent, and settled with its answer.

What each authority wants is worked out in taxcore/packs/us/extensions.py; here is what a practice does with it. What is paid is
keyed on the return's own papers, so that it stands on the final return.
"""

from dataclasses import dataclass

from django.db import transaction
from django.utils import timezone

from practice.dispatch.models import Asked, Extension
from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.firm.permissions import require
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import (
    last_row_id,
    new_key,
    next_position,
    note_change,
    note_paper,
    place_at,
    put_value,
)
from practice.returns.models import Paper, Return
from practice.returns.typed import read_typed
from taxcore.engine import Amount, BadValue
from taxcore.packs.us import extensions
from taxcore.packs.us.base import STATES, UNTAXED

_AMOUNT = Amount(None, "Paying with it")
FEDERAL = extensions.FEDERAL


class CannotExtend(Exception):
    """The request cannot go; `says` tells why and what to do."""

    def __init__(self, says):
        super().__init__(says)
        self.says = says


@dataclass(frozen=True)
class Line:
    """One authority on the page: what is worked out, and the request as it stands (None where nobody asked)."""

    one: extensions.MoreTime
    request: Extension | None

    @property
    def is_open(self):
        return self.request is None or self.request.state in (Asked.OPEN, Asked.REJECTED)


def lines_of(return_, result):
    """Every authority of a return with its request."""
    requests = {request.authority: request for request in return_.extensions.order_by("id")}
    return [Line(one, requests.get(one.code)) for one in extensions.of_return(result.run)]


@transaction.atomic
def ask(actor, return_id, codes=None):
    """Ask these authorities for more time; None is all that the return has. A state may be asked before its return is made.
    Asking twice asks once. Returns what was asked now."""
    return_ = open_for_change(actor, return_id, "extend")
    before = result_of(return_)
    wanted = [one.code for one in extensions.of_return(before.run) if one.made] if codes is None else codes
    open_ = [code for code in wanted if not return_.extensions.filter(authority=code).exclude(state=Asked.REJECTED).exists()]
    for code in open_:
        _key_asked(actor, return_, code)
        Extension.objects.create(firm=return_.firm, of=return_, authority=code, by=actor)
    if open_:
        forget(return_, "papers")
        changed(actor, return_, before)
        record(actor, "more time asked", return_, says=", ".join(code.upper() for code in open_))
    return open_


@transaction.atomic
def pay(actor, return_id, code, text):
    """Key what is paid with one authority's extension. BadValue if it cannot be read."""
    return_ = open_for_change(actor, return_id, "extend")
    _request(return_, code)
    value, tape = read_typed(_AMOUNT, text)
    before = result_of(return_)
    paper, path = _place(actor, return_, code)
    place = place_at(pack_of(return_), paper, path)
    if place.plain != value:
        note_change(actor, return_, paper, place, value, tape)
        put_value(paper, place, value, actor, tape)
        paper.save()
        forget(return_, "papers")
        changed(actor, return_, before)
    return value


@transaction.atomic
def make_ready(actor, return_id, codes=None, ready=True):
    """Switch requests to ready or back; None is all that are open. Returns how many were switched."""
    return_ = open_for_change(actor, return_id, "extend")
    open_ = return_.extensions.filter(state=Asked.OPEN)
    return (open_ if codes is None else open_.filter(authority__in=codes)).update(ready=ready)


@transaction.atomic
def take_back(actor, return_id, code):
    """Ask no more, while nothing was sent."""
    return_ = open_for_change(actor, return_id, "extend")
    request = _request(return_, code)
    before = result_of(return_)
    paper = next((one for one in return_.papers.all() if one.kind == _kind(code) and not one.removed_at), None)
    if paper is not None and code == FEDERAL:
        place = place_at(pack_of(return_), paper, "asked")
        note_change(actor, return_, paper, place, "", "")
        put_value(paper, place, "", actor, "")
    elif paper is not None:
        _take_row(actor, return_, paper, code)
    if paper is not None:
        paper.save()
    request.delete()
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "more time no longer asked", return_, says=code.upper())


@transaction.atomic
def send_ready(actor, return_id):
    """Send every request that is ready; where nothing has to be sent it is settled at once. Returns what was sent."""
    return_ = Return.objects.for_firm(actor.firm).select_for_update(of=("self",)).get(pk=return_id)
    require(actor, "file", return_)
    ready = list(return_.extensions.filter(state=Asked.OPEN, ready=True))
    if not ready:
        raise CannotExtend("Nothing is ready. Mark the authorities whose request may go.")
    result = result_of(return_)
    known = {one.code: one for one in extensions.of_return(result.run)}
    _nobody_unnamed(result)
    return [request for request in ready if _send(actor, return_, result, request, known[request.authority])]


def _send(actor, return_, result, request, one):
    if one.until is None:
        raise CannotExtend(f"{one.name}: {one.says}")
    request.form, request.paying, request.until, request.by = one.form, one.paying, one.until, actor
    if one.sends == extensions.NOTHING:
        request.state, request.answered_at = Asked.UNNEEDED, timezone.now()
        request.save()
        record(actor, "more time without a form", return_, says=f"{one.name}: {one.says}")
        return False
    request.document = seal_bytes(extensions.document(result.run, one, str(return_.pk)))
    request.state = Asked.QUEUED
    request.save()
    record(actor, "more time requested", return_, says=f"{one.name}, {one.form}, paying {one.paying:,}")
    queue(request)
    return True


def queue(request):
    from practice.dispatch.tasks import send

    transaction.on_commit(lambda: send.defer(submission_id=request.pk, kind="extension"))


@transaction.atomic
def settle(request_id, answer):
    """Record an authority's answer once. The return is due later when the federal request was accepted."""
    objects = Extension.objects.across_firms("background work")
    request = objects.select_for_update(of=("self",)).select_related("of", "firm").get(pk=request_id)
    if request.state != Asked.SENT:
        return
    accepted = answer.state == "accepted"
    request.state = Asked.ACCEPTED if accepted else Asked.REJECTED
    request.answered_at, request.trouble, request.next_try_at = timezone.now(), "", None
    request.refused_rules = answer.faults
    request.save()
    if accepted:
        record(None, "more time given", request.of, says=f"{request.authority.upper()} until {request.until:%-d %B %Y}")
        if request.authority == FEDERAL:
            Return.objects.for_firm(request.firm).filter(pk=request.of_id).update(due=request.until)
    else:
        first = answer.faults[0] if answer.faults else {"rule": "", "message": "no reason given"}
        says = f"{request.authority.upper()}: {first['rule']} {first['message']}"
        record(None, "more time refused", request.of, says=says, faults=answer.faults)


def _request(return_, code):
    request = return_.extensions.filter(authority=code).exclude(state=Asked.REJECTED).first()
    if request is None:
        raise CannotExtend("Ask for more time first.")
    if request.state != Asked.OPEN:
        raise CannotExtend("This request was sent already.")
    return request


def _nobody_unnamed(result):
    for person in result.run.form("us.1040").filers:
        if not (person.first_name and person.last_name and person.number):
            raise CannotExtend("Name and number of everybody who files are needed. Key them under People.")


def _kind(code):
    return "extension" if code == FEDERAL else "state-extensions"


def _key_asked(actor, return_, code):
    """The paper that says so: a flag for the federal request, a row for a state's."""
    paper = _paper(actor, return_, _kind(code))
    pack = pack_of(return_)
    if code == FEDERAL:
        place, value = place_at(pack, paper, "asked"), "yes"
    else:
        state = code.partition("-")[2].upper()
        if _row_of(paper, state):
            return
        key = str(last_row_id(paper, "rows") + 1)
        paper.values.setdefault("rows", []).append({"id": key})
        place, value = place_at(pack, paper, f"rows.{key}.state"), state
    if place.plain != value:
        note_change(actor, return_, paper, place, value, "")
        put_value(paper, place, value, actor, "")
    paper.save()


def _paper(actor, return_, kind):
    """The one paper of a kind, made or put back where it is not there."""
    paper = return_.papers.filter(kind=kind).first()
    if paper is None:
        declared = pack_of(return_).paper(kind)
        paper = Paper.objects.create(
            firm=return_.firm, of=return_, kind=kind, key=new_key(return_, declared), position=next_position(return_)
        )
        note_paper(actor, return_, paper, "added")
    elif paper.removed_at:
        paper.removed_at = None
        note_paper(actor, return_, paper, "put back")
    return paper


def _place(actor, return_, code):
    """Where the payment of one authority is keyed: (paper, path)."""
    paper = _paper(actor, return_, _kind(code))
    if code == FEDERAL:
        return paper, "paying"
    row = _row_of(paper, code.partition("-")[2].upper())
    return paper, f"rows.{row['id']}.paying"


def _row_of(paper, state):
    return next((row for row in paper.values.get("rows", []) if row.get("state") == state), None)


def _take_row(actor, return_, paper, code):
    row = _row_of(paper, code.partition("-")[2].upper())
    for name in [name for name in row or {} if name != "id"]:
        place = place_at(pack_of(return_), paper, f"rows.{row['id']}.{name}")
        note_change(actor, return_, paper, place, "", "row taken out")
        paper.provenance.pop(place.path, None)
    if row:
        paper.values["rows"].remove(row)


def code_of(text):
    """The authority's code of a state as it is typed: MO or Missouri. BadValue if there is none."""
    typed = text.strip()
    found = next((code for code, name in STATES.items() if typed.upper() == code or typed.lower() == name.lower()), None)
    if found is None:
        raise BadValue(f"“{typed}” is no state. Write its name or its two letters.", typed)
    if found in UNTAXED:
        raise BadValue(f"{STATES[found]} taxes neither wages nor interest: there is nothing to ask for.", typed)
    return f"us-{found.lower()}"
