"""The picture of a return: where its wells stand and how its streams run, ready to be drawn as SVG."""

from dataclasses import dataclass
from decimal import Decimal

WIDTH, HEIGHT = 1216, 590
_BAR, _TOP, _GAP, _LEAST = 12, 26, 30, 2
_COLUMNS = (8, 250, 462, 682, 900, 1196)


@dataclass
class Bar:
    """One well as it is drawn."""

    well: object
    x: int
    y: float
    height: float

    @property
    def bottom(self):
        return self.y + self.height

    @property
    def last(self):
        """Stands at the right edge, so its words end where it ends."""
        return self.x == _COLUMNS[-1]


@dataclass
class Band:
    path: str
    amount: Decimal
    source: object
    target: object
    again: bool


@dataclass
class Picture:
    width: int
    height: int
    bars: list
    bands: list
    ghosts: list
    scale: float


def picture_of(flow, before=None):
    """Bars and bands for a flow; `before` is last year's, drawn as outlines at the bars that both years have."""
    sizes = _sizes(flow)
    columns = [[well for well in flow.wells if well.column == place] for place in range(len(_COLUMNS))]
    scale = _scale(columns, sizes)
    bars = {}
    for place, wells in enumerate(columns):
        heights = [max(float(sizes[well.key]) * scale, _LEAST) for well in wells]
        free = HEIGHT - 2 * _TOP - sum(heights) - _GAP * max(len(wells) - 1, 0)
        # The last columns spread over the height, so that what belongs to one authority stays apart from the next
        y, gap = (_TOP, _GAP) if place < 4 else (_TOP + free * 0.1, _GAP + free * 0.5 / max(len(wells) - 1, 1))
        for well, height in zip(wells, heights, strict=True):
            bars[well.key] = Bar(well, _COLUMNS[place], round(y, 1), round(height, 1))
            y += height + gap
    tall = max((bar.bottom for bar in bars.values()), default=0) + _TOP
    return Picture(
        WIDTH, round(max(tall, 240)), list(bars.values()), _bands(flow, bars, scale), _ghosts(bars, before, scale), scale
    )


def _sizes(flow):
    """What a bar must hold: the larger of what comes in, what goes out and its own amount."""
    sizes = {well.key: abs(well.amount) for well in flow.wells}
    for side in ("source", "target"):
        sums = {}
        for stream in flow.streams:
            key = getattr(stream, side)
            if stream.again and side == "source":
                continue
            sums[key] = sums.get(key, Decimal(0)) + stream.amount
        sizes = {key: max(size, sums.get(key, Decimal(0))) for key, size in sizes.items()}
    return sizes


def _scale(columns, sizes):
    """Pixels for one unit, such that the fullest column fits."""
    fits = [
        (HEIGHT - 2 * _TOP - _GAP * (len(wells) - 1) - _LEAST * len(wells)) / float(total)
        for wells in columns
        if wells and (total := sum(sizes[well.key] for well in wells))
    ]
    return max(min(fits), 0) if fits else 0


def _bands(flow, bars, scale):
    left = {key: bar.y for key, bar in bars.items()}
    right = dict(left)
    low = {key: bar.bottom for key, bar in bars.items()}
    found = []
    for stream in sorted(flow.streams, key=lambda one: bars[one.target].y):
        source, target = bars[stream.source], bars[stream.target]
        thick = max(float(stream.amount) * scale, 1)
        y0, y1 = left[stream.source], right[stream.target]
        if stream.again:
            low[stream.source] -= thick
            y0 = low[stream.source]
        else:
            left[stream.source] += thick
        right[stream.target] += thick
        found.append(Band(_band(source.x + _BAR, y0, target.x, y1, thick), stream.amount, source.well, target.well, stream.again))
    return found


def _band(x0, y0, x1, y1, thick):
    middle = (x0 + x1) // 2
    y0, y1, y2, y3 = (round(y, 1) for y in (y0, y1, y1 + thick, y0 + thick))
    return f"M{x0} {y0}C{middle} {y0} {middle} {y1} {x1} {y1}L{x1} {y2}C{middle} {y2} {middle} {y3} {x0} {y3}Z"


def _ghosts(bars, before, scale):
    """Outlines of last year's amounts at the bars of this year: {key: (bar, height, amount)} as a list."""
    if before is None:
        return []
    old = {well.key: abs(well.amount) for well in before.wells}
    return [(bar, round(max(float(old[key]) * scale, _LEAST), 1), old[key]) for key, bar in bars.items() if key in old]
