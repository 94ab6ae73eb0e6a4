"""Form 1116, one for each category, and the credit without it. IRC 901, 904, 904(j)."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, pro_rata, ratio, share, total, whole
from taxcore.packs.us.balances import FOREIGN_CATEGORY, FOREIGN_TAX
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.carried import as_rows
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.papers.shares import KINDS as SHARES


class ForeignTax(FederalForm):
    """Foreign tax up to the share of the tax that foreign income bears. IRC 904(a). Gain of the 25% and 28% kind stops filing."""

    number, name = "1116", "Foreign tax credit"
    income = linked("us.1040")
    itemized = linked("us.sch-a")
    gains = linked("us.sch-d")

    @classmethod
    def idle(cls, run):
        papers = [paper for kind in ("1099-int", "1099-div", *SHARES) for paper in run.papers(kind)]
        asked = run.papers("foreign-tax") or run.papers("foreign-category")
        return not asked and not any(paper.is_keyed("foreign_tax") for paper in papers)

    def required(self):
        return self.available > 0 and not self.without_form and not self.deducted

    @property
    def deducted(self):
        """Chosen for all categories together."""
        return bool(self.paper("foreign-tax").deduct_instead)

    @property
    def questions(self):
        return self.paper("foreign-tax")

    @fact("Credit without Form 1116", cites="IRC 904(j)")
    def without_form(self):
        """All of it on payers' statements, passive, and no more than 300, or 600 jointly."""
        plain = (
            not self.papers("foreign-category")
            and self.questions.other_tax == 0
            and not self.questions.carried
            and self.questions.category != "general"
        )
        return plain and self.tax <= self.law.foreign_tax.without_form[self.income.status]

    @fact("Gains and qualified dividends need no adjustment", cites="IRC 904(b)(2)(B); 26 CFR 1.904(b)-1(b)(3)")
    def is_excepted(self):
        """Where less than 20,000 of them are foreign, and what is taxed at ordinary rates ends below the 32% bracket."""
        income, law = self.income, self.law
        preferred = total(income.qualified_dividends, self.gains.preferred)
        if preferred == 0:
            return True
        begins = next(edge for edge, rate in law.income_tax[income.status] if rate >= law.foreign_tax.rate_below)
        every = total(self.run.form("us.1116").gross, [one.gross for one in self.every("us.1116-category")])
        foreign = least(every, preferred)  # no more of them can be
        return foreign < law.foreign_tax.gains_below and excess(income.taxable_income, over=preferred) <= begins

    @fact("Foreign source gross income before adjustment")
    def gross(self):
        return total(self.questions.gross_income, [paper.foreign_income for paper in self.papers("1099-div")])

    @fact("Foreign gain and qualified dividends")
    def preferred_abroad(self):
        return least(total(self.questions.qualified, self.questions.long_gain), self.gross)

    @property
    def rates(self):
        """The worksheet that says what bears which rate."""
        return self.run.form("us.qualified-dividends-worksheet")

    def _at(self, amount):
        """Of foreign gain and qualified dividends as much as all of them bear that rate."""
        return pro_rata(self.preferred_abroad, amount, self.rates.preferred_taxable)

    @line("1a", "Foreign source gross income", cites="IRC 904(b)(2)(B)(i)")
    def gross_adjusted(self):
        """Gain and qualified dividends at 15 and 20% count in part, at 0% not at all."""
        if self.is_excepted or not self.preferred_abroad:
            return total(self.gross)
        law = self.law.foreign_tax
        counted = [
            share(law.lower_counts, of=self._at(self.rates.at_lower)),
            share(law.upper_counts, of=self._at(self.rates.at_upper)),
        ]
        return total(excess(self.gross, over=self.preferred_abroad), counted)

    @line("2", "Definitely related expenses")
    def direct(self):
        return total(self.questions.direct_deductions)

    @line("3a", "Certain itemized or standard deduction")
    def general_deductions(self):
        if not self.income.is_itemised:
            return total(self.income.standard_deduction)
        return total(self.itemized.medical_allowed, self.itemized.taxes)

    @line("3d", "Foreign source gross income")
    def gross_again(self):
        return total(self.gross)

    @line("3e", "Gross income from all sources")
    def gross_everywhere(self):
        """Total income before the costs of businesses and before losses, which gross income does not know. IRC 61(a)."""
        costs = [one.gross_income - one.profit for one in trades(self.run)]
        shares = total(self.brought("us.sch-e", "entities"), self.brought("us.sch-e", "trusts"))
        lost = [excess(0, over=self.brought("us.sch-d", "counted")), excess(0, over=shares)]
        let = [total(one.rents, one.royalties) for one in self.every("us.sch-e-part-i")]
        return total(self.income.total_income, costs, lost, let, less=self.brought("us.sch-e", "rents"))

    @line("3f", "Foreign source fraction", rounding=None)
    def gross_share(self):
        if self.gross_everywhere <= 0:
            return nothing_because("there is no gross income")
        return least(ratio(self.gross_again, over=self.gross_everywhere, places=4), 1)

    @line("3g", "Deductions apportioned")
    def apportioned(self):
        return share(self.gross_share, of=self.general_deductions)

    @line("4a", "Home mortgage interest apportioned")
    def mortgage_part(self):
        if not self.income.is_itemised:
            return nothing_because("deductions are not itemized")
        return share(self.gross_share, of=self.itemized.home_interest)

    @line("6", "Total deductions")
    def deductions(self):
        return total(self.direct, self.apportioned, self.mortgage_part)

    @line("7", "Foreign source taxable income")
    def net(self):
        return excess(self.gross_adjusted, over=self.deductions)

    @line("8", "Foreign tax")
    def tax(self):
        statements = [paper.foreign_tax for kind in ("1099-int", "1099-div") for paper in self.papers(kind)]
        shares = [of_share(paper, "foreign_tax") for kind in SHARES for paper in self.papers(kind)]
        return total(statements, shares, self.questions.other_tax)

    @line("10", "Carryover from prior years", cites="IRC 904(c)")
    def carried(self):
        return total([row.amount for row in self._rows()])

    def _oldest(self):
        """The year whose tax can be carried into this one for the last time."""
        return self.year - int(self.law.carried_years.foreign_tax.most)

    def _rows(self):
        return [row for row in self.questions.carried if (row.from_year or 0) >= self._oldest()]

    @line("12", "Reduction in foreign taxes", cites="IRC 911(d)(6)")
    def reduced(self):
        return least(self.questions.reduction, self.tax)

    @fact("Foreign tax of this year, creditable")
    def of_year(self):
        return total(self.tax, less=self.reduced)

    @line("14", "Total foreign taxes available")
    def available(self):
        return total(self.tax, self.carried, less=self.reduced)

    @line("17", "Foreign source taxable income")
    def net_again(self):
        return total(self.net)

    @line("18", "Taxable income", cites="IRC 904(b)(2)(B)(ii)")
    def taxable_income(self):
        """Adjusted for all gain and qualified dividends, whatever their source. Its worksheet, lines 1 to 8."""
        if self.is_excepted or self.income.tax_method != "preferred":
            return total(self.income.taxable_income)
        law, rates = self.law.foreign_tax, self.rates
        out = [share(law.lower_left_out, of=rates.at_lower), share(law.upper_left_out, of=rates.at_upper)]
        return excess(self.income.taxable_income, over=[rates.at_zero, *out])

    @line("19", "Limitation fraction", rounding=None)
    def part(self):
        if self.taxable_income <= 0:
            return nothing_because("there is no taxable income")
        return least(ratio(self.net_again, over=self.taxable_income, places=4), 1)

    @line("20", "Tax")
    def us_tax(self):
        return total(self.income.tax, self.income.premium_repaid)

    @line("21", "Maximum credit")
    def limit(self):
        return share(self.part, of=self.us_tax)

    @line("24", "Credit, this category", weight="total")
    def by_form(self):
        return least(of={"tax available": self.available, "limitation": self.limit})

    @fact("Carryover to next year", closes=FOREIGN_TAX, by_origin="left_by_year", expired="expired", rounding=whole)
    def left(self):
        return total([amount for year, amount in self._parts() if year > self._oldest()])

    @fact("Carryover that ends with this year", rounding=whole)
    def expired(self):
        return total([amount for year, amount in self._parts() if year == self._oldest()])

    def left_by_year(self):
        """Rows of the next year's carryover, the oldest first."""
        return as_rows(part for part in self._parts() if part[0] > self._oldest())

    def _parts(self):
        """What the limit leaves, as (year, amount): this year's tax comes first, then the oldest. IRC 904(c).

        Without Form 1116 nothing of this year is carried, and no other year's is used: IRC 904(j)(1)(B). In a year of deducting,
        what was carried in is used up as if the credit had been taken.
        """
        rows = sorted(self._rows(), key=lambda row: row.from_year)
        if self.without_form:
            return [(row.from_year, whole(row.amount)) for row in rows]
        room = excess(self.limit, over=self.of_year)
        parts = []
        for row in rows:
            parts.append((row.from_year, whole(excess(row.amount, over=room))))
            room = excess(room, over=row.amount)
        own = nothing_because("it is deducted") if self.deducted else excess(self.of_year, over=self.limit)
        return [part for part in (*parts, (self.year, whole(own))) if part[1] > 0]

    @line("32", "Credits of all categories")
    def every_category(self):
        return total(self.by_form, [one.by_form for one in self.every("us.1116-category")])

    @line("35", "Foreign tax credit", weight="total")
    def by_all_forms(self):
        return least(of={"all categories": self.every_category, "tax": self.us_tax})

    @fact("Credit")
    def credit(self):
        if self.every_tax == 0:
            return nothing_because("no foreign tax was paid")
        if self.deducted:
            return nothing_because("it is deducted instead")
        if self.without_form:
            return least(of={"foreign tax": self.of_year, "tax": self.us_tax})
        return total(self.by_all_forms)

    @fact("Foreign tax of all categories, with earlier years")
    def every_tax(self):
        return total(self.available, [one.available for one in self.every("us.1116-category")])


