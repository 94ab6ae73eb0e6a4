"""Schedule R, Form 8396 and Form 8801: credits for few people. IRC 22, 25, 53."""

from decimal import Decimal

from taxcore.engine import ZERO, excess, fact, least, line, linked, nothing_because, share, total
from taxcore.packs.us.balances import MINIMUM_CREDIT, MORTGAGE_CREDIT
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.carried import as_rows, by_year, left_over

_HALF, _PERCENT, _YEARS = Decimal("0.5"), Decimal("0.01"), 3
_OLD = 65


class Elderly(FederalForm):
    """Credit for the elderly or the disabled. IRC 22."""

    number, name = "Schedule R", "Credit for the elderly or the disabled"
    income = linked("us.1040")
    more_credits = linked("us.sch-3")

    @classmethod
    def idle(cls, run):
        people = [one for one in run.people() if one.role in ("taxpayer", "spouse")]
        return not run.papers("disability") and not any((one.age_at_end() or 0) >= _OLD for one in people)

    def required(self):
        return self.credit > 0

    def _is_old(self, one):
        return (one.age_at_end() or 0) >= _OLD

    def _disabled(self):
        """Those below 65 who are disabled."""
        said = {paper.owner or "taxpayer" for paper in self.papers("disability") if paper.disabled}
        return [one for one in self.income.filers if one.role in said and not self._is_old(one)]

    @fact("Persons who qualify")
    def qualifying(self):
        return total(Decimal(len(self._disabled()) + sum(self._is_old(one) for one in self.income.filers)))

    @line("10", "Initial amount", cites="IRC 22(c)(2)(A)")
    def initial(self):
        law = self.law.elderly_credit
        if self.qualifying == 0:
            return nothing_because("nobody is 65, or retired on disability")
        if self.income.status == "separate":
            apart = self.paper("filing").lived_apart
            return total(law.separate) if apart else nothing_because("spouses lived together and file separately")
        return total(law.both if self.qualifying > 1 else law.one)

    @line("11", "Disability income, with 5,000 of a spouse of 65", cites="IRC 22(c)(2)(B)")
    def disability(self):
        """Only where somebody below 65 qualifies."""
        disabled = self._disabled()
        if not disabled:
            return nothing_because("everybody who qualifies is 65")
        roles = {one.role for one in disabled}
        incomes = [paper.income for paper in self.papers("disability") if (paper.owner or "taxpayer") in roles]
        old = self.law.elderly_credit.one if self.qualifying > len(disabled) else 0
        return total(incomes, old)

    @line("12", "Smaller of the two")
    def base(self):
        return least(self.initial, self.disability) if self._disabled() else total(self.initial)

    @line("13a", "Nontaxable Social Security benefits")
    def untaxed_benefits(self):
        return excess(self.income.benefits_received, over=self.income.taxable_benefits)

    @line("13b", "Nontaxable pensions, annuities, disability benefits")
    def untaxed_pensions(self):
        return total(
            excess(self.income.pension_gross, over=self.income.pension_taxable),
            [paper.untaxed for paper in self.papers("disability")],
            less=self._rollovers(),
        )

    def _rollovers(self):
        """What was moved to another plan is no pension that was received."""
        moved = [p for p in self.papers("1099-r") if not p.ira and not p.disability_pension and set(p.codes()) & {"G", "H"}]
        return [paper.gross for paper in moved]

    @line("13c", "Lines 13a and 13b combined")
    def untaxed(self):
        return excess(total(self.untaxed_benefits, self.untaxed_pensions), over=ZERO)

    @line("14", "Adjusted gross income")
    def agi(self):
        return total(self.income.adjusted_gross_income)

    @line("15", "AGI threshold", cites="IRC 22(d)")
    def free(self):
        law, status = self.law.elderly_credit, self.income.status
        return total(law.free_joint if status == "joint" else law.free_separate if status == "separate" else law.free)

    @line("16", "AGI above the threshold")
    def above(self):
        return excess(self.agi, over=self.free)

    @line("17", "One-half of the excess")
    def half(self):
        return share(_HALF, of=self.above)

    @line("18", "Reduction")
    def reduction(self):
        return total(self.untaxed, self.half)

    @line("19", "Amount subject to the credit")
    def reduced(self):
        return excess(self.base, over=self.reduction)

    @line("20", "15% of that amount")
    def before_limit(self):
        return share(self.law.elderly_credit.rate, of=self.reduced)

    @line("21", "Credit limit")
    def limit(self):
        return excess(self.income.tax_before_credits, over=[self.more_credits.foreign, self.more_credits.care])

    @line("22", "Credit", weight="total", cites="IRC 22(a)")
    def credit(self):
        return least(of={"credit": self.before_limit, "credit limit": self.limit})


