"""Law of years that nobody knows yet, for plans: the last known year's, by an assumed price index. Every figure says so.

`indexed.toml` beside a jurisdiction's years says what follows the index and how it is rounded, and what is enacted for a year
already; everything else stays. Nothing of this is ever filed: a return of such a year is a plan.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from decimal import ROUND_FLOOR, ROUND_HALF_UP, Decimal
from functools import lru_cache
from pathlib import Path
from typing import Any

from taxcore.engine import law as law_files
from taxcore.engine.figures import LawFigure
from taxcore.engine.law import Law, LawError

_ONE = Decimal(1)


@dataclass(frozen=True)
class Rule:
    """Amounts at and below `path` are rounded to multiples of `to`, down unless to the nearest."""

    path: str
    to: Decimal
    nearest: bool
    source: str


def last_known(folder: Path) -> int:
    return max(law_files.years(folder))


@lru_cache(maxsize=32)
def until(folder: Path) -> int:
    """The last year for which anything is assumed."""
    return int(_rules(folder).get("until", 0))


@lru_cache(maxsize=128)
def assumed(folder: Path, year: int, index: Decimal) -> Law:
    """The law of one jurisdiction for a year after the last known one; what is indexed by `index` in all."""
    known, raw = last_known(folder), _rules(folder)
    rules = tuple(Rule(path, Decimal(one["to"]), bool(one.get("nearest")), one["source"])
                  for one in raw.get("indexed", ()) for path in one["paths"])  # fmt: skip
    enacted = {one["path"]: (one[str(year)], one["source"]) for one in raw.get("enacted", ()) if str(year) in one}
    law = law_files.load(folder, known)
    for path in (*(rule.path for rule in rules), *enacted):
        _at(law, path)  # LawError for a path that the law does not have
    return _Assuming(known, index, rules, enacted).of(law, "")


def _rules(folder: Path) -> dict[str, Any]:
    file = folder.parent / "indexed.toml"
    if not file.is_file():
        return {}
    with file.open("rb") as opened:
        return tomllib.load(opened, parse_float=Decimal)


def _at(law: Any, path: str) -> Any:
    for name in path.split("."):
        if not isinstance(law, Law):
            raise LawError(f"indexed.toml: the law has no entry {path!r}")
        law = law[name]
    return law


class _Assuming:
    def __init__(self, known: int, index: Decimal, rules: tuple[Rule, ...], enacted: Mapping[str, tuple[Any, str]]):
        self.known, self.index, self.rules, self.enacted = known, index, rules, enacted

    def of(self, value: Any, path: str) -> Any:
        if path in self.enacted:
            given, source = self.enacted[path]
            return _enacted(given, path, source)
        if isinstance(value, Law):
            return Law({name: self.of(one, f"{path}.{name}".strip(".")) for name, one in value.items()}, path)
        if isinstance(value, tuple):
            return tuple(self.of(one, path) for one in value)
        if isinstance(value, LawFigure):
            return self._figure(value, path)
        return value

    def _figure(self, value: LawFigure, path: str) -> LawFigure:
        rule = next(self._rules_of(path), None)
        if rule is None or value <= _ONE:  # a rate, or nothing
            return LawFigure.of(value, value.path, f"Assumed as in {self.known}: {value.source}")
        steps = (value * self.index / rule.to).quantize(_ONE, ROUND_HALF_UP if rule.nearest else ROUND_FLOOR)
        source = f"Assumed: {value:,} of {self.known} by an index of {self.index.normalize():f}; {rule.source}"
        return LawFigure.of(max(steps * rule.to, value), value.path, source)

    def _rules_of(self, path: str) -> Iterator[Rule]:
        """The most particular first."""
        yield from sorted(
            (rule for rule in self.rules if path == rule.path or path.startswith(f"{rule.path}.")),
            key=lambda rule: -len(rule.path),
        )


def _enacted(given: Any, path: str, source: str) -> Any:
    if isinstance(given, dict):
        return Law({name: _enacted(one, f"{path}.{name}", source) for name, one in given.items()}, path)
    return LawFigure.of(given, path, source)
