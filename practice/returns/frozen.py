"""Reading what was locked: the return, its forms as they were, and the documents made of it."""

import base64
import json
from functools import lru_cache

from practice.firm.crypto import unseal_bytes
from practice.returns.computing import pack_of
from practice.returns.locked import content_of
from taxcore.engine import compute, document
from taxcore.engine.filed import filed_document
from taxcore.engine.frozen import Drawn, drawn, moved


def drawn_of(snapshot) -> Drawn:
    """The frozen result, for drawing its forms. ValueError if it is not what was frozen."""
    return _drawn(snapshot.pk, snapshot.hash, snapshot)


@lru_cache(maxsize=8)
def _drawn(pk, digest, snapshot):
    frozen = content_of(snapshot)
    return Drawn(frozen["drawn"] if "drawn" in frozen else _drawn_again(snapshot, frozen))


def _drawn_again(snapshot, frozen):
    """Of a snapshot from before forms were frozen: computed, with the amounts that were signed."""
    found = drawn(compute(pack_of(snapshot.of), document.read(frozen["return"])))
    signed = frozen["result"]["lines"]
    for form in found["forms"]:
        for line in form["lines"]:
            if isinstance(line["value"], dict) and "amount" in line["value"] and line["at"] in signed:
                line["value"] = {"amount": signed[line["at"]]}
    return found


def document_of(snapshot, code) -> bytes:
    """The frozen document for one authority. KeyError where it has none."""
    if snapshot.documents:
        return base64.b64decode(json.loads(unseal_bytes(snapshot.documents))[code])
    result = compute(pack_of(snapshot.of), document.read(content_of(snapshot)["return"]))  # locked by an earlier program
    return filed_document(result, pack_of(snapshot.of).authority(code), str(snapshot.of_id), snapshot.hash)


def moved_since(snapshot, result):
    """(line, as frozen, as computed now) of every amount that today's program works out otherwise."""
    return moved(drawn_of(snapshot), result)
