"""Reminders, when their day has come."""

from procrastinate.contrib.django import app

from practice.firm.jobs import fresh_connection
from practice.gather.models import Request
from practice.gather.requesting import remind_if_due


def remind_all():
    """Every request whose day has come, each in a transaction of its own; how many were reminded of. Twice does no harm."""
    due = Request.objects.across_firms("background work").filter(closed_at=None, remind_on__isnull=False)
    rows = due.select_related("firm").order_by("remind_on", "pk")
    ready = [one.pk for one in rows if one.remind_on <= one.firm.today()]
    return sum(remind_if_due(pk) for pk in ready)


@app.periodic(cron="*/10 * * * *")
@app.task(name="practice:remind", queueing_lock="remind")
def remind(timestamp):
    fresh_connection()
    remind_all()
