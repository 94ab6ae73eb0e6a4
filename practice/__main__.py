"""Django's management commands for the practice: `./impuesto manage practice COMMAND`."""

import os
import sys

from django.core.management import execute_from_command_line

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "practice.settings")
execute_from_command_line(["impuesto manage practice", *sys.argv[1:]])
