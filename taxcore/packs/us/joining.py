"""A joint return from two separate ones: whose everything was stays said, and halves of one paper become one again.

Where both returns have the same paper in parts (`dividing.py` made them), its amounts add up; everything else of the second
return comes under an id of its own. IRC 6013(a), (b).
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from taxcore.engine import Amount, PaperValues, Refer, ReturnData, Rows
from taxcore.packs.us.dividing import ROLES

_ONLY_SEPARATE = (
    "spouse_name", "spouse_number", "spouse_itemises", "spouse_covered", "lived_apart", "lived_apart_half", "only_state",
)  # fmt: skip


@dataclass(frozen=True)
class Joined:
    """The joint return. `ids` are the second return's ids by (kind, the id that each has now); `remarks` say what differed."""

    data: ReturnData
    ids: Mapping[tuple[str, str], str]
    remarks: tuple[str, ...]


def why_not(first: Any, second: Any) -> str:
    """Why two returns make no joint one; empty where they do."""
    for run in (first, second):
        if run.form("us.1040").status not in ("separate", "single", "head_of_household", ""):
            return "Each of the two must be the return of one person."
        if run.person("spouse") is not None:
            return "One of the two has a spouse on it already."
    if first.year != second.year:
        return "The two returns are of different years."
    numbers = [run.person("taxpayer").number for run in (first, second) if run.person("taxpayer") is not None]
    if len(numbers) < len(ROLES):
        return "One of the two has no taxpayer on it."
    return "Both returns are the same person's." if numbers[0] and numbers[0] == numbers[1] else ""


def joined(first: Any, second: Any, parted: Collection[str] = ()) -> Joined:
    """The joint return of two runs. `parted`: marks (kind/id) of papers of which each has a part."""
    return _Joining(first, second, frozenset(parted)).done()


