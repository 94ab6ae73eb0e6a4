"""What Illinois' forms for entities have alike: additions and subtractions, apportionment, losses that wait."""

from decimal import Decimal

from taxcore.engine import Form, excess, fact, least, line, linked, nothing_because, ratio, share, total, whole
from taxcore.packs.us.carried import as_rows, by_year, left_over
from taxcore.packs.us.entity.base import part_of
from taxcore.packs.us.entity.books import credit_of
from taxcore.packs.us.entity.receipts import does_business_in, is_divided, receipts_of
from taxcore.packs.us.states.base import folder
from taxcore.packs.us.states.depreciation import OwnDepreciation as OfAnyState
from taxcore.packs.us.states.il.entities.papers import CREDITED, LOSS


def files_here(run):
    return bool(run.has_law(folder("IL"))) and does_business_in(run, "IL")


class IllinoisEntity(Form):
    """A form of Illinois for an entity: whole dollars."""

    jurisdiction = "us-il"
    rounding = staticmethod(whole)

    @classmethod
    def idle(cls, run):
        return not files_here(run)

    @property
    def rates(self):
        return self.law.entities

    @property
    def asked(self):
        return self.paper("il-entity")

    @property
    def page(self):
        return self.run.form(self.run.pack.authorities[0].form.code())

    @property
    def home(self):
        """The return of Illinois."""
        forms = [one.form for one in self.run.pack.authorities]
        return self.run.form(next(one.code() for one in forms if one.jurisdiction == self.jurisdiction))

    def own_depreciation(self):
        """What Illinois writes off less than the federal return, below zero where it is more."""
        return total([one.difference for one in self.every("us-il.own-depreciation")])


class OwnDepreciation(OfAnyState):
    """One asset without the federal special allowance. 35 ILCS 5/203(b)(2)(E-10), (T), (d)(2)(D-5), (O)."""

    jurisdiction = "us-il"
    name = "Illinois: depreciation without the special allowance"

    @classmethod
    def idle(cls, run):
        return not files_here(run)


class Modified(IllinoisEntity):
    """Base of the three returns: what differs from the federal one in all of them."""

    waiting = linked("us-il.loss")

    @fact("Federal depreciation above Illinois' own", rounding=whole)
    def depreciation_added(self):
        return excess(self.own_depreciation(), over=0)

    @fact("Illinois' own depreciation above the federal", rounding=whole)
    def depreciation_taken_off(self):
        return excess(0, over=self.own_depreciation())

    def exempt(self):
        return credit_of(self.run, "exempt_interest", tax=False)


def allocated(base, first):
    """A return with the step that all three have alike: income that is Illinois', from line `first`. 35 ILCS 5/304(a), (h)(3).
    `base` is the return up to `base_income`."""

    class Allocated(base):
        @line(str(first), "Nonbusiness income or loss")
        def nonbusiness(self):
            return nothing_because("all income is business income")

        @line(str(first + 1), "Business income or loss from other entities")
        def from_others(self):
            return nothing_because("there is none")

        @line(str(first + 2), "Lines above")
        def apart(self):
            return total(self.nonbusiness, self.from_others)

        @line(str(first + 3), "Business income or loss")
        def business_income(self):
            return total(self.base_income, less=self.apart)

        @line(str(first + 4), "Sales everywhere", cites="35 ILCS 5/304(a)(3)")
        def sales(self):
            if is_divided(self.run):
                return total([row.amount for row in self.paper("receipts").rows])
            return total(self.page.net_receipts)

        @line(str(first + 5), "Sales in Illinois", cites="35 ILCS 5/304(a)(3)")
        def sales_here(self):
            return total(receipts_of(self.run, "IL")) if is_divided(self.run) else total(self.sales)

        @line(str(first + 6), "Apportionment factor", cites="35 ILCS 5/304(h)(3)", rounding=None)
        def factor(self):
            """Six places; one where all of it is Illinois'."""
            return ratio(self.sales_here, over=self.sales, places=6) if is_divided(self.run) else total(1)

        @line(str(first + 7), "Business income or loss apportionable to Illinois")
        def apportioned(self):
            return share(Decimal(self.factor), of=self.business_income)

        @line(str(first + 8), "Nonbusiness income or loss allocable to Illinois")
        def nonbusiness_here(self):
            return total(self.nonbusiness)

        @line(str(first + 9), "Business income or loss from other entities apportionable to Illinois")
        def from_others_here(self):
            return total(self.from_others)

        @line(str(first + 10), "Base income or loss allocable to Illinois", weight="total")
        def allocable(self):
            return total(self.apportioned, self.nonbusiness_here, self.from_others_here)

    return Allocated


