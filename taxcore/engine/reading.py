"""What a page says of a paper's fields: boxes by their number and words, the sender by number. Only ever proposed: a person takes
each over, and the page lies beside it.

A page gives its words line by line. A box is found on a line that has its number and a word of its label, or several words of it;
the amount stands on the same line or on the next one. Where two amounts could be meant, nothing is proposed.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from decimal import Decimal, InvalidOperation

from taxcore.engine.fields import Amount, BadValue, Field
from taxcore.engine.papers import Paper

_AMOUNT = re.compile(r"(?<![\d.,])[$£€]?\s?(\d{1,3}(?:,\d{3})+\.\d{2}|\d+\.\d{2})(?![\d.,])")
_WORD = re.compile(r"[a-z]{4,}")
_COMMON = frozenset(
    ("amount", "amounts", "total", "from", "with", "other", "your", "this", "that", "year", "line", "boxes", "paid")
)
_ANOTHER = re.compile(r"\s\d{1,2}[a-z]?\s+[A-Z]")  # a box's number and its label, behind those of another one


@dataclass(frozen=True)
class Found:
    """A value in the open format, and the line that says it."""

    name: str
    value: str
    line: str


def found_in(words: str, declared: type[Paper], year: int) -> list[Found]:
    """Proposals for the fields of a paper of that kind, in the order of its fields."""
    lines = [part for line in words.splitlines() if line.strip() for part in _parted(" ".join(line.split()))]
    claims = {name: _best(field, lines, year) for name, field in declared.fields().items() if isinstance(field, Amount)}
    found = {name: claim for name, claim in claims.items() if claim is not None}
    taken: dict[tuple[int, str], list[str]] = {}
    for name, (_, place, value, _line) in found.items():
        taken.setdefault((place, value), []).append(name)
    made = []
    for names in taken.values():
        scores = sorted((found[name][0] for name in names), reverse=True)
        if len(scores) == 1 or scores[0] > scores[1]:
            best = max(names, key=lambda name: found[name][0])
            made.append(Found(best, found[best][2], found[best][3]))
    order = list(declared.fields())
    return [*_sender(lines, declared), *sorted(made, key=lambda one: order.index(one.name))]


def _parted(line: str) -> list[str]:
    """A line with several boxes side by side, cut behind each amount."""
    parts, begun = [], 0
    for amount in _AMOUNT.finditer(line):
        if re.search(r"[A-Za-z]{2}", line[begun : amount.start()]):
            parts.append(line[begun : amount.end()].strip())
            begun = amount.end()
    rest = line[begun:].strip()
    return [*parts, rest] if rest else parts


def _best(field: Field, lines: list[str], year: int) -> tuple[int, int, str, str] | None:
    """(score, place of the amount's line, amount, line) of the line that says a field best; None where none does, or two do."""
    number = (field.number_in(year) or "").lower()
    wanted = {word for word in _WORD.findall(field.label.lower()) if word not in _COMMON}
    claims = []
    for place, line in enumerate(lines):
        score = _score(line.lower(), number, wanted)
        if score >= 2 and (there := _amount_at(lines, place)) is not None:
            claims.append((score, *there))
    if not claims:
        return None
    top = max(score for score, *_ in claims)
    best = [claim for claim in claims if claim[0] == top]
    if len({value for _, _, value, _ in best}) != 1:
        return None
    score, place, value, line = best[0]
    if not Decimal(value):
        return None  # a box that says nothing
    try:
        return score, place, field.write(field.parse(value)), line
    except BadValue:
        return None


def _score(line: str, number: str, wanted: set[str]) -> int:
    """One for each word of the label, two for the box's number at the head of the line or behind "box"; without the number every
    word must be there."""
    words = len(wanted & set(_WORD.findall(line)))
    if number and re.search(rf"^(box )?{re.escape(number)}[ .:)]|\bbox {re.escape(number)}\b", line):
        return words + 2 if words or not wanted else 0
    return words if words == len(wanted) and words > 1 else 0


def _amount_at(lines: list[str], place: int) -> tuple[int, str, str] | None:
    """(place, amount, line): the only amount of the line, else the only one of the next, which must be nothing but that. Neither
    where the line names another box too."""
    here = _AMOUNT.findall(lines[place])
    if here:
        return (place, _plain(here[0]), lines[place]) if len(here) == 1 else None
    if place + 1 < len(lines) and not _ANOTHER.search(lines[place]):
        below = _AMOUNT.findall(lines[place + 1])
        rest = _AMOUNT.sub("", lines[place + 1])
        if len(below) == 1 and not re.search(r"[A-Za-z]{2}", rest):
            return place + 1, _plain(below[0]), f"{lines[place]} {lines[place + 1]}"
    return None


def _plain(text: str) -> str:
    try:
        return f"{Decimal(text.replace(',', '')):f}"
    except InvalidOperation:
        return text


def _sender(lines: list[str], declared: type[Paper]) -> list[Found]:
    """The sender's number, where the page has one and no other: that of the page's owner is hidden or has another shape."""
    name = declared.party.get("number") if declared.party else None
    if name is None:
        return []
    field = declared.fields()[name]
    if not field.shape:
        return []
    shape = re.compile(rf"(?<!\d){re.escape(field.shape).replace('0', chr(92) + 'd')}(?!\d)")
    there = {match: line for line in lines for match in shape.findall(line)}
    if len(there) != 1:
        return []
    ((value, line),) = there.items()
    return [Found(name, field.tidy(value), line)] if field.fits(field.tidy(value)) else []
