"""Puts the made-up people and employers of registry/demo.json into the register. Running it again changes nothing."""

import json

from django.conf import settings
from django.core.management.base import BaseCommand

from authority.models import Claim, Employer, Person


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args, **options):
        registry = json.loads(settings.REGISTRY.read_text())
        for person in registry["people"]:
            Person.objects.update_or_create(number=person["number"], defaults={"last_name": person["last_name"]})
        for employer in registry["employers"]:
            Employer.objects.update_or_create(number=employer["number"], defaults={"name": employer["name"]})
        for claim in registry["claims"]:
            Claim.objects.get_or_create(
                authority=claim["authority"], year=claim["year"], number=claim["number"], defaults={"role": claim["role"]}
            )
