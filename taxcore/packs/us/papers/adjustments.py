"""What lowers income before the deduction: educators, health savings, students' loans, old alimony. IRC 62(a)."""

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.base import FederalPaper
from taxcore.packs.us.papers.statements import PayersStatement


class AlimonyRow(Row):
    recipient = Text(None, "Paid to", longest=60, needed="Line 19b asks who received it.")
    number = Text(None, "Recipient's number", secret=True, longest=11, pattern=r"\d{3}-?\d{2}-?\d{4}", shape="000-00-0000",
                  needed="Line 19b asks for it.",
                  pattern_says="A social security number has nine digits, 000-00-0000.")  # fmt: skip
    since = Day(None, "Date of the agreement", needed="Only an agreement before 2019 counts.")
    amount = Amount(None, "Paid")


class PersonalAdjustments(FederalPaper):
    """One person's adjustments that come with no statement."""

    kind, name, official, group = "adjustments", "Adjustments", "Schedule 1, part II", "adjustments"

    educator = Amount("11", "Educator's classroom costs", cites="IRC 62(a)(2)(D)")
    moving = Amount("14", "Armed forces moving costs, not repaid", cites="IRC 217(g)")
    reservist = Amount("12", "Reservist's, artist's or official's costs", cites="IRC 62(a)(2)(B), (C), (E)")
    alimony = Rows("19a", "Alimony paid", AlimonyRow, cites="P.L. 115-97, sec. 11051")
    legal_fees = Amount("24h", "Legal fees of a discrimination claim", cites="IRC 62(a)(20)")
    award_fees = Amount("24i", "Legal fees of a whistle-blower's award", cites="IRC 62(a)(21)")
    repaid_unemployment = Amount("24e", "Repaid trade adjustment payments", cites="IRC 62(a)(12)")
    archer = Amount("23", "Archer MSA", cites="IRC 220")


class LoanInterest(FederalPaper):
    """Interest on loans for education. IRC 221."""

    kind, name, official, group = "1098-e", "Student loan interest", "1098-E", "adjustments"
    short, heading, main, joint_owner = "Student loan", "lender", "interest", True

    lender = Text(None, "Lender", needed="Copy the name from the paper.", wide=True, longest=60)
    interest = Amount("1", "Interest")


COVERAGE = {"alone": "For oneself", "family": "Family"}


class CoverageRow(Row):
    """Months from the first to the last, of one kind of cover."""

    kind = Choice(None, "Cover", COVERAGE, needed="Say which plan it was.")
    first = Count(None, "From month", most=12, needed="1 is January.")
    last = Count(None, "To month", most=12, needed="12 is December.")


class HealthSavings(FederalPaper):
    """One person's health savings account. IRC 223."""

    kind, name, official, group = "hsa", "Health savings account", "8889", "adjustments"
    short, main, once_each = "Health savings", "paid_in", True

    coverage = Rows(None, "Cover by months", CoverageRow, help="Months under a high-deductible plan and nothing else.")
    paid_in = Amount("2", "Own payments for the year", help="Without the employer's, which are in box 12 of the wage statement.")
    whole_year = Flag(None, "Use the full limit of December's cover", cites="IRC 223(b)(8)")
    spouses_part = Amount(
        None, "Limit given to the spouse", cites="IRC 223(b)(5)", help="Of the family limit that two spouses share."
    )
    archer = Amount("4", "Archer MSA payments", begins="Less usual")
    from_ira = Amount("10", "Moved in from an IRA", cites="IRC 408(d)(9)")
    after_year_employer = Amount(None, "Employer's payment in box W for last year", help="It counted last year.")
    next_year_employer = Amount(None, "Employer's payment next year for this year")
    failed_testing = Amount("18", "Income because cover ended within the testing period", cites="IRC 223(b)(8)(B)")
    failed_transfer = Amount("19", "Moved from an IRA, cover ended", cites="IRC 408(d)(9)(D)")
    excess_before = Amount(None, "Excess left from last year", cites="IRC 4973(g)")
    excess_withdrawn = Amount(None, "Excess taken out before the due date", cites="IRC 223(f)(3)")
    value_at_end = Amount(None, "Value at year end")


ACCOUNTS = {"hsa": "Health savings account", "archer": "Archer MSA", "medicare": "Medicare Advantage MSA"}


class SavingsDistribution(PayersStatement):
    """Distribution of an account for medical costs. IRC 223(f)."""

    kind, name, official, group = "1099-sa", "Health savings distribution", "1099-SA", "adjustments"
    short, main = "Health savings paid out", "gross"

    gross = Amount("1", "Gross distribution")
    excess_earnings = Amount("2", "Earnings on excess contributions")
    code = Choice("3", "Code", {"1": "Normal", "2": "Excess contributions", "3": "Disability", "4": "Death, not to an estate",
                                "5": "Prohibited transaction", "6": "Death, to an estate"})  # fmt: skip
    account_kind = Choice("5", "Kind of account", ACCOUNTS, needed="Box 5 has a mark.")
    medical = Amount(None, "Spent on medical costs", help="Not paid back and not deducted elsewhere.")
    rolled_over = Amount(None, "Rolled over or withdrawn as excess")
    no_additional_tax = Flag(None, "65 or older, disabled or deceased", cites="IRC 223(f)(4)(B), (C)")

    @no_additional_tax.when_empty
    def _no_additional_tax(self):
        owner = self.run.person(self.owner)
        return self.code in ("3", "4", "6") or bool(owner is not None and owner.is_aged())
