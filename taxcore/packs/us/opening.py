"""What a new individual return begins with: its people as the practice knows them, the filing status and where they live."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from taxcore.engine import PaperValues

_ADDRESS = ("street", "city", "state", "zip")


def opens(people: Sequence[Mapping[str, Any]], address: Mapping[str, str]) -> tuple[PaperValues, ...]:
    """`people` have an id, a role and what is known of them. The status follows from who they are; where they live all year is
    proposed. What came from the client's record stays set in italics until somebody says that it is still so."""
    status = "joint" if any(one["role"] == "spouse" for one in people) else "single"
    lived = {name: address.get(name, "") for name in _ADDRESS} | {"residence": address.get("state", "")}
    known = {name: value for name, value in lived.items() if value}
    persons = (PaperValues(one["id"], "person", _known(one), carried=_carried(one)) for one in people)
    return (*persons, PaperValues("filing", "filing", {"status": status, **known}, carried=tuple(known)))


def _known(one: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in one.items() if name != "id" and value}


def _carried(one: Mapping[str, Any]) -> tuple[str, ...]:
    return tuple(name for name in _known(one) if name != "role")
