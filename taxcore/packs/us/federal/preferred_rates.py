"""Tax where part of the income bears the lower rates of capital gain. IRC 1(h). Two worksheets of the instructions."""

from taxcore.engine import excess, fact, greatest, least, line, linked, share, total
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.tax import tax_on


class QualifiedDividends(FederalForm):
    """Qualified dividends and capital gain tax worksheet. IRC 1(h)(1)(B) to (D), (11)."""

    number, name, worksheet = "Qualified dividends worksheet", "Qualified dividends and capital gain tax", True
    income = linked("us.1040")
    gains = linked("us.sch-d")

    def required(self):
        return self.income.tax_method == "preferred"

    @line("1", "Taxable income")
    def taxable_income(self):
        return total(self.income.taxable_income, self.income.left_out_abroad)

    @line("2", "Qualified dividends")
    def dividends(self):
        return total(self.income.qualified_dividends)

    @line("3", "Net capital gain")
    def gain(self):
        return self.brought("us.sch-d", "preferred")

    @line("4", "Qualified dividends plus gain")
    def preferred(self):
        """Beside income earned abroad no more of it than is taxed: IRC 911(f)(2)(B)."""
        both = total(self.dividends, self.gain)
        return least(both, self.income.taxable_income) if self.income.left_out_abroad else both

    @line("5", "Ordinary taxable income")
    def ordinary(self):
        return excess(self.taxable_income, over=self.preferred)

    @line("6", "15% bracket begins at")
    def zero_up_to(self):
        return self.law.capital_gains.zero_up_to[self.income.status]

    @line("7", "Smaller of lines 1 and 6")
    def below_zero_limit(self):
        return least(self.taxable_income, self.zero_up_to)

    @line("8", "Smaller of lines 5 and 7")
    def ordinary_below(self):
        return least(self.ordinary, self.below_zero_limit)

    @line("9", "Taxed at 0%")
    def at_zero(self):
        return total(self.below_zero_limit, less=self.ordinary_below)

    @line("10", "Smaller of lines 1 and 4")
    def preferred_taxable(self):
        return least(self.taxable_income, self.preferred)

    @line("12", "Remainder")
    def left(self):
        return total(self.preferred_taxable, less=self.at_zero)

    @line("13", "20% bracket begins at")
    def lower_up_to(self):
        return self.law.capital_gains.lower_up_to[self.income.status]

    @line("14", "Smaller of lines 1 and 13")
    def below_upper(self):
        return least(self.taxable_income, self.lower_up_to)

    @line("15", "Lines 5 and 9")
    def used(self):
        return total(self.ordinary, self.at_zero)

    @line("16", "Available at 15%")
    def room(self):
        return excess(self.below_upper, over=self.used)

    @line("17", "Taxed at 15%")
    def at_lower(self):
        return least(self.left, self.room)

    @line("18", "15% of that")
    def lower_tax(self):
        return share(self.law.capital_gains.lower_rate, of=self.at_lower)

    @line("19", "Lines 9 and 17")
    def taxed_so_far(self):
        return total(self.at_zero, self.at_lower)

    @line("20", "Taxed at 20%")
    def at_upper(self):
        return total(self.preferred_taxable, less=self.taxed_so_far)

    @line("21", "20% of that")
    def upper_tax(self):
        return share(self.law.capital_gains.upper_rate, of=self.at_upper)

    @line("22", "Tax on the other income")
    def ordinary_tax(self):
        return tax_on(self.ordinary, self.law, self.income.status)

    @line("23", "Total tax at both rates")
    def together(self):
        return total(self.lower_tax, self.upper_tax, self.ordinary_tax)

    @line("24", "Tax at ordinary rates")
    def without_preference(self):
        return tax_on(self.taxable_income, self.law, self.income.status)

    @line("25", "Tax", weight="total")
    def tax(self):
        return least(of={"at capital gain rates": self.together, "at ordinary rates": self.without_preference})


