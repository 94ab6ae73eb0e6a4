"""Sale of the main home: what of the gain is left out, and what is not. IRC 121; 26 CFR 1.121-1 to -4."""

from decimal import Decimal

from taxcore.engine import (
    Amount,
    Choice,
    Count,
    Day,
    Flag,
    Refer,
    Text,
    excess,
    fact,
    least,
    line,
    nothing_because,
    pro_rata,
    ratio,
    share,
    total,
)
from taxcore.packs.us.base import STATES, FederalForm, FederalPaper
from taxcore.packs.us.property.lives import is_held_longer

ZERO, _PERCENT, _MONTHS = Decimal(0), Decimal("0.01"), 24
REASONS = {"work": "Change of place of work", "health": "Health", "event": "Unforeseen circumstances"}


class HomeSale(FederalPaper):
    """The house, flat or boat somebody lived in and sold. IRC 121."""

    kind, name, official, group = "home-sale", "Sale of the main home", "Form 8949", "property"
    joint_owner = True
    short, heading, main = "Home sold", "address_line", "price"

    address_line = Text(None, "Address", longest=60, wide=True, needed="Form 8949 describes it.")
    state = Choice(None, "State", STATES, needed="The state where it lies taxes the gain.")
    acquired = Day(None, "Date acquired", needed="How long it was owned decides.")
    sold = Day(None, "Date sold", needed="The exclusion is of the year of the sale.")
    statement = Flag(None, "Form 1099-S received", help="The sale is then reported, taxed or not.")
    part = Count(None, "Home's share of the building, percent", most=100, help="If empty, 100. A rented part is an asset.")

    asset = Refer(None, "Asset, if rented when sold", ("asset",), optional=True,
                  help="Its figures are used, and Form 4797 instead of Form 8949.")  # fmt: skip

    price = Amount(None, "Selling price", begins="Gain")
    costs = Amount(None, "Expenses of sale")
    cost = Amount(None, "Cost or other basis when acquired", cites="IRC 1012, 1014")
    improvements = Amount(None, "Improvements")
    decreases = Amount(None, "Decreases of basis", help="Casualty losses deducted, energy credits, points paid by the seller.")
    depreciation = Amount(
        None,
        "Depreciation after May 6, 1997",
        cites="IRC 121(d)(6)",
        help="For a home office, or a period of rental.",
    )

    owned_months = Count(None, "Months owned of the last 60", most=60, begins="Tests", needed="Twenty-four are asked for.")
    used_months = Count(None, "Months used as main home, of the last 60", most=60, needed="Twenty-four are asked for.")
    spouse_months = Count(None, "Months used by the spouse, of the last 60", most=60, help="On a joint return.")
    excluded_months = Count(None, "Months since the last exclusion", most=600, help="If ever.")
    reason = Choice(None, "Reason for a reduced exclusion", REASONS, cites="IRC 121(c)")
    other_days = Count(None, "Days of nonqualified use since 2009", most=20000, cites="IRC 121(b)(5)",
                       help="Not those after it was last the main home.")  # fmt: skip

    @part.when_empty
    def _part(self):
        return 100

    @property
    def sale(self):
        """Of the asset that it is, where all of it was let; else None."""
        known = self.asset and self.run.by_key(("asset",), self.asset) is not None
        form = self.run.form("us.sale-of-property", self.asset) if known else None
        return form if form is not None and form.is_there else None

    @price.when_empty
    def _price(self):
        return self.sale.price if self.sale is not None else None

    @cost.when_empty
    def _cost(self):
        return self.sale.cost if self.sale is not None else None

    @depreciation.when_empty
    def _depreciation(self):
        return self.sale.depreciation if self.sale is not None else None


