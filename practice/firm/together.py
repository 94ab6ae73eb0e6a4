"""Migrations that make or extend many tables at once, for which Django draws its picture of all tables once."""

from collections.abc import Iterable
from itertools import groupby

from django.db.migrations import AddConstraint, AddField, AddIndex, CreateModel
from django.db.migrations.operations.base import Operation

_EXTENDING = (AddField, AddConstraint, AddIndex)


class Together(Operation):
    """Operations of one kind, one after the other. Django by itself draws every related model anew after each of them: in a
    program whose tables all refer to each other this took nine tenths of making an empty database."""

    def __init__(self, operations: list[Operation]):
        self.operations = operations

    def deconstruct(self):
        return self.__class__.__qualname__, [self.operations], {}

    def state_forwards(self, app_label, state):
        vars(state).pop("apps", None)  # drawn again when it is asked for, which is once
        for operation in self.operations:
            operation.state_forwards(app_label, state)

    def database_forwards(self, app_label, schema_editor, from_state, to_state):
        for operation in self.operations:
            operation.database_forwards(app_label, schema_editor, from_state, to_state)

    def database_backwards(self, app_label, schema_editor, from_state, to_state):
        for operation in reversed(self.operations):
            operation.database_backwards(app_label, schema_editor, from_state, to_state)

    def describe(self):
        return "; ".join(operation.describe() for operation in self.operations)


def together(operations: Iterable[Operation]) -> list[Operation]:
    """The same operations in the same order. New tables are a group of their own: what extends them comes after they are made."""
    grouped: list[Operation] = []
    for kind, some in groupby(operations, key=_kind):
        those = list(some)
        grouped += [Together(those)] if kind else those
    return grouped


def _kind(operation: Operation) -> str:
    if isinstance(operation, CreateModel):
        return "new"
    return "extended" if isinstance(operation, _EXTENDING) else ""
