"""More time to file: asked of each authority, made ready one by one or all at once, sent, and settled with its answer.

What each authority wants is worked out in taxcore/packs/us/extensions.py; here is what a practice does with it. What is paid is
entered on the return's own papers, so that it stands on the final return.
"""

import uuid
from dataclasses import dataclass

from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from practice.dispatch.models import Asked, Extension
from practice.firm import dates
from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import Refused, fetch, require
from practice.firm.refusals import Cannot
from practice.firm.typed_values import read_typed
from practice.returns.changing import Settled, changed, forget, open_for_change
from practice.returns.computing import result_of
from practice.returns.gathering import known
from practice.returns.models import Purpose, Return
from practice.returns.paper_rows import add_rows, paper_of, put, row_where, take_row
from practice.review.notices import agency
from practice.us.state_returns import state_named
from taxcore.engine import Amount, BadValue
from taxcore.packs.us import extensions
from taxcore.packs.us.base import STATES

_AMOUNT = Amount(None, "Paying with it")


class CannotExtend(Cannot):
    """The request cannot go; `says` tells why and what to do."""


@dataclass(frozen=True)
class Line:
    """One authority on the page: what is worked out, and the request as it stands (None where nobody asked)."""

    one: extensions.MoreTime
    request: Extension | None


def lines_of(return_, result):
    """Every authority of a return with its request."""
    requests = {request.authority: request for request in return_.extensions.order_by("id")}
    return [Line(one, requests.get(one.code)) for one in extensions.of_return(result.run)]


@transaction.atomic
def ask(actor, return_id, codes=None, state=None):
    """Ask these authorities for more time, or that of a `state`; neither is all that the return has. A state may be asked before
    its return is made. Asking twice asks once. Returns what was asked now."""
    return_ = open_for_change(actor, return_id, "extend")
    if return_.purpose == Purpose.PLANNING:
        raise CannotExtend("This is a plan: nothing of it is due. Request the extension on the filing return.")
    if return_.purpose == Purpose.AMENDING:
        raise CannotExtend("This return corrects one that was filed: no more time can be given for it.")
    before = result_of(return_)
    known = {one.code: one for one in extensions.of_return(before.run)}
    codes = [code_of(before.run, state)] if state is not None else codes
    wanted = [code for code, one in known.items() if one.made] if codes is None else codes
    if unknown := [code for code in wanted if not _is_authority(before.run, code)]:
        raise CannotExtend(f"There is no {unknown[0]} to request an extension from.")
    live = {one.authority: one for one in return_.extensions.exclude(state=Asked.REJECTED)}
    open_ = [code for code in wanted if code not in live or (live[code].state == Asked.OPEN and not _asks(known, code))]
    batch = uuid.uuid4().hex
    for code in open_:
        _key_asked(actor, return_, code, batch)
        if code not in live:
            Extension.objects.create(firm=return_.firm, of=return_, authority=code, by=actor)
    if open_:
        forget(return_, "papers")
        changed(actor, return_, before)
        record(actor, "extension requested", return_, says=", ".join(code.upper() for code in open_))
    return open_


@transaction.atomic
def pay(actor, return_id, code, text):
    """Enter what is paid with one authority's extension. BadValue if it cannot be read."""
    return_ = open_for_change(actor, return_id, "extend")
    _request(return_, code)
    value, tape = read_typed(_AMOUNT, text)
    before, batch = result_of(return_), uuid.uuid4().hex
    _key_asked(actor, return_, code, batch)
    paper = paper_of(actor, return_, _kind(code), batch)
    path = "paying" if not _state(code) else f"rows.{row_where(paper, state=_state(code))['id']}.paying"
    put(actor, return_, paper, path, value, batch, tape)
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
    before, batch = result_of(return_), uuid.uuid4().hex
    paper = next((one for one in return_.papers.all() if one.kind == _kind(code) and not one.removed_at), None)
    if paper is not None and not _state(code):
        put(actor, return_, paper, "asked", "", batch)
    elif row := row_where(paper, state=_state(code)):
        take_row(actor, return_, paper, row, batch)
    request.delete()
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "extension request canceled", return_, says=code.upper())


