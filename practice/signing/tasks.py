"""The signed authorisation as a PDF that carries the hash of what was signed."""

import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from procrastinate.contrib.django import app

from practice.delivery.pdf import pdf_of
from practice.firm.crypto import seal_bytes
from practice.returns.computing import pack_of
from practice.signing.locking import result_of_snapshot
from practice.signing.models import Signature


@app.task(queueing_lock=None, retry=3)
def make_authorisation(signature_id):
    """Draw, encrypt and keep the PDF. Making it twice keeps the first."""
    signature = Signature.objects.across_firms("background work").select_related("of", "snapshot", "client").get(pk=signature_id)
    if signature.pdf:
        return
    signature.pdf = default_storage.save(
        f"authorisations/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(draw(signature)))
    )
    signature.save(update_fields=["pdf"])


def draw(signature):
    """The PDF's bytes."""
    result = result_of_snapshot(signature.snapshot)
    authority = pack_of(signature.of).authority(signature.authority)
    form = result.run.form(authority.form.code())
    lines = [cell for cell in form.lines() if cell.spec.weight == "total"]
    return pdf_of(
        "signing/authorisation.html", {"signature": signature, "authority": authority, "lines": lines, "of": signature.of}
    )
