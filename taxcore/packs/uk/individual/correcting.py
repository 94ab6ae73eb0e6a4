"""Amended returns: within twelve months of the day by which the return was due. TMA 1970 s. 9ZA(2)."""

from datetime import date

from taxcore.engine import PaperValues
from taxcore.engine.pack import Correcting


def begins(run):
    """The explanation, empty."""
    return (PaperValues("amendment", "amendment", {}),)


def last_day(run, authority):
    """For 2025-26, due on 31 January 2027, it is 31 January 2028; later only overpayment relief is left (TMA 1970 Sch. 1AB)."""
    return date(run.year + 3, 1, 31)


CORRECTING = Correcting(
    begins=begins,
    claimable_until=last_day,
    sent_anyway=lambda run, authority: bool(run.single("amendment").anyway),
    explanation=lambda run: str(run.single("amendment").explanation),
)
