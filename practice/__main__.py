"""Django's management commands for the practice: `./impuesto manage practice COMMAND`."""

import gc
import os
import sys

gc.set_threshold(50_000, 20, 50)  # as in wsgi.py, and a start is shorter by a tenth

from django.core.management import execute_from_command_line  # noqa: E402

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "practice.settings")
execute_from_command_line(["impuesto manage practice", *sys.argv[1:]])
