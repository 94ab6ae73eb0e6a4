"""What each state says of a couple with one federal return: whether both count as residents, and who may file separately.

The rules are in couple.toml in each state's folder; a state without one makes one return and counts the part that is its own.
"""

from __future__ import annotations

import tomllib
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

_STATES = Path(__file__).parent / "states"
_NAMED = {"IN": "in_"}  # "in" is a word of Python
_RULE = "couple.toml"

# When spouses with a joint federal return may file with a state apart
NEVER, WITHOUT_INCOME, DIFFERING, ALWAYS = "never", "without-income", "differing", "always"


def state_folder(code: str) -> Path:
    """A state's folder, there or not."""
    return _STATES / _NAMED.get(code, code.lower())


@dataclass(frozen=True)
class Rule:
    """`apart`: one of the words above. `as_residents_beside`: what one spouse may have been, so that beside a resident of the
    whole year both count as residents on one return. `doubt`: what was not certain when the rule was written.
    """

    apart: str = NEVER
    as_residents_beside: tuple[str, ...] = ()
    source: str = ""
    doubt: str = ""

    def makes_residents(self, whole: str, kinds: Sequence[str]) -> bool:
        """Whether one return counts both as residents. `kinds` are what each was; `whole` the word for the whole year."""
        others = [kind for kind in kinds if kind != whole]
        return len(kinds) > len(others) > 0 and all(kind in self.as_residents_beside for kind in others)


@cache
def rule(code: str) -> Rule:
    """A state's rule, by its two letters."""
    file = state_folder(code) / _RULE
    if not file.exists():
        return Rule()
    said = tomllib.loads(file.read_text())
    return Rule(said["apart"], tuple(said.get("as_residents_beside", ())), said["source"], said.get("doubt", ""))
