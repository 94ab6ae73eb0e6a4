"""Sales of business property: each one's gain by kind, Form 4797, and what goes where. IRC 1231, 1245, 1250."""

from datetime import timedelta
from decimal import Decimal

from taxcore.engine import excess, fact, least, line, nothing_because, share, total, whole
from taxcore.packs.us.balances import SECTION_1231
from taxcore.packs.us.base import FederalForm
from taxcore.packs.us.basis.limits import of_share
from taxcore.packs.us.carried import as_rows
from taxcore.packs.us.papers.shares import KINDS as SHARES
from taxcore.packs.us.property.assets import fallen
from taxcore.packs.us.property.exchanges import exchanged_assets, exchanged_gains
from taxcore.packs.us.property.installments import gains
from taxcore.packs.us.property.lives import is_held_longer, straight_to_the_sale
from taxcore.packs.us.property.papers import ANIMALS, BUILT

ZERO, _PERCENT, _YEARS = Decimal(0), Decimal("0.01"), 5


def is_sold(asset, year):
    """Sold or retired in that year; what was exchanged for property of like kind is on Form 8824."""
    gone = asset.sold is not None and asset.sold.year == year and asset.in_service is not None and bool(asset.sort)
    return gone and asset.key not in asset.run.once(exchanged_assets)


def _is_long(asset):
    """Held for more than a year; of animals a year is enough, of cattle and horses two. IRC 1222, 1231(a)(3), (b)(3)."""
    first = asset.acquired or asset.in_service
    if asset.sort not in ANIMALS:
        return is_held_longer(first, asset.sold)
    return is_held_longer(first, asset.sold + timedelta(1), years=2 if asset.sort == "cattle" else 1)


