"""What last year's return carried over to next year, beside what this one carries in: by what lines close and fields open.

Silent on a return whose last year is not known. Amounts are compared in whole dollars, as last year's forms hold them. A figure
that the law only looks at is compared where it is entered: nobody needs all of them.
"""

from taxcore.engine import CHECK, ZERO, Amount, Diagnostic, Mend, Rows, declares, found, whole
from taxcore.engine.balances import closings_of, openings_of
from taxcore.packs.us.balances import IRA_BASIS, QUALIFIED_LOSS
from taxcore.packs.us.checks.matching import amount_of, earlier_of, line_before
from taxcore.packs.us.federal.trades import TRADES
from taxcore.packs.us.papers.shares import KINDS as SHARES

_EACH = ("taxpayer", "spouse")
_BUSINESSES = (*TRADES, *SHARES)


def compared(papers, forms):
    """(code, opening, closing, balance) of everything that a return can be held against."""
    closings = closings_of(forms)
    return [
        (f"{jurisdiction}.carried.{balance.name}", opening, closings[balance, jurisdiction], balance)
        for (balance, jurisdiction), openings in openings_of(papers).items()
        for opening in openings
        if isinstance(opening.field, (Amount, Rows))
    ]


def check_of(papers, forms):
    """The check of these papers and forms: each balance under a code of its own."""
    rows = compared(papers, forms)

    @declares(*(Diagnostic(code, CHECK, balance.title, "carried", balance.cites) for code, *_, balance in rows))
    def carried_over(run):
        """What last year's return carried over to next year against what this one carries in."""
        if run.last_year is not None:
            for row in rows:
                yield from _differing(run, *row)

    return carried_over


def _differing(run, code, opening, closing, balance):
    name = opening.field.name
    for paper, key in _carriers(run, opening.paper):
        if not (balance.kept_up or balance.wanted) and (paper is None or not paper.is_keyed(name)):
            continue
        left = _left(run, balance, closing.name(key or None), name, key)
        keyed = _entered(run, balance, paper, name)
        if whole(keyed) == left:
            continue
        plain = paper is not None and isinstance(opening.field, Amount) and balance is not QUALIFIED_LOSS
        at = paper.address(name) if paper is not None else f"us.{opening.paper.kind}"
        yield found(
            at,
            f"{balance.title}: {keyed:,} here, {left:,} at the end of last year's return. Reconcile the difference.",
            code=code,
            mend=Mend(f"Enter {left:,}", at, str(left)) if plain else None,
        )


def _left(run, balance, line, name, key):
    """The line; where last year's lines have no basis of an IRA, it is what it was before."""
    if balance is IRA_BASIS and line not in run.last_year.lines:
        papers = [one for one in run.papers_before("ira") if (one.values.get("owner") or "taxpayer") == key]
        return whole(sum((amount_of(one.values, name) for one in papers), ZERO))
    return line_before(run, line)


def _entered(run, balance, paper, name):
    """What this return opens the balance with."""
    if paper is None:
        return ZERO
    if balance is QUALIFIED_LOSS:  # it may be entered business by business
        return paper.loss + sum((one.loss_before for kind in _BUSINESSES for one in run.papers(kind)), ZERO)
    value = getattr(paper, name)
    return sum((row.amount for row in value), ZERO) if isinstance(value, tuple) else value


def _carriers(run, declared):
    """(paper or None, what stands for it in the line): each person's, that of last year's paper, or the one of the return."""
    if declared.single:
        yield run.single(declared.kind), ""
    elif declared.once_each:
        for role in _EACH:
            if run.person(role) is not None:
                yield next(iter(run.papers(declared.kind, role)), None), role
    else:
        for paper in run.papers(declared.kind):
            earlier = earlier_of(run, paper)
            if earlier is not None:
                yield paper, earlier.id
