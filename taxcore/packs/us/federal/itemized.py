"""Schedule A with Form 4952 and the standard deduction's rival. IRC 63(d), 163, 164, 165, 170, 213."""

from decimal import Decimal

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
    steps,
    times,
    total,
)
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.federal.self_employed_health import care_limit
from taxcore.packs.us.papers.shares import KINDS as SHARES

_NEW_DEBT_SINCE = (2017, 12, 16)


class InvestmentInterest(FederalForm):
    """Form 4952: investment interest up to net investment income. IRC 163(d)."""

    number, name = "4952", "Investment interest expense"
    needs = ("itemized", "k1-1065", "k1-1120s")
    income = linked("us.1040")
    interest = linked("us.sch-b")

    def required(self):
        return self.together > 0

    @line("1", "Paid this year")
    def paid(self):
        return total(
            self.paper("itemized").investment_interest, [getattr(p, "investment_interest", ZERO) for p in self._shares()]
        )

    def _shares(self):
        return [paper for kind in ("k1-1065", "k1-1120s") for paper in self.papers(kind)]

    @line("2", "Carried in")
    def carried(self):
        return total(self.paper("itemized").investment_interest_before)

    @line("3", "Together")
    def together(self):
        return total(self.paid, self.carried)

    @line("4c", "Interest and dividends that are not qualified")
    def ordinary(self):
        return total(self.interest.taxable, self.interest.dividends, less=self.interest.qualified)

    @line("4d", "Gain on property held for investment")
    def gain(self):
        return excess(self.brought("us.sch-d", "together"), over=0)

    @line("4e", "Net capital gain, if smaller")
    def net_gain(self):
        return least(self.gain, self.brought("us.sch-d", "preferred"))

    @line("4f", "Gain that is ordinary")
    def ordinary_gain(self):
        return excess(self.gain, over=self.net_gain)

    @line("4g", "Gains and dividends treated as investment income")
    def elected(self):
        return least(self.paper("itemized").gains_as_income, total(self.net_gain, self.interest.qualified))

    @line("6", "Net investment income")
    def net_income(self):
        return total(self.ordinary, self.ordinary_gain, self.elected)

    @line("7", "Carried on")
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

    @line("1", "Average balances")
    def balances(self):
        return total([self._balance(paper) for paper in self._homes()])

    @line("2", "Of them, before 16 December 2017")
    def older(self):
        return total([self._balance(p) for p in self._homes() if p.origin and p.origin.timetuple()[:3] < _NEW_DEBT_SINCE])

    @line("3", "Debt within the limit")
    def limit(self):
        law = self.law.itemized
        halves = 2 if self.income.status == "separate" else 1
        return greatest(ratio(law.mortgage_debt, over=halves), least(self.older, ratio(law.older_mortgage_debt, over=halves)))

    @line("4", "Share within it", rounding=None)
    def share_allowed(self):
        """To three places, as the publication asks."""
        if self.balances <= self.limit:
            return total(1)
        return ratio(self.limit, over=self.balances, places=3)

    @line("5", "Interest and points")
    def interest(self):
        paid = [excess(total(p.interest, p.points), over=[p.refund, p.not_for_home]) for p in self._homes()]
        return total(paid)

    @line("6", "Deductible", weight="total")
    def deductible(self):
        return share(self.share_allowed, of=self.interest)


