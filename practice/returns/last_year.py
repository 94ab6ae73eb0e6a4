"""The return of the year before, and what of it this year's diagnostics and reviewers look back at."""

import threading
from collections import OrderedDict
from datetime import timedelta

from django.contrib.postgres.expressions import ArraySubquery
from django.contrib.postgres.fields import ArrayField
from django.db.models import BigIntegerField, F, Func, OuterRef, Q
from django.db.models.lookups import IsNull

from practice.firm.compiled import Compiled
from practice.returns.models import Return
from practice.returns.standing import what_stands
from taxcore.engine import last_year_of

_KEEP = 32
ONE_DAY = timedelta(days=1)
_known = OrderedDict()  # {(return's id, its version): LastYear}: plain values, so that threads may share them
_guard = threading.Lock()


def last_year(return_):
    """The same household's return of the year before, as it stands: corrected where it was. Or None."""
    return _of_last_year(return_).select_related("firm").first()


def mark_of_last_year(return_):
    """(id, version) of last year's return, or None: what is kept of this year's is stale once it differs. Asked once for each
    return that was read: a request about this year's goes by one version of last year's."""
    if not hasattr(return_, "mark_of_last_year"):
        found = [] if return_.apart_from_id else _MARKS(return_.firm_id, return_.pk)
        return_.mark_of_last_year = next((tuple(pair) for (marks,) in found for pair in marks), None)
    return return_.mark_of_last_year


def array_of_marks(firm):
    """For a query of returns: the marks of what was last year's of each, none or one."""
    outer = (OuterRef("household"), OuterRef("pack"), OuterRef("year") - 1, OuterRef("begins"))
    return ArraySubquery(_marks_of_the_year_before(firm, *outer))


_MARKS = Compiled(lambda firm, pk: Return.objects.for_firm(firm).filter(pk=pk).values_list(array_of_marks(firm)))


def _of_last_year(return_):
    """Of a return apart: none. Last year's is the couple's."""
    before = return_.begins - ONE_DAY if return_.begins else None
    found = _filed_for(
        return_.firm_id,
        return_.household_id,
        return_.pack,
        Q(ends=before, year=return_.year - 1) if before is None else Q(ends=before),
    )
    return found.none() if return_.apart_from_id else found


def _marks_of_the_year_before(firm, household, pack, year, begins):
    found = _filed_for(firm, household, pack, Q(IsNull(begins, True), ends=None, year=year) | Q(ends=begins - ONE_DAY))
    pair = Func(F("pk"), F("version"), template="ARRAY[%(expressions)s]", output_field=ArrayField(BigIntegerField()))
    return found.values(mark=pair)[:1]


def _filed_for(firm, household, pack, before):
    return what_stands(Return.objects.for_firm(firm).filter(before, household=household, pack=pack))


def last_years_data(return_, data_of, result_of):
    """Its papers and lines as plain values, worked out once for each of its versions; None without one."""
    mark = mark_of_last_year(return_)
    if mark is None:
        return None
    found = _known.get(mark)
    if found is None:
        before = last_year(return_)
        found = seen(before, result_of(before))
    return found


def of(before):
    """What was kept of a return, as it stands, by `seen`; None where it was not."""
    return _known.get((before.pk, before.version))


def seen(before, result):
    """Keep what may be looked back at of a return whose result is at hand; gives it."""
    found = last_year_of(result)
    with _guard:
        _known[before.pk, before.version] = found
        while len(_known) > _KEEP:
            _known.popitem(last=False)
    return found
