"""Installment sales, Form 6252: gain in the proportion in which the price is paid. IRC 453; 26 CFR 15A.453-1."""

from decimal import Decimal

from taxcore.engine import Amount, Choice, Day, Flag, Refer, Text, excess, fact, least, line, nothing_because, ratio, share, total
from taxcore.packs.us.balances import INSTALLMENT_1250, INSTALLMENT_PAID, INSTALLMENT_RATE
from taxcore.packs.us.base import FederalForm, FederalPaper, from_paper
from taxcore.packs.us.property.lives import is_held_longer

ZERO = Decimal(0)
SORTS = {"capital": "Investment", "trade": "Trade or business", "rental": "Rental property"}


class Installment(FederalPaper):
    """One sale whose price is paid over years. After the first the percentage and the payments are all that is needed."""

    kind, name, official, group = "installment", "Installment sale", "Form 6252", "property"
    again, owned = True, False
    short, heading, main = "Installment sale", "description", "received"

    description = Text("1", "Description of property", longest=60, wide=True, needed="Line 1 asks for it.", kept=True)
    sort = Choice(None, "Kind", SORTS, needed="What kind of gain it is depends on it.", kept=True)
    acquired = Day("2a", "Date acquired", needed="Line 2a asks for it.", kept=True)
    sold = Day("2b", "Date sold", needed="Line 2b asks for it.", kept=True)
    asset = Refer(None, "Asset of this return", ("asset",), optional=True, help="In the year of the sale: its figures are used.")
    related = Flag("3", "Sold to a related party", cites="IRC 453(e), (g)", needed="Line 3 asks for it.", kept=True)

    price = Amount("5", "Selling price", begins="Year of the sale")
    assumed = Amount("6", "Mortgages and debts the buyer assumed")
    basis = Amount("8", "Cost or other basis")
    written_off = Amount("9", "Depreciation allowed or allowable")
    costs = Amount("11", "Commissions and other expenses of sale")
    recapture = Amount("12", "Income recapture, Form 4797, part III", cites="IRC 453(i)")
    home = Amount("15", "Excluded gain of a main home", cites="IRC 121")
    property_gain = Amount(
        None, "Unrecaptured section 1250 gain not taxed yet", cites="26 CFR 1.453-12", opens=INSTALLMENT_1250,
        help="In the year of the sale all of it.",
    )  # fmt: skip

    received = Amount("21", "Payments received this year, without interest", begins="Each year")
    before = Amount("23", "Payments received in earlier years", opens=INSTALLMENT_PAID)
    percentage = Amount("19", "Gross profit percentage of earlier years", opens=INSTALLMENT_RATE,
                        help="As a decimal. In the year of the sale it is worked out.")  # fmt: skip

    @property
    def sale(self):
        """Its asset's figures, in the year of the sale; else None."""
        if not self.asset or self.run.by_key(("asset",), self.asset) is None:
            return None
        form = self.run.form("us.sale-of-property", self.asset)
        return form if form.is_there else None

    def _of_sale(self, name):
        return getattr(self.sale, name) if self.sale is not None else None

    @price.when_empty
    def _price(self):
        return self._of_sale("price")

    @basis.when_empty
    def _basis(self):
        return self._of_sale("cost")

    @written_off.when_empty
    def _written_off(self):
        return self._of_sale("depreciation")

    @recapture.when_empty
    def _recapture(self):
        return total(self.sale.ordinary, self.sale.additional_gain) if self.sale is not None else None

    @property_gain.when_empty
    def _property_gain(self):
        return self._of_sale("unrecaptured_in_all")

    def comes_again(self):
        """While more of the price is to come: of later years nobody knows, so it comes until it is removed."""
        form = self.run.form("us.6252", self.key)
        return form.owed_still > 0 or not form.is_first


