"""Tables, static files and, where asked for, the demo practice: all that a start needs, in one process."""

from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = ()

    def add_arguments(self, parser):
        parser.add_argument("--demo", action="store_true")

    def handle(self, *args, **options):
        call_command("migrate", verbosity=0)
        call_command("collectstatic", interactive=False, verbosity=0)
        if options["demo"]:
            call_command("demo")
