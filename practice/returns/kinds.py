"""Which kinds of papers a return can have: those of its year, and what only corrections have on corrections alone."""

from practice.returns.computing import pack_of
from practice.returns.models import Purpose


def kinds_of(return_):
    """Kinds of papers that can be added to a return, in the order of its pack."""
    corrects = return_.purpose == Purpose.AMENDING
    return [
        kind for kind in pack_of(return_).papers if kind.since <= return_.year <= kind.until and (corrects or not kind.corrects)
    ]
