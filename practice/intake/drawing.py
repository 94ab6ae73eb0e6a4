"""What a worker makes of attached pages: looked into, their words read, each page drawn. All of it lies sealed beside the file.

One step at a time from what the row says, so that a worker that dies, or pages that are turned meanwhile, cost one step.
"""

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction
from django.utils import timezone

from practice.firm.crypto import seal_bytes, unseal_bytes
from practice.firm.events import record
from practice.intake import scanning
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Attachment

_READ = 4  # pages of a scan whose words are looked for
_ENOUGH = 3  # pages that could not be drawn, after which the others of the file are not tried
_WITH_WORDS = ("pdf", "xbrl")
_State = Attachment.State


def step(row):
    """The next thing to be done for a row that is being read; False when nothing is left."""
    if row.state != _State.READING or row.removed_at:
        return False
    if scanning.is_wanted() and row.scanned_at is None:
        return _scan(row)
    if not row.pages:
        _look_into(row)
    elif row.drawn < row.pages:
        _draw(row, row.drawn + 1)
    elif _is_wordless(row):
        _read_pictures(row)
    else:
        _note(row, state=_State.READY)
    return True


def _note(row, **found):
    """On the row, as long as its pages were not turned or asked for again meanwhile: then the next step sees to that."""
    now = Attachment.objects.for_firm(row.firm_id).filter(pk=row.pk, turn=row.turn, pages=row.pages, drawn=row.drawn)
    now.filter(state=_State.READING).update(**found, touched_at=timezone.now())


def _scan(row):
    """Before anything opens it. While the scanner is away the file waits: the sweep asks again."""
    try:
        virus = scanning.found_in(kept(row.file))
    except scanning.ScannerAway:
        _note(row, says="The virus scanner does not answer; the file waits for it.")
        return False
    if virus:
        row.infected = virus
        row.save(update_fields=["infected"])
        refuse(row, f"The virus scanner found {virus}. The file was not opened.")
        return False
    _note(row, scanned_at=timezone.now(), says="")
    return True


def _look_into(row):
    content = kept(row.file)
    try:
        kind, pages = opened("look_into", content)
    except NotOpened as error:
        refuse(row, error.says)
        return
    if kind == "xbrl":
        try:
            content = opened("paged", content, seconds=20)
            pages = opened("look_into", content)[1]
        except NotOpened as error:
            refuse(row, error.says)
            return
        _keep(paged_name(row), content)
    if kind in _WITH_WORDS:
        _keep(words_name(row), _words(content).encode())
    _note(row, kind=kind, pages=pages)


def _words(content):
    """A PDF whose words cannot be read has none, like a scan."""
    try:
        return opened("text_of", content)
    except NotOpened:
        return ""


def _draw(row, page):
    undrawn = dict(row.undrawn)
    try:
        if len(undrawn) >= _ENOUGH:
            raise NotOpened("Earlier pages of this file could not be drawn, so this one was not tried.")
        content, kind = _drawn_from(row)
        _keep(picture_name(row, page), opened("picture", content, kind=kind, page=page, turn=row.turn))
    except NotOpened as error:
        undrawn[str(page)] = error.says
    _note(row, drawn=page, undrawn=undrawn)


def _drawn_from(row):
    """(bytes, kind) that pictures of its pages are drawn from."""
    return (kept(paged_name(row)), "pdf") if row.kind == "xbrl" else (kept(row.file), row.kind)


@transaction.atomic
def refuse(row, says):
    """The file stays to be seen, with the reason, and supports nothing."""
    from practice.intake.attaching import count_pages
    from practice.returns.models import Return

    returns = Return.objects.for_firm(row.firm_id).select_for_update(of=("self",)).select_related("firm", "household")
    return_ = returns.prefetch_related("papers", "overrides").get(pk=row.of_id)
    row.state, row.says, row.along = _State.REFUSED, says[:300], ""
    row.save(update_fields=["state", "says", "along", "touched_at"])
    record(row.by, "document not accepted", return_, says=f"{row.name}: {says}")
    count_pages(return_, row.paper)


def _is_wordless(row):
    """Whether nobody has looked for words in the pictures of a scan or a photo yet."""
    return not words_of(row) and not default_storage.exists(seen_words_name(row))


def _read_pictures(row):
    """What can be read from the pictures of its first pages. A page that cannot be read has no words."""
    found = []
    for page in range(1, min(row.drawn, _READ) + 1):
        if str(page) in row.undrawn:
            continue
        try:
            found.append(opened("words_in", kept(picture_name(row, page)), seconds=30))
        except NotOpened:
            found.append("")
    _keep(seen_words_name(row), "\n".join(found).encode())


def paged_name(row):
    """Of a tagged page as a PDF: what people see of it."""
    return f"{row.file}.paged"


def words_name(row):
    return f"{row.file}.words"


def seen_words_name(row):
    """Of what was read from the pictures, turned as they are now."""
    return f"{row.file}.{row.turn}.seen"


def picture_name(row, page):
    return f"{row.file}.{row.turn}.{page}"


def words_of(row):
    """The words of a PDF, in small letters; empty where it has none."""
    return " ".join(_own_words(row).lower().split())


def _own_words(row):
    if row.kind not in _WITH_WORDS or not default_storage.exists(words_name(row)):
        return ""
    return kept(words_name(row)).decode()


def lines_of(row):
    """Its words line by line, its own or else those that were read from its pictures; and whether they were read so."""
    own = _own_words(row)
    if own.strip() or not default_storage.exists(seen_words_name(row)):
        return own, False
    return kept(seen_words_name(row)).decode(), True


def kept(name):
    with default_storage.open(name) as stored:
        return unseal_bytes(stored.read())


def _keep(name, content):
    default_storage.delete(name)  # half a file of a worker that died, or the same picture
    default_storage.save(name, ContentFile(seal_bytes(content)))
