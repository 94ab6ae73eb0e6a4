"""What comes in by itself is fetched: mail from a mailbox by POP3 (RFC 1939), files from the folder that a scanner writes into.

Nothing is taken out of the mailbox or the folder before it is stored; what was stored and not taken out is known by its hash.
"""

import base64
import logging
import poplib
import time
from pathlib import Path
from urllib.parse import urlsplit

from django.conf import settings

from practice.firm.events import record
from practice.firm.models import Firm
from practice.intake import attaching, incoming
from practice.intake.confined import NotOpened, opened
from practice.intake.models import Incoming
from taxcore.engine import BadValue

_log = logging.getLogger(__name__)
_AT_ONCE = 50  # mails or files of one round
_QUIET = 5  # seconds since a scanner last wrote to a file
_LARGEST = 40_000_000  # bytes of a mail


def address_of(firm):
    """Where clients mail documents to."""
    return settings.MAIL_IN_ADDRESS.format(firm=firm.pk)


def fetch_mail():
    """Take in what lies in the mailbox; how many mails that were. Nothing where there is no mailbox, or it does not answer."""
    if not settings.MAIL_IN:
        return 0
    try:
        return _fetch_mail(urlsplit(settings.MAIL_IN))
    except (OSError, poplib.error_proto) as error:
        _log.warning("the mailbox for documents: %s", error)
        return 0


def _fetch_mail(at):
    kind = poplib.POP3_SSL if at.scheme == "pops" else poplib.POP3
    box = kind(at.hostname, at.port, timeout=settings.OUTSIDE_TIMEOUT)
    try:
        box.user(at.username)
        box.pass_(settings.MAIL_IN_KEY)
        numbers = [int(line.split()[0]) for line in box.list()[1]][:_AT_ONCE]
        for number in numbers:
            if take_mail(b"\n".join(box.retr(number)[1])) is not None:
                box.dele(number)
    finally:
        box.quit()
    return len(numbers)


def take_mail(content):
    """The documents of one mail, for the practice that it is addressed to; what is none is said in the log of the practice. None
    where the mail stays in the mailbox, since too much waits to be sorted."""
    try:
        if len(content) > _LARGEST:
            raise NotOpened("too large")
        found = opened("mail", content)
    except NotOpened as error:
        _log.warning("a mail with documents could not be read: %s", error.says)
        return []
    firm = _firm_of(found["to"])
    if firm is None:
        _log.warning("a mail with documents for no practice here")
        return []
    if incoming.is_full(firm):
        _log.warning("mail with documents stays in the mailbox: practice %s has too many to sort", firm.pk)
        return None
    made = []
    for name, encoded in found["files"]:
        try:
            content = base64.b64decode(encoded)
            made.append(incoming.receive(firm, Incoming.Source.MAIL, name, content, found["sender"], found["subject"]))
        except BadValue as bad:
            record(None, "document not accepted", firm=firm, says=f"{attaching.plain_name(name)}: {bad.says}", by=found["sender"])
    if not found["files"]:
        record(None, "mail without documents", firm=firm, says=found["subject"], by=found["sender"])
    return made


def _firm_of(addresses):
    for firm in Firm.objects.all():
        if any(one.lower() == address_of(firm).lower() for one in addresses):
            return firm
    return None


def fetch_scans():
    """Take in what scanners wrote; how many files that were. A file that is still being written waits."""
    root, taken = Path(settings.SCAN_FOLDER), 0
    if not settings.SCAN_FOLDER:
        return 0
    for firm in Firm.objects.all():
        folder = root / str(firm.pk)
        folder.mkdir(parents=True, exist_ok=True)
        for path in sorted(folder.iterdir())[:_AT_ONCE] if not incoming.is_full(firm) else ():
            taken += _take_scan(firm, path)
    return taken


def _take_scan(firm, path):
    """Whether a file was taken. One that is no document moves into `not-accepted`, so that nothing is lost or tried for ever."""
    if not path.is_file() or path.is_symlink() or path.name.startswith(".") or time.time() - path.stat().st_mtime < _QUIET:
        return False
    try:
        if path.stat().st_size > attaching.LARGEST:
            raise BadValue(f"It has {path.stat().st_size / 1e6:.0f} MB.", "")
        incoming.receive(firm, Incoming.Source.FOLDER, path.name, path.read_bytes())
    except BadValue as bad:
        aside = path.parent / "not-accepted"
        aside.mkdir(exist_ok=True)
        path.rename(aside / f"{time.time_ns()}-{path.name}")
        record(None, "document not accepted", firm=firm, says=f"{attaching.plain_name(path.name)}: {bad.says}", by="scanner")
        return False
    path.unlink()
    return True
