"""Form 8889: health savings accounts, for each person. IRC 223."""

from taxcore.engine import absent, excess, fact, greatest, least, line, nothing_because, pro_rata, ratio, share, total
from taxcore.packs.us.base import FederalForm

_MONTHS = range(1, 13)


class HealthSavings(FederalForm):
    """Contributions, deduction and distributions of one person. IRC 223(a), (b), (f)."""

    number, name, per = "8889", "Health savings accounts", "person"

    @classmethod
    def idle(cls, run):
        coded = any(row.code == "W" for wage in run.papers("w2") for row in wage.codes)
        return not coded and not run.papers("hsa") and not run.papers("1099-sa")

    def required(self):
        return bool(self.papers("hsa", self.key)) or bool(self._statements()) or self.employer > 0

    def _paper(self):
        return next(iter(self.papers("hsa", self.key)), None)

    def _of(self, name):
        paper = self._paper()
        return total(getattr(paper, name)) if paper is not None else absent("no HSA is entered")

    def _statements(self):
        return [paper for paper in self.papers("1099-sa", self.key) if paper.account_kind == "hsa"]

    def _cover(self, month):
        """Family, alone or none in that month; family wins where both were entered."""
        paper = self._paper()
        rows = paper.coverage if paper is not None else ()
        kinds = {row.kind for row in rows if row.first and row.last and row.first <= month <= row.last}
        return "family" if "family" in kinds else "alone" if "alone" in kinds else ""

    @line("2", "HSA contributions for the year")
    def paid_in(self):
        return self._of("paid_in")

    @line("3", "Contribution limit by coverage", cites="IRC 223(b)(1), (2), (8)")
    def cover_limit(self):
        """A twelfth for each month, or the whole of December's where that was chosen; from 55 the added amount with it."""
        law, paper = self.law.hsa, self._paper()
        if paper is None:
            return absent("no months of coverage are entered")
        yearly = {"alone": law.alone, "family": law.family, "": 0}
        if all(self._cover(month) == "family" for month in _MONTHS):
            return total(law.family)
        if paper.whole_year and self._cover(12):
            return greatest(yearly[self._cover(12)], self._by_months(yearly))
        return total(self._by_months(yearly))

    def _by_months(self, yearly):
        return ratio(total([yearly[self._cover(month)] for month in _MONTHS]), over=12)

    @line("4", "Archer MSA")
    def archer(self):
        return self._of("archer")

    @line("5", "Limit less Archer MSA")
    def limit_left(self):
        return excess(self.cover_limit, over=self.archer)

    @line("6", "Limit allocated to this spouse")
    def own_limit(self):
        return excess(self.limit_left, over=self._of("spouses_part"))

    @line("7", "Additional contribution, 55 or older", cites="IRC 223(b)(3)")
    def added(self):
        law, person, paper = self.law.hsa, self.person(self.key), self._paper()
        if person is None or (person.age_at_end() or 0) < law.catch_up_age:
            return nothing_because("is under 55")
        months = sum(1 for month in _MONTHS if self._cover(month))
        if paper is not None and paper.whole_year and self._cover(12):
            months = 12
        return pro_rata(law.catch_up, months, 12)

    @line("8", "Limit")
    def limit(self):
        return total(self.own_limit, self.added)

    @line("9", "Employer contributions")
    def employer(self):
        """A statement's amount may belong to the year before; what the next statement shows for this year counts here."""
        coded = [wage.coded({"W"}) for wage in self.papers("w2", self.key)]
        return excess(total(coded, self._of("next_year_employer")), over=self._of("after_year_employer"))

    @line("10", "Qualified HSA funding distributions")
    def from_ira(self):
        return self._of("from_ira")

    @line("11", "Lines 9 and 10")
    def others(self):
        return total(self.employer, self.from_ira)

    @line("12", "Limit less employer contributions")
    def left(self):
        return excess(self.limit, over=self.others)

    @line("13", "Deduction", weight="total", cites="IRC 223(a)")
    def deduction(self):
        return least(of={"own payments": self.paid_in, "limit left": self.left})

    @line("14a", "Distributions")
    def distributed(self):
        return total([paper.gross for paper in self._statements()])

    @line("14b", "Rolled over or withdrawn as excess")
    def rolled_over(self):
        return total([paper.rolled_over for paper in self._statements()])

    @line("14c", "Distributions not rolled over")
    def kept(self):
        return excess(self.distributed, over=self.rolled_over)

    @line("15", "Qualified medical expenses")
    def medical(self):
        return total([paper.medical for paper in self._statements()])

    @line("16", "Taxable distributions", weight="total", cites="IRC 223(f)(2)")
    def taxable(self):
        return excess(self.kept, over=self.medical)

    @line("17b", "20% of it", cites="IRC 223(f)(4)")
    def additional_tax(self):
        """Exceptions count statement by statement: each has its own reason."""
        papers = [p for p in self._statements() if not p.no_additional_tax]
        taxed = total([excess(p.gross, over=[p.rolled_over, p.medical]) for p in papers])
        return share(self.law.hsa.additional_tax, of=least(taxed, self.taxable))

    @line("18", "Last-month rule")
    def failed_testing(self):
        return self._of("failed_testing")

    @line("19", "Qualified HSA funding distribution")
    def failed_transfer(self):
        return self._of("failed_transfer")

    @line("20", "Total income, part III")
    def failed(self):
        return total(self.failed_testing, self.failed_transfer)

    @line("21", "Additional tax, 10%", cites="IRC 223(b)(8)(B)(i)(II)")
    def failed_tax(self):
        return share(self.law.hsa.failed_testing_tax, of=self.failed)

    @fact("Income from Form 8889")
    def income(self):
        return total(self.taxable, self.failed)

    @fact("Employer contributions above the limit", cites="IRC 106(d), 4973(g)")
    def employer_excess(self):
        return excess(self.others, over=self.limit)

    @fact("Excess contributions remaining", cites="IRC 4973(g)")
    def excess_left(self):
        own = excess(self.paid_in, over=self.left)
        carried = excess(self._of("excess_before"), over=excess(self.left, over=self.paid_in))
        return excess(total(own, self.employer_excess, carried), over=self._of("excess_withdrawn"))
