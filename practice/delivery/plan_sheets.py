"""Plans as the client has them: the sheet of What-if as it was on a day, kept with the client and sent to the portal."""

import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone

from practice.delivery.models import PlanSheet
from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.portal.links import send_link
from practice.returns.models import Return
from practice.signing.representing import written_to
from practice.whatif.keeping import columns_of


@transaction.atomic
def keep(actor, return_id, content):
    """The sheet (bytes of a PDF) on the client's page from now on. Cannot where there is no column to show."""
    return_ = fetch(Return.objects.select_related("firm", "household"), actor, pk=return_id)
    require(actor, "open", return_)
    columns = columns_of(return_)
    if not columns:
        raise Cannot("Add a column first: the return alone is no plan.")
    file = default_storage.save(f"plans/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(content)))
    made = PlanSheet.objects.create(
        firm=return_.firm, of=return_, file=file, made_by=actor, name=", ".join(one.name for one in columns)[:200]
    )
    record(actor, "plans kept", return_, says=made.name)
    return made


@transaction.atomic
def share(actor, sheet_id):
    """Put it into the portal and tell those who sign the return. Cannot where none of them has an address."""
    sheet = fetch(PlanSheet.objects.select_related("of__firm", "of__household"), actor, pk=sheet_id)
    require(actor, "deliver", sheet)
    if sheet.shared_at is None:
        clients = [client for client in written_to(sheet.of) if client.email]
        if not clients:
            raise Cannot("Nobody who signs this return has an email address. Enter one under People.")
        sheet.shared_at = timezone.now()
        sheet.save(update_fields=["shared_at"])
        for client in clients:
            send_link(sheet.of, client, "plans")
        record(actor, "plans shared", sheet.of, says=sheet.name)
    return sheet


def sheets_of(household):
    """What was kept for a client, the newest first."""
    rows = PlanSheet.objects.for_firm(household.firm_id).filter(of__household=household)
    return rows.select_related("of", "made_by")


def shared_of(return_):
    """What the clients of a return find in the portal."""
    return PlanSheet.objects.for_firm(return_.firm_id).filter(of=return_).exclude(shared_at=None)


def read(sheet):
    with default_storage.open(sheet.file) as stored:
        return unseal_bytes(stored.read())


def note_taken(sheet, client):
    record(None, "plans downloaded", sheet.of, says=sheet.name, by=client.full_name)
