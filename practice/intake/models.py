"""Attachments, files on their way into a return, and remembered layouts of their columns."""

import uuid

from django.db import models

from practice.firm.scope import FirmOwned


class Attachment(FirmOwned):
    """A page or pages beside a paper. The file is encrypted in Django's storage under a name nobody can guess.

    `kind` is what the content itself says: pdf, png or jpeg. `turn` is how far the pages are turned on screen, in degrees.
    A worker looks into it and draws its pages (drawing.py); `state` and `drawn` say how far it is.
    """

    class State(models.TextChoices):
        READING = "reading", "being read"
        READY = "ready", "ready"
        REFUSED = "refused", "not accepted"

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="attachments")
    paper = models.ForeignKey("returns.Paper", on_delete=models.PROTECT, null=True, related_name="attachments")
    token = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    name = models.CharField(max_length=160)
    kind = models.CharField(max_length=4)
    file = models.CharField(max_length=200)
    size = models.PositiveIntegerField()
    state = models.CharField(max_length=8, choices=State, default=State.READING)
    says = models.CharField(max_length=300, blank=True)  # why it was refused, or what it waits for
    scanned_at = models.DateTimeField(null=True)
    infected = models.CharField(max_length=80, blank=True)  # what the virus scanner found
    pages = models.PositiveSmallIntegerField(default=0)  # none before it was looked into
    turn = models.PositiveSmallIntegerField(default=0)
    drawn = models.PositiveSmallIntegerField(default=0)  # how many of its pages there are pictures of, turned as they are now
    undrawn = models.JSONField(default=dict)  # {page: why there is no picture of it}
    digest = models.CharField(max_length=64)
    along = models.CharField(max_length=30, blank=True)  # as what it goes with the filing (enclosing.py); empty: it does not
    along_name = models.CharField(max_length=60, blank=True)
    along_to = models.CharField(max_length=10, blank=True)  # the authority's code; empty for the one that comes first
    doubt = models.CharField(max_length=200, blank=True)  # what its words do not say, where it has words
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")  # none: a client sent it
    at = models.DateTimeField(auto_now_add=True)
    touched_at = models.DateTimeField(auto_now=True)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

    def __str__(self):
        return self.name

    @property
    def page_numbers(self):
        """Of the pages that there is a picture of, or the reason why there is none."""
        return range(1, self.drawn + 1)


class Incoming(FirmOwned):
    """A document that came by itself, by mail or from the scan folder, and lies with no return yet. A worker looks into it and
    suggests whose it is (`household`, `why`); a person sorts it or discards it. The same file waits once."""

    way_to_client = "household"

    class Source(models.TextChoices):
        MAIL = "mail", "by email"
        FOLDER = "folder", "from the scan folder"

    class State(models.TextChoices):
        READING = "reading", "being read"
        WAITING = "waiting", "to be sorted"
        REFUSED = "refused", "not accepted"
        SORTED = "sorted", "sorted"
        DISCARDED = "discarded", "discarded"

    token = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    source = models.CharField(max_length=6, choices=Source)
    sender = models.CharField(max_length=254, blank=True)
    subject = models.CharField(max_length=200, blank=True)
    name = models.CharField(max_length=160)
    file = models.CharField(max_length=200)
    size = models.PositiveIntegerField()
    digest = models.CharField(max_length=64)
    state = models.CharField(max_length=10, choices=State, default=State.READING)
    says = models.CharField(max_length=300, blank=True)
    pages = models.PositiveSmallIntegerField(default=0)
    line = models.CharField(max_length=160, blank=True)  # its first words, to know it by
    household = models.ForeignKey("clients.Household", on_delete=models.PROTECT, null=True, related_name="+")
    why = models.CharField(max_length=120, blank=True)
    attachment = models.ForeignKey(Attachment, on_delete=models.PROTECT, null=True, related_name="+")
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")  # who sorted or discarded it
    at = models.DateTimeField(auto_now_add=True)
    touched_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["firm", "digest"], name="waits_once", condition=models.Q(state__in=["reading", "waiting"])
            ),
        ]

    def __str__(self):
        return self.name


class Layout(FirmOwned):
    """How the columns of a sender's file were read last time: {heading of the column: field}, by the headings together."""

    target = models.CharField(max_length=40)
    heads = models.CharField(max_length=64)
    columns = models.JSONField(default=dict)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["firm", "target", "heads"], name="layout_once")]

    def __str__(self):
        return f"{self.target} {self.heads[:8]}"


class Import(FirmOwned):
    """A file on its way into a return. Nothing of it counts before it is imported, and then all of it does.

    `target` is what its rows become: a kind of paper, or `kind.rows` for the rows of one paper. `progress` counts rows read.
    """

    class State(models.TextChoices):
        MAPPING = "mapping", "columns to map"
        READING = "reading", "being read"
        READ = "read", "ready to preview"
        TAKING = "taking", "being imported"
        DONE = "done", "imported"
        FAILED = "failed", "not imported"

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="imports")
    paper = models.ForeignKey("returns.Paper", on_delete=models.PROTECT, null=True, related_name="+")
    name = models.CharField(max_length=160)
    form = models.CharField(max_length=6)
    target = models.CharField(max_length=40, blank=True)
    file = models.CharField(max_length=200)
    columns = models.JSONField(default=dict)
    sample = models.JSONField(default=list)  # headings and the first rows of a file of columns
    state = models.CharField(max_length=8, choices=State, default=State.MAPPING)
    rows = models.PositiveIntegerField(default=0)
    progress = models.PositiveIntegerField(default=0)
    errors = models.JSONField(default=list)
    preview = models.JSONField(default=list)
    outcome = models.JSONField(default=dict)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    touched_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return self.name


class Arrival(FirmOwned):
    """Clients that come from another program: returns in the open format, or a list with last year's key figures.

    `items` are what the file holds, one a client: place, name, the number's ending, year, what is there already, what is wrong,
    and once taken in what happened and the return that was made. The values themselves are sealed beside the file.
    """

    class State(models.TextChoices):
        MAPPING = "mapping", "columns to map"
        READING = "reading", "being read"
        READ = "read", "ready to preview"
        TAKING = "taking", "being taken in"
        DONE = "done", "taken in"
        FAILED = "failed", "not read"

    name = models.CharField(max_length=160)
    form = models.CharField(max_length=4)
    state = models.CharField(max_length=8, choices=State, default=State.READING)
    file = models.CharField(max_length=200)
    sample = models.JSONField(default=list)
    columns = models.JSONField(default=dict)
    items = models.JSONField(default=list)
    says = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    touched_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(state__in=["mapping", "reading", "read", "taking", "done", "failed"]),
                name="arrival_state_is_known",
            )
        ]

    def __str__(self):
        return self.name
