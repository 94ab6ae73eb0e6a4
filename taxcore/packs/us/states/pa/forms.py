"""Form PA-40: classes of income of their own, one rate, no exemptions; tax forgiveness. 72 P.S. 7301 to 7361.

Full-year, part-year and nonresident. A class that ends in a loss is zero and never lowers another. 72 P.S. 7303.
"""

from decimal import ROUND_CEILING, Decimal

from taxcore.engine import ALL, ZERO, excess, fact, least, line, nothing_because, share, times, total, whole
from taxcore.packs.us import places
from taxcore.packs.us.balances import APPLIED
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.federal.trades import trades
from taxcore.packs.us.states.base import StateReturn

_ALL = Decimal(1)


class IncomeTax(StateReturn):
    """Pennsylvania personal income tax return. 72 P.S. 7302, 7303, 7304, 7314."""

    jurisdiction = "us-pa"
    number, name = "PA-40", "Personal income tax return"

    def _lived(self, paper):
        """The share of the year that a paper's owner lived here; all of it also where another stay overlaps a year here."""
        return _ALL if self.is_whole else places.part_lived(self.run, paper, "PA")

    def _while_here(self, paper, amount):
        """What of income that belongs where its owner lives is Pennsylvania's: by days, where there was a move."""
        lived = self._lived(paper)
        if lived == _ALL:
            return total(amount)
        return share(lived, of=amount) if lived else nothing_because("the owner did not live in Pennsylvania")

    @line("1a", "Gross compensation", cites="72 P.S. 7303(a)(1)")
    def gross_compensation(self):
        return total([self._compensation(wage) for wage in self.papers("w2")])

    def _compensation(self, wage):
        """Box 16 of Pennsylvania; of somebody who lived here all year and has other states' rows, all pay: box 5 less code C."""
        lived, named = self._lived(wage), [row for row in wage.states if row.state]
        pay = excess(wage.medicare_wages, over=wage.coded({"C"}))
        if lived < _ALL:
            return share(lived, of=pay) if lived and not named else self.here.wages_of(wage)
        here = [row.wages for row in named if row.state == "PA"]
        return here if here and len(here) == len(named) else pay

    @line("1b", "Unreimbursed employee expenses")
    def expenses(self):
        return nothing_because("no form reports them")

    @line("1c", "Net compensation")
    def compensation(self):
        return excess(self.gross_compensation, over=self.expenses)

    @line("2", "Interest", cites="72 P.S. 7303(a)(6)")
    def interest(self):
        """US obligations are free; other states' bonds are not."""
        of_payers = [self._while_here(p, excess(total(p.taxed(), p.exempt()), over=[p.from_government(), p.home_bonds]))
                     for p in self.papers("1099-int")]  # fmt: skip
        issued = [
            self._while_here(p, excess(total(p.taxed(), p.exempt()), over=p.from_government())) for p in self.papers("1099-oid")
        ]
        shares = [self._while_here(p, excess(total(p.interest, p.exempt_interest), over=p.government_interest))
                  for kind in ("k1-1065", "k1-1120s") for p in self.papers(kind)]  # fmt: skip
        return total(of_payers, issued, shares)

    @line("3", "Dividends and capital gain distributions", cites="72 P.S. 7303(a)(5)")
    def dividends(self):
        of_payers = [self._while_here(p, excess(total(p.dividends, p.capital_gain, p.exempt_interest),
                                                over=[p.government_interest, p.home_bonds, p.not_the_owners]))
                     for p in self.papers("1099-div")]  # fmt: skip
        shares = [self._while_here(p, total(p.dividends)) for kind in ("k1-1065", "k1-1120s") for p in self.papers(kind)]
        return total(of_payers, shares)

    @line("4", "Net income or loss from business", cites="72 P.S. 7303(a)(2)")
    def business(self):
        """Of movers and nonresidents by receipts or days."""
        if not self.is_whole:
            let = [self.here.rents_of(one) for one in self.every("us.sch-e-part-i")]
            return total(self.here.business, self.here.entities, less=let)
        own = [one.profit for one in trades(self.run)]
        kinds = ("k1-1065", "k1-1120s")
        shares = [total(of_share(p, "ordinary"), getattr(p, "guaranteed", ZERO)) for kind in kinds for p in self.papers(kind)]
        used_in = {one.key for one in self.papers("rental")}
        return total(own, shares, [one.difference for one in self._own_depreciation() if one.asset.used_in not in used_in])

    def _own_depreciation(self):
        return self.every("us-pa.own-depreciation")

    @line("5", "Net gain or loss from sale of property", cites="72 P.S. 7303(a)(3)")
    def gains(self):
        """No limit on losses within the class, and no carryover; distributions of funds are dividends here."""
        if self.run.is_idle("us.sch-d") or (self.kind_of_return == places.NONE and not self.here.gains):
            return nothing_because("nothing was sold in Pennsylvania or while living there")
        if not self.is_whole:
            return total(self.here.gains, less=[self._while_here(p, p.capital_gain) for p in self.papers("1099-div")])
        schedule = self.run.form("us.sch-d")
        carried = total(self.paper("capital-carryover").short_term, self.paper("capital-carryover").long_term)
        return total(schedule.together, carried, less=schedule.distributions)

    @line("6", "Net income or loss from rents and royalties", cites="72 P.S. 7303(a)(4), (b)")
    def rents(self):
        """Each person's properties together; one spouse's loss does not lower the other's income. No limit of passive losses."""
        each = [self._rents_of(person.role) for person in self.federal.filers] or [self._rents_of("taxpayer")]
        return total([excess(one, over=0) for one in each] if any(one > 0 for one in each) else each)

    def _rents_of(self, role):
        """One person's part: half of what belongs to both."""
        parts = []
        for kind, amount_of in (("rental", self._let), ("k1-1065", self._let_by_share), ("k1-1120s", self._let_by_share)):
            for paper in self.papers(kind):
                whose = places.owners(self.run, paper)
                if role in whose:
                    parts.append(share(1 / Decimal(len(whose)), of=amount_of(paper)))
        return total(parts)

    def _let(self, paper):
        """Rents less expenses, with depreciation of its own; where the house lies, and where its owner lived."""
        form = self.run.form("us.sch-e-part-i", paper.key)
        own = [one.of_depreciation for one in self._own_depreciation() if one.asset.used_in == paper.key]
        net = total(form.net, own)
        return net if places.lies_in(paper) == "PA" else self._while_here(paper, net)

    def _let_by_share(self, paper):
        """Of movers and nonresidents a share's rows have it all together, among business."""
        if not self.is_whole:
            return nothing_because("a share's state rows have it on line 4")
        return total([of_share(paper, name) for name in ("rental", "other_rental", "royalties")])

    @line("7", "Estates and trusts")
    def trusts(self):
        return nothing_because("there is no estate or trust K-1")

    @line("8", "Gambling winnings", cites="72 P.S. 7303(a)(7)")
    def gambling(self):
        won = [paper.winnings for paper in self.papers("w2g")] if self.is_whole else self.here.gambling
        return excess(total(won), over=self.paper("itemized").gambling_losses)

    @line("9", "Taxable income", weight="total")
    def taxable_income(self):
        """Each class alone: losses are left out."""
        classes = (
            self.compensation,
            self.interest,
            self.dividends,
            self.business,
            self.gains,
            self.rents,
            self.trusts,
            self.gambling,
        )
        return total([excess(one, over=0) for one in classes], self.questions.other_additions)

    @line("10", "Health savings account contributions", cites="72 P.S. 7303(a)(9)")
    def deductions(self):
        return total(self.run.form("us.sch-1").health_savings_deduction, self.questions.other_subtractions)

    @line("11", "Adjusted taxable income", weight="total")
    def adjusted_income(self):
        return excess(self.taxable_income, over=self.deductions)

    @line("12", "Tax at 3.07%", weight="total", cites="72 P.S. 7302")
    def tax(self):
        return share(self.law.income_tax.rate, of=self.adjusted_income)

    @line("13", "Pennsylvania tax withheld", cites="72 P.S. 7316.1")
    def withheld(self):
        return self.withheld_here()

    @line("14", "Credit from prior year return")
    def applied_before(self):
        return total(self.questions.applied_before)

    @line("15", "Estimated tax payments")
    def estimates(self):
        return self.estimates_here()

    @line("16", "Amount paid with request for extension")
    def with_extension(self):
        return self.extension_here()

    @line("18", "Total estimated payments and credits")
    def payments(self):
        return total(self.applied_before, self.estimates, self.with_extension)

    @line("19b", "Dependents, Schedule SP")
    def children(self):
        count = sum(1 for one in self.every("us.dependent") if one.is_dependant and one.who.relationship in ("child", "foster"))
        return times(count, 1, of="children")

    @line("20", "Eligibility income, Schedule SP", cites="72 P.S. 7304(c)")
    def eligibility_income(self):
        if not self.questions.forgiveness:
            return nothing_because("tax forgiveness is not claimed")
        return total(self.taxable_income, self.untaxed_interest, self.questions.other_eligibility)

    @fact("Nontaxable interest, Schedule SP", rounding=whole)
    def untaxed_interest(self):
        """Of the United States and of Pennsylvania itself: not taxed, and counted. 72 P.S. 7301(o.2)."""
        of = self.everywhere
        return total(of.government_interest, excess(self.federal.exempt_interest, over=of.other_bonds))

    @fact("Tax forgiveness percentage", cites="72 P.S. 7304(d)", rounding=None)
    def forgiven(self):
        """All up to the limit, a tenth less for each step begun above it."""
        if not self.questions.forgiveness or not self.is_whole:
            return nothing_because("tax forgiveness is not claimed" if self.is_whole else "it requires full-year residency")
        law = self.law.tax_forgiveness
        free = (law.couple if len(self.federal.filers) == 2 else law.alone) + law.each_child * int(self.children)
        steps = (max(self.eligibility_income - free, ZERO) / law.step).to_integral_value(ROUND_CEILING)
        return total(max(_ALL - law.each_step * steps, ZERO))

    @line("21", "Tax forgiveness credit", cites="72 P.S. 7304")
    def forgiveness(self):
        """Of the tax less the credit for other states' tax, which is never paid out. Schedule SP, lines 12 to 16."""
        return share(self.forgiven, of=excess(self.tax, over=self.resident_credit))

    @line("22", "Resident credit", cites="72 P.S. 7314")
    def resident_credit(self):
        """In each state, no more than Pennsylvania's own tax on the same income."""
        elsewhere = self.taxed_elsewhere()
        if not elsewhere:
            return nothing_because(self.no_other_state)
        rate = self.law.income_tax.rate
        each = [least(of={"tax paid there": one.tax, "tax here on the same": share(rate, of=one.income)}) for one in elsewhere]
        return least(of={"all states": total(each), "tax": self.tax})

    @line("23", "Other credits")
    def other_credits(self):
        return nothing_because("no other credit is computed")

    @line("24", "Payments and credits", weight="total")
    def payments_and_credits(self):
        return total(self.withheld, self.payments, self.forgiveness, self.resident_credit, self.other_credits)

    @line("25", "Use tax")
    def use_tax(self):
        return total(self.questions.use_tax)

    @fact("Tax plus use tax")
    def total_tax(self):
        return total(self.tax, self.use_tax)

    @line("26", "Tax due")
    def due(self):
        return excess(self.total_tax, over=self.payments_and_credits)

    @line("28", "Payment due", weight="total")
    def owed(self):
        return total(self.due)

    @line("29", "Overpayment")
    def overpaid(self):
        return excess(self.payments_and_credits, over=self.total_tax)

    @line("30", "Refund", weight="total")
    def refund(self):
        return excess(self.overpaid, over=self.applied)

    @line("31", "Applied to next year's estimated tax", closes=APPLIED, used=ALL)
    def applied(self):
        return least(self.questions.applied_to_next_year, self.overpaid)
