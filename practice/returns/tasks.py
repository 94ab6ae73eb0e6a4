"""Background work on many returns at once."""

from practice.firm.jobs import job
from practice.returns import rounds


def _lost_rounds(before):
    return [{"round_id": pk} for pk in rounds.stopped(before)]


def _failed_round(says, round_id):
    rounds.give_up(round_id, says)


@job("round", lost=_lost_rounds, failed=_failed_round)
def go_round(round_id):
    """One act on many returns."""
    rounds.go_on(round_id)
