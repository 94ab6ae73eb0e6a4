"""A worksheet's lines as a table on the paper that they follow from: what is entered stands among what is worked out."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Grid:
    """`form` is the code of the worksheet. A row is its label and, column by column, the name of a field of the paper, of a line
    or fact of the worksheet, or nothing. The last row is the total."""

    form: str
    title: str
    columns: tuple[str, ...]
    rows: tuple[tuple[str, tuple[str, ...]], ...]

    def names(self) -> set[str]:
        return {name for _, names in self.rows for name in names if name}
