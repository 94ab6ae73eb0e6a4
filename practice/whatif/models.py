"""Plans in columns beside a return: what each has otherwise than the one it is based on."""

from django.db import models

from practice.firm.scope import FirmOwned
from taxcore.whatif.columns import USUAL_RATE


class PlanColumn(FirmOwned):
    """`differences` maps a place's mark (taxcore.whatif.differences) to what stands there instead, in the open format. Nothing
    secret is among them. Without `based_on` it is based on the return; `years_on` is 1 for the year after its base's, and
    `rate` the percent by which prices are assumed to rise into it, where its law is not known."""

    of = models.ForeignKey("returns.Return", on_delete=models.PROTECT, related_name="plan_columns")
    name = models.CharField(max_length=40)
    note = models.CharField(max_length=300, blank=True)
    based_on = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="onto")
    years_on = models.PositiveSmallIntegerField(default=0)
    rate = models.DecimalField(max_digits=4, decimal_places=2, default=USUAL_RATE)
    differences = models.JSONField(default=dict)
    made_by = models.ForeignKey("firm.Staff", on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    removed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

    def __str__(self):
        return self.name

    @property
    def key(self):
        return str(self.pk)

    @property
    def rate_shown(self):
        return f"{self.rate.normalize():f}"