class Sale(FederalForm):
    """One asset that was sold: lines 20 to 26 of Form 4797. IRC 1001, 1016, 1245, 1250."""

    number, name, per, worksheet = "Sale of property", "Sale of an asset", "asset", True

    @classmethod
    def keys(cls, run):
        """Of hundreds of assets few are sold."""
        return [one.key for one in run.papers("asset") if is_sold(one, run.year)]

    @property
    def asset(self):
        return self.run.by_key(("asset",), self.key)

    @property
    def register(self):
        return self.run.form("us.depreciation", self.key)

    def required(self):
        return False

    @property
    def is_there(self):
        return is_sold(self.asset, self.run.year)

    @property
    def is_long(self):
        return self.is_there and _is_long(self.asset)

    @property
    def is_built(self):
        return self.asset.sort in BUILT

    def _of_business(self, amount):
        return share(Decimal(self.asset.business_share or 0) * _PERCENT, of=amount)

    @line("20", "Gross sales price")
    def price(self):
        return self._of_business(self.asset.sold_for) if self.is_there else nothing_because("it was not sold this year")

    @line("21", "Cost or other basis with expense of sale")
    def cost(self):
        return (
            self._of_business(total(self.asset.cost, self.asset.costs))
            if self.is_there
            else nothing_because("it was not sold this year")
        )

    @line("22", "Depreciation allowed or allowable")
    def depreciation(self):
        return (
            total(self.register.accumulated, self.register.section_179)
            if self.is_there
            else nothing_because("it was not sold this year")
        )

    @line("23", "Adjusted basis")
    def basis(self):
        return excess(self.cost, over=self.depreciation)

    @line("24", "Total gain", weight="total")
    def gain(self):
        return total(self.price, less=self.basis)

    @property
    def is_written_off(self):
        """Land is not, nor an animal that was raised: what it cost was deducted."""
        return self.asset.sort != "land" and self.cost > 0

    @property
    def is_improvement(self):
        """Written off faster than by the straight line, and no section 1245 property: 26 CFR 1.1245-1, IRC 1245(a)(3)."""
        return self.asset.sort in ("improvement", "interior", "farm-building")

    @line("25b", "Gain of section 1245 property that is ordinary", cites="IRC 1245(a)")
    def ordinary(self):
        if self.is_built or self.is_improvement or self.asset.sort == "land":
            return nothing_because("it is no section 1245 property")
        return least(excess(self.gain, over=ZERO), self.depreciation)

    @line("26a", "Additional depreciation", cites="IRC 1250(b)(1)")
    def additional(self):
        """Above the straight line; all of it of a thing held a year or less."""
        if not self.is_there or not self.is_improvement:
            return nothing_because("buildings have been written off by the straight line since 1987")
        if not self.is_long:
            return total(self.depreciation)
        return excess(self.depreciation, over=straight_to_the_sale(self.asset))

    @line("26g", "Gain of section 1250 property that is ordinary", cites="IRC 1250(a)")
    def additional_gain(self):
        return least(excess(self.gain, over=ZERO), self.additional)

    @property
    def is_in_parts(self):
        """Whether its price is paid over years: Form 6252 has the gain that is not ordinary at once. A loss is deducted here."""
        mine = [paper for paper in self.papers("installment") if paper.asset == self.key and paper.sold is not None]
        return self.gain > 0 and any(paper.sold.year == self.year for paper in mine)

    @fact("Excluded gain of a main home", cites="IRC 121")
    def excluded(self):
        """Where all of it was let when it was sold, and it had been somebody's home."""
        mine = [one for one in self.every("us.home-sale") if one.paper.asset == self.key and one.is_this_year]
        return total([one.exclusion for one in mine])

    @fact("Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def unrecaptured(self):
        return nothing_because("its price is paid over years") if self.is_in_parts else total(self.unrecaptured_in_all)

    @fact("Unrecaptured section 1250 gain of the whole price", cites="IRC 1(h)(6)")
    def unrecaptured_in_all(self):
        if not (self.is_built or self.is_improvement) or not self.is_long:
            return nothing_because("it is no building held for more than a year")
        left = excess(self.gain, over=[self.additional_gain, self.excluded])
        return least(left, excess(self.depreciation, over=self.additional))

    @fact("AMT gain less regular gain", cites="IRC 56(a)(6)")
    def minimum_difference(self):
        """Its basis is larger by what it did not write off yet. What it takes off more of is ordinary income in both."""
        if not self.is_there:
            return nothing_because("it was not sold this year")
        return total(self.register.minimum_accumulated, less=self.register.accumulated)

    @fact("Gain or loss less ordinary gain")
    def rest(self):
        if self.is_in_parts:
            return nothing_because("its price is paid over years")
        return total(self.gain, less=[self.ordinary, self.additional_gain, self.excluded])

    @fact("Gain of this year")
    def recognized(self):
        return total(self.ordinary, self.additional_gain, self.rest)


class Form4797(FederalForm):
    """Sales of business property. IRC 1231(a), (c), 1245, 1250."""

    number, name = "4797", "Sales of business property"
    needs = ("asset", "installment", "exchange", *SHARES)

    @property
    def before(self):
        return self.run.single("section-1231")

    def _sold(self, *, long):
        return [one for one in self.every("us.sale-of-property") if one.is_there and one.is_long == long]

    def required(self):
        parts = (self.in_parts, self.in_parts_short, self.exchanged, self.exchanged_short)
        sold = self._sold(long=True) or self._sold(long=False) or any(parts)
        return bool(sold) or self.shares != 0 or self.added_back > 0

    @fact("Section 1231 gain or loss of shares")
    def shares(self):
        return total([of_share(paper, "section_1231") for kind in ("k1-1065", "k1-1120s") for paper in self.papers(kind)])

    @line("2", "Held more than a year: losses, nondepreciable property, K-1s")
    def plain(self):
        mine = [one.rest for one in self._sold(long=True) if one.gain < 0 or not one.is_written_off]
        return total(mine, self.shares)

    @line("4", "Section 1231 gain of installment sales")
    def in_parts(self):
        return total(gains(self.run, long=True, capital=False))

    @line("5", "Section 1231 gain of like-kind exchanges")
    def exchanged(self):
        return total(exchanged_gains(self.run, long=True, capital=False))

    @line("6", "Gain from line 32, other than casualty or theft")
    def gains(self):
        return total([one.rest for one in self._sold(long=True) if one.gain >= 0 and one.is_written_off])

    @line("7", "Net section 1231 gain or (loss)", weight="total")
    def net(self):
        return total(self.plain, self.in_parts, self.exchanged, self.gains)

    @line("8", "Nonrecaptured section 1231 losses of the last five years", cites="IRC 1231(c)")
    def earlier(self):
        return total([row.amount for row in self._rows()])

    def _rows(self):
        """Losses that still count, the oldest first."""
        rows = [row for row in self.before.rows if row.from_year is not None and self.year - _YEARS <= row.from_year < self.year]
        return sorted(rows, key=lambda row: row.from_year)

    @line("9", "Line 7 less line 8")
    def above(self):
        return excess(self.net, over=self.earlier) if self.net > 0 else nothing_because("there is no gain")

    @line("10", "Property held one year or less")
    def short(self):
        return total([one.rest for one in self._sold(long=False)])

    @line("11", "Loss, if any, from line 7")
    def loss(self):
        return least(total(self.net), ZERO)

    @line("12", "Gain recaptured as ordinary income")
    def recaptured(self):
        return least(excess(self.net, over=ZERO), self.earlier)

    @line("13", "Ordinary gain of part III")
    def by_kind(self):
        return total([total(one.ordinary, one.additional_gain) for one in (*self._sold(long=True), *self._sold(long=False))])

    @line("15", "Ordinary gain of installment sales")
    def in_parts_short(self):
        return total(gains(self.run, long=False, capital=False))

    @line("16", "Ordinary gain of like-kind exchanges")
    def exchanged_short(self):
        return total(exchanged_gains(self.run, long=False, capital=False))

    @line("17", "Lines 10 through 16 combined")
    def together(self):
        parts = (self.in_parts_short, self.exchanged_short)
        return total(self.short, self.loss, self.recaptured, self.by_kind, parts)

    @line("18b", "Ordinary gain or (loss)", weight="total")
    def ordinary(self):
        return total(self.together)

    def _fallen(self):
        return self.run.once(fallen)

    @line("33", "Section 179 and depreciation allowable in prior years", cites="IRC 280F(b)(2)")
    def before_fall(self):
        return total([one.before_fall for one in self._fallen()])

    @line("34", "Recomputed depreciation")
    def straight_before_fall(self):
        return total([one.straight_before_fall for one in self._fallen()])

    @line("35", "Recapture amount", weight="total")
    def added_back(self):
        return total([one.recaptured for one in self._fallen()])

    @fact("Long-term gain for Schedule D")
    def long_gain(self):
        return total(self.above)

    @fact("Unrecaptured section 1250 gain for Schedule D")
    def unrecaptured(self):
        """No more than the gain of line 7, less what earlier losses took. Its worksheet, lines 1 to 9."""
        papers = (*self.every("us.6252"), *self.every("us.8824"))
        parts = [one.unrecaptured for one in papers if one.paper.sort != "capital"]
        found = total([one.unrecaptured for one in self._sold(long=True)], parts)
        return excess(least(found, excess(self.net, over=ZERO)), over=self.earlier)

    def of_activity(self, key):
        """Gains and losses of one business or rental, however they are taxed."""
        sold = [one.recognized for one in self.every("us.sale-of-property") if one.is_there and one.asset.used_in == key]
        things = [one for one in self.every("us.8824") if one.paper.thing is not None and one.paper.thing.used_in == key]
        return total(sold, [one.gain for one in things])

    def ordinary_of(self, key):
        """What is ordinary by kind, and of things held a year or less, of one activity."""
        mine = [one for one in self.every("us.sale-of-property") if one.is_there and one.asset.used_in == key]
        return total(
            [one.ordinary for one in mine], [one.additional_gain for one in mine], [one.rest for one in mine if not one.is_long]
        )

    @fact(
        "Losses that are not recaptured yet",
        closes=SECTION_1231,
        by_origin="left_by_year",
        rounding=whole,
        used="used",
        expired="expired",
    )
    def left(self):
        return total([Decimal(row["amount"]) for row in self.left_by_year()])

    @fact("Losses recaptured", rounding=whole)
    def used(self):
        return total(self.recaptured)

    @fact("Losses that end with this year", rounding=whole)
    def expired(self):
        return total([amount for year, amount in self._after() if year <= self.year - _YEARS])

    def _after(self):
        gone, found = Decimal(self.recaptured), []
        for row in self._rows():
            found.append((row.from_year, whole(max(row.amount - gone, ZERO))))
            gone = max(gone - row.amount, ZERO)
        return [*found, (self.year, -Decimal(self.loss))]

    def left_by_year(self):
        """Rows of the next year, the oldest first: a loss counts in the five years after its own."""
        return as_rows(one for one in self._after() if one[0] > self.year - _YEARS)


FORMS = (Sale, Form4797)
