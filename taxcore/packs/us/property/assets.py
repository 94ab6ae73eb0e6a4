"""Depreciation of each asset, the convention of a year, section 179, and Form 4562 of each activity.

IRC 167, 168, 179, 195, 197, 280F.
"""

from decimal import Decimal
from typing import ClassVar

from taxcore.engine import Form, excess, fact, least, line, nothing_because, pro_rata, share, total, whole
from taxcore.packs.us.balances import DEPRECIATION, QUARTER, SECTION_179
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.federal.shares import expensing, trade_income
from taxcore.packs.us.federal.trades import TRADES, trades
from taxcore.packs.us.property.lives import (
    FEDERAL,
    MINIMUM,
    amortized,
    before_this_year,
    cap_of,
    first_cap,
    is_depreciated,
    is_mostly_business,
    life_of,
    special_rate,
    straight_before_fall,
)
from taxcore.packs.us.property.papers import ACTIVITIES, AMORTIZED, BUILT, LISTED, NOT_EXPENSED

ZERO, _PERCENT = Decimal(0), Decimal("0.01")


def by_activity(run):
    """{key of a business or rental: the register's lines of its assets that are in service}, found once for all lines."""
    found = {}
    for one in run.every("us.depreciation"):
        if one.is_there:
            found.setdefault(str(one.asset.used_in), []).append(one)
    return found


class WrittenOff(Form):
    """One asset as one authority writes it off: what it cost, what is written off this year, what is left. IRC 167, 168, 280F.

    `way` is whose law: the federal register's, or one of a state that goes its own.
    """

    per, worksheet = "asset", True
    rounding = staticmethod(whole)
    way = FEDERAL

    @property
    def asset(self):
        return self.run.by_key(("asset",), self.key)

    @property
    def number_of_year(self):
        return self.run.year - self.asset.in_service.year + 1

    @property
    def is_there(self):
        return is_depreciated(self.asset) and self.asset.in_service.year <= self.run.year

    def required(self):
        return False

    @line("1", "Cost or other basis, without land")
    def cost(self):
        return excess(self.asset.cost, over=self.asset.land)

    @line("2", "Basis of business use")
    def basis(self):
        return share(Decimal(self.asset.business_share or 0) * _PERCENT, of=self.cost)

    @line("3", "Section 179 elected")
    def section_179(self):
        if self.asset.has_fallen:
            return nothing_because("business use has fallen: it is added back, IRC 280F(d)(1)")
        return least(self.asset.section_179, self.basis)

    @line("4", "Special depreciation allowance of the first year", cites="IRC 168(k)")
    def special(self):
        rate = special_rate(self.asset, self.way)
        if not rate:
            return nothing_because("it has none by its kind, its day or by election")
        return share(rate, of=excess(self.basis, over=self.section_179))

    @line("5", "Basis for depreciation")
    def depreciable(self):
        return excess(self.basis, over=[self.section_179, self.special])

    @line("6", "Depreciation before this year")
    def before(self):
        return total(before_this_year(self.asset, self.way))

    @line("7", "Rate, percent", rounding=None)
    def rate(self):
        life = life_of(self.asset) if self.is_there else None
        return total(life.rate(self.number_of_year) if life else ZERO)

    @line("8", "Of this year, before limits", cites="IRC 168, 195, 197")
    def of_year(self):
        """By the table; in the last year what is left; in the year in which it leaves, the part of the year."""
        if not self.is_there or (self._leaves() and self.number_of_year == 1 and self.asset.sort not in BUILT):
            return nothing_because("it is not in service yet, is land, or left in its first year")
        if self.asset.sort in AMORTIZED:
            return total(amortized(self.asset, self.depreciable, self.run.year))
        life = life_of(self.asset)
        if life is None:
            return nothing_because("its recovery period is not known")
        if self._leaves():
            of_whole_year = least(share(self.rate * _PERCENT, of=self._base()), self._rest())
            return share(life.part_when_sold(self.asset.sold.month), of=of_whole_year)
        if self.asset.has_fallen:
            return share(self.rate * _PERCENT, of=self.basis)
        if self._is_car():
            return least(share(self.rate * _PERCENT, of=self._base()), self._rest())
        if self.number_of_year >= life.last:
            return excess(self.depreciable, over=excess(self.before, over=self.special))
        return least(share(self.rate * _PERCENT, of=self._base()), self._rest())

    def _leaves(self):
        return self.asset.sold is not None and self.asset.sold.year <= self.run.year

    def _is_car(self):
        return self.is_there and cap_of(self.asset, self.number_of_year, self.way) is not None

    def _rest(self):
        """What was not deducted yet."""
        first = self.special if self.number_of_year == 1 else ZERO
        return excess(self.basis, over=[self.section_179, self.before, first])

    def _base(self):
        """Of a car with a special allowance of all of it, what the first year's limit left: Rev. Proc. 2019-13, sec. 4."""
        if not self._is_car() or self.number_of_year == 1 or special_rate(self.asset, self.way) != 1:
            return self.depreciable
        first = least(self.special, excess(first_cap(self.asset, self.way), over=self.section_179))
        return excess(self.basis, over=[self.section_179, first])

    @line("9", "Limit of a passenger automobile", cites="IRC 280F(a)")
    def limit(self):
        if not self._is_car():
            return nothing_because("it is no passenger automobile")
        return share(Decimal(self.asset.business_share or 0) * _PERCENT, of=cap_of(self.asset, self.number_of_year, self.way))

    @line("10", "Special allowance of this year", cites="IRC 168(k)")
    def special_now(self):
        if not self.is_there or self.number_of_year != 1 or self._leaves():
            return nothing_because("it was not placed in service this year, or left again")
        return least(self.special, excess(self.limit, over=self.section_179)) if self._is_car() else total(self.special)

    @line("11", "Depreciation of this year", weight="total")
    def allowed(self):
        if not self._is_car():
            return total(self.of_year)
        at_once = [self.section_179, self.special_now] if self.number_of_year == 1 else []
        room = excess(self.limit, over=at_once)
        after = life_of(self.asset)
        if after is not None and self.number_of_year > after.last:
            return least(self._rest(), room)
        return least(self.of_year, room)

    @line("12", "Depreciation to the end of the year")
    def accumulated(self):
        return total(self.before, self.special_now, self.allowed)

    @line("13", "Left to be written off")
    def left(self):
        return excess(self.basis, over=[self.section_179, self.accumulated])


