"""What lowers income before the deduction: educators, health savings, students' loans, old alimony. IRC 62(a)."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.balances import HSA_EXCESS
from taxcore.packs.us.base import FederalPaper
from taxcore.packs.us.papers.statements import PayersStatement


class AlimonyRow(Row):
    recipient = Text(None, "Recipient's name", longest=60, needed="Line 19b asks who received it.")
    number = Text(None, "Recipient's SSN", secret=True, longest=11, pattern=r"\d{3}-?\d{2}-?\d{4}", shape="000-00-0000",
                  needed="Line 19b asks for it.",
                  pattern_says="A Social Security number has nine digits, 000-00-0000.")  # fmt: skip
    since = Day(None, "Date of the agreement", needed="Only an agreement before 2019 counts.")
    amount = Amount(None, "Paid")


class PersonalAdjustments(FederalPaper):
    """One person's adjustments that come with no statement."""

    kind, name, official, group = "adjustments", "Adjustments", "Schedule 1, part II", "adjustments"
    goes_on = True
    repeats = ("alimony",)

    educator = Amount("11", "Educator expenses", cites="IRC 62(a)(2)(D)")
    reservist = Amount("12", "Reservists, performing artists, fee-basis officials", cites="IRC 62(a)(2)(B), (C), (E)")
    alimony = Rows("19a", "Alimony paid", AlimonyRow, cites="P.L. 115-97, sec. 11051")
    legal_fees = Amount("24h", "Attorney fees, discrimination claims", cites="IRC 62(a)(20)")
    award_fees = Amount("24i", "Attorney fees, whistleblower awards", cites="IRC 62(a)(21)")
    repaid_unemployment = Amount("24e", "Repayment of supplemental unemployment (Trade Act)", cites="IRC 62(a)(12)")
    archer = Amount("23", "Archer MSA", cites="IRC 220")
    moving = Amount(
        "14",
        "Transportation and storage of household goods",
        cites="IRC 217(g)",
        begins="Moving expenses of the Armed Forces, Form 3903",
    )
    moving_travel = Amount(None, "Travel and lodging, no meals", cites="IRC 217(b)(1)(B)")
    moving_ordered = Flag(
        None, "Active duty, ordered to a permanent change of station", cites="IRC 217(g)",
        help="Nobody else's move is deductible; since 2026 the intelligence community's is too.",
    )  # fmt: skip


class LoanInterest(FederalPaper):
    """Interest on loans for education. IRC 221."""

    kind, name, official, group = "1098-e", "Student loan interest", "1098-E", "adjustments"
    again = True
    short, heading, main, joint_owner = "Student loan", "lender", "interest", True

    lender = Text(None, "Lender", needed="Copy the name from the form.", wide=True, longest=60)
    interest = Amount("1", "Interest")


COVERAGE = {"alone": "Self-only", "family": "Family"}


class CoverageRow(Row):
    """Months from the first to the last, of one kind of cover."""

    kind = Choice(None, "Coverage", COVERAGE, needed="Choose the coverage.")
    first = Count(None, "From month", most=12, needed="1 is January.")
    last = Count(None, "To month", most=12, needed="12 is December.")


class HealthSavings(FederalPaper):
    """One person's health savings account. IRC 223."""

    kind, name, official, group = "hsa", "Health savings account (HSA)", "8889", "adjustments"
    again = True
    short, main, once_each = "HSA", "paid_in", True

    coverage = Rows(None, "Coverage by month", CoverageRow, help="Months covered by an HDHP and no other plan.")
    paid_in = Amount("2", "HSA contributions for the year", help="Not the employer's, which are in box 12 of the W-2, code W.")
    whole_year = Flag(None, "Use the last-month rule", cites="IRC 223(b)(8)")
    spouses_part = Amount(
        None, "Limit allocated to spouse", cites="IRC 223(b)(5)", help="Of the family limit that both spouses share."
    )
    archer = Amount("4", "Archer MSA contributions", begins="Less common")
    from_ira = Amount("10", "Qualified HSA funding distribution", cites="IRC 408(d)(9)")
    after_year_employer = Amount(None, "Employer contribution in code W for last year", help="It counted last year.")
    next_year_employer = Amount(None, "Employer contribution next year for this year")
    failed_testing = Amount("18", "Income for failing the last-month testing period", cites="IRC 223(b)(8)(B)")
    failed_transfer = Amount("19", "Funding distribution, testing period failed", cites="IRC 408(d)(9)(D)")
    excess_before = Amount(None, "Excess contributions from prior years", cites="IRC 4973(g)", opens=HSA_EXCESS)
    excess_withdrawn = Amount(None, "Excess withdrawn by the due date", cites="IRC 223(f)(3)")
    value_at_end = Amount(None, "Value at year end")


ACCOUNTS = {"hsa": "Health savings account (HSA)", "archer": "Archer MSA", "medicare": "Medicare Advantage MSA"}


class SavingsDistribution(PayersStatement):
    """Distribution of an account for medical costs. IRC 223(f)."""

    kind, name, official, group = "1099-sa", "HSA distribution", "1099-SA", "adjustments"
    short, main = "HSA distribution", "gross"

    gross = Amount("1", "Gross distribution")
    excess_earnings = Amount("2", "Earnings on excess contributions")
    code = Choice("3", "Code", {"1": "Normal", "2": "Excess contributions", "3": "Disability", "4": "Death, not to an estate",
                                "5": "Prohibited transaction", "6": "Death, to an estate"})  # fmt: skip
    account_kind = Choice("5", "Type of account", ACCOUNTS, needed="Box 5 has a checkbox.")
    medical = Amount(None, "Qualified medical expenses paid", help="Not reimbursed and not deducted elsewhere.")
    rolled_over = Amount(None, "Rolled over or withdrawn as excess")
    no_additional_tax = Flag(None, "Age 65, disabled or deceased", cites="IRC 223(f)(4)(B), (C)")

    @no_additional_tax.when_empty
    def _no_additional_tax(self):
        owner = self.run.person(self.owner)
        return self.code in ("3", "4", "6") or bool(owner is not None and owner.is_aged())
