"""Qualified business income: Forms 8995 and 8995-A with its Schedules A, B and C. IRC 199A."""

from taxcore.engine import (
    ZERO,
    excess,
    fact,
    greatest,
    least,
    line,
    linked,
    nothing_because,
    pro_rata,
    ratio,
    share,
    total,
    whole,
)
from taxcore.packs.us.balances import QUALIFIED_LOSS
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.trades import TRADES, trade_of, trades
from taxcore.packs.us.papers.shares import KINDS as SHARES

_BUSINESSES = (*TRADES, "rental", *SHARES)


class QualifiedIncome(FederalForm):
    """One business: its qualified income after what the owner deducts for it. IRC 199A(c); 26 CFR 1.199A-3(b)(1)(vi)."""

    number, name, per, worksheet = "Qualified income", "Qualified business income", _BUSINESSES, True

    @property
    def paper(self):
        return self.run.by_key(_BUSINESSES, self.key)

    def required(self):
        return self.paper.kind in TRADES or self.income != 0

    @line("1", "Business income")
    def gross(self):
        paper = self.paper
        if paper.kind == "rental":
            return self._of_rental()
        if paper.kind not in TRADES:
            own = [paper.unreimbursed] if paper.kind == "k1-1065" else []
            return total(paper.qualified_income, less=[*own, self.run.form("us.share", self.key).section_179])
        if paper.not_qualified:
            return nothing_because("it is not a qualified trade or business")
        return total(trade_of(paper).profit, self._sold())

    def _sold(self):
        """Gain that is ordinary by kind is income of the trade: 26 CFR 1.199A-3(b)(1)."""
        return self.run.form("us.4797").ordinary_of(self.key) if not self.run.is_idle("us.4797") else total(ZERO)

    def _of_rental(self):
        """What enters income this year: losses that wait count when they are allowed."""
        if not self.paper.qualified_trade:
            return nothing_because("the rental is not said to be a trade or business")
        form = self.run.form("us.sch-e-part-i", self.key)
        return total(excess(form.net, over=ZERO), self._sold(), less=form.deductible)

    @line("2", "Deductible part of self-employment tax")
    def half(self):
        return self._share_of_tax() if self._counts() else nothing_because("it does not reduce this business's QBI")

    @line("3", "Health insurance")
    def health(self):
        if not self._counts() or self.paper.kind in ("k1-1041", "rental"):
            return nothing_because("it does not reduce this business's QBI")
        return total(self.run.form("us.7206", self.key).deduction)

    @line("4", "Retirement plan contributions")
    def plans(self):
        if not self._counts() or self.paper.kind == "rental":
            return nothing_because("it does not reduce this business's QBI")
        if self.run.is_idle("us.plans"):
            return nothing_because("there are no plan contributions")
        return total(self.run.form("us.plans", self._owner()).of_paper(self.key))

    @line("5", "Qualified business income", weight="total")
    def income(self):
        return total(self.gross, less=[self.half, self.health, self.plans])

    @line("6", "W-2 wages")
    def wages(self):
        if self.paper.kind == "rental":
            return nothing_because("wages of a rental are not asked for")
        return total(self.paper.wages if self.paper.kind in TRADES else self.paper.qualified_wages)

    @line("7", "UBIA of qualified property")
    def property_basis(self):
        return total(self.paper.property_basis)

    @fact("QBI loss carryforward from prior year")
    def loss_before(self):
        return total(self.paper.loss_before)

    def _owner(self):
        return self.paper.owner or "taxpayer"

    def _counts(self):
        return self.paper.kind not in TRADES or not self.paper.not_qualified

    def _share_of_tax(self):
        """In proportion to the profits that bear the tax."""
        if self.run.is_idle("us.sch-se"):
            return nothing_because("no one is self-employed")
        if self.paper.kind in TRADES and trade_of(self.paper).is_statutory:
            return nothing_because("a statutory employee pays no self-employment tax")
        schedule = self.run.form("us.sch-se", self._owner())
        own = self.paper.kind in TRADES
        mine = trade_of(self.paper).profit if own else getattr(self.paper, "self_employment", ZERO)
        profits = [
            one.profit for one in trades(self.run) if one.earner == self._owner() and one.profit > 0 and not one.is_statutory
        ]
        profits += [p.self_employment for p in self.papers("k1-1065", self._owner()) if p.self_employment > 0]
        whole = sum(profits, ZERO)
        if mine <= 0 or whole <= 0:
            return nothing_because("it has no self-employment tax")
        return pro_rata(schedule.half, mine, whole)


