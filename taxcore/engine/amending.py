"""A return that corrects one which was filed: what each authority has accepted, and what is otherwise now.

The figures as filed are plain values of the return (`Amends`); nothing computes them again. An authority whose figures do not
move is not written to. Where something is filed with an authority for the first time it is an original return there.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import TYPE_CHECKING, Any

from taxcore.engine.explain import explained, nothing_because
from taxcore.engine.fields import Amount, Choice, Field, Rows
from taxcore.engine.figures import ZERO, Explained, Operand

if TYPE_CHECKING:
    from taxcore.engine.cells import Cell
    from taxcore.engine.pack import Authority
    from taxcore.engine.run import Run
    from taxcore.engine.values import AsFiled


def filed_with(run: Run, jurisdiction: str) -> AsFiled | None:
    """What the authority of a jurisdiction has; None where it has nothing, or the return corrects none."""
    if run.amends is None:
        return None
    codes = (one.code for one in run.pack.authorities if one.form.jurisdiction == jurisdiction)
    return next((run.amends.filed[code] for code in codes if code in run.amends.filed), None)


def as_filed(form: Any, name: str) -> Explained:
    """A line of a form as its authority has it. Nothing where the line was not on what was filed."""
    filed = filed_with(form.run, form.jurisdiction)
    if filed is None or (amount := filed.lines.get(form.address(name))) is None:
        return nothing_because(f"{form.number}, line {_number(form, name)}, was not on what was filed")
    month, day, year = f"{filed.day:%B}", filed.day.day, filed.day.year
    on = f"{day} {month} {year}" if form.run.pack.day_first else f"{month} {day}, {year}"
    where = f"{form.number}, line {_number(form, name)}, accepted {on}"
    return explained("as filed", amount, (Operand(amount, where),), _same)


def _number(form: Any, name: str) -> str:
    return form.specs[name].number_in(form.year) or name


def _same(amount: Decimal) -> Decimal:
    return amount


def differing(run: Run, authority: Authority) -> Iterator[tuple[Cell, Decimal]]:
    """(line, as filed) of every amount of the authority's return that is otherwise now."""
    filed = filed_with(run, authority.form.jurisdiction)
    if filed is None:
        return
    form = run.form(authority.form.code())
    for cell in form.lines():
        if cell.is_amount and cell.value != (then := filed.lines.get(cell.address, ZERO)):
            yield cell, then


@dataclass(frozen=True, slots=True)
class Reworded:
    """One entry that is otherwise than it was filed. `label` is empty where a whole paper came or went."""

    paper: str
    label: str
    before: str
    after: str


def as_entered(run: Run, kind: str, key: str) -> Mapping[str, Any] | None:
    """A paper's values as they were filed; None where it was not among them."""
    papers = run.amends.papers if run.amends is not None else ()
    return next((one.values for one in papers if one.kind == kind and one.id == key), None)


def reworded(run: Run) -> Iterator[Reworded]:
    """What is entered otherwise than it was filed, paper by paper, in the words of the papers. Secrets show their endings."""
    if run.amends is None:
        return
    then = {(one.kind, one.id): one.values for one in run.amends.papers}
    now = {(one.kind, one.id): one.values for one in run.everything.papers}
    for key in dict.fromkeys((*now, *then)):
        declared = run.pack.paper(key[0])
        if declared is None or declared.corrects:
            continue
        title = str((now.get(key) or then.get(key) or {}).get(declared.heading) or declared.name)
        if key in now and key in then:
            yield from _fields(title, declared.fields(), then[key], now[key])
        else:
            yield Reworded(title, "", "" if key in now else declared.name, declared.name if key in now else "")


def _fields(title: str, fields: Mapping[str, Field], then: Any, now: Any, within: str = "") -> Iterator[Reworded]:
    for name, field in fields.items():
        before, after = then.get(name) or "", now.get(name) or ""
        if before == after:
            continue
        if isinstance(field, Rows):
            yield from _rows(title, field, before or [], after or [])
        else:
            yield Reworded(title, f"{within}{field.label}", read_as(field, before), read_as(field, after))


def _rows(title: str, field: Rows, then: Any, now: Any) -> Iterator[Reworded]:
    old, new = ({row.get("id", ""): row for row in rows} for rows in (then, now))
    for key in dict.fromkeys((*old, *new)):
        yield from _fields(title, field.row.fields(), old.get(key, {}), new.get(key, {}), f"{field.label}: ")


def read_as(field: Field, raw: Any) -> str:
    """A value of the open format as somebody reads it; of a secret its ending."""
    if not raw:
        return ""
    text = str(raw)
    if field.secret:
        return f"ending {text[-4:]}"
    if isinstance(field, Amount) and field.fits(raw):
        return f"{field.parse(raw):,.2f}"
    return field.options.get(text, text) if isinstance(field, Choice) else text


def corrects(run: Run, authority: Authority) -> bool:
    """Whether this is, for that authority, a correction of what it has: not an original, nor one in its stead before the due
    date."""
    return run.amends is not None and not run.amends.superseding and authority.code in run.amends.filed


def goes_out(run: Run, authority: Authority) -> bool:
    """Whether a return is sent to this authority: of a correction, only where a figure moved or somebody wants it sent."""
    if not authority.files(run):
        return False
    if run.amends is None or authority.code not in run.amends.filed:
        return True
    anyway = run.pack.correcting is not None and run.pack.correcting.sent_anyway(run, authority)
    return anyway or any(differing(run, authority))
