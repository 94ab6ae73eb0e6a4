"""Capital allowances of a company, pool by pool. CAA 2001 Parts 2 and 2A; FA 2021 ss. 9 to 14 (super-deduction)."""

from datetime import date
from decimal import Decimal

from taxcore.engine import excess, fact, least, line, pro_rata, share, total
from taxcore.packs.uk.base import Page, up
from taxcore.packs.uk.company.balances import ASSETS, MAIN_POOL, SPECIAL_POOL
from taxcore.packs.uk.company.base import months_after, twelve_months_of

_SUPER_ENDED = date(2023, 4, 1)
_SHORT_LIFE = 8  # years after the period in which it was bought
ZERO = Decimal(0)
_SUPER_BEGAN = date(2021, 4, 1)
_POOLS = {"main": "main", "car": "main", "special": "special", "high": "special", "zero": "main"}


def had_first_year(row):
    """Whether plant bought before had a first-year allowance, which is charged back when it is sold: FA 2021 s. 12; CAA 2001
    s. 45Y."""
    return row.claim == "first" and row.sort in ("main", "special") and row.bought is not None and row.bought >= _SUPER_BEGAN


class PlantForm(Page):
    """Additions and disposals of the period by what is claimed for them, the pools written down, what is charged."""

    number, name, worksheet = "Plant", "Capital allowances", True
    needs = ("plant",)

    @property
    def paper(self):
        return self.run.single("plant")

    @property
    def ceased(self):
        return self.run.single("about").ceased is not None

    def added(self, *sorts, claim):
        """Costs of what was bought in the period; at the end of a trade nothing is allowed at once."""
        period, claims = self.run.period, ("none",) if self.ceased else (claim,)
        rows = [row for row in self.paper.assets if row.bought is not None and row.bought in period and row.sort in sorts]
        if claim == "none":
            rows = [row for row in rows if not self._alone(row)]
        if claim == "none" and self.ceased:
            return [row.cost for row in rows]
        return [row.cost for row in rows if row.claim in claims]

    def of_the_year(self, amount):
        """Of a period of less than twelve months as much as its days are."""
        return pro_rata(amount, Decimal(self.run.period.days), Decimal(twelve_months_of(self.run.period)))

    # Annual Investment Allowance

    @fact("Special rate plant claimed for it")
    def investment_special(self):
        return total(self.added("special", claim="investment"))

    @fact("Other plant claimed for it")
    def investment_main(self):
        return total(self.added("main", claim="investment"))

    @fact("Limit of the Annual Investment Allowance", cites="CAA 2001 ss. 51A(6), 51C")
    def limit(self):
        whole = self.of_the_year(self.law.plant.investment)
        return least(whole, self.paper.investment_share) if self.paper.is_keyed("investment_share") else total(whole)

    @fact("Plant claimed for it")
    def investment_added(self):
        return total(self.investment_special, self.investment_main)

    @line("690", "Annual Investment Allowance", cites="CAA 2001 s. 51A", rounding=up)
    def investment(self):
        most = least(self.investment_added, self.limit)
        return least(most, self.paper.investment_claim) if self.paper.is_keyed("investment_claim") else most

    @fact("Of it for special rate plant")
    def to_special(self):
        """First: the rest of it is written down by less."""
        return least(self.investment_special, self.investment)

    # First-year allowances

    def _first_rate(self, row):
        """130% while the super-deduction lasted; in a period that goes on after it, for its days alone: FA 2021 s. 10."""
        if row.bought >= _SUPER_ENDED:
            return self.law_on(row.bought).plant.first_main
        return self._super_rate(self.law_on(row.bought).plant.first_main)

    def _super_rate(self, whole):
        period = self.run.period
        if period.end < _SUPER_ENDED:
            return whole
        days = max((_SUPER_ENDED - period.start).days, 0)
        return 1 + (whole - 1) * days / period.days

    def _claimed_first(self, sort):
        if self.ceased:
            return []
        period = self.run.period
        rows = [row for row in self.paper.assets if row.bought is not None and row.bought in period]
        return [row for row in rows if row.sort == sort and row.claim == "first"]

    @line("692", "First-year allowance of plant at the main rate", cites="CAA 2001 s. 45S; FA 2021 s. 9", rounding=up)
    def first_main(self):
        return total([share(self._first_rate(row), of=row.cost) for row in self._claimed_first("main")])

    @line("694", "First-year allowance of special rate plant", cites="CAA 2001 s. 45S; FA 2021 s. 9", rounding=up)
    def first_special(self):
        return total([share(self.law.plant.first_special, of=row.cost) for row in self._claimed_first("special")])

    @line("696", "First-year allowance of electric cars", cites="CAA 2001 s. 45D", rounding=up)
    def first_cars(self):
        return total([row.cost for row in self._claimed_first("zero")])

    @fact("Cost of what has a first-year allowance")
    def first_added(self):
        return total([row.cost for sort in ("main", "special", "zero") for row in self._claimed_first(sort)])

    @fact("First-year allowances")
    def first_allowed(self):
        return total(self.first_main, self.first_special, self.first_cars)

    # Disposals

    def _alone(self, row):
        """Whether an asset has a pool of its own: by election, until eight years after the end of the period in which it was
        bought; what is left then joins the main pool in the next period. CAA 2001 ss. 83 to 86. Periods are taken to have ended
        on the same day of the year."""
        return row.sort == "main" and bool(row.short) and not had_first_year(row) and not self.has_joined(row)

    def has_joined(self, row):
        """Whether its own pool has ended before this period, so that the main pool takes what was left of it."""
        if row.bought is None:
            return False
        years = 0
        while months_after(self.run.period.end, -12 * (years + 1)) >= row.bought:
            years += 1
        return row.sort == "main" and bool(row.short) and years > _SHORT_LIFE

    def singles(self):
        """(row, what its pool has, what is allowed, what is charged, what is left) of each asset with a pool of its own."""
        found = []
        for row in self.paper.assets:
            if not self._alone(row) or row.bought is None or row.bought > self.run.period.end:
                continue
            fresh = row.bought in self.run.period
            there = total(row.cost if row.claim == "none" or self.ceased else ZERO) if fresh else total(row.left)
            if row.sold is not None and row.sold in self.run.period:
                value = least(row.proceeds, row.cost)
                found.append((row, there, up(excess(there, over=value)), excess(value, over=there), total(ZERO)))
            else:
                whole = there if self.ceased else self.of_the_year(share(self.law.plant.main, of=there))
                written = least(up(whole), there)
                found.append((row, there, written, total(ZERO), excess(there, over=written)))
        return found

    def _sold(self, pool):
        """What is brought into a pool, no more than each thing cost; half of what was half allowed in its first year."""
        found = []
        for row in self.paper.assets:
            if row.sold is None or row.sold not in self.run.period or _POOLS.get(row.sort) != pool or self._alone(row):
                continue
            value = least(row.proceeds, row.cost)
            if not had_first_year(row):
                found.append(value)
            elif row.sort == "special":
                found.append(share(1 - self.law.plant.first_special, of=value))
        return found

    @line("a", "Charged for what had a first-year allowance", cites="FA 2021 s. 12; CAA 2001 s. 45Y")
    def first_charged(self):
        """All of what full expensing allowed, 130% while the super-deduction lasted, half of special rate plant."""
        found = []
        for row in self.paper.assets:
            if row.sold is None or row.sold not in self.run.period or not had_first_year(row):
                continue
            value = least(row.proceeds, row.cost)
            whole = self.law_on(_SUPER_BEGAN).plant.first_main
            rate = self._super_rate(whole) if row.bought < _SUPER_ENDED else Decimal(1)
            found.append(share(self.law.plant.first_special if row.sort == "special" else rate, of=value))
        return total(found)

    # Main pool

    @fact("Main pool: bought")
    def main_added(self):
        """What the annual allowance did not reach, and whatever nothing else is claimed for."""
        over = excess(self.investment_main, over=excess(self.investment, over=self.to_special))
        joined = [row.left for row in self.paper.assets if self.has_joined(row)]
        return total(self.added("main", "car", "zero", claim="none"), over, joined)

    @line("b", "Main pool: before and bought")
    def main_in(self):
        return total(self.paper.main_before, self.main_added)

    @line("c", "Main pool: disposals")
    def main_out(self):
        return total(self._sold("main"))

    @line("d", "Main pool: written down", cites="CAA 2001 ss. 55, 56, 56A", rounding=up)
    def main_written(self):
        return self._written(excess(self.main_in, over=self.main_out), self.law.plant.main, "main_claim")

    @fact("Main pool: charged", cites="CAA 2001 s. 55(3)")
    def main_charged(self):
        return excess(self.main_out, over=self.main_in)

    @line("e", "Main pool: carried forward", closes=MAIN_POOL)
    def main_after(self):
        return excess(self.main_in, over=[self.main_out, self.main_written])

    # Special rate pool

    @fact("Special rate pool: bought")
    def special_added(self):
        """The half of special rate plant that its first year did not allow joins it when that has ended."""
        over = excess(self.investment_special, over=self.to_special)
        return total(self.added("special", "high", claim="none"), over)

    @line("f", "Special rate pool: before and bought")
    def special_in(self):
        return total(self.paper.special_before, self.special_added)

    @line("g", "Special rate pool: disposals")
    def special_out(self):
        return total(self._sold("special"))

    @line("h", "Special rate pool: written down", cites="CAA 2001 s. 104D", rounding=up)
    def special_written(self):
        return self._written(excess(self.special_in, over=self.special_out), self.law.plant.special, "special_claim")

    @fact("Special rate pool: charged", cites="CAA 2001 s. 55(3)")
    def special_charged(self):
        return excess(self.special_out, over=self.special_in)

    @line("i", "Special rate pool: carried forward", closes=SPECIAL_POOL)
    def special_after(self):
        """With the half of special rate plant that its first year did not allow: CAA 2001 s. 58(5)."""
        return total(excess(self.special_in, over=[self.special_out, self.special_written]), self.special_half)

    @fact("Half of special rate plant, for the next period")
    def special_half(self):
        return excess([row.cost for row in self._claimed_first("special")], over=self.first_special)

    @fact("Special rate pool: bought, with that half")
    def special_joined(self):
        return total(self.special_added, self.special_half)

    def _written(self, pool, rate, less):
        if self.ceased:
            return total(pool)
        small = pool <= self.of_the_year(self.law.plant.small_pool)
        whole = total(pool) if small else self.of_the_year(share(rate, of=pool))
        return least(whole, getattr(self.paper, less)) if self.paper.is_keyed(less) else total(whole)

    # Single-asset pools each

    @fact("Single-asset pools: before")
    def single_before(self):
        return total([there for row, there, _, _, _ in self.singles() if row.bought not in self.run.period])

    @fact("Single-asset pools: bought")
    def single_added(self):
        return total([there for row, there, _, _, _ in self.singles() if row.bought in self.run.period])

    @line("j", "Single-asset pools: before and bought", cites="CAA 2001 s. 86")
    def single_in(self):
        return total(self.single_before, self.single_added)

    @line("k", "Single-asset pools: disposals")
    def single_out(self):
        rows = [row for row, *_ in self.singles() if row.sold is not None and row.sold in self.run.period]
        return total([least(row.proceeds, row.cost) for row in rows])

    @line("l", "Single-asset pools: written down", rounding=None)
    def single_written(self):
        return total([written for _, _, written, _, _ in self.singles()])

    @fact("Single-asset pools: charged")
    def single_charged(self):
        return total([charged for _, _, _, charged, _ in self.singles()])

    @line("m", "Single-asset pools: carried forward", rounding=None)
    def single_after(self):
        return total([left for *_, left in self.singles()])

    # Buildings

    @line("711", "Structures and buildings allowance", cites="CAA 2001 s. 270AA", rounding=up)
    def buildings(self):
        return total([self._of_building(row) for row in self.paper.buildings if row.since is not None])

    def _of_building(self, row):
        period = self.run.period
        first, last = max(period.start, row.since), min(period.end, row.until or period.end)
        days = max((last - first).days + 1, 0)
        year = share(self.law.plant.buildings, of=row.cost)
        return pro_rata(year, Decimal(days), Decimal(twelve_months_of(period)))

    # Together

    @line("n", "Allowances", weight="total")
    def allowances(self):
        firsts = (self.first_main, self.first_special, self.first_cars)
        return total(self.investment, firsts, self.main_written, self.special_written, self.single_written, self.buildings)

    @line("o", "Balancing charges", weight="total", cites="CAA 2001 s. 55(3)")
    def charges(self):
        return total(self.first_charged, self.main_charged, self.special_charged, self.single_charged)

    @fact("Plant and cars kept", closes=ASSETS, by_origin="assets_kept")
    def kept(self):
        return total(len(self.assets_kept()))

    def assets_kept(self):
        """Rows of the next period's table: what was not sold."""
        names = ("what", "sort", "bought", "cost", "used", "claim", "short")
        rows = [row for row in self.paper.assets if row.sold is None and not self.ceased]
        alone = {row.key: left for row, *_, left in self.singles()}
        made = [{name: str(row.entered[name]) for name in names if row.is_keyed(name)} for row in rows]
        for one, row in zip(made, rows, strict=True):
            if row.key in alone:
                one["left"] = str(alone[row.key])
            elif self.has_joined(row):
                del one["short"]  # what was left of it is in the main pool
        return made
