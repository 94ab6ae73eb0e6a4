"""Tax on ordinary taxable income: the official table below 100,000, the brackets above. IRC 1(j), 3."""

from decimal import Decimal

from taxcore.engine import ZERO, Operand, bands_formula, by_bands, explained, nothing_because, whole

_FIRST_STEPS = ((Decimal(0), Decimal(5)), (Decimal(5), Decimal(15)), (Decimal(15), Decimal(25)))
_NARROW_UP_TO, _NARROW, _WIDE = Decimal(3_000), Decimal(25), Decimal(50)
_HALF = Decimal("0.5")


def table_row(income: Decimal) -> tuple[Decimal, Decimal]:
    """Edges of the official table's row: "at least" and "but less than"."""
    for low, high in _FIRST_STEPS:
        if income < high:
            return low, high
    width = _NARROW if income < _NARROW_UP_TO else _WIDE
    low = income // width * width
    return low, low + width


def tax_on(income, law, status):
    """Tax on a whole-dollar taxable income. The table's amount is the tax on the middle of its row, in whole dollars."""
    bands = law.income_tax[status]
    if income <= 0:
        return nothing_because("there is no taxable income", income)
    if income >= law.rounding.table_ends_below:
        return by_bands(income, bands)
    return _by_table(income, bands, law.rounding.table_ends_below)


def _by_table(income, bands, ends):
    low, high = table_row(income)
    return explained(
        "Official table",
        (redo := _Table(bands, ends))(income),
        [Operand(income)],
        redo,
        note=f"row {low:,} to {high:,}: tax on its middle, {((low + high) * _HALF).normalize():,f}",
    )


class _Table:
    """The tax table as arithmetic: tax by bands on the middle of the row, in whole dollars."""

    __slots__ = ("bands", "ends")

    def __init__(self, bands, ends):
        self.bands, self.ends = bands, ends

    def __call__(self, amount):
        edges = table_row(amount)
        return ZERO if edges[0] == 0 else whole(by_bands((edges[0] + edges[1]) * _HALF, self.bands))

    def formula(self, amount, named):
        """The same for a spreadsheet; `named` gives the place of an amount of the law."""
        wide, narrow = f"({_WIDE}*INT({amount}/{_WIDE})+{_WIDE / 2})", f"({_NARROW}*INT({amount}/{_NARROW})+{_NARROW / 2})"
        low = "".join(f"IF({amount}<{high},{(low + high) * _HALF if low else 0}," for low, high in _FIRST_STEPS)
        middle = f"{low}IF({amount}<{_NARROW_UP_TO},{narrow},{wide}){')' * len(_FIRST_STEPS)}"
        above = bands_formula(amount, self.bands, named)
        return f"IF({amount}<{named(self.ends)},ROUND({bands_formula(middle, self.bands, named)},0),{above})"
