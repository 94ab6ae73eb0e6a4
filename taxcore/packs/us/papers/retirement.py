"""Pensions, annuities, accounts for retirement, and Social Security: 1099-R, SSA-1099, 5498. IRC 72, 86, 219, 408, 408A."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, excess, pro_rata, total
from taxcore.packs.us.balances import COST_RECOVERED, IRA_BASIS, IRA_EXCESS, ROTH_EXCESS
from taxcore.packs.us.base import FederalPaper, Placed
from taxcore.packs.us.papers.statements import PayersStatement, state_rows

CODES = {
    "1": "Early distribution, no known exception",
    "2": "Early distribution, exception applies",
    "3": "Disability",
    "4": "Death",
    "5": "Prohibited transaction",
    "6": "Section 1035 exchange",
    "7": "Normal distribution",
    "8": "Excess contributions, taxable this year",
    "9": "Cost of current life insurance protection",
    "A": "May be eligible for 10-year tax option",
    "B": "Designated Roth account",
    "C": "Reportable death benefit",
    "D": "Nonqualified annuity",
    "E": "Distribution under EPCRS",
    "F": "Charitable gift annuity",
    "G": "Direct rollover",
    "H": "Direct rollover of a designated Roth account to a Roth IRA",
    "J": "Early distribution from a Roth IRA",
    "K": "IRA assets without a readily available FMV",
    "L": "Loan treated as distribution",
    "M": "Qualified plan loan offset",
    "N": "Recharacterized IRA contribution, this year",
    "P": "Excess contributions, taxable in prior year",
    "Q": "Qualified distribution from a Roth IRA",
    "R": "Recharacterized IRA contribution, last year",
    "S": "Early distribution from a SIMPLE IRA in first 2 years",
    "T": "Roth IRA distribution, exception applies",
    "U": "Dividend from an ESOP",
    "W": "Payments for long-term care insurance",
    "Y": "Gift to charity straight from the IRA",
}

# Form 5329, instructions to line 2: why an early distribution bears no additional tax. IRC 72(t)(2), (6) to (9)
EXCEPTIONS = {
    "01": "Left the employer at 55 or later",
    "02": "Equal payments over life",
    "03": "Disability",
    "04": "Death",
    "05": "Medical expenses above the floor",
    "06": "Ordered by a divorce court, not from an IRA",
    "07": "Health insurance while unemployed, IRA",
    "08": "Higher education, IRA",
    "09": "First home, IRA, 10,000 at most",
    "10": "Levy",
    "11": "Reservist called up",
    "12": "Something else that the law excepts",
    "13": "Public plan of section 457",
    "19": "Birth or adoption, 5,000 at most",
    "20": "Terminal illness",
    "21": "Corrective distribution of earnings",
    "22": "Domestic abuse",
    "23": "Emergency expense, 1,000 at most",
}
ROTH, EARLY = frozenset("JQT"), frozenset("1JS")


class RetirementDistribution(PayersStatement):
    """One distribution statement of one owner. IRC 72, 402, 408(d), 408A(d), 72(t)."""

    placed = Placed("gross")
    kind, name, official, group = "1099-r", "Pensions, annuities, IRAs", "1099-R", "income"
    again = True
    short, main = "Retirement", "gross"

    gross = Amount("1", "Gross distribution")
    taxable = Amount("2a", "Taxable amount", help="If empty, computed from the codes, the basis and the answers below.")
    undetermined = Flag("2b", "Taxable amount not determined")
    total_distribution = Flag(None, "Total distribution")
    capital_gain = Amount("3", "Capital gain in box 2a", help="Form 4972 only.")
    withheld = Amount("4", "Federal income tax withheld")
    own_contributions = Amount("5", "Employee contributions, Roth basis or insurance premiums")
    unrealised = Amount("6", "Net unrealized appreciation", cites="IRC 402(e)(4)")
    code = Choice("7", "Code", CODES, needed="Copy the first code from box 7.")
    second_code = Choice("7b", "Second distribution code", CODES)
    ira = Flag(None, "IRA/SEP/SIMPLE", needed="Box 7 has a checkbox beside the codes: yes or no.")
    other = Amount("8", "Other")
    total_contributions = Amount("9b", "Total employee contributions", cites="IRC 72(d)", kept=True)
    conversion_amount = Amount("10", "Amount allocable to IRR within 5 years")
    first_roth_year = Count("11", "First year of designated Roth contributions", most=2199)
    rolled_over = Amount(None, "Rolled over within 60 days", cites="IRC 402(c)(3), 408(d)(3)", begins="Rollovers and conversions")
    converted = Amount(None, "Converted to a Roth IRA", cites="IRC 408A(d)(3)")
    charity = Amount(None, "Qualified charitable distribution", cites="IRC 408(d)(8)")
    disability_pension = Flag(None, "Disability pension before minimum retirement age", help="Reported as wages, line 1h.")
    exception = Choice(None, "Exception to the additional tax", EXCEPTIONS, cites="IRC 72(t)(2)", begins="Early distributions")
    excepted = Amount(None, "Amount excepted", help="If empty, the whole taxable amount.")
    start = Day(
        None,
        "Annuity starting date",
        cites="IRC 72(d)(1)(B)",
        help="For the Simplified Method.",
        begins="Simplified Method",
        kept=True,
    )
    age_at_start = Count(None, "Age at annuity starting date", most=120, kept=True)
    joint_age_at_start = Count(None, "Joint annuitant's age then", most=120, kept=True)
    months_paid = Count(None, "Months paid this year", most=12)
    recovered_before = Amount(None, "Cost recovered tax free in prior years", opens=COST_RECOVERED)
    states = state_rows("14 to 16")

    def codes(self):
        return {self.code, self.second_code} - {""}

    def comes_again(self):
        """Not where nothing was left, and not what only went from one account to another."""
        return self.total_distribution is not True and not self.moved_all()

    def moved_all(self):
        """Nothing of it was kept."""
        return total(self.rolled_over, self.converted, self.charity) >= self.gross or bool(self.codes() & {"G", "H"})

    def is_roth(self):
        return bool(ROTH & self.codes())


class BenefitStatement(FederalPaper):
    """Social Security or tier 1 railroad benefits of one person. IRC 86(d)."""

    placed = Placed("net")
    kind, name, official, group = "ssa-1099", "Social Security benefits", "SSA-1099 or RRB-1099", "income"
    again = True
    short, main = "Benefits", "net"

    paid = Amount("3", "Benefits paid")
    repaid = Amount("4", "Benefits repaid")
    net = Amount("5", "Net benefits", negative=True)
    withheld = Amount("6", "Federal income tax withheld")
    medicare_premiums = Amount(
        None, "Medicare premiums withheld", help="They count as medical expenses.", cites="IRC 213(d)(1)(D)"
    )
    earlier_years = Amount(None, "Of box 3, paid for earlier years", cites="IRC 86(e)")
    lump_sum_taxable = Amount(None, "Taxable benefits under the lump-sum election", cites="IRC 86(e)",
                              help="Figured separately, year by year; used when it is smaller.")  # fmt: skip

    @net.when_empty
    def _net(self):
        return total(self.paid, less=self.repaid)


class RetirementAccounts(FederalPaper):
    """One person's own contributions to IRAs and what Form 8606 asks. Form 5498 has most of it. IRC 219, 408(o), 408A."""

    kind, name, official, group = "ira", "IRA contributions and basis", "5498, 8606", "adjustments"
    again = True
    short, main, once_each = "IRA", "traditional", True

    traditional = Amount("1", "Traditional IRA contributions for the year")
    roth = Amount("10", "Roth IRA contributions for the year")
    covered = Flag(
        None, "Covered by a retirement plan at work", cites="IRC 219(g)(5)", help="If empty, box 13 of the W-2s decides."
    )
    not_deducted = Amount(None, "Elected nondeductible", cites="IRC 408(o)(2)(B)(ii)")
    basis_before = Amount(
        None,
        "Basis at end of prior year",
        help="Line 14 of last year's Form 8606.",
        begins="Basis and value, Form 8606",
        opens=IRA_BASIS,
    )
    paid_after_year = Amount(None, "Of it, contributed after year end")
    value_at_end = Amount("5", "Value of all traditional IRAs at year end", help="Including SEP and SIMPLE IRAs.")
    repaid = Amount(None, "Outstanding rollovers at year end")
    roth_basis = Amount(None, "Roth contribution basis", help="All years, this one included.", begins="Roth IRAs")
    roth_conversion_basis = Amount(None, "Roth conversion basis")
    testing_distributions = Amount(
        None,
        "Distributions of the 2 prior years, and up to the due date",
        cites="IRC 25B(d)(2)",
        begins="Saver's credit and excess contributions",
    )
    excess_before = Amount(None, "Excess contributions from prior years", cites="IRC 4973", opens=IRA_EXCESS)
    roth_excess_before = Amount(None, "Excess Roth contributions from prior years", cites="IRC 4973(f)", opens=ROTH_EXCESS)

    @covered.when_empty
    def _covered(self):
        return any(wage.retirement_plan for wage in self.run.papers("w2", self.owner))


class EducationAccount(PayersStatement):
    """Section 529 or Coverdell account: information, unless more was taken than spent. IRC 529(c)(3), 530."""

    kind, name, official, group = "1099-q", "Education program payments", "1099-Q", "income"
    short, main = "Education account", "gross"

    gross = Amount("1", "Gross distribution")
    earnings = Amount("2", "Earnings")
    basis = Amount("3", "Basis")
    expenses = Amount(
        None,
        "Qualified education expenses paid from it",
        cites="IRC 529(e)(3)",
        help="Net of amounts used for a credit or covered by scholarships.",
    )
    rolled_over = Amount("4", "Rolled over")
    no_additional_tax = Amount(None, "Taxable amount exempt from the additional tax", help="Scholarship, disability or death.")

    def taxable(self):
        """Earnings in the share that was not spent on education."""
        if self.gross <= 0:
            return total(0)
        unspent = excess(self.gross, over=[self.rolled_over, self.expenses])
        return pro_rata(self.earnings, unspent, self.gross)
