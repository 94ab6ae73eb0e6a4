"""Rows of months from the first to the last, as papers of cover have them: rows that are none, months counted twice."""

from taxcore.engine import found


def backwards(paper, rows, code):
    """A finding for each row whose months are none."""
    for row in rows:
        if row.first is not None and row.last is not None and (row.first > row.last or row.first == 0):
            yield found(
                (row.address("last"), row.address("first")),
                f"{paper.title}: from month {row.first} to {row.last}. Correct the months.",
                code=code,
            )


def months_of(rows):
    """Every month of every row, as often as it stands there."""
    return [month for row in rows if row.first is not None and row.last is not None for month in range(row.first, row.last + 1)]


def overlap(rows):
    months = months_of(rows)
    return len(months) != len(set(months))
