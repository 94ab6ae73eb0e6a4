"""Who has a return open. A mark lasts three quarters of a minute unless it is renewed."""

from datetime import timedelta

from django.utils import timezone

from practice.returns.models import Presence

LASTS = timedelta(seconds=45)


def note_presence(actor, return_):
    Presence.objects.for_firm(actor.firm).update_or_create(
        of=return_, staff=actor, defaults={"firm": actor.firm, "seen_at": timezone.now()}
    )


def others_in(return_, actor):
    """Colleagues who have the return open now."""
    recent = return_.presence.filter(seen_at__gt=timezone.now() - LASTS).exclude(staff=actor).select_related("staff")
    return [mark.staff for mark in recent]
