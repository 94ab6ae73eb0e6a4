"""What the web server runs."""

import gc
import os
import sys

gc.disable()  # all that is loaded from here on stays: to look through it while it comes takes a tenth of a start

from django.core.wsgi import get_wsgi_application  # noqa: E402

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "practice.settings")
application = get_wsgi_application()

# A result is many small objects that all live equally long, and looking through them often finds nothing. With this, saves by
# four users went from 111 to 79 ms in one comparison by ./impuesto bench. What is loaded by now stays for good.
gc.collect()
gc.freeze()
gc.enable()
gc.set_threshold(50_000, 20, 50)

# A request waits for the database a dozen times. Coming back it would have to wait five milliseconds for a neighbour that
# computes; with half a millisecond saves by four users went from 105 to 82 ms in one comparison.
sys.setswitchinterval(0.0005)
