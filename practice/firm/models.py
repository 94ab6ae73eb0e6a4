"""Firm, staff and the event log."""

from django.contrib.auth.base_user import AbstractBaseUser, BaseUserManager
from django.db import models
from django.db.models.functions import Lower
from django.utils import timezone

from practice.firm.compiled import Compiled
from practice.firm.crypto import SealedField
from practice.firm.scope import FirmOwned


def lock_needs():
    """What a fresh practice wants done before a return is locked (practice/review/gate.py)."""
    return ["first", "points"]


def every_role():
    """The Safeguards Rule asks practices for a second factor (16 CFR 314.4(c)(5)): a fresh practice asks everybody."""
    return list(Role.values)


class Firm(models.Model):
    """A practice. A training practice files only with stand-ins and carries only numbers that were never issued.

    `silenced` maps codes of diagnostics nobody here wants to hear to who said so, when and why; `answers` maps fields that
    are answered once for all returns to value, who and when. What matters to reviewers: amounts from `matters_from` on, and
    the lines of `matters_lines` (names as `us.1040:total_tax`) whatever their amount. `lock_needs` must be done before a return
    is locked; `reviewers_correct`: reviewers may enter amounts too; `preparers_add_clients`: preparers may take on clients.
    With `shares_follow`, what a return issued follows it into the returns of others while both are open (returns/following.py).
    `efin` and `originator_pin` identify the practice as the originator of electronic returns. `steps_off` are steps of the track
    (practice/track) that the practice does not ask for; clients are reminded every `reminds_every` days. With `pay_first` nothing
    is filed before its invoice is paid. Documents are kept for `keeps_years` (practice/delivery/retaining.py); `color`
    and `picture` are the practice's own on what clients see. People in `factor_roles` sign in with a second factor.
    """

    name = models.CharField(max_length=80)
    town = models.CharField(max_length=60, blank=True)
    address = models.CharField(max_length=120, blank=True)
    telephone = models.CharField(max_length=20, blank=True)
    season = models.PositiveSmallIntegerField()
    training = models.BooleanField(default=False)
    training_day = models.DateField(null=True, blank=True)
    silenced = models.JSONField(default=dict)
    answers = models.JSONField(default=dict)
    matters_from = models.DecimalField(max_digits=12, decimal_places=0, default=1000)
    matters_lines = models.JSONField(default=list)
    lock_needs = models.JSONField(default=lock_needs)
    reviewers_correct = models.BooleanField(default=False)
    preparers_add_clients = models.BooleanField(default=True)
    shares_follow = models.BooleanField(default=False)
    steps_off = models.JSONField(default=list)
    reminds_every = models.PositiveSmallIntegerField(default=7)
    pay_first = models.BooleanField(default=False)
    factor_roles = models.JSONField(default=every_role)
    keeps_years = models.PositiveSmallIntegerField(default=7)
    color = models.CharField(max_length=7, blank=True)
    efin = models.CharField(max_length=6, blank=True)
    originator_pin = models.CharField(max_length=5, blank=True)
    file_needs = models.JSONField(default=list)  # signatures of the practice before a return goes out: "preparer", "second"

    @property
    def picture(self):
        """Of the letterhead, PNG in base64; empty for none. Not read with the firm, which every request reads."""
        found = LetterheadPicture.objects.filter(firm=self).first()
        return found.content if found else ""

    def today(self):
        """The day the firm lives on: the calendar's, or the fixed day of a training practice."""
        return self.training_day or timezone.localdate()

    def day_of(self, moment):
        """The firm's day of a moment: all that happens in a training practice happens on its fixed day."""
        return self.training_day or timezone.localtime(moment).date()

    def __str__(self):
        return self.name


class LetterheadPicture(models.Model):
    """The picture of a firm's letterhead, PNG in base64."""

    firm = models.OneToOneField(Firm, on_delete=models.CASCADE, primary_key=True, related_name="+")
    content = models.TextField()

    def __str__(self):
        return f"picture of {self.firm}"


class Role(models.TextChoices):
    PREPARER = "preparer", "Preparer"
    REVIEWER = "reviewer", "Reviewer"
    SIGNER = "signer", "Signer"
    ADMINISTRATOR = "administrator", "Administrator"


class StaffManager(BaseUserManager):
    def get_queryset(self):
        """With the firm: every request needs both."""
        return super().get_queryset().select_related("firm")

    def get(self, *args, **lookup):
        """As always; by number, as every request does, without making SQL anew."""
        pk = lookup.get("pk") if len(lookup) == 1 and not args else None
        found = _STAFF(pk) if type(pk) is int else ()
        return found[0] if found else super().get(*args, **lookup)

    def get_by_natural_key(self, email):
        return self.get(email__iexact=email)


