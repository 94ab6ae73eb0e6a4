"""What happened, by day and act: what was done several times stands once, with how often."""

from dataclasses import dataclass

from django.utils import timezone


@dataclass
class Act:
    """What somebody did on one day, however many times: who, what, on which return, the last time and the first words."""

    what: str
    by: str
    of: object
    at: object
    says: str
    times: int = 1


def by_day(events):
    """[(day, acts)], the newest first."""
    days = []
    for event in events:
        day = timezone.localtime(event.at).date()
        if not days or days[-1][0] != day:
            days.append((day, []))
        acts = days[-1][1]
        alike = next((act for act in acts if (act.what, act.by, act.of) == (event.what, event.by, event.of)), None)
        if alike is None:
            acts.append(Act(event.what, event.by, event.of, event.at, event.says))
        else:
            alike.times += 1
    return days
