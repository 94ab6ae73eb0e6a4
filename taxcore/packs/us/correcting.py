"""How long a refund can be claimed with a correction, and on which paper: amending.toml, here and in each state's folder.

`form` is what the authority's own papers call it. The period is `years` after the day on which the return was filed (`from` =
"filed"; one filed early counts as filed on its due date) or was due ("due"); or `years_after_payment` after the last payment,
where that is later. Nothing here stops an amount that is owed.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from functools import cache
from pathlib import Path
from typing import Any

from taxcore.engine import PaperValues
from taxcore.engine.pack import Correcting
from taxcore.packs.us.couples import state_folder

_RULE = "amending.toml"


@cache
def rule(code: str) -> dict[str, Any]:
    """An authority's rule, by its code."""
    state = code.partition("-")[2].upper()
    folder = state_folder(state) if state else Path(__file__).parent
    return tomllib.loads((folder / _RULE).read_text())


def last_day(run: Any, authority: Any) -> date:
    """Until when a refund can be claimed from an authority to which the return was filed. KeyError for any other."""
    return ends(rule(authority.code), run, authority, paid_on(run, authority))


def ends(said: dict[str, Any], run: Any, authority: Any, paid: date | None) -> date:
    """The last day by a rule; `paid` is the day of the last payment."""
    filed, due = run.amends.filed[authority.code].day, authority.due_on(run.year, run.pack.home(run))
    last = _later(max(filed, due) if said["from"] == "filed" else due, said["years"])
    if paid is not None and said["years_after_payment"]:
        last = max(last, _later(paid, said["years_after_payment"]))
    return authority.working_day(last, run.pack.home(run))


def paid_on(run: Any, authority: Any) -> date | None:
    """The day of the last payment, as entered."""
    row = settled_with(run, authority)
    return row.last_paid if row is not None else None


def settled_with(run: Any, authority: Any) -> Any:
    """The row of what an authority got and gave; None without one."""
    state = authority.code.partition("-")[2].upper() or "US"
    return next((row for row in run.single("amendment").settled if row.authority == state), None)


def sent_anyway(run: Any, authority: Any) -> bool:
    """Whether somebody wants the correction sent though no figure moved: a number or a name was corrected."""
    row = settled_with(run, authority)
    return row is not None and bool(row.anyway)


def _later(day: date, years: int) -> date:
    try:
        return day.replace(year=day.year + years)
    except ValueError:  # February 29
        return date(day.year + years, 2, 28)


def begins(run: Any) -> tuple[PaperValues, ...]:
    """The explanation, empty, and what was owed with what is corrected, taken as paid until somebody says otherwise."""
    rows = [
        {"id": str(place), "authority": code.partition("-")[2].upper() or "US", "paid": f"{owed:f}"}
        for place, (code, owed) in enumerate(_owed(run), start=1)
    ]
    return (PaperValues("amendment", "amendment", {"settled": rows} if rows else {}, carried=("settled",) if rows else ()),)


def _owed(run: Any) -> Iterator[tuple[str, Decimal]]:
    """(authority, what it was owed without a penalty) of each that was owed something."""
    for code in run.amends.filed:
        authority = run.pack.authority(code)
        form = run.form(authority.form.code())
        penalty = form.as_filed("penalty") if code == "us" else Decimal(0)  # Form 1040-X counts the tax alone
        owed = Decimal(form.as_filed(authority.owed)) - Decimal(penalty)
        if owed > 0:
            yield code, owed


def explanation(run: Any) -> str:
    return str(run.single("amendment").explanation)


CORRECTING = Correcting(begins, last_day, sent_anyway, explanation)
