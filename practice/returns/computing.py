"""From stored papers to a result. Results are kept a while by return and version; a change makes a new version."""

import threading
from collections import OrderedDict

from django.db import connection, transaction

from practice.firm.crypto import is_sealed, unseal
from taxcore.engine import Override, PaperValues, ReturnData, compute
from taxcore.packs import pack_named

_KEEP = 32
# One store for each thread: a result computes its rest when asked, which two threads must not do at once
_local = threading.local()


def pack_of(return_):
    return pack_named(return_.pack)


def data_of(return_, training=None):
    """The return as plain values, secrets decrypted."""
    papers = tuple(
        PaperValues(paper.key, paper.kind, open_values(paper.values)) for paper in return_.papers.all() if not paper.removed_at
    )
    overrides = {row.address: Override(row.amount, row.reason) for row in return_.overrides.all()}
    training = return_.firm.training if training is None else training
    return ReturnData(return_.pack, return_.year, papers, overrides, training)


def open_values(values):
    """Stored values with their secrets decrypted."""
    return {name: _open(value) for name, value in values.items()}


def _open(value):
    if isinstance(value, list):
        return [open_values(row) for row in value]
    return unseal(value) if is_sealed(value) else value


def result_of(return_):
    """The result of the return as it stands."""
    store = _store()
    mark = (return_.pk, return_.version)
    if mark not in store:
        result = compute(pack_of(return_), data_of(return_))
        if connection.in_atomic_block:
            return result  # what is not committed may still roll back
        _keep(mark, result)
    store.move_to_end(mark)
    return store[mark]


def new_result_of(return_):
    """The result of a change under way. Kept only once it is committed: a version that rolls back must leave no trace."""
    result = compute(pack_of(return_), data_of(return_))
    mark = (return_.pk, return_.version)
    transaction.on_commit(lambda: _keep(mark, result))
    return result


def _keep(mark, result):
    store = _store()
    store[mark] = result
    while len(store) > _KEEP:
        store.popitem(last=False)


def forget():
    """Empty this thread's store, for tests that roll versions back."""
    _store().clear()


def _store():
    if not hasattr(_local, "results"):
        _local.results = OrderedDict()
    return _local.results
