"""Puts the demo practice into an empty database. Does nothing where there is a firm already."""

from django.conf import settings
from django.core.management.base import BaseCommand

from practice.demo import scenario
from practice.demo.building import build_firm, build_household
from practice.demo.seat import lay_out
from practice.firm.models import Firm


class Command(BaseCommand):
    help = __doc__

    def handle(self, *args, **options):
        if Firm.objects.exists():
            return
        firm, password = build_firm()
        for entry in scenario.HOUSEHOLDS:
            build_household(firm, entry)
        lay_out(firm)
        path = settings.DATA / "demo-password"
        path.touch(mode=0o600)
        path.write_text(password)
        self.stdout.write(f"{len(scenario.HOUSEHOLDS)} households")
