"""Due dates for somebody's own calendar, under a secret address that they can replace or end."""

import secrets
from collections import defaultdict
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.gather.models import Request
from practice.pages.calendar import Entry
from practice.returns.leaving import without_left
from practice.returns.models import Return, Stage
from practice.staff.inviting import digest
from practice.staff.models import CalendarLink

_BACK = timedelta(days=60)  # what was due before is of no use


@transaction.atomic
def make(staff, named):
    """A new address, once: only its digest is kept. The one before stops working."""
    token = secrets.token_urlsafe(32)
    CalendarLink.objects.for_firm(staff.firm).filter(staff=staff).delete()
    CalendarLink.objects.create(firm=staff.firm, staff=staff, token_digest=digest(token), named=named)
    record(staff, "calendar address made", firm=staff.firm, says="with clients’ names" if named else "without names")
    return token


@transaction.atomic
def end(staff):
    if CalendarLink.objects.for_firm(staff.firm).filter(staff=staff).delete()[0]:
        record(staff, "calendar address ended", firm=staff.firm)


def of_token(token):
    """The link that an address means, or None; of somebody who left, none."""
    rows = CalendarLink.objects.across_firms("the token names the row").select_related("staff__firm")
    found = rows.filter(token_digest=digest(token), staff__is_active=True).first()
    if found is not None:
        CalendarLink.objects.across_firms("the same").filter(pk=found.pk).update(read_at=timezone.now())
    return found


def entries(link):
    """What is due of the returns in somebody's care, and what clients were asked for by a day."""
    staff, since = link.staff, link.staff.firm.today() - _BACK
    rows = without_left(Return.objects.for_staff(staff), staff.firm).filter(preparer=staff, due__gte=since, given_up_at=None)
    open_ones = rows.exclude(stage__in=[Stage.DONE, Stage.DELIVER]).select_related("household")
    asked = Request.objects.for_staff(staff).filter(of__preparer=staff, closed_at=None, due__gte=since, sent_on__isnull=False)
    found = _days(
        link, "Due", "return due", ((one.due, one.household.name) for one in open_ones.order_by("due", "household__name"))
    )
    return found + _days(
        link, "Asked for by", "request ends", ((one.due, one.of.household.name) for one in asked.select_related("of__household"))
    )


def _days(link, word, what, dated):
    """Each client on its day by name; without names a number for each day."""
    by_day = defaultdict(list)
    for day, name in dated:
        by_day[day].append(name)
    if link.named:
        return [
            Entry(day, f"{word}: {name}", "", f"{what}-{link.pk}-{day}-{place}".replace(" ", "-"))
            for day, names in sorted(by_day.items())
            for place, name in enumerate(names)
        ]
    return [
        Entry(day, f"{len(names)} × {what}" if len(names) > 1 else f"One {what}", "", f"{what}-{link.pk}-{day}".replace(" ", "-"))
        for day, names in sorted(by_day.items())
    ]
