"""Mail to clients, sent in the background and tried again while the mail server is away."""

from django.conf import settings
from django.core.mail import send_mail
from django.template.loader import render_to_string
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from practice.firm.crypto import unseal_text
from practice.portal.models import PortalLink

PATIENT = RetryStrategy(max_attempts=12, exponential_wait=3)


def _link(link_id):
    return PortalLink.objects.across_firms("background work").select_related("client", "firm", "of").get(pk=link_id)


def _send(link, name, facts):
    context = facts | {"client": link.client, "firm": link.firm, "of": link.of}
    subject = render_to_string(f"portal/mail/{name}_subject.txt", context).strip()
    send_mail(subject, render_to_string(f"portal/mail/{name}.txt", context), settings.DEFAULT_FROM_EMAIL, [link.client.email])


@app.task(retry=PATIENT)
def mail_link(link_id, sealed_token, purpose):
    link = _link(link_id)
    if link.closed_at is None:
        _send(link, purpose, {"url": f"{settings.PUBLIC_URL}/portal/enter/{unseal_text(sealed_token)}"})


@app.task(retry=PATIENT)
def mail_code(link_id, sealed_code):
    _send(_link(link_id), "code", {"code": unseal_text(sealed_code)})
