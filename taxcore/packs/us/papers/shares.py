"""Shares of partnerships, S corporations, estates and trusts: Schedules K-1. IRC 702, 1366, 652, 662, 199A."""

from taxcore.engine import Amount, Flag, Rows, Text
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.statements import StateIncomeRow


class _Share(FederalPaper):
    """What the three kinds have in common."""

    group, heading, main = "income", "entity", "ordinary"
    party = {"number": "entity_number", "name": "entity"}

    entity = Text("B", "Name", needed="Copy the name from the paper.", wide=True, longest=60)
    entity_number = Text("A", "Employer number", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                         needed="Schedule E asks for it.",
                         pattern_says="An employer number has nine digits, 00-0000000.")  # fmt: skip
    participates = Flag(None, "Took part materially", cites="IRC 469(h)", needed="A loss depends on it.")
    all_at_risk = Flag(None, "Loss within basis and at risk", cites="IRC 465, 704(d), 1366(d)", help="Only asked of a loss.")
    publicly_traded = Flag(None, "Publicly traded partnership", cites="IRC 469(k), 199A(e)(4)")
    qualified_income = Amount(
        None, "Qualified business income", negative=True, cites="IRC 199A(c)", begins="Qualified business income"
    )
    qualified_wages = Amount(None, "W-2 wages of the business", cites="IRC 199A(b)(4)")
    property_basis = Amount(None, "Unadjusted basis of qualified property", cites="IRC 199A(b)(6)")
    trust_dividends = Amount(None, "Section 199A dividends", cites="IRC 199A(b)(1)(B)")
    service_trade = Flag(None, "Specified service trade", cites="IRC 199A(d)(2)")
    group_of = Text(None, "Aggregated with", longest=20, cites="26 CFR 1.199A-4")
    loss_before = Amount(None, "Qualified loss carried in", cites="IRC 199A(c)(2)")
    states = Rows(None, "States", StateIncomeRow)


class PartnershipShare(_Share):
    placed = Placed("ordinary", rows="income")
    kind, name, official, short = "k1-1065", "Share of a partnership", "Schedule K-1 (1065)", "Partnership"

    ordinary = Amount("1", "Ordinary business income", negative=True, begins="The boxes")
    rental = Amount("2", "Rental real estate", negative=True)
    other_rental = Amount("3", "Other rental", negative=True)
    guaranteed = Amount("4c", "Guaranteed payments", negative=True, cites="IRC 707(c)")
    interest = Amount("5", "Interest")
    government_interest = Amount(None, "Of box 5, from US obligations", cites="31 USC 3124")
    dividends = Amount("6a", "Ordinary dividends")
    qualified_dividends = Amount("6b", "Qualified dividends")
    royalties = Amount("7", "Royalties")
    short_gain = Amount("8", "Short-term gain or loss", negative=True)
    long_gain = Amount("9a", "Long-term gain or loss", negative=True)
    collectibles = Amount("9b", "Collectibles gain", negative=True)
    unrecaptured = Amount("9c", "Unrecaptured section 1250 gain")
    section_1231 = Amount("10", "Section 1231 gain or loss", negative=True)
    other_income = Amount("11", "Other income", negative=True, help="Goes to Schedule 1, line 8z.")
    section_179 = Amount("12", "Section 179")
    cash_gifts = Amount("13A", "Cash gifts", cites="IRC 170(b)(1)(G)")
    investment_interest = Amount("13H", "Investment interest", cites="IRC 163(d)")
    other_deductions = Amount("13", "Other deductions")
    self_employment = Amount("14A", "Earnings from self-employment", negative=True, cites="IRC 1402(a)")
    credits = Amount("15", "Credits")
    minimum_tax = Amount("17", "Minimum tax items", negative=True)
    exempt_interest = Amount("18A", "Tax-exempt interest")
    foreign_tax = Amount("21", "Foreign tax")
    health_insurance = Amount(
        None, "Partner's health insurance", cites="IRC 162(l)", help="In guaranteed payments or paid by the partner."
    )
    sep = Amount(None, "Partner's SEP or plan, deductible", cites="IRC 404(a)(8)")
    unreimbursed = Amount(None, "Partner's own business expenses", cites="IRC 162")


class CorporationShare(_Share):
    placed = Placed("ordinary", rows="income")
    kind, name, official, short = "k1-1120s", "Share of an S corporation", "Schedule K-1 (1120-S)", "S corporation"

    ordinary = Amount("1", "Ordinary business income", negative=True, begins="The boxes")
    rental = Amount("2", "Rental real estate", negative=True)
    other_rental = Amount("3", "Other rental", negative=True)
    interest = Amount("4", "Interest")
    government_interest = Amount(None, "Of box 4, from US obligations", cites="31 USC 3124")
    dividends = Amount("5a", "Ordinary dividends")
    qualified_dividends = Amount("5b", "Qualified dividends")
    royalties = Amount("6", "Royalties")
    short_gain = Amount("7", "Short-term gain or loss", negative=True)
    long_gain = Amount("8a", "Long-term gain or loss", negative=True)
    collectibles = Amount("8b", "Collectibles gain", negative=True)
    unrecaptured = Amount("8c", "Unrecaptured section 1250 gain")
    section_1231 = Amount("9", "Section 1231 gain or loss", negative=True)
    other_income = Amount("10", "Other income", negative=True)
    section_179 = Amount("11", "Section 179")
    cash_gifts = Amount("12A", "Cash gifts")
    investment_interest = Amount("12H", "Investment interest")
    other_deductions = Amount("12", "Other deductions")
    credits = Amount("13", "Credits")
    foreign_tax = Amount("14", "Foreign tax")
    minimum_tax = Amount("15", "Minimum tax items", negative=True)
    exempt_interest = Amount("16A", "Tax-exempt interest")
    health_insurance = Amount(None, "Shareholder's health insurance in the wages", cites="IRC 162(l), 1372")


class TrustShare(_Share):
    placed = Placed("ordinary", rows="income")
    kind, name, official, short = "k1-1041", "Share of an estate or trust", "Schedule K-1 (1041)", "Trust"

    interest = Amount("1", "Interest", begins="The boxes")
    government_interest = Amount(None, "Of box 1, from US obligations", cites="31 USC 3124")
    dividends = Amount("2a", "Ordinary dividends")
    qualified_dividends = Amount("2b", "Qualified dividends")
    short_gain = Amount("3", "Short-term gain", negative=True)
    long_gain = Amount("4a", "Long-term gain", negative=True)
    collectibles = Amount("4b", "Collectibles gain", negative=True)
    unrecaptured = Amount("4c", "Unrecaptured section 1250 gain")
    other_income = Amount("5", "Other portfolio income", negative=True, help="Goes to Schedule 1, line 8z.")
    ordinary = Amount("6", "Ordinary business income", negative=True)
    rental = Amount("7", "Rental real estate", negative=True)
    other_rental = Amount("8", "Other rental", negative=True)
    other_deductions = Amount("9", "Deductions of the trust", help="Depreciation, depletion, amortisation.")
    estate_tax = Amount("10", "Estate tax deduction")
    final_year = Amount("11", "Final year deductions and losses")
    minimum_tax = Amount("12", "Minimum tax items", negative=True)
    withheld = Amount("13B", "Tax withheld")
    credits = Amount("13", "Credits")
    exempt_interest = Amount("14A", "Tax-exempt interest")
    foreign_tax = Amount("14B", "Foreign tax")


SHARES = (PartnershipShare, CorporationShare, TrustShare)
KINDS = tuple(share.kind for share in SHARES)
