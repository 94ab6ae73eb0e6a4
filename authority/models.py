"""Who is registered, what was filed, and how the authority behaves today."""

from django.db import models


class Person(models.Model):
    number = models.CharField(max_length=12, unique=True)
    last_name = models.CharField(max_length=60)
    birth_date = models.DateField(null=True)

    def __str__(self):
        return f"{self.number} {self.last_name}"


class Employer(models.Model):
    number = models.CharField(max_length=12, unique=True)
    name = models.CharField(max_length=120)

    def __str__(self):
        return f"{self.number} {self.name}"


class Filing(models.Model):
    """One received document. `key` is the sender's; the same key again gives the same receipt."""

    STATES = [("pending", "being read"), ("accepted", "accepted"), ("rejected", "rejected")]

    key = models.UUIDField(unique=True)
    authority = models.CharField(max_length=10)
    year = models.PositiveSmallIntegerField()
    receipt = models.CharField(max_length=30, unique=True)
    document = models.BinaryField()
    digest = models.CharField(max_length=64)
    kind = models.CharField(max_length=10, choices=[("return", "return"), ("extension", "extension")], default="return")
    state = models.CharField(max_length=10, choices=STATES, default="pending")
    faults = models.JSONField(default=list)
    received_at = models.DateTimeField(auto_now_add=True)
    answered_at = models.DateTimeField(null=True)
    times_received = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-id"]

    def __str__(self):
        return f"{self.receipt} {self.state}"


class Claim(models.Model):
    """A number used on an accepted return: as filer or dependent, once an authority and year."""

    filing = models.ForeignKey(Filing, on_delete=models.CASCADE, related_name="claims", null=True)
    authority = models.CharField(max_length=10)
    year = models.PositiveSmallIntegerField()
    number = models.CharField(max_length=12)
    role = models.CharField(max_length=10)
    ends = models.CharField(max_length=10, blank=True)  # of a return for a period of its own, its last day

    class Meta:
        constraints = [models.UniqueConstraint(fields=["authority", "year", "number", "ends"], name="number_claimed_once")]

    def __str__(self):
        return f"{self.number} {self.year} {self.role}"


class Mood(models.Model):
    """One row: how the authority behaves. Set on the console."""

    slow_ms = models.PositiveIntegerField(default=0)
    is_down = models.BooleanField(default=False)
    answers_to_lose = models.PositiveIntegerField(default=0)
    to_refuse = models.PositiveIntegerField(default=0)

    @classmethod
    def now(cls):
        return cls.objects.get_or_create(pk=1)[0]

    def __str__(self):
        return f"slow {self.slow_ms} ms, down {self.is_down}, losing {self.answers_to_lose}"
