"""Results are kept in tests as in use, though a test is one transaction that is never committed."""

from contextlib import contextmanager
from unittest import mock

from django.db import connection, transaction

from practice.returns import computing

_is_final, _store = computing._is_final, computing._store


class _Keeping:
    """What is to be kept once a change is committed."""

    def __init__(self, keep):
        self.keep = keep

    def __call__(self):
        keep, self.keep = self.keep, None
        if keep is not None:  # not done yet
            keep()


class _Transaction:
    """Django's, for whoever must know what was given to wait for the end of one."""

    atomic = staticmethod(transaction.atomic)

    def on_commit(self, keep):
        transaction.on_commit(_Keeping(keep))


def _only_the_tests():
    return all(one._from_testcase for one in connection.atomic_blocks)


def _final():
    return _is_final() or _only_the_tests()


def _kept(return_id):
    """The store, with what was kept meanwhile: what rolled back is not among what waits, and what is under way has to."""
    under_way = set() if _only_the_tests() else set(connection.savepoint_ids)
    for inside, waiting, _ in list(connection.run_on_commit):
        if isinstance(waiting, _Keeping) and not inside <= under_way:
            waiting()
    return _store(return_id)


@contextmanager
def tried():
    """A transaction of the test's, not of what it tests."""
    one = transaction.atomic()
    one._from_testcase = True
    with one:
        yield


@contextmanager
def results_kept():
    """Inside, a change has happened as soon as its own transaction has ended, though the test's goes on."""
    with mock.patch.multiple(computing, _is_final=_final, _store=_kept, transaction=_Transaction()):
        yield
