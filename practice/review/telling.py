"""What changed against last year, in sentences for the client: made from the lines that moved, never written beside them."""

from dataclasses import dataclass

from practice.returns.computing import pack_of
from practice.returns.ripple_bases import last_years_figures
from taxcore.engine.movements import Cause, against_last_year

_SAYS = {
    "income": ("Your income is {} {} than in {}.", "Your income is the same as in {}."),
    "tax": ("The tax on it is {} {} than in {}.", "The tax on it is the same as in {}."),
    "paid": (
        "What was withheld, paid and credited is {} {} than in {}.",
        "What was withheld, paid and credited is the same as in {}.",
    ),
}


@dataclass(frozen=True)
class Told:
    """One sentence and the lines that made it so, the largest first."""

    kind: str
    says: str
    causes: tuple[Cause, ...]


def told(return_, result, most=2):
    """Three sentences on income, tax and payments of the first authority; none without a return of the year before."""
    currency = pack_of(return_).currency
    found = []
    for head in against_last_year(result, last_years_figures(return_), most):
        moved, same = _SAYS[head.kind]
        amount = f"{currency}{abs(head.change):,.0f}"
        word = "more" if head.kind == "paid" else "higher"
        other = "less" if head.kind == "paid" else "lower"
        year = return_.year - 1
        says = moved.format(amount, word if head.change > 0 else other, year) if head.change else same.format(year)
        found.append(Told(head.kind, says, head.causes if head.change else ()))
    return found
