"""A couple with one federal return and two of a state: who may, what it comes to, and the return of one of them.

The state wants amounts as if that one had filed separately with the federal authority too, so the whole return is made for one of
them: own papers, half of what belongs to both. IRC 6013(a), 1(d); when a state allows it: couple.toml in its folder.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from decimal import ROUND_HALF_UP, Decimal
from typing import Any

from taxcore.engine import ZERO, Amount, PaperValues, ReturnData, Rows
from taxcore.packs.us import couples, places
from taxcore.packs.us.dividing import WHOLE, Division, follows, is_whole, person_in, rows_about
from taxcore.whatif.trials import Trials

_CENT = Decimal("0.01")
_OTHER = {"taxpayer": "spouse", "spouse": "taxpayer"}
# The joint federal return's own affairs, and what was decided about its states
_LEFT = frozenset({
    "state-returns", "diligence", "diligence-child", "diligence-student", "split-deposit", "penalty", "prior-year", "extension",
    "next-year",
})  # fmt: skip
# Half of a spouse's pay is the other's there
COMMUNITY = frozenset({"AZ", "CA", "ID", "LA", "NM", "NV", "TX", "WA", "WI"})


@dataclass(frozen=True)
class Apart:
    """A state in which a couple may file separately. Amounts are bottom lines: positive is refunded, negative owed.

    `each` is what every one of them who would file comes to, by role; `names` what they are called.
    """

    state: str
    together: Decimal
    each: Mapping[str, Decimal]
    names: Mapping[str, str]
    source: str
    doubt: str

    @property
    def apart(self) -> Decimal:
        return sum(self.each.values(), ZERO)

    @property
    def saves(self) -> Decimal:
        """What filing separately brings; negative where it costs."""
        return self.apart - self.together


def choices(run: Any) -> Iterator[Apart]:
    """Every state in which this couple may file separately, with what it would come to."""
    trials = {person.role: Trials(run.pack) for person in run.form("us.1040").filers}  # from state to state little differs
    for one in places.made(run):
        if may(run, one.state):
            yield comparison(run, one.state, trials)


def may(run: Any, state: str) -> bool:
    """Whether the state lets this couple file separately. Not once more for who files separately already."""
    roles = [person.role for person in run.form("us.1040").filers]
    if run.form("us.1040").status != "joint" or len(roles) < 2:
        return False
    word = couples.rule(state).apart
    kinds = [places.lived_by(run, role, state) for role in roles]
    if word == couples.WITHOUT_INCOME:
        away = [role for role, kind in zip(roles, kinds, strict=True) if kind == places.NONE]
        return len(away) == 1 and not _earns_there(run, away[0], state)
    return word == couples.ALWAYS or (word == couples.DIFFERING and len(set(kinds)) > 1 and set(kinds) != {places.NONE})


def _earns_there(run: Any, role: str, state: str) -> bool:
    """Whether a person's papers, or papers of both, have income of the state by their own rows."""
    mine = (paper for paper in run.all_papers() if getattr(paper, "owner", "") in (role, "joint"))
    return any(row.state == state and (row.withheld or _income_of(row)) for paper in mine for row in getattr(paper, "states", ()))


def _income_of(row: Any) -> Decimal:
    return sum((getattr(row, name) for name in ("wages", "income") if name in row.fields()), ZERO)


def comparison(run: Any, state: str, trials: Mapping[str, Trials] | None = None) -> Apart:
    """What one return together and the returns apart come to. `trials` by role serve more than one state."""
    filers = {person.role: person.title for person in run.form("us.1040").filers}
    trials = trials or {role: Trials(run.pack) for role in filers}
    amounts = {role: _bottom_line(trials[role].of(of_one(run, role, state)), state) for role in filers}
    each = {role: amount for role, amount in amounts.items() if amount is not None}
    rule = couples.rule(state)
    return Apart(state, _bottom_line_of(run, state), each, {role: filers[role] for role in each}, rule.source, rule.doubt)


def _bottom_line(result: Any, state: str) -> Decimal | None:
    """None where that one has no return of the state."""
    return _bottom_line_of(result.run, state) if places.calls(result.run, state) else None


