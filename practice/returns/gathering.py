"""What every change of a return needs: its papers, and its few small rows in one query."""

from functools import cache

from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import OuterRef, TextField
from django.db.models.functions import Cast, JSONObject

from practice.firm.compiled import Compiled
from practice.returns.last_year import array_of_marks
from practice.returns.models import Return

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
    known(return_, "papers")
    return_.mark_of_last_year = next(iter(map(tuple, found[-1])), None) if return_.apart_from_id is None else None
    return return_


def _small_rows(firm, pk):
    arrays = (_as_texts(name, names, firm) for name, names in _SMALL.items())
    return Return.objects.for_firm(firm).filter(pk=pk).values_list(*arrays, array_of_marks(firm))


_SMALL_ROWS = Compiled(_small_rows)


def known(return_, name):
    """All rows of the return's manager of that name, read once: whoever asks the manager for all of them finds them."""
    laid = vars(return_).get("_prefetched_objects_cache", {})
    if name not in laid:
        relation = Return._meta.get_field(name)
        rows = _rows_of(name)(return_.firm_id, return_.pk)
        for row in rows:
            setattr(row, relation.field.name, return_)
        _lay(return_, name, rows)
    return list(getattr(return_, name).all())


@cache
def _rows_of(name):
    relation = Return._meta.get_field(name)
    return Compiled(lambda firm, pk: relation.related_model.objects.for_firm(firm).filter(**{relation.field.name: pk}))


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
    read = {"of_id": return_.pk, "firm_id": return_.firm_id} | texts
    fields = [field for field in model._meta.concrete_fields if field.attname in read]
    values = [field.to_python(read[field.attname]) for field in fields]
    return model.from_db(return_._state.db, [field.attname for field in fields], values)
