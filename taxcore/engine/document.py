"""The open format: a return as one JSON document, `impuesto-return`, version 1, and its JSON Schema.

{"format": "impuesto-return", "version": 1, "pack": "us", "year": 2025,
 "people": [{"id": "taxpayer", "role": "taxpayer", ...}], "papers": [{"id": "kittiwake", "kind": "w2", ...}],
 "overrides": [{"address": "us.1040.16", "amount": "1200", "reason": "..."}]}

"last_year" may hold what the year before had, {"year": 2024, "papers": [...], "lines": {"us.1040:wages": "61480"}}: only
diagnostics look at it.

"carried" on a paper names the fields that came from last year's return and that nobody has confirmed.

"period" {"start": "2025-04-01", "end": "2026-03-31"} says what a return is for where that does not follow from the year.

"amends" says what the return corrects: {"number": 1, "superseding": false, "people": [...], "papers": [...], "filed": {"us":
{"day": "2025-03-14", "receipt": "...", "lines": {"us.1040.11": "61480"}}}}: the figures as each authority has accepted them.

"answers" may hold what a practice says on every return, {"us.business.method": "cash"}: it counts where the field is empty.

Amounts are strings of decimal digits, dates YYYY-MM-DD, yes and no are the words.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import Any

from taxcore.engine.checks import KINDS
from taxcore.engine.pack import Pack
from taxcore.engine.papers import schema_of
from taxcore.engine.periods import Period
from taxcore.engine.result import Result
from taxcore.engine.values import Amends, AsFiled, LastYear, Override, PaperValues, ReturnData

FORMAT, VERSION = "impuesto-return", 1
_BESIDE = ("id", "kind", "attached", "carried")  # of a paper, what is no field of it


class DocumentError(Exception):
    """The document is not a return of this format. `says` tells what to correct."""

    def __init__(self, says: str):
        super().__init__(says)
        self.says = says


def read(document: Any) -> ReturnData:
    """A return from its document. DocumentError where the shape is wrong; wrong values become findings later."""
    if not isinstance(document, Mapping) or document.get("format") != FORMAT:
        raise DocumentError(f'The document does not say "format": "{FORMAT}".')
    if document.get("version") != VERSION:
        raise DocumentError(f"Version {document.get('version')!r} of the format is not known; this reads {VERSION}.")
    year = document.get("year")
    if not isinstance(year, int) or isinstance(year, bool):
        raise DocumentError("The document's year is not a whole number.")
    people = [_paper(item, "person") for item in _list(document, "people")]
    papers = [_paper(item, None) for item in _list(document, "papers")]
    ids = [paper.id for paper in (*people, *papers)]
    if len(ids) != len(set(ids)):
        raise DocumentError("Two papers have the same id.")
    overrides = dict(_override(item) for item in _list(document, "overrides"))
    training = document.get("training", False) is True
    before = _last_year(document["last_year"]) if document.get("last_year") is not None else None
    answers = document.get("answers", {})
    if not isinstance(answers, Mapping) or not all(isinstance(one, str) for one in answers.values()):
        raise DocumentError("The practice's answers are not texts by field.")
    period = _period(document["period"]) if document.get("period") is not None else None
    amends = _amends(document["amends"]) if document.get("amends") is not None else None
    return ReturnData(
        str(document.get("pack")), year, tuple(people + papers), overrides, training, before, dict(answers), period, amends
    )


def write(data: ReturnData) -> dict[str, Any]:
    """The document of a return; `read` gives the same return back."""
    people, papers = _written(data.papers)
    overrides = [
        {"address": address, "amount": f"{override.amount:f}", "reason": override.reason}
        for address, override in data.overrides.items()
    ]
    before = data.last_year
    return {
        "format": FORMAT,
        "version": VERSION,
        "pack": data.pack,
        "year": data.year,
        "people": people,
        "papers": papers,
        "overrides": overrides,
        "training": data.training,
        **({"period": {"start": str(data.period.start), "end": str(data.period.end)}} if data.period is not None else {}),
        **({"last_year": _written_before(before)} if before is not None else {}),
        **({"answers": dict(data.answers)} if data.answers else {}),
        **({"amends": _written_amends(data.amends)} if data.amends is not None else {}),
    }


def _written(papers: Iterable[PaperValues]) -> tuple[list[dict[str, Any]], list[dict[str, Any]]]:
    """People and papers as the format holds them."""
    people = [{"id": p.id, **p.values, **_beside(p)} for p in papers if p.kind == "person"]
    others = [
        {"id": p.id, "kind": p.kind, **p.values, **({"attached": p.attached} if p.attached else {}), **_beside(p)}
        for p in papers
        if p.kind != "person"
    ]
    return people, others


def _beside(paper: PaperValues) -> dict[str, Any]:
    return {"carried": list(paper.carried)} if paper.carried else {}


def _written_before(before: LastYear) -> dict[str, Any]:
    people, papers = _written(before.papers)
    lines = {name: f"{amount:f}" for name, amount in before.lines.items()}
    return {"year": before.year, "people": people, "papers": papers, "lines": lines}


def _written_amends(amends: Amends) -> dict[str, Any]:
    people, papers = _written(amends.papers)
    filed = {
        code: {
            "day": one.day.isoformat(),
            "receipt": one.receipt,
            "lines": {address: f"{amount:f}" for address, amount in one.lines.items()},
        }
        for code, one in amends.filed.items()
    }
    return {
        "number": amends.number,
        "superseding": amends.superseding,
        "people": people,
        "papers": papers,
        "filed": filed,
    }


def write_result(result: Result) -> dict[str, Any]:
    """Every line as JSON: what `./impuesto compute` prints."""
    return {
        "pack": result.run.pack.code,
        "year": result.year,
        "lines": {cell.address: f"{cell.value:f}" if cell.is_amount else _plain(cell.value) for cell in result.lines()},
        "bottom_lines": {line.authority.code: f"{line.amount:f}" for line in result.bottom_lines},
        "findings": [
            {"code": f.code, "weight": f.weight, "at": list(f.at), "says": f.says, "cites": f.cites} for f in result.findings
        ],
    }


def schema(pack: Pack) -> dict[str, Any]:
    """JSON Schema (2020-12) of the open format with this pack's papers."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"{FORMAT} {VERSION}, {pack.name}",
        "type": "object",
        "required": ["format", "version", "pack", "year"],
        "additionalProperties": False,
        "properties": {
            "format": {"const": FORMAT},
            "version": {"const": VERSION},
            "pack": {"const": pack.code},
            "year": {"enum": list(pack.years)},
            "training": {"type": "boolean"},
            "people": {"type": "array", "items": schema_of(pack.people)},
            "papers": {"type": "array", "items": {"anyOf": [schema_of(paper) for paper in pack.papers]}},
            "period": {
                "type": "object",
                "required": ["start", "end"],
                "additionalProperties": False,
                "properties": {name: {"type": "string", "format": "date"} for name in ("start", "end")},
            },
            "answers": {"type": "object", "additionalProperties": {"type": "string"}},
            "last_year": {
                "type": "object",
                "required": ["year"],
                "additionalProperties": False,
                "properties": {
                    "year": {"type": "integer"},
                    "people": {"type": "array", "items": {"type": "object", "required": ["id"]}},
                    "papers": {"type": "array", "items": {"type": "object", "required": ["id", "kind"]}},
                    "lines": {"type": "object", "additionalProperties": {"type": "string"}},
                },
            },
            "amends": {
                "type": "object",
                "required": ["number", "filed"],
                "additionalProperties": False,
                "properties": {
                    "number": {"type": "integer", "minimum": 1},
                    "superseding": {"type": "boolean"},
                    "people": {"type": "array", "items": {"type": "object", "required": ["id", "role"]}},
                    "papers": {"type": "array", "items": {"type": "object", "required": ["id", "kind"]}},
                    "filed": {
                        "type": "object",
                        "additionalProperties": {
                            "type": "object",
                            "required": ["day", "lines"],
                            "additionalProperties": False,
                            "properties": {
                                "day": {"type": "string", "format": "date"},
                                "receipt": {"type": "string"},
                                "lines": {"type": "object", "additionalProperties": {"type": "string"}},
                            },
                        },
                    },
                },
            },
            "overrides": {
                "type": "array",
                "items": {
                    "type": "object",
                    "required": ["address", "amount", "reason"],
                    "additionalProperties": False,
                    "properties": {
                        "address": {"type": "string"},
                        "amount": {"type": "string", "pattern": r"^-?\d{1,11}(\.\d{1,2})?$"},
                        "reason": {"type": "string", "minLength": 1},
                    },
                },
            },
        },
    }


