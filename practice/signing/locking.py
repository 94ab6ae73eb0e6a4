"""Locking a return: a frozen copy of it, of its result and of what goes to each authority, with its hash.

What is signed, sent and delivered is this copy; nothing computed later changes it.
"""

import base64
import hashlib
import json

from django.db import transaction

from practice.firm.crypto import seal_bytes
from practice.firm.events import record
from practice.intake.enclosing import enclosures, going_along
from practice.intake.models import Attachment
from practice.returns.additions import additions_of
from practice.returns.changing import Settled, open_for_change
from practice.returns.computing import data_of, result_of
from practice.returns.models import Purpose, Snapshot, Stage
from practice.returns.stages import reach
from practice.review import gate
from practice.signing.needed import move_on
from practice.signing.preparing import preparer_of
from practice.signing.voiding import keep_or_void
from taxcore.engine import document
from taxcore.engine.filed import filed_document
from taxcore.engine.frozen import drawn


class StillStopped(Exception):
    """Diagnostics of the weight "stops filing" stand; `findings` are they."""

    def __init__(self, findings):
        super().__init__(f"{len(findings)} diagnostics stop filing")
        self.findings = findings


@transaction.atomic
def lock_figures(actor, return_id):
    """Freeze the return. StillStopped while a diagnostic stops filing, NotReviewed while the practice's own conditions are not
    met. Locking what is locked returns the same snapshot. Signatures stay under figures that did not move."""
    return_ = open_for_change(actor, return_id, "lock")
    if return_.snapshot_id:
        return return_.snapshot
    if return_.purpose == Purpose.PLANNING:
        raise Settled("This is a plan: it is neither signed nor filed. Make it the filing return first.")
    if says := additions_of(return_).not_locked(return_):
        raise Settled(says)
    if unread := next((row for row in going_along(return_) if row.state != Attachment.State.READY), None):
        raise Settled(f"{unread.name} is e-filed with the return and still being read. Try again in a moment.")
    result = result_of(return_)
    stopping = [finding for finding in result.findings if finding.weight == "stops"]
    if stopping:
        raise StillStopped(stopping)
    gate.require_review(return_, result)
    snapshot = _freeze(actor, return_, result)
    if return_.signed_id:
        keep_or_void(actor, return_, result)
    return_.snapshot = snapshot
    # Who examined the return before examines it again: its words may differ now
    return_.signature_requests.filter(voided_at=None).update(snapshot=snapshot, read_at=None)
    if return_.signed_id:
        move_on(return_)
    else:
        reach(return_, Stage.SIGN, "to be signed")
    return_.save()
    record(actor, "return locked", return_, says=f"Hash {snapshot.hash[:16]}", hash=snapshot.hash)
    return snapshot


def _freeze(actor, return_, result):
    content = _content(return_, result)
    digest = hashlib.sha256(content).hexdigest()
    return Snapshot.objects.create(
        firm=return_.firm,
        of=return_,
        hash=digest,
        content=seal_bytes(content),
        documents=seal_bytes(_documents(return_, result, digest)),
        bottom_lines=return_.summary["lines"],
        version=return_.version,
        made_by=actor,
    )


def _content(return_, result):
    """Canonical bytes: the same return gives the same hash on any machine."""
    whole = {
        "return": document.write(data_of(return_, look_back=False)),
        "result": document.write_result(result),
        "drawn": drawn(result),
    }
    return json.dumps(whole, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode()


def _documents(return_, result, digest):
    """What goes to each authority, made now: it is what was signed whatever the program does later."""
    made = {}
    for line in result.bottom_lines:
        enclosed = enclosures(return_, line.authority, result)
        prepared = preparer_of(return_)
        made[line.authority.code] = filed_document(result, line.authority, str(return_.pk), digest, enclosed, prepared)
    return json.dumps({code: base64.b64encode(content).decode() for code, content in made.items()}).encode()
