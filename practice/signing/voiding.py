"""What a changed return does to its signatures: each stands while the figures that were signed for its authority stand.

Signed are the figures of the authorization to file. A corrected name or number moves none of them; then only the lock opens.
"""

from django.utils import timezone

from practice.firm.events import record
from practice.returns.frozen import drawn_of
from practice.returns.models import Stage, State
from practice.returns.stages import reach


def let_go(actor, return_, result):
    """Open the lock of a changed return, and void signatures whose figures moved. Does not save the return."""
    was_locked, was_signed = return_.snapshot_id is not None, return_.signed_id is not None
    moved = _moved(return_, result)
    if moved:
        void_signatures(actor, return_, moved)
    if was_locked and was_signed and not moved:
        reach(return_, Stage.PREPARE, "changed, signatures stand")
    elif was_locked:
        reach(return_, Stage.PREPARE, "changed after signing" if was_signed else "changed after locking")
    elif moved:
        reach(return_, Stage.PREPARE, "changed after signing")
    if was_locked:
        return_.submissions.filter(state__in=[State.WAITING, State.TO_MAIL]).update(
            state=State.WITHDRAWN, trouble="changed before it was sent"
        )
        return_.snapshot = None
        if not moved:
            record(actor, "lock opened", return_, says="No signed amount changed.")


def keep_or_void(actor, return_, result):
    """At the next lock: signatures stay only under figures that did not move."""
    if moved := _moved(return_, result):
        void_signatures(actor, return_, moved)


def _moved(return_, result):
    """{authority's code: in words what moved by more than the authority allows}, against what was signed or last locked."""
    bases = {one.authority: one.snapshot for one in return_.signatures.filter(voided_at=None).select_related("snapshot")}
    locked = drawn_of(return_.snapshot) if return_.snapshot_id else None
    known = {line.code for line in locked.bottom_lines} if locked else set(bases)
    today = {line.authority.code: line for line in result.bottom_lines}
    moved = {}
    for code in known | today.keys():
        basis = drawn_of(bases[code]) if code in bases else locked
        line = basis.bottom_line(code) if basis else None
        if says := _difference(line, today.get(code), result, signed=code in bases or locked is not None):
            moved[code] = says
    return moved


def _difference(line, now, result, signed):
    if now is None:
        return f"{line.name} is not filed any more" if line else ""
    if line is None:
        return f"{now.authority.name} was added" if signed else ""
    for stated in line.stated:
        value = now.authority.cell(result.run, stated.name).value
        if abs(value - stated.amount) > stated.allowed:
            return f"{line.form} line {stated.number} was {stated.amount:,.0f} and is {value:,.0f}"
    return ""


def void_signatures(actor, return_, moved):
    """Void the signatures of the authorities in `moved`, and every request that is open: what it shows is no longer so."""
    now, says = timezone.now(), "; ".join(moved.values())
    standing = return_.signatures.filter(voided_at=None)
    standing.filter(authority__in=moved).update(voided_at=now)
    return_.signature_requests.filter(voided_at=None).update(voided_at=now)
    left = standing.order_by("-pk").first()
    return_.signed = left.snapshot if left else None
    record(actor, "signatures void", return_, says=f"{says}.")