class Depreciation(FederalForm, WrittenOff):
    """The register's line of one asset. IRC 167, 168."""

    number, name = "Depreciation", "Depreciation of an asset"

    @line("6", "Depreciation before this year")
    def before(self):
        return total(self.asset.prior)

    @property
    def falls_now(self):
        return self.asset.has_fallen and self.asset.fell_in == self.run.year and self.is_there

    @fact("Depreciation before business use fell, with section 179", cites="IRC 280F(b)(2)(A)")
    def before_fall(self):
        if not self.falls_now or self.asset.method == "ads":
            return nothing_because("business use has not fallen to half or less this year")
        return total(self.before, self.asset.section_179)

    @fact("By the straight line", rounding=whole, cites="IRC 280F(b)(2)(B)")
    def straight_before_fall(self):
        return total(straight_before_fall(self.asset)) if self.before_fall else nothing_because("nothing is added back")

    @fact("Excess depreciation added back", cites="IRC 280F(b)(2)(A)")
    def recaptured(self):
        return excess(self.before_fall, over=self.straight_before_fall)

    @line("12", "Depreciation to the end of the year", closes=DEPRECIATION)
    def accumulated(self):
        """What was added back was not deducted."""
        expensed = total(self.asset.section_179) if self.before_fall else total(ZERO)
        return total(self.before, expensed, self.special_now, self.allowed, less=self.recaptured)

    @line("14", "Depreciation for the alternative minimum tax", cites="IRC 56(a)(1)")
    def minimum(self):
        """150% declining balance instead of 200%, unless the special allowance was taken or could not be refused."""
        slower = life_of(self.asset, MINIMUM) if self.is_there else None
        if slower is None or slower == life_of(self.asset):
            return total(self.allowed)
        amount = share(slower.rate(self.number_of_year) * _PERCENT, of=self.depreciable)
        part = share(slower.part_when_sold(self.asset.sold.month), of=amount) if self._leaves() else amount
        return least(part, self.limit) if self._is_car() else total(part)

    @fact("AMT depreciation to the end of the year", cites="IRC 56(a)(6)")
    def minimum_accumulated(self):
        """What the law gave from its first year on; where it is the same, what was entered counts."""
        if not self.is_there or life_of(self.asset, MINIMUM) == life_of(self.asset):
            return total(self.accumulated)
        return total(before_this_year(self.asset, MINIMUM), self.special_now, self.minimum)

    @fact("Quarter of the mid-quarter convention", closes=QUARTER)
    def quarter(self):
        return total(Decimal(self.asset.quarter or 0))


