"""What touches the whole of a return, told at its head: it was rejected, changed after signing, somebody else is in it."""

from dataclasses import dataclass
from datetime import timedelta
from decimal import Decimal

from django.db import transaction
from django.urls import reverse

from practice.firm import dates
from practice.firm.compiled import Compiled
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.returns.additions import additions_of
from practice.returns.changing import closed_because, law_mark
from practice.returns.computing import pack_of
from practice.returns.frozen import moved_since
from practice.returns.gathering import known
from practice.returns.issuing import differing_on
from practice.returns.models import Return, State, counted
from practice.returns.taking_over import differences
from practice.review.models import NoticeSettled


@dataclass(frozen=True)
class Notice:
    """`mark` says what it is about: one that was put away comes back when it is about something else."""

    code: str
    mark: str
    weight: str
    says: str
    url: str = ""
    leads: str = ""

    @property
    def key(self):
        return f"{self.code}:{self.mark}"


def notices_of(return_, result, others):
    """All that there are, the gravest first."""
    return [
        *_closed(return_),
        *_program(return_, result),
        *_rejected(return_),
        *_statute(return_, result),
        *_changed_after_signing(return_),
        *(Notice(*one) for one in additions_of(return_).notices(return_)),
        *_source(return_),
        *_issued(return_),
        *_law(return_, result),
        *_newer(return_),
        *_others(others),
    ]


def _closed(return_):
    """An accepted return, and one on its way, say so and are not edited."""
    if not return_.given_up_at and (says := closed_because(return_)):
        yield Notice("closed", return_.state_note, "idea", says, reverse("sign", args=[return_.pk]), "Sign and file")


_SOON = timedelta(days=60)


def _statute(return_, result):
    """Until when a correction can claim its refund, where that is near or over."""
    run, today = result.run, return_.firm.today()
    if run.amends is None or run.amends.superseding or closed_because(return_):
        return
    for line in result.bottom_lines:
        if line.amount <= 0 or line.authority.code not in run.amends.filed:
            continue
        until = run.pack.correcting.claimable_until(run, line.authority)
        day = f"{dates.long(until)}"
        where, mark = reverse("correction", args=[return_.pk]), f"{line.authority.code}-{until}"
        if today > until:
            says = f"{line.authority.name}: a refund could be claimed until {day}. It will not be paid."
            yield Notice("statute", mark, "stops", says, where, "The correction")
        elif today + _SOON >= until:
            says = f"{line.authority.name}: the refund can be claimed until {day}. Send the correction before."
            yield Notice("statute", mark, "check", says, where, "The correction")


def _source(return_):
    """What a return was rolled forward from says otherwise by now."""
    found = differences(return_)
    if found:
        first, more = found[0], f", and {len(found) - 1} more" if len(found) > 1 else ""
        there = f"{first.paper}, {first.label}, is {first.now or 'gone'} there"
        says = f"The {return_.year - 1} return moved since this one was made from it: {there}{more}."
        mark = f"{len(found)}-{first.mark}-{first.now}"[:60]
        yield Notice("source", mark, "check", says, reverse("carried", args=[return_.pk]), "Take over or leave")


def _issued(return_):
    """A paper that another return issued is otherwise there by now."""
    for source, one in differing_on(return_):
        label, there, now = one.differs[0]
        says = f"{source.household.name}: {label} was {there or 'empty'} and is {now or 'empty'} on its return by now."
        yield Notice("issued", f"{source.pk}-{source.version}", "check", says, reverse("issued", args=[return_.pk]), "Take over")


def _program(return_, result):
    """A locked return is what was signed, whatever the program does since; but somebody should know."""
    if return_.snapshot_id is None:
        return
    moved = moved_since(return_.snapshot, result)
    if moved:
        line, then, now = moved[0]
        more = f", and {len(moved) - 1} more lines" if len(moved) > 1 else ""
        says = (
            f"The program has changed since this return was locked: {line.form} line {line.number} was {then or 0:,.0f} and "
            f"would be {now or 0:,.0f}{more}. What was locked is what is signed, sent and delivered."
        )
        mark = f"{return_.snapshot_id}-{len(moved)}"
        yield Notice("program", mark, "check", says, reverse("sign", args=[return_.pk]), "Sign and file")


def agency(return_, code):
    """Who answered, at the head of a sentence. A city's extension has a code that no authority of the pack has."""
    authority = pack_of(return_).authority(code)
    found = authority.filed_with if authority else code.upper()
    return found[:1].upper() + found[1:]


def _rejected(return_):
    newest = {one.authority: one for one in sorted(known(return_, "submissions"), key=lambda one: one.pk)}
    for one in newest.values():
        if one.state == State.REJECTED:
            says = f"{agency(return_, one.authority)} rejected this return. See Sign and file."
            yield Notice("rejected", str(one.pk), "stops", says, reverse("sign", args=[return_.pk]), "fix it")


def _changed_after_signing(return_):
    if return_.snapshot_id is None and return_.state_note == "changed after signing":
        last = return_.signatures.exclude(voided_at=None).order_by("-voided_at").first()
        if last is not None:
            yield Notice("changed", str(last.pk), "stops", "It was signed and then changed: the signatures are void.",
                         reverse("sign", args=[return_.pk]), "ask for new ones")  # fmt: skip


def _law(return_, result):
    before = return_.summary.get("law", "")
    now = law_mark(return_)
    if not before or before == now:
        return
    old = {line["code"]: line["amount"] for line in return_.summary.get("lines", [])}
    moved = [
        f"{line.authority.name} was {Decimal(old[line.authority.code]):,.0f}, is {line.amount:,.0f}"
        for line in result.bottom_lines
        if line.authority.code in old and str(line.amount) != old[line.authority.code]
    ]
    says = "; ".join(moved) if moved else "no bottom line moved"
    yield Notice("law", now, "check", f"Tax law amounts were updated since this return was last changed: {says}.")


def _newer(return_):
    for pk, pack, year, ends in _COUNTED(return_.firm_id, return_.household_id):
        is_later = ends is not None and ends > return_.ends if return_.ends else year > return_.year
        if pack == return_.pack and is_later:
            later = "a return for a later period" if ends else f"a {year} return for this household"
            yield Notice("newer", str(pk), "check", f"There is already {later}.", reverse("papers", args=[pk]), "open it")
            return


def _counted(firm, household):
    rows = counted(Return.objects.for_firm(firm)).filter(household=household)
    return rows.order_by("ends", "year").values_list("pk", "pack", "year", "ends")


_COUNTED = Compiled(_counted)


def _others(others):
    for one in others:
        yield Notice("others", str(one.pk), "idea", f"{one.name} has this return open too. Each field is saved on its own.")


def on_page(request, return_, result, others):
    """The notices at the head of a page."""
    put_away = request.session.get(f"put-away-{return_.pk}", [])
    return {"notices": shown(request.user, return_, notices_of(return_, result, others), put_away)}


def shown(actor, return_, notices, put_away):
    """Those that nobody settled for good and that this person did not put away since opening the return."""
    settled = set(return_.notices_settled.values_list("key", flat=True)) if notices else set()
    return [one for one in notices if one.key not in settled and one.key not in put_away]


@transaction.atomic
def settle(actor, return_id, key):
    """A reviewer's initials under a notice: it does not come back for anybody unless it is about something else."""
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    require(actor, "review", return_)
    NoticeSettled.objects.for_firm(actor.firm).get_or_create(of=return_, key=key[:80], defaults={"firm": actor.firm, "by": actor})
    record(actor, "notice settled", return_, says=key[:80])
