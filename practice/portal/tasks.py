"""Mail and text messages to clients, sent in the background and tried again while the server is away."""

from django.conf import settings
from django.core.mail import send_mail
from django.template.loader import render_to_string
from django.utils import timezone

from practice.clients.models import News
from practice.firm import outside
from practice.firm.jobs import job
from practice.firm.refusals import Cannot
from practice.portal.models import Alert, PortalLink

_TRIES = 11  # with pauses that grow threefold: about two days
_ALERT_TRIES = 8  # news that are hours old are none


_WORDS = []


def has_words(function):
    """Who knows the practice's own words for a mail: called with the link and its purpose, gives them or nothing."""
    _WORDS.append(function)


def _all():
    return PortalLink.objects.across_firms("background work")


def _link(link_id):
    return _all().select_related("client", "firm", "of").get(pk=link_id)


def _send(link, name, facts):
    context = facts | {"client": link.client, "firm": link.firm, "of": link.of}
    subject = " ".join(render_to_string(f"portal/mail/{name}_subject.txt", context).split())
    own = next(filter(None, (words(link, name) for words in _WORDS)), "")
    template = "own" if own else name
    send_mail(
        subject,
        render_to_string(f"portal/mail/{template}.txt", context | {"own": own}),
        settings.DEFAULT_FROM_EMAIL,
        [link.client.email],
    )


def _failed(says, link_id):
    """The office sees it beside the request; a code is asked for again by the client."""
    _all().filter(pk=link_id).update(trouble=f"The email could not be sent: {says}"[:200], token_to_mail="", code_to_mail="")


def _lost_links(before):
    return [
        {"link_id": pk}
        for pk in _all().filter(closed_at=None, made_at__lt=before).exclude(token_to_mail="").values_list("pk", flat=True)
    ]


@job("mail link", lost=_lost_links, failed=_failed, tries=_TRIES)
def mail_link(link_id):
    """The link, once; a link that was replaced meanwhile is not sent."""
    link = _link(link_id)
    if link.closed_at is None and link.token_to_mail:
        _send(link, link.purpose, {"url": f"{settings.PUBLIC_URL}/portal/enter/{link.token_to_mail}"})
        _all().filter(pk=link_id).update(token_to_mail="", mailed_at=timezone.now(), trouble="")


def _lost_codes(before):
    return [
        {"link_id": pk}
        for pk in _all().filter(closed_at=None, code_sent_at__lt=before).exclude(code_to_mail="").values_list("pk", flat=True)
    ]


@job("mail code", lost=_lost_codes, failed=_failed, tries=_TRIES)
def mail_code(link_id):
    """The newest code, once."""
    link = _link(link_id)
    if link.code_to_mail:
        _send(link, "code", {"code": link.code_to_mail})
        _all().filter(pk=link_id, code_digest=link.code_digest).update(code_to_mail="")


class GatewayAway(Cannot):
    """The text gateway does not take the message; `says` tells why."""


def _alerts():
    return Alert.objects.across_firms("background work")


def _lost_alerts(before):
    waiting = _alerts().filter(sent_at=None, trouble="", made_at__lt=before)
    return [{"alert_id": pk} for pk in waiting.values_list("pk", flat=True)]


def _not_told(says, alert_id):
    _alerts().filter(pk=alert_id).update(trouble=says[:200])


@job("alert", lost=_lost_alerts, failed=_not_told, tries=_ALERT_TRIES)
def alert(alert_id):
    """Send it once; the gateway knows its key and sends none twice."""
    row = _alerts().select_related("client", "firm").get(pk=alert_id)
    if row.sent_at:
        return
    if row.way == News.TEXT:
        _text(row)
    else:
        send_mail(f"News from {row.firm.name}", row.says + "\n", settings.DEFAULT_FROM_EMAIL, [row.client.email])
    _alerts().filter(pk=alert_id).update(sent_at=timezone.now(), trouble="")


def _text(row):
    body = {"key": f"alert-{row.firm_id}-{row.pk}", "to": row.client.telephone, "text": row.says}
    headers = {"Authorization": f"Bearer {settings.TEXT_KEY}"}
    try:
        reply = outside.call("POST", f"{settings.TEXT_URL}/texts", json=body, headers=headers)
    except outside.Away as error:
        raise GatewayAway("The text gateway does not answer.") from error
    if reply.status_code != 200:
        raise GatewayAway(f"The text gateway refused it: {reply.json().get('error', reply.status_code)}.")
