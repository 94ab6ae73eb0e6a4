"""A map of equal squares, one a state, for pictures of where income belongs. Our own layout, roughly as the states lie."""

from dataclasses import dataclass

from taxcore.packs.us.base import STATES, UNTAXED

_ROWS = (
    "AK .. .. .. .. .. .. .. .. .. .. ME",
    ".. .. .. .. .. .. .. .. .. .. VT NH",
    ".. WA ID MT ND MN WI MI .. NY MA RI",
    ".. OR NV WY SD IA IL IN OH PA NJ CT",
    ".. CA UT CO NE MO KY WV VA MD DE ..",
    ".. .. AZ NM KS AR TN NC SC DC .. ..",
    ".. .. .. .. OK LA MS AL GA .. .. ..",
    "HI .. .. .. TX .. .. .. .. FL .. ..",
)
SIDE, STEP = 22, 24


@dataclass(frozen=True)
class Tile:
    """One state's square: its corner, how much of it is filled from below, and what a reader hears."""

    state: str
    x: int
    y: int
    filled: int
    is_home: bool
    is_untaxed: bool
    says: str

    @property
    def top(self):
        return self.y + SIDE - self.filled

    @property
    def middle(self):
        return self.x + SIDE // 2

    @property
    def baseline(self):
        return self.y + 15


def tiles(totals, homes):
    """`totals` are {state: (income, withheld)}; the fullest square is the state with most income."""
    most = max((income for income, _ in totals.values()), default=0) or 1
    return [
        _tile(state, column * STEP, row * STEP, totals.get(state, (0, 0)), most, state in homes)
        for row, line in enumerate(_ROWS)
        for column, state in enumerate(line.split())
        if state in STATES
    ]


def _tile(state, x, y, amounts, most, is_home):
    income, withheld = amounts
    said = [f"{income:,.0f} of income"] if income else []
    said += [f"{withheld:,.0f} withheld"] if withheld else []
    said += ["lived there"] if is_home else []
    filled = max(int(SIDE * max(income, 0) / most), 2) if income > 0 else 0
    return Tile(state, x, y, filled, is_home, state in UNTAXED, f"{STATES[state]}: {', '.join(said) or 'nothing'}")
