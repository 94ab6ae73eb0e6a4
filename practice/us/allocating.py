"""An amount shared out over states: rows entered by days lived in each, or by percent; as one act, undone as one."""

import re
import uuid
from decimal import Decimal

from django.db import transaction

from practice.returns.changing import changed, forget, open_for_change
from practice.returns.computing import pack_of, result_of
from practice.returns.entry import Saved, keyed_paper, last_row_id, place_at, put_value
from practice.returns.models import FieldChange
from taxcore.engine import BadValue
from taxcore.packs.us import places
from taxcore.packs.us.base import STATES
from taxcore.packs.us.papers import PAPERS

# Papers whose state rows hold income, and the name of it there
KINDS = {paper.kind: paper.placed.rows for paper in PAPERS if getattr(paper, "placed", None) and paper.placed.rows}
_PART = re.compile(r"\s*([A-Za-z]{2})\s*[:=]?\s*(\d{1,3}(?:\.\d{1,4})?)\s*%?\s*")


@transaction.atomic
def share_out(actor, return_id, paper_id, way, percent=""):
    """`way` is days or percent ("IL 60, IN 40"). BadValue says what cannot be shared. What was withheld stays where it is."""
    return_ = open_for_change(actor, return_id)
    paper = keyed_paper(return_, paper_id)
    if paper.kind not in KINDS:
        raise BadValue("The amounts of this paper are not allocated to states.", paper.kind)
    before = result_of(return_)
    node = next(one for one in before.run.papers(paper.kind) if one.key == paper.key)
    parts = _by_days(before.run, node) if way == "days" else _by_percent(percent)
    amounts = _amounts(getattr(node, node.placed.amount), parts)
    _key(actor, return_, paper, amounts)
    forget(return_, "papers")
    after = changed(actor, return_, before)
    said = ", ".join(f"{state} {amount:,}" for state, amount in amounts.items())
    return Saved(return_, paper, before, after, f"{node.title} allocated: {said}", "states")


def _by_days(run, node):
    role = node.owner if node.owned and node.owner in ("taxpayer", "spouse") else "taxpayer"
    days = {state: number for state, number in places.days_in(run, role).items() if state in STATES}
    if not days:
        raise BadValue("Enter first where the owner lived.", role)
    whole = sum(places.days_in(run, role).values())
    return {state: Decimal(number) / whole for state, number in days.items()}


def _by_percent(text):
    parts = {}
    for piece in filter(str.strip, re.split(r"[,;\n]", text)):
        found = _PART.fullmatch(piece)
        state = found[1].upper() if found else ""
        if state not in STATES:
            raise BadValue(f"“{piece.strip()}” is not a state with a percentage. Enter them as IL 60, IN 40.", text)
        parts[state] = parts.get(state, Decimal(0)) + Decimal(found[2]) / 100
    if not parts:
        raise BadValue("Enter states with percentages, such as IL 60, IN 40.", text)
    return parts


def _amounts(whole, parts):
    """Cents by state; where the parts make the whole, the last takes what rounding leaves."""
    amounts = {state: (whole * part).quantize(Decimal("0.01")) for state, part in parts.items()}
    if sum(parts.values()) == 1:
        last = list(amounts)[-1]
        amounts[last] = whole - sum(amount for state, amount in amounts.items() if state != last)
    return amounts


def _key(actor, return_, paper, amounts):
    """Rows of states that are there take their new amount, others are added; those without a part fall to nothing."""
    name, batch = KINDS[paper.kind], uuid.uuid4().hex
    pack, note = pack_of(return_), {"firm": return_.firm, "of": return_, "paper": paper, "by": actor, "batch": batch}
    known = {row.get("state"): row["id"] for row in paper.values.get("states", [])}
    for state, row_id in known.items():
        place, value = place_at(pack, paper, f"states.{row_id}.{name}"), str(amounts.get(state, Decimal("0.00")))
        if place.stored != value:
            FieldChange.objects.create(path=place.path, before=place.stored, after=value, **note)
            put_value(paper, place, value, actor, "")
    added = [state for state in amounts if state not in known]
    first = last_row_id(paper, "states") + 1
    for row_id, state in enumerate(added, first):
        paper.values.setdefault("states", []).append({"id": str(row_id)})
        for inner, value in (("state", state), (name, str(amounts[state]))):
            put_value(paper, place_at(pack, paper, f"states.{row_id}.{inner}"), value, actor, "")
    if added:  # rows that came together go together
        keys = ",".join(str(row_id) for row_id, _ in enumerate(added, first))
        FieldChange.objects.create(path="states", after=keys, how="imported", **note)
    paper.save()