def fallen(run):
    """The register's lines of vehicles whose business use fell this year."""
    return [one for one in run.every("us.depreciation") if one.falls_now]


def added_back(run, key):
    """Excess depreciation of one activity's vehicles whose business use fell this year: its other income. IRC 280F(b)(2)."""
    return [one.recaptured for one in run.once(fallen) if one.asset.used_in == key]


class Section179(FederalForm):
    """Part I of Form 4562: what is elected, its limits, what waits. IRC 179."""

    number, name, worksheet = "Section 179", "Election to expense certain property", True
    needs: ClassVar[tuple[str, ...]] = (*ACTIVITIES, "k1-1065", "k1-1120s")

    def required(self):
        return self.elected > 0 or self.carried > 0

    def _eligible(self):
        return [one for one in self.every("us.depreciation") if one.is_there and one.asset.sort not in NOT_EXPENSED]

    def _this_year(self):
        return [one for one in self._eligible() if one.number_of_year == 1]

    @line("1", "Maximum amount")
    def most(self):
        return total(self.law.section_179.limit)

    @line("2", "Cost of section 179 property placed in service")
    def cost(self):
        return total([one.basis for one in self._this_year()])

    @line("3", "Threshold before the maximum is reduced")
    def threshold(self):
        return total(self.law.section_179.threshold)

    @line("4", "Reduction")
    def reduction(self):
        return excess(self.cost, over=self.threshold)

    @line("5", "Dollar limitation", cites="IRC 179(b)(1), (2), (4)")
    def dollars(self):
        """Spouses who file separately have half of it each."""
        whole = excess(self.most, over=self.reduction)
        return share(Decimal("0.5"), of=whole) if self.run.form("us.1040").status == "separate" else total(whole)

    @line("8", "Elected cost")
    def elected(self):
        return total(
            [one.section_179 for one in self._this_year()], [of_share(paper, "section_179") for paper in expensing(self.run)]
        )

    @line("9", "Tentative deduction")
    def tentative(self):
        return least(self.elected, self.dollars)

    @line("10", "Carryover of earlier years")
    def carried(self):
        own = [paper.section_179_before for kind in TRADES for paper in self.papers(kind)]
        return total(own, [paper.section_179_before for paper in expensing(self.run)])

    @line("11", "Business income limitation", cites="IRC 179(b)(3)")
    def income(self):
        """All active trades together, with shares and wages: before this deduction and without home offices."""
        active = [one.before_section_179 for one in trades(self.run) if one.books.participates is not False]
        employed = [paper for paper in self.papers("w2") if not paper.statutory_employee]  # whose pay is receipts of a trade
        wages = [paper.wages for paper in employed if paper.owner in ("taxpayer", "spouse")]
        shares = [trade_income(paper) for paper in expensing(self.run)]
        return least(excess(total(active, shares, wages), over=ZERO), self.dollars)

    @line("12", "Section 179 expense deduction", weight="total")
    def allowed(self):
        return least(total(self.tentative, self.carried), self.income)

    @line("13", "Carryover to the next year")
    def left(self):
        return excess(total(self.tentative, self.carried), over=self.allowed)


