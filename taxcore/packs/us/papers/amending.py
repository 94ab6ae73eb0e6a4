"""What a correction says of itself: why, and what was paid and refunded of the return that it corrects. IRC 6402, 6511."""

from taxcore.engine import Amount, Choice, Day, Flag, Prose, Row, Rows
from taxcore.packs.us.base import STATES, FederalPaper

_WITH = {"US": "Federal", **STATES}


class SettledRow(Row):
    """What one authority has got and given since the return was filed, penalties and interest left out."""

    authority = Choice(None, "Authority", _WITH, needed="The amounts belong to one return.")
    paid = Amount(None, "Paid with original")
    paid_later = Amount(None, "Paid since")
    last_paid = Day(None, "Last paid on")
    overpaid = Amount(None, "Overpayment, if adjusted")
    anyway = Flag(None, "Send unchanged")


class Amendment(FederalPaper):
    """Why a return is corrected, and what was settled before. It stands on no other return."""

    kind, name, official, group = "amendment", "Correction", "1040-X", "correction"
    single, owned, corrects = True, False, True

    explanation = Prose(
        None, "Explanation of changes", wide=True, longest=1000, needed="It goes to every authority with the corrected return.",
        help="What changes, on which line, and why.",
    )  # fmt: skip
    settled = Rows(None, "Paid and refunded before", SettledRow)
    applied_to_next_year = Amount("23", "Overpayment applied to next year", begins="Refund of this correction")
