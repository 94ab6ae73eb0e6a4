"""Shares of partnerships, S corporations, estates and trusts: Schedules K-1. IRC 702, 1366, 652, 662, 199A."""

from taxcore.engine import Amount, Flag, Rows, Text
from taxcore.packs.us.balances import PASSIVE_SHARE, QUALIFIED_LOSS, SHARE_179
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.statements import StateIncomeRow


class ShareRow(StateIncomeRow):
    """What a share means to one state: also what the entity paid there for its owners, and what the state counts otherwise."""

    income = Amount(None, "State income", negative=True)
    entity_tax = Amount(None, "PTE tax credit", help="Pass-through entity tax that the entity elected to pay.")
    modified = Amount(
        None, "Additions less subtractions", negative=True, help="Of the state's own schedule, such as Schedule K-1-P."
    )


class _Share(FederalPaper):
    """What the three kinds have in common."""

    group, heading, main = "income", "entity", "ordinary"
    party = {"number": "entity_number", "name": "entity"}
    again = True

    entity = Text("B", "Name", needed="Copy the name from the form.", wide=True, longest=60)
    entity_number = Text("A", "EIN", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                         needed="Schedule E asks for it.",
                         pattern_says="An employer number has nine digits, 00-0000000.")  # fmt: skip
    participates = Flag(None, "Materially participated", cites="IRC 469(h)", needed="A loss depends on it.", kept=True)
    all_at_risk = Flag(
        None,
        "Loss allowed by basis and at-risk limits",
        cites="IRC 465, 704(d), 1366(d)",
        help="Asked only where there is a loss.",
    )
    active = Flag(None, "Active participation in its rental real estate", cites="IRC 469(i)(6)", kept=True)
    passive_before = Amount(None, "Passive loss not allowed in earlier years", cites="IRC 469(b)", opens=PASSIVE_SHARE)
    disposed = Flag(
        None, "Disposed of entirely this year", cites="IRC 469(g)", help="In a taxable transaction to somebody unrelated."
    )
    publicly_traded = Flag(None, "Publicly traded partnership", cites="IRC 469(k), 199A(e)(4)", kept=True)
    qualified_income = Amount(
        None,
        "Qualified business income",
        negative=True,
        cites="IRC 199A(c)",
        begins="Qualified business income",
        help="Before section 179, which is taken off here.",
    )
    qualified_wages = Amount(None, "Section 199A W-2 wages", cites="IRC 199A(b)(4)")
    property_basis = Amount(None, "UBIA of qualified property", cites="IRC 199A(b)(6)")
    trust_dividends = Amount(None, "Section 199A dividends", cites="IRC 199A(b)(1)(B)")
    service_trade = Flag(None, "Specified service trade or business (SSTB)", cites="IRC 199A(d)(2)", kept=True)
    group_of = Text(None, "Aggregation group", longest=20, cites="26 CFR 1.199A-4", kept=True)
    loss_before = Amount(None, "QBI loss carryover", cites="IRC 199A(c)(2)")
    states = Rows(None, "States", ShareRow)


class QualifiedLoss(FederalPaper):
    """What losses of qualified businesses last year's return left: it waits, also through years without a business."""

    kind, name, official, group = "qualified-loss", "QBI loss carryforward", "8995, prior year", "income"
    single, owned = True, False

    loss = Amount(
        "3", "QBI loss carryforward", cites="IRC 199A(c)(2)", opens=QUALIFIED_LOSS,
        help="From last year's Form 8995, as a positive amount, unless it is entered business by business.",
    )  # fmt: skip


class PartnershipShare(_Share):
    placed = Placed("ordinary", rows="income")
    kind, name, official, short = "k1-1065", "Partnership K-1", "Schedule K-1 (1065)", "Partnership"

    ordinary = Amount("1", "Ordinary business income", negative=True, begins="Income and deductions")
    rental = Amount("2", "Net rental real estate income (loss)", negative=True)
    other_rental = Amount("3", "Other net rental income (loss)", negative=True)
    guaranteed = Amount("4c", "Guaranteed payments", negative=True, cites="IRC 707(c)")
    interest = Amount("5", "Interest")
    government_interest = Amount(None, "Of box 5, U.S. obligations", cites="31 USC 3124")
    dividends = Amount("6a", "Total ordinary dividends")
    qualified_dividends = Amount("6b", "Qualified dividends")
    royalties = Amount("7", "Royalties")
    short_gain = Amount("8", "Net short-term capital gain (loss)", negative=True)
    long_gain = Amount("9a", "Net long-term capital gain (loss)", negative=True)
    collectibles = Amount("9b", "Collectibles gain", negative=True)
    unrecaptured = Amount("9c", "Unrecaptured section 1250 gain")
    section_1231 = Amount("10", "Net section 1231 gain (loss)", negative=True)
    other_income = Amount("11", "Other income", negative=True, help="Reported on Schedule 1, line 8z.")
    section_179 = Amount("12", "Section 179")
    section_179_before = Amount(None, "Section 179 carryover", cites="IRC 179(b)(3)(B)", opens=SHARE_179)
    cash_gifts = Amount("13A", "Cash contributions", cites="IRC 170(b)(1)(G)")
    investment_interest = Amount("13H", "Investment interest", cites="IRC 163(d)")
    portfolio_deductions = Amount("13L", "Deductions, portfolio income", cites="IRC 67(b), (h)", help="Schedule A, line 16.")
    trade_deductions = Amount(None, "Other deductions of the business", cites="IRC 702(a)(7)", help="Schedule E, line 28.")
    adjusted_business = Amount(None, "Section 743(b), business", negative=True, cites="26 CFR 1.743-1(j)",
                               help="Boxes 11F and 13V, by what they change: below zero takes off income.")  # fmt: skip
    adjusted_rental = Amount(None, "Section 743(b), rental real estate", negative=True)
    adjusted_long_gain = Amount(None, "Section 743(b), long-term capital gain", negative=True)
    adjusted_1231 = Amount(None, "Section 743(b), section 1231 gain", negative=True)
    other_deductions = Amount("13", "Deductions not supported here")
    self_employment = Amount("14A", "Self-employment earnings", negative=True, cites="IRC 1402(a)")
    credits = Amount("15", "Credits")
    minimum_tax = Amount("17", "AMT items", negative=True)
    exempt_interest = Amount("18A", "Tax-exempt interest")
    foreign_tax = Amount("21", "Foreign tax")
    health_insurance = Amount(
        None, "Partner's health insurance", cites="IRC 162(l)", help="Included in guaranteed payments or paid by the partner."
    )
    sep = Amount(None, "Partner's SEP or plan, deductible", cites="IRC 404(a)(8)")
    unreimbursed = Amount(None, "Unreimbursed partnership expenses (UPE)", cites="IRC 162")


