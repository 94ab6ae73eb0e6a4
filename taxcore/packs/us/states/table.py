"""Official tax tables of the states: the tax on the middle of a row of incomes, in whole dollars."""

from taxcore.engine import Operand, bands_formula, by_bands, explained, nothing_because, whole


def tax_by_table(income, bands, table):
    """Tax on a whole-dollar income. `table`: `ends` where the brackets take over, `step` the rows' width, `before` how far below
    its first full step a row begins, `middle` what is added to that step for the row's middle."""
    if income <= 0:
        return nothing_because("there is no taxable income", income)
    if income > table.ends:
        return by_bands(income, bands)
    redo = _Table(bands, table)
    return explained(
        "Official table", redo(income), [Operand(income)], redo, note=f"tax on the row's middle, {redo.middle(income):,}"
    )


class _Table:
    __slots__ = ("bands", "table")

    def __init__(self, bands, table):
        self.bands, self.table = bands, table

    def middle(self, amount):
        table = self.table
        return (amount + table.before) // table.step * table.step + table.middle

    def __call__(self, amount):
        return whole(by_bands(self.middle(amount), self.bands))

    def formula(self, amount, named):
        """The same for a spreadsheet; `named` gives the place of an amount of the law."""
        table = self.table
        middle = f"({table.step}*INT(({amount}+{table.before})/{table.step})+{table.middle})"
        return f"ROUND({bands_formula(middle, self.bands, named)},0)"
