"""What is to be paid for next year: the four installments of Form 1040-ES."""

from __future__ import annotations

from datetime import date
from typing import Any

from taxcore.engine.pack import PaymentToCome

# Month and day of the four, the last one in the year after. IRC 6654(c)(2)
_DAYS = ((4, 15, 0), (6, 15, 0), (9, 15, 0), (1, 15, 1))
_VOUCHERS = ("first", "second", "third", "fourth")


def to_come(run: Any) -> tuple[PaymentToCome, ...]:
    """Those vouchers of 1040-ES that ask for something, where vouchers are prepared; weekends and holidays move the day on
    (IRC 7503)."""
    form, authority = run.form("us.1040-es"), run.pack.authority("us")
    if not form.required():
        return ()
    home, next_year = run.pack.home(run), run.year + 1
    return tuple(
        PaymentToCome(
            "us", f"Estimated tax {next_year}, {name} installment",
            authority.working_day(date(next_year + later, month, day), home), getattr(form, name), authority.how_to_pay,
        )
        for name, (month, day, later) in zip(_VOUCHERS, _DAYS, strict=True)
        if getattr(form, name) > 0
    )  # fmt: skip
