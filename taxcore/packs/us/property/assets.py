"""Depreciation of each asset, the convention of a year, section 179, and Form 4562 of each activity.

IRC 167, 168, 179, 195, 197, 280F.
"""

from datetime import date
from decimal import Decimal

from taxcore.engine import excess, fact, least, line, nothing_because, pro_rata, share, total
from taxcore.packs.us.balances import DEPRECIATION, QUARTER, SECTION_179
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.property.macrs import TABLES, Life, quarter_of
from taxcore.packs.us.property.papers import ACTIVITIES, AMORTIZED, BUILT, LISTED, NOT_EXPENSED

ZERO, _PERCENT = Decimal(0), Decimal("0.01")
_FULL_SPECIAL_SINCE = date.fromisoformat(TABLES.special.full_since)


def is_mostly_business(asset):
    """Of listed property only more than half in business has the general system: IRC 280F(b)."""
    return asset.sort not in LISTED or (asset.business_share or 0) > 50


def is_depreciated(asset):
    return bool(asset.sort) and asset.sort != "land" and asset.in_service is not None


def life_of(asset):
    """Its recovery period; None for land and what is amortized."""
    return asset.once(_life_of)


def _life_of(asset):
    if not is_depreciated(asset) or asset.sort in AMORTIZED or not asset.period:
        return None
    month = asset.in_service.month
    ads = asset.method == "ads" or not is_mostly_business(asset)
    if asset.period in ("27.5", "39"):
        kind = "residential" if asset.period == "27.5" else "nonresidential"
        if not ads:
            return Life(Decimal(asset.period), kind, month=month)
        older = kind == "residential" and asset.in_service.year < 2018
        return Life(Decimal(40) if older else Decimal(TABLES.classes[f"{kind}_ads"]), "building", month=month)
    if ads:
        years = Decimal(asset.ads_years or asset.period)
        return Life(years, "straight", quarter=asset.quarter or 0)
    kind = str(asset.method or "general")
    if asset.sort == "interior":
        kind = "straight"
    return Life(Decimal(asset.period), "150" if kind == "150" else kind, quarter=asset.quarter or 0)


def special_rate(asset):
    """IRC 168(k): in full what is acquired after 19 January 2025; else by the year it is placed in service."""
    if not is_depreciated(asset) or asset.no_special or asset.method == "ads" or not is_mostly_business(asset):
        return ZERO
    if asset.sort in ("intangible", "start-up") or (
        asset.sort not in AMORTIZED and Decimal(asset.period or 99) > TABLES.special.longest
    ):
        return ZERO
    if (asset.acquired or asset.in_service) >= _FULL_SPECIAL_SINCE:
        return Decimal(1)
    rates, year = TABLES.special.rates, str(asset.in_service.year)
    return Decimal(rates[year]) if year in rates else ZERO


def cap_of(asset, year):
    """The limit of a passenger automobile in a year of its life, before its business share; None where there is none."""
    caps = TABLES.automobiles
    if asset.sort != "car" or str(asset.in_service.year) not in caps:
        return None
    with_special, first, second, third, later = caps[str(asset.in_service.year)]
    if year == 1:
        return Decimal(with_special if special_rate(asset) else first)
    return Decimal({2: second, 3: third}.get(year, later))


def _whole(value):
    return Decimal(value).quantize(Decimal(1))


def _basis(asset):
    return _whole((asset.cost - asset.land) * (asset.business_share or 0) * _PERCENT) if asset.cost > asset.land else ZERO


def before_this_year(asset):
    """What the law gives a thing from its first year to the last one, when nothing else was entered."""
    if not is_depreciated(asset):
        return ZERO
    taken = ZERO
    for year in range(asset.in_service.year, asset.run.year):
        taken += sum(_of_year(asset, year, taken))
    return taken


def first_and_left(asset, until):
    """(year, basis, what is left at its end) from its first year to another one, as the law goes on without a sale."""
    if not is_depreciated(asset):
        return
    taken, basis = ZERO, _basis(asset)
    for year in range(asset.in_service.year, until + 1):
        taken += sum(_of_year(asset, year, taken))
        yield year, basis, max(basis - min(asset.section_179, basis) - taken, ZERO)


