"""The family of a household's returns: which was made from which, as a picture. Years are columns; plans and others are below."""

from dataclasses import dataclass
from typing import Any

from practice.firm import dates
from practice.returns.models import How, Origin, Purpose, Return

_WIDE, _TALL, _ACROSS, _DOWN = 104, 24, 148, 36  # a box, and how far the next column and row are
_AMENDED = "amended"
_WORDS = {
    How.ROLLED: "rolled forward",
    How.PLANNED: "planned",
    How.APART: "made separate",
    How.AMENDED: "corrected",
    How.SPLIT: "made separate",
    How.JOINED: "made joint",
}


@dataclass(frozen=True)
class Box:
    """One return. `aside`: it is none of the household's filed ones: a plan, a separate one, one that was replaced."""

    return_: Any
    x: int
    y: int
    word: str
    aside: bool
    here: bool


@dataclass(frozen=True)
class Tie:
    """From the return on the left, or above, to the one that was made from it."""

    path: str
    says: str
    dashed: bool


@dataclass(frozen=True)
class Family:
    boxes: list
    ties: list
    wide: int
    tall: int


def family_of(household, here=None):
    """The picture, or None where nothing was made from anything."""
    returns = list(Return.objects.for_firm(household.firm_id).filter(household=household).order_by("year", "pk"))
    origins = list(Origin.objects.for_firm(household.firm_id).filter(of__in=returns).select_related("by"))
    if not origins:
        return None
    boxes = _boxes(returns, here)
    by_return = {box.return_.pk: box for box in boxes}
    ties = [_tie(by_return[one.source_id], by_return[one.of_id], one) for one in origins if one.source_id in by_return]
    return Family(boxes, ties, max(box.x for box in boxes) + _WIDE + 2, max(box.y for box in boxes) + _TALL + 2)


def _boxes(returns, here):
    columns = {year: place for place, year in enumerate(sorted({one.year for one in returns}))}
    rows, boxes = {}, []
    for one in sorted(returns, key=lambda each: (bool(_aside(each)), each.pk)):
        word = _aside(one)
        row = rows[one.year] = rows.get(one.year, 0 if not word else 1)
        rows[one.year] = row + 1
        aside = word not in ("", _AMENDED)
        boxes.append(Box(one, 1 + columns[one.year] * _ACROSS, 1 + row * _DOWN, word, aside, here == one.pk))
    return boxes


def _aside(return_):
    if return_.purpose == Purpose.PLANNING:
        return "plan"
    if return_.purpose == Purpose.AMENDING:
        return "given up" if return_.given_up_at else _AMENDED
    if return_.apart_from_id:
        return "canceled" if return_.given_up_at else f"{return_.apart_state} separate".strip()
    return "replaced" if return_.given_up_at else ""


def _tie(source, made, origin):
    says = f"{_WORDS[origin.how]} by {origin.by.name}, {dates.short(origin.at)}"
    if source.x == made.x:
        path = f"M{source.x + 14} {source.y + _TALL}V{made.y}"
    else:
        left, right, high, low = source.x + _WIDE, made.x, source.y + _TALL // 2, made.y + _TALL // 2
        path = f"M{left} {high}C{left + 22} {high} {right - 22} {low} {right} {low}"
    return Tie(path, says, made.aside)
