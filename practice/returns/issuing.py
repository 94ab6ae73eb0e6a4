"""Papers that one return issues to others: a company's to its owners. Handed out by somebody, never silently.

The owner's return keeps where each value came from. When the issuing return says something else later, both returns say so, and
what it says now is handed out again, or taken over there.
"""

import uuid
from dataclasses import dataclass, replace
from typing import Any

from django.db import transaction

from practice.clients.models import Entity, Person
from practice.firm.compiled import Compiled
from practice.firm.crypto import digest, plain_number
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.returns.changing import changed, closed_because, forget, open_for_change
from practice.returns.computing import open_values, pack_of, result_of
from practice.returns.models import HandedOut, Return
from practice.returns.placing import by_hand, paper_at, put
from practice.returns.standing import filing_return
from taxcore.engine import PaperValues, Rows, compute
from taxcore.engine.amending import read_as
from taxcore.packs import pack_named

ISSUED = "issued"  # how a value came that another return issued


class NotIssued(Cannot):
    """Nothing is handed out to that return; `says` tells why."""


@dataclass(frozen=True)
class Handing:
    """One issued paper and where it belongs: the client's return of the year, or why there is none. `differs` are (label, there,
    now) of what that return has otherwise; `new`: it does not have the paper yet."""

    issued: Any
    client: Any
    return_: Any
    says: str
    new: bool
    differs: tuple = ()

    @property
    def paper_name(self):
        """What the trade calls it."""
        paper = pack_named(self.issued.pack).paper(self.issued.kind)
        return paper.name

    @property
    def mark(self):
        """What tells it from the others of its issuer: the papers of two owners have one id in two returns."""
        return f"{self.return_.pk}-{self.issued.id}" if self.return_ is not None else ""

    @property
    def is_open(self):
        return not self.says and (self.new or bool(self.differs))


def handings_of(return_, result=None, actor=None):
    """Every paper that a return issues today, and how it stands with whom it is for; to `actor`, of clients whom they may see."""
    issues = pack_of(return_).issues
    if issues is None:
        return []
    there: dict[tuple[Any, str, str], str] = {}  # (return, role, id that was issued): id under which the paper stands there
    return [_handing(return_, one, there, actor) for one in issues((result or result_of(return_)).run)]


def _handing(return_, issued, there, actor):
    household = _client_with(return_, issued.number, actor)
    if household is None:
        return Handing(issued, None, None, f"No client that you see has the number of {issued.named}.", False)
    target = filing_return(household, issued.pack, return_.year)
    if target is None:
        return Handing(issued, household, None, f"There is no return of {return_.year}.", False)
    role = _role_on(target, issued.number)
    if role == "dependant":
        return Handing(issued, household, None, f"{issued.named} is a dependent there: it needs another return.", False)
    issued = _as_it_stands(target, issued, role, there)
    paper = target.papers.filter(kind=issued.kind, key=issued.id, removed_at=None).first()
    differs = tuple(_differing(target, paper, issued)) if paper is not None else ()
    says = closed_because(target) if paper is None or differs else ""
    return Handing(issued, household, target, says, paper is None, differs)


@dataclass(frozen=True)
class Moved:
    """An owner's return with what is not handed out yet: `lines` are (label, amount there now, amount with it, change)."""

    return_: Any
    client: Any
    lines: tuple


def moved_by(handings):
    """What the open papers would do to the returns that they are for: each computed with them, nothing is kept."""
    found = []
    for target in dict.fromkeys(one.return_ for one in handings if one.is_open):
        mine = [one.issued for one in handings if one.return_ == target and one.is_open]
        before = result_of(target)
        after = compute(before.run.pack, _with(before.run.data, mine))
        found.append(Moved(target, target.household, tuple(_taxes(before, after))))
    return found


def _with(data, issued):
    """A return's data with papers as somebody issues them."""
    given = {(one.kind, one.id): one for one in issued}
    papers = []
    for paper in data.papers:
        one = given.pop((paper.kind, paper.id), None)
        papers.append(paper if one is None else replace(paper, values={**paper.values, **one.values}))
    return replace(data, papers=(*papers, *map(_new, given.values())))


def _new(issued):
    owner = {"owner": "taxpayer"} if pack_named(issued.pack).paper(issued.kind).owned else {}
    return PaperValues(issued.id, issued.kind, owner | issued.values)


def _taxes(before, after):
    """Each authority's tax, and what all of them pay or are owed together."""
    was = {line.authority.code: line for line in before.bottom_lines}
    for line in after.bottom_lines:
        tax = line.authority.cell(after.run, line.authority.tax)
        old = line.authority.cell(before.run, line.authority.tax).value if line.authority.code in was else 0
        yield f"{line.authority.name}: {tax.label}", old, tax.value, tax.value - old
    yield "Net refund (due)", _together(before), _together(after), _together(after) - _together(before)


def _together(result):
    return sum(line.amount for line in result.bottom_lines)


def _as_it_stands(target, issued, role, there):
    """The paper under the id that it has on the owner's return, where somebody entered it there, or last year's came along. A
    spouse's has an id of its own: both may hold a share of one entity."""
    values = {
        name: there.get((target.pk, role, value), value) if isinstance(value, str) else value
        for name, value in issued.values.items()
    }
    key = issued.id
    if role == "spouse":
        key = f"{issued.id}-spouse"
    if role and result_of(target).run.person("spouse") is not None:
        values = {"owner": role} | values
    if issued.known_by and not target.papers.filter(kind=issued.kind, key=key, removed_at=None).exists():
        key = _known(target, issued.kind, role, issued.known_by, values[issued.known_by]) or key
    there[target.pk, role, issued.id] = key
    return replace(issued, id=key, values=values)


