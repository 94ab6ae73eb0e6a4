"""The kinds of return that the computation knows. A pack is found by its code."""

from __future__ import annotations

from collections.abc import Callable

from taxcore.engine.pack import Pack


class UnknownPack(KeyError):
    """No pack has that code."""


def _united_states() -> Pack:
    from taxcore.packs.us import PACK  # its law and forms are read when somebody wants them

    return PACK


def _american_partnership() -> Pack:
    from taxcore.packs.us.partnership import PACK

    return PACK


def _american_s_corporation() -> Pack:
    from taxcore.packs.us.s_corporation import PACK

    return PACK


def _american_corporation() -> Pack:
    from taxcore.packs.us.corporation import PACK

    return PACK


def _british_individual() -> Pack:
    from taxcore.packs.uk.individual import PACK

    return PACK


def _british_company() -> Pack:
    from taxcore.packs.uk.company import PACK

    return PACK


def _british_home() -> Pack:
    from taxcore.packs.uk.disposal import PACK

    return PACK


KNOWN: dict[str, Callable[[], Pack]] = {
    "us": _united_states,
    "us-1065": _american_partnership,
    "us-1120s": _american_s_corporation,
    "us-1120": _american_corporation,
    "uk": _british_individual,
    "uk-home": _british_home,
    "uk-ct": _british_company,
}


def pack_named(code: str) -> Pack:
    """The pack with that code. UnknownPack where there is none."""
    if code not in KNOWN:
        raise UnknownPack(code)
    return KNOWN[code]()
