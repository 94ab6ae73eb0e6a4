"""Tables, static files and, where asked for, the demo practice: all that a start needs, in one process."""

import hashlib
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from django.conf import settings
from django.contrib.staticfiles.finders import get_finders
from django.core.management import call_command
from django.core.management.base import BaseCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

_NOT_SERVED = ["django_htmx", "*.ttf"]  # a package's copies of what we ship, and fonts for print: compressing them took longest


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = ()

    def add_arguments(self, parser):
        parser.add_argument("--demo", action="store_true")

    def handle(self, *args, **options):
        with ThreadPoolExecutor(1) as pool:  # compressing files leaves the interpreter to others
            collecting = pool.submit(_collect)
            _migrate()
            if options["demo"]:
                call_command("demo")
            collecting.result()


def _migrate():
    """Where there is nothing to migrate nobody is told that it was done: that takes as long as the rest of a start."""
    executor = MigrationExecutor(connection)
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        call_command("migrate", verbosity=0)


def _collect():
    """Static files named by their content and compressed, where they are not those that stand there already."""
    marks = hashlib.sha256(repr((settings.STORAGES["staticfiles"]["BACKEND"], _NOT_SERVED)).encode())
    for finder in get_finders():
        for path, storage in finder.list(_NOT_SERVED):
            marks.update(path.encode() + hashlib.sha256(Path(storage.path(path)).read_bytes()).digest())
    stamp = Path(settings.STATIC_ROOT) / ".made-of"
    if stamp.is_file() and stamp.read_text() == marks.hexdigest():
        return
    call_command("collectstatic", interactive=False, verbosity=0, ignore_patterns=_NOT_SERVED)
    stamp.write_text(marks.hexdigest())