def _of_year(asset, year, taken):
    """(special allowance, the rest) of one year, limits of automobiles kept."""
    number, basis = year - asset.in_service.year + 1, _basis(asset)
    at_once = min(asset.section_179, basis)
    special = _whole(special_rate(asset) * (basis - at_once))
    if asset.sort in AMORTIZED:
        return (special if number == 1 else ZERO), _amortized(asset, basis - at_once - special, year)
    life = life_of(asset)
    if life is None:
        return ZERO, ZERO
    left = basis - at_once - special
    cap = cap_of(asset, number)
    if cap is not None:
        return _of_car(asset, life, number, basis, at_once, special, taken, _whole(cap * (asset.business_share or 0) * _PERCENT))
    return (special if number == 1 else ZERO), life.amount(left, number, max(taken - special, ZERO) if number > 1 else ZERO)


def _of_car(asset, life, number, basis, at_once, special, taken, cap):
    """The table's amount up to the limit; what the limits kept back comes after the recovery period. Where the special allowance
    was all of it, the tables go on with what the first year left: Rev. Proc. 2019-13."""
    if number == 1:
        first = min(special, max(cap - at_once, ZERO))
        return first, min(life.amount(basis - at_once - special, 1, ZERO), max(cap - at_once - first, ZERO))
    rest = max(basis - at_once - taken, ZERO)
    if number > life.last:
        return ZERO, min(rest, cap)
    whole = special_rate(asset) == 1
    base = basis - at_once - (min(special, max(_first_cap(asset) - at_once, ZERO)) if whole else special)
    return ZERO, min(_whole(base * life.rate(number) / 100), cap, rest)


def _first_cap(asset):
    return _whole((cap_of(asset, 1) or ZERO) * (asset.business_share or 0) * _PERCENT)


def _amortized(asset, basis, year):
    """By months, from that in which it begins. Of start-up costs up to 5,000 at once, less what they are above 50,000."""
    law = TABLES.amortization
    months = {"software": law.software_months, "intangible": law.intangible_months, "start-up": law.start_up_months}[
        str(asset.sort)
    ]
    first = asset.in_service.year * 12 + asset.in_service.month - 1
    passed, now = max(year * 12 - first, 0), min((year + 1) * 12 - first, int(months))
    at_once = ZERO
    if asset.sort == "start-up":
        at_once = min(basis, max(law.start_up_at_once - max(basis - law.start_up_reduced_above, ZERO), ZERO))
    count = max(now - passed, 0)
    by_month = _whole((basis - at_once) * count / Decimal(months))
    return by_month + (at_once if passed == 0 and year == asset.in_service.year else ZERO)


def quarter_of_asset(asset):
    """The quarter in which it was placed in service where the mid-quarter convention holds for what that year brought, else 0."""
    if not is_depreciated(asset) or asset.sort in (*BUILT, *AMORTIZED):
        return 0
    return quarter_of(asset.in_service.month) if asset.in_service.year in asset.run.once(_mid_quarter_years) else 0


def _counted(assets, year):
    """(asset, basis) that decide over the convention: things placed in service in a year and still there, less section 179."""
    for one in assets:
        gone = one.sold is not None and one.in_service is not None and one.sold.year == one.in_service.year
        if is_depreciated(one) and one.in_service.year == year and one.sort not in (*BUILT, *AMORTIZED) and not gone:
            yield one, _basis(one) - min(one.section_179, _basis(one))


def _mid_quarter_years(run):
    """The years whose things have the mid-quarter convention."""
    assets = run.papers("asset")
    years = {one.in_service.year for one in assets if one.in_service is not None}
    return frozenset(year for year in years if _is_mid_quarter(assets, year))


def by_activity(run):
    """{key of a business or rental: the register's lines of its assets that are in service}, found once for all lines."""
    found = {}
    for one in run.every("us.depreciation"):
        if one.is_there:
            found.setdefault(str(one.asset.used_in), []).append(one)
    return found


def _is_mid_quarter(assets, year):
    found = list(_counted(assets, year))
    late = sum((basis for one, basis in found if one.in_service.month > 9), ZERO)
    return late > TABLES.classes.mid_quarter_above * sum((basis for _, basis in found), ZERO)


