"""Requests for signature, who signs for whom, signatures. A signature stands while the figures that it is under stand."""

from django.db import models
from django.db.models import Q
from django.utils import timezone

from practice.firm.crypto import SealedField
from practice.firm.scope import FirmOwned


class SignatureRequest(FirmOwned):
    """One client asked to sign one snapshot, until `expires_on`: a one-time link, a code by mail, an identity check. `agent`
    signs instead where somebody of the practice's clients represents them."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="signature_requests")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="requests")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    agent = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    role = models.CharField(max_length=10)
    expires_on = models.DateField(null=True)
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

    @property
    def expired(self):
        return self.expires_on is not None and self.expires_on < self.of.firm.today()

    @property
    def who_signs(self):
        return f"{self.agent.full_name} for {self.client.full_name}" if self.agent_id else self.client.full_name


class Representative(FirmOwned):
    """Somebody who signs a return for one of its signers: as what (`capacity`, a code of the pack), with which proof, until when.
    `person` where they are a client themselves; `seen` says how their identity was verified otherwise."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="representatives")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    person = models.ForeignKey("clients.Person", on_delete=models.PROTECT, null=True, related_name="+")
    name = models.CharField(max_length=90)
    capacity = models.CharField(max_length=20)
    proof = models.ForeignKey("intake.Attachment", on_delete=models.PROTECT, null=True, related_name="+")
    seen = models.CharField(max_length=120, blank=True)
    until = models.DateField(null=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["of", "client"], name="represented_once", condition=Q(ended_at=None)),
        ]

    def __str__(self):
        return f"{self.name} for {self.client}"


class PreparerSignature(FirmOwned):
    """Somebody of the practice signs a locked return: who prepared it, and a second one where the practice wants that. It stands
    for what is locked; another lock wants another one."""

    class Place(models.TextChoices):
        PREPARER = "preparer", "Paid preparer"
        SECOND = "second", "Second signature"

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="preparer_signatures")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="preparer_signatures")
    place = models.CharField(max_length=8, choices=Place)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    number = models.CharField(max_length=20, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["snapshot", "place"], name="preparer_signs_once")]

    def __str__(self):
        return f"{self.by} as {self.place}"


class Signature(FirmOwned):
    """One person's signature for one authority, under the figures of `snapshot`. `image` is the drawn PNG and `pin` the person's
    own five digits, both encrypted; `pdf` the authorization's file name. On paper there is a `scan` instead of an image, and
    `paper_day` stands beside the signature. `name` is who signed: the client, or who represents them in `capacity`."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="signatures")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="signatures")
    authority = models.CharField(max_length=10)
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    role = models.CharField(max_length=10)
    name = models.CharField(max_length=90)
    capacity = models.CharField(max_length=60, blank=True)
    image = SealedField(blank=True)
    pin = SealedField(blank=True)
    manner = models.CharField(
        max_length=8, choices=[("portal", "in the portal"), ("office", "in the office"), ("paper", "on paper")]
    )
    scan = models.ForeignKey("intake.Attachment", on_delete=models.PROTECT, null=True, related_name="+")
    paper_day = models.DateField(null=True)
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
            models.CheckConstraint(condition=Q(manner="portal") | Q(witness__isnull=False), name="office_has_witness"),
            models.CheckConstraint(
                condition=~Q(manner="paper") | Q(scan__isnull=False, paper_day__isnull=False), name="paper_has_scan_and_day"
            ),
        ]

    def __str__(self):
        return f"{self.name} for {self.authority}"

    @property
    def day(self):
        """The day of the signature."""
        return self.paper_day or timezone.localtime(self.signed_at).date()

    @property
    def signed_as(self):
        """Who signed, and for whom where it is not their own."""
        return f"{self.name}, {self.capacity} for {self.client.full_name}" if self.capacity else self.name
