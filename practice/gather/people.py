"""Who of a client is asked, and who signs letters."""

from practice.clients.models import Kind
from practice.clients.roles import hear_of
from practice.returns.gathering import RowsOf


def people_of(return_):
    """The persons whom the practice serves by this return, whoever files first; of an entity those who hear of it."""
    if return_.household.kind == Kind.ENTITY:
        return hear_of(return_.household)
    papers = {paper.key: paper for paper in _FILERS(return_)}
    return [papers[key].person for key in ("taxpayer", "spouse") if key in papers]


_FILERS = RowsOf(
    "papers", "person__household", kind="person", key__in=("taxpayer", "spouse"), removed_at=None, person__isnull=False
)


def asked_first(return_):
    """The one who gets the requests: the first who has an email address; None where nobody has."""
    return next((person for person in people_of(return_) if person.email), None)
