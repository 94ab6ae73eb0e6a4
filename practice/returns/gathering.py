"""What every change of a return needs: its papers, and its few small rows in one query."""

from functools import cache

from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import BinaryField, OuterRef, TextField
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
        _lay(return_, name, _all_of(name)(return_))
    return list(getattr(return_, name).all())


class RowsOf:
    """Rows of a return's manager of that name for which the lookup holds, with what is read beside them: its SQL is made once.
    What is large is read when it is asked for."""

    def __init__(self, name, *beside, **lookup):
        self.name, self.beside, self.lookup = name, beside, lookup
        self.rows = Compiled(self._made)

    def __call__(self, return_):
        found, of = self.rows(return_.firm_id, return_.pk), self._relation.field.name
        for row in found:
            setattr(row, of, return_)
        return found

    @property
    def _relation(self):
        return Return._meta.get_field(self.name)

    def _made(self, firm, pk):
        model = self._relation.related_model
        large = [field.name for field in model._meta.fields if isinstance(field, BinaryField)]
        rows = model.objects.for_firm(firm).filter(**{self._relation.field.name: pk}, **self.lookup).defer(*large)
        return rows.select_related(*self.beside) if self.beside else rows


_all_of = cache(RowsOf)


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
