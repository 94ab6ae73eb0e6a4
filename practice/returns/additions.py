"""What the app of a kind of return adds to what all returns share. It says so when it is ready, under its pack's code."""

from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True)
class Additions:
    """`described` says what a return is where the pack's own line does not serve, else nothing. `notices` are rows of code, mark,
    weight, sentence, address, where it leads (review/notices.py). `not_locked` is why a return may not be locked, or nothing.

    Its own pages, each as (words, name of its address): `tabs`, with a key as (words, name, key), beside those of all returns,
    `plans` beside What-if,
    `reviews` among the pages of Review, `forms` below the list of Forms,
    `found` by the command line. `extends` is the page of more time, `extends_many` that of
    a whole practice.
    """

    described: Callable = lambda return_, result: ""
    notices: Callable = lambda return_: ()
    not_locked: Callable = lambda return_: ""
    tabs: tuple = ()
    plans: tuple = ()
    reviews: tuple = ()
    forms: tuple = ()
    extends: str = ""
    extends_many: str = ""
    found: tuple = ()


_BY_PACK = {}


def add(pack, additions):
    _BY_PACK[pack] = additions


def additions_of(return_):
    return of_pack(return_.pack)


def of_pack(code):
    return _BY_PACK.get(code, Additions())


def own_pages():
    """The names of all pages that kinds of returns add to a return."""
    return {name for one in _BY_PACK.values() for name in (one.extends, *(tab[1] for tab in one.tabs)) if name}
