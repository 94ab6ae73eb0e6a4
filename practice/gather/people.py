"""Who of a client is asked, and who signs letters."""

from practice.clients.models import Kind, Person
from practice.clients.roles import hear_of


def people_of(return_):
    """The persons whom the practice serves by this return, whoever files first; of an entity those who hear of it."""
    if return_.household.kind == Kind.ENTITY:
        return hear_of(return_.household)
    papers = return_.papers.filter(kind="person", key__in=("taxpayer", "spouse"), removed_at=None).exclude(person=None)
    ids = dict(papers.values_list("key", "person_id"))
    known = Person.objects.for_firm(return_.firm_id).select_related("household").in_bulk(ids.values())
    return [known[ids[key]] for key in ("taxpayer", "spouse") if key in ids]


def asked_first(return_):
    """The one who gets the requests: the first who has an email address; None where nobody has."""
    return next((person for person in people_of(return_) if person.email), None)
