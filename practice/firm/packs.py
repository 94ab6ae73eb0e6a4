"""The kind of return that a practice makes where nothing says which."""

from django.conf import settings

from taxcore.packs import pack_named


def usual_pack():
    return pack_named(settings.PACK)
