"""Roll forward: next year's return from this year's, by what papers' fields keep and what lines close. Pure; the source stays.

What comes over is declared where it stands: a sender (`party`), a field that is `kept`, rows that repeat without their amounts, a
field that `opens` a balance. Nothing else does.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Any

from taxcore.engine.balances import Balance, Closing, Opening
from taxcore.engine.fields import Amount, BadValue, Field, Refer, Rows
from taxcore.engine.figures import whole
from taxcore.engine.pack import CannotRoll, Succession
from taxcore.engine.papers import Person
from taxcore.engine.periods import Period
from taxcore.engine.result import Result
from taxcore.engine.values import PaperValues, ReturnData

_Place = tuple[Opening | None, str]
_PLAIN = ("role", "owner")  # they say whose a paper is; nobody has to confirm them


@dataclass(frozen=True, slots=True)
class Opened:
    """A balance that came over: the paper and field that open it, the line that closed it."""

    balance: Balance
    amount: Decimal
    paper: str
    field: str
    line: str


@dataclass(frozen=True, slots=True)
class Rolled:
    """Next year's return, with what came over marked as `carried` on its papers. `people` are the ids that people had, by the one
    that each has now; `remarks` say what did not come, and why."""

    data: ReturnData
    people: Mapping[str, str]
    opened: tuple[Opened, ...]
    remarks: tuple[str, ...]


def roll_forward(result: Result, parted: str = "", index: Decimal | None = None) -> Rolled:
    """The return of the year after; where two file separately from then on, that of the one with the role `parted`. CannotRoll
    where there is none: the law of that year is not here, or nobody is left. With an `index` the law of that year is assumed,
    where it is not here."""
    return _Rolling(result, parted, index).done()


class _Rolling:
    def __init__(self, result: Result, parted: str, index: Decimal | None):
        self.run, self.pack = result.run, result.run.pack
        self.period = self._period()
        self.year = result.year + 1 if self.period is None else self.pack.year_in(self.period)
        self.index = index if self.year not in self.pack.years else None
        if self.year not in self.pack.years and (index is None or self.year > self.pack.assumed_until):
            raise CannotRoll(f"The law of {self.year} is not in this program yet.")
        self.succession: Succession = self._succession(parted)
        self.ids = {old: self._id_of(old) for old in self.succession.roles}
        self.roles = {person.role: self.succession.roles.get(person.key) for person in self.run.people()}
        self.made: dict[str, PaperValues] = {}
        self.carried: dict[str, list[str]] = {}
        self.opened: list[Opened] = []
        self.remarks = list(self.succession.remarks)

    def _period(self) -> Period | None:
        """Of a kind of return with periods of its own: the one that follows."""
        if not self.pack.asks:
            return None
        if self.pack.period_after is None:
            raise CannotRoll("A return of this kind is made anew each time.")
        return self.pack.period_after(self.run.period)

    def _succession(self, parted: str) -> Succession:
        if not parted:
            return self.pack.succession(self.run)
        if self.pack.parted is None:
            raise CannotRoll("Nobody files this return with another.")
        return self.pack.parted(self.run, parted)

    def done(self) -> Rolled:
        for person in self.run.people():
            if person.key in self.ids:
                self._keep(person, self.ids[person.key], {"role": self.succession.roles[person.key]})
        for paper in self.run.all_papers():
            self._come(paper)
        for kind, values in self.succession.values.items():
            self._set(kind, values)
        for (balance, jurisdiction), closing in self.pack.closings.items():
            self._open_all(balance, jurisdiction, closing)
        self._let_go()
        papers = tuple(replace(one, carried=tuple(dict.fromkeys(self.carried.get(one.id, ())))) for one in self._in_order())
        data = ReturnData(self.pack.code, self.year, papers, training=self.run.training, index=self.index, period=self.period)
        return Rolled(data, {new: old for old, new in self.ids.items()}, tuple(self.opened), tuple(self.remarks))

    def _in_order(self) -> Iterator[PaperValues]:
        people = [paper for paper in self.made.values() if paper.kind == Person.kind]
        return iter((*people, *(paper for paper in self.made.values() if paper.kind != Person.kind)))

    def _id_of(self, old: str) -> str:
        """Taxpayer and spouse are called by their role; whoever takes another one gets its name."""
        person = next(one for one in self.run.people() if one.key == old)
        role = self.succession.roles[old]
        return role if role != person.role else old

    # Papers

    def _come(self, paper: Any) -> None:
        owner = str(paper.entered.get("owner") or "")
        if owner in self.roles and self.roles[owner] is None:
            return
        if not paper.since <= self.year <= paper.until:
            return
        plain = self._owned(paper)
        kept = self._kept_of(type(paper), paper.entered)
        if paper.comes_again() or paper.always or (kept and not paper.party and not paper.heading):
            self._put(paper, paper.key, plain, kept)

    def _owned(self, paper: Any) -> dict[str, str]:
        """Whose it is then; nobody's where what was entered is no owner."""
        owner, field = paper.entered.get("owner"), type(paper).fields().get("owner")
        return {"owner": self._new_owner(str(owner))} if field is not None and owner and field.fits(owner) else {}

    def _new_owner(self, owner: str) -> str:
        if owner == "joint" and len({role for role in self.roles.values() if role in ("taxpayer", "spouse")}) < 2:
            return "taxpayer"
        return self.roles.get(owner) or owner

    def _keep(self, paper: Any, key: str, plain: Mapping[str, Any]) -> None:
        self._put(paper, key, plain, self._kept_of(type(paper), paper.entered))

    def _put(self, paper: Any, key: str, plain: Mapping[str, Any], kept: Mapping[str, Any]) -> None:
        self.made[key] = PaperValues(key, paper.kind, {**plain, **kept})
        self.carried[key] = list(kept)

    def _kept_of(self, declared: Any, entered: Mapping[str, Any]) -> dict[str, Any]:
        senders = set(getattr(declared, "party", {}).values()) | {declared.heading}
        found = {}
        for name, field in declared.fields().items():
            value = entered.get(name)
            if name in _PLAIN or value in (None, "", [], ()):
                continue
            if isinstance(field, Rows):
                comes = field.kept or name in declared.repeats
                rows = self._rows(field, value, with_amounts=field.kept) if comes else []
                if rows:
                    found[name] = rows
            elif (field.kept or name in senders) and (same := self._same(field, value)) is not None:
                found[name] = same
        return found

    def _rows(self, field: Rows, rows: Any, *, with_amounts: bool) -> list[dict[str, Any]]:
        """What of rows fits their fields, with their amounts or without; one of which nothing is left does not come."""
        declared = field.row.fields()
        found = []
        for row in rows if isinstance(rows, (list, tuple)) else ():
            if not isinstance(row, Mapping):
                continue
            kept = {
                name: same
                for name, value in row.items()
                if name in declared
                and (with_amounts or not isinstance(declared[name], Amount))
                and (same := self._same(declared[name], value))
            }
            if kept:
                found.append({"id": str(row.get("id", "")), **kept})
        return found

    def _same(self, field: Field, value: Any) -> Any:
        """The value as next year's field takes it; None where it does not fit, or names who is not there any more."""
        if isinstance(field, Refer):
            return self.ids.get(value, value) if isinstance(value, str) else None
        return value if field.fits(value) else None

    def _let_go(self) -> None:
        """What names a paper or a person that does not come along names nobody."""
        kinds = {one.id: one.kind for one in self.made.values()}
        for key, one in self.made.items():
            fields = self.pack.by_kind[one.kind].fields()
            gone = [n for n, v in one.values.items() if isinstance(f := fields.get(n), Refer) and kinds.get(v) not in f.kinds]
            if gone:
                self.made[key] = replace(one, values={n: v for n, v in one.values.items() if n not in gone})
                self.carried[key] = [name for name in self.carried.get(key, ()) if name not in gone]

    def _set(self, kind: str, values: Mapping[str, Any]) -> None:
        """What the succession says of a paper that exists once, in place of what it had."""
        old = self.made.get(kind, PaperValues(kind, kind))
        self.made[kind] = PaperValues(kind, kind, {**old.values, **values})
        self.carried[kind] = list(dict.fromkeys((*self.carried.get(kind, ()), *(n for n in values if n not in _PLAIN))))

    # Balances

    def _open_all(self, balance: Balance, jurisdiction: str, closing: Closing) -> None:
        openings = self.pack.openings.get((balance, jurisdiction), ())
        openings = tuple(one for one in openings if one.paper.since <= self.year <= one.paper.until)
        for form in self.run.every(closing.form.code()):
            value = getattr(form, closing.line.name)
            if value is None or value == "" or (balance.kept_up and not value):
                continue
            if not openings:
                self.remarks.append(f"{balance.title}, {value:,}: the {self.year} return has no place for it here.")
                continue
            self._open(balance, form, closing, openings, value)

    def _open(self, balance: Balance, form: Any, closing: Closing, openings: tuple[Opening, ...], value: Any) -> None:
        opening, key = self._place_for(form, balance, openings)
        if opening is None:
            if balance.waits:
                self.remarks.append(f"{balance.title}, {value:,}, of {self._called(form.key)}: it does not come along.")
            return
        field = opening.field
        try:
            part = self.succession.shares.get(balance)
            value = value if part is None else whole(value * part)
            if part is not None and not value:
                return
            entered = self._entered(form, closing, field, value, part)
        except BadValue as bad:
            self.remarks.append(f"{balance.title}: {bad.says}")
            return
        old = self.made[key]
        self.made[key] = PaperValues(key, old.kind, {**old.values, field.name: entered})
        self.carried[key] = [*self.carried.get(key, ()), field.name]
        if isinstance(value, Decimal):
            self.opened.append(Opened(balance, value, key, field.name, closing.name(form.key)))

    def _part_of(self, row: Mapping[str, str], field: Rows, part: Decimal | None) -> dict[str, str]:
        """A row, or that part of its amounts."""
        declared = field.row.fields()
        divided = {name for name in row if part is not None and isinstance(declared[name], Amount)}
        return {name: f"{whole(Decimal(text) * (part or 1)):f}" if name in divided else text for name, text in row.items()}

    def _entered(self, form: Any, closing: Closing, field: Field, value: Any, part: Decimal | None) -> Any:
        if isinstance(field, Rows):
            rows = getattr(form, closing.line.by_origin)()
            return [{"id": str(number), **self._part_of(row, field, part)} for number, row in enumerate(rows, start=1)]
        text = _written(value) if isinstance(value, Decimal) else field.write(value)
        field.parse(text)
        return text

    def _place_for(self, form: Any, balance: Balance, openings: tuple[Opening, ...]) -> _Place:
        """The field that opens what this form closes, and its paper's id: that on which the form stands, its owner's, or a new
        one."""
        for opening in openings:
            if opening.paper.single:
                return opening, self._one(opening.paper.kind, opening.paper.kind, {})
            if self._on(form.key, opening, balance.waits):
                return opening, form.key
        return self._of_owner(form, balance, openings)

    def _on(self, key: str | None, opening: Opening, waits: bool) -> bool:
        """Whether it is the same paper, a year older; one that was not expected comes along for what it opens."""
        if key is None:
            return False
        if key in self.made and self.made[key].kind == opening.paper.kind:
            return True
        if not waits:
            return False
        paper = self.run.by_key((opening.paper.kind,), key)
        owner = str(paper.entered.get("owner") or "") if paper is not None else ""
        if paper is None or (owner in self.roles and self.roles[owner] is None):
            return False
        self._keep(paper, key, self._owned(paper))
        return True

    def _of_owner(self, form: Any, balance: Balance, openings: tuple[Opening, ...]) -> _Place:
        opening = openings[0]
        whose = opening.paper.whose
        wanted = self.roles.get(form.key) if whose == "owner" else self.ids.get(form.key)
        if wanted is None:
            return None, ""
        nobody = "taxpayer" if whose == "owner" else ""
        for key, paper in self.made.items():
            if paper.kind == opening.paper.kind and (paper.values.get(whose) or nobody) == wanted:
                return opening, key
        if not balance.waits:
            return None, ""
        return opening, self._one(opening.paper.kind, f"{opening.paper.kind}-{wanted}"[:40], {whose: wanted})

    def _one(self, kind: str, key: str, plain: Mapping[str, Any]) -> str:
        if key not in self.made:
            self.made[key] = PaperValues(key, kind, dict(plain))
        return key

    def _called(self, key: str | None) -> str:
        return self.run.title_of(key) if key else "nobody"


def _written(amount: Decimal) -> str:
    """Whole where it is whole, as people enter it."""
    return f"{amount:.0f}" if amount == amount.to_integral_value() else f"{amount:f}"


__all__ = ["CannotRoll", "Opened", "Rolled", "roll_forward"]
