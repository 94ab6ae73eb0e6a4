"""What is to be paid for the next year: two payments on account. TMA 1970 s. 59A(2)."""

from datetime import date

from taxcore.engine.pack import PaymentToCome
from taxcore.packs.uk.base import shown_year

_DAYS = (("first", 1, 31), ("second", 7, 31))


def to_come(run):
    """On 31 January, with what the year still owes, and on 31 July. Neither day moves."""
    amount, authority = run.form("uk.sa110").on_account, run.pack.authority("uk")
    if not amount:
        return ()
    return tuple(
        PaymentToCome(
            "uk", f"{word.capitalize()} payment on account for {shown_year(run.year + 1)}", date(run.year + 2, month, day),
            amount, authority.how_to_pay,
        )
        for word, month, day in _DAYS
    )  # fmt: skip
