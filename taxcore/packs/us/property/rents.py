"""Schedule E, part I, property by property, and Form 8582: losses that wait for income or for the end. IRC 61(a)(5), 469."""

from dataclasses import dataclass
from decimal import Decimal

from taxcore.engine import excess, fact, least, line, linked, nothing_because, pro_rata, share, total, whole
from taxcore.packs.us.balances import HOME_LET_COSTS, HOME_LET_DEPRECIATION, PASSIVE_LOSS
from taxcore.packs.us.base import FederalForm, from_paper
from taxcore.packs.us.federal.passive_trades import is_passive
from taxcore.packs.us.federal.trades import TRADES, trades
from taxcore.packs.us.papers.shares import KINDS as SHARES
from taxcore.packs.us.property.assets import added_back

ZERO, _HALF = Decimal(0), Decimal("0.5")
OWN_BUSINESS = "7"
_INCOME_NOT_PASSIVE = ("5", OWN_BUSINESS)  # land, and rentals to one's own business
_EXPENSES = ("advertising", "auto", "cleaning", "commissions", "insurance", "legal", "management", "mortgage_interest",
             "other_interest", "repairs", "supplies", "taxes", "utilities", "depreciation", "others")  # fmt: skip

# Of a home that is also let: what comes before the limit, and what it limits, in the order of the form
_FIRST = ("advertising", "auto", "commissions", "legal", "management", "mortgage_interest", "taxes")
_OPERATING = ("cleaning", "insurance", "other_interest", "repairs", "supplies", "utilities", "others")


def _by_days(number, name, label):
    """A line of a cost that is divided by days where it is entered for all uses."""

    @line(number, label)
    def read(form):
        return form.divided(getattr(form.paper, name))

    return read


def _operating(number, name, label):
    """The same of a cost that the rents of a home limit."""

    @line(number, label)
    def read(form):
        return form.within(name, form.divided(getattr(form.paper, name)))

    return read


