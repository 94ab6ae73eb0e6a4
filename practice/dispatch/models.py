"""Submissions to authorities, requests for more time, and what came back."""

import uuid

from django.db import models
from django.db.models import Q

from practice.firm.scope import FirmOwned
from practice.returns.models import FILED, State

LIVE = [State.WAITING, State.QUEUED, State.SENT, State.TO_MAIL, *FILED]


class Conversation(FirmOwned):
    """One document for one authority. `key` makes repeating it harmless: the authority files a key once."""

    authority = models.CharField(max_length=10)
    key = models.UUIDField(default=uuid.uuid4, unique=True)
    receipt = models.CharField(max_length=40, blank=True)
    tries = models.PositiveIntegerField(default=0)
    trouble = models.CharField(max_length=200, blank=True)
    next_try_at = models.DateTimeField(null=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    sent_at = models.DateTimeField(null=True)
    answered_at = models.DateTimeField(null=True)
    refused_rules = models.JSONField(default=list)

    class Meta:
        abstract = True


class Way(models.TextChoices):
    """How a return goes to one authority."""

    ELECTRONIC = "electronic", "electronically"
    PAPER = "paper", "on paper"
    HELD = "held", "held"


class Route(FirmOwned):
    """How a return goes to one authority, where not electronically as usual: on paper with a reason (a code of the pack), what
    the reason needs, and the address; or held, with a word why."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="routes")
    authority = models.CharField(max_length=10)
    way = models.CharField(max_length=10, choices=Way)
    reason = models.CharField(max_length=20, blank=True)
    note = models.CharField(max_length=200, blank=True)
    mail_to = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["of", "authority"], name="one_route"),
            models.CheckConstraint(condition=Q(way__in=Way.values), name="way_is_known"),
        ]

    def __str__(self):
        return f"{self.of} to {self.authority} {self.get_way_display()}"


class Submission(Conversation):
    """A return for one authority, as it was signed. On paper, `mailed_on` and `mailed_as` say when and how it was posted."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="submissions")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="submissions")
    state = models.CharField(max_length=10, choices=State, default=State.QUEUED)
    document = models.BinaryField()
    mailed_on = models.DateField(null=True)
    mailed_as = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            # Whatever two workers or two clicks do, one live submission for a return and authority
            models.UniqueConstraint(fields=["of", "authority"], name="one_live_submission", condition=Q(state__in=LIVE)),
            models.CheckConstraint(condition=Q(state__in=State.values), name="submission_state_is_known"),
            models.CheckConstraint(
                condition=~Q(state__in=[State.ACCEPTED, State.REJECTED]) | ~Q(receipt=""), name="answer_needs_receipt"
            ),
            models.CheckConstraint(condition=~Q(state=State.MAILED) | Q(mailed_on__isnull=False), name="mailed_on_a_day"),
        ]
        indexes = [models.Index(fields=["firm", "state", "-id"], name="submission_by_state")]

    def __str__(self):
        return f"{self.of} to {self.authority}: {self.state}"


class Acknowledgement(FirmOwned):
    """An authority's answer, kept as it came."""

    submission = models.OneToOneField(Submission, on_delete=models.PROTECT, related_name="acknowledgement")
    accepted = models.BooleanField()
    answer = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self):
        return f"{self.submission_id}: {'accepted' if self.accepted else 'rejected'}"


class Asked(models.TextChoices):
    """How far a request for more time has come."""

    OPEN = "open", "not sent"
    WAITING = "waiting", "held until the federal extension is accepted"
    QUEUED = "queued", "to be sent"
    SENT = "sent", "sent, awaiting acknowledgment"
    ACCEPTED = "accepted", "extension accepted"
    REJECTED = "rejected", "refused"
    UNNEEDED = "unneeded", "nothing to send"


class Extension(Conversation):
    """More time asked of one authority. `form` and the amounts are as they were sent; `until` is the later due date."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="extensions")
    state = models.CharField(max_length=10, choices=Asked, default=Asked.OPEN)
    ready = models.BooleanField(default=False)
    form = models.CharField(max_length=20, blank=True)
    paying = models.DecimalField(max_digits=13, decimal_places=2, default=0)
    until = models.DateField(null=True)
    document = models.BinaryField(default=bytes)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["of", "authority"], name="one_live_extension", condition=~Q(state=Asked.REJECTED)),
            models.CheckConstraint(condition=Q(state__in=Asked.values), name="extension_state_is_known"),
        ]
        indexes = [models.Index(fields=["firm", "state", "-id"], name="extension_by_state")]

    def __str__(self):
        return f"extension of {self.authority} for {self.of}: {self.state}"
