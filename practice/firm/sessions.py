"""Who is signed in, from where: seen by them and by administrators, and ended."""

import re
from datetime import timedelta
from time import time

from django.contrib.sessions.models import Session
from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import SignedIn
from practice.firm.permissions import Refused, may

EVERY = 300  # seconds between two notes that somebody was seen


def begin(request):
    """Keep a session that was just opened. Called after the sign-in gave it its key."""
    if request.session.session_key is None:
        request.session.create()
    row = SignedIn.objects.create(
        staff=request.user, key=request.session.session_key, address=request.META.get("REMOTE_ADDR"),
        browser=browser_of(request.META.get("HTTP_USER_AGENT", "")),
    )  # fmt: skip
    request.session["signed_in"], request.session["seen"] = row.pk, int(time())


def note_seen(request):
    """Now and then; sessions that were opened before this was kept are left alone."""
    row, seen = request.session.get("signed_in"), request.session.get("seen", 0)
    if row is not None and time() - seen > EVERY:
        request.session["seen"] = int(time())
        SignedIn.objects.filter(pk=row).update(seen_at=timezone.now())


def browser_of(agent):
    """In a few words what a browser says of itself."""
    system = next((name for name in ("Windows", "Mac OS X", "Android", "iPhone", "iPad", "Linux") if name in agent), "")
    kinds = re.search(r"(Edg|Firefox|Chrome|Safari)/", agent)
    name = {"Edg": "Edge"}.get(kinds[1], kinds[1]) if kinds else ""
    return " on ".join(filter(None, (name, system.replace("Mac OS X", "macOS"))))[:80]


def open_of(staff):
    """Sessions that still open something, the last seen first."""
    rows = list(staff.sessions.filter(ended_at=None, at__gt=timezone.now() - timedelta(days=2)))
    alive = set(
        Session.objects.filter(session_key__in=[one.key for one in rows], expire_date__gt=timezone.now()).values_list(
            "session_key", flat=True
        )
    )
    return [one for one in rows if one.key in alive]


@transaction.atomic
def end(actor, rows):
    """Somebody's own, or by an administrator those of a colleague. How many ended."""
    for one in rows:
        if one.staff_id != actor.pk and not (may(actor, "administer") and one.staff.firm_id == actor.firm_id):
            raise Refused(actor, "administer", None)
    Session.objects.filter(session_key__in=[one.key for one in rows]).delete()
    SignedIn.objects.filter(pk__in=[one.pk for one in rows]).update(ended_at=timezone.now())
    for one in rows:
        record(actor, "session ended", firm=actor.firm, says=f"{one.staff.name}, {one.address or 'unknown address'}")
    return len(rows)