class SaleOfHome(FederalForm):
    """The gain of one home. IRC 121(a), (b), (c), (d)(6)."""

    number, name, per, worksheet = "Home sale", "Sale of the main home", "home-sale", True

    @property
    def paper(self):
        return self.run.by_key(("home-sale",), self.key)

    def required(self):
        return self.is_this_year

    @property
    def is_this_year(self):
        return self.paper.sold is not None and self.paper.sold.year == self.year

    def _mine(self, amount):
        return share(Decimal(self.paper.part or 0) * _PERCENT, of=amount)

    @line("1", "Selling price")
    def proceeds(self):
        return self._mine(self.paper.price)

    @line("2", "Basis with expenses of sale")
    def basis(self):
        paper = self.paper
        own = total(paper.cost, paper.improvements, paper.costs, less=paper.decreases)
        return excess(self._mine(own), over=paper.depreciation)

    @line("3", "Gain or (loss)", weight="total")
    def whole_gain(self):
        return total(self.proceeds, less=self.basis)

    @line("4", "Gain from depreciation, not excludable", cites="IRC 121(d)(6)")
    def of_depreciation(self):
        return least(excess(self.whole_gain, over=ZERO), self.paper.depreciation)

    @line("5", "Nonqualified use, share of ownership", rounding=None, cites="IRC 121(b)(5)")
    def other_part(self):
        first, sold = self.paper.acquired, self.paper.sold
        if first is None or sold is None or sold <= first:
            return nothing_because("the days are not entered")
        return least(ratio(Decimal(self.paper.other_days or 0), over=Decimal((sold - first).days), places=4), 1)

    @line("6", "Gain allocated to nonqualified use")
    def of_other_time(self):
        return share(self.other_part, of=excess(self.whole_gain, over=self.of_depreciation))

    @line("7", "Gain eligible for exclusion")
    def eligible(self):
        return excess(self.whole_gain, over=[self.of_depreciation, self.of_other_time])

    @fact("Months that count", cites="IRC 121(a), (b)(3), (c)")
    def months(self):
        """The shortest of ownership, use and the time since another home."""
        return self._shortest(self.paper.used_months)

    @fact("Months of the spouse", cites="IRC 121(b)(2)(A)")
    def spouse_months(self):
        """Ownership of one of them is enough."""
        if self.run.form("us.1040").status != "joint":
            return nothing_because("the return is not joint")
        return self._shortest(self.paper.spouse_months)

    def _shortest(self, used):
        paper = self.paper
        since = _MONTHS if paper.excluded_months is None else paper.excluded_months
        return total(Decimal(min(paper.owned_months or 0, used or 0, since, _MONTHS)))

    @line("8", "Maximum exclusion", cites="IRC 121(b)(1), (2), (c)")
    def most(self):
        """250,000 for each spouse who meets the tests; with a reason a part of it by months."""
        return total(self._most_of(self.months), self._most_of(self.spouse_months))

    def _most_of(self, months):
        each = self.law.home_sale.alone
        if months >= _MONTHS:
            return total(each)
        return pro_rata(each, months, _MONTHS) if self.paper.reason else total(ZERO)

    @line("9", "Exclusion", weight="total")
    def exclusion(self):
        return least(self.eligible, self.most)

    @line("10", "Taxable gain", weight="total")
    def gain_taxed(self):
        """A loss on a home is nobody's deduction: IRC 165(c)."""
        return excess(self.whole_gain, over=self.exclusion)

    @fact("Unrecaptured section 1250 gain", cites="IRC 1(h)(6)")
    def unrecaptured(self):
        return total(self.of_depreciation) if self.is_reported and self.is_long else total(ZERO)

    @property
    def is_long(self):
        first, sold = self.paper.acquired, self.paper.sold
        return first is not None and sold is not None and is_held_longer(first, sold)

    @property
    def is_reported(self):
        """On Form 8949: where some of it is taxed, or a statement says that it was sold."""
        return self.is_this_year and not self.paper.asset and (self.gain_taxed > 0 or bool(self.paper.statement))

    @property
    def box(self):
        """Of Form 8949: no broker reported it."""
        return "F" if self.is_long else "C"

    @property
    def adjustment(self):
        """Column g: what is left out, or the loss that does not count."""
        lost = excess(ZERO, over=self.whole_gain)
        return total(lost, less=self.exclusion)

    def is_keyed(self, name):
        """As a row of a broker is asked."""
        return name == "adjustment"


def reported(run):
    """Homes that are rows of Form 8949."""
    return [one for one in run.every("us.home-sale") if one.is_reported]
