"""What can be done to many returns in one round. Each act is declared once, by the room that does it."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from practice.firm.permissions import Refused
from practice.firm.refusals import Cannot
from taxcore.engine import BadValue

ACTS: dict[str, "Act"] = {}


@dataclass(frozen=True)
class Done:
    """What happened to one return: in words, and the return that was made from it, if one was."""

    says: str
    made: Any = None


@dataclass(frozen=True)
class Act:
    """`do(actor, return_id, **options)` gives Done, in a transaction of its own; `needs` is the permission; what is raised of
    `refusals` is a result and no error."""

    name: str
    title: str
    needs: str
    do: Callable[..., Done]
    refusals: tuple[type[Exception], ...] = (Cannot, Refused, BadValue)


def act(name, title, needs):
    """Decorator: declares an act."""

    def declare(do):
        if name in ACTS:
            raise RuntimeError(f"two acts are named {name}: {ACTS[name].title}, {title}")
        ACTS[name] = Act(name, title, needs, do)
        return do

    return declare


def title_of(name):
    return ACTS[name].title if name in ACTS else name
