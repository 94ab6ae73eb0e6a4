"""What cannot be done is said on the page where it was asked for, with what was typed still there."""

from functools import wraps

from django.views.decorators.http import require_POST

from practice.firm.refusals import Cannot
from taxcore.engine import BadValue


def said_on(page, *names):
    """Decorator of a view that changes something: what it is refused for is said by `page`, which takes the request, the parts of
    the address called `names`, a status, and `refused` and `typed`."""

    def declare(view):
        @wraps(view)
        def inner(request, **kwargs):
            try:
                return view(request, **kwargs)
            except (Cannot, BadValue) as refused:
                of = {name: kwargs[name] for name in names}
                return page(request, **of, status=422, refused=refused.says, typed=request.POST)

        return require_POST(inner)

    return declare
