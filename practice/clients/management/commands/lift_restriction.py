"""Restricted clients whose named staff all left: lists them, and lifts the restriction of one (`lift_restriction 28`)."""

from django.core.management.base import BaseCommand, CommandError
from django.db import transaction
from django.db.models import Exists, OuterRef

from practice.clients.models import Confidant, Household
from practice.firm.events import record


class Command(BaseCommand):
    help = __doc__

    def add_arguments(self, parser):
        parser.add_argument("client", type=int, nargs="?", help="number of the client, as in the address of its page")

    @transaction.atomic
    def handle(self, *args, client=None, **options):
        working = Confidant.objects.across_firms("an operator's command").filter(household=OuterRef("pk"), staff__is_active=True)
        restricted = Household.objects.across_firms("an operator's command").filter(restricted=True)
        forgotten = restricted.exclude(Exists(working)).select_related("firm")
        if client is None:
            for one in forgotten:
                self.stdout.write(f"{one.pk} {one.name}")
            return
        household = forgotten.filter(pk=client).first()
        if household is None:
            raise CommandError(f"Client {client} is not restricted, or somebody who works here sees it and can lift that.")
        household.restricted = False
        household.save(update_fields=["restricted"])
        household.confidants.all().delete()
        record(None, "restriction lifted", household=household, says="by an operator: nobody who was named works here")
        self.stdout.write(f"{household.name} is seen by everybody here.")
