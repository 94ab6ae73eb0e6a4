"""The signed authorization as a PDF that carries the hash of what was signed."""

import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from procrastinate.contrib.django import app

from practice.delivery.pdf import pdf_of
from practice.firm.crypto import seal_bytes
from practice.signing.frozen import drawn_of
from practice.signing.models import Signature


@app.task(queueing_lock=None, retry=3)
def make_authorization(signature_id):
    """Draw, encrypt and keep the PDF. Making it twice keeps the first."""
    signature = Signature.objects.across_firms("background work").select_related("of", "snapshot", "client").get(pk=signature_id)
    if signature.pdf:
        return
    signature.pdf = default_storage.save(
        f"authorizations/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(draw(signature)))
    )
    signature.save(update_fields=["pdf"])


def draw(signature):
    """The PDF's bytes."""
    line = drawn_of(signature.snapshot).bottom_line(signature.authority)
    return pdf_of("signing/authorization.html", {"signature": signature, "line": line, "of": signature.of})