class CorporationShare(_Share):
    placed = Placed("ordinary", rows="income")
    kind, name, official, short = "k1-1120s", "S corporation K-1", "Schedule K-1 (1120-S)", "S corporation"

    ordinary = Amount("1", "Ordinary business income", negative=True, begins="Income and deductions")
    rental = Amount("2", "Net rental real estate income (loss)", negative=True)
    other_rental = Amount("3", "Other net rental income (loss)", negative=True)
    interest = Amount("4", "Interest")
    government_interest = Amount(None, "Of box 4, U.S. obligations", cites="31 USC 3124")
    dividends = Amount("5a", "Total ordinary dividends")
    qualified_dividends = Amount("5b", "Qualified dividends")
    royalties = Amount("6", "Royalties")
    short_gain = Amount("7", "Net short-term capital gain (loss)", negative=True)
    long_gain = Amount("8a", "Net long-term capital gain (loss)", negative=True)
    collectibles = Amount("8b", "Collectibles gain", negative=True)
    unrecaptured = Amount("8c", "Unrecaptured section 1250 gain")
    section_1231 = Amount("9", "Net section 1231 gain (loss)", negative=True)
    other_income = Amount("10", "Other income", negative=True)
    section_179 = Amount("11", "Section 179")
    section_179_before = Amount(None, "Section 179 carryover", cites="IRC 179(b)(3)(B)", opens=SHARE_179)
    cash_gifts = Amount("12A", "Cash contributions")
    investment_interest = Amount("12H", "Investment interest")
    portfolio_deductions = Amount("12L", "Deductions, portfolio income", cites="IRC 67(b), (h)", help="Schedule A, line 16.")
    trade_deductions = Amount(None, "Other deductions of the business", cites="IRC 1366(a)(1)", help="Schedule E, line 28.")
    other_deductions = Amount("12", "Deductions not supported here")
    credits = Amount("13", "Credits")
    foreign_tax = Amount("14", "Foreign tax")
    minimum_tax = Amount("15", "AMT items", negative=True)
    exempt_interest = Amount("16A", "Tax-exempt interest")
    health_insurance = Amount(None, "Shareholder's health insurance included in wages", cites="IRC 162(l), 1372")


class TrustShare(_Share):
    placed = Placed("ordinary", rows="income")
    kind, name, official, short = "k1-1041", "Estate or trust K-1", "Schedule K-1 (1041)", "Trust"

    interest = Amount("1", "Interest", begins="Income and deductions")
    government_interest = Amount(None, "Of box 1, U.S. obligations", cites="31 USC 3124")
    dividends = Amount("2a", "Total ordinary dividends")
    qualified_dividends = Amount("2b", "Qualified dividends")
    short_gain = Amount("3", "Net short-term capital gain", negative=True)
    long_gain = Amount("4a", "Net long-term capital gain", negative=True)
    collectibles = Amount("4b", "Collectibles gain", negative=True)
    unrecaptured = Amount("4c", "Unrecaptured section 1250 gain")
    other_income = Amount("5", "Other portfolio income", negative=True, help="Reported on Schedule 1, line 8z.")
    ordinary = Amount("6", "Ordinary business income", negative=True)
    rental = Amount("7", "Net rental real estate income (loss)", negative=True)
    other_rental = Amount("8", "Other net rental income (loss)", negative=True)
    other_deductions = Amount("9", "Directly apportioned deductions", help="Depreciation, depletion, amortization.")
    estate_tax = Amount("10", "Estate tax deduction")
    final_expenses = Amount(
        "11A", "Excess deductions, section 67(e) expenses", cites="IRC 642(h)(2)", begins="Final year of the estate or trust"
    )
    final_itemized = Amount("11B", "Excess deductions, itemized", cites="IRC 642(h)(2)")
    final_short = Amount("11C", "Short-term capital loss carryover", cites="IRC 642(h)(1)")
    final_long = Amount("11D", "Long-term capital loss carryover", cites="IRC 642(h)(1)")
    final_year = Amount("11", "Net operating loss carryover, other final year items")
    minimum_tax = Amount("12", "AMT items", negative=True)
    withheld = Amount("13B", "Tax withheld")
    credits = Amount("13", "Credits")
    exempt_interest = Amount("14A", "Tax-exempt interest")
    foreign_tax = Amount("14B", "Foreign tax")


SHARES = (PartnershipShare, CorporationShare, TrustShare)
KINDS = tuple(share.kind for share in SHARES)
