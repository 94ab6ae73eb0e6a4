"""What every change of a return needs: its papers, and its few small rows in one query."""

from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import OuterRef, TextField
from django.db.models.functions import Cast, JSONObject

from practice.firm.compiled import Compiled
from practice.returns.last_year import marks_of_the_year_before
from practice.returns.models import Paper, Return

# Rows of which a return has a handful, and what a change of the return asks of them; the rest is read when somebody wants it
_SMALL = {
    "overrides": ("address", "amount", "reason"),
    "submissions": ("authority", "state"),
    "controls": ("kind", "count", "amount"),
}


def gathered(return_):
    """The return with its papers and its small rows where their managers look for them, and last year's mark.

    Ask it of a return that is locked already, never in the query that locks it: what that query reads besides the row is as it
    was before the wait for the lock, and whoever held it may have overridden a line or filed the return."""
    (found,) = _SMALL_ROWS(return_.firm_id, return_.pk)
    for name, texts in zip(_SMALL, found, strict=False):
        _lay(return_, name, [_row(return_, _model(name), one) for one in texts])
    papers = _PAPERS(return_.firm_id, return_.pk)
    for paper in papers:
        paper.of = return_
    _lay(return_, "papers", papers)
    return_.mark_of_last_year = next(iter(map(tuple, found[-1])), None) if return_.apart_from_id is None else None
    return return_


def _small_rows(firm, pk):
    arrays = (_as_texts(name, names, firm) for name, names in _SMALL.items())
    outer = (OuterRef("household"), OuterRef("pack"), OuterRef("year") - 1, OuterRef("begins"))
    before = ArraySubquery(marks_of_the_year_before(firm, *outer))
    return Return.objects.for_firm(firm).filter(pk=pk).values_list(*arrays, before)


_SMALL_ROWS = Compiled(_small_rows)
_PAPERS = Compiled(lambda firm, pk: Paper.objects.for_firm(firm).filter(of=pk))


def _lay(return_, name, found):
    """Where the return's manager of that name looks first."""
    rows = getattr(return_, name).all()
    rows._result_cache, rows._prefetch_done = found, True
    vars(return_).setdefault("_prefetched_objects_cache", {})[name] = rows


def _as_texts(name, names, firm):
    rows = _model(name).objects.for_firm(firm).filter(of=OuterRef("pk")).order_by("pk")
    return ArraySubquery(rows.values(row=JSONObject(**{one: Cast(one, TextField()) for one in ("id", *names)})))


def _model(name):
    return Return._meta.get_field(name).related_model


def _row(return_, model, texts):
    """A row of which only some columns were read; Django reads another when it is asked for."""
    known = {"of_id": return_.pk, "firm_id": return_.firm_id} | texts
    fields = [field for field in model._meta.concrete_fields if field.attname in known]
    values = [field.to_python(known[field.attname]) for field in fields]
    return model.from_db(return_._state.db, [field.attname for field in fields], values)
