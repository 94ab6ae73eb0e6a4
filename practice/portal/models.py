"""Links into the portal, and news for clients. Only digests are kept; a link opens once, and only with the code from the mail
after it."""

from django.db import models

from practice.firm.crypto import SealedField
from practice.firm.scope import FirmOwned


class PortalLink(FirmOwned):
    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="+")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    token_digest = models.CharField(max_length=64, unique=True)
    made_at = models.DateTimeField(auto_now_add=True)
    expires_at = models.DateTimeField()
    opened_at = models.DateTimeField(null=True)
    code_digest = models.CharField(max_length=64, blank=True)
    code_sent_at = models.DateTimeField(null=True)
    code_tries = models.PositiveSmallIntegerField(default=0)
    codes_sent = models.PositiveSmallIntegerField(default=0)
    closed_at = models.DateTimeField(null=True)
    # What is still to be mailed, sealed, until it is; and why it could not be
    purpose = models.CharField(max_length=12, blank=True)
    token_to_mail = SealedField(blank=True)
    code_to_mail = SealedField(blank=True)
    mailed_at = models.DateTimeField(null=True)
    trouble = models.CharField(max_length=200, blank=True)

    def __str__(self):
        return f"{self.client} {self.made_at:%Y-%m-%d}"


class Alert(FirmOwned):
    """News of a return for a client who asked for it, by mail or text. It names no amount."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="alerts")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    way = models.CharField(max_length=4)
    says = models.CharField(max_length=160)
    made_at = models.DateTimeField(auto_now_add=True)
    sent_at = models.DateTimeField(null=True)
    trouble = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.says} to {self.client} by {self.way}"
