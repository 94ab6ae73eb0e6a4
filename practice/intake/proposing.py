"""What a page says of the paper that it lies beside: proposed, and taken over by somebody, never by itself."""

import re
import uuid
from dataclasses import dataclass
from decimal import Decimal

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import fetch
from practice.firm.refusals import Cannot
from practice.intake import drawing
from practice.intake.models import Attachment
from practice.returns.changing import changed, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import keyed_paper, place_at
from practice.returns.placing import by_hand, put
from taxcore.engine.reading import found_in


@dataclass(frozen=True)
class Proposal:
    """One field: what the page says, what the field has, and whether a machine read it from a picture."""

    name: str
    number: str
    label: str
    value: str
    now: str
    line: str
    seen: bool

    @property
    def shown(self):
        amount = re.fullmatch(r"\d+\.\d\d", self.value)
        return f"{Decimal(self.value):,.2f}" if amount else self.value


def proposals(return_, paper, rows):
    """[(attachment, its proposals)] of the pages beside a paper, those left out whose value the field has already."""
    found = []
    for row in rows:
        if row.state == Attachment.State.READY and row.paper_id == paper.pk and (ours := _of(return_, paper, row)):
            found.append((row, ours))
    return found


def _of(return_, paper, row):
    words, seen = drawing.lines_of(row)
    if not words.strip():
        return []
    pack = pack_of(return_)
    declared = pack.paper(paper.kind)
    made = []
    for one in found_in(words, declared, return_.year):
        field, now = declared.fields()[one.name], place_at(pack, paper, one.name).plain
        if now != one.value:
            made.append(
                Proposal(one.name, field.number_in(return_.year) or "", field.label, one.value, now, one.line[:120], seen)
            )
    return made


@transaction.atomic
def take_over(actor, return_id, token, names):
    """What a page says of these fields into its paper, as one act. What it says is looked up again, never sent by a browser.
    Cannot where it does not say that any more. Gives the paper and how many were taken."""
    return_ = open_for_change(actor, return_id)
    row = fetch(return_.attachments.filter(removed_at=None), actor, token=token)
    if row.paper_id is None:
        raise Cannot("This page lies with no paper yet.")
    paper = keyed_paper(return_, row.paper_id)
    wanted = [one for one in _of(return_, paper, row) if one.name in names]
    if not wanted:
        raise Cannot("The page says nothing of that, or it was taken over already.")
    before, batch = result_of(return_), uuid.uuid4().hex
    mark = by_hand(actor, "imported") | {"from": row.name}
    for one in wanted:
        put(actor, return_, paper, one.name, one.value, f"read from {row.name}: {one.line}", batch, mark)
    changed(actor, return_, before)
    record(actor, "read from a page", return_, says=f"{row.name}: {', '.join(one.label for one in wanted)}", paper=paper.pk)
    return paper, len(wanted)