def catalogue(pack: Pack) -> str:
    """Every diagnostic of a pack as a Markdown page, by kind."""
    known = sorted(pack.diagnostics.values(), key=lambda one: one.code)
    words = {"stops": "Stops filing", "check": "Check", "idea": "Idea"}
    page = [
        f"# Diagnostics: {pack.name}",
        "",
        f"Made by `./impuesto schemas` from the declarations; {len(known)} diagnostics. What stops filing can never be "
        "suppressed.",
    ]
    for kind, name in KINDS.items():
        rows = [one for one in known if one.kind == kind]
        if rows:
            page += ["", f"## {name}", "", "| weight | about | rule | code |", "|---|---|---|---|"]
            page += [f"| {words[one.weight]} | {one.title} | {one.cites} | `{one.code}` |" for one in rows]
    return "\n".join(page) + "\n"


def _list(document: Mapping[str, Any], name: str) -> list[Any]:
    found = document.get(name, [])
    if not isinstance(found, list):
        raise DocumentError(f'"{name}" is not a list.')
    return found


def _paper(item: Any, kind: str | None) -> PaperValues:
    if not isinstance(item, Mapping) or not isinstance(item.get("id"), str) or not item["id"]:
        raise DocumentError("A person or paper has no id.")
    kind = kind or item.get("kind")
    if not isinstance(kind, str) or not kind:
        raise DocumentError(f"The paper {item['id']!r} has no kind.")
    attached = item.get("attached", 0)
    if not isinstance(attached, int) or attached < 0:
        raise DocumentError(f"How many files lie beside {item['id']!r} is no whole number.")
    carried = item.get("carried", [])
    if not isinstance(carried, list) or not all(isinstance(one, str) for one in carried):
        raise DocumentError(f"What is not confirmed on {item['id']!r} is no list of fields.")
    values = {name: item[name] for name in item if name not in _BESIDE}
    return PaperValues(item["id"], kind, values, attached, tuple(carried))


