"""The second factor at sign-in: time-based codes (RFC 6238) of an authenticator, and recovery codes for when it is lost."""

import hashlib
import secrets
from datetime import timedelta

import pyotp
from django.conf import settings
from django.db import transaction
from django.utils import timezone

from practice.firm.events import record
from practice.firm.models import Factor, Firm, RecoveryCode, Role
from practice.firm.permissions import require
from practice.firm.refusals import Cannot

RECOVERY_CODES = 10
TRIES = 5  # wrong codes, then a wait
WAIT = timedelta(minutes=15)
STEP = 30  # seconds a code is shown
_LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"  # none that is taken for another


class WrongCode(Cannot):
    """The code does not open; `says` is for who typed it."""


def in_force(staff):
    return Factor.objects.filter(staff=staff, confirmed_at__isnull=False).exists()


def wanted(staff):
    """Whether the practice asks everybody of this role for one."""
    return staff.role in staff.firm.factor_roles


@transaction.atomic
def begin(staff):
    """A secret for an authenticator, not in force yet: the one that was begun, where there is one. Cannot once one is in
    force."""
    found = Factor.objects.select_for_update().filter(staff=staff).first()
    if found is None:
        return Factor.objects.create(staff=staff, secret=pyotp.random_base32())
    if found.confirmed_at:
        raise Cannot("You have a second factor. Remove it first to set up another one.")
    return found


def address_of(factor):
    """The otpauth address that an authenticator reads from the picture."""
    return pyotp.TOTP(factor.secret).provisioning_uri(name=factor.staff.email, issuer_name=f"Impuesto {factor.staff.firm.name}")


def confirm(staff, code):
    """Put it in force with a code that proves it. Gives the recovery codes, which nobody can read again."""
    _tried(staff, code, recovery=False, confirmed=False)
    with transaction.atomic():
        Factor.objects.filter(staff=staff).update(confirmed_at=timezone.now())
        record(staff, "second factor set up", firm=staff.firm)
        return _recovery_codes(staff)


def check(staff, code):
    """WrongCode unless it is the authenticator's, or a recovery code that was not used."""
    _tried(staff, code, recovery=True, confirmed=True)


def _tried(staff, code, recovery, confirmed):
    """One try under the row's lock. A wrong one is stored, so the refusal comes after the transaction."""
    code, says = "".join(code.lower().split()).replace("-", ""), ""
    with transaction.atomic():
        row = Factor.objects.select_for_update().filter(staff=staff, confirmed_at__isnull=not confirmed).first()
        if row is None:
            says = "There is no second factor here to prove."
        elif row.held_until and row.held_until > timezone.now():
            says = "Too many wrong codes. Wait 15 minutes, or ask your administrator."
        elif _is_right(row, code) or (recovery and _use_recovery(staff, code)):
            row.wrong, row.held_until = 0, None
            row.save()
        else:
            row.wrong += 1
            if row.wrong >= TRIES:
                row.wrong, row.held_until = 0, timezone.now() + WAIT
            row.save()
            record(staff, "second factor wrong", firm=staff.firm)
            says = "Wrong code. Use the newest one that your authenticator shows."
    if says:
        raise WrongCode(says)


def _is_right(row, code):
    """Of now, or of the step before or after where clocks differ; never one that was used, nor an older one."""
    now = int(timezone.now().timestamp()) // STEP
    for step in (now - 1, now, now + 1):
        if step > row.last_step and secrets.compare_digest(
            pyotp.TOTP(row.secret).at(step * STEP), code if code.isascii() else ""
        ):
            row.last_step = step
            return True
    return False


def _use_recovery(staff, code):
    used = RecoveryCode.objects.filter(staff=staff, digest=_digest(staff, code), used_at=None).update(used_at=timezone.now())
    if used:
        record(staff, "recovery code used", firm=staff.firm, says=f"{codes_left(staff)} left")
    return bool(used)


def codes_left(staff):
    return RecoveryCode.objects.filter(staff=staff, used_at=None).count()


def _recovery_codes(staff):
    RecoveryCode.objects.filter(staff=staff).delete()
    codes = ["".join(secrets.choice(_LETTERS) for _ in range(10)) for _ in range(RECOVERY_CODES)]
    RecoveryCode.objects.bulk_create(RecoveryCode(staff=staff, digest=_digest(staff, code)) for code in codes)
    return [f"{code[:5]}-{code[5:]}" for code in codes]


def new_codes(staff, code):
    """Other recovery codes; those before stop working. WrongCode without a code of the authenticator."""
    _tried(staff, code, recovery=False, confirmed=True)
    with transaction.atomic():
        record(staff, "recovery codes made", firm=staff.firm)
        return _recovery_codes(staff)


@transaction.atomic
def remove(staff, code):
    """Somebody's own, with a code. Cannot where the practice asks for one: then another one is set up at once."""
    check(staff, code)
    _forget(staff)
    record(staff, "second factor removed", firm=staff.firm)


@transaction.atomic
def reset(actor, staff):
    """By an administrator, for who lost authenticator and codes; they set up another one when they sign in next."""
    require(actor, "administer", staff)
    _forget(staff)
    record(actor, "second factor reset", firm=actor.firm, says=staff.name)


def _forget(staff):
    Factor.objects.filter(staff=staff).delete()
    RecoveryCode.objects.filter(staff=staff).delete()


@transaction.atomic
def ask_of(actor, roles):
    """The roles that sign in with a second factor from now on."""
    require(actor, "administer", actor)
    firm = Firm.objects.select_for_update().get(pk=actor.firm_id)
    firm.factor_roles = [role for role in Role.values if role in roles]
    firm.save(update_fields=["factor_roles"])
    record(actor, "second factor asked of", firm=firm, says=", ".join(firm.factor_roles) or "nobody")


def _digest(staff, code):
    return hashlib.sha256(f"{settings.SECRET_KEY}:{staff.pk}:{code}".encode()).hexdigest()
