"""Form 8615: a child's unearned income at the parent's rates. IRC 1(g)."""

from taxcore.engine import excess, fact, greatest, least, line, linked, nothing_because, pro_rata, ratio, share, total, whole
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.tax import tax_on
from taxcore.packs.us.federal.trades import trades


class ChildTax(FederalForm):
    """Tax of certain children. The parent's amounts are entered; gain is taken in proportion. IRC 1(g)."""

    number, name = "8615", "Tax for certain children who have unearned income"
    needs = (
        "1099-int",
        "1099-oid",
        "1099-div",
        "1099-b",
        "1099-da",
        "1099-r",
        "other-income",
        "1099-misc",
        "ssa-1099",
        "1099-g",
        "k1-1065",
        "k1-1120s",
        "k1-1041",
    )
    income = linked("us.1040")
    gains = linked("us.sch-d")

    def required(self):
        return self.applies

    @property
    def parent(self):
        return self.paper("parent")

    @fact("Form 8615 applies", cites="IRC 1(g)(2)")
    def applies(self):
        law, child = self.law.child_unearned, self.person("taxpayer")
        if child is None or child.birth_date is None or self.income.status == "joint" or self.parent.no_parent:
            return False
        return self._age_fits(child.age_at_end(), law) and self.unearned > law.income_above

    def _age_fits(self, age, law):
        """Below 18; at 18, or a student below 24, only where own earned income is not over half of own support."""
        if age < 18:
            return True
        child = self.person("taxpayer")
        dependent = not child.earns_own_support
        return dependent and (age == 18 or (age < law.age_below and bool(child.student)))

    @line("1", "Unearned income")
    def unearned(self):
        """Income that is not earned, a business's profit or loss included in what is, less the penalty that interest bore.
        IRC 1(g)(4)(A)(i), 911(d)(2)."""
        own = [one.profit for one in trades(self.run)]
        shares = [paper.self_employment for paper in self.papers("k1-1065")]
        return excess(
            total(self.income.total_income, self.income.left_out_abroad),
            over=[self.income.wages, own, shares, self._early_withdrawal()],
        )

    def _early_withdrawal(self):
        return self.run.form("us.sch-1").early_withdrawal

    @line("2", "Amount not taxed at the parent's rate")
    def free(self):
        """Twice the least standard deduction, or that with the itemized costs of this income: the former here."""
        return self.law.child_unearned.income_above

    @line("3", "Excess")
    def above(self):
        return excess(self.unearned, over=self.free)

    @line("4", "Child's taxable income")
    def taxable_income(self):
        return total(self.income.taxable_income)

    @line("5", "Net unearned income")
    def net_unearned(self):
        return least(self.above, self.taxable_income)

    @line("6", "Parent's taxable income")
    def parents_income(self):
        return total(self.parent.taxable_income)

    @line("7", "Net unearned income of the parent's other children")
    def others(self):
        return total(self.parent.others_unearned)

    @line("8", "Total of lines 5, 6 and 7")
    def together(self):
        return total(self.net_unearned, self.parents_income, self.others)

    @fact("Child's gain and qualified dividends")
    def own_preferred(self):
        return total(self.brought("us.sch-d", "preferred"), self.income.qualified_dividends)

    @fact("Gain and dividends in line 5", rounding=whole)
    def preferred_in_net(self):
        """In the proportion of line 5 to line 1, at most line 5."""
        if self.unearned == 0:
            return nothing_because("there is no unearned income")
        return least(pro_rata(self.own_preferred, self.net_unearned, self.unearned), self.net_unearned)

    @line("9", "Tax on line 8")
    def tax_on_together(self):
        status = self.parent.status or "single"
        return self._tax(self.together, total(self.parent.preferred, self.preferred_in_net), status)

    @line("10", "Parent's tax")
    def parents_tax(self):
        if self.parent.is_keyed("parent_tax"):
            return total(self.parent.parent_tax)
        return self._tax(self.parents_income, self.parent.preferred, self.parent.status or "single")

    @line("11", "Increase in tax")
    def added(self):
        return excess(self.tax_on_together, over=self.parents_tax)

    @line("12b", "This child's share", rounding=None)
    def part(self):
        both = self.net_unearned + self.others
        return ratio(self.net_unearned, over=both, places=3) if self.others else total(1)

    @line("13", "This child's part")
    def own_part(self):
        return share(self.part, of=self.added)

    @line("14", "Child's remaining income")
    def rest(self):
        return excess(self.taxable_income, over=self.net_unearned)

    @line("15", "Tax on that amount")
    def rest_tax(self):
        left = excess(self.own_preferred, over=self.preferred_in_net)
        return self._tax(self.rest, left, self.income.status)

    @line("16", "Total of lines 13 and 15")
    def at_parents_rate(self):
        return total(self.own_part, self.rest_tax)

    @line("17", "Tax at the child's rate")
    def at_own_rate(self):
        return total(self.income.tax_by_own_rates)

    @line("18", "Tax", weight="total")
    def tax(self):
        return greatest(of={"at the parent's rate": self.at_parents_rate, "at the child's own": self.at_own_rate})

    def _tax(self, income, preferred, status):
        """Ordinary table or the lower rates, whichever is less; gain of the 25% and 28% kinds stops filing."""
        law = self.law.capital_gains
        ordinary = excess(income, over=preferred)
        special = least(preferred, income)
        at_zero = excess(least(income, law.zero_up_to[status]), over=ordinary)
        at_zero = least(at_zero, special)
        room = excess(least(income, law.lower_up_to[status]), over=[ordinary, at_zero])
        at_lower = least(excess(special, over=at_zero), room)
        at_upper = excess(special, over=[at_zero, at_lower])
        parts = (
            tax_on(whole(ordinary), self.law, status),
            whole(share(law.lower_rate, of=at_lower)),
            whole(share(law.upper_rate, of=at_upper)),
        )
        return least(total(parts), tax_on(whole(income), self.law, status))