class MortgageCredit(FederalForm):
    """Mortgage interest credit of a certificate. IRC 25."""

    number, name = "8396", "Mortgage interest credit"
    needs = ("mortgage-certificate", "mortgage-carried")
    income = linked("us.1040")
    more_credits = linked("us.sch-3")
    children = linked("us.sch-8812")
    certificate = property(lambda form: form.paper("mortgage-certificate"))

    def required(self):
        return self.together > 0

    @line("1", "Interest on the certified amount")
    def interest(self):
        return total(self.certificate.interest)

    @line("2", "Certificate credit rate", rounding=None)
    def rate(self):
        return total(self.certificate.rate)

    @line("3", "Adoption credit, current year", cites="IRC 25(a)(2)(A)")
    def of_year(self):
        """At a rate above 20% no more than 2,000."""
        law, credit = self.law.mortgage_credit, share(Decimal(self.rate) * _PERCENT, of=self.interest)
        return least(credit, law.most) if self.rate > law.free_rate else total(credit)

    def _rows(self):
        return by_year(self.paper("mortgage-carried").rows, since=self.year - _YEARS, until=self.year)

    @line("7", "Total with carryforwards")
    def together(self):
        return total(self.of_year, [amount for _, amount in self._rows()])

    @line("8", "Credit limit", cites="IRC 25(e)(1)(C)")
    def limit(self):
        return excess(self.income.tax_before_credits, over=[self.more_credits.before_adoption, self.children.not_payable])

    @line("9", "Mortgage interest credit", weight="total")
    def credit(self):
        return least(of={"credit": self.together, "credit limit": self.limit})

    @fact(
        "Mortgage interest credit carried over", closes=MORTGAGE_CREDIT, by_origin="left_by_year", used="credit", expired="ended"
    )
    def left(self):
        return total([Decimal(row["amount"]) for row in self.left_by_year()])

    def _left(self):
        """(year, amount) that is not used: this year's is used first, then the oldest. Form 8396, part II."""
        rows = [(self.year, Decimal(self.of_year)), *self._rows()]
        return sorted(left_over(rows, Decimal(self.credit)))

    @fact("Mortgage interest credit expiring this year")
    def ended(self):
        return total([amount for year, amount in self._left() if year <= self.year - _YEARS])

    def left_by_year(self):
        return as_rows(one for one in self._left() if one[0] > self.year - _YEARS)


class MinimumTaxCredit(FederalForm):
    """Regular tax above the tentative minimum uses up minimum tax of earlier years; what this year's adds to it. IRC 53."""

    number, name = "8801", "Credit for prior year minimum tax"
    income = linked("us.1040")
    more_credits = linked("us.sch-3")

    @classmethod
    def idle(cls, run):
        return not run.single("credits-carried").minimum_tax and run.form("us.6251").tax == 0

    def required(self):
        return self.available > 0

    @line("21", "Minimum tax credit available")
    def available(self):
        return total(self.paper("credits-carried").minimum_tax)

    @line("22", "Regular tax less credits", cites="IRC 53(c)(1)")
    def regular(self):
        """Without a repaid premium credit, which is none of it."""
        return excess(self.income.tax, over=[self.more_credits.before_minimum, self.income.child_credit])

    @line("23", "Tentative minimum tax", cites="IRC 53(c)(2)")
    def tentative(self):
        return total(self.run.form("us.6251").tentative)

    @line("24", "Regular above tentative minimum tax")
    def room(self):
        return excess(self.regular, over=self.tentative)

    @line("25", "Minimum tax credit", weight="total")
    def credit(self):
        return least(self.available, self.room)

    @line("26", "Credit carried to the next year")
    def left(self):
        return excess(self.available, over=self.credit)

    @fact("This year's minimum tax", cites="IRC 53(d)(1)")
    def of_year(self):
        return total(self.run.form("us.6251").tax)

    @fact("Of it, what adds to the credit", cites="IRC 53(d)(1)(B)")
    def added(self):
        """Next year's Form 8801, line 18: what exclusion items alone do not bring about."""
        if self.of_year == 0:
            return nothing_because("there is no minimum tax this year")
        return excess(self.of_year, over=self.run.form("us.exclusion-items").tax)

    @fact("Minimum tax credit available next year", closes=MINIMUM_CREDIT, used="credit")
    def carried_on(self):
        return total(self.left, self.added)


FORMS = (Elderly, MortgageCredit, MinimumTaxCredit)
