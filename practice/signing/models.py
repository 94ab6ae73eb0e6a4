"""Requests for signature, and signatures. A signature stands while the figures that it is under stand."""

from django.db import models
from django.db.models import Q

from practice.firm.crypto import SealedField
from practice.firm.scope import FirmOwned


class SignatureRequest(FirmOwned):
    """One client asked to sign one snapshot: a one-time link, a code by mail, an identity check."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="signature_requests")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="requests")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    role = models.CharField(max_length=10)
    asked_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    voided_at = models.DateTimeField(null=True)
    identity_check = models.CharField(max_length=64, blank=True)
    identity_questions = models.JSONField(default=list)
    identity_tries = models.PositiveSmallIntegerField(default=0)
    identity_proved_at = models.DateTimeField(null=True)
    identity_failed_at = models.DateTimeField(null=True)
    identity_refused = models.CharField(max_length=200, blank=True)  # why the service had no questions, as the office reads it
    read_at = models.DateTimeField(null=True)  # when the client confirmed having looked through the whole return

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["snapshot", "client"], name="asked_once", condition=Q(voided_at=None)),
        ]

    def __str__(self):
        return f"{self.client} for {self.of}"


class Signature(FirmOwned):
    """One person's signature for one authority, under the figures of `snapshot`. `image` is the drawn PNG and `pin` the person's
    own five digits, both encrypted; `pdf` the authorization's file name."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="signatures")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="signatures")
    authority = models.CharField(max_length=10)
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    role = models.CharField(max_length=10)
    name = models.CharField(max_length=90)
    image = SealedField()
    pin = SealedField(blank=True)
    manner = models.CharField(max_length=8, choices=[("portal", "in the portal"), ("office", "in the office")])
    witness = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    signed_at = models.DateTimeField(auto_now_add=True)
    address = models.GenericIPAddressField(null=True)
    voided_at = models.DateTimeField(null=True)
    pdf = models.CharField(max_length=120, blank=True)
    trouble = models.CharField(max_length=200, blank=True)  # why the authorization could not be made

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["of", "authority", "client"], name="signed_once", condition=Q(voided_at=None)),
            models.CheckConstraint(condition=~Q(manner="office") | Q(witness__isnull=False), name="office_has_witness"),
        ]

    def __str__(self):
        return f"{self.name} for {self.authority}"