class InstallmentSale(FederalForm):
    """Installment sale income of one sale. IRC 453(a) to (c), (i)."""

    number, name, per = "6252", "Installment sale income", "installment"

    @property
    def paper(self):
        return self.run.by_key(("installment",), self.key)

    def required(self):
        return self.paper.received > 0 or self.is_first

    @property
    def is_first(self):
        """The year of the sale."""
        return self.paper.sold is not None and self.paper.sold.year == self.year

    @property
    def is_long(self):
        """Held for more than a year. IRC 1222."""
        first, sold = self.paper.acquired, self.paper.sold
        return first is not None and sold is not None and is_held_longer(first, sold)

    price = from_paper("5", "price", "Selling price")
    assumed = from_paper("6", "assumed", "Mortgages, debts and other liabilities assumed")

    @line("7", "Selling price less liabilities")
    def without_debts(self):
        return excess(self.price, over=self.assumed)

    basis = from_paper("8", "basis", "Cost or other basis of property sold")
    written_off = from_paper("9", "written_off", "Depreciation allowed or allowable")

    @line("10", "Adjusted basis")
    def adjusted(self):
        return excess(self.basis, over=self.written_off)

    costs = from_paper("11", "costs", "Commissions and other expenses of sale")
    recapture = from_paper("12", "recapture", "Income recapture from Form 4797, part III")

    @line("13", "Basis, expenses and recapture")
    def together(self):
        return total(self.adjusted, self.costs, self.recapture)

    @line("14", "Selling price less line 13")
    def above(self):
        return excess(self.price, over=self.together)

    home = from_paper("15", "home", "Excluded gain of a main home")

    @line("16", "Gross profit", weight="total")
    def gross_profit(self):
        return excess(self.above, over=self.home)

    @line("17", "Liabilities above basis, expenses and recapture")
    def debts_above(self):
        return excess(self.assumed, over=self.together)

    @line("18", "Contract price")
    def contract_price(self):
        return total(self.without_debts, self.debts_above)

    @line("19", "Gross profit percentage", rounding=None, closes=INSTALLMENT_RATE)
    def percentage(self):
        """Four decimal places; of the year of the sale, and then for good."""
        if not self.is_first:
            return total(self.paper.percentage)
        if self.contract_price <= 0:
            return nothing_because("nothing is paid for it")
        return ratio(self.gross_profit, over=self.contract_price, places=4)

    @line("20", "Line 17, in the year of sale")
    def deemed(self):
        return total(self.debts_above if self.is_first else ZERO)

    received = from_paper("21", "received", "Payments received during the year")

    @line("22", "Payments of this year")
    def payments(self):
        return total(self.deemed, self.received)

    @line("23", "Payments received in earlier years")
    def before(self):
        return total(self.paper.before)

    @line("24", "Installment sale income", weight="total")
    def income(self):
        return share(self.percentage, of=self.payments)

    @line("26", "Gain after recapture")
    def gain(self):
        return total(self.income)

    @fact("Unrecaptured section 1250 gain", cites="26 CFR 1.453-12(a)")
    def unrecaptured(self):
        """It is taxed before the rest of the gain."""
        if not self.is_long:
            return nothing_because("it was held for a year or less")
        return least(self.income, self.paper.property_gain)

    @fact("Unrecaptured section 1250 gain not taxed yet", closes=INSTALLMENT_1250)
    def unrecaptured_left(self):
        return excess(self.paper.property_gain, over=self.unrecaptured)

    @fact("Payments to the end of the year", closes=INSTALLMENT_PAID)
    def paid(self):
        return total(self.before, self.payments)

    @fact("Still to be paid")
    def owed_still(self):
        """Of a sale of this year."""
        return excess(self.contract_price, over=self.paid)


def gains(run, *, long, capital):
    """Installment gains of investments, or of property of trades and rentals, by how long it was held."""
    return [
        one.gain for one in run.every("us.6252")
        if one.is_long == long and (one.paper.sort == "capital") == capital
    ]  # fmt: skip
