"""Columns worked out, and kept by the process while somebody looks at them: an edit computes what it moves."""

import threading
from collections import OrderedDict

from practice.returns.computing import result_of
from taxcore.whatif.columns import RETURN, Column, rolled_on, worked_out
from taxcore.whatif.differences import Difference, place_of_mark

_KEEP = 4  # returns whose columns are kept
_kept = OrderedDict()
_guard = threading.Lock()


def column_of(row):
    """A kept column as the core takes it."""
    differences = (Difference(place_of_mark(mark), value) for mark, value in sorted(row.differences.items()))
    return Column(row.key, str(row.based_on_id or RETURN), row.years_on, tuple(differences), row.rate)


def results(return_, rows):
    """{key: Outcome} of these columns of a return, as it stands; those given before are of no use afterwards. Requests about one
    return come one after another (`alone_with`)."""
    result, columns = result_of(return_), [column_of(row) for row in rows]
    with _guard:
        version, known = _kept.pop(return_.pk, (None, {}))  # what breaks off in the middle is not used again
    found = worked_out(result, columns, known if version == _mark(return_, result) else None)
    with _guard:
        _kept[return_.pk] = (_mark(return_, result), found)
        while len(_kept) > _KEEP:
            _kept.popitem(last=False)
    return found


def _mark(return_, result):
    """The columns rest on the return's papers, not on its result, which serves other requests meanwhile."""
    return return_.version, result.run.everything


def base_data(return_, row, outcomes):
    """The data that a column's differences are laid over: its base's, of its own year."""
    base = outcomes[str(row.based_on_id)].result if row.based_on_id else result_of(return_)
    return rolled_on(base, row.rate).data if row.years_on else base.run.everything


def forget():
    """For tests that roll versions back."""
    with _guard:
        _kept.clear()
