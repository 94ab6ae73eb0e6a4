"""The PDF of an invoice, kept as it was sent; and what the payment service says of checkouts that are open."""

import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from procrastinate.contrib.django import app

from practice.fees.models import Invoice
from practice.fees.paying import ask_all
from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.jobs import fresh_connection, job
from practice.pages.certifying import certified
from practice.pages.pdf import pdf_of
from practice.returns.computing import pack_of


def _lost(before):
    waiting = Invoice.objects.across_firms("background work").filter(file="", trouble="", asked_at__lt=before)
    return [{"invoice_id": pk} for pk in waiting.values_list("pk", flat=True)]


def _failed(says, invoice_id):
    Invoice.objects.across_firms("background work").filter(pk=invoice_id).update(trouble=says[:200])


@job("invoice", lost=_lost, failed=_failed)
def draw_invoice(invoice_id):
    """Draw the PDF once."""
    rows = Invoice.objects.across_firms("background work").select_related("of__firm", "household", "to")
    invoice = rows.get(pk=invoice_id)
    if invoice.file:
        return
    context = {"invoice": invoice, "lines": list(invoice.lines.all()), "firm": invoice.of.firm, "of": invoice.of,
               "pack": pack_of(invoice.of)}  # fmt: skip
    content = certified(invoice.of.firm, pdf_of("fees/invoice_pdf.html", context), f"Invoice {invoice.number}")
    name = default_storage.save(f"invoices/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(content)))
    Invoice.objects.across_firms("background work").filter(pk=invoice_id).update(file=name, trouble="")


def read_invoice(invoice):
    """The PDF's bytes."""
    with default_storage.open(invoice.file) as stored:
        return unseal_bytes(stored.read())


@app.periodic(cron="* * * * *")
@app.task(name="practice:payments", queueing_lock="payments")
def payments(timestamp):
    fresh_connection()
    ask_all()
