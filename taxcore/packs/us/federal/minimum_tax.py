"""Form 6251: alternative minimum tax, with its part for capital gains. IRC 55 to 59."""

from taxcore.engine import excess, fact, least, line, linked, nothing_because, ratio, share, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.papers.shares import KINDS as SHARES


class MinimumTax(FederalForm):
    """What the regular tax falls short of the minimum. IRC 55(a), (b), (d)."""

    number, name = "6251", "Alternative minimum tax"
    income = linked("us.1040")
    itemized = linked("us.sch-a")
    gains = linked("us.sch-d")
    worksheet_d = linked("us.sch-d-tax-worksheet")
    dividends_worksheet = linked("us.qualified-dividends-worksheet")

    def required(self):
        """Where it is owed, where its tax is above the regular one before credits, and with items of its own."""
        return self.tax > 0 or self.items != 0 or self.tentative > self.regular

    @property
    def keyed(self):
        return self.paper("minimum-tax")

    @line("1", "Taxable income before adjustments")
    def taxable_income(self):
        """The seniors' deduction is a personal exemption, which this tax does not know. IRC 56(b)(1)(D), 151(d)(5)(C)."""
        if self.income.taxable_income > 0:
            return total(self.income.taxable_income, self.seniors)
        return total(self.income.adjusted_gross_income, self.seniors, less=self.income.deductions)

    @fact("Seniors' deduction")
    def seniors(self):
        return total(self.income.additional.seniors) if "senior_deduction" in self.law else total(0)

    @line("2a", "Taxes or standard deduction")
    def taxes(self):
        """A disaster loss beside the standard deduction is not taken back."""
        return total(self.itemized.taxes) if self.income.is_itemised else total(self.income.standard.deduction)

    @line("2b", "Tax refund")
    def refunds(self):
        return total(less=self.run.form("us.sch-1").state_refunds)

    @line("2g", "Interest from private activity bonds", cites="IRC 57(a)(5)")
    def private_activity(self):
        return total([p.private_activity for kind in ("1099-int", "1099-div") for p in self.papers(kind)])

    @line("2h", "Qualified small business stock", cites="IRC 57(a)(7)")
    def small_business(self):
        return total(self.keyed.small_business)

    @line("2i", "Incentive stock options", cites="IRC 56(b)(3)")
    def stock_options(self):
        return total(self.keyed.stock_options)

    @line("2k", "Disposition of property", cites="IRC 56(a)(6)")
    def dispositions(self):
        return total([one.minimum_difference for one in self.every("us.sale-of-property")])

    @line("2l", "Depreciation")
    def depreciation(self):
        shares = [paper.minimum_tax for kind in SHARES for paper in self.papers(kind)]
        assets = [one.minimum_difference for one in self.every("us.4562")]
        return total(self.keyed.depreciation, shares, assets)

    @line("3", "Other adjustments")
    def others(self):
        return total(self.keyed.other)

    @fact("Overall limitation of itemized deductions", cites="IRC 56(b)(1)(F)")
    def limited(self):
        """This tax does not know it."""
        return total(self.itemized.limited_by) if self.income.is_itemised else nothing_because("deductions are not itemized")

    @fact("Other adjustments and preferences")
    def items(self):
        return total(
            self.private_activity, self.small_business, self.stock_options, self.dispositions, self.depreciation, self.others
        )

    @line("4", "Alternative minimum taxable income", weight="total")
    def minimum_income(self):
        """Apart, a quarter of what is above the end of the exemption is added, up to the exemption. IRC 55(d)(3)."""
        found = total(self.taxable_income, self.taxes, self.refunds, self.items, less=self.limited)
        if self.income.status != "separate":
            return found
        law = self.law.minimum_tax
        ends = law.falls_from.separate + law.exemption.separate / law.fall_rate
        return total(found, least(share(law.fall_rate, of=excess(found, over=ends)), law.exemption.separate))

    @line("5", "Exemption", cites="IRC 55(d)")
    def exemption(self):
        law, status = self.law.minimum_tax, self.income.status
        fall = share(law.fall_rate, of=excess(self.minimum_income, over=law.falls_from[status]))
        full = excess(law.exemption[status], over=fall)
        if not self._is_child():
            return full
        return least(of={"exemption": full, "earned income plus the child's amount": total(self.earned, self._childs_amount())})

    @fact("Child's earned income")
    def earned(self):
        return self.run.form("us.earned-income", "taxpayer").earned

    def _is_child(self):
        return not self.run.is_idle("us.8615") and self.run.form("us.8615").applies

    def _childs_amount(self):
        return self.law.child_unearned.minimum_exemption

    @line("6", "AMTI less exemption")
    def base(self):
        return excess(self.minimum_income, over=self.exemption)

    @line("7", "Tax on that amount")
    def tax_on_base(self):
        if self.base == 0:
            return nothing_because("the exemption covers it all")
        found = total(self.with_gains) if self.has_gains else self._at_rates(self.base_carried)
        if not self.income.left_out_abroad:
            return found
        return excess(found, over=self._at_rates(self.income.left_out_abroad))  # IRC 911(f)(1)(B)

    @line("8", "Foreign tax credit")
    def foreign_credit(self):
        """By its own Form 1116 with the simplified limitation; the regular credit where no form limits it."""
        if self.tax_on_base == 0:
            return nothing_because("there is no alternative minimum tax")
        if self.run.is_idle("us.1116-amt") or not self.run.form("us.1116-amt").limits:
            return total(self.income.foreign_credit)
        return self.foreign_credit_limited()

    def foreign_credit_limited(self):
        return total(self.run.form("us.1116-amt").credit)

    @line("9", "Tentative minimum tax")
    def tentative(self):
        return excess(self.tax_on_base, over=self.foreign_credit)

    @line("10", "Regular tax")
    def regular(self):
        return excess(total(self.income.tax, self.income.premium_repaid), over=self.income.foreign_credit)

    @line("11", "Alternative minimum tax", weight="total")
    def tax(self):
        if self.base == 0:
            return nothing_because("the exemption covers it all")
        if self.tentative <= self.regular:
            return nothing_because("the regular tax is higher", self.tentative, self.regular)
        return excess(self.tentative, over=self.regular)

    # Part III

    @fact("There is gain or there are qualified dividends")
    def has_gains(self):
        return self.preferred > 0

    @fact("Gain and dividends, regular tax worksheet")
    def preferred(self):
        return total(self.income.qualified_dividends, self.brought("us.sch-d", "preferred"))

    @line("12", "AMTI less exemption")
    def base_carried(self):
        """Above what Form 2555 leaves out, where there is any."""
        return total(self.base, self.income.left_out_abroad)

    @line("13", "Gain at capital gain rates")
    def lower_kinds(self):
        """Line 4 of the one worksheet or line 13 of the other."""
        return total(self.worksheet_d.lower_kinds) if self._by_schedule_d() else total(self.preferred)

    @line("14", "Unrecaptured section 1250 gain")
    def property_gain(self):
        return total(self.gains.property_gain)

    @line("15", "Dividends and unrecaptured gain")
    def preferred_together(self):
        if not self._by_schedule_d():
            return total(self.lower_kinds)
        both = total(self.lower_kinds, self.property_gain)
        return least(of={"lines 13 and 14": both, "all preferred income": self.worksheet_d.preferred})

    @line("16", "Smaller of lines 12 and 15")
    def preferred_taxed(self):
        return least(self.base_carried, self.preferred_together)

    @line("17", "Other")
    def other(self):
        return total(self.base_carried, less=self.preferred_taxed)

    @line("18", "Tax at 26% and 28%")
    def other_tax(self):
        return self._at_rates(self.other)

    @line("19", "15% bracket begins at")
    def zero_up_to(self):
        return self.law.capital_gains.zero_up_to[self.income.status]

    @line("20", "Ordinary taxable income")
    def ordinary(self):
        return total(self.worksheet_d.other) if self._by_schedule_d() else total(self.dividends_worksheet.ordinary)

    @line("21", "Available at 0%")
    def zero_room(self):
        return excess(self.zero_up_to, over=self.ordinary)

    @line("22", "Smaller of lines 12 and 13")
    def lower_taxed(self):
        return least(self.base_carried, self.lower_kinds)

    @line("23", "Taxed at 0%")
    def at_zero(self):
        return least(self.zero_room, self.lower_taxed)

    @line("24", "Remainder")
    def left(self):
        return total(self.lower_taxed, less=self.at_zero)

    @line("25", "20% bracket begins at")
    def lower_up_to(self):
        return self.law.capital_gains.lower_up_to[self.income.status]

    @line("27", "Taxable income at ordinary rates")
    def ordinary_for_upper(self):
        return total(self.worksheet_d.at_ordinary) if self._by_schedule_d() else total(self.dividends_worksheet.ordinary)

    @line("28", "Lines 21 and 27")
    def below_upper(self):
        return total(self.zero_room, self.ordinary_for_upper)

    @line("29", "Available at 15%")
    def lower_room(self):
        return excess(self.lower_up_to, over=self.below_upper)

    @line("30", "Taxed at 15%")
    def at_lower(self):
        return least(self.left, self.lower_room)

    @line("31", "15% of that amount")
    def lower_tax(self):
        return share(self.law.capital_gains.lower_rate, of=self.at_lower)

    @line("32", "Lines 23 and 30")
    def at_zero_and_lower(self):
        return total(self.at_zero, self.at_lower)

    @line("33", "Taxed at 20%")
    def at_upper(self):
        return excess(self.lower_taxed, over=self.at_zero_and_lower)

    @line("34", "20% of it")
    def upper_tax(self):
        return share(self.law.capital_gains.upper_rate, of=self.at_upper)

    @line("36", "Taxed at 25%")
    def at_property_rate(self):
        if self.property_gain == 0:
            return nothing_because("there is no unrecaptured section 1250 gain")
        return excess(self.base_carried, over=[self.other, self.at_zero_and_lower, self.at_upper])

    @line("37", "25% of it")
    def property_tax(self):
        return share(self.law.capital_gains.property_rate, of=self.at_property_rate)

    @line("38", "Tax at capital gain rates")
    def together(self):
        return total(self.other_tax, self.lower_tax, self.upper_tax, self.property_tax)

    @line("39", "Tax at 26% and 28% on all")
    def without_preference(self):
        return self._at_rates(self.base_carried)

    @line("40", "Smaller of the two")
    def with_gains(self):
        return least(self.together, self.without_preference)

    def _by_schedule_d(self):
        return self.income.tax_method == "schedule D"

    def _at_rates(self, amount):
        """26%, and 28% of what is above the break. IRC 55(b)(1)."""
        law, status = self.law.minimum_tax, self.income.status
        more = law.upper_rate - law.rate
        return total(share(law.rate, of=amount), share(more, of=excess(amount, over=law.upper_from[status])))