def after_losses(base, first):
    """The next step: what losses of earlier years leave, from line `first`. 35 ILCS 5/207."""

    class AfterLosses(base):
        @line(str(first), "Base income or net loss")
        def base_here(self):
            return total(self.allocable)

        @line(str(first + 1), "Discharge of indebtedness adjustment")
        def discharge(self):
            return nothing_because("debt that is canceled stops the federal return")

        @line(str(first + 2), "Adjusted base income or net loss")
        def adjusted(self):
            return total(self.base_here, less=self.discharge)

        @line(str(first + 3), "Illinois net loss deduction", cites="35 ILCS 5/207")
        def loss_deduction(self):
            return least(self.waiting.before, self.loss_limit())

        def loss_limit(self):
            """Nothing below zero."""
            return excess(self.adjusted, over=0)

        @line(str(first + 4), "Income after net loss deduction", weight="total")
        def after_losses(self):
            return total(self.adjusted, less=self.loss_deduction)

    return AfterLosses


class Losses(IllinoisEntity):
    """Our own worksheet: Illinois losses by year, what is used and what waits. 35 ILCS 5/207(a)."""

    number, name, worksheet = "Loss", "Illinois net losses", True

    def required(self):
        return bool(self.before or self.left)

    def earlier(self):
        """(year, amount) of twenty years."""
        return by_year(self.asked.losses, self.year - int(self.rates.loss_years), self.year)

    @line("1", "Losses of earlier years")
    def before(self):
        return total([amount for _, amount in self.earlier()])

    @line("2", "Used this year")
    def used(self):
        return total(self.home.loss_deduction)

    @line("3", "Carried to the next year", closes=LOSS, by_origin="left_by_year")
    def left(self):
        return total([Decimal(row["amount"]) for row in self.left_by_year()])

    def left_by_year(self):
        """The oldest are used first; a loss of this year is new."""
        left = left_over(self.earlier(), self.home.loss_deduction)
        kept = [one for one in left if one[0] > self.year - int(self.rates.loss_years)]
        return as_rows([*kept, (self.year, excess(0, over=self.home.adjusted))])


class Extension(IllinoisEntity):
    """More time from Illinois comes by itself; a payment goes with Form IL-505-B. 35 ILCS 5/505."""

    number, name, worksheet = "Extension", "Illinois: extension", True

    def required(self):
        return False

    def _rows(self):
        return [row for row in self.paper("state-extensions").rows if row.state == "IL"]

    @fact("Estimate of total tax", rounding=whole)
    def expected(self):
        keyed = [row.expected_tax for row in self._rows() if row.is_keyed("expected_tax")]
        return total(keyed) if keyed else total(self.home.total_tax)

    @fact("Total payments", rounding=whole)
    def paid(self):
        return excess(self.home.payments, over=self.asked.with_extension)

    @fact("Balance", rounding=whole)
    def balance(self):
        return excess(self.expected, over=self.paid)

    @fact("Amount paid with extension", rounding=whole)
    def paying(self):
        return total([row.paying for row in self._rows()])


def settled(base, numbers, due):
    """The last lines of a return: taxes `due(form)`, what was paid, overpaid, credited, refunded, owed, by their `numbers`."""
    together, paid, over, kept, back, left = numbers

    class Settled(base):
        @line(together, "Taxes and withholding", weight="total")
        def total_tax(self):
            return total(due(self))

        @line(paid, "Payments", weight="total")
        def payments(self):
            asked = self.asked
            return total(asked.credited_before, asked.estimates, asked.with_extension, asked.withheld)

        @line(over, "Overpayment")
        def overpaid(self):
            return excess(self.payments, over=self.total_tax)

        @line(kept, "Credited to next year", closes=CREDITED)
        def credited(self):
            return least(self.asked.credited, self.overpaid)

        @line(back, "Refund", weight="total")
        def refund(self):
            return excess(self.overpaid, over=self.credited)

        @line(left, "Amount owed", weight="total")
        def owed(self):
            return excess(self.total_tax, over=self.payments)

    return Settled


def shared(form, amount):
    """One owner's part of an amount by the federal division of ordinary income."""
    return part_of(amount, form.federal_share.weights("1", amount), form.federal_share.place) if amount else total(0)
