"""The signed authorization as a PDF that carries the hash of what was signed."""

import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage

from practice.firm.crypto import seal_bytes
from practice.firm.jobs import job
from practice.intake.attaching import as_pdf
from practice.intake.models import Attachment
from practice.pages.certifying import certified, joined, written
from practice.pages.pdf import pdf_of
from practice.returns.frozen import drawn_of
from practice.signing.models import Signature


def _all():
    return Signature.objects.across_firms("background work")


def _lost(before):
    return [{"signature_id": pk} for pk in _all().filter(pdf="", trouble="", signed_at__lt=before).values_list("pk", flat=True)]


def _failed(says, signature_id):
    _all().filter(pk=signature_id, pdf="").update(trouble=says[:200])


@job("authorization", lost=_lost, failed=_failed)
def make_authorization(signature_id):
    """Draw, encrypt and keep the PDF. Making it twice keeps the first."""
    signature = (
        _all()
        .select_related("of__firm", "snapshot__of__firm", "snapshot__of__household", "client", "scan__of__firm")
        .get(pk=signature_id)
    )
    if signature.pdf:
        return
    if signature.scan_id and signature.scan.state == Attachment.State.READING:
        make_authorization.ask(3, signature_id=signature_id)
        return
    made = certified(signature.of.firm, draw(signature), "Authorization to e-file, as it was signed")
    signature.pdf = default_storage.save(f"authorizations/{uuid.uuid4().hex}.pdf.sealed", ContentFile(seal_bytes(made)))
    signature.trouble = ""
    signature.save(update_fields=["pdf", "trouble"])


def draw(signature):
    """The PDF's bytes, unsigned."""
    made = to_sign(signature.snapshot, signature.authority, signature.client, signature.role, signature)
    return written(joined([made, as_pdf(signature.scan)], "Authorization")) if signature.scan_id else made


def to_sign(snapshot, authority, client, role, signature=None):
    """The PDF's bytes of an authorization: with a signature, or with lines to sign by hand."""
    line = drawn_of(snapshot).bottom_line(authority)
    context = {"signature": signature, "client": client, "role": role, "line": line, "of": snapshot.of, "snapshot": snapshot}
    return pdf_of("signing/authorization.html", context)
