"""One-time links and codes. Tokens are random, only digests are stored, and each step of misuse is an event."""

import hashlib
import hmac
import logging
import secrets
from datetime import timedelta

from django.conf import settings
from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.refusals import Cannot
from practice.portal.models import PortalLink

log = logging.getLogger(__name__)

LINK_DAYS = 7
CODE_MINUTES = 10
CODE_TRIES = 8  # over all codes of a link: a new code does not begin anew
CODES = 5  # that are sent for one link
OWNERS = "share"  # the purpose of a link that opens nothing but what a return states to one of its owners


class LinkRefused(Cannot):
    """The link or code does not open the portal; `says` is for the client."""


def send_link(return_, client, purpose):
    """A new link by mail. Earlier ones of this client for this return that were not opened stop working; whoever is in the portal
    stays there, unless links to sign are sent anew: that is how the office ends what somebody else may have opened."""
    from practice.portal.tasks import mail_link

    now = timezone.now()
    earlier = PortalLink.objects.for_firm(return_.firm).filter(of=return_, client=client, closed_at=None)
    # Who signs a return and owns a part of it has a link for each.
    earlier = earlier.filter(purpose=OWNERS) if purpose == OWNERS else earlier.exclude(purpose=OWNERS)
    (earlier if purpose == "signature" else earlier.filter(opened_at=None)).update(closed_at=now)
    token = secrets.token_urlsafe(32)
    link = PortalLink.objects.create(
        firm=return_.firm, of=return_, client=client, token_digest=_digest(token), expires_at=now + timedelta(days=LINK_DAYS),
        purpose=purpose, token_to_mail=token,
    )  # fmt: skip
    mail_link.ask(link_id=link.pk)
    return link


def look_up(token):
    """The link of a token, if it may still be opened. LinkRefused otherwise, and an event for a known link."""
    link = _all().select_related("of", "client", "firm", "of__household").filter(token_digest=_digest(token)).first()
    if link is None:
        log.warning("a portal link that is none of ours was tried, digest %s", _digest(token)[:12])  # no firm to log it for
        raise LinkRefused("This link is not valid. Please use the newest email from the office, or call.")
    if link.closed_at or link.opened_at or link.expires_at < timezone.now():
        why = "used before" if link.opened_at else "expired" if link.expires_at < timezone.now() else "replaced by a newer one"
        record(None, "portal link refused", link.of, says=f"The link was {why}.", by=link.client.full_name)
        raise LinkRefused(f"This link was {why}. Please ask the office for a new one.")
    return link


def open_link(token):
    """Use the link up and send a code. The caller keeps the link's id in the browser's session."""
    with transaction.atomic():
        found = look_up(token)
        link = _all().select_for_update(of=("self",)).get(pk=found.pk)
        if link.opened_at:
            raise LinkRefused("This link was used before. Please ask the office for a new one.")
        link.opened_at = timezone.now()
        _new_code(link)
        record(None, "portal link opened", link.of, by=link.client.full_name)
        return link


def send_code_again(link_id):
    with transaction.atomic():
        link = _all().select_for_update(of=("self",)).get(pk=link_id, closed_at=None)
        if link.codes_sent >= CODES or link.code_tries >= CODE_TRIES:
            raise LinkRefused("No more codes are sent for this link. Please ask the office for a new one.")
        if link.code_sent_at and timezone.now() - link.code_sent_at < timedelta(seconds=30):
            raise LinkRefused("A code was just sent. Please wait 30 seconds.")
        _new_code(link)


def _new_code(link):
    from practice.portal.tasks import mail_code

    code = f"{secrets.randbelow(10**6):06d}"
    link.code_digest, link.code_sent_at = _digest(f"{link.pk}:{code}"), timezone.now()
    link.codes_sent += 1
    link.code_to_mail, link.trouble = code, ""
    link.save()
    mail_code.ask(link_id=link.pk)


def enter_code(link_id, code):
    """The link, now proven; LinkRefused when the code is wrong, too old or was tried too often."""
    refusal = ""
    with transaction.atomic():
        link = _all().select_for_update(of=("self",)).select_related("of", "client", "firm").get(pk=link_id)
        if link.closed_at or link.expires_at < timezone.now() or link.code_tries >= CODE_TRIES:
            refusal = "This code does not work any more. Please ask the office for a new link."
        elif link.code_sent_at is None or timezone.now() - link.code_sent_at > timedelta(minutes=CODE_MINUTES):
            refusal = "The code has expired. Request a new one below."
        elif not hmac.compare_digest(link.code_digest, _digest(f"{link.pk}:{code.strip()}")):
            link.code_tries += 1
            link.save(update_fields=["code_tries"])
            record(None, "portal code wrong", link.of, by=link.client.full_name)
            refusal = f"Wrong code. {CODE_TRIES - link.code_tries} tries left."
        else:
            link.code_digest = ""
            link.save(update_fields=["code_digest"])
            record(None, "portal entered", link.of, by=link.client.full_name)
    if refusal:
        raise LinkRefused(refusal)
    return link


def _all():
    return PortalLink.objects.across_firms("a client is no member of a firm; the token names the row")


def _digest(text):
    return hashlib.sha256(f"{settings.SECRET_KEY}:{text}".encode()).hexdigest()
