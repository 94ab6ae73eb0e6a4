"""Diagnostics that a reviewer has seen: put aside with a reason, back when a figure they are about changes."""

from django.db import transaction

from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.texts import written
from practice.returns.computing import result_of
from practice.returns.models import Return
from taxcore.engine import BadValue


@transaction.atomic
def mark_seen(actor, return_id, code, place, reason):
    """Put a diagnostic aside. BadValue without a reason, for one that stops filing, or that is not there (any more)."""
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "review", return_)
    result = result_of(return_)
    finding = next((one for one in result.findings if one.code == code and one.at[0] == place), None)
    if finding is None:
        raise BadValue("This diagnostic no longer applies.", code)
    if finding.weight == "stops":
        raise BadValue("What stops filing cannot be set aside; it must be fixed.", code)
    reason = written(reason, "The reason", 300, needed="Enter a reason.")
    row, _ = return_.seen.update_or_create(
        code=code, place=place, by=actor,
        defaults={"firm": return_.firm, "reason": reason, "figures": _figures(finding, result)},
    )  # fmt: skip
    record(actor, "diagnostic seen", return_, says=f"{code}: {reason[:100]}", address=place)
    return row


def _figures(finding, result):
    return {at: _as_kept(result.get(at)) for at in finding.at}


def _as_kept(cell):
    """A figure as text; of a table what was entered in it, since its rows are made anew each time."""
    if cell is None:
        return ""
    return str(cell.node.values.get(cell.spec.name)) if isinstance(cell.value, tuple) else str(cell.value)


def seen_in(return_, result):
    """{(code, place): rows that hold} of the diagnostics that the return has now."""
    rows = {}
    for row in return_.seen.select_related("by"):
        rows.setdefault((row.code, row.place), []).append(row)
    found = {}
    for finding in result.findings if rows else ():
        holding = [row for row in rows.get((finding.code, finding.at[0]), []) if row.figures == _figures(finding, result)]
        if holding:
            found[finding.code, finding.at[0]] = holding
    return found
