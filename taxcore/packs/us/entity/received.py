"""Schedules K-1 that an entity receives from partnerships in which it is a partner. IRC 701, 702(b), 704(d), 706(a)."""

from taxcore.engine import Amount, Flag, Text, check, found, stops, total
from taxcore.packs.us.basis.papers import ADJUSTED, amount_of
from taxcore.packs.us.entity.base import EIN, EntityPaper
from taxcore.packs.us.entity.books import accounts_of, credit_of
from taxcore.packs.us.papers.shares import PartnershipShare

KIND = "k1-1065"
# What enters ordinary income of the entity's business, and what comes in or goes out beside it
BUSINESS = ("ordinary", "guaranteed", "adjusted_business")
RENTAL = ("rental", "adjusted_rental")
_LOSSES = ("ordinary", "rental", "short_gain", "long_gain", "section_1231")
_OTHER = ("interest", "dividends", "royalties", "short_gain", "long_gain", "section_1231", "adjusted_long_gain", "adjusted_1231")
_LESS = ("cash_gifts", "investment_interest", "portfolio_deductions", "foreign_tax")
_DOLLAR = 1


def _boxes(*names):
    """Boxes as they are declared for people who hold an interest."""
    return {name: PartnershipShare.specs[name] for name in names}


class Received(EntityPaper):
    """One partnership's Schedule K-1 to this entity, box by box."""

    kind, name, official, group = KIND, "Partnership K-1", "Schedule K-1 (1065)", "books"
    short, heading, main = "Partnership", "entity", "ordinary"
    again = True

    entity = Text("B", "Name", needed="Copy the name from the form.", wide=True, longest=60, kept=True)
    entity_number = Text("A", "EIN", pattern=EIN, longest=10, shape="00-0000000", needed="It tells one share from another.",
                         pattern_says="An employer number has nine digits, 00-0000000.", kept=True)  # fmt: skip
    covered = Flag(None, "Loss allowed by basis", cites="IRC 704(d), 752", help="Asked only where there is a loss.")

    vars().update(_boxes(
        "ordinary", "rental", "guaranteed", "interest", "dividends", "qualified_dividends", "royalties", "short_gain",
        "long_gain", "collectibles", "unrecaptured", "section_1231", *ADJUSTED.values(), "section_179", "cash_gifts",
        "investment_interest",
    ))  # fmt: skip
    portfolio_deductions = Amount("13L", "Deductions, portfolio income")
    not_made = Amount(None, "Boxes 3, 11, 13 and 15 with other codes", negative=True, help="Their sum. It stops filing.")
    vars().update(_boxes("minimum_tax", "exempt_interest"))
    nondeductible = Amount("18C", "Nondeductible expenses")
    distributed = Amount("19A", "Cash and marketable securities distributed", cites="IRC 731")
    vars().update(_boxes("foreign_tax"))
    qualified_income = Amount(None, "Qualified business income", negative=True, cites="IRC 199A(c)",
                              begins="Qualified business income")  # fmt: skip
    vars().update(_boxes("qualified_wages", "property_basis", "service_trade"))


def received(run, *names):
    """Amounts of these boxes of every Schedule K-1 received."""
    return [getattr(paper, name) for paper in run.papers(KIND) for name in names]


def with_received(run, own, *names):
    """What is the entity's own, and what shares bring of it."""
    brought = [one for one in received(run, *names) if one]
    if not brought:
        return own
    return total(own, brought) if own else total(brought)


def of_return(run):
    """What shares bring to the return, and exempt interest: what books would have to show to need no reconciling."""
    return total(received(run, *BUSINESS, *RENTAL, *_OTHER, "exempt_interest"), less=received(run, *_LESS))


def differs(run):
    """What the return has of shares beyond the books. Schedule M-1."""
    return total(of_return(run), less=credit_of(run, "share_income", tax=False))


@stops("us.received.missing", "Books have income of partnerships, and no Schedule K-1", "missing", "IRC 702(a)")
@stops("us.received.loss", "Loss of a share without its basis", "missing", "IRC 704(d)")
@stops("us.received.expensed", "Section 179 of a partnership", "unsupported", "26 CFR 1.179-2(b)(3)")
@stops("us.received.more", "Schedule K-1 received with other boxes", "unsupported", "Schedule K-1 (1065)")
@check("us.received.not-booked", "Schedule K-1 received, and nothing of it in the books", "unlikely", "Schedule M-1")
@check("us.received.trades", "Qualified business income of more than one trade", "unlikely", "26 CFR 1.199A-6(b)(3)")
def shares(run):
    papers, booked = run.papers(KIND), accounts_of(run, "share_income")
    if booked and not papers:
        says = "The return takes it from the Schedule K-1, not from the books. Add it, or choose another tax line."
        yield found(booked[0].row.address("tax_line"), says, code="us.received.missing")
    for paper in papers:
        yield from _of_one(run, paper, booked)


def _of_one(run, paper, booked):
    if any(amount_of(paper, name) < 0 for name in _LOSSES) and not paper.covered:
        says = "Confirm that the basis in the partnership, with the share of its liabilities, allows the whole loss."
        yield found(paper.address("covered"), says, code="us.received.loss")
    if paper.section_179:
        says = "It is limited together with the entity's own, which is not made here. This return cannot be e-filed from here."
        yield found(paper.address("section_179"), says, code="us.received.expensed")
    if paper.not_made:
        says = "No line takes them here. This return cannot be e-filed from here."
        yield found(paper.address("not_made"), says, code="us.received.more")
    if not booked and abs(of_return(run)) > _DOLLAR:
        says = "Schedule M-1 explains all of it as income that books do not have. Book it on an account of its own."
        yield found(paper.address("entity"), says, code="us.received.not-booked")
    if paper.qualified_income and run.pack.issues is not None:
        says = "Schedules K-1 report one amount for all trades. Give owners a statement if the partnership has a separate trade."
        yield found(paper.address("qualified_income"), says, code="us.received.trades")
