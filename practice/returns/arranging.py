"""Papers as things: copied, repeated for the same sender, put in another order; and what a list of them must add up to."""

import uuid
from decimal import Decimal

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.returns import known_payers
from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import Place, Saved, keyed_paper, new_key, next_position, note_change, note_paper, put_value
from practice.returns.models import ControlTotal, Paper, Return
from taxcore.engine import Amount, BadValue


@transaction.atomic
def copy_paper(actor, return_id, paper_id, everything=True):
    """Another paper like this one, right after it; or only its sender and owner. Returns (return, paper).

    BadValue for papers that exist once. Secret values are not copied: each paper brings its own.
    """
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    declared = pack_of(return_).paper(paper.kind)
    if declared.single or declared is pack_of(return_).people:
        raise BadValue(f"{declared.name} can be on a return only once.", paper.kind)
    before = result_of(return_)
    wanted = set(declared.fields()) if everything else {"owner", *declared.party.values()}
    values = {name: value for name, value in paper.values.items() if name in wanted and not declared.fields()[name].secret}
    if not everything:
        values |= {name: _without_amounts(declared.fields()[name].row, paper.values.get(name, [])) for name in declared.repeats}
    made = Paper.objects.create(
        firm=return_.firm, of=return_, kind=paper.kind, key=new_key(return_, declared), position=next_position(return_),
        values=values, provenance={name: {"how": "copied", "by": actor.initials} for name in values if name != "owner"},
    )  # fmt: skip
    note_paper(actor, return_, made, "added")
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "paper copied", return_, says=declared.name, paper=made.pk)
    return return_, made


def _without_amounts(row, rows):
    fields = row.fields()
    return [{name: text for name, text in one.items() if name == "id" or not isinstance(fields[name], Amount)} for one in rows]


@transaction.atomic
def take_party(actor, return_id, paper_id):
    """Fill the empty fields of a paper from what is remembered under its number. BadValue when nothing is."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    declared = pack_of(return_).paper(paper.kind)
    party = known_payers.offer(return_.firm, declared, paper)
    if party is None:
        raise BadValue("Nothing more is known under this number.", "")
    before, batch = result_of(return_), uuid.uuid4().hex  # one act, taken back as one
    for part in known_payers.missing(declared, paper):
        if value := getattr(party, part):
            field = declared.party[part]
            place = Place(declared.fields()[field], field, paper.values, field)
            note_change(actor, return_, paper, place, value, "known to the practice", batch)
            put_value(paper, place, value, actor, "")
    paper.save()
    after = changed(actor, return_, before)
    return Saved(return_, paper, before, after, f"{party.name}: name and address filled in")


@transaction.atomic
def reorder(actor, return_id, paper_id, by):
    """Move a paper up (-1) or down (1) among those of its group. Order moves no figure, so no new version is made."""
    require(actor, "key")
    return_ = fetch(Return.objects.select_for_update(of=("self",)), actor, pk=return_id)
    pack = pack_of(return_)
    paper = keyed_paper(return_, paper_id)
    group = pack.paper(paper.kind).group
    listed = [one for one in return_.papers.filter(removed_at=None) if pack.paper(one.kind).group == group]
    here = next(place for place, one in enumerate(listed) if one.pk == paper.pk)
    there = here + by
    if not 0 <= there < len(listed):
        return return_, paper
    listed.insert(there, listed.pop(here))
    places = sorted(one.position for one in listed)
    for place, one in zip(range(places[0], places[0] + len(listed)), listed, strict=True):
        one.position = place
    Paper.objects.for_firm(actor.firm).bulk_update(listed, ["position"])
    return return_, paper


@transaction.atomic
def set_control(actor, return_id, kind, count, amount):
    """What the client's list says: so many papers of a kind, this much together. None for both takes it away."""
    require(actor, "key")
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    declared = pack_of(return_).paper(kind)
    if declared is None:
        raise BadValue("There is no such paper.", kind)
    if count is None and amount is None:
        return_.controls.filter(kind=kind).delete()
        return None
    row, _ = ControlTotal.objects.for_firm(actor.firm).update_or_create(
        of=return_, kind=kind, defaults={"firm": actor.firm, "count": count, "amount": amount, "by": actor}
    )
    record(
        actor,
        "control total",
        return_,
        says=f"{declared.name}: {count if count is not None else '–'}, {f'{amount:,}' if amount else '–'}",
    )
    return row


def control_state(row, declared, nodes):
    """Plain values for the index: how much is there of what must be there, and whether that is met."""
    amounts = [node.cell(declared.main).value for node in nodes] if declared.main else []
    there = sum(amounts, Decimal(0))
    met = (row.count is None or row.count == len(nodes)) and (row.amount is None or row.amount == there)
    return {
        "name": declared.short or declared.name, "kind": row.kind, "count": row.count, "amount": row.amount,
        "counted": len(nodes), "there": there, "met": met, "left": row.amount - there if row.amount is not None else None,
    }  # fmt: skip
