"""Pages beside a paper: taken in by what they contain, kept encrypted, drawn as pictures."""

import hashlib
import uuid

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone

from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.firm.permissions import NotOfThisFirm, fetch, require
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Attachment
from practice.returns.changing import forget, refreshed
from practice.returns.entry import keyed_paper
from practice.returns.models import Return
from taxcore.engine import BadValue

LARGEST = 12_000_000  # bytes of a file; a scanned page is about one million


def look_into(content):
    """(kind, pages) of a file by what it contains. BadValue for anything but a readable PDF, PNG or JPEG of reasonable size."""
    if len(content) > LARGEST:
        raise BadValue(f"The file has {len(content) / 1e6:.0f} MB; a page can have {LARGEST / 1e6:.0f}.", "")
    try:
        kind, pages = opened("look_into", content)
    except NotOpened as error:
        raise BadValue(error.says, "") from None
    return kind, pages


def attach(actor, return_id, paper_id, name, content):
    """Keep a file beside a paper of a return, or beside the return alone (`paper_id` None). The same file twice is one.

    Also once the return is signed or filed: pages move no line. The file is looked into before anything is locked.
    """
    return_ = fetch(Return.objects.prefetch_related("papers"), actor, pk=return_id)
    require(actor, "key", return_)
    if paper_id:
        keyed_paper(return_, paper_id)
    kind, pages = look_into(content)
    return _keep(actor, return_id, paper_id, name, content, kind, pages)


@transaction.atomic
def _keep(actor, return_id, paper_id, name, content, kind, pages):
    return_ = _locked(actor, return_id)
    paper = keyed_paper(return_, paper_id) if paper_id else None
    digest = hashlib.sha256(content).hexdigest()
    there = return_.attachments.filter(digest=digest, paper=paper, removed_at=None).first()
    if there is not None:
        return there
    made = Attachment.objects.create(
        firm=return_.firm, of=return_, paper=paper, name=plain_name(name), kind=kind,
        size=len(content), pages=pages, digest=digest, by=actor,
        file=default_storage.save(f"attachments/{uuid.uuid4().hex}.sealed", ContentFile(seal_bytes(content))),
    )  # fmt: skip
    record(actor, "page attached", return_, says=made.name, paper=paper_id)
    _count(return_, paper)
    return made


def plain_name(name):
    """A file's name without its folders and without what cannot be stored or shown."""
    return "".join(one for one in name.replace("\\", "/").rsplit("/", 1)[-1] if one.isprintable())[:160] or "file"


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
    try:
        return opened("picture", content_of(row), kind=row.kind, page=page, turn=row.turn)
    except NotOpened as error:
        raise BadValue(error.says, page) from None
