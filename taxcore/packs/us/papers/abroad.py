"""Work in other countries: what was earned there, where somebody lived, what housing cost. IRC 911."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Count, Day, Text
from taxcore.packs.us.balances import HOUSING_ABROAD
from taxcore.packs.us.base import FederalPaper

EMPLOYERS = {
    "foreign": "Foreign entity",
    "domestic": "U.S. company",
    "affiliate": "Foreign affiliate of a U.S. company",
    "self": "Self",
    "other": "Other",
    "government": "U.S. government or its agency",
}
TESTS = {"residence": "Bona fide residence", "presence": "Physical presence"}


def _by_residence(paper):
    return paper.test == "residence"


def _by_presence(paper):
    return paper.test == "presence"


class ForeignEarned(FederalPaper):
    """One person's foreign earned income. Form 2555; IRC 911."""

    kind, name, official, group = "foreign-earned", "Foreign earned income", "Form 2555", "adjustments"
    again, once_each = True, True
    short, heading, main = "Earned abroad", "country", "pay"

    country = Text("1", "Foreign country", longest=40, kept=True, needed="Form 2555 asks where the income was earned.")
    employer = Text("3", "Employer", longest=60, kept=True)
    employer_kind = Choice(
        "5", "Employer is", EMPLOYERS, kept=True, cites="IRC 911(b)(1)(B)(ii)", needed="Pay of the United States is not excluded."
    )
    test = Choice(
        None, "Qualifies under", TESTS, kept=True, cites="IRC 911(d)(1)", needed="The exclusion depends on it.", begins="Tests"
    )
    residence_from = Day("10", "Residence began", kept=True, only=_by_residence)
    residence_to = Day(None, "Residence ended", only=_by_residence, help="Empty while it goes on.")
    presence_from = Day("16", "Twelve months, from", only=_by_presence)
    presence_to = Day(None, "Twelve months, through", only=_by_presence)
    days_abroad = Count(
        None, "Full days in foreign countries in these months", most=366, only=_by_presence, cites="IRC 911(d)(1)(B)"
    )

    on_w2 = Amount("19", "Earned abroad, in box 1 of a W-2", begins="Earned income")
    pay = Amount(None, "Pay from abroad without a W-2", help="Goes to Form 1040, line 1h.")
    business_income = Amount(
        "20a", "Business income for personal services", help="Before its deductions. The business itself stands on Schedule C."
    )
    in_kind = Amount("21d", "Noncash income, fair market value", help="Home, meals, car.")
    allowances = Amount("22g", "Allowances and reimbursements", help="Cost of living, family, education, home leave, quarters.")
    camp = Amount("25", "Of it, meals and lodging at the employer's camp", cites="IRC 119")
    deductions = Amount(
        "44",
        "Deductions allocable to excluded income",
        cites="IRC 911(d)(6)",
        help="Among them that part of half of self-employment tax.",
    )

    housing = Amount(
        "28",
        "Housing expenses",
        cites="IRC 911(c)(3)",
        begins="Housing",
        help="Rent, utilities, insurance, parking; no purchase, no domestic help.",
    )
    housing_limit = Amount(
        "29b",
        "Limit of the location, full year",
        cites="IRC 911(c)(2)(B)",
        help="If empty, the general one, 30% of the exclusion.",
    )
    employer_paid = Amount("34", "Employer-provided amounts", cites="IRC 911(c)(4)(D)")
    housing_before = Amount("49", "Housing deduction carryover", cites="IRC 911(c)(4)(C)", opens=HOUSING_ABROAD)

    @employer_paid.when_empty
    def _all_pay(self):
        """Whatever an employer pays counts, also plain wages."""
        return self.on_w2 + self.from_employer if self.employer_kind != "self" else Decimal(0)

    @property
    def from_employer(self):
        """What no W-2 shows."""
        return self.pay + self.in_kind + self.allowances