_STAFF = Compiled(lambda pk: Staff.objects.filter(pk=pk))


class Staff(AbstractBaseUser):
    """Somebody who works at a firm. `initials` mark what they did; `away_until` is the last day of a leave."""

    firm = models.ForeignKey(Firm, on_delete=models.PROTECT, related_name="staff")
    email = models.EmailField(unique=True)
    name = models.CharField(max_length=80)
    initials = models.CharField(max_length=3)
    role = models.CharField(max_length=16, choices=Role)
    is_active = models.BooleanField(default=True)
    preparer_number = models.CharField(max_length=20, blank=True)  # by which authorities know a paid preparer
    away_until = models.DateField(null=True)

    USERNAME_FIELD = "email"
    objects = StaffManager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["firm", "initials"], name="initials_once_a_firm"),
            models.UniqueConstraint(Lower("email"), name="email_once"),
            models.CheckConstraint(condition=models.Q(role__in=Role.values), name="role_is_known"),
        ]

    def __str__(self):
        return self.name


class Factor(models.Model):
    """The second factor of somebody: the secret that their authenticator shares with us. In force once a code proved it; a code
    counts once (`last_step`); after several wrong ones it waits."""

    staff = models.OneToOneField(Staff, on_delete=models.CASCADE, related_name="factor")
    secret = SealedField()
    made_at = models.DateTimeField(auto_now_add=True)
    confirmed_at = models.DateTimeField(null=True)
    last_step = models.BigIntegerField(default=0)
    wrong = models.PositiveSmallIntegerField(default=0)
    held_until = models.DateTimeField(null=True)

    def __str__(self):
        return f"second factor of {self.staff}"


class RecoveryCode(models.Model):
    """A code that opens once instead of the authenticator's."""

    staff = models.ForeignKey(Staff, on_delete=models.CASCADE, related_name="recovery_codes")
    digest = models.CharField(max_length=64, unique=True)
    used_at = models.DateTimeField(null=True)

    def __str__(self):
        return f"recovery code of {self.staff}"


class Passkey(models.Model):
    """A passkey of somebody (WebAuthn): it signs in by itself, since the device verifies who holds it. `data` is the credential
    as the device made it, in base64; nothing in it is secret."""

    staff = models.ForeignKey(Staff, on_delete=models.CASCADE, related_name="passkeys")
    name = models.CharField(max_length=40)
    credential = models.CharField(max_length=400, unique=True)
    data = models.TextField()
    counter = models.BigIntegerField(default=0)
    made_at = models.DateTimeField(auto_now_add=True)
    used_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

    def __str__(self):
        return f"{self.name} of {self.staff}"


class SignedIn(models.Model):
    """One session of somebody of the staff: where from, since when, last seen. Ended by them, an administrator, or time."""

    staff = models.ForeignKey(Staff, on_delete=models.CASCADE, related_name="sessions")
    key = models.CharField(max_length=40)
    address = models.GenericIPAddressField(null=True)
    browser = models.CharField(max_length=80, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    seen_at = models.DateTimeField(default=timezone.now)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-seen_at"]

    def __str__(self):
        return f"{self.staff} from {self.address}"


class Certificate(FirmOwned):
    """What the PDFs that leave are signed with (pages/certifying.py). `keys`: PKCS 12 in base64. One is in force."""

    keys = SealedField()
    subject = models.CharField(max_length=120)
    fingerprint = models.CharField(max_length=64)
    until = models.DateField()
    own = models.BooleanField(default=False)  # brought by the practice; else made by the program
    by = models.ForeignKey(Staff, on_delete=models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["firm"], name="one_certificate_in_force", condition=models.Q(ended_at=None)),
        ]

    def __str__(self):
        return self.subject


class Event(FirmOwned):
    """One thing that happened. Rows are only ever added; the database refuses anything else."""

    at = models.DateTimeField(auto_now_add=True)
    staff = models.ForeignKey(Staff, on_delete=models.PROTECT, null=True, related_name="+")
    by = models.CharField(max_length=80)
    what = models.CharField(max_length=60)
    says = models.TextField(blank=True)
    household = models.ForeignKey("clients.Household", on_delete=models.PROTECT, null=True, related_name="events")
    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, null=True, related_name="events")
    facts = models.JSONField(default=dict)

    class Meta:
        ordering = ["-id"]
        indexes = [
            models.Index(fields=["firm", "-id"], name="event_by_firm"),
            models.Index(fields=["of", "-id"], name="event_by_return"),
            models.Index(fields=["household", "-id"], name="event_by_household"),
        ]

    def __str__(self):
        return f"{self.at:%Y-%m-%d %H:%M} {self.by}: {self.what}"
