"""Packages and their downloads."""

from django.db import models

from practice.firm.scope import FirmOwned


class Package(FirmOwned):
    """The finished PDF of one snapshot. `file` is its name in storage, empty while it is being made."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="packages")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="+")
    state = models.CharField(
        max_length=8, choices=[("making", "being made"), ("ready", "ready"), ("failed", "failed")], default="making"
    )
    file = models.CharField(max_length=120, blank=True)
    pages = models.PositiveIntegerField(default=0)
    trouble = models.CharField(max_length=200, blank=True)
    asked_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    made_at = models.DateTimeField(null=True)
    delivered_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.of} {self.state}"


class Download(FirmOwned):
    """A client took the package."""

    package = models.ForeignKey(Package, on_delete=models.PROTECT, related_name="downloads")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    def __str__(self):
        return f"{self.client} {self.at:%Y-%m-%d}"
