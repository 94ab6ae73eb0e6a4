"""What many classes of tests begin with: made once in a process, its rows put back for each class as they were."""

import copy
from collections.abc import Callable

from django.db import connection
from django.test import TestCase
from psycopg import sql

from practice.returns import computing
from practice.tests.committed import results_kept

_TABLES = "select relname from pg_class where relkind = 'r' and relnamespace = 'public'::regnamespace"


class Kept:
    """`make` fills an empty database inside a transaction and returns what it made, {name: object}. The numbers of its rows stay
    those of the first time: the database has counted beyond them ever since, so nothing made later can meet them."""

    def __init__(self, make: Callable[[], dict[str, object]]):
        self.make = make
        self.rows: dict[str, bytes] = {}
        self.made: dict[str, object] = {}

    def put_back(self) -> dict[str, object]:
        """The same objects as the first time, each time another copy of them."""
        if self.made:
            with connection.cursor() as cursor:
                # What triggers did is among the rows, and in any order: nothing is to be done or checked again
                cursor.execute("set local session_replication_role = replica")
                for table, rows in self.rows.items():
                    _write(table, rows)
                cursor.execute("set local session_replication_role = origin")
        else:
            before = _counted()
            self.made = self.make()
            self.rows = {table: _read(table) for table, count in _counted().items() if count and table not in before}
            changed = [table for table, count in _counted().items() if before.get(table, count) != count]
            assert not changed, f"also filled by migrations, so they cannot be put back whole: {changed}"
        return copy.deepcopy(self.made)


def _counted() -> dict[str, int]:
    """{table: its rows}, of those that have any."""
    with connection.cursor() as cursor:
        cursor.execute(_TABLES)
        tables = sql.SQL(" union all ").join(
            sql.SQL("select {}, count(*) from {}").format(sql.Literal(name), sql.Identifier(name))
            for (name,) in cursor.fetchall()
        )
        cursor.execute(tables)
        return {name: count for name, count in cursor.fetchall() if count}


def _copying(table: str, how: str) -> sql.Composed:
    return sql.SQL("COPY {} " + how).format(sql.Identifier(table))


def _write(table: str, rows: bytes) -> None:
    with connection.connection.cursor().copy(_copying(table, "FROM STDIN")) as copying:
        copying.write(rows)


def _read(table: str) -> bytes:
    with connection.connection.cursor().copy(_copying(table, "TO STDOUT")) as copying:
        return b"".join(bytes(part) for part in copying)


class KeptTestCase(TestCase):
    """`lay_out` keys what all tests of a class begin with, on `self`: once for all classes that inherit it. Each test has its own
    copy of what it left there. Results are kept as in use, until the test ends."""

    @classmethod
    def setUpClass(cls):
        cls.enterClassContext(results_kept())
        super().setUpClass()
        computing.forget()

    def _fixture_teardown(self):
        super()._fixture_teardown()
        computing.forget()

    def lay_out(self):
        """Nothing; a class that begins with something begins with what this has left."""

    @classmethod
    def setUpTestData(cls):
        for name, made in _LAID_OUT.setdefault(cls.lay_out, Kept(lambda: _left_on(cls))).put_back().items():
            setattr(cls, name, made)


_LAID_OUT: dict[object, Kept] = {}


def _left_on(cls: type[KeptTestCase]) -> dict[str, object]:
    one = cls()
    one.client = cls.client_class()
    one.lay_out()
    return {name: value for name, value in vars(one).items() if not name.startswith("_") and name != "client"}