def _bottom_line_of(run: Any, state: str) -> Decimal:
    authority = run.pack.authority(f"us-{state.lower()}")
    form = run.form(authority.form.code())
    return Decimal(getattr(form, authority.refund) - getattr(form, authority.owed))


def holder(run: Any, state: str) -> str:
    """With whom goes what cannot be halved, dependents among it: the one who lived longer in the state."""
    days = {person.role: places.days_in(run, person.role).get(state, 0) for person in run.form("us.1040").filers}
    return max(days, key=lambda role: (days[role], role == "taxpayer"))


def of_one(run: Any, role: str, state: str) -> ReturnData:
    """The return of `role`, as if filed separately, for one state.

    Lines set by hand are not taken along: they were set for the couple. Who itemized together itemizes apart: IRC 63(c)(6)(A).
    """
    return _split(run, role, state, Division(holder(run, state)))


def everywhere(run: Any, role: str, division: Division) -> ReturnData:
    """The return of `role`, filed separately with everybody."""
    return _split(run, role, "", division)


def _split(run: Any, role: str, state: str, division: Division) -> ReturnData:
    data: ReturnData = run.data
    return data.but(papers=tuple(_Split(run, role, state, division).papers()), overrides={}, last_year=None, amends=None)


class _Split:
    """One spouse's papers. `state` is the only one they are for; empty where they are for every authority."""

    def __init__(self, run: Any, role: str, state: str, division: Division):
        self.kinds, self.data, self.role, self.state, self.division = run.pack.by_kind, run.data, role, state, division
        self.itemised = bool(run.form("us.1040").is_itemised)
        self.roles = {paper.id: str(paper.values.get("role", "")) for paper in self.data.papers if paper.kind == "person"}

    def papers(self) -> Iterator[PaperValues]:
        for paper in self.data.papers:
            values = self._values(paper)
            if values is not None:
                key = "taxpayer" if self.roles.get(paper.id) == self.role and paper.kind == "person" else paper.id
                yield replace(paper, id=key, values=values)

    def _values(self, paper: PaperValues) -> dict[str, Any] | None:
        special = getattr(self, "_" + paper.kind.replace("-", "_"), None)
        if special is not None:
            return special(paper, dict(paper.values))
        if paper.kind not in self.kinds or (self.state and paper.kind in _LEFT):
            return None
        kind = self.kinds[paper.kind]
        if self.state and kind.jurisdiction not in ("us", f"us-{self.state.lower()}"):
            return None
        if about := follows(kind):
            return self._about(about, dict(paper.values))
        if rows := rows_about(kind):
            there = self._portion(kind, dict(paper.values), WHOLE)
            return there if there.get(rows) or (not paper.values.get(rows) and self.division.holder == self.role) else None
        if (self.state and kind.jurisdiction != "us") or is_whole(kind):
            return self._shared(kind, paper, dict(paper.values), whole=True)
        return self._owned(kind, paper)

    def _about(self, name: str, values: dict[str, Any]) -> dict[str, Any] | None:
        """What is about one person goes with that person; about nobody, with the holder."""
        if not values.get(name):
            return values if self.division.holder == self.role else None
        return values | {name: self._called(str(values[name]))} if self._has(str(values[name])) else None

    def _owned(self, kind: Any, paper: PaperValues) -> dict[str, Any] | None:
        """Own papers whole, with the state's own rows; a share of what belongs to both; none of the other's."""
        values = dict(paper.values)
        if not kind.owned:
            return self._shared(kind, paper, values)
        owner = values.get("owner") or "taxpayer"
        if owner == "joint":
            shared = self._shared(kind, paper, values)
            return shared | {"owner": "taxpayer"} if shared is not None else None
        if owner in _OTHER:
            return values | {"owner": "taxpayer"} if owner == self.role else None
        return self._shared(kind, paper, values, whole=True)

    def _shared(self, kind: Any, paper: PaperValues, values: dict[str, Any], *, whole: bool = False) -> dict[str, Any] | None:
        """Every amount by this one's share, to the cent, so that the two add up; nothing where the other has all of it."""
        percent = self.division.percent(f"{paper.kind}/{paper.id}", self.role, whole=whole)
        return self._portion(kind, values, percent) if percent else None

    def _portion(self, kind: Any, values: dict[str, Any], percent: Decimal) -> dict[str, Any]:
        fields = kind.fields()
        return {name: self._part(fields.get(name), value, percent) for name, value in values.items()}

    def _part(self, field: Any, value: Any, percent: Decimal) -> Any:
        if isinstance(field, Rows):
            return [row for each in value for row in self._row(field.row, each, percent)]
        if not isinstance(field, Amount) or value in (None, "") or percent == WHOLE:
            return value
        try:
            amount = Decimal(str(value))
        except ArithmeticError:
            return value  # a bad value stays as it is: its field says so
        taxpayers = percent if self.role == "taxpayer" else WHOLE - percent
        first = (amount * taxpayers / WHOLE).quantize(_CENT, ROUND_HALF_UP)
        return f"{first if self.role == 'taxpayer' else amount - first:f}"

    def _row(self, kind: Any, row: dict[str, Any], percent: Decimal) -> Iterator[dict[str, Any]]:
        """A row about one person goes with that person, whole."""
        about = person_in(kind)
        if not about:
            yield self._portion(kind, row, percent)
        elif (one := self._about(about, row)) is not None:
            yield one

    def _has(self, key: str) -> bool:
        """Whether that person is on this return."""
        role = self.roles.get(key, "")
        if role in _OTHER:
            return role == self.role
        return self.division.percent(f"person/{key}", self.role, whole=True) == WHOLE

    def _called(self, key: str) -> str:
        return "taxpayer" if self.roles.get(key) == self.role else key

    def _person(self, paper: PaperValues, values: dict[str, Any]) -> dict[str, Any] | None:
        if not self._has(paper.id):
            return None
        return values | {"role": "taxpayer"} if values.get("role") in _OTHER else values

    def _filing(self, paper: PaperValues, values: dict[str, Any]) -> dict[str, Any]:
        other = self._of(_OTHER[self.role])
        name = f"{other.get('first_name', '')} {other.get('last_name', '')}".strip()
        known = {
            "spouse_name": name,
            "spouse_number": other.get("number", ""),
            "spouse_itemises": "yes" if self.itemised else "",
        }
        known |= {"status": "separate", "only_state": self.state}
        return values | {key: text for key, text in known.items() if text}

    def _of(self, role: str) -> Mapping[str, Any]:
        """What is known of one of the couple."""
        return next((paper.values for paper in self.data.papers if paper.kind == "person" and self.roles[paper.id] == role), {})

    def _residency(self, paper: PaperValues, values: dict[str, Any]) -> dict[str, Any]:
        rows = [row | {"person": "taxpayer"} for row in values.get("rows", ()) if row.get("person") in (self.role, "both")]
        return values | {"rows": rows}

    def _state_extensions(self, paper: PaperValues, values: dict[str, Any]) -> dict[str, Any] | None:
        if not self.state:
            return self._shared(self.kinds["state-extensions"], paper, values)
        rows = [row for row in values.get("rows", ()) if row.get("state") == self.state]
        return values | {"rows": rows} if rows and self.division.holder == self.role else None

    def _estimates(self, paper: PaperValues, values: dict[str, Any]) -> dict[str, Any] | None:
        if not self.state:
            return self._shared(self.kinds["estimates"], paper, values)
        rows = [row for row in values.get("state_rows", ()) if row.get("state") == self.state]
        return {"state_rows": rows} if rows and self.division.holder == self.role else None

    def _care_questions(self, paper: PaperValues, values: dict[str, Any]) -> dict[str, Any] | None:
        """The spouse's months are the taxpayer's on the spouse's return; the amounts are the holder's."""
        months = values.pop("spouse_student_months", "")
        if self.role == "spouse":
            values = values | {"student_months": months}
        if self.division.holder != self.role:
            values = {name: values[name] for name in ("student_months", "lived_apart") if values.get(name)}
        return values or None
