"""What is kept of American returns beside their papers."""

from django.db import models

from practice.firm.scope import FirmOwned

ROLES = [("taxpayer", "Taxpayer"), ("spouse", "Spouse")]


class CoupleDivision(FirmOwned):
    """How a couple would divide what is of both if they filed separately (taxcore/packs/us/dividing.py). `shares` maps a paper's
    mark to the taxpayer's percent, as text; the `holder` has what cannot be halved."""

    of = models.OneToOneField("returns.Return", on_delete=models.PROTECT, related_name="division")
    holder = models.CharField(max_length=10, choices=ROLES, default="taxpayer")
    shares = models.JSONField(default=dict)
    by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(holder__in=[role for role, _ in ROLES]), name="holder_is_known")]

    def __str__(self):
        return f"{self.of}: {self.holder}"