class QualifiedBusiness(FederalForm):
    """Form 8995, the simplified way, and the choice of the way. IRC 199A(a), (b)(2), (e)(2)."""

    number, name = "8995", "Qualified business income deduction"
    needs = (*TRADES, "rental", "1099-div", "qualified-loss", *SHARES)
    income = linked("us.1040")
    limited = linked("us.8995-a")

    def required(self):
        return self.exists and not self.above_threshold

    @fact("There is qualified business income or loss")
    def exists(self):
        carried = self.loss_before != 0
        return carried or self.trust_income > 0 or any(one.gross != 0 for one in self.every("us.qualified-income"))

    @fact("Taxable income is above the threshold", cites="IRC 199A(e)(2)")
    def above_threshold(self):
        return self.taxable_income > self.law.qbi.threshold[self.income.status]

    @line("2", "Total qualified business income or (loss)")
    def all_income(self):
        return total([one.income for one in self.every("us.qualified-income")])

    @line("3", "QBI loss carryforward from prior year")
    def loss_before(self):
        each = [one.loss_before for one in self.every("us.qualified-income")]
        return total(less=[each, self.paper("qualified-loss").loss])

    @line("4", "Total QBI")
    def total_income(self):
        return excess(total(self.all_income, self.loss_before), over=0)

    @line("5", "20% of it")
    def component(self):
        return share(self.law.qbi.rate, of=self.total_income)

    @line("6", "Qualified REIT dividends and PTP income")
    def trust_income(self):
        shares = [share_.trust_dividends for kind in SHARES for share_ in self.papers(kind)]
        return total([paper.trust_dividends for paper in self.papers("1099-div")], shares)

    @line("8", "Total REIT dividends and PTP income")
    def trust_together(self):
        return total(self.trust_income)

    @line("9", "20% of it")
    def trust_component(self):
        return share(self.law.qbi.rate, of=self.trust_together)

    @line("10", "QBI deduction before income limitation")
    def before_limit(self):
        return total(self.component, self.trust_component)

    @line("11", "Taxable income before QBI deduction")
    def taxable_income(self):
        return excess(self.income.adjusted_gross_income, over=self.income.deductions_before_business)

    @line("12", "Net capital gain plus qualified dividends", cites="IRC 199A(e)(1)")
    def net_capital_gain(self):
        return total(self.brought("us.sch-d", "preferred"), self.income.qualified_dividends)

    @line("13", "Taxable income less net capital gain")
    def ordinary(self):
        return excess(self.taxable_income, over=self.net_capital_gain)

    @line("14", "20% of it")
    def income_limit(self):
        return share(self.law.qbi.rate, of=self.ordinary)

    @line("15", "Deduction", weight="total")
    def simple_deduction(self):
        return self.with_least(
            least(
                of={
                    "20% of QBI": self.before_limit,
                    "20% of taxable income less net capital gain": self.income_limit,
                }
            )
        )

    @line("16", "Loss carryforward")
    def loss_after(self):
        return least(total(self.all_income, self.loss_before), 0)

    @fact("Loss carried to next year", closes=QUALIFIED_LOSS, rounding=whole)
    def loss_carried(self):
        """By the form that was used; either knows all businesses."""
        return excess(0, over=self.limited.loss_after if self.above_threshold else self.loss_after)

    @fact("QBI deduction")
    def deduction(self):
        if not self.exists:
            return nothing_because("there is no qualified trade or business")
        return total(self.limited.deduction) if self.above_threshold else total(self.simple_deduction)

    def with_least(self, found):
        """From 2026 an active business with 1,000 of qualified income has at least 400. IRC 199A(i)."""
        law = self.law.qbi
        if "least" not in law or self._active_income() < law.least_from:
            return found
        return least(of={"deduction or minimum": greatest(found, law.least), "taxable income": self.taxable_income})

    def _active_income(self):
        """Of all active businesses together, losses included. IRC 199A(i)(2)."""
        return sum((one.income for one in self.every("us.qualified-income") if one.paper.participates), ZERO)


