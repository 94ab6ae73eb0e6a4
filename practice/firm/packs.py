"""The kinds of return that a practice makes."""

from django.conf import settings

from taxcore.packs import pack_named


def usual_pack():
    """The kind that is meant where nothing says which."""
    return pack_named(settings.PACK)


def word(american):
    """A word of the trade as the practice's country says it."""
    return usual_pack().words.get(american, american)


def packs_for(kind, form=""):
    """The kinds of return that a client of that kind (people or entity) files, the usual one first; of an entity those for its
    form, where they are for some forms alone."""
    made = [pack for pack in map(pack_named, settings.PACKS) if pack.filer == kind]
    return [pack for pack in made if not (form and pack.entity_forms) or form in pack.entity_forms]


def pack_for(kind, form=""):
    """The usual kind of return of such a client; None where the practice makes none."""
    return next(iter(packs_for(kind, form)), None)
