"""Earlier years of some households, so that carryovers, what differs from last year and accounts over years are real.

A year is this year's papers with smaller amounts and dates a year earlier, and what the year before it closed. Only values:
building puts them into the database.
"""

import re
from dataclasses import replace
from decimal import Decimal

from practice.demo.plain import return_of
from taxcore.engine import Amount, PaperValues, Rows, compute, roll_forward
from taxcore.packs.us import PACK

FIRST = 2023
_SHARE = {2023: Decimal("0.90"), 2024: Decimal("0.96"), 2025: Decimal(1)}  # of this year's amounts
_NOT_THEN = (
    "diligence",
    "diligence-child",
    "diligence-student",
    "prior-year",
    "capital-carryover",
    "gift-carryover",
    "estimates",
)
_YEARS = re.compile(r"\b20(2[56])\b")

# Papers of one year alone, by household
ONLY_THEN = {
    "Ngata, Bellamy": {2023: [("1099-b", {
        "owner": "taxpayer", "payer": "Sandbar Brokers", "payer_number": "00-5512300",
        "summaries": [{"id": "1", "box": "A", "proceeds": "18400.00", "basis": "35120.00"},
                      {"id": "2", "box": "D", "proceeds": "9200.00", "basis": "21980.00"}],
    })]},
    "Beaumont-Ito, Clover and Hugo": {2023: [("gift", {
        "owner": "joint", "charity": "Galena Lamplighters Trust", "gift_kind": "gain", "amount": "64000.00",
        "description": "Heron Growth shares", "given": "2023-11-14", "acquired": "03/02/2012", "how_acquired": "purchase",
        "cost": "21000.00", "method": "market price", "acknowledged": "yes",
    })]},
    "Ibsen-Clay, Nell": {2023: [("ira", {"owner": "taxpayer", "traditional": "6500.00", "not_deducted": "6500.00"})]},
}  # fmt: skip


def years_of(entry, this_year):
    """[(return's values, what was rolled forward into it or None)] of the earlier years, the earliest first."""
    found, before = [], None
    for year in range(FIRST, this_year):
        rolled = roll_forward(before) if before is not None else None
        data = _with_balances(_then(entry, year), rolled)
        found.append((data, rolled))
        before = compute(PACK, data)
    return found


def _then(entry, year):
    data = return_of(entry)
    kept = (one for one in data.papers if one.kind not in _NOT_THEN)
    kinds = {kind.kind for kind in PACK.papers if kind.since <= year <= kind.until} | {"person"}
    papers = [replace(one, values=_earlier(PACK.by_kind[one.kind], one.values, year)) for one in kept if one.kind in kinds]
    for number, (kind, values) in enumerate(ONLY_THEN.get(entry["name"], {}).get(year, [])):
        papers = [one for one in papers if one.kind != kind]
        papers.append(PaperValues(f"then{number}", kind, values))
    return data.but(year=year, papers=tuple(papers))


def _earlier(declared, values, year):
    fields, shift = declared.fields(), 2025 - year
    found = {}
    for name, value in values.items():
        field = fields.get(name)
        if isinstance(field, Rows):
            found[name] = [_earlier(field.row, row, year) for row in value]
        elif isinstance(field, Amount) and value not in ("", None):
            found[name] = f"{(Decimal(value) * _SHARE[year]).quantize(Decimal('0.01'))}"
        else:
            found[name] = _YEARS.sub(lambda mark: str(int(mark[0]) - shift), value) if isinstance(value, str) else value
    return found


def _with_balances(data, rolled):
    """The year's papers, and the balances that the year before closed."""
    papers = {one.id: one for one in data.papers}
    for given in rolled.data.papers if rolled is not None else ():
        declared = PACK.by_kind[given.kind]
        fields = declared.fields()
        opened = {name: value for name, value in given.values.items() if name in fields and fields[name].opens is not None}
        if opened:
            owner = {"owner": given.values["owner"]} if "owner" in given.values else {}
            old = _same(declared, given, papers) or PaperValues(given.id, given.kind, owner)
            papers[old.id] = replace(old, values={**old.values, **opened})
    return data.but(papers=tuple(papers.values()))


def _same(declared, given, papers):
    """The paper of the year itself that opens what `given` does: a person has one of a kind that is there once each."""
    of_kind = (one for one in papers.values() if declared.once_each and one.kind == given.kind)
    return papers.get(given.id) or next((one for one in of_kind if one.values.get("owner") == given.values.get("owner")), None)
