"""Federal income cut by state: all of it, what of it is one state's, and what of it is one spouse's.

Two worksheets of the same lines, so that a state's rules are written once and applied to either. Pay for work belongs where the
papers' state rows put it; a business where its receipts do; everything else where its owner lived, by days. 4 USC 114 (pensions).
Sales of somebody who moved belong where the owner lived on the day of the sale.
"""

from __future__ import annotations

from typing import Any

from taxcore.engine import ZERO, excess, fact, nothing_because, pro_rata, share, total, whole
from taxcore.packs.us import places
from taxcore.packs.us.base import STATES
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.papers.shares import KINDS as SHARES
from taxcore.packs.us.states.amended import StateAmended
from taxcore.packs.us.states.base import StateExtension, StateForm
from taxcore.packs.us.states.depreciation import OwnDepreciation

_STATEMENTS = ("1099-nec", "1099-misc", "1099-k")
CLASSES = (
    "wages", "interest", "dividends", "refunds", "business", "gains", "retirement", "benefits", "entities", "unemployment",
    "gambling", "other",
)  # fmt: skip


class _Income(StateForm):
    worksheet = True

    def required(self):
        """They are looked at where only a part of the income is the state's."""
        return not self.is_whole

    def sum_of_classes(self):
        return total([getattr(self, name) for name in CLASSES])


class Everywhere(_Income):
    """Federal income by class. IRC 61, 62."""

    number, name = "Income everywhere", "Federal income by class"

    @fact("Wages", rounding=whole)
    def wages(self):
        return total(self.federal.wages)

    @fact("Interest", rounding=whole)
    def interest(self):
        return total(self.federal.taxable_interest)

    @fact("Dividends", rounding=whole)
    def dividends(self):
        return total(self.federal.dividends)

    @fact("State tax refunds", rounding=whole)
    def refunds(self):
        return total(self.federal.adjusting.state_refunds)

    @fact("Business income", rounding=whole)
    def business(self):
        return total(self.federal.adjusting.business, self.federal.adjusting.farms)

    @fact("Capital gains and losses", rounding=whole)
    def gains(self):
        return total(self.federal.capital_gain)

    @fact("Pensions and IRAs, taxable", rounding=whole)
    def retirement(self):
        return total(self.federal.ira_taxable, self.federal.pension_taxable)

    @fact("Social Security, taxable", rounding=whole)
    def benefits(self):
        return total(self.federal.taxable_benefits)

    @fact("Partnerships, S corporations, trusts", rounding=whole)
    def entities(self):
        return total(self.federal.adjusting.entities)

    @fact("Unemployment compensation", rounding=whole)
    def unemployment(self):
        return total(self.federal.adjusting.unemployment)

    @fact("Gambling winnings", rounding=whole)
    def gambling(self):
        return total(self.federal.adjusting.gambling)

    @fact("Other income", rounding=whole)
    def other(self):
        known = [self.refunds, self.business, self.entities, self.unemployment, self.gambling]
        return total(self.federal.additional_income, less=known)

    @fact("Income", rounding=whole)
    def total_income(self):
        return self.sum_of_classes()

    @fact("Adjustments", rounding=whole)
    def adjustments(self):
        return total(self.federal.adjustments)

    @fact("Adjusted gross income", rounding=whole)
    def agi(self):
        return total(self.total_income, less=self.adjustments)

    @fact("Interest on US obligations", rounding=whole, cites="31 USC 3124")
    def government_interest(self):
        return total(self.federal.interest.from_government)

    @fact("Exempt interest on other states' bonds", rounding=whole)
    def other_bonds(self):
        home = [paper.home_bonds for kind in ("1099-int", "1099-div") for paper in self.papers(kind)]
        return excess(self.federal.exempt_interest, over=home)


