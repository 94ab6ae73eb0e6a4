"""W-2, Form W-2. IRC 6051. Boxes 3 to 6 follow from box 1 until somebody keys them."""

from taxcore.engine import Amount, Choice, Flag, Refer, Row, Rows, Text, excess, least, share, total
from taxcore.packs.us.base import STATES, FederalPaper, Placed

CODES = {
    "A": "Uncollected Social Security tax on tips",
    "B": "Uncollected Medicare tax on tips",
    "C": "Taxable group-term life insurance over $50,000",
    "D": "Elective deferrals, 401(k)",
    "E": "Elective deferrals, 403(b)",
    "F": "Elective deferrals, 408(k)(6) SEP",
    "G": "Deferrals, 457(b)",
    "H": "Elective deferrals, 501(c)(18)(D)",
    "J": "Nontaxable sick pay",
    "K": "20% excise tax on excess golden parachute payments",
    "L": "Substantiated employee business expense reimbursements",
    "M": "Uncollected Social Security tax on group-term life insurance",
    "N": "Uncollected Medicare tax on group-term life insurance",
    "P": "Excludable moving expense reimbursements, Armed Forces",
    "Q": "Nontaxable combat pay",
    "R": "Employer contributions to an Archer MSA",
    "S": "SIMPLE salary reductions, 408(p)",
    "T": "Adoption benefits",
    "V": "Income from nonstatutory stock options",
    "W": "Employer contributions to an HSA",
    "Y": "Deferrals under a section 409A plan",
    "Z": "Income under a failed section 409A plan",
    "AA": "Designated Roth contributions, 401(k)",
    "BB": "Designated Roth contributions, 403(b)",
    "DD": "Cost of employer-sponsored health coverage",
    "EE": "Designated Roth contributions, governmental 457(b)",
    "FF": "Benefits under a QSEHRA",
    "GG": "Income from qualified equity grants, section 83(i)",
    "HH": "Aggregate deferrals under section 83(i)",
    "II": "Medicaid waiver payments excluded from box 1",
}

# Left out of box 1 and still wages for social security and Medicare. IRC 3121(v)(1)
DEFERRED_BUT_INSURED = frozenset({"D", "E", "F", "G", "S"})
ELECTIVE_DEFERRALS = frozenset({"D", "E", "F", "S", "AA", "BB"})

OTHER_KINDS = {
    "union": "Union dues",
    "insurance": "Health insurance premiums",
    "state": "State disability or unemployment tax",
    "overtime": "Qualified overtime compensation",
    "tips": "Qualified tips",
    "railroad": "Railroad retirement tax",
    "pension": "After-tax retirement contributions",
    "other": "Other",
}


class CodeRow(Row):
    code = Choice(None, "Code", CODES, needed="Choose the code beside the amount in box 12.")
    amount = Amount(None, "Amount")


class OtherRow(Row):
    kind = Choice(None, "Type", OTHER_KINDS, needed="Choose what the amount in box 14 is.")
    description = Text(None, "As printed", longest=30)
    amount = Amount(None, "Amount")


class StateRow(Row):
    state = Choice("15", "State", STATES, needed="Choose the state of this row.")
    state_number = Text(None, "State number", longest=20)
    wages = Amount("16", "Wages")
    withheld = Amount("17", "Tax withheld")
    local_wages = Amount("18", "Local wages")
    local_withheld = Amount("19", "Local tax")
    locality = Text("20", "Locality name", longest=20)


def _has_failed_plan(wage):
    return bool(wage.coded({"Z"}))


