"""Schedules K-1 that an entity receives from partnerships in which it is a partner. IRC 701, 702(b), 704(d), 706(a)."""

from taxcore.engine import Amount, Flag, Text, check, found, stops, total
from taxcore.packs.us.entity.base import EIN, EntityPaper
from taxcore.packs.us.entity.books import accounts_of, credit_of

KIND = "k1-1065"
# What enters ordinary income of the entity's business, and what comes in or goes out beside it
BUSINESS = ("ordinary", "guaranteed", "adjusted_business")
RENTAL = ("rental", "adjusted_rental")
_OTHER = ("interest", "dividends", "royalties", "short_gain", "long_gain", "section_1231", "adjusted_long_gain", "adjusted_1231")
_LESS = ("cash_gifts", "investment_interest", "portfolio_deductions", "foreign_tax")
_LOSSES = ("ordinary", "rental", "short_gain", "long_gain", "section_1231")
_DOLLAR = 1


class Received(EntityPaper):
    """One partnership's Schedule K-1 to this entity, box by box."""

    kind, name, official, group = KIND, "Partnership K-1", "Schedule K-1 (1065)", "books"
    short, heading, main = "Partnership", "entity", "ordinary"
    again = True

    entity = Text("B", "Name", needed="Copy the name from the form.", wide=True, longest=60, kept=True)
    entity_number = Text("A", "EIN", pattern=EIN, longest=10, shape="00-0000000", needed="It tells one share from another.",
                         pattern_says="An employer number has nine digits, 00-0000000.", kept=True)  # fmt: skip
    covered = Flag(None, "Loss allowed by basis", cites="IRC 704(d), 752", help="Asked only where there is a loss.")

    ordinary = Amount("1", "Ordinary business income", negative=True, begins="Income and deductions")
    rental = Amount("2", "Net rental real estate income (loss)", negative=True)
    guaranteed = Amount("4c", "Guaranteed payments", negative=True, cites="IRC 707(c)")
    interest = Amount("5", "Interest")
    dividends = Amount("6a", "Total ordinary dividends")
    qualified_dividends = Amount("6b", "Qualified dividends")
    royalties = Amount("7", "Royalties")
    short_gain = Amount("8", "Net short-term capital gain (loss)", negative=True)
    long_gain = Amount("9a", "Net long-term capital gain (loss)", negative=True)
    collectibles = Amount("9b", "Collectibles gain", negative=True)
    unrecaptured = Amount("9c", "Unrecaptured section 1250 gain")
    section_1231 = Amount("10", "Net section 1231 gain (loss)", negative=True)
    adjusted_business = Amount(None, "Section 743(b), business", negative=True, cites="26 CFR 1.743-1(j)",
                               help="Boxes 11F and 13V, by what they change: below zero takes off income.")  # fmt: skip
    adjusted_rental = Amount(None, "Section 743(b), rental real estate", negative=True)
    adjusted_long_gain = Amount(None, "Section 743(b), long-term capital gain", negative=True)
    adjusted_1231 = Amount(None, "Section 743(b), section 1231 gain", negative=True)
    section_179 = Amount("12", "Section 179")
    cash_gifts = Amount("13A", "Cash contributions", cites="IRC 170, 702(a)(4)")
    investment_interest = Amount("13H", "Investment interest", cites="IRC 163(d)")
    portfolio_deductions = Amount("13L", "Deductions, portfolio income")
    not_made = Amount(None, "Boxes 3, 11, 13 and 15 with other codes", negative=True, help="Their sum. It stops filing.")
    minimum_tax = Amount("17A", "Post-1986 depreciation adjustment", negative=True)
    exempt_interest = Amount("18A", "Tax-exempt interest")
    nondeductible = Amount("18C", "Nondeductible expenses")
    distributed = Amount("19A", "Cash and marketable securities distributed", cites="IRC 731")
    foreign_tax = Amount("21", "Foreign tax")
    qualified_income = Amount(None, "Qualified business income", negative=True, cites="IRC 199A(c)",
                              begins="Qualified business income")  # fmt: skip
    qualified_wages = Amount(None, "Section 199A W-2 wages", cites="IRC 199A(b)(4)")
    property_basis = Amount(None, "UBIA of qualified property", cites="IRC 199A(b)(6)")
    service_trade = Flag(None, "Specified service trade or business (SSTB)", cites="IRC 199A(d)(2)", kept=True)


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
    if any(getattr(paper, name) < 0 for name in _LOSSES) and not paper.covered:
        says = "Say that its basis in the partnership, with its share of debt, allows all of it; what it does not allow waits."
        yield found(paper.address("covered"), says, code="us.received.loss")
    if paper.section_179:
        says = "It is limited together with the entity's own, which is not made here. This return cannot be e-filed from here."
        yield found(paper.address("section_179"), says, code="us.received.expensed")
    if paper.not_made:
        says = "They are not brought to the return here. This return cannot be e-filed from here."
        yield found(paper.address("not_made"), says, code="us.received.more")
    if not booked and abs(of_return(run)) > _DOLLAR:
        says = "Schedule M-1 explains all of it as income that books do not have. Book it on an account of its own."
        yield found(paper.address("entity"), says, code="us.received.not-booked")
    if paper.qualified_income and run.pack.issues is not None:
        says = "Owners are told one amount for all trades. Where the share's trade is another one, tell them apart."
        yield found(paper.address("qualified_income"), says, code="us.received.trades")