class Depreciation(FederalForm):
    """The register's line of one asset: what it cost, what is written off this year, what is left. IRC 167, 168, 280F."""

    number, name, per, worksheet = "Depreciation", "Depreciation of an asset", "asset", True

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
        return least(self.asset.section_179, self.basis)

    @line("4", "Special depreciation allowance of the first year", cites="IRC 168(k)")
    def special(self):
        rate = special_rate(self.asset)
        if not rate:
            return nothing_because("it has none by its kind, its day or by election")
        return share(rate, of=excess(self.basis, over=self.section_179))

    @line("5", "Basis for depreciation")
    def depreciable(self):
        return excess(self.basis, over=[self.section_179, self.special])

    @line("6", "Depreciation before this year")
    def before(self):
        return total(self.asset.prior)

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
            return total(_amortized(self.asset, self.depreciable, self.run.year))
        life = life_of(self.asset)
        if life is None:
            return nothing_because("its recovery period is not known")
        if self._leaves():
            of_whole_year = least(share(self.rate * _PERCENT, of=self._base()), self._rest())
            return share(life.part_when_sold(self.asset.sold.month), of=of_whole_year)
        if self._is_car():
            return least(share(self.rate * _PERCENT, of=self._base()), self._rest())
        if self.number_of_year >= life.last:
            return excess(self.depreciable, over=excess(self.before, over=self.special))
        return least(share(self.rate * _PERCENT, of=self._base()), self._rest())

    def _leaves(self):
        return self.asset.sold is not None and self.asset.sold.year <= self.run.year

    def _is_car(self):
        return self.is_there and cap_of(self.asset, self.number_of_year) is not None

    def _rest(self):
        """What was not deducted yet."""
        first = self.special if self.number_of_year == 1 else ZERO
        return excess(self.basis, over=[self.section_179, self.before, first])

    def _base(self):
        """Of a car with a special allowance of all of it, what the first year's limit left: Rev. Proc. 2019-13, sec. 4."""
        if not self._is_car() or self.number_of_year == 1 or special_rate(self.asset) != 1:
            return self.depreciable
        first = least(self.special, excess(_first_cap(self.asset), over=self.section_179))
        return excess(self.basis, over=[self.section_179, first])

    @line("9", "Limit of a passenger automobile", cites="IRC 280F(a)")
    def limit(self):
        if not self._is_car():
            return nothing_because("it is no passenger automobile")
        return share(Decimal(self.asset.business_share or 0) * _PERCENT, of=cap_of(self.asset, self.number_of_year))

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

    @line("12", "Depreciation to the end of the year", closes=DEPRECIATION)
    def accumulated(self):
        return total(self.before, self.special_now, self.allowed)

    @line("13", "Left to be written off")
    def left(self):
        return excess(self.basis, over=[self.section_179, self.accumulated])

    @line("14", "Depreciation for the alternative minimum tax", cites="IRC 56(a)(1)")
    def minimum(self):
        """150% declining balance instead of 200%, unless the special allowance was taken or could not be refused."""
        life = life_of(self.asset) if self.is_there else None
        if life is None or life.kind != "general" or life.factor != 2 or self.special > 0:
            return total(self.allowed)
        slower = Life(life.years, "150", quarter=life.quarter)
        amount = share(slower.rate(self.number_of_year) * _PERCENT, of=self.depreciable)
        part = share(life.part_when_sold(self.asset.sold.month), of=amount) if self._leaves() else amount
        return least(part, self.limit) if self._is_car() else total(part)

    @fact("Quarter of the mid-quarter convention", closes=QUARTER)
    def quarter(self):
        return total(Decimal(self.asset.quarter or 0))


class Section179(FederalForm):
    """Part I of Form 4562: what is elected, its limits, what waits. IRC 179."""

    number, name, worksheet = "Section 179", "Election to expense certain property", True
    needs = ACTIVITIES

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
        return total([one.section_179 for one in self._this_year()])

    @line("9", "Tentative deduction")
    def tentative(self):
        return least(self.elected, self.dollars)

    @line("10", "Carryover of earlier years")
    def carried(self):
        return total([paper.section_179_before for paper in self.papers("business")])

    @line("11", "Business income limitation", cites="IRC 179(b)(3)")
    def income(self):
        """All active trades together, with wages: before this deduction and without home offices."""
        trades = [one.before_section_179 for one in self.every("us.sch-c") if one.books.participates is not False]
        employed = [paper for paper in self.papers("w2") if not paper.statutory_employee]  # whose pay is receipts of a trade
        wages = [paper.wages for paper in employed if paper.owner in ("taxpayer", "spouse")]
        return least(excess(total(trades, wages), over=ZERO), self.dollars)

    @line("12", "Section 179 expense deduction", weight="total")
    def allowed(self):
        return least(total(self.tentative, self.carried), self.income)

    @line("13", "Carryover to the next year")
    def left(self):
        return excess(total(self.tentative, self.carried), over=self.allowed)


class Form4562(FederalForm):
    """Depreciation and amortization of one activity. IRC 167, 168, 179, 197."""

    number, name, per = "4562", "Depreciation and amortization", ACTIVITIES
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
        return total(elected, paper.section_179_before if paper.kind == "business" else ZERO)

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
