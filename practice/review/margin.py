"""Initials and margin notes on figures."""

from decimal import Decimal

from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Staff
from practice.firm.permissions import fetch, may, require
from practice.firm.texts import written
from practice.returns.computing import result_of
from practice.returns.lineage import leaves_of
from practice.returns.models import Return
from practice.returns.ripple_bases import last_years_figures, note_sight
from practice.review.models import MarginNote
from taxcore.engine import BadValue, line_name


@transaction.atomic
def set_initials(actor, return_id, address):
    """The actor's initials on a figure as it stands; setting them again renews them. BadValue where there is no figure."""
    return_, cell, result = _figure(actor, return_id, address, "review")
    row, _ = return_.initials.update_or_create(
        address=address, by=actor,
        defaults={"firm": return_.firm, "value": str(cell.value), "sources": _sources(cell)},
    )  # fmt: skip
    note_sight(actor, return_, result, "initials")
    record(actor, "initials", return_, says=f"{_named(cell)}: {_shown(cell.value)}", address=address)
    return row


@transaction.atomic
def take_initials_back(actor, return_id, address):
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    require(actor, "review", return_)
    if return_.initials.filter(address=address, by=actor).delete()[0]:
        record(actor, "initials removed", return_, says=address, address=address)


def _named(cell):
    return f"{cell.node.title} {cell.number}".strip()


def _shown(value):
    return f"{value:,}" if isinstance(value, Decimal | int) else value


def _sources(cell):
    return {leaf.address: str(leaf.value) for leaf in leaves_of(cell)}


def lapsed(row, result):
    """Why a reviewer's initials no longer hold: what moved since, in words; empty while they do."""
    cell = result.get(row.address)
    if cell is None:
        return "the line no longer exists"
    if str(cell.value) != row.value:
        return f"was {row.value}, is {cell.value}"
    now = _sources(cell)
    moved = [at for at in {**row.sources, **now} if row.sources.get(at) != now.get(at)]
    return f"a paper moved: {moved[0]}" if moved else ""


def initials_on(return_, result):
    """{address: [(row, why it lapsed)]} of every initialed figure."""
    found = {}
    for row in return_.initials.select_related("by"):
        found.setdefault(row.address, []).append((row, lapsed(row, result)))
    return found


@transaction.atomic
def add_note(actor, return_id, address, text, asked=None):
    """A margin note; with a colleague's id in `asked` an open point. BadValue without text or for a stranger."""
    return_, _, _ = _figure(actor, return_id, address, "note")
    text = written(text, "The note", 1000, needed="Enter a note.")
    colleague = Staff.objects.filter(firm=actor.firm, is_active=True, pk=asked).first() if asked else None
    if asked and colleague is None:
        raise BadValue("Choose a colleague of your practice.", asked)
    note = MarginNote.objects.create(firm=return_.firm, of=return_, address=address, text=text, by=actor, asked=colleague)
    record(actor, "open point" if colleague else "margin note", return_, says=text[:100], address=address)
    return note


@transaction.atomic
def close_note(actor, return_id, note_id, answer):
    """Answer an open point and close it. BadValue without an answer."""
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    require(actor, "note", return_)
    note = return_.notes.filter(pk=note_id, closed_at=None).first()
    if note is None:
        raise BadValue("This point is closed already.", note_id)
    answer = written(answer, "The answer", 1000, needed="Enter the answer first.")
    note.answer, note.closed_at, note.closed_by = answer, timezone.now(), actor
    note.save()
    record(actor, "open point closed", return_, says=answer[:100], address=note.address)
    return note


def _figure(actor, return_id, address, action):
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, action, return_)
    result = result_of(return_)
    cell = result.get(address)
    if cell is None:
        raise BadValue("There is no such amount on this return.", address)
    return return_, cell, result


def about_figure(actor, return_, result, address):
    """What people said about a figure: initials, notes, last year's amount; and what the actor may do there."""
    cell = result.get(address)
    if cell is None:
        return {}
    return {
        "initials": [(row, lapsed(row, result)) for row in return_.initials.filter(address=address).select_related("by")],
        "notes": return_.notes.filter(address=address).select_related("by", "asked", "closed_by"),
        "colleagues": Staff.objects.filter(firm=actor.firm, is_active=True).exclude(pk=actor.pk).order_by("name"),
        "may_review": may(actor, "review"),
        "last_year": last_years_figures(return_).get(line_name(cell)) if cell.is_amount else None,
    }