class ExclusionItems(MinimumTax):
    """Form 8801, part I: the minimum tax again without what is only a matter of timing. IRC 53(d)(1)(B)(ii)."""

    number, name, worksheet = "Exclusion items", "Net minimum tax on exclusion items", True

    def required(self):
        return self.run.form("us.6251").tax > 0

    def _timing(self):
        return nothing_because("it is a matter of timing")

    stock_options = line("2i", "Incentive stock options")(_timing)
    dispositions = line("2k", "Disposition of property")(_timing)
    depreciation = line("2l", "Depreciation")(_timing)
    others = line("3", "Other adjustments")(_timing)

    def foreign_credit_limited(self):
        """The same limitation, of this minimum tax."""
        form = self.run.form("us.1116-amt")
        part = least(ratio(form.net, over=self.minimum_income, places=4), 1) if self.minimum_income > 0 else total(0)
        return least(form.available, share(part, of=self.tax_on_base))


class ForeignTaxOfMinimum(FederalForm):
    """Form 1116 once more for the alternative minimum tax, by the simplified limitation that was elected. IRC 59(a)(3)."""

    number, name = "1116-AMT", "Foreign tax credit, alternative minimum tax"
    needs = ("foreign-tax",)
    regular = linked("us.1116")
    minimum = linked("us.6251")

    @property
    def limits(self):
        """Whether the credit against the minimum tax goes by this form."""
        regular = self.regular
        return (
            not self.papers("foreign-category")
            and bool(regular.questions.simplified)
            and regular.required()
            and regular.is_excepted
        )

    def required(self):
        return self.limits and self.minimum.tax_on_base > 0 and self.minimum.required()

    @line("14", "Total foreign taxes available")
    def available(self):
        """Carryovers of this tax are taken to be the regular ones, unless entered."""
        questions = self.regular.questions
        own = questions.carried_minimum if questions.is_keyed("carried_minimum") else self.regular.carried
        return total(self.regular.of_year, own)

    @line("17", "Foreign source taxable income, regular tax", cites="IRC 59(a)(3)(A)")
    def net(self):
        return total(self.regular.net_again)

    @line("18", "Alternative minimum taxable income")
    def minimum_income(self):
        return total(self.minimum.minimum_income)

    @line("19", "Limitation fraction", rounding=None)
    def part(self):
        if self.minimum_income <= 0:
            return nothing_because("there is no alternative minimum taxable income")
        return least(ratio(self.net, over=self.minimum_income, places=4), 1)

    @line("20", "Tentative minimum tax before the credit")
    def before_credit(self):
        return total(self.minimum.tax_on_base)

    @line("21", "Maximum credit")
    def limit(self):
        return share(self.part, of=self.before_credit)

    @line("24", "Credit, alternative minimum tax", weight="total")
    def credit(self):
        return least(of={"tax available": self.available, "limitation": self.limit})