class Here(_Income):
    """What of federal income is this state's, for people who did not live in it all year. 4 USC 114."""

    number, name = "Income here", "State source income"

    @classmethod
    def idle(cls, run):
        return super().idle(run) or places.calls(run, cls.state()) == places.WHOLE

    def _part(self, paper):
        return places.part_lived(self.run, paper, self.state())

    def _living(self, amount, weights):
        """As much of a federal amount as its papers' owners lived here. `weights`: (paper, its part of the amount)."""
        if not amount:
            return total(0)
        parts = [share(self._part(paper), of=weight) for paper, weight in weights if weight and self._part(paper)]
        every = total([weight for _, weight in weights])
        if every <= 0:
            return share(self._lived(), of=amount)
        if not parts:
            return nothing_because("the owner did not live here")
        return pro_rata(amount, total(parts), every)

    def _lived(self):
        """The share of the year that those who file lived here, on average."""
        filers = self.federal.filers
        return sum((places.part_lived_by(self.run, one.role, self.state()) for one in filers), ZERO) / (len(filers) or 1)

    @fact("Wages", rounding=whole)
    def wages(self):
        statements = [self.wages_of(wage) for wage in self.papers("w2") if not wage.statutory_employee]
        rest = total(self.federal.wages, less=self.federal.wage_statements)
        return total(statements, self._living(rest, ()))

    def wages_of(self, wage):
        """State rows say where; a resident's own pay is this state's wherever it was earned, a mover's by days."""
        lived, rows = self._part(wage), wage.states
        here = [row.wages for row in rows if row.state == self.state()]
        if lived == 1:
            return total(wage.wages)
        if not lived:
            spared = here and places.is_spared(self.run, wage, self.state())
            return nothing_because("by reciprocal agreement these wages are taxed at home only") if spared else total(here)
        if not any(row.state for row in rows):
            return share(lived, of=wage.wages)
        homes = places.days_in(self.run, wage.owner or "taxpayer")
        return total(here, share(lived, of=[row.wages for row in rows if row.state and row.state not in homes]))

    def counted_of(self, state):
        """Pay that another state's rows name, by the days lived here, and land sold there by somebody who lived here that day."""
        parts = [
            (self._part(wage), [row.wages for row in wage.states if row.state == state])
            for wage in self.papers("w2")
            if not wage.statutory_employee and state not in places.days_in(self.run, wage.owner or "taxpayer")
        ]
        sold = [self._sold_at_home(paper) for paper in self.papers("1099-b") if places.situated(paper) == state]
        let = [self.rents_of(one) for one in self.every("us.sch-e-part-i") if places.lies_in(one.paper) == state]
        return total([share(lived, of=rows) for lived, rows in parts if lived and rows], sold, let)

    @fact("Interest", rounding=whole)
    def interest(self):
        own = [(paper, paper.taxed()) for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        return self._living(self.federal.taxable_interest, [*own, *self._of_shares("interest")])

    @fact("Dividends", rounding=whole)
    def dividends(self):
        own = [(paper, paper.dividends) for paper in self.papers("1099-div")]
        return self._living(self.federal.dividends, [*own, *self._of_shares("dividends")])

    def _of_shares(self, name):
        return [(paper, getattr(paper, name)) for kind in SHARES for paper in self.papers(kind)]

    @fact("State tax refunds", rounding=whole)
    def refunds(self):
        return self._living(self.federal.adjusting.state_refunds, ())

    @fact("Business income", rounding=whole)
    def business(self):
        return total([self.business_of(one) for one in trades(self.run)])

    def business_of(self, one):
        """By receipts where the books or their statements name states, else where the owner lived."""
        rows = [row for paper in (one.books, *self._given_to(one)) for row in paper.states if row.state]
        receipts = one.gross_income if one.books.kind == "farm" else one.net_receipts
        if not rows or receipts <= 0:
            lived = self._part(one.books)
            return share(lived, of=one.profit) if lived else nothing_because("the owner did not live here")
        return pro_rata(one.profit, [row.income for row in rows if row.state == self.state()], receipts)

    def _given_to(self, one):
        alone = len(self.papers("business")) == 1
        found = [paper for kind in _STATEMENTS for paper in self.papers(kind)]
        return [paper for paper in found if paper.business == one.key or (alone and not paper.business)]

    @fact("Capital gains and losses", rounding=whole)
    def gains(self):
        """Sales by the day, what funds distributed by days. A limited or carried loss of a mover stops filing by name."""
        if self.run.is_idle("us.sch-d"):
            return self._living(self.federal.capital_gain, ())
        sold = [self._sold(paper) for kind in ("1099-b", "1099-da") for paper in self.papers(kind)]
        funds = [share(self._part(paper), of=paper.capital_gain) for paper in self.papers("1099-div")]
        shares = [
            share(self._part(paper), of=total(of_share(paper, "short_gain"), of_share(paper, "long_gain")))
            for kind in SHARES
            for paper in self.papers(kind)
        ]
        return total(sold, funds, shares)

    def _sold(self, paper):
        """Land and houses where they lie; the rest where its owners lived on the day."""
        if places.situated(paper) == self.state():
            return total([row.gain() for row in paper.sales], [row.gain() for row in paper.summaries])
        return self._sold_at_home(paper)

    def _sold_at_home(self, paper):
        roles = places.owners(self.run, paper)
        return total([share(self._there(row.sold, roles), of=row.gain()) for row in paper.sales])

    def _there(self, day, roles):
        return total(sum(1 for role in roles if places.home_on(self.run, role, day) == self.state())) / len(roles)

    @fact("Pensions and IRAs, taxable", rounding=whole)
    def retirement(self):
        return self._living(total(self.federal.ira_taxable, self.federal.pension_taxable), self._weights("1099-r", "gross"))

    @fact("Social Security, taxable", rounding=whole)
    def benefits(self):
        return self._living(self.federal.taxable_benefits, self._weights("ssa-1099", "net"))

    def _weights(self, kind, name):
        return [(paper, getattr(paper, name)) for paper in self.papers(kind)]

    @fact("Partnerships, S corporations, trusts", rounding=whole)
    def entities(self):
        """Shares by their rows, rents where the house lies; who lives here is taxed on those from elsewhere too."""
        shares = [self._by_rows(paper, self._shared(paper)) for kind in SHARES for paper in self.papers(kind)]
        return total(shares, [self.rents_of(one) for one in self.every("us.sch-e-part-i")])

    def rents_of(self, one):
        """One property's rents as the federal return counts them."""
        net = total(excess(one.net, over=0), less=one.deductible)
        if places.lies_in(one.paper) == self.state():
            return net
        lived = self._part(one.paper)
        return share(lived, of=net) if lived else nothing_because("the house lies in another state")

    @staticmethod
    def _shared(paper):
        names = ("ordinary", "rental", "other_rental", "guaranteed", "royalties")
        return total([of_share(paper, name) for name in names if hasattr(paper, name)])

    def _by_rows(self, paper, amount):
        rows = [row for row in paper.states if row.state]
        if rows and (amount or any(row.income for row in rows)):
            return total([row.income for row in rows if row.state == self.state()])
        lived = self._part(paper)
        return share(lived, of=amount) if lived else nothing_because("the owner did not live here")

    @fact("Unemployment compensation", rounding=whole)
    def unemployment(self):
        return total([self._by_rows(paper, total(paper.unemployment, less=paper.repaid)) for paper in self.papers("1099-g")])

    @fact("Gambling winnings", rounding=whole)
    def gambling(self):
        statements = [self._by_rows(paper, paper.winnings) for paper in self.papers("w2g")]
        rest = total(self.federal.adjusting.gambling, less=[paper.winnings for paper in self.papers("w2g")])
        return total(statements, self._living(rest, ()))

    @fact("Other income", rounding=whole)
    def other(self):
        return self._living(self.everywhere.other, self._weights("other-income", "prizes") if self.everywhere.other else ())

    @fact("Income", rounding=whole)
    def total_income(self):
        return self.sum_of_classes()

    @fact("Adjustments", rounding=whole)
    def adjustments(self):
        """What a business brings follows its profit; the rest goes by income."""
        adjusting, every = self.federal.adjusting, self.everywhere
        if not self.federal.adjustments:
            return total(0)
        of_business = total(adjusting.half_self_employment, adjusting.plans, adjusting.health_insurance)
        rest = total(self.federal.adjustments, less=of_business)
        parts = [pro_rata(of_business, self.business, every.business)] if every.business > 0 else []
        if every.total_income > 0:
            parts.append(pro_rata(rest, excess(self.total_income, over=0), every.total_income))
        return total(parts)

    @fact("Adjusted gross income", rounding=whole)
    def agi(self):
        return total(self.total_income, less=self.adjustments)

    @fact("Interest on US obligations", rounding=whole, cites="31 USC 3124")
    def government_interest(self):
        own = [(paper, paper.from_government()) for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        return self._living(self.everywhere.government_interest, [*own, *self._weights("1099-div", "government_interest")])

    @fact("Exempt interest on other states' bonds", rounding=whole)
    def other_bonds(self):
        own = [(paper, paper.exempt()) for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        return self._living(self.everywhere.other_bonds, [*own, *self._weights("1099-div", "exempt_interest")])


class Own(StateForm):
    """One spouse's part of the federal adjusted gross income: own papers, and half of what belongs to both. IRC 6013."""

    number, name, per, worksheet = "Own income", "Each spouse's income", "person", True

    def required(self):
        return False

    @property
    def business_together(self):
        """Of both spouses, businesses and farms."""
        return total(self.federal.adjusting.business, self.federal.adjusting.farms)

    def _mine(self, amount, weights):
        if not amount:
            return total(0)
        every = total([weight for _, weight in weights])
        if len(self.federal.filers) < 2:
            return total(amount)
        if every <= 0:
            return pro_rata(amount, 1, 2)
        return pro_rata(amount, total([share(self._half(paper), of=weight) for paper, weight in weights]), every)

    def _half(self, paper):
        owner = getattr(paper, "owner", "") or "taxpayer"
        return total(1) / 2 if owner == "joint" else total(1 if owner == self.key else 0)

    def _weights(self, *named):
        return [(paper, getattr(paper, name)) for kind, name in named for paper in self.papers(kind)]

    @fact("Wages", rounding=whole)
    def wages(self):
        return self._mine(self.federal.wages, self._weights(("w2", "wages")))

    @fact("Interest", rounding=whole)
    def interest(self):
        own = [(paper, paper.taxed()) for kind in ("1099-int", "1099-oid") for paper in self.papers(kind)]
        return self._mine(self.federal.taxable_interest, own)

    @fact("Dividends", rounding=whole)
    def dividends(self):
        return self._mine(self.federal.dividends, self._weights(("1099-div", "dividends")))

    @fact("Capital gains and losses", rounding=whole)
    def gains(self):
        sold = [(paper, total([row.proceeds for row in (*paper.sales, *paper.summaries)])) for paper in self._brokers()]
        return self._mine(self.federal.capital_gain, [*sold, *self._weights(("1099-div", "capital_gain"))])

    def _brokers(self):
        return [*self.papers("1099-b"), *self.papers("1099-da")]

    @fact("Pensions and IRAs, taxable", rounding=whole)
    def retirement(self):
        return self._mine(total(self.federal.ira_taxable, self.federal.pension_taxable), self._weights(("1099-r", "gross")))

    @fact("Social Security, taxable", rounding=whole)
    def benefits(self):
        return self._mine(self.federal.taxable_benefits, self._weights(("ssa-1099", "net")))

    @fact("Business income", rounding=whole)
    def business(self):
        return total([one.profit for one in trades(self.run) if len(self.federal.filers) < 2 or self._half(one.books) == 1])

    @fact("Other income", rounding=whole)
    def other(self):
        weights = self._weights(("1099-g", "unemployment"), ("w2g", "winnings"), *((kind, "ordinary") for kind in SHARES))
        for one in self.every("us.sch-e-part-i"):
            weights.append((one.paper, total(excess(one.net, over=ZERO), less=one.deductible)))
        return self._mine(total(self.federal.additional_income, less=self.business_together), weights)

    @fact("Interest on US obligations", rounding=whole, cites="31 USC 3124")
    def government_interest(self):
        named = (("1099-int", "government_interest"), ("1099-oid", "treasury_discount"), ("1099-div", "government_interest"))
        shares = ((kind, "government_interest") for kind in SHARES)
        return self._mine(total(self.federal.interest.from_government), self._weights(*named, *shares))

    @fact("State tax refunds", rounding=whole)
    def refunds(self):
        return self._mine(total(self.federal.adjusting.state_refunds), self._weights(("1099-g", "state_refund")))

    @fact("Unemployment compensation", rounding=whole)
    def unemployment(self):
        return self._mine(total(self.federal.adjusting.unemployment), self._weights(("1099-g", "unemployment")))

    @fact("Income", rounding=whole)
    def total_income(self):
        names = ("wages", "interest", "dividends", "gains", "retirement", "benefits", "business", "other")
        return total([getattr(self, name) for name in names])

    @fact("Adjusted gross income", rounding=whole)
    def agi(self):
        """Adjustments of a business follow its profit, the others the income."""
        adjusting, federal = self.federal.adjusting, self.federal
        of_business = total(adjusting.half_self_employment, adjusting.plans, adjusting.health_insurance)
        rest = total(federal.adjustments, less=of_business)
        taken = [pro_rata(of_business, self.business, self.business_together)] if self.business_together > 0 else []
        if federal.total_income > 0:
            taken.append(pro_rata(rest, excess(self.total_income, over=0), federal.total_income))
        return total(self.total_income, less=taken)


def worksheets(jurisdiction: str, *, own: bool = False) -> tuple[Any, ...]:
    """A state's own copies of the worksheets."""
    bases = (Everywhere, Here, OwnDepreciation, StateExtension, StateAmended, *([Own] if own else []))
    state = STATES[jurisdiction.partition("-")[2].upper()]
    return tuple(
        type(base.__name__, (base,), {"jurisdiction": jurisdiction, "name": f"{state}: {base.name[0].lower()}{base.name[1:]}",
                                      "__doc__": base.__doc__})
        for base in bases
    )  # fmt: skip
