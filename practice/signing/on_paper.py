"""A signature on paper: the authorization is printed, signed by hand, and kept as a scan with the day that stands on it."""

from django.db import transaction
from django.utils import timezone

from practice.firm import dates
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.firm.typed_values import day_of
from practice.intake import attaching
from practice.intake.models import Attachment
from practice.returns.changing import Settled, closed_because
from practice.returns.frozen import drawn_of
from practice.returns.models import Return, State
from practice.signing.needed import CannotSign, move_on, signers
from practice.signing.requesting import sign
from taxcore.engine import BadValue


@transaction.atomic
def sign_on_paper(actor, return_id, client_id, authority, file, day, pin):
    """Keep a signature on paper. `file` is (name, bytes) of the scan, `day` the date beside the signature as typed, `pin` the
    five digits on it. BadValue or CannotSign with the reason."""
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "take signatures in the office", return_)
    found = next(((client, role) for client, role in signers(return_) if client.pk == client_id), None)
    if found is None or return_.snapshot_id is None:
        raise CannotSign("Lock the return first; then choose who signs.")
    if file is None:
        raise BadValue("Attach the scan of the signed authorization.", "")
    signed_on = _checked_day(return_, authority, day)
    scan = attaching.attach(actor, return_id, None, *file, action="take signatures in the office")
    return sign(return_.pk, *found, authority, "", "paper", actor, None, return_.snapshot_id, pin, scan=scan, paper_day=signed_on)


def _checked_day(return_, authority, text):
    day = day_of(text, "Date beside the signature")
    if day is None:
        raise BadValue("Enter the date beside the signature.", "")
    if day > return_.firm.today():
        raise BadValue("This date is in the future.", text)
    prepared = prepared_on(return_, authority)
    if day < prepared:
        raise BadValue(f"Signed before the return was: these figures were locked on {dates.long(prepared)}.", text)
    return day


def prepared_on(return_, authority):
    """Since when the figures that are signed for an authority have been locked as they are."""
    stated, first = _stated(return_.snapshot, authority), return_.snapshot
    for earlier in return_.snapshots.filter(pk__lt=return_.snapshot_id).order_by("-pk"):
        if _stated(earlier, authority) != stated:
            break
        first = earlier
    return return_.firm.day_of(first.made_at)


def _stated(snapshot, authority):
    line = drawn_of(snapshot).bottom_line(authority)
    return [(one.name, one.amount) for one in line.stated] if line else None


@transaction.atomic
def take_back(actor, return_id, signature_id, why):
    """A signature does not count any more, because the scan was the wrong one, or somebody asked for it. Settled once it is on
    its way."""
    return_ = fetch(Return.objects.select_for_update(of=("self",)).select_related("firm", "household"), actor, pk=return_id)
    require(actor, "take signatures in the office", return_)
    if says := closed_because(return_):
        raise Settled(says)
    why = written(why, "The reason", 200, "Enter the reason for voiding it.")
    row = return_.signatures.filter(pk=signature_id, voided_at=None).select_related("client").first()
    if row is None:
        return
    row.voided_at = timezone.now()
    row.save(update_fields=["voided_at"])
    # What waits for another authority, or for the mail, must not leave without it
    return_.submissions.filter(state__in=[State.WAITING, State.TO_MAIL]).update(state=State.WITHDRAWN)
    left = return_.signatures.filter(voided_at=None).order_by("-pk").first()
    return_.signed = left.snapshot if left else None
    if return_.snapshot_id:
        move_on(return_)
    else:
        return_.save()
    record(actor, "signature voided", return_, says=f"{row.signed_as}, {row.authority.upper()}: {why}")


def holds(return_):
    """Why a return with signatures on paper cannot go out yet; nothing where every scan was accepted."""
    for row in return_.signatures.filter(voided_at=None, manner="paper").select_related("scan"):
        if row.scan.state == Attachment.State.READING:
            return f"The signature of {row.name} on paper is still being read. Try again in a moment."
        if row.scan.state == Attachment.State.REFUSED or row.scan.removed_at:
            says = row.scan.says or "it was removed."
            return f"The scan of {row.name}'s signature was not accepted: {says} Void the signature and scan it again."
    return ""
