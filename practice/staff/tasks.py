"""Mail to colleagues."""

from django.conf import settings
from django.core.mail import send_mail
from django.template.loader import render_to_string
from django.utils import timezone

from practice.firm.jobs import job
from practice.staff.models import Invitation


def _all():
    return Invitation.objects.across_firms("background work")


def _lost(before):
    waiting = _all().filter(made_at__lt=before, used_at=None, withdrawn_at=None).exclude(token_to_mail="")
    return [{"invitation_id": pk} for pk in waiting.values_list("pk", flat=True)]


def _failed(says, invitation_id):
    _all().filter(pk=invitation_id).update(trouble=f"The email could not be sent: {says}"[:200], token_to_mail="")


@job("mail invitation", lost=_lost, failed=_failed, tries=11)
def mail_invitation(invitation_id):
    """The link, once."""
    row = _all().select_related("firm", "by").get(pk=invitation_id)
    if row.token_to_mail and row.withdrawn_at is None:
        context = {"row": row, "firm": row.firm, "url": f"{settings.PUBLIC_URL}/join/{row.token_to_mail}"}
        subject = f"Your password at {row.firm.name}" if row.staff_id else f"{row.firm.name} invites you"
        send_mail(subject, render_to_string("staff/mail.txt", context), settings.DEFAULT_FROM_EMAIL, [row.email])
        _all().filter(pk=invitation_id).update(token_to_mail="", mailed_at=timezone.now(), trouble="")