class Gifts(FederalForm):
    """Which gifts count, kind by kind within its share of income. Pub. 526; IRC 170(b)(1), (d)(1).

    This year's gifts come before those carried in, and the kinds with the higher limits before the others.
    """

    number, name, worksheet = "Gifts", "Limits on gifts", True
    needs = ("gift", "gift-carryover", "k1-1065", "k1-1120s")
    income = linked("us.1040")

    def required(self):
        return self.together > 0

    def _given(self, kind):
        papers = [p for p in self.papers("gift") if (p.gift_kind or "cash") == kind]
        miles = [times(p.miles or 0, self.law.itemized.gift_mile, of="miles") for p in papers]
        shares = [p.cash_gifts for k in ("k1-1065", "k1-1120s") for p in self.papers(k)] if kind == "cash" else []
        return total([p.amount for p in papers], miles, shares)

    def _carried(self, kind):
        rows = [row for row in self.paper("gift-carryover").rows if row.gift_kind == kind]
        return total([row.amount for row in rows if (row.from_year or 0) >= self.year - 5])

    @fact("Income the limits go by", cites="IRC 170(b)(1)(H)")
    def base(self):
        return greatest(self.income.adjusted_gross_income, 0)

    def _left(self, part, *used):
        return excess(share(self.law.itemized[part], of=self.base), over=used)

    @line("1", "Money, public charities")
    def cash(self):
        return least(of={"given": self._given("cash"), "60% of income": self._left("cash_gift_share")})

    @line("2", "Things, public charities")
    def things(self):
        return least(of={"given": self._given("property"), "50% of income less line 1": self._left("half_share", self.cash)})

    @line("3", "Appreciated property, public charities")
    def gain_property(self):
        room = least(self._left("gain_property_share"), self._left("half_share", self.cash, self.things))
        return least(of={"given": self._given("gain"), "30% of income, 50% with lines 1 and 2": room})

    @line("4", "Money, private foundations")
    def private_cash(self):
        public = total(self._given("cash"), self._given("property"), self._given("gain"))
        room = least(self._left("gain_property_share"), self._left("half_share", public))
        return least(of={"given": self._given("cash-private"), "30% of income": room})

    @line("5", "Appreciated shares, private foundations")
    def private_gain(self):
        used = (self.cash, self.things, self.gain_property, self.private_cash)
        room = least(self._left("private_share"), self._left("gain_property_share", self.gain_property),
                     self._left("half_share", *used))  # fmt: skip
        return least(of={"given": self._given("gain-private"), "20% of income": room})

    @line("6", "Carried in, money")
    def carried_cash(self):
        return least(self._carried("cash"), self._left("cash_gift_share", self.cash, self.things, self.gain_property))

    @line("7", "Carried in, things")
    def carried_things(self):
        used = (self.cash, self.things, self.gain_property, self.carried_cash)
        return least(total(self._carried("property")), self._left("half_share", *used))

    @line("8", "Carried in, appreciated property")
    def carried_gain(self):
        used = (self.cash, self.things, self.gain_property, self.carried_cash, self.carried_things)
        room = least(self._left("gain_property_share", self.gain_property), self._left("half_share", *used))
        return least(self._carried("gain"), room)

    @line("9", "Carried in, private foundations")
    def carried_private(self):
        used = (self.cash, self.things, self.gain_property, self.private_cash, self.carried_cash, self.carried_things,
                self.carried_gain)  # fmt: skip
        room = least(self._left("gain_property_share", self.private_cash), self._left("half_share", *used))
        return least(total(self._carried("cash-private"), self._carried("gain-private")), room)

    @line("10", "Counted", weight="total")
    def together(self):
        return total(self.given_money, self.given_things, self.carried)

    @fact("Money given this year that counts")
    def given_money(self):
        return total(self.cash, self.private_cash)

    @fact("Things given this year that count")
    def given_things(self):
        return total(self.things, self.gain_property, self.private_gain)

    @fact("Gifts carried in that count")
    def carried(self):
        return total(self.carried_cash, self.carried_things, self.carried_gain, self.carried_private)

    @line("11", "Left for later years")
    def left(self):
        given = total([self._given(kind) for kind in ("cash", "property", "gain", "cash-private", "gain-private")])
        before = total([self._carried(kind) for kind in ("cash", "property", "gain", "cash-private", "gain-private")])
        return excess(total(given, before), over=self.together)


class NonCashGifts(FederalForm):
    """Form 8283, section A, one for each charity. IRC 170(f)(11)."""

    number, name, per = "8283", "Noncash gifts", "gift"

    @property
    def gift(self):
        return self.run.by_key(("gift",), self.key)

    def required(self):
        things = [p.amount for p in self.papers("gift") if (p.gift_kind or "cash") not in ("cash", "cash-private")]
        return sum(things, ZERO) > 500 and (self.gift.gift_kind or "cash") not in ("cash", "cash-private")

    @line("1h", "Fair market value")
    def value(self):
        return total(self.gift.amount)

    @line("1g", "Cost or basis")
    def cost(self):
        return total(self.gift.cost)


