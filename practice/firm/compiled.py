"""Queries whose SQL is made once: making it takes several times as long as PostgreSQL takes to answer.

For what every page and every change asks first. A query stays what the ORM makes of it; only numbers differ from one time to
the next.
"""

import copy
from collections.abc import Callable
from typing import Any

from django.db import DEFAULT_DB_ALIAS, connections
from django.db.models import QuerySet
from django.db.transaction import TransactionManagementError

_FIRST = 32_700  # these stand in the places of the numbers that are asked with while SQL is made; the smallest columns take them


class Compiled:
    """`make` is given whole numbers and gives a query in which each of them is compared as it is, and nothing else can differ.
    Asking gives its rows as a list, with what is prefetched."""

    def __init__(self, make: Callable[..., QuerySet]):
        self.make = make

    def __call__(self, *numbers: int) -> list[Any]:
        query, compiler, sql, given = self._made(len(numbers))
        if query.query.select_for_update and compiler.connection.get_autocommit():
            raise TransactionManagementError("select_for_update cannot be used outside of a transaction.")
        params = tuple(type(one)(numbers[one - _FIRST]) if _is_place(one) else one for one in given)
        # Django asks a query for its compiler and that for its SQL: a copy of each, since both keep things for one asking
        asked, compiler = query._chain(), copy.copy(compiler)
        compiler.as_sql = lambda: (sql, params)
        asked.query.get_compiler = lambda using: compiler
        return list(asked)

    def _made(self, count: int) -> tuple[QuerySet, Any, str, tuple[Any, ...]]:
        """Once for each connection, which turns what comes back into Python's values."""
        connection = connections[DEFAULT_DB_ALIAS]
        known = vars(connection).setdefault("compiled", {})
        if self not in known:
            places = range(_FIRST, _FIRST + count)
            query = self.make(*places)
            compiler = query.query.get_compiler(connection=connection)
            sql, given = compiler.as_sql()
            if {one for one in given if _is_place(one)} != set(places):
                raise ValueError(f"Not every number is compared as it is: {sql}")
            known[self] = (query, compiler, sql, tuple(given))
        return known[self]


def _is_place(param: Any) -> bool:
    """Psycopg has kinds of int of its own, by the column's size."""
    return isinstance(param, int) and param >= _FIRST
