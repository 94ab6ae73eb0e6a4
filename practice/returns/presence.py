"""Who has a return open. A mark lasts three quarters of a minute unless it is renewed."""

from datetime import timedelta

from django.utils import timezone

from practice.firm.compiled import Compiled
from practice.returns.models import Presence

LASTS = timedelta(seconds=45)


def note_presence(actor, return_):
    Presence.objects.for_firm(actor.firm).update_or_create(
        of=return_, staff=actor, defaults={"firm": actor.firm, "seen_at": timezone.now()}
    )


def others_in(return_, actor):
    """Colleagues who have the return open now."""
    since = timezone.now() - LASTS
    marks = _MARKS(return_.firm_id, return_.pk)
    return [mark.staff for mark in marks if mark.seen_at > since and mark.staff_id != actor.pk]


_MARKS = Compiled(lambda firm, of: Presence.objects.for_firm(firm).filter(of=of).select_related("staff"))
