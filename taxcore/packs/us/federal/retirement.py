"""Form 5329: additional taxes on retirement and savings accounts. IRC 72(t), 4973, 530(d)(4)."""

from taxcore.engine import excess, fact, least, line, share, total
from taxcore.packs.us.balances import HSA_EXCESS, IRA_EXCESS, ROTH_EXCESS
from taxcore.packs.us.base import FederalForm


class AdditionalRetirementTax(FederalForm):
    """Form 5329 of one person: early distributions, excess contributions. IRC 72(t), 4973, 530(d)(4)."""

    number, name, per = "5329", "Additional taxes on retirement and savings accounts", "person"
    needs = ("1099-r", "1099-q", "ira", "hsa")

    def required(self):
        """Not where every early distribution has code 1 and no exception: then only Schedule 2 line 8 is filled."""
        more = self.excepted > 0 or self.account_tax > 0 or self.simple > 0
        return more or self.ira_tax > 0 or self.roth_tax > 0 or self.savings_tax > 0

    def _early(self):
        for paper in self.papers("1099-r", self.key):
            if {"1", "J", "S"} & paper.codes():
                yield paper

    def _income(self, paper):
        if paper.is_roth():
            return self.run.form("us.8606", self.key).roth_taxable
        if paper.ira:
            return self.run.form("us.8606", self.key).income_of(paper)
        return self.run.form("us.distribution", paper.key).income

    @line("1", "Early distributions included in income")
    def early(self):
        """Roth distributions count once for all statements of the person, since Form 8606 works them out together."""
        papers = list(self._early())
        ordinary = [self._income(paper) for paper in papers if not paper.is_roth()]
        roth = [paper for paper in papers if paper.is_roth()]
        return total(ordinary, self._income(roth[0]) if roth else 0)

    @line("2", "Exception amount", cites="IRC 72(t)(2)")
    def excepted(self):
        rows = []
        for paper in self._early():
            if paper.exception:
                whole = self._income(paper)
                rows.append(least(paper.excepted, whole) if paper.is_keyed("excepted") else total(whole))
        return total(rows)

    @line("3", "Amount subject to additional tax")
    def taxed(self):
        return excess(self.early, over=self.excepted)

    @fact("Of it, SIMPLE within 2 years")
    def simple(self):
        return total([self._income(paper) for paper in self._early() if "S" in paper.codes() and not paper.exception])

    @line("4", "Additional tax", cites="IRC 72(t)(1), (6)")
    def early_tax(self):
        law = self.law.early_distributions
        return total(share(law.rate, of=excess(self.taxed, over=self.simple)), share(law.simple_rate, of=self.simple))

    @line("5", "Education and ABLE distributions in income")
    def accounts(self):
        return total([paper.taxable() for paper in self.papers("1099-q", self.key)])

    @line("6", "Exception amount")
    def accounts_excepted(self):
        return least(total([paper.no_additional_tax for paper in self.papers("1099-q", self.key)]), self.accounts)

    @line("7", "Amount subject to additional tax")
    def accounts_taxed(self):
        return excess(self.accounts, over=self.accounts_excepted)

    @line("8", "Additional tax", cites="IRC 530(d)(4)")
    def account_tax(self):
        return share(self.law.early_distributions.rate, of=self.accounts_taxed)

    @line("9", "Traditional IRA: excess contributions, prior years")
    def ira_before(self):
        return total([paper.excess_before for paper in self.papers("ira", self.key)])

    @line("10", "Contribution limit less contributions")
    def ira_room(self):
        deduction = self.run.form("us.ira-deduction", self.key)
        return excess(deduction.room, over=deduction.paid)

    @line("15", "Excess contributions this year")
    def ira_excess(self):
        deduction = self.run.form("us.ira-deduction", self.key)
        return excess(deduction.paid, over=deduction.room)

    @line("16", "Total excess contributions", closes=IRA_EXCESS)
    def ira_excess_all(self):
        return total(excess(self.ira_before, over=self.ira_room), self.ira_excess)

    @line("17", "Additional tax, 6%", cites="IRC 4973(a)")
    def ira_tax(self):
        value = total([paper.value_at_end for paper in self.papers("ira", self.key)])
        taxed = least(self.ira_excess_all, value) if value > 0 else total(self.ira_excess_all)
        return share(self.law.early_distributions.excess_rate, of=taxed)

    @line("18", "Roth IRA: excess contributions, prior years")
    def roth_before(self):
        return total([paper.roth_excess_before for paper in self.papers("ira", self.key)])

    @line("23", "Roth IRA: excess contributions this year")
    def roth_excess(self):
        paid = total([paper.roth for paper in self.papers("ira", self.key)])
        return excess(paid, over=self.run.form("us.ira-deduction", self.key).roth_room)

    @line("24", "Roth IRA: total excess contributions", closes=ROTH_EXCESS)
    def roth_excess_all(self):
        paid = total([paper.roth for paper in self.papers("ira", self.key)])
        room = excess(self.run.form("us.ira-deduction", self.key).roth_room, over=paid)
        return total(excess(self.roth_before, over=room), self.roth_excess)

    @line("25", "Additional tax, 6%", cites="IRC 4973(f)")
    def roth_tax(self):
        return share(self.law.early_distributions.excess_rate, of=self.roth_excess_all)

    @line("48", "HSA: total excess contributions", closes=HSA_EXCESS)
    def savings_excess(self):
        return self.brought("us.8889", "excess_left", self.key)

    @line("49", "Additional tax, 6%", cites="IRC 4973(g)")
    def savings_tax(self):
        return share(self.law.early_distributions.excess_rate, of=self.savings_excess)

    @fact("Total additional taxes")
    def tax(self):
        return total(self.early_tax, self.account_tax, self.ira_tax, self.roth_tax, self.savings_tax)
