"""How a return goes to each authority: electronically, on paper with the reason that the law allows, or held; and when it was
mailed."""

from dataclasses import dataclass

from django.db import transaction
from django.db.models import Q
from django.urls import reverse
from django.utils import timezone

from practice.dispatch.acknowledging import filed
from practice.dispatch.filing import holding, identified
from practice.dispatch.models import Route, State, Submission, Way
from practice.firm.events import record
from practice.firm.packs import usual_pack
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.firm.typed_values import day_of
from practice.returns.changing import Settled, closed_because
from practice.returns.computing import pack_of, result_of
from practice.returns.models import FILED, Return, Stage
from practice.returns.stages import reach
from practice.signing.needed import missing_signatures, signers
from taxcore.engine import BadValue


def _opened(actor, return_id):
    rows = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(rows, actor, pk=return_id)
    require(actor, "file", return_)
    return return_


@transaction.atomic
def choose(actor, return_id, code, given):
    """Say how a return goes to one authority. `given` maps way, reason, note and mail_to to what was typed. BadValue where the
    way wants something that is missing; Settled once it is on its way."""
    return_ = _opened(actor, return_id)
    if return_.household.left_on or return_.given_up_at:
        raise Settled(closed_because(return_))
    authority = next((line.authority for line in result_of(return_).bottom_lines if line.authority.code == code), None)
    if authority is None:
        raise BadValue("This return is not filed there.", code)
    if return_.submissions.filter(authority=code, state__in=[State.QUEUED, State.SENT, *FILED]).exists():
        raise Settled("It is on its way there already.")
    way = given.get("way", "")
    if way not in Way.values:
        raise BadValue("Choose a filing method.", way)
    values = _PARTS[way](return_, given)
    _withdraw(return_, code)
    row, _ = Route.objects.for_firm(return_.firm).update_or_create(
        of=return_, authority=code, defaults={"way": way, "by": actor, "firm": return_.firm} | values
    )
    record(actor, "way of filing", return_, says=f"{authority.name}: {row.get_way_display()} {row.note}".strip())
    return row


def _withdraw(return_, code):
    """What was made for the earlier way, and what waits behind it: both are made again when the return is filed again."""
    stale = Q(authority=code, state=State.TO_MAIL) | Q(state=State.WAITING)
    if return_.submissions.filter(stale).update(state=State.WITHDRAWN):
        reach(return_, Stage.FILE, "to send")
        return_.save()


def _on_paper(return_, given):
    reason = pack_of(return_).outgoing.reason(given.get("reason", ""))
    if reason is None:
        raise BadValue("Choose a reason for paper filing.", "")
    needed = f"Enter it: {reason.needs[0].lower()}{reason.needs[1:]}." if reason.needs else ""
    note = written(given.get("note", ""), "The explanation", 200, needed)
    to = written(given.get("mail_to", ""), "The address", 300, "Where is it mailed? Enter the address.")
    return {"reason": reason.code, "note": note, "mail_to": to}


def _held(return_, given):
    note = written(given.get("note", ""), "The reason", 200, "Why is it held?")
    return {"reason": "", "note": note, "mail_to": ""}


_PARTS = {
    Way.ELECTRONIC: lambda return_, given: {"reason": "", "note": "", "mail_to": ""},
    Way.PAPER: _on_paper,
    Way.HELD: _held,
}  # fmt: skip


@transaction.atomic
def mailed(actor, submission_id, day, how):
    """Record that a return on paper was posted: the day as typed, and how (a tracking number, certified mail). Doing it twice
    changes nothing."""
    found = fetch(Submission.objects.all(), actor, pk=submission_id)
    return_ = _opened(actor, found.of_id)
    row = Submission.objects.for_firm(return_.firm).select_for_update().get(pk=submission_id)
    if row.state == State.MAILED:
        return row
    if row.state != State.TO_MAIL:
        raise Settled("This one does not go on paper.")
    posted = day_of(day, "Mailed on")
    if posted is None:
        raise BadValue("Enter the day it was mailed.", "")
    if posted > return_.firm.today():
        raise BadValue("This day is in the future.", day)
    if posted < return_.firm.day_of(row.made_at):
        raise BadValue("It was not ready on that day.", day)
    row.state, row.mailed_on, row.mailed_as = State.MAILED, posted, written(how, "How it was mailed", 80)
    row.sent_at = timezone.now()
    row.save()
    record(actor, "mailed", return_, says=f"{row.authority.upper()}, {posted.isoformat()} {row.mailed_as}".strip())
    filed(return_, f"{row.authority.upper()} mailed")
    return_.save()
    return row


@dataclass(frozen=True)
class Want:
    """One thing that an authority wants before a return can go to it: in words, whether it is there, what it lacks, where."""

    name: str
    done: bool
    says: str = ""
    url: str = ""


def wants(return_, result, authority, route):
    """What must be there before the return goes to an authority, in the order of the work."""
    here = reverse("sign", args=[return_.pk])
    stops = [one for one in result.findings if one.weight == "stops"]
    yield Want("Nothing stops filing", not stops, stops[0].says if stops else "", reverse("review", args=[return_.pk]))
    yield Want("Return locked", return_.snapshot_id is not None, "", here)
    if return_.snapshot_id:
        missing = [client.full_name for client, _, one in missing_signatures(return_) if one.code == authority.code]
        count = len(signers(return_))
        yield Want("Signatures", not missing, f"{', '.join(missing)} to sign" if missing else f"{count} of {count}", here)
    if says := next(filter(None, (held(return_) for held in holding())), ""):
        yield Want("Practice’s own conditions", False, says, here)
    if route is None or route.way == Way.ELECTRONIC:
        efin = identified(return_.firm)
        yield Want(
            "Practice’s filing identification",
            efin,
            "" if efin else f"{usual_pack().outgoing.filing_number} and PIN",
            reverse("firm-answers") + "#efile",
        )
        if authority.after and any(one.authority.code == authority.after for one in result.bottom_lines):
            first = pack_of(return_).authority(authority.after)
            there = return_.submissions.filter(authority=authority.after, state__in=FILED).exists()
            yield Want(f"{first.name} accepted first", there, "" if there else "held until then")


def suggested_address(return_, result, authority):
    """(lines of the address as one text, where they are from); empty where the program knows none."""
    line = next(one for one in result.bottom_lines if one.authority.code == authority.code)
    pack = pack_of(return_)
    found = pack.outgoing.mail_to(authority.code, pack.home(result.run), line.amount < 0)
    return ("\n".join(found.lines), found.source) if found else ("", "")
