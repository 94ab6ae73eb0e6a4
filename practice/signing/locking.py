"""Locking the figures: a frozen copy of the whole return with its hash. What is signed, sent and delivered is this copy."""

import hashlib
import json

from django.db import transaction

from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.returns.apart import twice
from practice.returns.changing import Settled, open_for_change
from practice.returns.computing import data_of, pack_of, result_of
from practice.returns.models import Snapshot, Stage
from practice.returns.stages import reach
from taxcore.engine import Result, compute, document
from taxcore.packs.us.base import STATES


class StillStopped(Exception):
    """Diagnostics of the weight "stops filing" stand; `findings` are they."""

    def __init__(self, findings):
        super().__init__(f"{len(findings)} diagnostics stop filing")
        self.findings = findings


@transaction.atomic
def lock_figures(actor, return_id):
    """Freeze the return. StillStopped while a diagnostic stops filing. Locking what is locked returns the same snapshot."""
    return_ = open_for_change(actor, return_id, "lock")
    if return_.snapshot_id:
        return return_.snapshot
    if states := twice(return_):
        raise Settled(f"{STATES[states[0]]} is on this return and on a return apart. Decide on Places which of them is filed.")
    result = result_of(return_)
    stopping = [finding for finding in result.findings if finding.weight == "stops"]
    if stopping:
        raise StillStopped(stopping)
    content = _content(return_, result)
    snapshot = Snapshot.objects.create(
        firm=return_.firm,
        of=return_,
        hash=hashlib.sha256(content).hexdigest(),
        content=seal_bytes(content),
        bottom_lines=return_.summary["lines"],
        version=return_.version,
        made_by=actor,
    )
    return_.snapshot = snapshot
    reach(return_, Stage.SIGN, "to be signed")
    return_.save()
    record(actor, "figures locked", return_, says=f"Hash {snapshot.hash[:16]}", hash=snapshot.hash)
    return snapshot


def _content(return_, result):
    """Canonical bytes: the same return gives the same hash on any machine."""
    whole = {"return": document.write(data_of(return_, look_back=False)), "result": document.write_result(result)}
    return json.dumps(whole, sort_keys=True, separators=(",", ":"), ensure_ascii=False).encode()


def content_of(snapshot):
    """What was frozen, as {"return": document, "result": lines}. ValueError when it no longer fits its hash."""
    content = unseal_bytes(snapshot.content)
    if hashlib.sha256(content).hexdigest() != snapshot.hash:
        raise ValueError(f"snapshot {snapshot.pk} does not fit its hash")
    return json.loads(content)


def result_of_snapshot(snapshot) -> Result:
    """The result computed from the frozen return, for drawing its forms. ValueError if it is not what was frozen."""
    frozen = content_of(snapshot)
    result = compute(pack_of(snapshot.of), document.read(frozen["return"]))
    if document.write_result(result)["lines"] != frozen["result"]["lines"]:
        raise ValueError(f"snapshot {snapshot.pk} computes to other lines than were signed")
    return result