class LimitedBusiness(FederalForm):
    """Form 8995-A, parts II and III of one business or group. IRC 199A(b)(2), (3), (d)(3); Schedules A to C."""

    number, name, per, worksheet = "8995-A business", "8995-A, one business", "group", True
    simple = linked("us.8995")

    @classmethod
    def keys(cls, run):
        """A group stands under its word, any other business under its id."""
        found = {}
        for kind in _BUSINESSES:
            for paper in run.papers(kind):
                found.setdefault(paper.group_of or paper.key, True)
        return list(found)

    def required(self):
        return self.simple.exists and self.simple.above_threshold

    def _members(self):
        worksheets = self.every("us.qualified-income")
        return [one for one in worksheets if (one.paper.group_of or one.paper.key) == self.key]

    @fact("Applicable percentage (SSTB)", cites="IRC 199A(d)(3)")
    def applicable(self):
        """Schedule A: all below the range, none above it, in proportion inside."""
        if not any(one.paper.service_trade for one in self._members()):
            return total(1)
        return total(1, less=self.phase_in)

    @fact("Phase-in percentage", cites="IRC 199A(b)(3)(B)")
    def phase_in(self):
        law, status = self.law.qbi, self.simple.income.status
        above = excess(self.simple.taxable_income, over=law.threshold[status])
        return least(ratio(above, over=law.range[status]), 1)

    @fact("QBI before loss netting")
    def own_income(self):
        return share(self.applicable, of=total([one.income for one in self._members()]))

    @line("2", "QBI after loss netting")
    def income(self):
        """Schedule C: losses lower the profits of the others in proportion. IRC 199A(c)(2)."""
        others = self.every("us.8995-a-business")
        profits = sum((one.own_income for one in others if one.own_income > 0), ZERO)
        losses = -sum((one.own_income for one in others if one.own_income < 0), ZERO) - self.simple.loss_before
        if self.applicable == 0:
            return nothing_because("it is an SSTB and income exceeds the phase-in range")
        if self.own_income <= 0 or profits <= 0:
            return nothing_because("there is no profit", self.own_income)
        return excess(self.own_income, over=pro_rata(losses, self.own_income, profits))

    @line("3", "20% of it")
    def component(self):
        return share(self.law.qbi.rate, of=self.income)

    @line("4", "W-2 wages")
    def wages(self):
        return share(self.applicable, of=total([one.wages for one in self._members()]))

    @line("5", "50% of W-2 wages")
    def wage_limit(self):
        return share(self.law.qbi.wage_share, of=self.wages)

    @line("6", "25% of W-2 wages")
    def quarter_wages(self):
        return share(self.law.qbi.mixed_wage_share, of=self.wages)

    @line("7", "UBIA of qualified property")
    def property_basis(self):
        return share(self.applicable, of=total([one.property_basis for one in self._members()]))

    @line("8", "2.5% of UBIA")
    def property_share(self):
        return share(self.law.qbi.property_share, of=self.property_basis)

    @line("9", "Add lines 6 and 8")
    def mixed_limit(self):
        return total(self.quarter_wages, self.property_share)

    @line("10", "Larger of lines 5 and 9")
    def limit(self):
        return greatest(of={"half of wages": self.wage_limit, "quarter of wages and property": self.mixed_limit})

    @line("11", "Smaller of lines 3 and 10")
    def limited(self):
        return least(of={"20% of income": self.component, "wages and property": self.limit})

    @line("12", "Phased-in reduction")
    def phased(self):
        return self._in_range(self.income_phased)

    @line("13", "QBI deduction before patron reduction", weight="total")
    def result(self):
        return greatest(self.limited, self.phased)

    @line("15", "QBI component", weight="total")
    def outcome(self):
        return total(self.result)

    # Part III: inside the range the limit takes away only its share of the difference

    def _in_range(self, amount):
        if self.phase_in >= 1 or self.limit >= self.component:
            return nothing_because("the limit applies in full or not at all")
        return total(amount)

    @line("17", "20% of qualified business income")
    def component_again(self):
        return self._in_range(self.component)

    @line("18", "Limit by wages and property")
    def limit_again(self):
        return self._in_range(self.limit)

    @line("19", "Line 17 less line 18")
    def taken_by_limit(self):
        return total(self.component_again, less=self.limit_again)

    @line("20", "Taxable income before QBI deduction")
    def taxable_income(self):
        return self._in_range(self.simple.taxable_income)

    @line("21", "Threshold")
    def threshold(self):
        return self._in_range(self.law.qbi.threshold[self.simple.income.status])

    @line("22", "Line 20 less line 21")
    def above(self):
        return excess(self.taxable_income, over=self.threshold)

    @line("23", "Phase-in range")
    def phase_in_range(self):
        return self._in_range(self.law.qbi.range[self.simple.income.status])

    @line("24", "Phase-in percentage", rounding=None)
    def phase_in_part(self):
        return self._in_range(self.phase_in)

    @line("25", "Phase-in reduction")
    def reduction(self):
        return share(self.phase_in_part, of=self.taken_by_limit)

    @line("26", "Line 17 less line 25")
    def income_phased(self):
        return total(self.component_again, less=self.reduction)