def _known(target, kind, role, known_by, value):
    """The id of somebody's paper whose field says that value already; empty where there is none."""
    wanted = plain_number(value) or value
    for paper in target.papers.filter(kind=kind, removed_at=None):
        values = open_values(paper.values)
        stands, owner = str(values.get(known_by) or ""), values.get("owner") or role
        if stands and (plain_number(stands) or stands) == wanted and (not role or owner in (role, "joint")):
            return paper.key
    return ""


def _client_with(return_, number, actor):
    """The client who is known by a number, a person's household or an entity; one who is restricted to others is nobody."""
    plain = plain_number(number)
    if not plain:
        return None
    mark = digest(return_.firm_id, plain)
    for model in (Person, Entity):
        rows = model.objects.for_firm(return_.firm_id) if actor is None else model.objects.for_staff(actor)
        found = rows.filter(number_digest=mark).select_related("household").first()
        if found is not None:
            return found.household
    return None


def _role_on(target, number):
    """The role on a return of the person with a number, empty where nobody has it."""
    plain = plain_number(number)
    for person in result_of(target).run.people():
        secrets = (person.entered.get(name) for name, field in person.fields().items() if getattr(field, "secret", False))
        if plain in (plain_number(str(one)) for one in secrets if one):
            return person.role
    return ""


def _differing(target, paper, issued):
    fields, stands = pack_of(target).paper(issued.kind).fields(), open_values(paper.values)
    for name, value in issued.values.items():
        if not _same(fields[name], stands.get(name), value):
            yield fields[name].label, _read(fields[name], stands.get(name)), _read(fields[name], value)


def _read(field, value):
    """A value as somebody reads it; of a table its rows, one after the other."""
    if not isinstance(field, Rows):
        return read_as(field, value)
    inner = field.row.fields()
    rows = ([read_as(inner[name], row[name]) for name in inner if row.get(name)] for row in value or ())
    return "; ".join(" ".join(row) for row in rows)


def _same(field, there, now):
    """Whether two values are one: 5 and 5.00 are, and tables with the same rows whatever their ids."""
    if isinstance(field, Rows):
        return _read(field, there) == _read(field, now)
    if not there or not now:
        return not there and not now
    return there == now or (field.fits(there) and field.fits(now) and field.parse(there) == field.parse(now))


@transaction.atomic
def hand_out(actor, return_id, marks=None):
    """Put what a return issues into the returns of those it is for: the papers with these marks, or all that are open. How many.
    NotIssued where none can be."""
    source = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "key", source)
    wanted = [one for one in handings_of(source, actor=actor) if one.is_open and (marks is None or one.mark in marks)]
    if not wanted and marks is not None:
        raise NotIssued("Choose which papers to hand out.")
    if not wanted:
        raise NotIssued("Everything that this return issues is where it belongs, or has no return to go to.")
    for one in wanted:
        _put(actor, source, one.return_.pk, one.issued)
    record(actor, "handed out", source, says=f"{len(wanted)} papers")
    return len(wanted)


@transaction.atomic
def take(actor, return_id):
    """Take over into a return what the returns that issued papers to it say now. How many papers."""
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    taken = 0
    for source, one in differing_on(return_):
        if not one.says:
            _put(actor, source, return_.pk, one.issued)
            taken += 1
    return taken


@transaction.atomic
def follow_into(actor, source, return_):
    """Put into a return what one that issued papers to it says now, though nobody pressed a button there."""
    for issuer, one in differing_on(return_):
        if issuer.pk == source.pk and not one.says:
            _put(actor, source, return_.pk, one.issued, "followed by itself")


def differing_on(return_):
    """(issuing return, Handing) of papers here that their issuer says otherwise by now."""
    found = []
    for row in _RECEIVED(return_.firm_id, return_.pk):
        if row.version != row.source.version:
            for one in handings_of(row.source):
                if one.return_ == return_ and one.issued.id == row.paper.key and one.differs:
                    found.append((row.source, one))
    return found


def _received(firm, of):
    rows = HandedOut.objects.for_firm(firm).filter(paper__of=of, paper__removed_at=None)
    return rows.select_related("source__firm", "source__household", "paper")


_RECEIVED = Compiled(_received)


def _put(actor, source, target_id, issued, how=""):
    return_ = open_for_change(actor, target_id)
    before, batch = result_of(return_), uuid.uuid4().hex
    paper = paper_at(actor, return_, issued.kind, issued.id, batch, {})
    paper.removed_at = None
    stands, fields = open_values(paper.values), pack_of(return_).paper(issued.kind).fields()
    for name, value in issued.values.items():
        if not _same(fields[name], stands.get(name), value):
            mark = by_hand(actor, ISSUED) | {"return": source.pk, "at": issued.lines.get(name, "")}
            put(actor, return_, paper, name, value, f"issued by {source.household.name}", batch, mark)
    paper.save()
    HandedOut.objects.for_firm(return_.firm_id).update_or_create(
        source=source, paper=paper, defaults={"firm": return_.firm, "version": source.version, "by": actor}
    )
    forget(return_, "papers")
    changed(actor, return_, before)
    record(actor, "paper issued", return_, says=", ".join(filter(None, (f"by {source.household.name}", how))))
