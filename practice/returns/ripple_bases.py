"""What a ripple can be measured from: the last field, the return as I opened it or initialed it, last year's return."""

from datetime import timedelta
from decimal import Decimal

from django.utils import timezone

from practice.returns.computing import result_of
from practice.returns.last_year import last_year
from practice.returns.models import Sight
from taxcore.engine import figures, ripple_since

BASES = {
    "field": "last field",
    "opened": "since I opened it",
    "initials": "since my initials",
    "year": "since last year",
}
_FRESH = timedelta(hours=12)  # a working day: the next morning's opening counts anew


def note_sight(actor, return_, result, occasion):
    """Keep the lines as they are now as what the actor saw on this occasion."""
    kept = {name: str(value) for name, value in figures(result).items() if value}
    Sight.objects.for_firm(actor.firm).update_or_create(
        of=return_, staff=actor, occasion=occasion, defaults={"firm": actor.firm, "figures": kept, "at": timezone.now()}
    )


def note_opening(actor, return_, result):
    """The first look of the day at a return is what "since I opened it" means."""
    since = timezone.now() - _FRESH
    if not Sight.objects.for_firm(actor.firm).filter(of=return_, staff=actor, occasion="opened", at__gt=since).exists():
        note_sight(actor, return_, result, "opened")


def last_years_figures(return_):
    """{line's name: amount} of the year before; empty without one."""
    before = last_year(return_)
    return figures(result_of(before)) if before else {}


def moved_since(actor, return_, result, base):
    """(lines that differ, words for the head) against a base other than the last field; (None, why) where there is none."""
    if base == "year":
        before = last_year(return_)
        if before is None:
            return None, f"There is no return of {return_.year - 1} for this household."
        return ripple_since(figures(result_of(before)), result), f"Against the return of {before.year}"
    sight = Sight.objects.for_firm(actor.firm).filter(of=return_, staff=actor, occasion=base).first()
    if sight is None:
        return None, "You have not initialed anything on this return yet." if base == "initials" else "You have just opened it."
    old = {name: Decimal(value) for name, value in sight.figures.items()}
    return ripple_since(old, result), f"Since {timezone.localtime(sight.at):%b %-d, %H:%M}"
