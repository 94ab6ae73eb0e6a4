"""An adoption, a disability, a mortgage credit certificate, a clean vehicle; what of credits waits. IRC 22, 23, 25, 25E, 30D."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Count, Day, Flag, Row, Rows, Text
from taxcore.packs.us.balances import ADOPTION_BEFORE, ADOPTION_CREDIT, ADOPTION_EARLIER, ADOPTION_GIVEN, MORTGAGE_CREDIT
from taxcore.packs.us.base import FederalPaper

_NUMBERS = {"ssn": "SSN", "atin": "ATIN", "itin": "ITIN"}


class Adoption(FederalPaper):
    """One child whose adoption is under way, or was made final. IRC 23, 137."""

    kind, name, official, group = "adoption", "Adoption of a child", "Form 8839", "credits"
    again, owned = True, False
    short, heading, main = "Adoption", "first_name", "paid"

    first_name = Text("1a", "Child's first name", longest=40, needed="Line 1 asks for it.", kept=True)
    last_name = Text(None, "Child's last name", longest=40, kept=True)
    birth_year = Count("1b", "Child's year of birth", most=2199, needed="Line 1 asks for it.", kept=True)
    disabled = Flag("1c", "Born before and disabled", cites="IRC 23(d)(2)(B)", kept=True)
    special_needs = Flag("1d", "Special needs, found by a state or tribe", cites="IRC 23(d)(3)", kept=True)
    foreign = Flag("1e", "Citizen or resident of another country", cites="IRC 23(e)", kept=True)
    number = Text("1f", "Identifying number", secret=True, pattern=r"\d{3}-?\d{2}-?\d{4}", longest=11, shape="000-00-0000",
                  pattern_says="Nine digits, 000-00-0000.", needed="Line 1 asks for it.", kept=True)  # fmt: skip
    number_kind = Choice(None, "Type of number", _NUMBERS, kept=True)
    final_in = Count("1g", "Final in the year", most=2199, help="Empty while it is not.", kept=True)

    paid = Amount("5", "Expenses paid this year", cites="IRC 23(d)(1)", help="Not reimbursed, nor of a spouse's child.",
                  begins="Expenses")  # fmt: skip
    paid_before = Amount(None, "Expenses paid last year", opens=ADOPTION_BEFORE)
    paid_earlier = Amount(None, "Expenses paid in years before last year", opens=ADOPTION_EARLIER, help="For a foreign adoption.")
    credited_before = Amount("3", "Expenses of Forms 8839 of earlier years, same child", opens=ADOPTION_GIVEN)

    benefits = Amount("22", "Employer's adoption benefits of this year", cites="IRC 137", begins="Employer",
                      help="W-2, box 12, code T. If there is one child, all of it.")  # fmt: skip
    benefits_before = Amount("20", "Employer's benefits of earlier years, same child")

    def comes_again(self):
        """Costs of the year after it is final still count."""
        return not self.final_in or self.final_in >= self.run.year

    @benefits.when_empty
    def _benefits(self):
        """All that statements show, where nobody else can be meant."""
        alone = len(self.run.papers("adoption")) == 1
        return sum((amount for wage in self.run.papers("w2") for amount in wage.coded({"T"})), Decimal(0)) if alone else None


class CarriedRow(Row):
    from_year = Count(None, "Year of the credit", most=2199, needed="It ends after some years.")
    amount = Amount(None, "Not used yet")


class AdoptionCarried(FederalPaper):
    """Adoption credits of the five years before that no tax was left for. IRC 23(c)."""

    kind, name, official, group = "adoption-carried", "Adoption credit carryforward", "Form 8839", "credits"
    single, owned = True, False

    rows = Rows(None, "Credits", CarriedRow, opens=ADOPTION_CREDIT)


class Disability(FederalPaper):
    """Somebody who retired on disability, and income that no tax takes. IRC 22(c), (e)."""

    kind, name, official, group = "disability", "Disability and nontaxable pensions", "Schedule R", "credits"
    short = "Disability"

    disabled = Flag(None, "Retired on permanent and total disability", cites="IRC 22(b)(2), (e)(3)", kept=True)
    statement = Flag("II", "Physician's statement on file", kept=True)
    income = Amount("11", "Taxable disability income", cites="IRC 22(c)(2)(B)", help="If empty, pensions marked as such.")
    untaxed = Amount("13b", "Nontaxable veterans' and other pensions not on a 1099-R", cites="IRC 22(c)(3)")

    @income.when_empty
    def _income(self):
        pensions = self.run.papers("1099-r", self.owner or "taxpayer")
        return sum((paper.gross for paper in pensions if paper.disability_pension), Decimal(0))


class MortgageCertificate(FederalPaper):
    """A mortgage credit certificate of a state or a local government. IRC 25."""

    kind, name, official, group = "mortgage-certificate", "Mortgage credit certificate", "Form 8396", "credits"
    single, owned, goes_on = True, False, True

    issuer = Text(None, "Issuer", longest=60, needed="Form 8396 asks for it.", kept=True)
    number = Text(None, "Certificate number", longest=30, needed="Form 8396 asks for it.", kept=True)
    issued = Day(None, "Date of issue", needed="Form 8396 asks for it.", kept=True)
    interest = Amount("1", "Interest on the certified amount", cites="IRC 25(a)(1)")
    rate = Amount("2", "Certificate credit rate, percent", cites="IRC 25(d)", needed="Copy it from the certificate.", kept=True)
    related = Flag(None, "Mortgage interest paid to a related person", cites="IRC 25(c)(2)(A)")


class MortgageCarried(FederalPaper):
    """Mortgage interest credits of the three years before that no tax was left for. IRC 25(e)(1)."""

    kind, name, official, group = "mortgage-carried", "Mortgage interest credit carryforward", "Form 8396", "credits"
    single, owned = True, False

    rows = Rows("4 to 6", "Credits", CarriedRow, opens=MORTGAGE_CREDIT)


class CleanVehicle(FederalPaper):
    """One clean vehicle. IRC 25E, 30D."""

    kind, name, official, group = "clean-vehicle", "Clean vehicle", "Form 8936", "credits"
    short, heading, main, owned = "Clean vehicle", "model", "credit", False

    model = Text("1", "Year, make and model", longest=60, wide=True, needed="Schedule A asks for it.")
    vin = Text("2", "VIN", longest=17, pattern=r"[A-HJ-NPR-Z0-9]{17}", pattern_says="A VIN has seventeen letters and digits.",
               needed="The credit requires it.", cites="IRC 30D(f)(9)")  # fmt: skip
    condition = Choice(None, "New or used", {"new": "New", "used": "Used"}, needed="The credits differ.")
    in_service = Day("3", "Placed in service", needed="The credit is of that year.")
    acquired = Day(None, "Acquired, or binding contract with a payment", cites="IRC 30D(h)", help="If it was on another day.")
    price = Amount(None, "Sale price", cites="IRC 25E(b)(1)", help="Of a used vehicle.")
    credit = Amount(None, "Credit on the seller's report", cites="IRC 30D(b)", help="Of a new vehicle: up to 7,500.")
    transferred = Flag(
        None,
        "Credit transferred to the dealer",
        cites="IRC 25E(f), 30D(g)",
        needed="Then it is not claimed.",
    )
    business = Flag(None, "Used in a business", cites="IRC 30D(c)(1)")
    earlier = Flag(None, "Used: such a credit in the three years before", cites="IRC 25E(c)(3)(D)")


PAPERS = (CleanVehicle, Adoption, AdoptionCarried, Disability, MortgageCertificate, MortgageCarried)
