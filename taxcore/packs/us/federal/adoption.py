"""Form 8839: the adoption credit, what of it is paid out since 2025, and an employer's benefits. IRC 23, 137."""

from decimal import Decimal

from taxcore.engine import Loop, excess, fact, least, line, linked, nothing_because, ratio, share, total
from taxcore.packs.us.balances import ADOPTION_BEFORE, ADOPTION_CREDIT, ADOPTION_EARLIER, ADOPTION_GIVEN
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.carried import as_rows, by_year, left_over

_YEARS = 5  # that a credit waits: IRC 23(c)(1)


class AdoptedChild(FederalForm):
    """One child: what its adoption cost and when that counts. A column of Form 8839. IRC 23(a)(2), (b)(1), (e)."""

    number, name, per, worksheet = "8839 child", "Adoption, one child", "adoption", True

    @property
    def paper(self):
        return self.run.by_key(("adoption",), self.key)

    def required(self):
        return False

    @property
    def is_final(self):
        """By the end of this year."""
        final = self.paper.final_in
        return bool(final) and final <= self.year

    @line("2", "Maximum adoption credit")
    def most(self):
        return total(self.law.adoption.most)

    @line("3", "Prior year expenses, same child")
    def before(self):
        return total(self.paper.credited_before)

    @line("4", "Maximum less prior years")
    def left(self):
        return excess(self.most, over=self.before)

    @line("5", "Qualified adoption expenses", cites="IRC 23(a)(2), (3), (e)")
    def expenses(self):
        """Paid before the year in which it is final they count a year later; of a child from abroad once it is final."""
        paper = self.paper
        if paper.special_needs and paper.final_in == self.year:
            return total(self.left)
        late = total(paper.paid_before if not paper.final_in or paper.final_in >= self.year else 0)
        if paper.foreign:
            if not self.is_final:
                return nothing_because("the adoption of a child from abroad is not final")
            return total(paper.paid, late, paper.paid_earlier if paper.final_in == self.year else 0)
        return total(paper.paid if self.is_final else 0, late)

    @line("6", "Smaller of the two")
    def counted(self):
        return least(self.left, self.expenses)

    @line("11", "Income phaseout")
    def reduction(self):
        return share(self.run.form("us.8839").part_lost, of=self.counted)

    @fact("Employer's benefits that can be excluded", cites="IRC 137(b)(1), (e)")
    def benefits_within(self):
        if self.paper.foreign and not self.is_final:
            return nothing_because("the adoption of a child from abroad is not final")
        return least(self.paper.benefits, excess(self.most, over=self.paper.benefits_before))

    @fact("Adoption expenses of this year", closes=ADOPTION_BEFORE)
    def paid_now(self):
        return total(self.paper.paid)

    @fact("Adoption expenses of earlier years", closes=ADOPTION_EARLIER)
    def paid_earlier(self):
        if not self.paper.foreign or self.is_final:
            return nothing_because("no expense waits longer than a year")
        return total(self.paper.paid_earlier, self.paper.paid_before)

    @fact("Adoption expenses of Forms 8839", closes=ADOPTION_GIVEN)
    def given(self):
        return total(self.before, self.counted)


