"""Clients found by what somebody has at hand: a name, an email address, a telephone number, a whole Social Security number."""

from django.db.models import F, Func, Q, Value

from practice.clients.models import Household, Person
from practice.firm.crypto import digest

_NUMBER = 9  # digits; of fewer nobody is found, for a number is kept as a fingerprint of all of it
_TELEPHONE = 7


def households_like(firm, words):
    """The firm's households with these words in their name, in a person's name or email address, or with that number."""
    people = Person.objects.for_firm(firm)
    digits = "".join(character for character in words if character.isascii() and character.isdigit())
    if len(digits) >= _TELEPHONE and not any(character.isalpha() for character in words):
        plain = Func(F("telephone"), Value(r"\D"), Value(""), Value("g"), function="regexp_replace")
        number = Q(number_digest=digest(firm.pk, digits)) if len(digits) == _NUMBER else Q(pk=None)
        found = people.annotate(dialed=plain).filter(Q(dialed__endswith=digits) | number)
    else:
        found = people.filter(Q(first_name__icontains=words) | Q(last_name__icontains=words) | Q(email__icontains=words))
    return Household.objects.for_firm(firm).filter(Q(name__icontains=words) | Q(pk__in=found.values("household")))
