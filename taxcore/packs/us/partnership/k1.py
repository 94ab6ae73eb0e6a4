"""Schedule K-1 of each partner: items divided so that the parts are the whole, capital on the tax basis, liabilities."""

from taxcore.engine import excess, fact, line, linked, nothing_because, total
from taxcore.packs.us.entity.balances import BUILT_IN, NONRECOURSE, PARTNER_CAPITAL, QUALIFIED, RECOURSE
from taxcore.packs.us.entity.base import ZERO, EntityForm, part_line, part_of
from taxcore.packs.us.entity.closing import in_parts, is_closed
from taxcore.packs.us.partnership.adjusted import effect_on, left_of
from taxcore.packs.us.partnership.papers import percent

_NET = ("ordinary", "rental", "interest", "dividends", "royalties", "short_gain", "long_gain", "section_1231", "exempt_interest")
_LESS = ("section_179", "contributions", "investment_interest", "portfolio_costs", "foreign_tax", "nondeductible")


def _by_days(which):
    return lambda run: tuple(partner.weight(which) for partner in run.papers("partner"))


_BY_DAYS = {which: _by_days(which) for which in ("profit", "loss")}  # asked of a return once, not for each line of each partner


def _agreed(run):
    """Parts by item, where the agreement says otherwise."""
    partners, found = run.papers("partner"), {}
    for paper in run.papers("allocation"):
        if paper.item and paper.rows:
            given = {row.partner: percent(row.part) for row in paper.rows}
            found.setdefault(paper.item, tuple(given.get(partner.key, ZERO) for partner in partners))
    return found


def _built_in(run):
    """{(item, partner): whole dollars moved because of what a partner contributed}."""
    found = {}
    for paper in run.papers("built-in"):
        for row in paper.rows:
            if paper.item and row.amount:
                found.setdefault((paper.item, row.partner), []).append(row.amount)
    return found


def weights_of(run, item, amount):
    """Each partner's weight in an item: by the agreement where it says otherwise, else profit or loss percentages by days."""
    agreed = run.once(_agreed)
    return agreed[item] if item in agreed else run.once(_BY_DAYS["loss" if amount < 0 else "profit"])


def _profit_at_end(run):
    return tuple(one.at("profit", end=True) for one in run.papers("partner"))


def _losses_borne(run):
    """Loss percentages at the end of general partners; where there are none, of all."""
    partners = run.papers("partner")
    bears = [bool(one.general) for one in partners]
    every = not any(bears)
    return tuple(one.at("loss", end=True) if every or counts else ZERO for one, counts in zip(partners, bears, strict=True))


def _adjusted(item, label):
    """What section 743(b) does to one item of this partner."""
    return fact(label)(lambda form: effect_on(form.run, item, form.key))