class Form4562(FederalForm):
    """Depreciation and amortization of one activity. IRC 167, 168, 179, 197."""

    number, name = "4562", "Depreciation and amortization"
    per: ClassVar[tuple[str, ...]] = ACTIVITIES
    limits = property(lambda form: form.run.form("us.section-179"))

    def assets(self):
        return self.run.once(by_activity).get(self.key, [])

    def required(self):
        """Where something begins this year, is listed, is expensed, or amortization begins. Form 4562, purpose of form."""
        fresh = any(one.number_of_year == 1 for one in self.assets())
        return fresh or self.section_179 > 0 or any(one.asset.sort in LISTED for one in self.assets())

    def _things(self, *, fresh):
        return [
            one for one in self.assets()
            if (one.number_of_year == 1) == fresh and one.asset.sort not in (*LISTED, *AMORTIZED)
        ]  # fmt: skip

    def _wanted(self):
        """Elected this year, and carried over, of this activity."""
        elected = [one.section_179 for one in self.assets() if one.number_of_year == 1]
        paper = self.run.by_key(ACTIVITIES, self.key)
        return total(elected, paper.section_179_before if paper.kind in TRADES else ZERO)

    @line("12", "Section 179 expense deduction")
    def section_179(self):
        """Of what all activities may deduct, its part of what all want."""
        wanted = self._wanted()
        if not wanted:
            return nothing_because("nothing is elected")
        all_of_it = total(self.limits.elected, self.limits.carried)
        return pro_rata(self.limits.allowed, wanted, all_of_it)

    @line("14", "Special depreciation allowance")
    def special(self):
        return total([one.special_now for one in self._things(fresh=True)])

    @line("16", "Other depreciation")
    def software(self):
        return total([total(one.special_now, one.allowed) for one in self.assets() if one.asset.sort == "software"])

    @line("17", "Assets placed in service before this year")
    def older(self):
        return total([one.allowed for one in self._things(fresh=False)])

    def _of_class(self, period):
        rows = [one for one in self._things(fresh=True) if one.asset.period == period and one.asset.method != "ads"]
        return total([one.allowed for one in rows])

    @line("19a", "3-year property")
    def three(self):
        return self._of_class("3")

    @line("19b", "5-year property")
    def five(self):
        return self._of_class("5")

    @line("19c", "7-year property")
    def seven(self):
        return self._of_class("7")

    @line("19d", "10-year property")
    def ten(self):
        return self._of_class("10")

    @line("19e", "15-year property")
    def fifteen(self):
        return self._of_class("15")

    @line("19f", "20-year property")
    def twenty(self):
        return self._of_class("20")

    @line("19h", "Residential rental property")
    def residential(self):
        return self._of_class("27.5")

    @line("19i", "Nonresidential real property")
    def nonresidential(self):
        return self._of_class("39")

    @line("20", "Alternative depreciation system")
    def alternative(self):
        return total([one.allowed for one in self._things(fresh=True) if one.asset.method == "ads"])

    @line("21", "Listed property")
    def listed(self):
        return total(self.listed_together)

    @line("22", "Total depreciation", weight="total")
    def together(self):
        return total(self.section_179, self.without_179)

    @fact("Depreciation without section 179")
    def without_179(self):
        classes = (self.three, self.five, self.seven, self.ten, self.fifteen, self.twenty, self.residential, self.nonresidential)
        return total(self.special, self.software, self.older, classes, self.alternative, self.listed)

    def _listed(self):
        return [one for one in self.assets() if one.asset.sort in LISTED]

    @line("25", "Special allowance of listed property")
    def listed_special(self):
        return total([one.special_now for one in self._listed()])

    @line("26", "Listed property used more than 50% in business")
    def mostly(self):
        return total([one.allowed for one in self._listed() if is_mostly_business(one.asset)])

    @line("27", "Listed property used 50% or less in business")
    def partly(self):
        return total([one.allowed for one in self._listed() if not is_mostly_business(one.asset)])

    @line("28", "Total of listed property")
    def listed_together(self):
        return total(self.listed_special, self.mostly, self.partly)

    @line("42", "Amortization that begins this year")
    def begun(self):
        return total([one.allowed for one in self._amortized() if one.number_of_year == 1])

    @line("43", "Amortization that began before")
    def going_on(self):
        return total([one.allowed for one in self._amortized() if one.number_of_year > 1])

    @line("44", "Total amortization", weight="total")
    def amortized(self):
        return total(self.begun, self.going_on)

    def _amortized(self):
        return [one for one in self.assets() if one.asset.sort in ("intangible", "start-up")]

    @fact("Section 179 carried over", closes=SECTION_179)
    def carried_on(self):
        """Of what may be elected at most, what income did not allow."""
        wanted, limits = self._wanted(), self.limits
        if not wanted:
            return nothing_because("nothing is elected")
        return pro_rata(limits.left, wanted, total(limits.elected, limits.carried))

    @fact("Depreciation difference for the alternative minimum tax")
    def minimum_difference(self):
        return total([one.allowed for one in self.assets()], less=[one.minimum for one in self.assets()])


FORMS = (Depreciation, Section179, Form4562)
