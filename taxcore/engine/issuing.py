"""What crosses between returns is a paper: a company's return issues papers, its owners' returns hold them.

A return computes alone, from its own papers. What another return issues is plain values with the lines that they come from;
whoever keeps returns puts them on the owner's return, and says when they differ.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True, slots=True)
class Issued:
    """One paper for another return. `to` is the address of the paper that names the owner, `named` how it calls them, `number`
    what they are known by. `pack`, `kind` and `id` say which paper it is there; `values` are of the open format, `lines`
    the addresses that they come from, by field. `known_by` names a field that tells it from others where somebody entered it
    already, under another id: an issuer's number. A value that is the id of another issued paper means that paper."""

    to: str
    named: str
    number: str
    pack: str
    kind: str
    id: str
    values: Mapping[str, str] = field(default_factory=dict)
    lines: Mapping[str, str] = field(default_factory=dict)
    known_by: str = ""
