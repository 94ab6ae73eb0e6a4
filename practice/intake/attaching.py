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
from practice.returns.computing import pack_of
from practice.returns.entry import keyed_paper
from practice.returns.models import Return
from taxcore.engine import BadValue
from taxcore.engine.filed import Enclosure

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
        rows = return_.attachments.filter(paper=paper, removed_at=None)
        if pack_of(return_).paper(paper.kind).stands_for:  # any page may lie beside it; one is chosen to stand behind its totals
            rows = rows.filter(goes_along=True)
        paper.attached = rows.count()
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


def going_along(return_):
    """The statements that go with a filing."""
    return return_.attachments.filter(goes_along=True, removed_at=None, paper__removed_at=None).select_related("paper")


def enclosures(return_):
    """The same as they stand in the filed document."""
    return [Enclosure(row.paper.key, row.name, row.kind, row.digest, content_of(row)) for row in going_along(return_)]


LARGEST_ALONG = 5_000_000  # bytes of a statement that goes with a filing


def choose_statement(actor, return_id, token, chosen):
    """Say that a page is the statement behind its paper's totals and goes with the filing, or that it is not. BadValue where it
    cannot go. What its words lack is kept with it; a scan has none."""
    row = find(actor, return_id, token)
    if chosen and (row.paper is None or not pack_of(row.of).paper(row.paper.kind).stands_for):
        raise BadValue("Only a statement beside a paper with totals goes with the filing.", "")
    if chosen and row.size > LARGEST_ALONG:
        raise BadValue(f"It has {row.size / 1e6:.1f} MB; up to {LARGEST_ALONG / 1e6:.0f} MB can go with a filing.", "")
    doubt = _doubt(row) if chosen else ""
    return _choose(actor, return_id, row.pk, chosen, doubt)


@transaction.atomic
def _choose(actor, return_id, row_id, chosen, doubt):
    return_ = _locked(actor, return_id)
    row = return_.attachments.select_related("paper").get(pk=row_id)
    row.goes_along, row.doubt = chosen, doubt
    row.save(update_fields=["goes_along", "doubt"])
    record(actor, "statement chosen" if chosen else "statement no longer chosen", return_, says=row.name)
    _count(return_, row.paper)
    return row


def _doubt(row):
    """What a text PDF does not say of its sender: name and number of the paper it stands behind."""
    if row.kind != "pdf":
        return ""
    try:
        words = " ".join(opened("text_of", content_of(row)).lower().split())
    except NotOpened:
        return ""
    declared = pack_of(row.of).paper(row.paper.kind)
    name = str(row.paper.values.get(declared.party.get("name", declared.heading), "")).lower()
    number = "".join(one for one in str(row.paper.values.get(declared.party.get("number", ""), "")) if one.isalnum())
    plain = "".join(one for one in words if one.isalnum())
    lacks = [
        what for what, there in (("name", not name or name in words), ("number", not number or number in plain)) if not there
    ]
    if not words or not lacks:
        return ""
    return f"it nowhere has the {' and the '.join(lacks)} of {row.paper.values.get(declared.heading) or 'its sender'}"


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
