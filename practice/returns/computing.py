"""From stored papers to a result. Results are kept a while by return and version; a change makes a new version.

Two results of a return are kept: the newest, and a spare one that takes the next version at the cost of what differs
(`Result.changed`). So the result before a change and the one after it stand side by side, as those who compare them need.
"""

import logging
import threading
from collections import OrderedDict
from contextlib import contextmanager

from django.db import connection, transaction

from practice.firm.crypto import CannotUnseal, unseal
from practice.returns.as_filed import amends_of
from practice.returns.last_year import last_years_data, mark_of_last_year
from taxcore.engine import Override, PaperValues, ReturnData, compute
from taxcore.packs import pack_named
from taxcore.whatif.trials import Trials

_log = logging.getLogger(__name__)
BROUGHT = "rolled"  # how a value came that was brought along when its return was made
_KEEP = 16  # returns, each with two results: more would make every collection of garbage walk through them
# A result computes its rest when asked, which two threads must not do at once. So a thread that has a return to itself
# (`alone_with`, as every request about one return) uses the store of the process, any other a store of its own.
_shared = OrderedDict()
_locks = {}
_guard = threading.Lock()
_local = threading.local()


@contextmanager
def alone_with(return_id):
    """Let one thread of this process at a time work with a return, and share its results between them."""
    with _guard:
        lock, users = _locks.get(return_id, (threading.RLock(), 0))
        _locks[return_id] = (lock, users + 1)
    outer = getattr(_local, "alone", None)
    try:
        with lock:
            _local.alone = return_id
            yield
    finally:
        _local.alone = outer
        with _guard:
            lock, users = _locks[return_id]
            if users == 1:
                del _locks[return_id]
            else:
                _locks[return_id] = (lock, users - 1)


def pack_of(return_):
    return pack_named(return_.pack)


def data_of(return_, training=None, look_back=True):
    """The return as plain values, secrets decrypted; with what it may look back at, unless it is being looked back at itself."""
    papers = tuple(
        PaperValues(paper.key, paper.kind, open_values(paper.values), paper.attached, carried_on(paper))
        for paper in return_.papers.all()
        if not paper.removed_at
    )
    overrides = {row.address: Override(row.amount, row.reason) for row in return_.overrides.all()}
    training = return_.firm.training if training is None else training
    before = last_years_data(return_, data_of, computed_alone) if look_back else None
    answers, amends = _answers(return_), amends_of(return_)
    return ReturnData(
        return_.pack, return_.year, papers, overrides, training, before, answers, amends=amends, period=return_.period
    )


def _answers(return_):
    return {field: answer["value"] for field, answer in return_.firm.answers.items()}


def computed_from(return_, data, before):
    """A result of a return whose papers are at hand and whose last year is known; for whoever takes it apart afterwards."""
    data = data.but(training=return_.firm.training, last_year=before, answers=_answers(return_))
    return hushed(return_, compute(pack_of(return_), data))


def carried_on(paper):
    """Fields of a paper that came from last year's return and that nobody has confirmed; a table as a whole."""
    from_last_year = (path for path, mark in paper.provenance.items() if mark.get("how") == BROUGHT and mark.get("from"))
    return tuple(dict.fromkeys(path.partition(".")[0] for path in from_last_year))


def computed_alone(return_):
    """A result for its lines alone: a chain of years must not be walked to its beginning."""
    return compute(pack_of(return_), data_of(return_, look_back=False))


def open_values(values):
    """Stored values with their secrets decrypted."""
    return {name: _open(value) for name, value in values.items()}


def _open(value):
    if isinstance(value, list):
        return [open_values(row) for row in value]
    try:
        return unseal(value)
    except CannotUnseal:
        return value  # its field refuses it by name, and the rest of the return stays open


