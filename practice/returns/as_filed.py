"""What a return corrects, as the core takes it: read from the snapshots that the authorities accepted."""

from datetime import date
from decimal import Decimal, InvalidOperation
from functools import lru_cache

from practice.returns.locked import content_of
from practice.returns.models import Purpose, Snapshot
from taxcore.engine import Amends, AsFiled, document
from taxcore.packs import pack_named


def amends_of(return_):
    """What a correction corrects; None of any other return."""
    if return_.purpose != Purpose.AMENDING:
        return None
    kept = return_.origin.amends
    pack = pack_named(return_.pack)

    def lines(code, snapshot):
        return _lines(return_.firm_id, snapshot, pack.authority(code).form.jurisdiction)

    filed = {
        code: AsFiled(date.fromisoformat(one["day"]), one["receipt"], lines(code, one["snapshot"]))
        for code, one in kept["accepted"].items()
    }
    newest = max(one["snapshot"] for one in kept["accepted"].values())
    return Amends(kept["number"], kept["superseding"], filed, _papers(return_.firm_id, newest))


@lru_cache(maxsize=128)
def _lines(firm_id, snapshot_id, jurisdiction):
    """Amounts of a jurisdiction's lines by address, as they were frozen."""
    lines = _content(firm_id, snapshot_id)["result"]["lines"]
    found = {address: _amount(text) for address, text in lines.items() if address.startswith(f"{jurisdiction}.")}
    return {address: amount for address, amount in found.items() if amount is not None}


def _amount(text):
    try:
        return Decimal(text)
    except (InvalidOperation, TypeError):
        return None


@lru_cache(maxsize=64)
def _papers(firm_id, snapshot_id):
    return document.read(_content(firm_id, snapshot_id)["return"]).papers


def _content(firm_id, snapshot_id):
    return content_of(Snapshot.objects.for_firm(firm_id).get(pk=snapshot_id))