class Share(EntityForm):
    """Schedule K-1 (Form 1065). IRC 702, 704, 706, 752."""

    number, name, per = "Schedule K-1", "Partner's share", "partner"
    schedule = linked("us.sch-k")
    page = linked("us.1065")

    def required(self):
        return True

    @property
    def partner(self):
        return self.run.by_key(("partner",), self.key)

    @property
    def place(self):
        return [one.key for one in self.run.papers("partner")].index(self.key)

    def weights(self, item, amount):
        self.partner.stakes  # noqa: B018 - what a share goes back to is this partner's percentages
        return weights_of(self.run, item, amount)

    def parts(self, item, amount):
        """By the agreement where it says otherwise, by parts of the year where the books were closed, else by days."""
        if item in self.run.once(_agreed):
            return ((amount, self.weights(item, amount)),)
        return in_parts(self.run, item, amount, lambda: self.weights(item, amount), self._held)

    def moved(self, item):
        """What section 704(c) moves to or from this partner."""
        return self.run.once(_built_in).get((item, self.key), ())

    def _held(self, day, amount):
        which = "loss" if amount < 0 else "profit"
        return tuple(one.held_on(which, day) for one in self.run.papers("partner"))

    @fact("Is an individual who takes part")
    def is_self_employed(self):
        return self.partner.sort == "individual"

    def _of(self, name):
        return total(getattr(self.partner, name))

    ordinary = part_line("ordinary", "1", "1", "Ordinary business income (loss)", weight="total")
    rental = part_line("rental", "2", "2", "Net rental real estate income (loss)")

    @line("4a", "Guaranteed payments for services")
    def services(self):
        return self._of("services")

    @line("4b", "Guaranteed payments for capital")
    def for_capital(self):
        return self._of("for_capital")

    @line("4c", "Total guaranteed payments")
    def guaranteed(self):
        return total(self.services, self.for_capital)

    interest = part_line("interest", "5", "5", "Interest income")
    dividends = part_line("dividends", "6a", "6a", "Ordinary dividends")
    qualified_dividends = part_line("qualified_dividends", "6b", "6b", "Qualified dividends")
    royalties = part_line("royalties", "7", "7", "Royalties")
    short_gain = part_line("short_gain", "8", "8", "Net short-term capital gain (loss)")
    long_gain = part_line("long_gain", "9a", "9a", "Net long-term capital gain (loss)")
    collectibles = part_line("collectibles", "9a", "9b", "Collectibles (28%) gain (loss)")
    unrecaptured = part_line("unrecaptured", "9c", "9c", "Unrecaptured section 1250 gain")
    section_1231 = part_line("section_1231", "10", "10", "Net section 1231 gain (loss)")
    section_179 = part_line("section_179", "12", "12", "Section 179 deduction")
    contributions = part_line("contributions", "13a", "13A", "Cash contributions")
    investment_interest = part_line("investment_interest", "13b", "13H", "Investment interest expense")
    portfolio_costs = part_line("portfolio_costs", "13d", "13L", "Deductions, portfolio income")

    # Section 743(b): of this partner alone, and no part of capital

    adjusted_business = _adjusted("1", "Section 743(b), business")
    adjusted_rental = _adjusted("2", "Section 743(b), rental real estate")
    adjusted_long_gain = _adjusted("9a", "Section 743(b), long-term capital gain")
    adjusted_1231 = _adjusted("10", "Section 743(b), section 1231 gain")

    @fact("Section 743(b), of what is qualified business income", cites="IRC 199A(c)(1)")
    def adjusted_of_trades(self):
        """Of the business, and of rentals where all of them are trades."""
        let = self.papers("rental")
        business = () if self.run.single("business").no_trade else self.adjusted_business
        return total(business, self.adjusted_rental if let and all(one.is_trade for one in let) else ())

    @fact("Section 743(b), all of it")
    def adjusted(self):
        return total(self.adjusted_business, self.adjusted_rental, self.adjusted_long_gain, self.adjusted_1231)

    @line("11F", "Section 743(b) positive adjustments", cites="26 CFR 1.743-1(j)(2)")
    def adjusted_up(self):
        return excess(self.adjusted, over=0)

    @line("13V", "Section 743(b) negative adjustments", cites="26 CFR 1.743-1(j)(2)")
    def adjusted_down(self):
        return excess(0, over=self.adjusted)

    @line("14A", "Net earnings (loss) from self-employment", cites="IRC 1402(a), (a)(13)")
    def self_employment(self):
        """Of whoever takes part: the share of the business without gains of Form 4797, as section 743(b) adjusts it, and what is
        guaranteed; of others what is guaranteed for services."""
        if not self.is_self_employed:
            return nothing_because("the partner is no individual")
        if not self.partner.active:
            return total(self.services)
        gains = self.page.gains
        of_gains = part_of(gains, self.weights("1", gains), self.place) if gains else ZERO
        return total(self.ordinary, self.adjusted_business, self.guaranteed, less=of_gains)

    @line("14C", "Gross nonfarm income")
    def gross_nonfarm(self):
        if not self.is_self_employed or not self.partner.active:
            return nothing_because("the partner takes no part in it")
        amount = self.schedule.gross_nonfarm
        return part_of(amount, self.weights("1", amount), self.place) if amount else total(ZERO)

    minimum_tax = part_line("minimum_tax", "1", "17A", "Post-1986 depreciation adjustment")
    exempt_interest = part_line("exempt_interest", "18a", "18A", "Tax-exempt interest income")
    nondeductible = part_line("nondeductible", "18c", "18C", "Nondeductible expenses")

    @line("19A", "Distributions of cash and marketable securities")
    def distributed(self):
        return self._of("distributed")

    @line("19C", "Distributions of other property")
    def distributed_property(self):
        return self._of("distributed_property")

    investment_income = part_line("investment_income", "5", "20A", "Investment income")

    def _by_business(self, amount):
        return part_of(amount, self.weights("1", self.schedule.ordinary), self.place) if amount else total(ZERO)

    @line("20Z1", "Qualified business income", cites="IRC 199A(c)")
    def qualified_income(self):
        amount, moved = self.rounding(self.schedule.qualified_income), self.moved("1")
        if self.adjusted_of_trades:
            moved = (*moved, self.adjusted_of_trades)
        if self.run.single("business").no_trade:
            return self._by_business(amount)
        if not is_closed(self.run, "1"):
            return total(self._by_business(amount), moved) if moved else self._by_business(amount)
        rest = total(amount, less=self.schedule.ordinary)
        own = (self.ordinary, self.adjusted_of_trades)
        return total(own, part_of(rest, self.weights("2", rest), self.place) if rest else ZERO)

    @line("20Z2", "Section 199A W-2 wages", cites="IRC 199A(b)(4)")
    def wages_paid(self):
        return self._by_business(self.rounding(self.schedule.wages_paid))

    @line("20Z3", "Section 199A UBIA of qualified property", cites="IRC 199A(b)(6)")
    def property_basis(self):
        return self._by_business(self.rounding(self.schedule.property_basis))

    @line("20U", "Section 743(b) basis adjustment", cites="26 CFR 1.743-1(k)")
    def basis_adjusted(self):
        return left_of(self.run, self.key)

    foreign_tax = part_line("foreign_tax", "21", "21", "Foreign taxes paid or accrued")

    # Item K: by kinds of liabilities, at the end of the year

    def _owed(self, amount, weights):
        return part_of(self.rounding(amount), self.run.once(weights), self.place) if amount else total(ZERO)

    @line("K1", "Nonrecourse liabilities, end of year", cites="26 CFR 1.752-3", closes=NONRECOURSE)
    def nonrecourse(self):
        return self._owed(self.run.single("about").nonrecourse, _profit_at_end)

    @line("K2", "Qualified nonrecourse financing, end of year", cites="IRC 465(b)(6)", closes=QUALIFIED)
    def qualified(self):
        return self._owed(self.run.single("about").qualified, _profit_at_end)

    @line("K3", "Recourse liabilities, end of year", cites="26 CFR 1.752-2", closes=RECOURSE)
    def recourse(self):
        """Borne by general partners by their losses; where there are none, by all."""
        return self._owed(self.run.form("us.sch-l").recourse_owed, _losses_borne)

    # Item N: property contributed with built-in gain or loss

    @line("N1", "Net unrecognized section 704(c) gain or (loss), beginning", cites="IRC 704(c)")
    def built_in_before(self):
        return self._of("built_in_before")

    @line("N2", "Net unrecognized section 704(c) gain or (loss), ending", cites="IRC 704(c)", closes=BUILT_IN)
    def built_in_after(self):
        return self._of("built_in_after")

    # Item L: capital on the tax basis

    @line("L1", "Capital account at the beginning of the year")
    def capital_before(self):
        return self._of("capital_before")

    @line("L2", "Capital contributed during the year", cites="IRC 722, 723")
    def contributed(self):
        return total(self.partner.contributed, self.partner.contributed_property)

    @line("L3", "Current year net income (loss)", cites="IRC 705(a)")
    def net(self):
        """All of the share, with what is exempt and what is not deducted; without what is guaranteed."""
        return total([getattr(self, name) for name in _NET], less=[getattr(self, name) for name in _LESS])

    @line("L4", "Other increase (decrease)")
    def capital_other(self):
        return self._of("capital_other")

    @line("L5", "Withdrawals and distributions")
    def withdrawn(self):
        return total(self.distributed, self.distributed_property)

    @line("L6", "Capital account at the end of the year", weight="total", closes=PARTNER_CAPITAL)
    def capital(self):
        return total(self.capital_before, self.contributed, self.net, self.capital_other, less=self.withdrawn)

    @fact("Share of net income, analysis line 1")
    def analysed(self):
        """Lines 1 through 11, less lines 12 through 13 and 21, with what is guaranteed."""
        plus = (
            "ordinary",
            "rental",
            "guaranteed",
            "interest",
            "dividends",
            "royalties",
            "short_gain",
            "long_gain",
            "section_1231",
            "adjusted_up",
        )
        less = ("section_179", "contributions", "investment_interest", "portfolio_costs", "adjusted_down", "foreign_tax")
        return total([getattr(self, name) for name in plus], less=[getattr(self, name) for name in less])

    @fact("Change of the share of liabilities", cites="IRC 752(a), (b)")
    def owed_more(self):
        before = [getattr(self.partner, name) for name in ("nonrecourse_before", "qualified_before", "recourse_before")]
        return total(self.nonrecourse, self.qualified, self.recourse, less=before)
