"""Form 8863: credits for education, student by student. IRC 25A."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, ratio, share, total
from taxcore.packs.us.balances import AMERICAN_YEARS
from taxcore.packs.us.base import FederalForm

NOT_HALF_TIME = "was not enrolled at least half-time"


class Student(FederalForm):
    """Part III for one student: which credit, and how much of the costs counts. IRC 25A(b)(2), (c), (f), (g)."""

    number, name, per = "8863-student", "Education credits, one student", "student"
    income = linked("us.1040")

    @classmethod
    def keys(cls, run):
        return list(dict.fromkeys(paper.student for paper in run.papers("1098-t") if paper.student))

    def required(self):
        return self.american > 0 or self.lifetime_costs > 0

    def _papers(self):
        return [paper for paper in self.papers("1098-t") if paper.student == self.key]

    @fact("Why no credit")
    def not_allowed(self):
        """A filer, or somebody the filer claims. IRC 25A(f)(1), (g)(3)."""
        person = next(one for one in self.run.people() if one.key == self.key)
        if person.role != "dependant":
            return "" if person in self.income.filers else "the student is not on this return"
        return "" if self.run.form("us.dependent", self.key).is_dependant else "the student is not a dependent on this return"

    @fact("Why not the American opportunity credit")
    def not_american(self):
        papers = self._papers()
        reasons = [
            (any(p.half_time for p in papers), NOT_HALF_TIME),
            (not any(p.four_years_done for p in papers), "has completed the first 4 years"),
            (all((p.years_claimed or 0) < 4 for p in papers), "the credit was claimed for 4 years"),
            (not any(p.convicted for p in papers), "has a felony drug conviction"),
            (not any(p.degree is False for p in papers), "is not pursuing a degree"),
            (not any(p.graduate for p in papers), "is a graduate student"),
        ]
        return next((reason for holds, reason in reasons if not holds), "")

    @fact("Credit claimed")
    def chosen(self):
        keyed = {paper.credit for paper in self._papers()} - {"", "better"}
        if self.not_allowed or "none" in keyed:
            return "none"
        if "lifetime" in keyed:
            return "lifetime"
        return "lifetime" if self.not_american else "american"

    def _help(self):
        papers = self._papers()
        got = [total(p.scholarships, p.other_aid) for p in papers]
        return excess(total(got), over=[p.taxed_scholarship for p in papers])

    @fact("Years of the American opportunity credit, this one too", closes=AMERICAN_YEARS)
    def american_years(self):
        """A year counts in which the credit was really had."""
        had = self.american > 0 and self.run.form("us.8863").american_left > 0
        return total(max((paper.years_claimed or 0 for paper in self._papers()), default=0), 1 if had else 0)

    @line("27", "Qualified expenses, limited to 4,000")
    def american_costs(self):
        if self.chosen != "american":
            return nothing_because(self.not_allowed or self.not_american or "the other credit was chosen")
        law = self.law.education
        costs = excess(total([total(p.paid, p.books) for p in self._papers()]), over=self._help())
        return least(of={"expenses": costs, "most": total(law.full, law.quarter_of_next)})

    @line("28", "Expenses above 2,000")
    def above_full(self):
        return excess(self.american_costs, over=self.law.education.full)

    @line("29", "25% of it")
    def quarter(self):
        return share(self.law.education.quarter, of=self.above_full)

    @line("30", "American opportunity credit", weight="total")
    def american(self):
        return total(least(self.american_costs, self.law.education.full), self.quarter)

    @line("31", "Lifetime learning expenses")
    def lifetime_costs(self):
        if self.chosen != "lifetime":
            return nothing_because(self.not_allowed or "the other credit was chosen")
        return excess(total([total(p.paid, p.books_from_school) for p in self._papers()]), over=self._help())


class EducationCredits(FederalForm):
    """Parts I and II: what is paid out, what lowers the tax. IRC 25A(d), (i)."""

    number, name = "8863", "Education credits"
    needs = ("1098-t",)
    income = linked("us.1040")
    more_credits = linked("us.sch-3")

    def required(self):
        return self.american > 0 or self.lifetime_costs > 0

    @line("1", "American opportunity credit, all students")
    def american(self):
        return total([one.american for one in self.every("us.8863-student")])

    @line("2", "Phaseout ends at")
    def ends(self):
        return self.law.education.phase_out_ends[self.income.status]

    @line("3", "Modified adjusted gross income")
    def modified_agi(self):
        return total(self.income.adjusted_gross_income, self.income.left_out_abroad)

    @line("4", "Phaseout end less income")
    def room(self):
        return excess(self.ends, over=self.modified_agi)

    @line("6", "Phaseout fraction", rounding=None)
    def part(self):
        """To three places; all of it when the room is as wide as the range."""
        if self.income.status == "separate":
            return nothing_because("a married taxpayer must file jointly")
        return least(
            of={
                "remaining phaseout over its range": ratio(
                    self.room, over=self.law.education.range[self.income.status], places=3
                ),
                "all": 1,
            }
        )

    @line("7", "American opportunity credit")
    def american_left(self):
        return share(self.part, of=self.american)

    @fact("Filer under 24, no refundable part", cites="IRC 25A(i)")
    def too_young(self):
        """Below 24 and living on the parents: the whole credit only lowers the tax."""
        person = self.person("taxpayer")
        if person is None or self.income.status == "joint" or person.earns_own_support:
            return False
        age = person.age_at_end()
        return age is not None and (age <= 18 or (age < 24 and bool(person.student)))

    @line("8", "Refundable American opportunity credit", weight="total")
    def paid_out(self):
        if self.too_young:
            return nothing_because("a filer under 24 supported by parents has no refundable part")
        return share(self.law.education.refundable, of=self.american_left)

    @line("9", "Nonrefundable part")
    def american_against_tax(self):
        return total(self.american_left, less=self.paid_out)

    @line("10", "Lifetime learning expenses")
    def lifetime_costs(self):
        return total([one.lifetime_costs for one in self.every("us.8863-student")])

    @line("11", "Limited to 10,000")
    def lifetime_capped(self):
        return least(of={"expenses": self.lifetime_costs, "most": self.law.education.lifetime_expenses})

    @line("12", "20% of it")
    def lifetime(self):
        return share(self.law.education.lifetime_rate, of=self.lifetime_capped)

    @line("17", "Phaseout fraction", rounding=None)
    def lifetime_part(self):
        return total(self.part)

    @line("18", "Lifetime learning credit")
    def lifetime_left(self):
        return share(self.lifetime_part, of=self.lifetime)

    @fact("Credit limit")
    def limit(self):
        return excess(
            self.income.tax_before_credits, over=[self.more_credits.foreign, self.more_credits.care, self.more_credits.elderly]
        )

    @line("19", "Nonrefundable credit", weight="total")
    def credit(self):
        both = total(self.lifetime_left, self.american_against_tax)
        return least(of={"credits": both, "credit limit": self.limit})
