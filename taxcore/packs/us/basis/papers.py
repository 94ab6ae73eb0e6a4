"""Papers of an owner's basis in a share, from year to year. IRC 705, 752, 1367; Form 7203."""

from taxcore.engine import Amount, Choice, Flag, Refer, Row, Rows, total
from taxcore.packs.us.balances import DEBT_BASIS, LOAN, PARTNER_BASIS, PARTNER_LOSS, RISK_LOSS, SHAREHOLDER_LOSS, STOCK_BASIS
from taxcore.packs.us.base import FederalPaper

# What a share can bring that uses basis, by the field of its Schedule K-1
ITEMS = {
    "ordinary": "Ordinary business loss", "rental": "Net rental real estate loss", "other_rental": "Other net rental loss",
    "short_gain": "Net short-term capital loss", "long_gain": "Net long-term capital loss",
    "section_1231": "Net section 1231 loss", "other_income": "Other loss", "section_179": "Section 179 deduction",
    "cash_gifts": "Charitable contributions", "investment_interest": "Investment interest expense",
    "portfolio_deductions": "Portfolio deductions", "trade_deductions": "Other deductions",
    "foreign_tax": "Foreign taxes paid or accrued",
}  # fmt: skip
DEDUCTIONS = ("section_179", "cash_gifts", "investment_interest", "portfolio_deductions", "trade_deductions", "foreign_tax")
# Not of the activity whose risk is counted: IRC 465(d)
NOT_AT_RISK_RULES = ("cash_gifts", "investment_interest", "portfolio_deductions", "foreign_tax")


# What section 743(b) changes, by the field that says how: 26 CFR 1.743-1(j)
ADJUSTED = {"ordinary": "adjusted_business", "rental": "adjusted_rental", "long_gain": "adjusted_long_gain",
            "section_1231": "adjusted_1231"}  # fmt: skip


def amount_of(paper, name):
    """One amount of a Schedule K-1, with what a partner's own basis in the property makes of it."""
    more = getattr(paper, ADJUSTED[name]) if paper.kind == "k1-1065" and name in ADJUSTED else 0
    return total(getattr(paper, name), more) if more else getattr(paper, name)


# Which paper of a basis is of which Schedule K-1
BASES = {"basis-s": ("k1-1120s",), "basis-p": ("k1-1065",)}


class LossRow(Row):
    item = Choice(None, "Item", ITEMS, needed="A loss keeps its kind.")
    amount = Amount(None, "Not allowed yet")


class _Basis(FederalPaper):
    """What both kinds have in common."""

    group = "income"
    again, owned = True, True

    @property
    def title(self):
        """Whose share it is of."""
        paper = self.run.by_key(BASES[self.kind], str(self.share or ""))
        return self.name if paper is None else f"{paper.title}, basis"


class ShareholderBasisPaper(_Basis):
    """What a shareholder put into one S corporation: stock, and loans of the shareholder's own. IRC 1366(d), 1367."""

    kind, name, official = "basis-s", "S corporation basis", "Form 7203"
    short, main = "S corporation basis", "stock"

    share = Refer(None, "Schedule K-1", BASES["basis-s"], needed="A basis is of one share.", kept=True)
    stock = Amount("1", "Stock basis at the beginning of the year", opens=STOCK_BASIS, cites="IRC 1367(a)")
    contributed = Amount("2", "Capital contributed or stock acquired")
    other_increases = Amount("3m", "Other items that increase basis", help="Not what the Schedule K-1 reports.")
    distributed = Amount("6", "Distributions, without dividends", cites="IRC 1368", help="Box 16, code D.")
    nondeductible = Amount("8a", "Nondeductible expenses", help="Box 16, code C.", cites="IRC 1367(a)(2)(D)")
    held_short = Flag(None, "Stock held one year or less", cites="IRC 1222", help="If distributions exceed its basis.")

    loan = Amount("16", "Loan balance at the beginning of the year", opens=LOAN, begins="Loans to the corporation",
                  help="Of the shareholder's own; a guarantee is none.")  # fmt: skip
    lent = Amount("17", "Additional loans")
    repaid = Amount("19", "Principal repaid")
    debt = Amount("21", "Debt basis at the beginning of the year", opens=DEBT_BASIS, cites="IRC 1367(b)(2)")
    open_account = Flag(None, "Open account, no written note", cites="26 CFR 1.1367-2(a)(2)", kept=True)

    rows = Rows("35-46", "Losses of earlier years not allowed by basis", LossRow, opens=SHAREHOLDER_LOSS,
                cites="IRC 1366(d)(2)", begins="Losses")  # fmt: skip
    not_at_risk = Amount(None, "Of the basis, not at risk", cites="IRC 465(b)", kept=True)
    risk_rows = Rows(None, "Losses of earlier years not allowed at risk", LossRow, opens=RISK_LOSS, cites="IRC 465(a)(2)")


class PartnerBasisPaper(_Basis):
    """A partner's basis in one partnership, with liabilities. IRC 704(d), 705, 752."""

    kind, name, official = "basis-p", "Partnership basis", "IRC 705"
    short, main = "Partnership basis", "basis"

    share = Refer(None, "Schedule K-1", BASES["basis-p"], needed="A basis is of one share.", kept=True)
    basis = Amount("1", "Basis at the beginning of the year, with liabilities", opens=PARTNER_BASIS, cites="IRC 705(a)")
    contributed = Amount("2", "Money and property contributed", help="Property at its basis.")
    liabilities = Amount("3", "Change in the partner's share of liabilities", negative=True, cites="IRC 752",
                         help="A decrease with a minus sign counts as money received.")  # fmt: skip
    other_increases = Amount("4", "Other items that increase basis")
    distributed = Amount("6", "Money distributed", cites="IRC 731, 733", help="Box 19, code A.")
    property_distributed = Amount("7", "Property distributed, at its basis", cites="IRC 732")
    nondeductible = Amount("8", "Nondeductible expenses", cites="IRC 705(a)(2)(B)", help="Box 18, code C.")
    held_short = Flag(None, "Interest held one year or less", cites="IRC 1222", help="If distributions exceed its basis.")

    rows = Rows("12-24", "Losses of earlier years not allowed by basis", LossRow, opens=PARTNER_LOSS, cites="IRC 704(d)(2)",
                begins="Losses")  # fmt: skip
    not_at_risk = Amount(None, "Of the basis, not at risk", cites="IRC 465(b)", kept=True,
                         help="Nonrecourse debt that is not qualified nonrecourse financing.")  # fmt: skip
    risk_rows = Rows(None, "Losses of earlier years not allowed at risk", LossRow, opens=RISK_LOSS, cites="IRC 465(a)(2)")


PAPERS = (ShareholderBasisPaper, PartnerBasisPaper)