class _Joining:
    def __init__(self, first: Any, second: Any, parted: frozenset[str]):
        self.kinds, self.parted = first.pack.by_kind, parted
        self.first = {(one.kind, one.id): one for one in first.everything.papers}
        self.second = {(one.kind, one.id): one for one in second.everything.papers}
        self.data, self.remarks = first.everything, list[str]()
        self.ids = {mark: self._new_id(mark) for mark in self.second}

    def done(self) -> Joined:
        papers = [self._of_first(one) for one in self.first.values()]
        people = [one for one in papers if one.kind == "person"]
        rest = [one for one in papers if one.kind != "person"]
        come = [self._of_second(one) for mark, one in self.second.items() if not self._is_one(mark)]
        people += [one for one in come if one.kind == "person"]
        rest += [one for one in come if one.kind != "person"]
        people.sort(key=lambda one: ROLES.index(one.values["role"]) if one.values.get("role") in ROLES else len(ROLES))
        data = self.data.but(papers=(*people, *rest), overrides={}, last_year=None, amends=None)
        return Joined(data, {(kind, new): old for (kind, old), new in self.ids.items()}, tuple(self.remarks))

    def _is_one(self, mark: tuple[str, str]) -> bool:
        """Whether both have a part of it: there can be only one, or it was divided."""
        return mark in self.first and mark[0] != "person" and (self._kind(mark[0]).single or "/".join(mark) in self.parted)

    def _kind(self, kind: str) -> Any:
        return self.kinds[kind]

    def _new_id(self, mark: tuple[str, str]) -> str:
        kind, old = mark
        if kind == "person" and self.second[mark].values.get("role") == "taxpayer":
            return "spouse"
        if self._is_one(mark) or mark not in self.first:
            return old
        return next(new for new in (f"{old[:36]}-{n}" for n in range(2, 100)) if not {(kind, new)} & {*self.first, *self.second})

    def _of_first(self, paper: PaperValues) -> PaperValues:
        mark = (paper.kind, paper.id)
        values = dict(paper.values)
        if paper.kind == "filing":
            return replace(paper, values=self._filing(values))
        if paper.kind == "residency":
            return replace(paper, values=values | {"rows": list(self._stays())})
        if mark in self.second and self._is_one(mark):
            values = self._added(paper, self._moved(self.second[mark]))
            if self._kind(paper.kind).owned:
                values["owner"] = "joint"
        return replace(paper, values=values, attached=0)

    def _of_second(self, paper: PaperValues) -> PaperValues:
        values = self._moved(paper)
        if paper.kind == "person" and values.get("role") == "taxpayer":
            values["role"] = "spouse"
        elif paper.kind == "residency":
            values["rows"] = list(self._stays())
        elif paper.kind != "person" and self._kind(paper.kind).owned and values.get("owner", "taxpayer") in ("", "taxpayer"):
            values["owner"] = "spouse"
        return replace(paper, id=self.ids[paper.kind, paper.id], values=values, attached=0)

    def _moved(self, paper: PaperValues) -> dict[str, Any]:
        """Values of the second return, with what they refer to under its id here."""
        if paper.kind == "person":
            return dict(paper.values)
        return self._referring(self._kind(paper.kind).fields(), paper.values)

    def _referring(self, fields: Mapping[str, Any], values: Mapping[str, Any]) -> dict[str, Any]:
        found = {}
        for name, value in values.items():
            field = fields.get(name)
            if isinstance(field, Rows):
                value = [self._referring(field.row.fields(), row) for row in value]
            elif isinstance(field, Refer):
                value = next((self.ids[kind, value] for kind in field.kinds if (kind, value) in self.ids), value)
            found[name] = value
        return found

    def _filing(self, values: dict[str, Any]) -> dict[str, Any]:
        other = self.second.get(("filing", "filing"))
        theirs = dict(other.values) if other is not None else {}
        self._say_other("filing", {n: v for n, v in values.items() if n not in (*_ONLY_SEPARATE, "status")}, theirs)
        kept = {name: value for name, value in (theirs | values).items() if name not in _ONLY_SEPARATE}
        return kept | {"status": "joint"}

    def _stays(self) -> Iterator[dict[str, Any]]:
        """Where each lived; who lived at one place for the same days is "both"."""
        ours, theirs = (
            [
                {k: v for k, v in row.items() if k not in ("id", "person")}
                for row in of.get(("residency", "residency"), _NONE).values.get("rows", ())
            ]
            for of in (self.first, self.second)
        )
        if ours == theirs:
            rows = [{"person": "both"} | row for row in ours]
        else:
            rows = [{"person": "taxpayer"} | row for row in ours] + [{"person": "spouse"} | row for row in theirs]
        yield from ({"id": str(number)} | row for number, row in enumerate(rows, start=1))

    def _added(self, paper: PaperValues, theirs: Mapping[str, Any]) -> dict[str, Any]:
        if not self._kind(paper.kind).owned:
            self._say_other(paper.kind, paper.values, theirs)
        return self._sum(self._kind(paper.kind).fields(), paper.values, theirs)

    def _sum(self, fields: Mapping[str, Any], ours: Mapping[str, Any], theirs: Mapping[str, Any]) -> dict[str, Any]:
        """Amounts of both added, rows by their id; of everything else the first's, or what only the second has."""
        found = dict(theirs) | dict(ours)
        for name in theirs.keys() & ours.keys():
            field = fields.get(name)
            if isinstance(field, Rows):
                found[name] = list(self._rows(field, ours[name], theirs[name]))
            elif isinstance(field, Amount):
                found[name] = _plus(ours[name], theirs[name])
        return found

    def _rows(self, field: Any, ours: Any, theirs: Any) -> Iterator[dict[str, Any]]:
        others = {row.get("id"): row for row in theirs}
        plain = {name for name, one in field.row.fields().items() if not isinstance(one, Amount)}
        for row in ours:
            other = others.get(row.get("id"))
            if other is None or any(row.get(name) != other.get(name) for name in plain):
                yield dict(row)
            else:
                yield self._sum(field.row.fields(), row, others.pop(row.get("id")))
        taken = {row.get("id") for row in ours}
        free = (str(number) for number in range(1, 1000) if str(number) not in taken)
        yield from ({**row, "id": row["id"] if row["id"] not in taken else next(free)} for row in others.values())

    def _say_other(self, kind: str, ours: Mapping[str, Any], theirs: Mapping[str, Any]) -> None:
        """What can stand only once, and stands otherwise on the second return."""
        declared = self._kind(kind)
        for name, field in declared.fields().items():
            one, other = ours.get(name), theirs.get(name)
            if not isinstance(field, (Amount, Rows)) and one and other and one != other:
                said = "another" if field.secret else f"“{other}”"
                self.remarks.append(f"{declared.name}, {field.label}: kept from the first return; the second has {said}.")


_NONE = PaperValues("", "", {})


def _plus(ours: Any, theirs: Any) -> Any:
    try:
        return f"{Decimal(str(ours)) + Decimal(str(theirs)):f}"
    except ArithmeticError:
        return ours  # a bad value stays as it is: its field says so
