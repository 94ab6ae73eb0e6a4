"""What the web server runs."""

import gc
import os
import sys

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "practice.settings")
application = get_wsgi_application()

# A result is thousands of small objects that all live equally long. Looking through them often finds nothing and costs a third
# of the time; what is loaded by now stays for good.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 50)

# A request waits for the database a dozen times. Coming back it would have to wait five milliseconds for a neighbour that
# computes; with half a millisecond four users at once were answered a quarter faster.
sys.setswitchinterval(0.0005)
