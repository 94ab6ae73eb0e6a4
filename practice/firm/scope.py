"""Every row belongs to a firm and every query goes through it. A query that forgets raises Unscoped, in tests and in use."""

from functools import cache

from django.apps import apps
from django.db import models

from practice.firm.compiled import Compiled


class Unscoped(RuntimeError):
    """A query on firms' rows that names no firm."""

    def __init__(self, model):
        super().__init__(f"Query on {model.__name__} without for_firm(), or across_firms() with a reason")
        self.model = model


_HIDDEN = []


def hides_clients(function):
    """Who knows which clients somebody must not see: called with a member of staff, gives a query of households' ids."""
    _HIDDEN.append(function)


@cache
def _hidden_by(hides):
    def numbers(firm, staff):
        staff_model, firm_model = apps.get_model("firm", "Staff"), apps.get_model("firm", "Firm")
        return hides(staff_model(pk=staff, firm=firm_model(pk=firm))).values_list("pk", flat=True)

    return Compiled(numbers)


@cache
def way_to_client(model):
    """The path from a row to the household it is about; empty where it is about none."""
    names = {field.name: field for field in model._meta.get_fields() if field.is_relation and field.many_to_one}
    if hasattr(model, "way_to_client"):
        return model.way_to_client
    if "household" in names:
        return "household"
    of = names.get("of")
    return "of__household" if of is not None and hasattr(of.related_model, "household") else ""


class FirmQuerySet(models.QuerySet):
    """Refuses to touch the database until it was limited to a firm, or reached through a row that belongs to one."""

    scoped = False

    def for_firm(self, firm):
        made = self.filter(firm=firm)
        made.scoped = True
        return made

    def for_staff(self, actor):
        """What somebody may see: their firm's rows, without those of clients that are restricted to others. For lists: those few
        clients are asked for first and named, which costs a scan of tens of thousands of rows less than looking each one up."""
        made, way = self.for_firm(actor.firm), way_to_client(self.model)
        for hides in _HIDDEN if way else ():
            if hidden := _hidden_by(hides)(actor.firm_id, actor.pk):
                made = made.exclude(**{f"{way}__in": hidden})
        return made

    def seen_by(self, actor):
        """The same in one query, for a single row."""
        made, way = self.for_firm(actor.firm), way_to_client(self.model)
        for hides in _HIDDEN if way else ():
            made = made.exclude(**{f"{way}__in": hides(actor)})
        return made

    def across_firms(self, reason: str):
        """For the few jobs that serve all firms; `reason` is for the reader."""
        made = self.all()
        made.scoped = bool(reason)
        return made

    def _clone(self):
        made = super()._clone()
        made.scoped = self.scoped
        return made

    def _check(self):
        if not self.scoped and "instance" not in self._hints:
            raise Unscoped(self.model)

    def _fetch_all(self):
        self._check()
        super()._fetch_all()

    def iterator(self, *args, **kwargs):
        self._check()
        return super().iterator(*args, **kwargs)

    def count(self):
        self._check()
        return super().count()

    def exists(self):
        self._check()
        return super().exists()

    def aggregate(self, *args, **kwargs):
        self._check()
        return super().aggregate(*args, **kwargs)

    def update(self, **kwargs):
        self._check()
        return super().update(**kwargs)

    def delete(self):
        self._check()
        return super().delete()


class FirmOwned(models.Model):
    """Base of every row: which firm it belongs to."""

    firm = models.ForeignKey("firm.Firm", on_delete=models.PROTECT, related_name="+")

    objects = FirmQuerySet.as_manager()

    class Meta:
        abstract = True
        base_manager_name = None
