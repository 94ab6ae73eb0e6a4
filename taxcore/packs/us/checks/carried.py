"""What last year's return carried over to next year, beside what this one carries in.

Silent on a return whose last year is not known. Amounts are compared in whole dollars, as last year's forms hold them.
"""

from taxcore.engine import CHECK, ZERO, Diagnostic, Mend, check, declares, found, whole
from taxcore.packs.us.checks.matching import amount_of, earlier_of, line_before

_EACH = ("taxpayer", "spouse")

# (short, paper, field, last year's line, what it is). {} in the line is the person's role or last year's business
_CARRIED = (
    ("short-loss", "capital-carryover", "short_term", "us.capital-loss-carryover:short_carried",
     "Short-term capital loss carried over", "IRC 1212(b)"),
    ("long-loss", "capital-carryover", "long_term", "us.capital-loss-carryover:long_carried",
     "Long-term capital loss carried over", "IRC 1212(b)"),
    ("applied", "estimates", "applied", "us.1040:applied", "Overpayment applied to this year", "IRC 6402(b)"),
    ("prior-agi", "prior-year", "adjusted_gross_income", "us.1040:adjusted_gross_income",
     "Prior year AGI", "IRC 6654(d)(1)(C)"),
    ("clean-energy", "energy", "carried_in", "us.5695:carried_on", "Clean energy credit carried over", "IRC 25D(c)"),
    ("investment-interest", "itemized", "investment_interest_before", "us.4952:carried_on",
     "Investment interest carried over", "IRC 163(d)(2)"),
    ("ira-basis", "ira", "basis_before", "us.8606[{}]:left", "IRA basis carried over", "IRC 408(o)"),
    ("ira-excess", "ira", "excess_before", "us.5329[{}]:ira_excess_all", "Excess IRA contributions carried over", "IRC 4973"),
    ("roth-excess", "ira", "roth_excess_before", "us.5329[{}]:roth_excess_all", "Excess Roth contributions carried over",
     "IRC 4973(f)"),
    ("hsa-excess", "hsa", "excess_before", "us.5329[{}]:savings_excess", "Excess HSA contributions carried over", "IRC 4973(g)"),
    ("home-office", "business", "home_carried", "us.8829[{}]:carried_on", "Home office expenses carried over", "IRC 280A(c)(5)"),
    ("inventory", "business", "inventory_start", "us.sch-c[{}]:inventory_end", "Inventory at the start", "IRC 471"),
)  # fmt: skip


@declares(*(Diagnostic(f"us.carried.{short}", CHECK, title, "carried", cites) for short, *_, title, cites in _CARRIED))
def carried_over(run):
    """What last year's return carried over to next year against what this one carries in."""
    if run.last_year is None:
        return
    for short, kind, name, line, title, _ in _CARRIED:
        for paper, key in _carriers(run, kind):
            left = _left(run, short, line.format(key), name, key)
            keyed = getattr(paper, name) if paper is not None else ZERO
            if whole(keyed) == left:
                continue
            mend = Mend(f"Enter {left:,}", paper.address(name), str(left)) if paper is not None else None
            at = paper.address(name) if paper is not None else f"us.{kind}"
            yield found(
                at,
                f"{title}: {keyed:,} here, {left:,} at the end of last year's return. Reconcile the difference.",
                code=f"us.carried.{short}",
                mend=mend,
            )


def _left(run, short, line, name, key):
    """The line; where its form was not needed, basis of an IRA is what it was before."""
    if short == "ira-basis" and line not in run.last_year.lines:
        papers = [one for one in run.papers_before("ira") if (one.values.get("owner") or "taxpayer") == key]
        return whole(sum((amount_of(one.values, name) for one in papers), ZERO))
    return line_before(run, line)


def _carriers(run, kind):
    """(paper or None, what stands for {} in the line): each person's, each business's, or the one of the return."""
    declared = run.pack.paper(kind)
    if declared.single:
        yield run.single(kind), ""
    elif kind == "business":
        for paper in run.papers(kind):
            earlier = earlier_of(run, paper)
            if earlier is not None:
                yield paper, earlier.id
    else:
        for role in _EACH:
            if run.person(role) is not None:
                yield next(iter(run.papers(kind, role)), None), role


@check("us.carried.gifts", "Contribution carryover differs from last year", "carried", "IRC 170(d)(1)")
@check(
    "us.carried.qualified-loss",
    "QBI loss carryforward differs from last year",
    "carried",
    "IRC 199A(c)(2)",
)
def carried_together(run):
    """Carried amounts that several rows or papers share."""
    if run.last_year is None:
        return
    rows = run.single("gift-carryover")
    gifts = sum((row.amount for row in rows.rows), ZERO)
    left = line_before(run, "us.gifts:left")
    if whole(gifts) != left:
        yield found(
            rows.address("rows"),
            f"The contribution carryover is {gifts:,}; last year's return left {left:,}. Enter them by year, or "
            "reconcile the difference.",
            code="us.carried.gifts",
        )
    papers = [paper for kind in ("business", "k1-1065", "k1-1120s") for paper in run.papers(kind)]
    losses, lost = sum((paper.loss_before for paper in papers), ZERO), abs(line_before(run, "us.8995:loss_after"))
    if papers and whole(losses) != lost:
        yield found(
            papers[0].address("loss_before"),
            f"The QBI loss carryforward is {losses:,}; last year's return left {lost:,}. Reconcile them.",
            code="us.carried.qualified-loss",
        )


CHECKS = (carried_over, carried_together)
