"""Trades of sole proprietors: Schedule C and Schedule F, which the rest of the return treats alike.

Each has `books`, `earner`, `gross_income`, `profit`, `before_section_179` and `is_statutory`.
"""

from typing import Any

TRADES = {"business": "us.sch-c", "farm": "us.sch-f"}  # {kind of paper: its schedule}


def trades(run: Any) -> list[Any]:
    """Every schedule of a sole proprietor, businesses first."""
    return [one for code in TRADES.values() for one in run.every(code)]


def trade_of(paper: Any) -> Any:
    """The schedule of a paper of a business or a farm."""
    return paper.run.form(TRADES[paper.kind], paper.key)


def trade_by_key(run: Any, key: str | None) -> Any:
    """The schedule of a trade by its key, None where it is something else."""
    for kind, code in TRADES.items():
        if run.by_key((kind,), key) is not None:
            return run.form(code, key)
    return None
