"""The states. Each is a package with a `STATE`; adding one is adding its folder."""

from __future__ import annotations

from dataclasses import dataclass, field
from importlib import import_module
from pathlib import Path
from pkgutil import iter_modules

from taxcore.engine import Authority, Form, Paper
from taxcore.engine.pack import Check


@dataclass(frozen=True)
class State:
    """What one state adds to the American pack. `code` is two letters, `law` the folder of its years."""

    code: str
    authority: Authority
    forms: tuple[type[Form], ...]
    law: Path
    papers: tuple[type[Paper], ...] = ()
    checks: tuple[Check, ...] = field(default_factory=tuple)

    @property
    def jurisdiction(self) -> str:
        return f"us-{self.code.lower()}"


def all_states() -> tuple[State, ...]:
    """Every state that has a folder here, by code."""
    names = sorted(module.name for module in iter_modules(__path__) if module.ispkg)
    return tuple(import_module(f"{__name__}.{name}").STATE for name in names if name != "tests")
