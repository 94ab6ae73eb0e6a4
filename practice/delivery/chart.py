"""The one-page summary's picture: where the income went, as an SVG bar. Each authority has a color and a pattern of its own."""

from dataclasses import dataclass
from decimal import Decimal

_WIDTH, _TOP, _HEIGHT = 620, 4, 28
_COLORS = ("#a83e17", "#235a72", "#7a5b00", "#4b4f86", "#2f6b3c", "#7d3a5e")
_LEFT = "#8fa68d"


@dataclass(frozen=True)
class Part:
    """One stretch of the bar. `pattern` is the path of its strokes, empty for what is kept; `key` the same on a small square."""

    name: str
    amount: Decimal
    x: int
    width: int
    color: str
    css: str
    pattern: str
    key: str


def summary_chart(frozen):
    """Parts of total income: each authority's tax and what is left. Empty when there is no income."""
    lines = frozen.bottom_lines
    income = lines[0].income if lines else Decimal(0)
    if income <= 0:
        return []
    kept = max(income - sum((line.tax for line in lines), Decimal(0)), Decimal(0))
    parts, x = [], 0
    for number, (name, amount) in enumerate([*((f"{line.name} tax", line.tax) for line in lines), ("What you keep", kept)]):
        width = min(int(_WIDTH * amount / income), _WIDTH - x)
        last = number == len(lines)
        color = _LEFT if last else _COLORS[number % len(_COLORS)]
        css = "left" if last else f"part-{number % len(_COLORS)}"
        drawn = ("", "") if last else (_strokes(number, x, width, _TOP, _HEIGHT), _strokes(number, 0, 10, 0, 10))
        parts.append(Part(name, amount, x, width, color, css, *drawn))
        x += width
    return parts


def _strokes(number, x, width, y, height):
    """The path of one pattern within a rectangle: none, then upright, level, both, and two kinds of dashes."""
    upright = [f"M{x + at} {y}V{y + height}" for at in range(3, width, 5)]
    level = [f"M{x} {y + at}H{x + width}" for at in range(3, height, 5)] if width else []
    dashes = [f"M{x + at} {y + down}h2" for at in range(2, max(width - 2, 0), 6) for down in range(3, height, 6)]
    ticks = [f"M{x + at} {y + down}v3" for at in range(2, width, 6) for down in range(2, height - 3, 7)]
    return "".join(([], upright, level, [*upright, *level], dashes, ticks)[number % 6])
