"""What is looked up in the registers: which elements of a document name a person and an employer, by country."""

import re
import tomllib
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from typing import Any

_FOLDER = Path(__file__).parent / "registers"


def digits(text):
    return re.sub(r"\D", "", text or "")


@dataclass(frozen=True)
class Register:
    """Elements by what they are. `refused` are digits at a place of the number that are never in the register."""

    keeper: str
    given: Any

    def text(self, document, element, name) -> str:
        return document.text(self.given[name], element) if name in self.given else ""

    def number(self, document, element) -> str:
        return digits(self.text(document, element, "number"))

    def refuses(self, number) -> bool:
        refused = self.given.get("refused")
        return refused is not None and number[refused["at"] :].startswith(refused["digits"])

    @property
    def path(self) -> str:
        """Where the number stands in its element."""
        return self.given["number"]


@lru_cache(maxsize=16)
def register(authority: str, of: str) -> Register | None:
    """The register of persons or employers of an authority, of those that it is named among, or of its country; None where
    there is none."""
    every = {one.stem: tomllib.loads(one.read_text()) for one in sorted(_FOLDER.glob("*.toml"))}
    named = next((name for name, said in every.items() if authority in said.get("authorities", ())), "")
    said = next((every[name] for name in (authority, named, authority.partition("-")[0]) if name in every), None)
    if said is None:
        return None
    return Register(said["keeper"], said[of]) if of in said else None
