"""What a preparer decides about states: a return left out or made against the facts, and somebody's move entered as one act."""

import uuid
from datetime import timedelta

from django.db import transaction

from practice.firm import dates
from practice.firm.events import record
from practice.firm.typed_values import read_typed
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import result_of
from practice.returns.entry import Saved
from practice.returns.paper_rows import add_rows, paper_of, put, row_where, take_row
from taxcore.engine import BadValue, Day
from taxcore.packs.us import places
from taxcore.packs.us.base import STATES, UNTAXED
from taxcore.packs.us.papers.places import WHERE

MAKE, LEAVE_OUT = "make", "leave-out"
_DAY = Day(None, "Date of the move")


def state_named(text, known=STATES):
    """A state as it is typed, by its name or its two letters. BadValue if there is none."""
    typed = text.strip()
    found = next((code for code, name in known.items() if typed.upper() == code.upper() or typed.lower() == name.lower()), None)
    if found is None:
        raise BadValue(f"“{typed}” is not a state. Enter its name or two letters.", typed)
    return found


@transaction.atomic
def decide(actor, return_id, state, what, reason):
    """Leave a state's return out, or make one that nothing calls for; `what` empty takes the decision back. BadValue without a
    reason, since whoever reads the return next year must know it."""
    return_ = open_for_change(actor, return_id)
    if what and not reason.strip():
        raise BadValue("Enter the reason for the file.", reason)
    if what == MAKE and state in UNTAXED:
        raise BadValue(f"{STATES[state]} has no income tax, so there is no return to prepare.", state)
    if what != LEAVE_OUT and return_.apart.for_firm(return_.firm_id).filter(apart_state=state, given_up_at=None).exists():
        raise BadValue(f"Separate state returns are open for {STATES[state]}. File jointly again instead.", state)
    before, batch = result_of(return_), uuid.uuid4().hex
    paper = paper_of(actor, return_, "state-returns", batch)
    row = row_where(paper, state=state)
    if row is not None:
        take_row(actor, return_, paper, row, batch)
    if what:
        add_rows(actor, return_, paper, [{"state": state, "what": what, "reason": reason.strip()}], batch)
    forget(return_, "papers")
    after = changed(actor, return_, before)
    says = {MAKE: "is prepared by choice", LEAVE_OUT: "is not prepared"}.get(what, "follows the facts again")
    record(actor, "state return decided", return_, says=f"{STATES[state]} {says}: {reason.strip()}".removesuffix(": "))
    return Saved(return_, paper, before, after, f"{STATES[state]}'s return {says}")


@transaction.atomic
def move(actor, return_id, who, state, day):
    """Somebody (`taxpayer`, `spouse`, `both`) lived in another state from a day on. Everything entered stays; the stays replace
    the
    state of the whole year. BadValue where the day or the state cannot be."""
    return_ = open_for_change(actor, return_id)
    before, batch = result_of(return_), uuid.uuid4().hex
    text, _ = read_typed(_DAY, day)
    if not text:
        raise BadValue("Enter the first day in the new state.", day)
    first = _DAY.parse(text)
    if first.year != return_.year or (first.month, first.day) == (1, 1):
        raise BadValue(f"The date must be within {return_.year}, after January 1.", day)
    rows = _rows_after(before.run, who, state, first)
    paper = paper_of(actor, return_, "residency", batch)
    for row in list(paper.values.get("rows", [])):
        take_row(actor, return_, paper, row, batch)
    add_rows(actor, return_, paper, rows, batch)
    put(actor, return_, return_.papers.get(kind="filing"), "residence", "", batch)
    forget(return_, "papers")
    after = changed(actor, return_, before)
    record(actor, "move entered", return_, says=f"{who} to {WHERE[state]} from {dates.long(first)}")
    return Saved(return_, paper, before, after, f"Moved to {WHERE[state]} on {dates.long_day(first)}")


def _rows_after(run, who, state, first):
    """The stays as they were, cut on the day before the move, with the new one after it."""
    roles = [person.role for person in run.form("us.1040").filers]
    moving = roles if who == "both" else [who]
    if not set(moving) <= set(roles):
        raise BadValue("There is no spouse on this return.", who)
    rows = []
    for role in roles:
        stays = [stay for stay in places.stays(run) if stay.role == role]
        if not stays:
            raise BadValue("Enter first where they lived before.", who)
        if role not in moving:
            rows += [_row(role, stay.state, stay.first, stay.last, run.year) for stay in stays]
            continue
        earlier = [stay for stay in stays if stay.first < first]
        if not earlier or earlier[-1].state == state:
            raise BadValue(
                f"{WHERE[state]} was already the residence on that date."
                if earlier
                else "There is no residence before that date.",
                state,
            )
        rows += [_row(role, s.state, s.first, min(s.last, first - timedelta(days=1)), run.year) for s in earlier]
        rows.append(_row(role, state, first, None, run.year))
    return rows


def _row(role, state, first, last, year):
    """Open-format values; days at the ends of the year stay empty."""
    row = {"person": role, "state": state}
    if (first.month, first.day) != (1, 1) or first.year != year:
        row["first"] = first.isoformat()
    if last is not None and (last.month, last.day) != (12, 31):
        row["last"] = last.isoformat()
    return row
