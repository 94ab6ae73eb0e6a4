"""Amended company returns: within twelve months of the day by which the return was due. FA 1998 Sch. 18 para. 15."""

from taxcore.engine import PaperValues
from taxcore.engine.pack import Correcting
from taxcore.packs.uk.company.base import months_after


def begins(run):
    """The explanation, empty."""
    return (PaperValues("amendment", "amendment", {}),)


CORRECTING = Correcting(
    begins=begins,
    claimable_until=lambda run, authority: months_after(run.period.end, 24),
    sent_anyway=lambda run, authority: bool(run.single("amendment").anyway),
    explanation=lambda run: str(run.single("amendment").explanation),
)
