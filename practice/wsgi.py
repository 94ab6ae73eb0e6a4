"""What the web server runs."""

import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "practice.settings")
application = get_wsgi_application()