@transaction.atomic
def send_ready(actor, return_id):
    """Send every request that is ready; where nothing has to be sent it is settled at once. Returns what was sent."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "file", return_)
    if return_.given_up_at:
        raise CannotExtend("This separate state return was canceled. Nothing is filed from here.")
    ready = list(return_.extensions.filter(state=Asked.OPEN, ready=True))
    if not ready:
        raise CannotExtend("Nothing is ready. Check the requests to send.")
    result = result_of(return_)
    known = {one.code: one for one in extensions.of_return(result.run)}
    _nobody_unnamed(result)
    return [request for request in ready if _send(actor, return_, result, request, known.get(request.authority))]


def _send(actor, return_, result, request, one):
    if one is None or not one.asked:
        raise CannotExtend(f"{request.authority.upper()} is no longer requested on the return. Request it again, or cancel it.")
    if one.until is None:
        raise CannotExtend(f"{one.name}: {one.says}")
    if one.paying and (lacks := extensions.payment_lacks(result.run)):
        raise CannotExtend(
            f"{one.name}: the payment of {one.paying:,} needs its {lacks}. Enter it on the Extension paper, choose "
            "another payment method there, or remove the payment."
        )
    request.form, request.paying, request.until, request.by = one.form, one.paying, one.until, actor
    if one.sends == extensions.NOTHING and one.rule != "automatic" and not _federal_stands(return_):
        request.state = Asked.WAITING  # it rests on the federal one, which may be refused
        request.save()
        record(actor, "extension held", return_, says=f"{one.name}: until the federal extension is accepted")
        return False
    if one.sends == extensions.NOTHING:
        request.state, request.answered_at = Asked.UNNEEDED, timezone.now()
        request.save()
        _due_later(request)
        record(actor, "automatic extension", return_, says=f"{one.name}: {one.says}")
        return False
    request.document = seal_bytes(extensions.document(result.run, one, str(return_.pk)))
    request.state = Asked.QUEUED
    request.save()
    record(actor, "extension requested", return_, says=f"{one.name}, {one.form}, paying {one.paying:,}")
    queue(request)
    return True


def _federal_stands(return_):
    accepted = return_.extensions.filter(state=Asked.ACCEPTED)
    return any(not _state(one.authority) for one in accepted)


def queue(request):
    from practice.dispatch.tasks import send

    send.ask(submission_id=request.pk, kind="extension")


@transaction.atomic
def settle(request_id, answer):
    """Record an authority's answer once. The return is due later when the federal request was accepted; a state's return apart
    when the state's was."""
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
        record(None, "extension accepted", request.of, says=f"{request.authority.upper()} until {dates.long(request.until)}")
        _due_later(request)
        _granted(request)
    else:
        first = answer.faults[0] if answer.faults else {"rule": "", "message": "no reason given"}
        says = f"{request.authority.upper()}: {first['rule']} {first['message']}"
        record(None, "extension refused", request.of, says=says, faults=answer.faults)
        _refused(request)


def _granted(request):
    """The debit that went with it is made; states that rest on the federal extension have theirs."""
    if request.paying and extensions.wants_debit(unseal_bytes(request.document)):
        _say_on_papers(request, "paid", "yes", "paid with the accepted extension")
    if not _state(request.authority):
        for held in request.of.extensions.filter(state=Asked.WAITING):
            held.state, held.answered_at = Asked.UNNEEDED, timezone.now()
            held.save()
            _due_later(held)
            record(None, "automatic extension", request.of, says=f"{held.authority.upper()}: the federal extension is sufficient")


def _refused(request):
    """Nothing was paid and no time was given; what rested on it is open again."""
    if not _state(request.authority):
        _say_on_papers(request, "asked", "", "the extension was refused")
        held = request.of.extensions.filter(state=Asked.WAITING)
        held.update(state=Asked.OPEN, ready=False, trouble="The federal extension was refused; this one needs its own request.")


def _say_on_papers(request, field, value, why):
    """What an answer means for the papers, in the name of whoever sent the request. A return that is on its way or accepted is
    left alone: there the answer comes too late to move anything."""
    try:
        with transaction.atomic():
            return_ = open_for_change(request.by, request.of_id, "extend")
            before, batch = result_of(return_), uuid.uuid4().hex
            paper = paper_of(request.by, return_, _kind(request.authority), batch)
            row = None if not _state(request.authority) else row_where(paper, state=_state(request.authority))
            path = field if not _state(request.authority) else f"rows.{row['id']}.{field}" if row else ""
            if path:
                put(request.by, return_, paper, path, value, batch, why)
                forget(return_, "papers")
                changed(request.by, return_, before)
    except (Settled, Refused) as closed:
        record(None, "papers left as they are", request.of, says=f"{why}: {closed.says}")


def _due_later(request):
    """A return is due when its first authority's is: the federal one, or the state of a return apart."""
    if not _state(request.authority) or request.of.apart_state:
        Return.objects.for_firm(request.firm).filter(pk=request.of_id).update(due=request.until)


def _request(return_, code):
    request = return_.extensions.filter(authority=code).exclude(state=Asked.REJECTED).first()
    if request is None:
        raise CannotExtend("Request the extension first.")
    if request.state != Asked.OPEN:
        raise CannotExtend("This request was sent already.")
    return request


def _nobody_unnamed(result):
    if extensions.unnamed(result.run):
        of = "The entity's name and EIN are" if extensions.is_of_entity(result.run) else "Names and SSNs of everyone filing are"
        raise CannotExtend(f"{of} required. Enter them in Papers, at the top.")


def _kind(code):
    return "extension" if not _state(code) else "state-extensions"


def _state(code):
    return extensions.state_of(code)


def _asks(known, code):
    """Whether the return's papers still ask it: an undo may have taken that back."""
    return code in known and known[code].asked


def _is_authority(run, code):
    return _state(code) in STATES.keys() - extensions.without_return(run) or code == extensions.federal_code(run)


def _key_asked(actor, return_, code, batch):
    """The paper that says so: a flag for the federal request, a row for a state's."""
    paper = paper_of(actor, return_, _kind(code), batch)
    if not _state(code):
        put(actor, return_, paper, "asked", "yes", batch)
    elif row_where(paper, state=_state(code)) is None:
        add_rows(actor, return_, paper, [{"state": _state(code)}], batch)


def code_of(run, text):
    """The authority's code of a state as it is typed: MO or Missouri. BadValue if there is none."""
    state = state_named(text)
    if state in extensions.without_return(run):
        raise BadValue(f"{STATES[state]} has no income tax: no extension is needed.", text)
    return extensions.code_in(run, state)


def notices(return_):
    """Requests that were refused."""
    newest = {one.authority: one for one in sorted(known(return_, "extensions"), key=lambda one: one.pk)}
    for one in newest.values():
        if one.state == Asked.REJECTED:
            says = f"{agency(return_, one.authority)} refused the extension."
            yield "no-more-time", str(one.pk), "stops", says, reverse("extensions", args=[return_.pk]), "request again"
