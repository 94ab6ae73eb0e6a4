"""Schedule K-1 of each shareholder: every item by shares and days. IRC 1366(a), 1377(a)(1)."""

from taxcore.engine import line, linked, ratio, total
from taxcore.packs.us.entity.base import EntityForm, part_line, part_of
from taxcore.packs.us.entity.closing import in_parts, is_closed


def _by_days(run):
    return tuple(one.weight() for one in run.papers("shareholder"))


def weights_of(run):
    """Each shareholder's shares by days."""
    return run.once(_by_days)


class Share(EntityForm):
    """Schedule K-1 (Form 1120-S). IRC 1366, 1377(a)(1), 6037(b)."""

    number, name, per = "Schedule K-1", "Shareholder's share", "shareholder"
    schedule = linked("us.sch-k")

    def required(self):
        return True

    @property
    def holder(self):
        return self.run.by_key(("shareholder",), self.key)

    @property
    def place(self):
        return [one.key for one in self.run.papers("shareholder")].index(self.key)

    def weights(self, item, amount):
        self.holder.stakes  # noqa: B018 - what a share goes back to is this holder's own
        return weights_of(self.run)

    def parts(self, item, amount):
        """By parts of the year where all agreed to close the books, else by shares and days."""
        return in_parts(self.run, item, amount, lambda: self.weights(item, amount), self._held)

    def moved(self, item):
        """Nothing: every share has the same of every item. IRC 1361(b)(1)(D)."""
        return ()

    def _held(self, day, amount):
        return tuple(one.held_on(day) for one in self.run.papers("shareholder"))

    @line("G", "Current year allocation percentage", rounding=None)
    def percentage(self):
        """By shares and days, to six places."""
        every = sum(weights_of(self.run))
        return ratio(self.holder.weight() * 100, over=every, places=6) if every else total(0)

    ordinary = part_line("ordinary", "1", "1", "Ordinary business income (loss)", weight="total")
    rental = part_line("rental", "2", "2", "Net rental real estate income (loss)")
    interest = part_line("interest", "4", "4", "Interest income")
    dividends = part_line("dividends", "5a", "5a", "Ordinary dividends")
    qualified_dividends = part_line("qualified_dividends", "5b", "5b", "Qualified dividends")
    royalties = part_line("royalties", "6", "6", "Royalties")
    short_gain = part_line("short_gain", "7", "7", "Net short-term capital gain (loss)")
    long_gain = part_line("long_gain", "8a", "8a", "Net long-term capital gain (loss)")
    collectibles = part_line("collectibles", "8b", "8b", "Collectibles (28%) gain (loss)")
    unrecaptured = part_line("unrecaptured", "8c", "8c", "Unrecaptured section 1250 gain")
    section_1231 = part_line("section_1231", "9", "9", "Net section 1231 gain (loss)")
    section_179 = part_line("section_179", "11", "11", "Section 179 deduction")
    contributions = part_line("contributions", "12a", "12A", "Cash contributions")
    investment_interest = part_line("investment_interest", "12b", "12H", "Investment interest expense")
    portfolio_costs = part_line("portfolio_costs", "12d", "12L", "Deductions, portfolio income")
    foreign_tax = part_line("foreign_tax", "14", "14", "Foreign taxes paid or accrued")
    minimum_tax = part_line("minimum_tax", "15a", "15A", "Post-1986 depreciation adjustment")
    exempt_interest = part_line("exempt_interest", "16a", "16A", "Tax-exempt interest income")
    nondeductible = part_line("nondeductible", "16c", "16C", "Nondeductible expenses")

    @line("16D", "Distributions", cites="IRC 1368")
    def distributed(self):
        return total(self.holder.distributed, less=self.dividends_paid)

    investment_income = part_line("investment_income", "17a", "17A", "Investment income")

    @line("17c", "Dividends of accumulated earnings and profits, Form 1099-DIV", cites="IRC 1368(c)(2)")
    def dividends_paid(self):
        """In proportion to what each was distributed; it is reported on Form 1099-DIV and not here."""
        amount = self.schedule.dividends_paid
        return part_of(amount, [one.distributed for one in self.papers("shareholder")], self.place) if amount else total(0)

    def _by_shares(self, amount):
        return part_of(self.rounding(amount), weights_of(self.run), self.place) if amount else total(0)

    @line("17V1", "Qualified business income", cites="IRC 199A(c)")
    def qualified_income(self):
        if not is_closed(self.run, "1") or self.run.single("business").no_trade:
            return self._by_shares(self.schedule.qualified_income)
        return total(self.ordinary, self._by_shares(total(self.schedule.qualified_income, less=self.schedule.ordinary)))

    @line("17V2", "Section 199A W-2 wages", cites="IRC 199A(b)(4)")
    def wages_paid(self):
        return self._by_shares(self.schedule.wages_paid)

    @line("17V3", "Section 199A UBIA of qualified property", cites="IRC 199A(b)(6)")
    def property_basis(self):
        return self._by_shares(self.schedule.property_basis)
