"""Where people lived, which states' returns are made or left out against the facts, and which states are asked for more time."""

from taxcore.engine import Amount, Choice, Day, Flag, Row, Rows, Text
from taxcore.packs.us.base import STATES, FederalPaper

WHERE = STATES | {"abroad": "Outside the United States"}


class StayRow(Row):
    """One person in one state. Without dates it is the whole year."""

    person = Choice(None, "Person", {"taxpayer": "Taxpayer", "spouse": "Spouse", "both": "Both"}, needed="Choose the person.")
    state = Choice(None, "State", WHERE, needed="Choose the state.")
    first = Day(None, "From", help="If empty, January 1.")
    last = Day(None, "To", help="If empty, December 31.")


class Residency(FederalPaper):
    """Only where someone moved, or the spouses lived in different states; else the state of the whole year says it all."""

    kind, name, official, group = "residency", "Residency", "", "places"
    single, owned = True, False

    rows = Rows(None, "Residency periods", StayRow)


class StateReturnRow(Row):
    state = Choice(None, "State", STATES, needed="Choose the state.")
    what = Choice(None, "Choice", {"make": "Prepare", "leave-out": "Do not prepare"}, needed="Choose whether it is prepared.")
    reason = Text(None, "Reason", longest=120, needed="Enter the reason for the file.")


class StateReturns(FederalPaper):
    """States' returns that a preparer decides on: one that nothing calls for, or one that the facts call for and is not made."""

    kind, name, official, group = "state-returns", "State returns, manual choice", "", "places"
    single, owned = True, False

    rows = Rows(None, "Choices", StateReturnRow)


class StateExtensionRow(Row):
    state = Choice(None, "State", STATES, needed="Choose the state.")
    expected_tax = Amount(None, "Estimate of total tax", help="If empty, as computed where that return is prepared here.")
    paying = Amount(None, "Amount paid with it", help="It counts on the state return once paid.")
    paid = Flag(None, "Payment made")


class StateExtensions(FederalPaper):
    """States that are asked for more time, whether their return is made here already or not."""

    kind, name, official, group = "state-extensions", "State extensions", "", "payments"
    single, owned = True, False

    rows = Rows(None, "States", StateExtensionRow)