class Itemized(FederalForm):
    """Itemised deductions. IRC 63(d). The cap on taxes falls with income from 2025; 2026 brings a floor of gifts and a limit."""

    number, name = "Schedule A", "Itemized deductions"
    income = linked("us.1040")

    def required(self):
        return self.income.is_itemised

    @property
    def costs(self):
        return self.paper("itemized")

    @line("1", "Medical and dental")
    def medical(self):
        premiums = [paper.medicare_premiums for paper in self.papers("ssa-1099")]
        care = [self._care("care_premiums", "taxpayer"), self._care("spouse_care_premiums", "spouse")]
        return total(self.costs.medical, self.costs.health_premiums, premiums, care, self._medical_miles())

    def _care(self, name, role):
        person, paid = self.person(role), getattr(self.costs, name)
        if not paid or person is None:
            return nothing_because("no premiums were paid")
        return least(paid, care_limit(self.law, person.age_at_end() or 0))

    def _medical_miles(self):
        law, miles = self.law.mileage, self.costs.medical_miles or 0
        if "medical_from_july" not in law:
            return times(miles, law.medical, of="miles")
        later = min(self.costs.medical_miles_from_july or 0, miles)
        return total(times(miles - later, law.medical, of="miles"), times(later, law.medical_from_july, of="miles from July"))

    @line("2", "Adjusted gross income")
    def agi(self):
        return greatest(self.income.adjusted_gross_income, 0)

    @line("3", "7.5% of it")
    def medical_floor(self):
        return share(self.law.itemized.medical_floor, of=self.agi)

    @line("4", "Medical above that")
    def medical_allowed(self):
        return excess(self.medical, over=self.medical_floor)

    @line("5a", "State and local income or sales tax", cites="IRC 164(b)(5)")
    def state_tax(self):
        return greatest(of={"income tax": self.state_income_tax, "sales tax": total(self.costs.sales_tax)})

    @fact("State and local income tax paid in the year")
    def state_income_tax(self):
        """Withheld, paid in estimates during the year, and paid for earlier years."""
        wages = [total(row.withheld, row.local_withheld) for wage in self.papers("w2") for row in wage.states]
        boxes = [row.amount for wage in self.papers("w2") for row in wage.others if row.kind == "state"]
        rows = [row for paper in self.run.all_papers() if paper.kind != "w2" for row in getattr(paper, "states", ())]
        estimates = [row.amount for row in self.paper("estimates").state_rows if row.paid and row.paid.year == self.year]
        return total(wages, boxes, [row.withheld for row in rows], estimates, self.costs.state_income_tax)

    @line("5b", "Real estate tax")
    def property_tax(self):
        escrow = [paper.property_tax for paper in self.papers("1098")]
        return excess(total(self.costs.property_tax, escrow), over=self._of_home_offices("property_tax"))

    @line("5c", "Personal property tax")
    def vehicle_tax(self):
        return total(self.costs.vehicle_tax)

    @line("5d", "Together")
    def taxes_together(self):
        return total(self.state_tax, self.property_tax, self.vehicle_tax)

    @fact("Cap on them", cites="IRC 164(b)(6), (7)")
    def cap(self):
        law, status = self.law.itemized, self.income.status
        most = law.state_tax_cap[status]
        if "state_tax_cap_fall" not in law:
            return total(most)
        fall = share(law.state_tax_cap_fall.rate, of=excess(self.agi, over=law.state_tax_cap_falls_from[status]))
        return greatest(of={"cap less 30% of income above": total(most, less=fall), "least": law.state_tax_cap_least[status]})

    @line("5e", "Up to the cap")
    def taxes_capped(self):
        return least(of={"taxes": self.taxes_together, "cap": self.cap})

    @line("6", "Other taxes")
    def other_taxes(self):
        deducted = self.brought("us.1116", "tax") if self.paper("foreign-tax").deduct_instead else ZERO
        return total(self.costs.other_taxes, deducted)

    @line("7", "Taxes", weight="total")
    def taxes(self):
        return total(self.taxes_capped, self.other_taxes)

    @line("8a", "Mortgage interest and points on a statement")
    def mortgage(self):
        return excess(self.brought("us.mortgage-limit", "deductible"), over=self._of_home_offices("interest"))

    def _of_home_offices(self, name):
        """What Form 8829 takes of a home's interest or tax is not taken here again."""
        offices = [one for one in self.every("us.8829") if one.required()]
        return [self._part(one, name) for one in offices]

    @staticmethod
    def _part(office, name):
        whole = office.books.home_interest if name == "interest" else office.books.home_taxes
        return share(office.business_share, of=whole) if office.books.home_itemised else ZERO

    @line("8b", "Mortgage interest without a statement")
    def unreported(self):
        return total(self.costs.unreported_mortgage)

    @line("8c", "Points without a statement")
    def points(self):
        return total(self.costs.points)

    @line({2022: None, 2026: "8d"}, "Mortgage insurance", cites="IRC 163(h)(3)(E)")
    def insurance(self):
        """Above 100,000 of income it falls by a tenth for each 1,000 begun, or 500 apart."""
        if self.year < 2026:
            return nothing_because("it is deductible again from 2026")
        apart = 2 if self.income.status == "separate" else 1
        above = excess(self.agi, over=Decimal(100_000) / apart)
        tenths = min(steps(above, of=Decimal(1_000) / apart), Decimal(10))
        paid = total([paper.insurance for paper in self.papers("1098") if paper.use != "other"])
        return pro_rata(paid, 10 - tenths, 10)

    @line("8e", "Together")
    def home_interest(self):
        return total(self.mortgage, self.unreported, self.points, self.insurance)

    @line("9", "Investment interest, Form 4952")
    def investment(self):
        return self.brought("us.4952", "deduction")

    @line("10", "Interest", weight="total")
    def interest(self):
        return total(self.home_interest, self.investment)

    @line("11", "Gifts of money")
    def money(self):
        return self.brought("us.gifts", "given_money")

    @line("12", "Gifts of things")
    def things(self):
        return self.brought("us.gifts", "given_things")

    @line("13", "Gifts carried in")
    def carried_gifts(self):
        return self.brought("us.gifts", "carried")

    @line("14", "Gifts", weight="total")
    def all_gifts(self):
        given = total(self.money, self.things, self.carried_gifts)
        if "from_2026" not in self.law.itemized:
            return given
        return excess(given, over=share(self.law.itemized.from_2026.gift_floor, of=self.agi))

    @line("15", "Casualty in a declared disaster")
    def casualty(self):
        return total(self.costs.casualty)

    @line("16", "Other")
    def others(self):
        """Gambling losses never above winnings; from 2026 nine tenths of them. IRC 165(d)."""
        winnings = self.run.form("us.sch-1").gambling
        part = Decimal("0.9") if self.year >= 2026 else Decimal(1)
        shares = [getattr(p, "estate_tax", ZERO) for kind in SHARES for p in self.papers(kind)]
        return total(least(self.costs.gambling_losses * part, winnings), self.costs.other, shares)

    @fact("Before the limit of high incomes")
    def before_limit(self):
        parts = (self.medical_allowed, self.taxes, self.interest, self.all_gifts, self.casualty, self.others)
        return total(parts)

    @line("17", "Itemised deductions", weight="total")
    def deduction(self):
        """From 2026 reduced by 2/37 of themselves or of the income in the highest bracket. IRC 68."""
        if "from_2026" not in self.law.itemized:
            return total(self.before_limit)
        law, top = self.law.itemized.from_2026, self.law.income_tax[self.income.status][-1][0]
        # IRC 68(a)(2): taxable income, with the itemised deductions added back, above where the highest rate begins
        above = excess(self.income.adjusted_gross_income - self.income.additional_in_all, over=top)
        base = least(of={"itemised": self.before_limit, "income in the highest bracket": above})
        return total(self.before_limit, less=pro_rata(base, law.limitation_numerator, law.limitation_denominator))
