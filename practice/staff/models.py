"""Invitations to join a practice, and links for a new password."""

from django.db import models
from django.db.models import Q

from practice.firm.crypto import SealedField
from practice.firm.models import Role
from practice.firm.scope import FirmOwned


class CalendarLink(FirmOwned):
    """The address under which a calendar reads somebody's due dates without signing in. `named`: with the clients' names."""

    staff = models.OneToOneField("firm.Staff", on_delete=models.CASCADE, related_name="calendar_link")
    token_digest = models.CharField(max_length=64, unique=True)
    named = models.BooleanField(default=False)
    made_at = models.DateTimeField(auto_now_add=True)
    read_at = models.DateTimeField(null=True)

    def __str__(self):
        return f"calendar of {self.staff}"


class Invitation(FirmOwned):
    """A link by mail, for one use: somebody new (`name`, `initials`, `role`), or a colleague (`staff`) who sets another password.
    Only the token's digest stays once it was mailed."""

    email = models.EmailField()
    name = models.CharField(max_length=80)
    initials = models.CharField(max_length=3)
    role = models.CharField(max_length=16, choices=Role)
    staff = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    token_digest = models.CharField(max_length=64, unique=True)
    token_to_mail = SealedField(blank=True)
    mailed_at = models.DateTimeField(null=True)
    trouble = models.CharField(max_length=200, blank=True)
    used_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["firm", "email"], name="invited_once", condition=Q(used_at=None, withdrawn_at=None, staff=None)
            )
        ]

    def __str__(self):
        return f"{self.name} <{self.email}>"
