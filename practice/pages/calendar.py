"""Days as a calendar file (RFC 5545), whole days only."""

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from django.http import HttpResponse


@dataclass(frozen=True)
class Entry:
    """One day: what it is, more about it, and a name that stays, so that a calendar that reads it again moves it."""

    day: date
    title: str
    about: str
    name: str


def calendar_file(title, entries, filename):
    from icalendar import Calendar, Event  # few pages need it

    made = Calendar()
    made.add("prodid", "-//Impuesto//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", title)
    for one in entries:
        event = Event()
        event.add("uid", f"{one.name}@impuesto")
        event.add("dtstamp", datetime.now(UTC))
        event.add("dtstart", one.day)
        event.add("dtend", one.day + timedelta(days=1))
        event.add("summary", one.title)
        if one.about:
            event.add("description", one.about)
        made.add_component(event)
    response = HttpResponse(made.to_ical(), content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{filename}"'
    return response
