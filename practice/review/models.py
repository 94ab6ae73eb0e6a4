"""Initials on figures, margin notes and open points."""

from django.db import models
from django.db.models import Q

from practice.firm.scope import FirmOwned


class Initial(FirmOwned):
    """A reviewer's mark on a figure, with the value and the papers' values it was set on. It lapses when one of them moves.

    `sources` maps the addresses of the papers' fields that fed the figure to their amounts then.
    """

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="initials")
    address = models.CharField(max_length=120)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    value = models.CharField(max_length=40)
    sources = models.JSONField(default=dict)
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["at"]
        constraints = [models.UniqueConstraint(fields=["of", "address", "by"], name="initial_once_each")]

    def __str__(self):
        return f"{self.by.initials} on {self.address}"


class Reviewed(FirmOwned):
    """A reviewer looked through the whole return; `mark` is the fingerprint of its figures then, and it lapses when they move."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="reviews")
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    mark = models.CharField(max_length=64)
    at = models.DateTimeField()

    class Meta:
        ordering = ["at"]
        constraints = [models.UniqueConstraint(fields=["of", "by"], name="reviewed_once_each")]

    def __str__(self):
        return f"{self.of} reviewed by {self.by}"


class MarginNote(FirmOwned):
    """A note on a figure. One that asks somebody is an open point until it is answered and closed."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="notes")
    address = models.CharField(max_length=120)
    text = models.CharField(max_length=1000)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    asked = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="open_points")
    answer = models.CharField(max_length=1000, blank=True)
    closed_at = models.DateTimeField(null=True)
    closed_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        ordering = ["-id"]
        constraints = [models.CheckConstraint(condition=~Q(text=""), name="note_has_text")]
        indexes = [models.Index(fields=["of", "address"], name="note_by_figure")]

    def __str__(self):
        return self.text[:40]

    @property
    def is_open(self):
        return self.asked_id is not None and self.closed_at is None


class NoticeSettled(FirmOwned):
    """A notice at the head of a return that a reviewer initialed: put away for good."""

    of = models.ForeignKey("returns.Return", on_delete=models.CASCADE, related_name="notices_settled")
    key = models.CharField(max_length=80)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "key"], name="notice_settled_once")]

    def __str__(self):
        return self.key


class Seen(FirmOwned):
    """A reviewer looked at a diagnostic and says why it may stand. It is back when a figure that it is about changes.

    `figures` maps the addresses it is about to their values then.
    """

    of = models.ForeignKey("returns.Return", on_delete=models.CASCADE, related_name="seen")
    code = models.CharField(max_length=60)
    place = models.CharField(max_length=120)
    reason = models.CharField(max_length=300)
    figures = models.JSONField(default=dict)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["at"]
        constraints = [
            models.UniqueConstraint(fields=["of", "code", "place", "by"], name="seen_once_each"),
            models.CheckConstraint(condition=~Q(reason=""), name="seen_has_reason"),
        ]

    def __str__(self):
        return f"{self.code} seen by {self.by.initials}"


class AdviceChoice(FirmOwned):
    """An item of the advice page that somebody switched on or off for a client; without one the item shows as it is meant to."""

    of = models.ForeignKey("returns.Return", on_delete=models.CASCADE, related_name="advice_choices")
    item = models.CharField(max_length=120)
    shown = models.BooleanField()
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["of", "item"], name="advice_chosen_once")]

    def __str__(self):
        return f"{self.item}: {'on' if self.shown else 'off'}"
