"""A mend as a return with it made: what a preparer sees before anything is changed."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from taxcore.engine import Mend, PaperValues, Result, ReturnData


def mended(result: Result, mend: Mend) -> ReturnData:
    """The return of a result with the field at the mend's address set. ValueError where no paper has that field."""
    data, run = result.run.data, result.run
    for node in (*run.people(), *run.all_papers(), *run.unentered()):
        if not mend.address.startswith(node.address_prefix):
            continue
        name = next((name for name in node.fields() if node.address(name) == mend.address), None)
        if name is not None:
            return data.but(papers=_with(data, node, name, mend.value))
    raise ValueError(f"{mend.address} is no field of this return")


def _with(data: ReturnData, node: Any, name: str, value: str) -> tuple[PaperValues, ...]:
    """The papers with one field set; a paper that exists once is made where nothing was entered in it yet."""
    mark = (node.kind, node.key)
    if not any((one.kind, one.id) == mark for one in data.papers):
        return (*data.papers, PaperValues(node.key, node.kind, {name: value}))
    return tuple(replace(one, values={**one.values, name: value}) if (one.kind, one.id) == mark else one for one in data.papers)
