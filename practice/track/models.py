"""Where a return stands, kept for lists; steps left out for a client, and steps of the office's own."""

from django.db import models
from django.db.models import Q

from practice.firm.scope import FirmOwned
from practice.returns.models import Stage


class Waits(models.TextChoices):
    CLIENT = "client", "the client"
    OFFICE = "office", "the office"
    AUTHORITY = "authority", "an authority"
    NOBODY = "nobody", "nobody"


class Track(FirmOwned):
    """Whose turn it is on a return, since when, and the next step: worked out anew whenever something happens to the return."""

    of = models.OneToOneField("returns.Return", on_delete=models.CASCADE, related_name="track")
    waits = models.CharField(max_length=9, choices=Waits)
    since = models.DateField()
    step = models.CharField(max_length=24, blank=True)
    says = models.CharField(max_length=120, blank=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=Q(waits__in=Waits.values), name="waits_is_known")]
        indexes = [models.Index(fields=["firm", "waits", "since"], name="track_by_turn")]

    def __str__(self):
        return f"{self.of}: waiting for {self.get_waits_display()}"


class LeftOut(FirmOwned):
    """A step that one client does not need, and why. `ended_at`: it is asked for again."""

    household = models.ForeignKey("clients.Household", on_delete=models.PROTECT, related_name="steps_left_out")
    step = models.CharField(max_length=24)
    why = models.CharField(max_length=200)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["household", "step"], name="left_out_once", condition=Q(ended_at=None)),
            models.CheckConstraint(condition=~Q(why=""), name="left_out_for_a_reason"),
        ]

    def __str__(self):
        return f"{self.step} for {self.household}"


class OwnStep(FirmOwned):
    """A step that somebody added to one return, in a stage, and why; done by hand."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="own_steps")
    stage = models.CharField(max_length=10, choices=Stage)
    name = models.CharField(max_length=60)
    why = models.CharField(max_length=200)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    done_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, null=True, related_name="+")
    done_on = models.DateField(null=True)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["of", "name"], name="own_step_once", condition=Q(removed_at=None)),
            models.CheckConstraint(condition=Q(stage__in=Stage.values), name="own_step_stage_is_known"),
        ]

    def __str__(self):
        return f"{self.name} of {self.of}"
