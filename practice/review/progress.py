"""How much of what matters is initialed, by a first and a second reviewer. What matters: by amount, and what the firm chose."""

from dataclasses import dataclass

from taxcore.engine import line_name


@dataclass(frozen=True)
class Progress:
    """Lines that matter, and how many of them hold the initials of one and of two reviewers; `next` are those without any."""

    of: int
    first: int
    second: int
    next: tuple

    @property
    def first_percent(self):
        return 100 * self.first // self.of if self.of else 100

    @property
    def second_percent(self):
        return 100 * self.second // self.of if self.of else 100


def lines_that_matter(firm, result):
    """Amounts from the firm's threshold on, of forms that go with the return, and the lines it always wants looked at."""
    always = set(firm.matters_lines)
    return [
        cell
        for cell in result.lines()
        if cell.is_amount and not cell.node.worksheet and (abs(cell.value) >= firm.matters_from > 0 or line_name(cell) in always)
    ]


def progress_of(firm, result, initials):
    """`initials` are margin.initials_on: {address: [(row, why it lapsed)]}."""
    lines = lines_that_matter(firm, result)
    held = {cell.address: len({row.by_id for row, why in initials.get(cell.address, []) if not why}) for cell in lines}
    open_ones = tuple(cell for cell in lines if not held[cell.address])
    return Progress(len(lines), sum(n >= 1 for n in held.values()), sum(n >= 2 for n in held.values()), open_ones)