class ForeignTaxOfCategory(ForeignTax):
    """Form 1116 of a further category: what its own paper says, with its own limit and carryover. IRC 904(d)."""

    number, name, per = "1116 category", "Foreign tax credit, another category", "foreign-category"

    @classmethod
    def idle(cls, run):
        return not run.papers("foreign-category")

    def required(self):
        return self.available > 0 and not self.deducted

    @property
    def questions(self):
        return self.run.by_key(("foreign-category",), self.key)

    @fact("Credit without Form 1116")
    def without_form(self):
        return False

    @fact("Foreign source gross income before adjustment")
    def gross(self):
        return total(self.questions.gross_income)

    @line("8", "Foreign tax")
    def tax(self):
        return total(self.questions.other_tax)

    @line("32", "Credits of all categories")
    def every_category(self):
        return nothing_because("the first Form 1116 adds them up")

    @line("35", "Foreign tax credit")
    def by_all_forms(self):
        return nothing_because("the first Form 1116 adds them up")

    @fact("Credit")
    def credit(self):
        return nothing_because("the first Form 1116 adds them up")

    @fact("Foreign tax of all categories")
    def every_tax(self):
        return nothing_because("the first Form 1116 adds them up")

    @fact("Carryover to next year", closes=FOREIGN_CATEGORY, by_origin="left_by_year", expired="expired", rounding=whole)
    def left(self):
        return total([amount for year, amount in self._parts() if year > self._oldest()])