class RentalIncome(FederalForm):
    """One property's column of Schedule E. IRC 61(a)(5), (6), 212."""

    number, name, per = "Schedule E part I", "Income or loss from rents and royalties", "rental"

    @property
    def paper(self):
        return self.run.by_key(("rental",), self.key)

    def _statements(self):
        return [paper for paper in self.papers("1099-misc") if paper.rental == self.key]

    @line("3", "Rents received")
    def rents(self):
        """With excess depreciation of vehicles: IRC 280F(b)(2)."""
        return total(self.paper.rents, [paper.rents for paper in self._statements()], added_back(self.run, self.key))

    @line("4", "Royalties received")
    def royalties(self):
        return total(self.paper.royalties, [paper.royalties for paper in self._statements()])

    advertising = from_paper("5", "advertising", "Advertising")
    auto = from_paper("6", "auto", "Auto and travel")
    cleaning = _operating("7", "cleaning", "Cleaning and maintenance")
    commissions = from_paper("8", "commissions", "Commissions")
    insurance = _operating("9", "insurance", "Insurance")
    legal = from_paper("10", "legal", "Legal and other professional fees")
    management = from_paper("11", "management", "Management fees")
    mortgage_interest = _by_days("12", "mortgage_interest", "Mortgage interest paid to banks")
    other_interest = _operating("13", "other_interest", "Other interest")
    repairs = _operating("14", "repairs", "Repairs")
    supplies = _operating("15", "supplies", "Supplies")
    taxes = _by_days("16", "taxes", "Taxes")
    utilities = _operating("17", "utilities", "Utilities")

    @line("18", "Depreciation expense")
    def depreciation(self):
        """Of a home that is also let with what waited, up to what the rents leave."""
        if not self.paper.is_home:
            return total(self.run.form("us.4562", self.key).together)
        return least(self._depreciation_in_all(), excess(self.room, over=[getattr(self, name) for name in _OPERATING]))

    def _depreciation_in_all(self):
        return total(self.run.form("us.4562", self.key).together, self.paper.home_depreciation_before)

    @line("19", "Other expenses")
    def others(self):
        amount = total(self.divided([row.amount for row in self.paper.others]), self.run.form("us.4562", self.key).amortized)
        return self.within("others", total(amount, self.paper.operating_before) if self.paper.is_home else amount)

    def divided(self, amount):
        """The rental's part of a cost, by days."""
        let, own = self.paper.rented_days or 0, self.paper.personal_days or 0
        return pro_rata(total(amount), let, let + own) if self.paper.is_divided else total(amount)

    @fact("Rent left after interest, taxes and direct expenses", cites="IRC 280A(c)(5)")
    def room(self):
        """What other costs of a home that is also let may take, and then depreciation."""
        if not self.paper.is_home:
            return nothing_because("it is no home of its owner")
        return excess(total(self.rents, self.royalties), over=[getattr(self, name) for name in _FIRST])

    def within(self, name, amount):
        """Costs of a home that is also let take what the rents leave, in the order of the form."""
        if not self.paper.is_home:
            return total(amount)
        before = [getattr(self, one) for one in _OPERATING[: _OPERATING.index(name)]]
        return least(total(amount), excess(self.room, over=before))

    @fact("Vacation home expenses carryover", closes=HOME_LET_COSTS, cites="IRC 280A(c)(5)")
    def costs_left(self):
        if not self.paper.is_home:
            return nothing_because("it is no home of its owner")
        paper = self.paper
        every = [whole(self.divided(getattr(paper, name))) for name in _OPERATING if name != "others"]
        others = total(self.divided([row.amount for row in paper.others]), self.run.form("us.4562", self.key).amortized)
        wanted = total(every, whole(total(others, paper.operating_before)))
        return excess(wanted, over=[getattr(self, name) for name in _OPERATING])

    @fact("Vacation home depreciation carryover", closes=HOME_LET_DEPRECIATION, cites="IRC 280A(c)(5)")
    def depreciation_left(self):
        if not self.paper.is_home:
            return nothing_because("it is no home of its owner")
        return excess(self._depreciation_in_all(), over=self.depreciation)

    @line("20", "Total expenses", weight="total")
    def expenses(self):
        return total([getattr(self, name) for name in _EXPENSES])

    @line("21", "Income or (loss)", weight="total")
    def net(self):
        return total(self.rents, self.royalties, less=self.expenses)

    @fact("Passive")
    def is_passive(self):
        """Not royalties, rents of a professional who takes part, or a home: IRC 469(c)(7), (e)(1), (j)(10)."""
        return not self.paper.is_royalties and not self.paper.professional and not self.paper.is_home

    @fact("Gains and losses of what was sold")
    def sold(self):
        return self.run.form("us.4797").of_activity(self.key) if not self.run.is_idle("us.4797") else total(ZERO)

    @fact("Income or loss with gains of what was sold")
    def counted(self):
        return total(self.net, self.sold)

    @fact("Income or loss for Form 8582", cites="26 CFR 1.469-2(f)(6), 1.469-2T(f)(3)")
    def passive_counted(self):
        """Income of a rental to one's own business, or of land, is not passive; of it counts what its own earlier losses take."""
        if self.paper.property_kind in _INCOME_NOT_PASSIVE and self.counted > 0:
            return least(self.counted, self.paper.passive_before)
        return total(self.counted)

    @fact("Loss with that of earlier years, above the income")
    def overall_loss(self):
        return excess(total(self.paper.passive_before, less=self.counted), over=ZERO)

    @fact("Ends with all its losses", cites="IRC 469(g)(1)(A)")
    def is_released(self):
        """Disposed of entirely, with an overall loss: nothing of it waits."""
        return self.is_passive and bool(self.paper.disposed) and self.overall_loss > 0

    @line("22", "Deductible rental real estate loss", cites="IRC 469")
    def deductible(self):
        """Of this year's loss and those before, what Form 8582 allows."""
        if not self.is_passive:
            return excess(ZERO, over=self.net)
        return excess(total(excess(ZERO, over=self.net), self.paper.passive_before), over=self.waits)

    @fact("Loss not allowed this year", closes=PASSIVE_LOSS, cites="IRC 469(b)")
    def waits(self):
        if not self.is_passive:
            return nothing_because("it is no passive activity")
        if self.is_released:
            return nothing_because("the property was disposed of entirely")
        return total(self.run.form("us.8582").waiting(self.key))


@dataclass(frozen=True)
class Activity:
    """One passive activity: its income or loss of the year, what waited, whether the allowance may be for it."""

    key: str
    counted: Decimal
    before: Decimal
    active: bool

    @property
    def overall_loss(self):
        return max(self.before - self.counted, ZERO)


