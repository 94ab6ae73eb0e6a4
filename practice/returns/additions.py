"""What the app of a kind of return adds to what all returns share. It says so when it is ready, under its pack's code."""

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Additions:
    """`described` says what a return is where the pack's own line does not serve, else nothing. `notices` are rows of code, mark,
    weight, sentence, address, where it leads (review/notices.py). `not_locked` is why a return may not be locked, or nothing."""

    described: Callable = lambda return_, result: ""
    notices: Callable = lambda return_: ()
    not_locked: Callable = lambda return_: ""


_BY_PACK = {}


def add(pack, additions):
    _BY_PACK[pack] = additions


def additions_of(return_):
    return _BY_PACK.get(return_.pack, Additions())
