"""A changed return takes its signatures with it."""

from django.utils import timezone

from practice.dispatch.models import State
from practice.returns.models import Stage
from practice.returns.stages import reach


def void_signatures(actor, return_, reason):
    """Void requests and signatures of the current snapshot and let go of it. Does not save the return."""
    now = timezone.now()
    return_.signatures.filter(voided_at=None, snapshot=return_.snapshot).update(voided_at=now)
    return_.signature_requests.filter(voided_at=None).update(voided_at=now)
    return_.submissions.filter(state=State.WAITING).update(state=State.WITHDRAWN, trouble=reason[:200])
    return_.snapshot = None
    reach(return_, Stage.PREPARE, "changed after signing")
