"""Tax on ordinary taxable income: the official table below 100,000, the brackets above. IRC 1(j), 3."""

from decimal import Decimal

from taxcore.engine import ZERO, Operand, by_bands, explained, nothing_because, whole

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
    return _by_table(income, bands)


def _by_table(income, bands):
    low, high = table_row(income)

    def redo(amount):
        edges = table_row(amount)
        return ZERO if edges[0] == 0 else whole(by_bands((edges[0] + edges[1]) * _HALF, bands))

    return explained(
        "Official table",
        redo(income),
        [Operand(income)],
        redo,
        note=f"row {low:,} to {high:,}: tax on its middle, {((low + high) * _HALF).normalize():,f}",
    )