class PassiveLosses(FederalForm):
    """Form 8582: the allowance of 25,000 for rental real estate, and what no passive income takes. IRC 469."""

    number, name = "8582", "Passive activity loss limitations"
    needs = ("rental", *TRADES, *SHARES)
    income, adjusting = linked("us.1040"), linked("us.sch-1")

    def required(self):
        return self.together < 0

    def _every(self, active):
        return [one for one in self.activities() if one.active == active]

    def activities(self):
        """Everything passive: properties, and of each share its rental real estate and the rest, to which losses of before belong
        where there is no rental."""
        found = [
            Activity(one.key, one.passive_counted, one.paper.passive_before, bool(one.paper.active))
            for one in self.every("us.sch-e-part-i") if one.is_passive and not one.is_released
        ]  # fmt: skip
        for one in self.every("us.passive-trade"):
            if (one.result or one.before) and not one.is_released:
                found.append(Activity(one.key, one.result, one.before, active=False))
        for one in self.every("us.share"):
            if one.is_apart or one.is_released:
                continue
            with_rental = bool(one.rental)
            parts = (
                ("rental", one.rental_counted, one.before if with_rental else ZERO),
                ("other", one.other_counted, ZERO if with_rental else one.before),
            )
            for name, amount, before in parts:
                if amount or before:
                    found.append(Activity(f"{one.key}/{name}", amount, before, name == "rental" and bool(one.paper.active)))
        return found

    def _income(self, active):
        return total([excess(one.counted, over=ZERO) for one in self._every(active)])

    def _loss(self, active):
        return total([excess(ZERO, over=one.counted) for one in self._every(active)])

    def _before(self, active):
        return total([one.before for one in self._every(active)])

    @line("1a", "Rental real estate, active participation: net income")
    def active_income(self):
        return self._income(True)

    @line("1b", "Rental real estate, active participation: net loss")
    def active_loss(self):
        return self._loss(True)

    @line("1c", "Rental real estate, active participation: unallowed losses of earlier years")
    def active_before(self):
        return self._before(True)

    @line("1d", "Lines 1a, 1b and 1c combined")
    def active(self):
        return total(self.active_income, less=[self.active_loss, self.active_before])

    @line("2a", "All other passive activities: net income")
    def other_income(self):
        return self._income(False)

    @line("2b", "All other passive activities: net loss")
    def other_loss(self):
        return self._loss(False)

    @line("2c", "All other passive activities: unallowed losses of earlier years")
    def other_before(self):
        return self._before(False)

    @line("2d", "Lines 2a, 2b and 2c combined")
    def other(self):
        return total(self.other_income, less=[self.other_loss, self.other_before])

    @line("3", "All passive activities", weight="total")
    def together(self):
        return total(self.active, self.other)

    @line("4", "Smaller of the losses on lines 1d and 3")
    def smaller(self):
        return least(excess(ZERO, over=self.active), excess(ZERO, over=self.together))

    @line("5", "Upper income limit of the special allowance")
    def ends(self):
        ends = self.law.passive_losses.ends
        return share(_HALF, of=ends) if self.income.status == "separate" else total(ends)

    @line("6", "Modified adjusted gross income", cites="IRC 469(i)(3)(F)")
    def modified(self):
        """Without passive losses, taxable benefits, deductions for IRAs, half of self-employment tax and student loans."""
        one, more = self.income, self.adjusting
        gains = (one.wages, one.taxable_interest, one.dividends, one.ira_taxable, one.pension_taxable, one.capital_gain)
        others = (
            more.state_refunds,
            more.alimony,
            more.other_gains,
            more.unemployment,
            more.other_without_excess,
        )
        own = [one.profit for one in trades(self.run) if not is_passive(one.books)]
        idle = [excess(one.result, over=ZERO) for one in self.every("us.passive-trade")]
        found = total(gains, others, self.run.form("us.sch-e").not_passive, own, idle)
        let = [one.sold for one in self.every("us.sch-e-part-i") if one.is_passive]  # gains that passive losses take
        shares = [one.sold for one in self.every("us.share")]
        return excess(total(found, less=[let, shares]), over=[excess(more.without_ira, over=more.half_self_employment)])

    @line("7", "Line 5 less line 6")
    def room(self):
        return excess(self.ends, over=self.modified)

    @line("8", "Half of it, up to 25,000")
    def half(self):
        """Of spouses who file separately 12,500; where they lived together at any time nothing: IRC 469(i)(5)."""
        law, separate = self.law.passive_losses, self.income.status == "separate"
        if separate and not self.paper("filing").lived_apart:
            return nothing_because("spouses who file separately and lived together have no allowance")
        most = share(_HALF, of=law.allowance) if separate else law.allowance
        return least(share(_HALF, of=self.room), most)

    @line("9", "Special allowance", weight="total", cites="IRC 469(i)")
    def allowance(self):
        return least(self.smaller, self.half)

    @line("10", "Income of passive activities")
    def all_income(self):
        return total(self.active_income, self.other_income)

    @line("11", "Losses allowed this year", weight="total")
    def allowed(self):
        losses = total(self.active_loss, self.active_before, self.other_loss, self.other_before)
        return least(losses, total(self.allowance, self.all_income))

    @fact("Losses that wait")
    def unallowed(self):
        losses = total(self.active_loss, self.active_before, self.other_loss, self.other_before)
        return excess(losses, over=self.allowed)

    def waiting(self, key):
        """What of one property's losses waits: the allowance goes to those with active participation by their overall losses,
        what is not allowed to all by what is left of theirs. Whole dollars, which together are line 3 less the allowance."""
        return self.run.once(_divided).get(key, ZERO)


def _divided(run):
    form = run.form("us.8582")
    every = [one for one in form.activities() if one.overall_loss > 0]
    losses = {one.key: one.overall_loss for one in every}
    active = sum((losses[one.key] for one in every if one.active), ZERO)
    left = {
        one.key: losses[one.key] - (form.allowance * losses[one.key] / active if one.active and active else ZERO) for one in every
    }
    whole_of, found, before, given = sum(left.values(), ZERO), {}, ZERO, ZERO
    for one in every:
        before += left[one.key]
        upto = whole(form.unallowed * before / whole_of) if whole_of else ZERO
        found[one.key], given = upto - given, upto
    return found


FORMS = (RentalIncome, PassiveLosses)