class ScheduleDTax(FederalForm):
    """Schedule D tax worksheet: with gain taxed at 25% or 28%. IRC 1(h)(1)(E), (F)."""

    number, name, worksheet = "Schedule D tax worksheet", "Schedule D tax", True
    income = linked("us.1040")
    gains = linked("us.sch-d")

    def required(self):
        return self.income.tax_method == "schedule D"

    @line("1", "Taxable income")
    def taxable_income(self):
        return total(self.income.taxable_income, self.income.left_out_abroad)

    @line("2", "Qualified dividends")
    def dividends(self):
        return total(self.income.qualified_dividends)

    @line("3", "Treated as investment income, Form 4952")
    def elected(self):
        return self.brought("us.4952", "elected")

    @line("6", "Dividends less that")
    def dividends_left(self):
        return total(self.dividends)

    @line("7", "Smaller of Schedule D lines 15 and 16")
    def gain(self):
        return total(self.gains.preferred)

    @line("9", "Gain less what is treated as investment income")
    def gain_left(self):
        return excess(self.gain, over=self.elected)

    @line("10", "Dividends and gain")
    def preferred(self):
        return total(self.dividends_left, self.gain_left)

    @line("11", "Schedule D lines 18 and 19")
    def higher_kinds(self):
        return total(self.gains.collectibles_gain, self.gains.property_gain)

    @line("12", "Smaller of lines 9 and 11")
    def higher(self):
        return least(self.gain_left, self.higher_kinds)

    @line("13", "Gain at capital gain rates")
    def lower_kinds(self):
        return total(self.preferred, less=self.higher)

    @line("14", "Ordinary taxable income")
    def other(self):
        return excess(self.taxable_income, over=self.lower_kinds)

    @line("15", "15% bracket begins at")
    def zero_up_to(self):
        return self.law.capital_gains.zero_up_to[self.income.status]

    @line("16", "Smaller of lines 1 and 15")
    def below_zero_limit(self):
        return least(self.taxable_income, self.zero_up_to)

    @line("17", "Smaller of lines 14 and 16")
    def other_below(self):
        return least(self.other, self.below_zero_limit)

    @line("18", "Taxable income less all preferred")
    def ordinary(self):
        return excess(self.taxable_income, over=self.preferred)

    @fact("Where the 32% rate begins")
    def high_bracket(self):
        """Gain of the 25% and 28% kinds fills the brackets up to 24% first."""
        return next(edge for edge, rate in self.law.income_tax[self.income.status] if rate > self.law.capital_gains.property_rate)

    @line("19", "Smaller of line 1 and where 32% begins")
    def below_high(self):
        return least(self.taxable_income, self.high_bracket)

    @line("20", "Smaller of lines 14 and 19")
    def other_below_high(self):
        return least(self.other, self.below_high)

    @line("21", "Taxed at ordinary rates")
    def at_ordinary(self):
        return greatest(self.ordinary, self.other_below_high)

    @line("22", "Taxed at 0%")
    def at_zero(self):
        return total(self.below_zero_limit, less=self.other_below)

    @line("23", "Smaller of lines 1 and 13")
    def lower_taxable(self):
        return least(self.taxable_income, self.lower_kinds)

    @line("25", "Remainder")
    def left(self):
        return excess(self.lower_taxable, over=self.at_zero)

    @line("26", "20% bracket begins at")
    def lower_up_to(self):
        return self.law.capital_gains.lower_up_to[self.income.status]

    @line("27", "Smaller of lines 1 and 26")
    def below_upper(self):
        return least(self.taxable_income, self.lower_up_to)

    @line("28", "Lines 21 and 22")
    def used(self):
        return total(self.at_ordinary, self.at_zero)

    @line("29", "Available at 15%")
    def room(self):
        return excess(self.below_upper, over=self.used)

    @line("30", "Taxed at 15%")
    def at_lower(self):
        return least(self.left, self.room)

    @line("31", "15% of that")
    def lower_tax(self):
        return share(self.law.capital_gains.lower_rate, of=self.at_lower)

    @line("33", "Taxed at 20%")
    def at_upper(self):
        return total(self.lower_taxable, less=[self.at_zero, self.at_lower])

    @line("34", "20% of that")
    def upper_tax(self):
        return share(self.law.capital_gains.upper_rate, of=self.at_upper)

    @line("35", "Smaller of line 9 and Schedule D line 19")
    def property_gain(self):
        return least(self.gain_left, self.gains.property_gain)

    @line("38", "Already taxed above")
    def property_used(self):
        return excess(total(self.preferred, self.at_ordinary), over=self.taxable_income)

    @line("39", "Taxed at 25%")
    def at_property_rate(self):
        return excess(self.property_gain, over=self.property_used)

    @line("40", "25% of that")
    def property_tax(self):
        return share(self.law.capital_gains.property_rate, of=self.at_property_rate)

    @line("41", "Taxed so far")
    def taxed_so_far(self):
        return total(self.at_ordinary, self.at_zero, self.at_lower, self.at_upper, self.at_property_rate)

    @line("42", "Taxed at 28%")
    def at_collectibles_rate(self):
        if self.gains.collectibles_gain == 0:
            return total(0)
        return excess(self.taxable_income, over=self.taxed_so_far)

    @line("43", "28% of that")
    def collectibles_tax(self):
        return share(self.law.capital_gains.collectibles_rate, of=self.at_collectibles_rate)

    @line("44", "Tax at ordinary rates on line 21")
    def ordinary_tax(self):
        return tax_on(self.at_ordinary, self.law, self.income.status)

    @line("45", "Total")
    def together(self):
        return total(self.lower_tax, self.upper_tax, self.property_tax, self.collectibles_tax, self.ordinary_tax)

    @line("46", "Tax at ordinary rates on line 1")
    def without_preference(self):
        return tax_on(self.taxable_income, self.law, self.income.status)

    @line("47", "Tax", weight="total")
    def tax(self):
        return least(of={"at capital gain rates": self.together, "at ordinary rates": self.without_preference})
