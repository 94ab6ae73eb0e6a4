"""Pages beside a paper: taken in by what they contain, kept encrypted, drawn as pictures."""

import hashlib
import io
import uuid

import pypdfium2
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone
from PIL import Image, ImageOps, UnidentifiedImageError

from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import NotOfThisFirm, fetch, require
from practice.intake.models import Attachment
from practice.returns.changing import forget, refreshed
from practice.returns.entry import keyed_paper
from practice.returns.models import Return
from taxcore.engine import BadValue

LARGEST = 12_000_000  # bytes of a file; a scanned page is about one million
_MOST_PAGES = 200
_LARGEST_PICTURE = 60_000_000  # pixels
_KINDS = {"PNG": "png", "JPEG": "jpeg"}


def look_into(content):
    """(kind, pages) of a file by what it contains. BadValue for anything but a readable PDF, PNG or JPEG of reasonable size."""
    if len(content) > LARGEST:
        raise BadValue(f"The file has {len(content) / 1e6:.0f} MB; a page can have {LARGEST / 1e6:.0f}.", "")
    if content[:5] == b"%PDF-":
        return "pdf", _pages_of(content)
    try:
        with Image.open(io.BytesIO(content), formats=list(_KINDS)) as picture:
            if picture.width * picture.height > _LARGEST_PICTURE:
                raise BadValue("The picture is larger than any page that is scanned.", "")
            picture.load()
            return _KINDS[picture.format], 1
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Image.DecompressionBombError):
        raise BadValue("Attach a PDF, PNG or JPEG; this file is none of them, or is damaged.", "") from None


def _pages_of(content):
    try:
        document = pypdfium2.PdfDocument(content)
        pages = len(document)
        document.close()
    except pypdfium2.PdfiumError:
        raise BadValue("The PDF cannot be opened: it is damaged or asks for a password.", "") from None
    if not 0 < pages <= _MOST_PAGES:
        raise BadValue(f"The PDF has {pages} pages; up to {_MOST_PAGES} can be attached at once.", "")
    return pages


@transaction.atomic
def attach(actor, return_id, paper_id, name, content):
    """Keep a file beside a paper of a return, or beside the return alone (`paper_id` None). The same file twice is one.

    Also once the return is signed or filed: pages move no line.
    """
    return_ = _locked(actor, return_id)
    paper = keyed_paper(return_, paper_id) if paper_id else None
    kind, pages = look_into(content)
    digest = hashlib.sha256(content).hexdigest()
    there = return_.attachments.filter(digest=digest, paper=paper, removed_at=None).first()
    if there is not None:
        return there
    made = Attachment.objects.create(
        firm=return_.firm, of=return_, paper=paper, name=name.replace("\\", "/").rsplit("/", 1)[-1][:160] or "page", kind=kind,
        size=len(content), pages=pages, digest=digest, by=actor,
        file=default_storage.save(f"attachments/{uuid.uuid4().hex}.sealed", ContentFile(seal_bytes(content))),
    )  # fmt: skip
    record(actor, "page attached", return_, says=made.name, paper=paper_id)
    _count(return_, paper)
    return made


def _locked(actor, return_id):
    wanted = Return.objects.select_for_update(of=("self",)).select_related("firm", "household")
    return_ = fetch(wanted.prefetch_related("papers", "overrides"), actor, pk=return_id)
    require(actor, "key", return_)
    return return_


def _count(return_, *papers):
    """Papers know how many pages support them, since a diagnostic asks."""
    for paper in filter(None, papers):
        paper.attached = return_.attachments.filter(paper=paper, removed_at=None).count()
        paper.save(update_fields=["attached"])
    forget(return_, "papers")
    refreshed(return_)


@transaction.atomic
def change_attachment(actor, return_id, token, *, paper_id=None, turn=0, remove=False):
    """Turn the pages by `turn` degrees, say which paper they support, or take them away."""
    return_ = _locked(actor, return_id)
    row = find(actor, return_id, token)
    row.turn = (row.turn + turn) % 360
    touched = [row.paper]
    if paper_id:
        row.paper = keyed_paper(return_, paper_id)
        touched.append(row.paper)
    if remove:
        row.removed_at = timezone.now()
        record(actor, "page taken away", return_, says=row.name)
    row.save()
    if remove or paper_id:
        _count(return_, *touched)
    return row


def find(actor, return_id, token):
    """An attachment of one of the firm's returns by its token, or NotOfThisFirm."""
    return_ = fetch(Return.objects.all(), actor, pk=return_id)
    require(actor, "view", return_)
    row = return_.attachments.filter(token=token, removed_at=None).select_related("paper").first()
    if row is None:
        raise NotOfThisFirm(actor, Attachment, str(token))
    return row


def attached_to(return_, paper):
    """What lies beside a paper, and what lies beside no paper yet."""
    rows = return_.attachments.filter(removed_at=None)
    return [row for row in rows if row.paper_id in (None, paper.pk if paper else None)]


def content_of(row):
    with default_storage.open(row.file) as stored:
        return unseal_bytes(stored.read())


def picture_of(row, page):
    """A page as PNG, upright as it was turned, about 1,400 pixels wide. `page` counts from 1; BadValue beyond the last."""
    if not 1 <= page <= row.pages:
        raise BadValue(f"There is no page {page}.", page)
    content = content_of(row)
    if row.kind == "pdf":
        document = pypdfium2.PdfDocument(content)
        sheet = document[page - 1]
        picture = sheet.render(scale=min(1400 / max(sheet.get_width(), 1), 4)).to_pil()
        document.close()
    else:
        picture = ImageOps.exif_transpose(Image.open(io.BytesIO(content))).convert("RGB")
        picture.thumbnail((1400, 2800))
    made = io.BytesIO()
    picture.rotate(-row.turn, expand=True).save(made, "PNG")
    return made.getvalue()
