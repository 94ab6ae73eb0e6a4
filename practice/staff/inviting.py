"""Colleagues are invited by mail and choose their own password; the same link lets somebody set another one."""

import hashlib
import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Role, Staff
from practice.firm.permissions import fetch, require
from practice.firm.refusals import Cannot
from practice.firm.texts import written
from practice.staff.models import Invitation
from taxcore.engine import BadValue

DAYS = 7


@transaction.atomic
def invite(actor, email, name, initials, role):
    """Somebody new. BadValue where a field does not fit or is taken; inviting an address again replaces the link."""
    require(actor, "administer", actor)
    email, name, initials = checked_person(actor.firm, email, name, initials, role)
    if Staff.objects.filter(email__iexact=email).exists():
        raise BadValue("Somebody signs in with this address already.", email)
    rows = Invitation.objects.for_firm(actor.firm).filter(used_at=None, withdrawn_at=None, staff=None)
    rows.filter(email__iexact=email).update(withdrawn_at=timezone.now())
    if rows.filter(initials=initials).exists():
        raise BadValue("Somebody who was invited has these initials.", initials)
    made = _made(actor, email, name, initials, role)
    record(actor, "colleague invited", firm=actor.firm, says=f"{name}, {Role(role).label.lower()}")
    return made


def checked_person(firm, email, name, initials, role):
    email, initials = email.strip().lower(), initials.strip().upper()
    try:
        validate_email(email)
    except ValidationError:
        raise BadValue("Enter an email address such as robin@practice.example.", email) from None
    if not (1 < len(initials) <= 3 and initials.isalpha()):
        raise BadValue("Initials are two or three letters.", initials)
    if firm is not None and Staff.objects.filter(firm=firm, initials=initials).exists():
        raise BadValue("A colleague has these initials.", initials)
    if role not in Role.values:
        raise BadValue("Choose a role.", role)
    return email, written(name, "The name", 80, "Enter the name."), initials


@transaction.atomic
def send_password_link(actor, staff_id):
    """A colleague who forgot theirs gets a link; the password they have works until it is used."""
    staff = Staff.objects.filter(firm=actor.firm, is_active=True, pk=staff_id).first()
    require(actor, "administer", actor)
    if staff is None:
        raise Cannot("There is no such colleague.")
    Invitation.objects.for_firm(actor.firm).filter(staff=staff, used_at=None, withdrawn_at=None).update(
        withdrawn_at=timezone.now()
    )
    made = _made(actor, staff.email, staff.name, staff.initials, staff.role, staff)
    record(actor, "password link sent", firm=actor.firm, says=staff.name)
    return made


def _made(actor, email, name, initials, role, staff=None):
    from practice.staff.tasks import mail_invitation

    token = secrets.token_urlsafe(32)
    made = Invitation.objects.create(
        firm=actor.firm, email=email, name=name, initials=initials, role=role, staff=staff, by=actor, token_to_mail=token,
        token_digest=digest(token), expires_at=timezone.now() + timedelta(days=DAYS),
    )  # fmt: skip
    mail_invitation.ask(invitation_id=made.pk)
    return made


@transaction.atomic
def withdraw(actor, invitation_id):
    row = fetch(Invitation.objects.filter(used_at=None, withdrawn_at=None), actor, pk=invitation_id)
    require(actor, "administer", row)
    row.withdrawn_at = timezone.now()
    row.save(update_fields=["withdrawn_at"])
    record(actor, "invitation withdrawn", firm=actor.firm, says=str(row))


def look_up(token):
    """The invitation of a link. Cannot where it opens nothing any more; looking uses nothing up."""
    rows = Invitation.objects.across_firms("nobody is signed in; the token names the row").select_related("firm", "staff", "by")
    row = rows.filter(token_digest=digest(token)).first()
    if row is None or row.used_at or row.withdrawn_at or row.expires_at < timezone.now():
        raise Cannot("This link does not work any more. Ask your administrator for a new one.")
    return row


@transaction.atomic
def accept(token, password):
    """The colleague, who may now sign in with that password. BadValue where it is too weak."""
    row = Invitation.objects.across_firms("the same").select_for_update().get(pk=look_up(token).pk)
    row = row if row.used_at is None else look_up(token)
    staff = row.staff or Staff(firm=row.firm, email=row.email, name=row.name, initials=row.initials, role=row.role)
    if row.staff is None and Staff.objects.filter(email__iexact=row.email).exists():
        raise Cannot("Somebody signs in with this address already.")
    set_password(staff, password)
    row.used_at = timezone.now()
    row.save(update_fields=["used_at"])
    record(staff, "password set" if row.staff else "colleague joined", firm=row.firm, says=staff.name)
    return staff


def set_password(staff, password):
    """BadValue where it is too weak. Whoever is signed in with the one before is signed out."""
    try:
        validate_password(password, staff)
    except ValidationError as weak:
        raise BadValue(" ".join(weak.messages), "") from None
    staff.set_password(password)
    staff.save()


def digest(token):
    """What is kept of a token."""
    return hashlib.sha256(f"{settings.SECRET_KEY}:join:{token}".encode()).hexdigest()