def _period(item: Any) -> Period:
    try:
        return Period(date.fromisoformat(item["start"]), date.fromisoformat(item["end"]))
    except (TypeError, KeyError, ValueError):
        raise DocumentError("The period is not from a day to a later one, as YYYY-MM-DD.") from None


def _amends(item: Any) -> Amends:
    if not isinstance(item, Mapping) or not isinstance(item.get("number"), int) or not isinstance(item.get("filed"), Mapping):
        raise DocumentError("What the return corrects has no number, or nothing that was filed.")
    papers = [*(_paper(one, "person") for one in _list(item, "people")), *(_paper(one, None) for one in _list(item, "papers"))]
    filed = {str(code): _as_filed(one) for code, one in item["filed"].items()}
    return Amends(item["number"], item.get("superseding") is True, filed, tuple(papers))


def _as_filed(item: Any) -> AsFiled:
    try:
        return AsFiled(date.fromisoformat(item["day"]), str(item.get("receipt", "")), _amounts(item["lines"]))
    except (TypeError, KeyError, ValueError, AttributeError):
        raise DocumentError("What an authority accepted has no day, or its lines are no amounts by address.") from None


def _amounts(lines: Mapping[str, Any]) -> dict[str, Decimal]:
    """Amounts by name. ValueError where one is none."""
    try:
        found = {str(name): Decimal(amount) for name, amount in lines.items()}
    except InvalidOperation:
        raise ValueError from None
    if not all(amount.is_finite() for amount in found.values()):
        raise ValueError
    return found


def _last_year(item: Any) -> LastYear:
    if not isinstance(item, Mapping) or not isinstance(item.get("year"), int):
        raise DocumentError("Last year's return has no year.")
    papers = [*(_paper(one, "person") for one in _list(item, "people")), *(_paper(one, None) for one in _list(item, "papers"))]
    try:
        lines = _amounts(item.get("lines", {}))
    except (AttributeError, TypeError, ValueError):
        raise DocumentError("Last year's lines are not amounts by name.") from None
    return LastYear(item["year"], tuple(papers), lines)


def _override(item: Any) -> tuple[str, Override]:
    try:
        amount = Decimal(item["amount"])
        if not amount.is_finite() or not str(item["reason"]).strip():
            raise DocumentError(f"The override of {item['address']} needs an amount and a reason.")
        return str(item["address"]), Override(amount, str(item["reason"]))
    except (KeyError, TypeError, InvalidOperation):
        raise DocumentError("An override needs an address, an amount and a reason.") from None


def _plain(value: Any) -> Any:
    return value if isinstance(value, (bool, str, int)) or value is None else str(value)
