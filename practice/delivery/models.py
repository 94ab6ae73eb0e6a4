"""Packages and their downloads."""

from django.db import models

from practice.firm.crypto import SealedField
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


class PrintSet(FirmOwned):
    """What the practice puts together for somebody: parts in order (practice/delivery/printing.py), numbers masked or not, a word
    across each page."""

    name = models.CharField(max_length=60)
    parts = models.JSONField(default=list)
    masked = models.BooleanField(default=True)
    watermark = models.CharField(max_length=20, blank=True)
    apart = models.BooleanField(default=False)  # a PDF for each part, in a ZIP
    discloses = models.BooleanField(default=False)  # it goes to somebody else: the clients consent first
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["firm", "name"], name="print_set_once", condition=models.Q(ended_at=None))]

    def __str__(self):
        return self.name


class Printed(FirmOwned):
    """A set made of one locked return, kept. `recipient` stands on its cover; `locked`: it opens with a password only."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="printed")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="+")
    set = models.ForeignKey(PrintSet, on_delete=models.PROTECT, related_name="+")
    authority = models.CharField(max_length=10, blank=True)  # of a return that is mailed: whose
    recipient = models.CharField(max_length=80, blank=True)
    password = SealedField(blank=True)  # until it is made
    locked = models.BooleanField(default=False)
    state = models.CharField(
        max_length=8, choices=[("making", "being made"), ("ready", "ready"), ("failed", "failed")], default="making"
    )
    file = models.CharField(max_length=120, blank=True)
    pages = models.PositiveIntegerField(default=0)
    trouble = models.CharField(max_length=200, blank=True)
    asked_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    shared_at = models.DateTimeField(null=True)  # in the portal since then

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.set} of {self.of}"

    @property
    def file_name(self):
        return f"{self.set.name}-{self.of.year}.{'zip' if self.set.apart else 'pdf'}".replace(" ", "-")


class PlanSheet(FirmOwned):
    """The sheet of a return's plans in columns as they were when it was kept. `name` names the columns."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="plan_sheets")
    name = models.CharField(max_length=200)
    file = models.CharField(max_length=120)
    made_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    shared_at = models.DateTimeField(null=True)  # in the portal since then

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"plans of {self.of}"


class Statement(FirmOwned):
    """What a return says to one of its owners, in their portal from `shared_at` on. `code` tells which document it is, `mark`
    whether it still says the same."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="statements")
    snapshot = models.ForeignKey("returns.Snapshot", on_delete=models.PROTECT, related_name="+")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="statements")
    code = models.CharField(max_length=60)
    name = models.CharField(max_length=200)
    mark = models.CharField(max_length=64)
    state = models.CharField(
        max_length=8, choices=[("making", "being made"), ("ready", "ready"), ("failed", "failed")], default="making"
    )
    file = models.CharField(max_length=120, blank=True)
    trouble = models.CharField(max_length=200, blank=True)
    asked_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    shared_at = models.DateTimeField(null=True)
    taken_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.name} of {self.of}"


class Download(FirmOwned):
    """A client took the package, or a set."""

    package = models.ForeignKey(Package, on_delete=models.PROTECT, null=True, related_name="downloads")
    printed = models.ForeignKey(Printed, on_delete=models.PROTECT, null=True, related_name="downloads")
    client = models.ForeignKey("clients.Person", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(package=None) ^ models.Q(printed=None), name="one_thing_was_taken"),
        ]

    def __str__(self):
        return f"{self.client} {self.at:%Y-%m-%d}"
