"""Which of a household's returns stands for a year: the filing return, or the newest correction of it that was accepted."""

from functools import cache

from django.db.models import Q

from practice.firm.compiled import Compiled
from practice.returns.models import Purpose, Return, Stage, originals

_ACCEPTED = (Stage.DELIVER, Stage.DONE)


def filing_return(household, pack, year, ends=None):
    """The household's own filing return of a year, or of the period that ends on a day; or None."""
    if ends is None:
        return next(iter(_of_a_year(pack)(household.firm_id, household.pk, year)), None)
    return originals(Return.objects.for_firm(household.firm_id)).filter(household=household, pack=pack, ends=ends).first()


@cache
def _of_a_year(pack):
    def rows(firm, household, year):
        return originals(Return.objects.for_firm(firm)).filter(household=household, pack=pack, year=year)

    return Compiled(rows)


def corrections_of(return_):
    """The corrections of a year's return, the first one first."""
    return _of_year(return_).filter(purpose=Purpose.AMENDING).order_by("pk")


def correction_under_way(return_):
    """The one that was not accepted yet, or None."""
    return corrections_of(return_).exclude(stage__in=_ACCEPTED).first()


def separate_returns(joint):
    """{role: the separate return of the same year that stands}, where two were made from a joint one; empty otherwise."""
    rows = joint.apart.for_firm(joint.firm_id).filter(apart_state="", purpose=Purpose.FILING, given_up_at=None)
    return {one.apart_role: standing(one) for one in rows.select_related("firm", "household", "preparer")}


def standing(return_):
    """The return that holds for the year of `return_`: what follows from that year follows from this one."""
    if return_.purpose == Purpose.PLANNING:
        return return_
    return _standing(_of_year(return_)).first() or return_


def what_stands(rows):
    """Of returns of one household and year those that can stand for it, the one that does first."""
    return _standing(rows.filter(apart_from=None))


def _standing(rows):
    accepted = Q(purpose=Purpose.AMENDING, stage__in=_ACCEPTED)
    return rows.filter(accepted | Q(purpose=Purpose.FILING), given_up_at=None).order_by("-pk")


def _of_year(return_):
    """The return of a year and its corrections; of a return apart, those of the same one of the couple."""
    rows = Return.objects.for_firm(return_.firm_id).filter(household=return_.household_id, pack=return_.pack, year=return_.year)
    same = {name: getattr(return_, name) for name in ("apart_from_id", "apart_role", "apart_state", "ends")}
    return rows.filter(**same, given_up_at=None).select_related("firm", "household")
