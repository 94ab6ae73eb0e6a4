"""Where people lived: which state, from when to when, each person apart."""

from taxcore.engine import Choice, Day, Row, Rows
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
