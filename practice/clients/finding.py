"""Clients found by what somebody has at hand: a name, an email address, a telephone number, a whole number of theirs."""

from django.db.models import F, Func, Q, Value

from practice.clients.models import Entity, Household, Kind, Person
from practice.firm.crypto import digest, plain_number
from practice.firm.packs import usual_pack
from taxcore.engine import BadValue

_TELEPHONE = 7


def households_like(actor, words):
    """The clients that somebody may see with these words in their name, in a person's name or email address, or that number."""
    people, entities = Person.objects.for_staff(actor), Entity.objects.for_staff(actor)
    digits = "".join(character for character in words if character.isascii() and character.isdigit())
    if len(digits) >= _TELEPHONE and not any(character.isalpha() for character in words):
        number = Q(number_digest=digest(actor.firm_id, digits)) if _is_whole(digits) else Q(pk=None)
        people, entities = (_dialed(rows).filter(Q(dialed__endswith=digits) | number) for rows in (people, entities))
    else:
        people = people.filter(Q(first_name__icontains=words) | Q(last_name__icontains=words) | Q(email__icontains=words))
        entities = entities.filter(email__icontains=words)
        if any(character.isdigit() for character in words):  # numbers with letters in them
            known = Q(number_digest=digest(actor.firm_id, plain_number(words)))
            people, entities = (
                people | Person.objects.for_staff(actor).filter(known),
                entities | Entity.objects.for_staff(actor).filter(known),
            )
    like = Q(name__icontains=words) | Q(pk__in=people.values("household")) | Q(pk__in=entities.values("household"))
    return clients(actor).filter(like)


def _is_whole(digits):
    """Of fewer digits nobody is found, for a number is kept as a fingerprint of all of it."""
    wanted = usual_pack().identifier.digits
    return len(digits) == wanted if wanted else bool(digits)


def clients(actor):
    """All clients that somebody may see, without those that turned out to be another one."""
    return Household.objects.for_staff(actor).filter(merged_into=None)


def _dialed(rows):
    return rows.annotate(dialed=Func(F("telephone"), Value(r"\D"), Value(""), Value("g"), function="regexp_replace"))


def named(actor, words, besides=None):
    """The one client called so: a Person other than `besides`, or an entity's Household. BadValue where none or several are.
    Behind the name may stand the last four digits of a number."""
    *names, last = words.split() or [""]
    ending = last if names and len(last) == 4 and last.isdigit() else ""
    name = " ".join(names) if ending else " ".join(words.split())
    people = [one for one in _people(actor, name) if one != besides and (not ending or one.number.endswith(ending))]
    entities = [] if ending or besides else list(clients(actor).filter(kind=Kind.ENTITY, name__iexact=name))
    found = [*people, *entities]
    if not found:
        raise BadValue(f"No client is called {name or 'so'}. Add them first, or write the whole name.", words)
    if len(found) > 1:
        raise BadValue(f"{len(found)} clients are called {name}: add the last four digits of the number.", words)
    return found[0]


def _people(actor, name):
    """Persons whose first and last name together are that, wherever one ends and the other begins."""
    words = name.split()
    parts = ((" ".join(words[:cut]), " ".join(words[cut:])) for cut in range(1, len(words)))
    called = Q(pk=None)
    for first, last in parts:
        called |= Q(first_name__iexact=first, last_name__iexact=last)
    return Person.objects.for_staff(actor).filter(called, merged_into=None).select_related("household")