@contextmanager
def in_one_go():
    """One transaction that is kept whole or not at all, for many changes in a row: inside, a change finds the result that the one
    before it left, though nothing is committed yet. Whoever catches an exception inside must not go on changing that return."""
    with transaction.atomic():
        _local.one_go = OrderedDict()
        try:
            yield
        finally:
            del _local.one_go


def _is_final():
    """Whether what the database says now cannot be undone behind the back of a kept result."""
    return hasattr(_local, "one_go") or not connection.in_atomic_block


def result_of(return_):
    """The result of the return as it stands."""
    mark, found, _ = _store(return_.pk).get(return_.pk, (None, None, None))
    if mark != _mark(return_):
        newest, found = found, _computed(return_)
        if _is_final():  # what is not committed may still roll back
            _keep(return_.pk, _mark(return_), found, newest)
    return hushed(return_, found)


def _computed(return_, before=None):
    """From the spare result where there is one that is not `before`, else in full."""
    store, data = _store(return_.pk), data_of(return_)
    mark, newest, spare = store.get(return_.pk, (None, None, None))
    if spare is not None and (before is None or spare.run is not before.run):
        store[return_.pk] = (mark, newest, None)  # it is of no use to anybody else from here on
        try:
            if (found := spare.changed(data)) is not None:
                return found
            _take_apart(spare)
        except Exception:
            _log.exception("return %s: not computed by what changed, but in full", return_.pk)
    return compute(pack_of(return_), data)


@contextmanager
def trials_of(return_):
    """Trials of the return with something changed, from its spare result where there is one. Of use inside; nothing is stored."""
    store = _store(return_.pk)
    mark, newest, spare = store.get(return_.pk, (None, None, None))
    if spare is not None:
        store[return_.pk] = (mark, newest, None)
    trials = Trials(pack_of(return_), spare)
    yield trials
    if trials.last is not None and store.get(return_.pk) == (mark, newest, None):
        store[return_.pk] = (mark, newest, trials.last)


def _mark(return_):
    """What a kept result must have been made of to serve: the return's version, last year's, and the practice's answers."""
    answers = tuple(sorted((field, answer["value"]) for field, answer in return_.firm.answers.items()))
    return return_.version, mark_of_last_year(return_), answers


def hushed(return_, result):
    """The same result, saying nothing of what the practice or this return does not want to hear."""
    result.hushed = frozenset((*return_.firm.silenced, *return_.silenced))
    return result


def new_result_of(return_, before=None):
    """The result of a change under way, beside the one before it. Kept only once it is committed: a version that rolls back must
    leave no trace."""
    result = hushed(return_, _computed(return_, before))
    mark = _mark(return_)
    _, newest, _ = _store(return_.pk).get(return_.pk, (None, None, None))
    if _is_final():
        _keep(return_.pk, mark, result, newest)
    else:
        transaction.on_commit(lambda: _keep(return_.pk, mark, result, newest))
    return result


def _keep(return_id, mark, result, spare):
    store = _store(return_id)
    with _guard:
        store[return_id] = (mark, result, spare if spare is not None and spare.run is not result.run else None)
        store.move_to_end(return_id)
        gone = [store.pop(key) for key in list(store)[: max(len(store) - _KEEP, 0)] if store is not _shared or key not in _locks]
    if store is _shared:
        for _, newest, spare in gone:  # nobody works with that return, so nobody looks at its results
            _take_apart(newest, spare)


def _take_apart(*results):
    """Otherwise Python's collector looks for them among everything that lives, while somebody waits."""
    for result in results:
        if result is not None:
            result.take_apart()


def forget():
    """Empty the stores, for tests that roll versions back."""
    _shared.clear()
    if hasattr(_local, "results"):
        _local.results.clear()


def _store(return_id):
    if hasattr(_local, "one_go"):
        return _local.one_go
    if getattr(_local, "alone", None) == return_id:
        return _shared
    if not hasattr(_local, "results"):
        _local.results = OrderedDict()
    return _local.results
