"""What workers do for files: reading and importing long ones, drawing attached pages. A file's row is the truth; doing any of it
twice does no harm."""

from procrastinate.contrib.django import app

from practice.firm.jobs import fresh_connection, job
from practice.intake import arriving, arriving_in, drawing, fetching, importing, incoming
from practice.intake.models import Arrival, Attachment, Import, Incoming
from practice.returns.changing import Settled
from taxcore.engine import BadValue


def _row(import_id):
    return Import.objects.across_firms("background work").select_related("of__firm", "paper", "by", "firm").get(pk=import_id)


def _lost(model, name, state):
    """Which rows wait in a state, as the arguments of the job that does them."""

    def lost(before):
        rows = model.objects.across_firms("background work").filter(state=state, touched_at__lt=before)
        return [{name: pk} for pk in rows.values_list("pk", flat=True)]

    return lost


def _failed(says, import_id):
    rows = Import.objects.across_firms("background work").filter(pk=import_id).exclude(state=Import.State.DONE)
    rows.update(state=Import.State.FAILED, errors=[{"row": 0, "field": "", "given": "", "says": f"Not read: {says}."}])


@job("read file", lost=_lost(Import, "import_id", Import.State.READING), failed=_failed)
def read_file(import_id):
    row = _row(import_id)
    if row.state == Import.State.READING:
        importing.read(row)


@job("import file", lost=_lost(Import, "import_id", Import.State.TAKING), failed=_failed)
def take_file_in(import_id):
    row = _row(import_id)
    if row.state != Import.State.TAKING:
        return
    try:
        importing.take_in(row)
    except (BadValue, Settled) as refused:
        row.state, row.errors = Import.State.FAILED, [{"row": 0, "field": "", "given": "", "says": refused.says}]
        row.save()


def _undrawn(before):
    rows = Attachment.objects.across_firms("background work")
    rows = rows.filter(state=Attachment.State.READING, removed_at=None, touched_at__lt=before)
    return [{"attachment_id": pk} for pk in rows.values_list("pk", flat=True)]


def _attachment(attachment_id):
    return Attachment.objects.across_firms("background work").select_related("paper", "by").get(pk=attachment_id)


def _not_drawn(says, attachment_id):
    row = _attachment(attachment_id)
    if row.state == Attachment.State.READING:
        drawing.refuse(row, f"It could not be read: {says}.")


@job("draw pages", lost=_undrawn, failed=_not_drawn)
def draw_pages(attachment_id):
    while drawing.step(_attachment(attachment_id)):
        pass


def _incoming(incoming_id):
    return Incoming.objects.across_firms("background work").select_related("firm").get(pk=incoming_id)


def _not_looked_at(says, incoming_id):
    rows = Incoming.objects.across_firms("background work").filter(pk=incoming_id, state=Incoming.State.READING)
    rows.update(state=Incoming.State.REFUSED, says=f"It could not be read: {says}."[:300])


@job("look at incoming", lost=_lost(Incoming, "incoming_id", Incoming.State.READING), failed=_not_looked_at)
def look_at_incoming(incoming_id):
    row = _incoming(incoming_id)
    if row.state == Incoming.State.READING:
        incoming.look(row)


@app.periodic(cron="* * * * *")
@app.task(name="practice:documents-in", queueing_lock="documents-in")
def documents_in(timestamp):
    """Mail and scans, each minute."""
    fresh_connection()
    fetching.fetch_mail()
    fetching.fetch_scans()


def _arrival(arrival_id):
    return Arrival.objects.across_firms("background work").select_related("firm", "by__firm").get(pk=arrival_id)


def _not_arrived(says, arrival_id):
    rows = Arrival.objects.across_firms("background work").filter(pk=arrival_id).exclude(state=Arrival.State.DONE)
    rows.update(state=Arrival.State.FAILED, says=f"Not read: {says}."[:300])


@job("read clients", lost=_lost(Arrival, "arrival_id", Arrival.State.READING), failed=_not_arrived)
def read_clients(arrival_id):
    row = _arrival(arrival_id)
    if row.state == Arrival.State.READING:
        arriving.read(row)


@job("take clients in", lost=_lost(Arrival, "arrival_id", Arrival.State.TAKING), failed=_not_arrived)
def take_clients_in(arrival_id):
    row = _arrival(arrival_id)
    if row.state == Arrival.State.TAKING:
        arriving_in.take_in(row)
