"""The countries that the computation knows. A pack is found by its code."""

from __future__ import annotations

from taxcore.engine.pack import Pack


class UnknownPack(KeyError):
    """No pack has that code."""


def pack_named(code: str) -> Pack:
    """The pack with that code. UnknownPack where there is none."""
    if code == "us":
        from taxcore.packs.us import PACK

        return PACK
    raise UnknownPack(code)