class Adoption(FederalForm):
    """Credit for adoption expenses, and exclusion of an employer's benefits. IRC 23, 137."""

    number, name = "8839", "Qualified adoption expenses"
    needs = ("adoption", "adoption-carried")
    income = linked("us.1040")
    more_credits = linked("us.sch-3")
    children = linked("us.sch-8812")

    def required(self):
        return self.together > 0 or self.benefits > 0

    @property
    def is_shut(self):
        """Apart from a spouse there is neither, unless they lived apart for the last six months. IRC 23(f)(1), 137(e)."""
        return self.income.status == "separate" and not self.paper("filing").lived_apart_half

    def _every(self, name):
        return [getattr(one, name) for one in self.every("us.8839-child")]

    @line("7", "Modified adjusted gross income", cites="IRC 23(b)(2)(B)")
    def modified(self):
        return total(self.income.adjusted_gross_income, self.income.left_out_abroad)

    @line("9", "MAGI above the threshold")
    def above(self):
        return excess(self.modified, over=self.law.adoption.falls_from)

    @line("10", "Phaseout fraction", rounding=None)
    def part_lost(self):
        return least(ratio(self.above, over=self.law.adoption.falls_over, places=3), 1)

    @line("12", "Adoption credit, current year", weight="total", cites="IRC 23(a)")
    def together(self):
        if self.is_shut:
            return nothing_because("spouses file separately")
        return total(self._every("counted"), less=self._every("reduction"))

    @line({2022: None, 2025: "13"}, "Refundable adoption credit", cites="IRC 23(a)(4)")
    def paid_out(self):
        if "paid_out" not in self.law.adoption:
            return nothing_because("it begins in 2025")
        if self.is_shut:
            return nothing_because("spouses file separately")
        each = [total(one.counted, less=one.reduction) for one in self.every("us.8839-child")]
        return total([least(credit, self.law.adoption.paid_out) for credit in each])

    @line({2022: "13", 2025: "15"}, "Credit carried forward from earlier years", cites="IRC 23(c)")
    def carried_in(self):
        return total([amount for _, amount in self._rows()])

    def _rows(self):
        return by_year(self.paper("adoption-carried").rows, since=self.year - _YEARS, until=self.year)

    @line({2022: "14", 2025: "16"}, "Nonrefundable credit before its limit")
    def before_limit(self):
        return total(self.together, self.carried_in, less=self.paid_out)

    @line({2022: "15", 2025: "17"}, "Credit limit", cites="IRC 23(b)(4), 26(a)")
    def limit(self):
        """After the other personal credits but that for clean energy, and the part of the child credit that is not paid out."""
        others = [self.more_credits.before_adoption, self.more_credits.mortgage, self.children.not_payable]
        return excess(self.income.tax_before_credits, over=others)

    @line({2022: "16", 2025: "18"}, "Adoption credit", weight="total")
    def credit(self):
        return least(of={"credit": self.before_limit, "credit limit": self.limit})

    @line({2022: "22", 2025: "24"}, "Employer-provided adoption benefits")
    def benefits(self):
        return total([one.paper.benefits for one in self.every("us.8839-child")])

    @line({2022: "23", 2025: "25"}, "Benefits, limited to the maximum")
    def benefits_within(self):
        return total(self._every("benefits_within"))

    @line({2022: "24", 2025: "26"}, "Modified adjusted gross income of benefits", cites="IRC 137(b)(3)")
    def modified_of_benefits(self):
        """With all of them. What of them is left out depends on income, and income on that: the circle is cut at line 30."""
        return total(
            self.income.adjusted_gross_income, self.income.left_out_abroad, self.benefits, less=self.income.adoption_benefits
        )

    @line({2022: "28", 2025: "30"}, "Excluded benefits", cites="IRC 137(a), (b)", loop=Loop(Decimal(1)))
    def excluded(self):
        if self.is_shut:
            return nothing_because("spouses file separately")
        law = self.law.adoption
        lost = least(ratio(excess(self.modified_of_benefits, over=law.falls_from), over=law.falls_over, places=3), 1)
        return excess(self.benefits_within, over=share(lost, of=self.benefits_within))

    @line({2022: "29", 2025: "31"}, "Taxable benefits")
    def taxable_benefits(self):
        return excess(self.benefits, over=self.excluded)

    @fact("Adoption credit carried over", closes=ADOPTION_CREDIT, by_origin="left_by_year", used="credit", expired="ended")
    def left(self):
        return total([Decimal(row["amount"]) for row in self.left_by_year()])

    def _left(self):
        """(year, amount) that is not used: the oldest is used first. IRC 23(c)(2)."""
        fresh = total(self.together, less=self.paid_out)
        return left_over([*self._rows(), (self.year, Decimal(fresh))], Decimal(self.credit))

    @fact("Adoption credit expiring this year")
    def ended(self):
        return total([amount for year, amount in self._left() if year <= self.year - _YEARS])

    def left_by_year(self):
        return as_rows(one for one in self._left() if one[0] > self.year - _YEARS)


FORMS = (Adoption, AdoptedChild)
