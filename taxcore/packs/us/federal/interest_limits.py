"""Interest up to a limit: Form 4952 and the mortgage worksheet. IRC 163(d), (h)(3)."""

from taxcore.engine import excess, greatest, least, line, linked, ratio, share, total
from taxcore.packs.us.balances import INVESTMENT_INTEREST
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share

_NEW_DEBT_SINCE = (2017, 12, 16)


class InvestmentInterest(FederalForm):
    """Form 4952: investment interest up to net investment income. IRC 163(d)."""

    number, name = "4952", "Investment interest expense"
    needs = ("itemized", "k1-1065", "k1-1120s")
    income = linked("us.1040")
    interest = linked("us.sch-b")

    def required(self):
        return self.together > 0

    @line("1", "Investment interest expense paid this year")
    def paid(self):
        return total(self.paper("itemized").investment_interest, [of_share(p, "investment_interest") for p in self._shares()])

    def _shares(self):
        return [paper for kind in ("k1-1065", "k1-1120s") for paper in self.papers(kind)]

    @line("2", "Carryover from prior year")
    def carried(self):
        return total(self.paper("itemized").investment_interest_before)

    @line("3", "Total investment interest")
    def together(self):
        return total(self.paid, self.carried)

    @line("4c", "Gross income from property held for investment, net")
    def ordinary(self):
        return total(self.interest.taxable, self.interest.dividends, less=self.interest.qualified)

    @line("4d", "Net gain from property held for investment")
    def gain(self):
        return excess(self.brought("us.sch-d", "together"), over=0)

    @line("4e", "Net capital gain, if smaller")
    def net_gain(self):
        return least(self.gain, self.brought("us.sch-d", "preferred"))

    @line("4f", "Gain taxed as ordinary investment income")
    def ordinary_gain(self):
        return excess(self.gain, over=self.net_gain)

    @line("4g", "Elected qualified dividends and net capital gain")
    def elected(self):
        return least(self.paper("itemized").gains_as_income, total(self.net_gain, self.interest.qualified))

    @line("6", "Net investment income")
    def net_income(self):
        return total(self.ordinary, self.ordinary_gain, self.elected)

    @line("7", "Carryover to next year", closes=INVESTMENT_INTEREST, used="deduction")
    def carried_on(self):
        return excess(self.together, over=self.net_income)

    @line("8", "Deduction", weight="total")
    def deduction(self):
        return least(of={"interest": self.together, "net investment income": self.net_income})


class MortgageInterest(FederalForm):
    """How much of the mortgage interest is on debt within the limit. Pub. 936, table 1; IRC 163(h)(3)(B), (F)."""

    number, name, worksheet = "Mortgage limit", "Mortgage interest limit", True
    needs = ("1098",)
    income = linked("us.1040")

    def required(self):
        return self.share_allowed < 1

    def _homes(self):
        return [paper for paper in self.papers("1098") if paper.use != "other"]

    def _balance(self, paper):
        return paper.average if paper.is_keyed("average") else paper.principal

    @line("1", "Average balance of all mortgages")
    def balances(self):
        return total([self._balance(paper) for paper in self._homes()])

    @line("2", "Of it, debt before December 16, 2017")
    def older(self):
        return total([self._balance(p) for p in self._homes() if p.origin and p.origin.timetuple()[:3] < _NEW_DEBT_SINCE])

    @line("3", "Qualified loan limit")
    def limit(self):
        law = self.law.itemized
        halves = 2 if self.income.status == "separate" else 1
        return greatest(ratio(law.mortgage_debt, over=halves), least(self.older, ratio(law.older_mortgage_debt, over=halves)))

    @line("4", "Fraction within the limit", rounding=None)
    def share_allowed(self):
        """To three places, as the publication asks."""
        if self.balances <= self.limit:
            return total(1)
        return ratio(self.limit, over=self.balances, places=3)

    @line("5", "Interest and points")
    def interest(self):
        paid = [excess(total(p.interest, p.points), over=[p.refund, p.not_for_home]) for p in self._homes()]
        return total(paid)

    @line("6", "Deductible home mortgage interest", weight="total")
    def deductible(self):
        return share(self.share_allowed, of=self.interest)
