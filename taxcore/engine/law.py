"""Law as data: a year's TOML file read into attributes, every number a LawFigure that knows its source."""

from __future__ import annotations

import tomllib
from decimal import Decimal
from functools import lru_cache
from hashlib import sha256
from pathlib import Path
from typing import Any

from taxcore.engine.figures import LawFigure


class LawError(Exception):
    """A year's file is missing, or a number in it has no source."""


class Law:
    """One section. `law.standard_deduction.basic["joint"]` and `law.standard_deduction.basic.joint` are the same."""

    def __init__(self, entries: dict[str, Any], path: str):
        self._entries = entries
        self._path = path
        self.__dict__.update({name: value for name, value in entries.items() if name.isidentifier()})

    def __getattr__(self, name: str) -> Any:
        raise LawError(f"{self._path or 'the law file'} has no entry {name!r}")

    def __getitem__(self, name: str) -> Any:
        try:
            return self._entries[name]
        except KeyError:
            raise LawError(f"{self._path or 'the law file'} has no entry {name!r}") from None

    def __contains__(self, name: object) -> bool:
        return name in self._entries

    def items(self) -> list[tuple[str, Any]]:
        return list(self._entries.items())


@lru_cache(maxsize=64)
def fingerprint(folders: tuple[Path, ...], year: int) -> str:
    """A mark of everything these folders' files say for a year; another one when any of them was changed."""
    digest = sha256()
    for file in (folder / f"{year}.toml" for folder in folders):
        digest.update(file.read_bytes() if file.is_file() else b"none")
    return digest.hexdigest()[:16]


@lru_cache(maxsize=256)
def load(folder: Path, year: int) -> Law:
    """The law of one jurisdiction for one year. LawError when there is no file for the year."""
    file = folder / f"{year}.toml"
    if not file.is_file():
        raise LawError(f"{folder.parent.name} has no law for {year}: {file.name} is missing")
    return read_law(file)


def read_law(file: Path) -> Law:
    """Law of one TOML file, whatever year it is of."""
    with file.open("rb") as opened:
        return _section(tomllib.load(opened, parse_float=Decimal), "", "")


@lru_cache(maxsize=256)
def years(folder: Path) -> tuple[int, ...]:
    """The years a jurisdiction has law for, in order."""
    return tuple(sorted(int(file.stem) for file in folder.glob("*.toml")))


def _section(raw: dict[str, Any], path: str, source: str) -> Law:
    source = raw.get("source", source)
    entries = {name: _value(value, f"{path}.{name}".strip("."), source) for name, value in raw.items() if name != "source"}
    return Law(entries, path)


def _value(raw: Any, path: str, source: str) -> Any:
    if isinstance(raw, dict):
        return _section(raw, path, source)
    if isinstance(raw, list):
        return tuple(_value(item, path, source) for item in raw)
    if isinstance(raw, (bool, str)):
        return raw
    if isinstance(raw, (int, Decimal)):
        if not source:
            raise LawError(f"{path} = {raw} has no source")
        return LawFigure.of(raw, path, source)
    return raw
