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
    """The register of persons or employers of an authority, or of its country; None where there is none."""
    files = (_FOLDER / f"{name}.toml" for name in (authority, authority.partition("-")[0]))
    file = next((one for one in files if one.is_file()), None)
    if file is None:
        return None
    said = tomllib.loads(file.read_text())
    return Register(said["keeper"], said[of]) if of in said else None