class LimitedBusinessIncome(FederalForm):
    """Form 8995-A, part IV: above the threshold. IRC 199A(a), (b)."""

    number, name = "8995-A", "Qualified business income deduction, limited"
    needs = (*TRADES, "1099-div", *SHARES)
    simple = linked("us.8995")

    def required(self):
        return self.simple.exists and self.simple.above_threshold

    @line("16", "Total QBI component")
    def every_component(self):
        return total([one.outcome for one in self.every("us.8995-a-business")])

    @line("27", "Total qualified business income component")
    def components(self):
        return total(self.every_component)

    @line("28", "Qualified REIT dividends and PTP income")
    def trust_income(self):
        return total(self.simple.trust_income)

    @line("31", "20% of it")
    def trust_component(self):
        return share(self.law.qbi.rate, of=self.trust_income)

    @line("32", "QBI deduction before income limitation")
    def before_limit(self):
        return total(self.components, self.trust_component)

    @line("33", "Taxable income before QBI deduction")
    def taxable_income(self):
        return total(self.simple.taxable_income)

    @line("34", "Net capital gain plus qualified dividends")
    def net_capital_gain(self):
        return total(self.simple.net_capital_gain)

    @line("35", "Taxable income less net capital gain")
    def ordinary(self):
        return excess(self.taxable_income, over=self.net_capital_gain)

    @line("36", "20% of it")
    def income_limit(self):
        return share(self.law.qbi.rate, of=self.ordinary)

    @line("37", "Smaller of lines 32 and 36")
    def within_limit(self):
        return least(of={"businesses": self.before_limit, "income limit": self.income_limit})

    @line("39", "Deduction", weight="total")
    def deduction(self):
        return self.simple.with_least(self.within_limit)

    @line("40", "Loss carryforward")
    def loss_after(self):
        profits = [one.own_income for one in self.every("us.8995-a-business")]
        return least(total(profits, self.simple.loss_before), 0)
