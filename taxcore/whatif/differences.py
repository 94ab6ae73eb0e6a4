"""What a plan has otherwise than the return it is based on, and that return with it. The order of differences
never matters."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from taxcore.engine import Pack, PaperValues, ReturnData, Rows

ADDED, REMOVED = "added", "removed"


@dataclass(frozen=True, slots=True)
class Place:
    """A field of a paper: `path` is its name, or `table.row.field`. An empty path is the paper as a whole."""

    kind: str
    paper: str
    path: str = ""

    @property
    def mark(self) -> str:
        """One text for a place, for forms and links; `place_of_mark` reads it."""
        return f"{self.kind}/{self.paper}/{self.path}"


@dataclass(frozen=True, slots=True)
class Difference:
    """What stands there instead, in the open format: empty for an empty field; for a paper, that it is added or removed."""

    place: Place
    value: str


def place_of_mark(mark: str) -> Place:
    """ValueError where the text is none."""
    kind, paper, path = mark.split("/", 2)
    return Place(kind, paper, path)


def with_differences(pack: Pack, data: ReturnData, differences: Iterable[Difference]) -> ReturnData:
    """The return with these differences. What was said of a paper, row or field that is not there any more says nothing."""
    by_paper: dict[tuple[str, str], dict[str, str]] = {}
    for one in differences:
        by_paper.setdefault((one.place.kind, one.place.paper), {})[one.place.path] = one.value
    there = {(paper.kind, paper.id) for paper in data.papers}
    papers = [*data.papers, *(_begun(pack, mark, said) for mark, said in sorted(by_paper.items()) if mark not in there)]
    return data.but(papers=tuple(made for paper in papers if paper is not None and (made := _with(pack, paper, by_paper))))


def _begun(pack: Pack, mark: tuple[str, str], said: Mapping[str, str]) -> PaperValues | None:
    """A paper or person that the return has not: added here, or a paper that exists once and had nothing entered in it."""
    if mark[0] == pack.people.kind:
        role = said.get("role", "")
        added = said.get("") == ADDED and role in pack.people.adds
        return PaperValues(mark[1], mark[0], {"role": role, **pack.people.planned.get(role, {})}) if added else None
    declared = pack.paper(mark[0])
    if declared is None or (said.get("") != ADDED and not declared.single):
        return None
    return PaperValues(mark[1], mark[0], {})


def _with(pack: Pack, paper: PaperValues, by_paper: Mapping[tuple[str, str], Mapping[str, str]]) -> PaperValues | None:
    said = by_paper.get((paper.kind, paper.id))
    declared = pack.paper(paper.kind)
    if said is None or declared is None:
        return paper
    if said.get("") == REMOVED:
        return None
    fields, values = declared.fields(), dict(paper.values)
    for path, value in sorted(said.items()):
        name, _, inner = path.partition(".")
        if path and not inner and name in fields:
            values = _set(values, name, value)
        elif inner and isinstance(fields.get(name), Rows):
            values[name] = _with_row(values.get(name), fields[name], inner, value)
    return replace(paper, values=values)


def _set(values: dict[str, Any], name: str, value: str) -> dict[str, Any]:
    return {**values, name: value} if value else {key: there for key, there in values.items() if key != name}


def _with_row(rows: Any, field: Any, inner: str, value: str) -> list[Any]:
    """The rows with a field of one of them set; a row that is not there is added at the end."""
    key, _, name = inner.partition(".")
    rows = list(rows) if isinstance(rows, (list, tuple)) else []
    if name not in field.row.fields():
        return rows
    if not any(isinstance(row, Mapping) and str(row.get("id")) == key for row in rows):
        rows.append({"id": key})
    return [_set(dict(row), name, value) if isinstance(row, Mapping) and str(row.get("id")) == key else row for row in rows]
