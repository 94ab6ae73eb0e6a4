"""Management commands of the simulated authorities: `./impuesto manage authority COMMAND`."""

import os
import sys

from django.core.management import execute_from_command_line

os.environ["DJANGO_SETTINGS_MODULE"] = "authority.settings"
execute_from_command_line(["impuesto manage authority", *sys.argv[1:]])
