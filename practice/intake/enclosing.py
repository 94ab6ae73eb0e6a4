"""What goes with a filing besides its lines: PDFs and tagged pages with a kind and a name, for one authority, in the document
that is locked."""

from django.db import transaction

from practice.firm.events import record
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.intake import attaching, drawing, drawn
from practice.intake.models import Attachment
from practice.returns.changing import Settled, closed_because, lock_opens
from practice.returns.computing import pack_of
from taxcore.engine import BadValue
from taxcore.engine.filed import Enclosure

_TAGGED = "It must be a page with tags (iXBRL), which a program reads. A PDF is refused by the authority."
STATEMENT = "statement"  # the kind of what stands behind a paper's totals
LARGEST = 5_000_000  # bytes of one
LARGEST_OF_ALL = 20_000_000  # of what goes to one authority together


def going_along(return_):
    """Everything that goes with a filing."""
    rows = return_.attachments.filter(removed_at=None, paper__removed_at=None).exclude(along="")
    return rows.select_related("paper")


def enclosures(return_, authority, result):
    """What goes to one authority, as it stands in the filed document; first what follows from the figures. `along_to` is empty
    for the one that comes first. Cannot where all of it is larger than can be sent."""
    rows = [row for row in going_along(return_) if row.along_to == authority.code or (not row.along_to and not authority.after)]
    instead = {row.along for row in rows if row.kind == "xbrl"}
    made = [one for one in drawn.enclosed(return_, result, authority) if one.what not in instead]
    names = {one.name for one in made}
    for row in rows:
        behind = row.paper.key if row.along == STATEMENT and row.paper else ""
        content = attaching.content_of(row) if row.kind == "xbrl" else attaching.as_pdf(row)
        made.append(Enclosure(row.along, _own(row.along_name or row.name, names), content, behind))
    size = sum(len(one.content) for one in made)
    if size > LARGEST_OF_ALL:
        raise Cannot(
            f"What goes with the return has {size / 1e6:.1f} MB, more than {LARGEST_OF_ALL / 1e6:.0f} MB. Leave something out."
        )
    return made


def _own(name, names):
    """The name, or with a number behind it where another has it already."""
    found, number = name, 1
    while found in names:
        number += 1
        found = f"{name} ({number})"
    names.add(found)
    return found


def choose_statement(actor, return_id, token, chosen):
    """Say that a page is the statement behind its paper's totals and goes with the filing, or that it is not. BadValue where it
    cannot go, or is not read yet. What its words lack is kept with it; a scan has none."""
    row = attaching.find(actor, return_id, token)
    if chosen and (row.paper is None or not pack_of(row.of).paper(row.paper.kind).stands_for):
        raise BadValue("Only a statement attached to a paper with totals is e-filed.", "")
    if chosen:
        _check(row)
    return _choose(actor, return_id, row.pk, STATEMENT if chosen else "", "", "", _doubt(row) if chosen else "")


def choose(actor, return_id, token, what, name, to=""):
    """Have a file go along as `what` (a kind that the pack declares), under a name, to the authority `to`; an empty `what` leaves
    it out. BadValue with the reason where it cannot go."""
    row = attaching.find(actor, return_id, token)
    pack = pack_of(row.of)
    if not what:
        return _choose(actor, return_id, row.pk, "", "", "", "")
    kind = pack.outgoing.kind(what)
    if kind is None:
        raise BadValue("Choose what kind of attachment it is.", what)
    if kind.tagged != (row.kind == "xbrl"):
        raise BadValue(_TAGGED if kind.tagged else "A tagged page goes as accounts or computation.", what)
    if to and pack.authority(to) is None:
        raise BadValue("Choose where it goes.", to)
    stands = row.paper is not None and bool(pack.paper(row.paper.kind).stands_for)
    if what == STATEMENT and not stands:
        raise BadValue("A statement lies beside the paper whose totals it stands behind. Move it there first.", what)
    _check(row)
    name = written(name, "The name", 60, "Name it as the authority will read it.")
    return _choose(actor, return_id, row.pk, what, name, to, _doubt(row) if what == STATEMENT else "")


def _check(row):
    if row.size > LARGEST:
        raise BadValue(f"It has {row.size / 1e6:.1f} MB; up to {LARGEST / 1e6:.0f} MB can be e-filed.", "")
    if row.state != Attachment.State.READY:
        raise BadValue("It is still being read. Try again in a moment.", "")


@transaction.atomic
def _choose(actor, return_id, row_id, what, name, to, doubt):
    return_ = attaching.locked(actor, return_id)
    if says := closed_because(return_):
        raise Settled(says)
    row = return_.attachments.select_related("paper").get(pk=row_id)
    others = [one for one in going_along(return_) if one.pk != row.pk and one.along_to == to]
    if what and sum(one.size for one in others) + row.size > LARGEST_OF_ALL:
        raise BadValue(f"Together they have more than {LARGEST_OF_ALL / 1e6:.0f} MB, the most that can be e-filed.", "")
    row.along, row.along_name, row.along_to, row.doubt = what, name, to, doubt
    row.save(update_fields=["along", "along_name", "along_to", "doubt"])
    said = "statement" if what in ("", STATEMENT) and not name else "attachment"
    record(actor, f"{said} chosen" if what else f"{said} no longer chosen", return_, says=name or row.name)
    attaching.count_pages(return_, row.paper)
    lock_opens(actor, return_)
    return row


def _doubt(row):
    """What a text PDF does not say of its sender: name and number of the paper it stands behind."""
    words = drawing.words_of(row)
    declared = pack_of(row.of).paper(row.paper.kind)
    name = str(row.paper.values.get(declared.party.get("name", declared.heading), "")).lower()
    number = "".join(one for one in str(row.paper.values.get(declared.party.get("number", ""), "")) if one.isalnum())
    plain = "".join(one for one in words if one.isalnum())
    lacks = [
        what for what, there in (("name", not name or name in words), ("number", not number or number in plain)) if not there
    ]
    if not words or not lacks:
        return ""
    return f"it does not show the {' and the '.join(lacks)} of {row.paper.values.get(declared.heading) or 'its sender'}"