class WageStatement(FederalPaper):
    """One employer's statement for one employee. IRC 6051(a); boxes 3 to 6: IRC 3101, 3121(a)(1), 3102(f)."""

    placed = Placed("wages", rows="wages")
    kind, name, official, group = "w2", "Wage statement", "W-2", "income"
    short = "Wages"
    heading, main = "employer", "wages"
    party = {"number": "employer_number", "name": "employer", "street": "employer_street", "city": "employer_city",
             "state": "employer_state", "zip": "employer_zip"}  # fmt: skip
    repeats, again = ("states",), True

    employee_number = Text("a", "Employee's SSN", secret=True, wide=True, longest=11,
                           pattern=r"\d{3}-?\d{2}-?\d{4}", shape="000-00-0000",
                           pattern_says="A Social Security number has nine digits, 000-00-0000.", kept=True)  # fmt: skip
    employer_number = Text("b", "EIN", pattern=r"\d{2}-?\d{7}", longest=10, shape="00-0000000",
                           needed="Copy box b; the IRS matches it.",
                           pattern_says="An employer number has nine digits, 00-0000000.")  # fmt: skip
    employer = Text("c", "Employer", needed="Copy the name from box c.", wide=True, longest=60)
    employer_street = Text("c1", "Street address", needed="Copy the address from box c.", longest=60)
    employer_city = Text("c2", "City", needed="Copy the address from box c.", longest=40)
    employer_state = Choice("c3", "State", STATES, needed="Copy the address from box c.")
    employer_zip = Text("c4", "ZIP code", needed="Copy the address from box c.", pattern=r"\d{5}(-\d{4})?",
                        pattern_says="A ZIP code has five digits, or nine as 00000-0000.", longest=10)  # fmt: skip
    control_number = Text("d", "Control number", longest=20, wide=True)
    wages = Amount("1", "Wages, tips, other compensation")
    federal_withheld = Amount("2", "Federal income tax withheld")
    social_security_wages = Amount("3", "Social Security wages", cites="IRC 3121(a)(1)")
    social_security_withheld = Amount("4", "Social Security tax withheld", cites="IRC 3101(a)")
    medicare_wages = Amount("5", "Medicare wages and tips", cites="IRC 3121(u)")
    medicare_withheld = Amount("6", "Medicare tax withheld", cites="IRC 3101(b), 3102(f)")
    social_security_tips = Amount("7", "Social Security tips")
    allocated_tips = Amount("8", "Allocated tips")
    care_benefits = Amount("10", "Dependent care benefits")
    nonqualified_plans = Amount("11", "Nonqualified plans")
    codes = Rows("12", "Codes", CodeRow)
    failed_plan_interest = Amount(
        None,
        "Premium interest, section 409A",
        cites="IRC 409A(a)(1)(B)",
        help="Of code Z; the tax itself is worked out.",
        only=_has_failed_plan,
    )
    statutory_employee = Flag("13a", "Statutory employee")
    business = Refer(
        None, "Reported on", ("business",), optional=True, help="The Schedule C of a statutory employee.", kept=True,
        only=lambda wage: bool(wage.statutory_employee),
    )  # fmt: skip
    retirement_plan = Flag("13b", "Retirement plan")
    sick_pay = Flag("13c", "Third-party sick pay")
    others = Rows("14", "Other", OtherRow)
    states = Rows("15", "State and local, boxes 15 to 20", StateRow)

    def coded(self, codes):
        """Amounts of box 12 with any of these codes."""
        return [row.amount for row in self.codes if row.code in codes]

    @employee_number.when_empty
    def _employee_number(self):
        owner = self.run.person(self.owner)
        return owner.number if owner is not None else ""

    @social_security_wages.when_empty
    def _social_security_wages(self):
        room = excess(self.law.payroll.wage_base, over=self.social_security_tips)
        return least(of={"wages and deferrals": total(self.wages, self.coded(DEFERRED_BUT_INSURED)),
                         "wage base less tips": room})  # fmt: skip

    @social_security_withheld.when_empty
    def _social_security_withheld(self):
        return share(self.law.payroll.social_security_rate, of=total(self.social_security_wages, self.social_security_tips))

    @medicare_wages.when_empty
    def _medicare_wages(self):
        return total(self.wages, self.coded(DEFERRED_BUT_INSURED))

    @medicare_withheld.when_empty
    def _medicare_withheld(self):
        payroll = self.law.payroll
        above = excess(self.medicare_wages, over=payroll.additional_withheld_above)
        return total(share(payroll.medicare_rate, of=self.medicare_wages), share(payroll.additional_rate, of=above))
