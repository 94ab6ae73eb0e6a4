"""Statements that a return makes for its owners, each in the portal of the one it is for, with nothing else of the return."""

import uuid
from dataclasses import dataclass
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import Q
from django.utils import timezone

from practice.clients.models import Entity, Person
from practice.clients.restricting import hidden_from
from practice.clients.roles import hear_of
from practice.delivery.models import Statement
from practice.firm.crypto import digest, plain_number, seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.jobs import job
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.intake.drawn import pdf_of_drawn
from practice.portal.links import OWNERS, send_link
from practice.returns.acts import Done, act
from practice.returns.computing import pack_of, result_of
from practice.returns.models import Return


@dataclass(frozen=True)
class ForOwner:
    """One statement, the clients whose portal it goes to, or why there are none; `given` are the newest rows of each of them that
    say what it says now, `earlier` those that said something else."""

    drawn: Any
    clients: tuple
    says: str
    given: tuple = ()
    earlier: tuple = ()

    @property
    def is_open(self):
        return not self.says and not any(one.state != "failed" for one in self.given)


def statements_of(return_, result, actor):
    """Every statement of a return as it stands, and how it stands with whom it is for, of those whom `actor` may see."""
    newest: dict[tuple[str, int], Statement] = {}
    rows = return_.statements.exclude(client__household__in=hidden_from(actor))
    for row in rows.select_related("client").order_by("pk"):
        newest[row.code, row.client_id] = row
    return [_standing(return_, one, newest, actor) for one in pack_of(return_).outgoing.statements(result)]


def _standing(return_, drawn, newest, actor):
    clients, says = _clients_of(drawn.number, actor)
    rows, mark = [row for (code, _), row in newest.items() if code == drawn.code], _mark(return_, drawn)
    given, earlier = (tuple(row for row in rows if (row.mark == mark) is same) for same in (True, False))
    if clients and not any(one.email for one in clients):
        says = f"{clients[0].full_name} has no email address."
    return ForOwner(drawn, tuple(one for one in clients if one.email), says, given, earlier)


def _mark(return_, drawn):
    return digest(return_.firm_id, repr((drawn.name, drawn.tables, drawn.remarks)))


def _clients_of(number, actor):
    """Whoever is known by a number, of an entity those who hear of it; and why there is nobody."""
    plain = plain_number(number)
    if not plain:
        return [], "No number is entered."
    mark = digest(actor.firm_id, plain)
    if person := Person.objects.for_staff(actor).filter(number_digest=mark, merged_into=None).first():
        return [person], ""
    entity = Entity.objects.for_staff(actor).filter(number_digest=mark).select_related("household").first()
    if entity is None:
        return [], "No client that you see has that number."
    hears = list(Person.objects.for_staff(actor).filter(pk__in=[one.pk for one in hear_of(entity.household)]))
    return hears, "" if hears else f"Nobody in {entity.household.name} gets mail or signs."


@transaction.atomic
def deliver(actor, return_id, codes=None):
    """Have the statements with these codes, or all that are open, made and put into their portals. How many. Cannot before the
    return is locked, or where there is none to deliver."""
    rows = Return.objects.select_for_update(of=("self",)).select_related("firm", "household", "snapshot")
    return_ = fetch(rows, actor, pk=return_id)
    require(actor, "deliver", return_)
    if return_.snapshot_id is None:
        raise Cannot("Lock the return first: owners get the figures that are locked.")
    standing = [one for one in statements_of(return_, result_of(return_), actor) if one.is_open]
    wanted = [one for one in standing if codes is None or one.drawn.code in codes]
    if not wanted:
        raise Cannot("Choose whose statements to deliver." if standing else "There is no statement to deliver.")
    for one in wanted:
        for client in one.clients:
            made = Statement.objects.create(
                firm=return_.firm, of=return_, snapshot=return_.snapshot, client=client, code=one.drawn.code[:60],
                name=one.drawn.name[:200], mark=_mark(return_, one.drawn), asked_by=actor,
            )  # fmt: skip
            make.ask(statement_id=made.pk)
    record(actor, "statements delivered", return_, says=", ".join(one.drawn.name for one in wanted)[:200])
    return len(wanted)


@act("statements", "Deliver statements to owners", "deliver")
def deliver_all(actor, return_id):
    count = deliver(actor, return_id)
    return Done(f"{count} statements delivered" if count > 1 else "1 statement delivered")


def _lost(before):
    waiting = Statement.objects.across_firms("background work").filter(state="making", asked_at__lt=before)
    return [{"statement_id": pk} for pk in waiting.values_list("pk", flat=True)]


def _failed(says, statement_id):
    waiting = Statement.objects.across_firms("background work").filter(pk=statement_id).exclude(state="ready")
    waiting.update(state="failed", trouble=says[:200])


@job("statement", lost=_lost, failed=_failed)
def make(statement_id):
    """Draw it once, and tell whom it is for."""
    rows = Statement.objects.across_firms("background work").select_related("of__firm", "of__household", "client")
    row = rows.get(pk=statement_id)
    if row.state != "making":
        return
    drawn = next((one for one in pack_of(row.of).outgoing.statements(result_of(row.of)) if one.code == row.code), None)
    if drawn is None or _mark(row.of, drawn) != row.mark:
        _failed("The figures changed meanwhile. Deliver it again.", statement_id)
        return
    content = seal_bytes(pdf_of_drawn(row.of, drawn))
    with transaction.atomic():
        row.file = default_storage.save(f"statements/{uuid.uuid4().hex}.pdf.sealed", ContentFile(content))
        row.state, row.shared_at, row.trouble = "ready", timezone.now(), ""
        row.save()
        send_link(row.of, row.client, OWNERS)


def shared_with(client):
    """What a client finds in the portal: of each document the newest."""
    mine = Q(client=client) | Q(client__merged_into=client)
    rows = Statement.objects.for_firm(client.firm_id).filter(mine, state="ready")
    newest = {(row.of_id, row.code): row for row in rows.select_related("of__household").order_by("pk")}
    return list(reversed(newest.values()))


def read(statement):
    with default_storage.open(statement.file) as stored:
        return unseal_bytes(stored.read())


@transaction.atomic
def note_taken(statement):
    """A client took it; the first time is kept on the row."""
    if statement.taken_at is None:
        statement.taken_at = timezone.now()
        statement.save(update_fields=["taken_at"])
    record(None, "statement downloaded", statement.of, says=statement.name, by=statement.client.full_name)
