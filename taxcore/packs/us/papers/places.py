"""Where people lived, which states' returns are made or left out against the facts, and which states are asked for more time."""

from taxcore.engine import Amount, Choice, Day, Flag, Row, Rows, Text
from taxcore.packs.us.base import STATES, FederalPaper

WHERE = STATES | {"abroad": "Outside the United States"}


class StayRow(Row):
    """One person in one state. Without dates it is the whole year."""

    person = Choice(None, "Who", {"taxpayer": "Taxpayer", "spouse": "Spouse", "both": "Both"}, needed="Say who lived there.")
    state = Choice(None, "State", WHERE, needed="Say where.")
    first = Day(None, "From", help="Empty: 1 January.")
    last = Day(None, "To", help="Empty: 31 December.")


class Residency(FederalPaper):
    """Only where somebody moved, or the spouses lived in different states; else the state of the whole year says it all."""

    kind, name, official, group = "residency", "Where people lived", "", "places"
    single, owned = True, False

    rows = Rows(None, "Stays", StayRow)


class StateReturnRow(Row):
    state = Choice(None, "State", STATES, needed="Say which state.")
    what = Choice(None, "What", {"make": "Make it", "leave-out": "Leave it out"}, needed="Say whether it is made or left out.")
    reason = Text(None, "Reason", longest=120, needed="Say why, for whoever reads this next year.")


class StateReturns(FederalPaper):
    """States' returns that a preparer decides on: one that nothing calls for, or one that the facts call for and is not made."""

    kind, name, official, group = "state-returns", "State returns by hand", "", "places"
    single, owned = True, False

    rows = Rows(None, "Decisions", StateReturnRow)


class StateExtensionRow(Row):
    state = Choice(None, "State", STATES, needed="Say which state.")
    expected_tax = Amount(None, "Expected tax", help="Empty: as computed, where that state's return is made here.")
    paying = Amount(None, "Paid with it", help="It counts on the state's return once it is made.")
    paid = Flag(None, "Payment made")


class StateExtensions(FederalPaper):
    """States that are asked for more time, whether their return is made here already or not."""

    kind, name, official, group = "state-extensions", "State extensions", "", "payments"
    single, owned = True, False

    rows = Rows(None, "States", StateExtensionRow)
